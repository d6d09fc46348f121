import { describe, expect, it } from "vitest";
import type { Change } from "../api/types";
import { besideTheOther, asking, draftOf, without } from "./draft";

const height = { key: "saddle_height_mm", quantity: "saddle_height_mm" } as const;
const cleat = (side: "left" | "right") =>
  ({ key: `cleat_setback_mm.${side}`, quantity: "cleat_setback_mm", side }) as const;

describe("a draft", () => {
  it("is read as it was kept", () => {
    const kept = { changes: [{ quantity: "stem_mm", to: 80 }], texts: { why: "x" }, words: "ah" };
    expect(draftOf(JSON.parse(JSON.stringify(kept)))).toEqual(kept);
  });

  it("of an earlier Wedge keeps every number that was being tried", () => {
    const kept = { targets: { saddle_height_mm: 706, "cleat_setback_mm.left": 12 }, texts: {}, words: "" };
    expect(draftOf(kept)).toEqual({
      changes: [
        { quantity: "saddle_height_mm", side: null, to: 706 },
        { quantity: "cleat_setback_mm", side: "left", to: 12 },
      ],
      texts: {},
      words: "",
    });
  });

  it.each([null, 5, [], {}, { texts: {}, words: "" }, { changes: [], words: "" }, { changes: [], texts: {} }])(
    "is nothing where none was kept: %j",
    (kept) => expect(draftOf(kept)).toBeUndefined(),
  );

  it("loses one text and no other", () => {
    expect(without({ a: "1", b: "2" }, "a")).toEqual({ b: "2" });
  });
});

describe("asking for a number", () => {
  it("adds it last, and takes the place of what was asked of the same bolt", () => {
    const before: Change[] = [
      { quantity: "saddle_height_mm", by: 5 },
      { quantity: "stem_mm", to: 80 },
    ];
    const first = asking(before, height, 706);
    expect(first).toEqual([{ quantity: "saddle_height_mm", side: null, to: 706 }, before[1]]);
    expect(asking([], height, 706)).toEqual([first[0]]);
  });

  it("leaves the other side what was asked of both", () => {
    const both: Change[] = [{ quantity: "cleat_setback_mm", to: 12 }];
    expect(asking(both, cleat("left"), 9)).toEqual([
      { quantity: "cleat_setback_mm", side: "left", to: 9 },
      { quantity: "cleat_setback_mm", side: "right", to: 12 },
    ]);
  });

  it("of both sides takes the place of what was asked of each", () => {
    const each = asking(asking([], cleat("left"), 9), cleat("right"), 11);
    expect(each).toHaveLength(2);
    const both = { key: "cleat_setback_mm", quantity: "cleat_setback_mm" } as const;
    expect(asking(each, both, 10)).toEqual([{ quantity: "cleat_setback_mm", side: null, to: 10 }]);
  });
});

describe("cleats of both sides", () => {
  const cleat = (side: "left" | "right", by: number): Change => ({ quantity: "cleat_setback_mm", side, by });
  const saddle = (by: number): Change => ({ quantity: "saddle_height_mm", by });
  it("move in one trial, the saddle by both of them", () =>
    expect(besideTheOther([cleat("left", 4), saddle(-1)], [cleat("right", 3), saddle(-0.5)])).toEqual([
      cleat("left", 4),
      cleat("right", 3),
      saddle(-1.5),
    ]));
  it("asked again of one side is asked anew", () =>
    expect(besideTheOther([cleat("left", 4), saddle(-1)], [cleat("left", 2), saddle(-0.5)])).toEqual([
      cleat("left", 2),
      saddle(-0.5),
    ]));
  it("give way to anything else", () =>
    expect(besideTheOther([cleat("left", 4)], [{ quantity: "stem_mm", to: 90 }])).toEqual([
      { quantity: "stem_mm", to: 90 },
    ]));
});
