import { describe, expect, it } from "vitest";
import { number, parse, signed, ticks } from "./format";

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
