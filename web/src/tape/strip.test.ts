import { describe, expect, it } from "vitest";
import type { TrialView } from "../api/types";
import { strip } from "./strip";

const trials = (...bolts: string[]) =>
  bolts.map(
    (quantity, index) =>
      ({ trial: { id: `t${index + 1}`, number: index + 1, changes: [{ quantity, by: 1 }] } }) as unknown as TrialView,
  );
const shown = (all: TrialView[], open: string[] = []) =>
  strip(all, new Set(open)).stops.map((stop) =>
    stop.kind === "trial" ? stop.trial.trial.number : `+${stop.folded.length}`,
  );

describe("the strip of trials", () => {
  it("stands trials of other bolts side by side", () => {
    const laid = strip(trials("stem_mm", "setback_mm", "stem_mm"), new Set());
    expect(laid.runs).toEqual([]);
    expect(laid.stops.map((stop) => stop.x)).toEqual([272, 504, 736]);
  });
  it("joins a run of the same bolt and folds a long one", () => {
    const all = trials("stem_mm", ...Array<string>(6).fill("setback_mm"), "stem_mm");
    expect(shown(all)).toEqual([1, 2, "+4", 7, 8]);
    expect(shown(all, ["t2"])).toEqual([1, 2, 3, 4, 5, 6, 7, 8]);
    expect(strip(all, new Set()).runs).toMatchObject([{ key: "t2", count: 6, from: 504, to: 864 }]);
  });
  it("never stands one on another, however long the fit", () => {
    const all = trials(...Array.from({ length: 60 }, (_, i) => (i % 9 < 5 ? "setback_mm" : `bolt${i}`)));
    const { stops, width } = strip(all, new Set(["t10"]));
    stops.slice(1).forEach((stop, i) => expect(stop.x).toBe((stops[i]?.x ?? 0) + (stops[i]?.width ?? 0)));
    expect(width).toBeGreaterThan((stops.at(-1)?.x ?? 0) + 100);
  });
});
