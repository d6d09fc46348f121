import { describe, expect, it } from "vitest";
import { fromShown, number, parse, showIn, signed, suffix, ticks, withUnit } from "./format";

describe("numbers", () => {
  it.each([
    [172.5, "172.5"],
    [763, "763"],
    [-6.04, "−6"],
    [-0.01, "0"],
    [0.96, "1"],
  ])("writes %d as %s", (value, text) => expect(number(value)).toBe(text));

  it.each([
    [3.2, "+3.2"],
    [-3.2, "−3.2"],
    [0.04, "0"],
  ])("signs %d as %s", (value, text) => expect(signed(value)).toBe(text));

  it.each([
    ["763", 763],
    [" 84,5 ", 84.5],
    ["−17", -17],
    [".5", 0.5],
    ["thirty", undefined],
    ["7 63", undefined],
    ["1e3", undefined],
    ["", undefined],
  ])("reads %j as %j", (text, value) => expect(parse(text)).toBe(value));

  it.each([
    [701, 733, [710, 720, 730]],
    [-2.4, 2.4, [-2, -1, 0, 1, 2]],
    [740, 780, [740, 750, 760, 770, 780]],
    [5, 5, []],
  ])("marks a scale from %d to %d at %j", (low, high, marks) => expect(ticks(low, high, "mm", 5)).toEqual(marks));
});

describe("units", () => {
  const units = [
    { unit: "mm" as const, suffix: " mm" },
    { unit: "deg" as const, suffix: "°" },
  ];

  it("are written as the catalogue says, lengths and masses in the studio's own", () => {
    showIn(units, { label: "in", holds: 25.4 }, { label: "lb", holds: 0.45359237 });
    expect([withUnit(100, "mm"), withUnit(31.24, "deg"), suffix("kg")]).toEqual(["3.94 in", "31.2°", " lb"]);
    expect(fromShown(2, "mm")).toBe(50.8);
    showIn(units, { label: "cm", holds: 10 }, { label: "kg", holds: 1 });
    expect([withUnit(712, "mm"), fromShown(1.5, "mm")]).toEqual(["71.2 cm", 15]);
  });
});
