import { describe, expect, it } from "vitest";
import type { Catalogue, Change, Conventions, Position, Setup } from "../api/types";
import { asked, barOf, boardFields, conventionIn, type Field, held, reads, stationFields } from "./fields";

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
const keyed = ([quantity, convention]: [string, string]) => ({
  quantity: `${quantity}_mm`,
  convention,
  key: `${convention}_mm`,
});
const catalogue = {
  conventions: Object.entries(conventions).map(keyed),
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
    const keys = boardFields(flat).map((f) => f.key);
    expect(new Set(keys).size).toBe(keys.length);
    expect(keys).toContain("backsweep_deg");
    expect(boardFields(setup).map((f) => f.key)).not.toContain("backsweep_deg");
    const further = (s: Setup) => stationFields(s, catalogue, ["bar_reach_mm"]).map((f) => f.key);
    expect([further(setup), further(flat)]).toEqual([["bar_reach_mm"], []]);
    expect([barOf(setup), barOf(flat)]).toEqual(["drop", "flat"]);
  });

  it("walks the board as the studio does, what is no stop last", () => {
    const keys = boardFields(setup, ["stem_mm", "setback_mm"]).map((f) => f.key);
    expect(keys.slice(0, 3)).toEqual(["stem_mm", "setback_mm", "saddle_height_mm"]);
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

  it("knows the one convention a length is read in", () => {
    const short = { ...conventions, drop: "drop_pad" } as Conventions;
    expect(conventionIn(conventions, "drop_mm", catalogue)?.convention).toBe("drop_clamp");
    expect(conventionIn(short, "drop_mm", catalogue)).toBeUndefined();
    expect(conventionIn(conventions, "stem_mm", catalogue)).toBeUndefined();
  });

  it("shows the number asked for only where it was asked for as the field reads", () => {
    const changes: Change[] = [
      { quantity: "crank_mm", to: 165 },
      { quantity: "cleat_setback_mm", side: "left", to: 12 },
      { quantity: "setback_mm", to: 60, convention: "setback_sit" },
      { quantity: "saddle_height_mm", by: 5 },
    ];
    const of = (quantity: Field["quantity"], side?: "left" | "right") => asked(changes, { key: "", quantity, side });
    expect(of("crank_mm")).toBe(165);
    expect(of("crank_mm", "left")).toBe(165);
    expect(of("cleat_setback_mm", "left")).toBe(12);
    expect(of("cleat_setback_mm", "right")).toBeUndefined();
    expect(of("setback_mm")).toBeUndefined();
    expect(of("saddle_height_mm")).toBeUndefined();
  });
});
