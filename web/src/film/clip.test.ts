import { describe, expect, it } from "vitest";
import { filled, middleOf } from "./clip";

describe("a clip's frames", () => {
  it("are filled in where a gap hides some", () => {
    const times = filled([0, 0.03, 0.06, 0.15, 0.18]);
    expect(times).toHaveLength(7);
    expect(times[3]).toBeCloseTo(0.09);
    expect(times[4]).toBeCloseTo(0.12);
  });

  it("are left as they are where times vary a little, and where there is but one", () => {
    expect(filled([0, 0.033, 0.07, 0.1])).toEqual([0, 0.033, 0.07, 0.1]);
    expect(filled([0.2])).toEqual([0.2]);
  });

  it("begin with the one that was on before anybody watched", () => {
    expect(filled([0.04, 0.08, 0.12])).toEqual([0, 0.04, 0.08, 0.12]);
    expect(filled([0.08, 0.12, 0.16])).toHaveLength(5);
    expect(filled([0.01, 0.05, 0.09])).toHaveLength(3);
  });

  it("are fetched in the middle of their time", () => {
    expect(middleOf([0, 0.1, 0.2], 1)).toBeCloseTo(0.15);
    expect(middleOf([0, 0.1, 0.2], 2)).toBeCloseTo(0.25);
  });
});
