import { describe, expect, it } from "vitest";
import type { ReadingRecord, SessionView } from "../api/types";
import { bothValues, type Taped } from "./against";

const reading = (id: string, value: number, side?: "left" | "right") =>
  ({ id, quantity: "thigh_mm", value, side, taken_at: "", method: "tape" }) as ReadingRecord;
const view = (...readings: ReadingRecord[]) => ({ rider: { readings } }) as unknown as SessionView;
const against = (taped: Partial<Taped> = {}) =>
  bothValues((v) => v.rider.readings, { quantity: "thigh_mm", side: "left", value: 425, ...taped });

describe("two windows on one quantity", () => {
  const mine = view(reading("a", 420, "left"));
  it("shows both values when the other wrote it since", () =>
    expect(against()(mine, view(reading("a", 420, "left"), reading("b", 430, "left")))).toBe(
      "Another window wrote 430; you typed 425. Enter again writes yours.",
    ));
  it("says nothing when the other wrote the other side", () =>
    expect(against()(mine, view(reading("a", 420, "left"), reading("b", 430, "right")))).toBeUndefined());
  it("says nothing when the other wrote something else", () =>
    expect(
      against()(mine, view(reading("a", 420, "left"), { ...reading("b", 500), quantity: "trunk_mm" })),
    ).toBeUndefined());
  it("takes a reading of both sides as one of this side", () =>
    expect(against()(mine, view(reading("a", 420, "left"), reading("b", 428)))).toContain("wrote 428"));
  it("minds either side when both are taped at once", () =>
    expect(against({ side: null })(mine, view(reading("a", 420, "left"), reading("b", 431, "right")))).toContain(
      "wrote 431",
    ));
});
