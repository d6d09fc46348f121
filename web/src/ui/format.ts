/** Numbers as they are read: one decimal at most, a real minus sign, the unit behind. */
import type { Unit } from "../api/types";

/** How a unit is shown: chosen once per studio, before anything is drawn. */
interface Shown {
  suffix: string;
  /** How many of the unit it holds. */
  holds: number;
  /** Decimals at the most. */
  decimals: number;
}
let shownIn: Partial<Record<Unit, Shown>> = {};

const of = (unit: Unit | undefined): Shown | undefined => unit && shownIn[unit];

interface Chosen {
  label: string;
  holds: number;
}

/** Shows every unit with its suffix from here on, lengths and masses in the chosen ones. */
export function showIn(units: { unit: Unit; suffix: string }[], length: Chosen, mass: Chosen): void {
  shownIn = Object.fromEntries(units.map(({ unit, suffix }) => [unit, { suffix, holds: 1, decimals: 1 }]));
  // An inch is coarse: a second decimal is a quarter of a millimetre.
  shownIn.mm = { suffix: ` ${length.label}`, holds: length.holds, decimals: length.holds > 20 ? 2 : 1 };
  shownIn.kg = { suffix: ` ${mass.label}`, holds: mass.holds, decimals: 1 };
}

export const suffix = (unit: Unit): string => of(unit)?.suffix ?? "";

/** A value as it is shown, in its unit's own number. */
export const inShown = (value: number, unit: Unit): number => value / (of(unit)?.holds ?? 1);

/** What was typed as it is shown, back in the unit it is held in. */
export const fromShown = (shown: number, unit: Unit): number => shown * (of(unit)?.holds ?? 1);

/** A number; with a unit, in what that is shown in. */
export function number(value: number, unit?: Unit): string {
  const { holds, decimals } = of(unit) ?? { holds: 1, decimals: 1 };
  const by = 10 ** decimals;
  const rounded = Math.round((value / holds) * by) / by;
  const text = Number.isInteger(rounded) ? rounded.toFixed(0) : String(rounded);
  return (text === "-0" ? "0" : text).replace("-", "−");
}

/** A change with its sign. */
export function signed(value: number, unit?: Unit): string {
  const text = number(value, unit);
  return text === "0" || text.startsWith("−") ? text : `+${text}`;
}

export const withUnit = (value: number, unit: Unit): string => number(value, unit) + suffix(unit);

/** Round places on a scale, as it is shown, at most so many. */
export function ticks(low: number, high: number, unit: Unit, most: number): number[] {
  const [from, to] = [inShown(low, unit), inShown(high, unit)];
  const rough = (to - from) / most;
  if (!(rough > 0)) return [];
  const decade = 10 ** Math.floor(Math.log10(rough));
  const step = decade * ([1, 2, 5].find((by) => by * decade >= rough) ?? 10);
  const first = Math.ceil(from / step);
  return Array.from({ length: Math.floor(to / step) - first + 1 }, (_, index) =>
    fromShown((first + index) * step, unit),
  );
}

/** A number as typed, with a decimal comma or point and either minus; `undefined` when it is none. */
export function parse(text: string): number | undefined {
  const plain = text.trim().replace(",", ".").replace("−", "-");
  return /^[+-]?(\d+\.?\d*|\.\d+)$/.test(plain) ? Number(plain) : undefined;
}

/** Words as a sentence: with one stop, whoever wrote them. */
export const sentence = (words: string): string =>
  /[.!?…]["”]?$/.test(words.trim()) ? words.trim() : `${words.trim()}.`;

/** A label inside a sentence: small, but for names like BB. */
export const inSentence = (label: string): string =>
  /^[A-Z][a-z]/.test(label) ? label.charAt(0).toLowerCase() + label.slice(1) : label;

/** A plain date in the reader's locale. */
export function day(iso: string): string {
  const [year, month, date] = iso.split("-").map(Number);
  return new Date(year ?? 0, (month ?? 1) - 1, date ?? 1).toLocaleDateString(undefined, {
    day: "numeric",
    month: "short",
    year: "numeric",
  });
}

/** Today where the reader is, as a plain date. */
export function today(): string {
  const now = new Date();
  const two = (n: number) => String(n).padStart(2, "0");
  return `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`;
}
