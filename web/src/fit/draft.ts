/** What is being typed: the changes asked for, texts not committed, the rider's words. */
import type { Change, Quantity, Side } from "../api/types";
import { type Field, sameSpot } from "./fields";

export interface Draft {
  /** What is asked of the bike, as foresight takes it. */
  changes: Change[];
  /** Texts not committed yet, by field. */
  texts: Record<string, string>;
  /** The rider's words on the trial on the bench. */
  words: string;
}

export const EMPTY: Draft = { changes: [], texts: {}, words: "" };

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/** A draft as it was kept, also by a Wedge that kept numbers by field; nothing for what is none. */
export function draftOf(kept: unknown): Draft | undefined {
  if (!isRecord(kept) || !isRecord(kept["texts"]) || typeof kept["words"] !== "string") return undefined;
  const { texts, words } = kept as { texts: Record<string, string>; words: string };
  if (Array.isArray(kept["changes"])) return { changes: kept["changes"] as Change[], texts, words };
  if (!isRecord(kept["targets"])) return undefined;
  const changes = Object.entries(kept["targets"]).flatMap(([key, to]): Change[] => {
    const [quantity, side] = key.split(".");
    return typeof to === "number" ? [{ quantity: quantity as Quantity, side: (side ?? null) as Side | null, to }] : [];
  });
  return { changes, texts, words };
}

const OTHER = { left: "right", right: "left" } as const;

/** The changes with a field stepped to a number: what was asked of the same bolt before gives way, in its place. */
export function asking(changes: Change[], field: Field, to: number): Change[] {
  const next: Change = { quantity: field.quantity, side: field.side ?? null, to };
  const left = changes.flatMap((change): Change[] => {
    if (!sameSpot(change, field)) return [change];
    // Asked of both sides, it stays asked of the other one.
    return field.side && change.side == null ? [next, { ...change, side: OTHER[field.side] }] : [next];
  });
  const first = left.indexOf(next);
  return first < 0 ? [...changes, next] : left.filter((change, at) => change !== next || at === first);
}

/**
 * Changes of one side's part, put beside what is asked of the same part on the other side: both move in one trial, and what
 * each of them asks of the whole bike is asked together. Anything else gives way.
 */
export function besideTheOther(before: Change[], wanted: Change[]): Change[] {
  const mate = (change: Change) =>
    wanted.some(
      (w) => w.quantity === change.quantity && w.side != null && change.side != null && w.side !== change.side,
    );
  const again = (change: Change) => wanted.some((w) => w.quantity === change.quantity && w.side === change.side);
  if (!before.some((change) => mate(change) && !again(change))) return wanted;
  const of = (change: Change) => before.find((b) => b.quantity === change.quantity && (b.side ?? null) === null);
  const summed = wanted.map((change): Change => {
    const other = change.side == null ? of(change) : undefined;
    return change.by != null && other?.by != null ? { ...change, by: change.by + other.by } : change;
  });
  const kept = before.filter((change) => change.side != null && mate(change));
  return [...kept, ...summed];
}

/** The texts without one. */
export const without = (texts: Record<string, string>, key: string) =>
  Object.fromEntries(Object.entries(texts).filter(([other]) => other !== key));
