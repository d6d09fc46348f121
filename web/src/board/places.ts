/** Where dimension lines and their boxes stand on the board. */
import type { Position } from "../api/types";
import type { Field } from "../fit/fields";
import { add, left, times, unit, type View } from "./figure";

/** How far behind the line from BB to saddle the height is drawn: clear of the leg. */
export const HEIGHT_OFFSET_MM = 150;

/** Beyond the hands, but clear of the boxes on the right. */
export const dropLineX = (view: View, position: Position, width: number) =>
  Math.min(view.x(Math.max(position.bike.hand[0], position.upper.points.hand[0])) + 58, width - 122);

export interface Size {
  width: number;
  height: number;
}

export interface Rect {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** About how large a box is, px. */
const BOX = { width: 118, height: 54 };

/** About where a box lies. */
export function rectOf({ left, top, bottom, anchor }: BoxPlace, size: Size): Rect {
  return {
    x: anchor === "end" ? left - BOX.width : left,
    y: top ?? size.height - (bottom ?? 0) - BOX.height,
    ...BOX,
  };
}

const over = (a: Rect, b: Rect): number =>
  Math.max(0, Math.min(a.x + a.width, b.x + b.width) - Math.max(a.x, b.x)) *
  Math.max(0, Math.min(a.y + a.height, b.y + b.height) - Math.max(a.y, b.y));

/** How far words may be moved out of the way, either way across and up. */
const SHIFTS = [0, -24, 24, -48, 48, -72, 72, -110, 110, -150, 150, -200];

/** Where words stand clear of the boxes: as near as can be to where they belong, and on the board. */
export function clearOf(wanted: Rect, boxes: Rect[], size: Size): Rect {
  const moved = (dx: number, dy: number): Rect => ({
    ...wanted,
    x: Math.max(6, Math.min(size.width - wanted.width - 6, wanted.x + dx)),
    y: Math.max(6, Math.min(size.height - wanted.height - 70, wanted.y + dy)),
  });
  const covered = (p: Rect) => boxes.reduce((sum, box) => sum + over(p, box), 0);
  const here = moved(0, 0);
  if (covered(here) === 0) return here;
  const cost = (p: Rect) => covered(p) * 10 + Math.hypot(p.x - wanted.x, p.y - wanted.y);
  return SHIFTS.flatMap((dx) => SHIFTS.map((dy) => moved(dx, dy)))
    .map((place) => ({ place, cost: cost(place) }))
    .reduce((best, next) => (next.cost < best.cost ? next : best)).place;
}

interface BoxPlace {
  left: number;
  /** From the top, or for the lane under the ground from the bottom: there a focused box grows upwards. */
  top?: number;
  bottom?: number;
  anchor: "start" | "end";
  low?: boolean;
}

const COLUMN = ["stem_mm", "stem_angle_deg", "spacers_below_mm"];
const PADS = ["pad_spacers_mm", "pad_forward_mm", "pad_tilt_deg"];
const GRIPS = ["bar_rise_mm", "backsweep_deg"];

/** Where each field's box stands. */
export function placeOf(
  field: Field,
  paper: View,
  size: Size,
  position: Position,
  focus: string | undefined,
): BoxPlace {
  const { bike } = position;
  const lane = { bottom: 12, low: true };
  const right = size.width - 12;
  // The column of boxes on the right, from the stem down to the drop. A full one stands closer, and makes room below
  // the focused box, since that is larger.
  const keys = [...COLUMN, ...(bike.pad ? PADS : bike.grip ? GRIPS : []), "drop_mm"];
  const full = keys.length > 6;
  const row = keys.indexOf(field.key);
  const focused = focus === undefined ? -1 : keys.indexOf(focus);
  const below = full && focused >= 0 && row > focused ? 14 : 0;
  const column = { left: right, top: 40 + row * (full ? 66 : 79) + below, anchor: "end" as const };
  switch (field.key) {
    case "saddle_height_mm": {
      const p = paper.at(add(times(bike.sit, 0.62), times(left(unit(bike.sit)), HEIGHT_OFFSET_MM + 20)));
      return { left: p[0], top: p[1] - 26, anchor: "end" };
    }
    case "tilt_deg":
      return { left: paper.x(bike.saddle_tail[0]) - 14, top: paper.y(bike.sit[1]) - 46, anchor: "end" };
    case "setback_mm":
      return { left: paper.x(0) - 3, ...lane, anchor: "end" };
    case "bb_to_hand_mm":
      return { left: paper.x(0) + 3, ...lane, anchor: "start" };
    case "drop_mm":
      return { ...column, top: Math.max(column.top, paper.y((bike.sit[1] + bike.hand[1]) / 2) - 26) };
    case "cleat_setback_mm.left":
      return { left: 12, ...lane, anchor: "start" };
    case "cleat_setback_mm.right":
      // On a narrow board the two stand over one another, clear of the setback.
      return paper.x(0) < 330 ? { left: 12, bottom: 68, anchor: "start" } : { left: 100, ...lane, anchor: "start" };
    case "crank_mm.left":
      return { left: right - 112, ...lane, anchor: "end" };
    case "crank_mm":
    case "crank_mm.right":
      return { left: right, ...lane, anchor: "end" };
    default:
      return column;
  }
}
