/** Numbers as they are read: one decimal at most, a real minus sign, the unit behind. */
import type { Unit } from "../api/types";

const SUFFIX: Record<Unit, string> = {
  mm: " mm",
  deg: "°",
  kg: " kg",
  w: " W",
  rpm: " rpm",
  n: " N",
  percent: " %",
  hours: " h",
  size: "",
};

/** What lengths and masses are shown in: chosen once per studio, before anything is drawn. */
interface Shown {
  suffix: string;
  /** Millimetres or kilograms in one of it. */
  holds: number;
  /** Decimals at the most. */
  decimals: number;
}
const PLAIN: Record<"mm" | "kg", Shown> = {
  mm: { suffix: " mm", holds: 1, decimals: 1 },
  kg: { suffix: " kg", holds: 1, decimals: 1 },
};
let shownIn = PLAIN;

const of = (unit: Unit | undefined): Shown | undefined => (unit === "mm" || unit === "kg" ? shownIn[unit] : undefined);

/** Shows lengths and masses in other units from here on. */
export function showIn(length: { label: string; holds: number }, mass: { label: string; holds: number }): void {
  // An inch is coarse: a second decimal is a quarter of a millimetre.
  const decimals = length.holds > 20 ? 2 : 1;
  shownIn = {
    mm: { suffix: ` ${length.label}`, holds: length.holds, decimals },
    kg: { suffix: ` ${mass.label}`, holds: mass.holds, decimals: 1 },
  };
}

export const suffix = (unit: Unit): string => of(unit)?.suffix ?? SUFFIX[unit];

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
