import { describe, expect, it } from "vitest";
import { acrossOf, askedFrom, beginning, limbsFrom, withFound } from "./across";
import type { Pixel } from "./points";

describe("a clip from ahead or behind", () => {
  it("asks for what levels and scales it first, then for the right leg and the left", () => {
    const keys = askedFrom("ahead").map(({ key }) => key);
    expect(keys.slice(0, 6)).toEqual(["plumb_high", "plumb_low", "pedal_right", "pedal_left", "tyre", "right.toe"]);
    expect(keys).toHaveLength(11);
    expect(askedFrom("behind").map(({ key }) => key)).toContain("left.heel_upper");
    expect(limbsFrom("ahead")).toEqual([
      ["right.toe", "right.knee"],
      ["right.knee", "right.hip"],
      ["left.toe", "left.knee"],
      ["left.knee", "left.hip"],
    ]);
  });

  it("goes to the server once both pedals stand, with what is known alone", () => {
    expect(acrossOf("ahead", beginning)).toBeUndefined();
    const points: Record<string, Pixel> = {
      pedal_right: [500, 800],
      pedal_left: [760, 1100],
      "right.knee": [540, 600],
    };
    const shot = acrossOf("ahead", { ...beginning, points, distance: 2.8 });
    expect(shot).toEqual({
      from: "ahead",
      size: [1280, 720],
      pedals: [
        [500, 800],
        [760, 1100],
      ],
      distance_mm: 2800,
      marks: [{ side: "right", part: "knee", at: [540, 600], dot: false }],
    });
    const found = withFound({ ...beginning, points }, [{ side: "right", part: "knee", at: [541.2, 600.4], dot: true }]);
    expect(found.points["right.knee"]).toEqual([541.2, 600.4]);
    expect(found.dots).toEqual(["right.knee"]);
  });
});
