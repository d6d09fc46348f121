import type { MoveView } from "../api/types";

/** What doing a move is called; one protocol waits at the most, and is gone on with before another begins. */
export function actOf(move: MoveView, here: string, waits: boolean): string | undefined {
  if (move.step) return "Foresee it";
  if (move.start) return waits ? "Go on with the one that waits" : "Begin it";
  if (move.station !== here) return "Go there";
  return undefined;
}
