import { describe, expect, it } from "vitest";
import type { Conventions, Position, Setup } from "../api/types";
import { changesOf, FIELDS, held, reads } from "./fields";

const conventions: Conventions = {
  saddle_height: "saddle_height_seat_tube",
  setback: "setback_nose",
  drop: "drop_clamp",
};
const setup = {
  cockpit: { stem_mm: 90 },
  saddle: { tilt_deg: -1 },
  pedalling: { left: { cleat_setback_mm: 9 }, right: { cleat_setback_mm: 11 } },
} as unknown as Setup;
const position = {
  dimensions: {
    saddle_height_straight_mm: 712,
    saddle_height_seat_tube_mm: 714.4,
    setback_sit_mm: 188,
    setback_nose_mm: 42,
    drop_hood_mm: 52,
    drop_clamp_mm: 66,
    bb_to_hood_mm: 545,
  },
} as unknown as Position;

describe("fields of the board", () => {
  it.each([
    ["saddle_height_mm", 714.4],
    ["setback_mm", 42],
    ["drop_mm", 66],
    ["bb_to_hood_mm", 545],
    ["stem_mm", 90],
    ["tilt_deg", -1],
    ["cleat_setback_mm.left", 9],
    ["cleat_setback_mm.right", 11],
  ])("%s reads in the chosen convention", (key, value) => {
    const field = FIELDS.find((f) => f.key === key);
    expect(field && reads(field, position, setup, conventions)).toBe(value);
  });

  it("has each field once", () => expect(new Set(FIELDS.map((f) => f.key)).size).toBe(FIELDS.length));

  it("holds only what a setup has", () => expect(held(setup, "stature_mm")).toBeUndefined());

  it("asks for changes in measuring order, in the chosen convention, side by side", () => {
    expect(
      changesOf({ stem_mm: 80, saddle_height_mm: 710, "cleat_setback_mm.left": 12, nobody: 1 }, conventions),
    ).toEqual([
      { quantity: "saddle_height_mm", side: null, to: 710, convention: "saddle_height_seat_tube" },
      { quantity: "cleat_setback_mm", side: "left", to: 12, convention: null },
      { quantity: "stem_mm", side: null, to: 80, convention: null },
    ]);
  });
});
