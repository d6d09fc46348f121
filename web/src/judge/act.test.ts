import { describe, expect, it } from "vitest";
import type { MoveView } from "../api/types";
import { actOf } from "./act";

const move = (part: Partial<MoveView>): MoveView => ({
  key: "move:height:-",
  act: "move",
  title: "Saddle down 5",
  station: "saddle_height",
  because: "97 % too high",
  how: "",
  speaks_for: [],
  moves_with: [],
  blocked: [],
  score: 1,
  ...part,
});

describe("what doing a move is called", () => {
  it("foresees what turns a bolt, wherever one is", () => {
    const step = { title: "Saddle down 5", changes: [], left: "" } as unknown as MoveView["step"];
    expect(actOf(move({ step }), "saddle_height", false)).toBe("Foresee it");
    expect(actOf(move({ step }), "bars", true)).toBe("Foresee it");
  });
  it("begins a protocol, or goes on with the one that waits", () => {
    const start = { protocol: "creep_up" } as unknown as MoveView["start"];
    expect(actOf(move({ start }), "saddle_height", false)).toBe("Begin it");
    expect(actOf(move({ start }), "saddle_height", true)).toBe("Go on with the one that waits");
  });
  it("goes where it is done, and offers nothing where one is already", () => {
    expect(actOf(move({}), "feet", false)).toBe("Go there");
    expect(actOf(move({}), "saddle_height", false)).toBeUndefined();
  });
});
