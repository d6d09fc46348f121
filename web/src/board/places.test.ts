import { describe, expect, it } from "vitest";
import { clearOf, type Rect, rectOf } from "./places";

const size = { width: 560, height: 590 };
const box = (x: number, y: number): Rect => ({ x, y, width: 118, height: 54 });
const apart = (a: Rect, b: Rect) =>
  a.x + a.width <= b.x || b.x + b.width <= a.x || a.y + a.height <= b.y || b.y + b.height <= a.y;

describe("words on the board", () => {
  const words: Rect = { x: 300, y: 300, width: 180, height: 48 };
  it("stay where they belong while nothing is there", () => expect(clearOf(words, [], size)).toEqual(words));
  it("give way to a box, and no further than they must", () => {
    const boxes = [box(430, 290), box(430, 369), box(430, 211)];
    const at = clearOf(words, boxes, size);
    expect(boxes.every((b) => apart(at, b))).toBe(true);
    expect(Math.hypot(at.x - words.x, at.y - words.y)).toBeLessThan(80);
  });
  it("stay on the board", () => {
    const at = clearOf({ ...words, x: 520, y: -40 }, [], size);
    expect([at.x + at.width <= size.width, at.y >= 0]).toEqual([true, true]);
  });
  it("a box hangs from the side it is held at", () => {
    expect(rectOf({ left: 500, top: 40, anchor: "end" }, size)).toEqual(box(382, 40));
    expect(rectOf({ left: 12, bottom: 12, anchor: "start" }, size)).toEqual(box(12, 524));
  });
});
