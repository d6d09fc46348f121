import { describe, expect, it } from "vitest";
import type { Goal } from "../api/types";
import { moved } from "./goals";

const all: Goal[] = ["comfort", "injury", "power", "speed"];

describe("an order of goals", () => {
  it("begins level: one step puts a goal alone before or behind the others", () => {
    expect(moved([all], "power", -1)).toEqual([["power"], ["comfort", "injury", "speed"]]);
    expect(moved([all], "comfort", 1)).toEqual([["injury", "power", "speed"], ["comfort"]]);
  });
  it("walks through ties, and back the same way", () => {
    const order: Goal[][] = [["comfort"], ["injury"], ["power"], ["speed"]];
    const tied = moved(order, "power", -1);
    expect(tied).toEqual([["comfort"], ["injury", "power"], ["speed"]]);
    const before = moved(tied, "power", -1);
    expect(before).toEqual([["comfort"], ["power"], ["injury"], ["speed"]]);
    expect(moved(moved(before, "power", 1), "power", 1)).toEqual(order);
  });
  it("ends at its ends, and never loses one", () => {
    expect(moved([["speed"], ["comfort", "injury", "power"]], "speed", -1)).toEqual([
      ["speed"],
      ["comfort", "injury", "power"],
    ]);
    let order: Goal[][] = [all];
    for (let i = 0; i < 40; i += 1) {
      order = moved(order, all[(i * 7) % 4] ?? "comfort", i % 3 === 0 ? 1 : -1);
      expect(order.flat().sort()).toEqual([...all].sort());
      expect(order.every((rank) => rank.length > 0)).toBe(true);
    }
  });
});
