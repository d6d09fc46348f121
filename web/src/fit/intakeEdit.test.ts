import { describe, expect, it } from "vitest";
import type { Complaint, Intake } from "../api/types";
import { editAgainst, type IntakeEdit, withEdit } from "./intakeEdit";

const complaint = (id: string, some: Partial<Complaint> = {}) =>
  ({ id, place: "neck", side: null, feel: "pain", words: "", ...some }) as Complaint;
const intake = (some: Partial<Intake> = {}) =>
  ({
    goals: [
      ["comfort", "injury"],
      ["power", "speed"],
    ],
    riding: "",
    flags: [],
    flags_asked: false,
    complaints: [],
    injuries: [],
    ...some,
  }) as unknown as Intake;

describe("red flags", () => {
  const tick = (there: boolean): IntakeEdit => ({ kind: "flag", flag: "swelling", there });
  it("one that is taken away leaves the question open", () => {
    const ticked = withEdit(intake(), tick(true));
    expect([ticked.flags, ticked.flags_asked]).toEqual([["swelling"], true]);
    const again = withEdit(ticked, tick(false));
    expect([again.flags, again.flags_asked]).toEqual([[], false]);
  });
  it("none is said by saying so", () =>
    expect(withEdit(intake(), { kind: "no flag" })).toMatchObject({ flags: [], flags_asked: true }));
});

describe("two windows on one intake", () => {
  const base = intake({ complaints: [complaint("a", { how_bad: 3 })] });
  it("keep both complaints", () => {
    const theirs = withEdit(base, { kind: "complaint", complaint: complaint("b", { place: "hand" }) });
    const mine: IntakeEdit = { kind: "complaint", complaint: complaint("c", { place: "low_back" }) };
    expect(editAgainst(mine, base, theirs)).toBeUndefined();
    expect(withEdit(theirs, mine).complaints.map((c) => c.id)).toEqual(["a", "b", "c"]);
  });
  it("keep two fields of one complaint", () => {
    const theirs = withEdit(base, { kind: "of complaint", id: "a", part: { feel: "numb" } });
    const mine: IntakeEdit = { kind: "of complaint", id: "a", part: { how_bad: 7 } };
    expect(editAgainst(mine, base, theirs)).toBeUndefined();
    expect(withEdit(theirs, mine).complaints[0]).toMatchObject({ feel: "numb", how_bad: 7 });
  });
  it("show both values of one field", () => {
    const theirs = withEdit(base, { kind: "of complaint", id: "a", part: { how_bad: 5 } });
    const mine: IntakeEdit = { kind: "of complaint", id: "a", part: { how_bad: 7 } };
    expect(editAgainst(mine, base, theirs)).toBe(
      "Another window wrote 5; you entered 7. Enter yours again to write it.",
    );
  });
  it("show both orders, and neither where one wrote something else", () => {
    const order = (first: "power" | "speed"): IntakeEdit => ({
      kind: "goals",
      goals: [[first], ["comfort", "injury"], [first === "power" ? "speed" : "power"]],
    });
    const theirs = withEdit(base, order("power"));
    expect(editAgainst(order("speed"), base, theirs)).toContain(
      "wrote power > comfort = injury > speed; you entered speed > comfort = injury > power",
    );
    expect(editAgainst(order("power"), base, theirs)).toBeUndefined();
    expect(editAgainst({ kind: "answer", answer: { riding: "levees" } }, base, theirs)).toBeUndefined();
  });
  it("are one when they wrote the same", () => {
    const theirs = withEdit(base, { kind: "answer", answer: { riding: "levees" } });
    expect(editAgainst({ kind: "answer", answer: { riding: "levees" } }, base, theirs)).toBeUndefined();
    expect(editAgainst({ kind: "answer", answer: { riding: "" } }, base, theirs)).toContain("wrote levees");
  });
  it("say when a complaint was taken out", () => {
    const theirs = withEdit(base, { kind: "complaint out", id: "a" });
    expect(editAgainst({ kind: "of complaint", id: "a", part: { how_bad: 7 } }, base, theirs)).toContain("taken out");
  });
});
