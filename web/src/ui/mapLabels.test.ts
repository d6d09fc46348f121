import { describe, expect, it } from "vitest";
import { type Edge, labels } from "./mapLabels";

const box = { left: 40, right: 340, top: 20, bottom: 260 };
const as = (value: number) => value;
/** Lines straight across the box, one a height. */
const across = (...heights: number[]) =>
  heights.map((height) => ({
    label: String(height),
    pieces: [
      [
        [40, height],
        [340, height],
      ],
    ],
  }));

describe("labels of the map", () => {
  it.each<[Edge, [number, number]]>([
    ["left", [36, 104]],
    ["right", [344, 104]],
  ])("stand on the %s edge, level with their line", (edge, at) => {
    expect(labels(across(100), edge, box, as, as)).toEqual([{ text: "100", at }]);
  });

  it("give way to one another, the first one first", () => {
    const told = labels(across(100, 108, 130), "left", box, as, as).map((label) => label.text);
    expect(told).toEqual(["100", "130"]);
  });

  it("stand where a line ends within the map, and not at an edge it leaves by", () => {
    const inside = {
      label: "inside",
      pieces: [
        [
          [100, 60],
          [200, 70],
        ],
      ],
    };
    expect(labels([inside], "left", box, as, as)).toEqual([{ text: "inside", at: [96, 64] }]);
    expect(labels([inside], "top", box, as, as)).toEqual([{ text: "inside", at: [100, 54] }]);
    expect(labels([inside], "right", box, as, as)).toEqual([{ text: "inside", at: [204, 74] }]);
    // Its end nearest to the top lies on the right edge: it is labelled nowhere on top.
    const aside = {
      label: "aside",
      pieces: [
        [
          [200, 240],
          [340, 120],
        ],
      ],
    };
    expect(labels([aside], "top", box, as, as)).toEqual([]);
    expect(labels([{ label: "none", pieces: [] }], "left", box, as, as)).toEqual([]);
  });

  it("find the piece that comes nearest to the edge", () => {
    const broken = {
      label: "two pieces",
      pieces: [
        [
          [200, 120],
          [300, 130],
        ],
        [
          [45, 200],
          [120, 180],
        ],
      ],
    };
    expect(labels([broken], "left", box, as, as)).toEqual([{ text: "two pieces", at: [36, 204] }]);
    expect(labels([broken], "bottom", box, as, (height) => height + 55)).toEqual([
      { text: "two pieces", at: [45, 276] },
    ]);
  });
});
