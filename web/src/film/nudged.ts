import type { Ask, Pixel } from "./points";
import type { Placed } from "./useDraft";

/** Moves the picked point, or the last that was placed, by a pixel; with Shift by a fifth of one. */
export const nudged =
  (draft: Placed, picked: string | undefined, asked: Ask[], put: (key: string, at: Pixel) => void) =>
  (dx: number, dy: number) =>
  (event: KeyboardEvent) => {
    const key = picked ?? asked.findLast((ask) => draft.points[ask.key])?.key;
    const at = key && draft.points[key];
    if (!key || !at) return;
    const by = event.shiftKey ? 0.2 : 1;
    put(key, [Math.round((at[0] + dx * by) * 10) / 10, Math.round((at[1] + dy * by) * 10) / 10]);
  };
