/** Labels of the map's lines: each where its line comes nearest to its family's edge, or where it ends before. */
import type { MapLine } from "../api/types";

export type Edge = "left" | "right" | "top" | "bottom";

export interface Box {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

interface Label {
  text: string;
  at: [number, number];
}

/** A line this near to its edge reaches it. */
const REACHES = 14;
/** Labels nearer to one another than this would stand on one another. */
const [APART_X, APART_Y] = [34, 15];

/** Labels of one family of lines along its edge; those that would stand on one another give way. */
export function labels(
  lines: Pick<MapLine, "label" | "pieces">[],
  edge: Edge,
  box: Box,
  x: (setback: number) => number,
  y: (height: number) => number,
): Label[] {
  const offs = ([px, py]: [number, number]) => ({
    left: px - box.left,
    right: box.right - px,
    top: py - box.top,
    bottom: box.bottom - py,
  });
  const off = (point: [number, number]) => offs(point)[edge];
  /** A line that ends within the map ends there; one that leaves it by another edge has no place at its own. */
  const within = (point: [number, number]) => Object.values(offs(point)).every((by) => by >= REACHES);
  const stand = ([px, py]: [number, number]): [number, number] =>
    ({
      left: [px - 4, py + 4] as [number, number],
      right: [px + 4, py + 4] as [number, number],
      top: [px, py - 6] as [number, number],
      bottom: [px, py + 16] as [number, number],
    })[edge];
  /** Moved onto the edge. */
  const onEdge = ([px, py]: [number, number]): [number, number] =>
    ({
      left: [box.left, py] as [number, number],
      right: [box.right, py] as [number, number],
      top: [px, box.top] as [number, number],
      bottom: [px, box.bottom] as [number, number],
    })[edge];
  const placed: Label[] = [];
  for (const line of lines) {
    const points = line.pieces.flat().map(([s, h]): [number, number] => [x(s ?? 0), y(h ?? 0)]);
    const [first, ...rest] = points;
    if (!first) continue;
    const end = rest.reduce((best, point) => (off(point) < off(best) ? point : best), first);
    const reaches = off(end) < REACHES;
    if (!reaches && !within(end)) continue;
    const at = stand(reaches ? onEdge(end) : end);
    const free = placed.every(
      (other) => Math.abs(other.at[0] - at[0]) > APART_X || Math.abs(other.at[1] - at[1]) > APART_Y,
    );
    if (free) placed.push({ text: line.label, at });
  }
  return placed;
}
