import { describe, expect, it } from "vitest";
import type { Catalogue, Conventions, Foresight, Position, SessionView, Setup } from "../api/types";
import { allFields, barOf, boardFields, changesOf, held, reads, stationFields, targetsOf } from "./fields";

const conventions = {
  saddle_height: "saddle_height_seat_tube",
  setback: "setback_nose",
  drop: "drop_clamp",
  bb_to_hand: "bb_to_hood",
} as Conventions;
const setup = {
  cockpit: { stem_mm: 90 },
  bar: { drop: { bar_reach_mm: 78 } },
  saddle: { tilt_deg: -1 },
  post: {},
  pedalling: { left: { cleat_setback_mm: 9, crank_mm: 170 }, right: { cleat_setback_mm: 11, crank_mm: 170 } },
} as unknown as Setup;
const flat = { ...setup, bar: { flat: { bar_rise_mm: 30, backsweep_deg: 12 } } } as unknown as Setup;
const position = {
  conventions,
  dimensions: {
    saddle_height_straight_mm: 712,
    saddle_height_seat_tube_mm: 714.4,
    setback_nose_mm: 42,
    drop_clamp_mm: 66,
    bb_to_hood_mm: 545,
  },
} as unknown as Position;
const keyed = (convention: string) => ({ convention, key: `${convention}_mm` });
const catalogue = {
  conventions: Object.values(conventions).map(keyed),
  quantities: [
    { quantity: "crank_mm", per_side: true },
    { quantity: "cleat_setback_mm", per_side: true },
    { quantity: "shim_mm", per_side: true },
    { quantity: "stem_mm", per_side: false },
    { quantity: "bar_reach_mm", per_side: false },
    { quantity: "pad_tilt_deg", per_side: false },
  ],
  stations: [{ quantities: ["crank_mm"] }, { quantities: ["stem_mm", "bar_reach_mm", "pad_tilt_deg"] }],
} as unknown as Catalogue;

describe("fields", () => {
  it.each([
    ["saddle_height_mm", 714.4],
    ["setback_mm", 42],
    ["drop_mm", 66],
    ["bb_to_hand_mm", 545],
    ["stem_mm", 90],
    ["tilt_deg", -1],
    ["cleat_setback_mm.left", 9],
    ["cleat_setback_mm.right", 11],
  ])("%s reads in the convention of the position", (key, value) => {
    const field = boardFields(setup).find((f) => f.key === key);
    expect(field && reads(field, position, setup, catalogue)).toBe(value);
  });

  it("has each field once, and what its bar has", () => {
    const keys = allFields(flat, catalogue).map((f) => f.key);
    expect(new Set(keys).size).toBe(keys.length);
    expect(keys).toContain("backsweep_deg");
    expect(keys).not.toContain("bar_reach_mm");
    expect(allFields(setup, catalogue).map((f) => f.key)).toContain("bar_reach_mm");
    expect([barOf(setup), barOf(flat)]).toEqual(["drop", "flat"]);
  });

  it("tells the cranks apart once they differ", () => {
    const { left, right } = setup.pedalling;
    const uneven = { ...setup, pedalling: { left: { ...left, crank_mm: 165 }, right } };
    const cranks = (s: Setup) =>
      boardFields(s)
        .filter((f) => f.quantity === "crank_mm")
        .map((f) => f.key);
    expect(cranks(setup)).toEqual(["crank_mm"]);
    expect(cranks(uneven)).toEqual(["crank_mm.left", "crank_mm.right"]);
  });

  it("holds only what a setup has", () => {
    expect(held(setup, "stature_mm")).toBeUndefined();
    expect(held(setup, "bar_reach_mm")).toBe(78);
    expect(stationFields(setup, catalogue, ["pad_tilt_deg"])).toEqual([]);
  });

  it("asks for changes in measuring order, in the chosen convention, side by side", () => {
    const targets = { stem_mm: 80, saddle_height_mm: 710, "cleat_setback_mm.left": 12, nobody: 1 };
    expect(changesOf(targets, boardFields(setup), conventions)).toEqual([
      { quantity: "saddle_height_mm", side: null, to: 710, convention: "saddle_height_seat_tube" },
      { quantity: "cleat_setback_mm", side: "left", to: 12, convention: null },
      { quantity: "stem_mm", side: null, to: 80, convention: null },
    ]);
  });

  it("takes an offer over as if it had been typed", () => {
    const { left, right } = setup.pedalling;
    const shorter = { left: { ...left, crank_mm: 165 }, right: { ...right, crank_mm: 165 } };
    const view = { now: { after: position }, input: { setup } } as unknown as SessionView;
    const after = { after: position, setup: { ...setup, pedalling: shorter } } as unknown as Foresight;
    const changes = [{ quantity: "crank_mm" as const, to: 165 }];
    expect(targetsOf(changes, allFields(setup, catalogue), after, view, catalogue)).toEqual({ crank_mm: 165 });
  });
});
