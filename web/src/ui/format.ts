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

export const suffix = (unit: Unit): string => SUFFIX[unit];

export function number(value: number): string {
  const tenths = Math.round(value * 10) / 10;
  const text = Number.isInteger(tenths) ? tenths.toFixed(0) : tenths.toFixed(1);
  return (text === "-0" ? "0" : text).replace("-", "−");
}

/** A change with its sign. */
export function signed(value: number): string {
  const text = number(value);
  return text === "0" || text.startsWith("−") ? text : `+${text}`;
}

export const withUnit = (value: number, unit: Unit): string => number(value) + suffix(unit);

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
