/** From points to shapes: drawing only, nothing here is measured. Millimetres, y up; the board flips it once. */
import type { Leg, LegPose, Point, Position } from "../api/types";

export const add = (a: Point, b: Point): Point => [a[0] + b[0], a[1] + b[1]];
export const sub = (a: Point, b: Point): Point => [a[0] - b[0], a[1] - b[1]];
export const times = (a: Point, k: number): Point => [a[0] * k, a[1] * k];
export const unit = (a: Point): Point => times(a, 1 / (Math.hypot(a[0], a[1]) || 1));
/** A quarter turn front up: from forward to up. */
export const left = (a: Point): Point => [-a[1], a[0]];
export const mix = (a: Point, b: Point, t: number): Point => add(times(a, 1 - t), times(b, t));

const at = (p: Point) => `${p[0].toFixed(1)} ${p[1].toFixed(1)}`;
export const polyline = (...points: Point[]) => `M${points.map(at).join("L")}`;

/** A leg between two of its poses. */
export function poseAt(leg: Leg, crank: number): LegPose {
  const every = 360 / leg.poses.length;
  const turn = (((crank % 360) + 360) % 360) / every;
  const index = Math.floor(turn);
  const [a, b] = [leg.poses[index % leg.poses.length], leg.poses[(index + 1) % leg.poses.length]];
  if (!a || !b) throw new Error("a leg has no poses");
  const t = turn - index;
  return {
    knee: mix(a.knee, b.knee, t),
    ankle: mix(a.ankle, b.ankle, t),
    axle: mix(a.axle, b.axle, t),
    heel: mix(a.heel, b.heel, t),
    toe: mix(a.toe, b.toe, t),
  };
}

/** A limb that tapers from one joint to the next. */
export function limb(a: Point, b: Point, ra: number, rb: number): string {
  const n = left(unit(sub(b, a)));
  const [a1, a2] = [add(a, times(n, ra)), sub(a, times(n, ra))];
  const [b1, b2] = [add(b, times(n, rb)), sub(b, times(n, rb))];
  return `M${at(a1)}L${at(b1)}A${rb} ${rb} 0 0 0 ${at(b2)}L${at(a2)}A${ra} ${ra} 0 0 0 ${at(a1)}Z`;
}

/** Trunk from hip to shoulder: a rounded back, a flatter front. */
export function torso(hip: Point, shoulder: Point, k: number): string {
  const d = unit(sub(shoulder, hip));
  const n = left(d);
  const p = (from: Point, along: number, back: number) => add(from, add(times(d, along * k), times(n, back * k)));
  const middle = mix(hip, shoulder, 0.55);
  return [
    `M${at(p(hip, -96, 60))}`,
    `C${at(p(hip, -40, 148))} ${at(p(middle, -60, 148))} ${at(p(middle, 40, 132))}`,
    `S${at(p(shoulder, 10, 92))} ${at(p(shoulder, 58, 44))}`,
    `C${at(p(shoulder, 80, 5))} ${at(p(shoulder, 62, -42))} ${at(p(shoulder, 10, -66))}`,
    `C${at(p(middle, 60, -118))} ${at(p(middle, -50, -122))} ${at(p(hip, 20, -104))}`,
    `C${at(p(hip, -60, -100))} ${at(p(hip, -112, -40))} ${at(p(hip, -96, 60))}Z`,
  ].join("");
}

/** A shoe around heel, toe and ankle. */
export function shoe(pose: LegPose, k: number): string {
  const sole = unit(sub(pose.toe, pose.heel));
  const up = left(sole);
  const p = (from: Point, along: number, above: number) => add(from, add(times(sole, along * k), times(up, above * k)));
  return [
    `M${at(p(pose.heel, -6, -6))}`,
    `L${at(p(pose.toe, 2, -6))}`,
    `C${at(p(pose.toe, 26, 0))} ${at(p(pose.toe, 22, 42))} ${at(p(pose.toe, -30, 48))}`,
    `L${at(p(pose.ankle, 42, 6))}`,
    `L${at(p(pose.ankle, -40, 14))}`,
    `C${at(p(pose.heel, -16, 60))} ${at(p(pose.heel, -22, 20))} ${at(p(pose.heel, -6, -6))}Z`,
  ].join("");
}

/** The saddle in side view, from nose and tail. */
export function saddle(nose: Point, tail: Point): string {
  const d = unit(sub(nose, tail));
  const n = left(d);
  const p = (from: Point, along: number, above: number) => add(from, add(times(d, along), times(n, above)));
  return [
    `M${at(p(nose, 0, -4))}`,
    `C${at(p(nose, -60, 4))} ${at(p(tail, 120, -4))} ${at(p(tail, 80, 0))}`,
    `S${at(p(tail, 16, 14))} ${at(p(tail, 0, 10))}`,
    `C${at(p(tail, 6, -16))} ${at(p(tail, 60, -30))} ${at(p(tail, 110, -28))}`,
    `C${at(p(nose, -90, -24))} ${at(p(nose, -20, -26))} ${at(p(nose, 0, -4))}Z`,
  ].join("");
}

/** A direction turned by an angle, front up. */
export function turned(d: Point, deg: number): Point {
  const [cos, sin] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)];
  return [d[0] * cos - d[1] * sin, d[0] * sin + d[1] * cos];
}

export interface Bounds {
  left: number;
  right: number;
  bottom: number;
  top: number;
}

/** What must be seen of a position: wheels, ground and head. */
export function bounds(position: Position): Bounds {
  const { bike, upper } = position;
  return {
    left: Math.min(bike.rear_axle[0] - bike.wheel_radius_mm, bike.saddle_tail[0]) - 10,
    right: Math.max(bike.front_axle[0] + bike.wheel_radius_mm, Math.max(bike.hand[0], upper.points.hand[0]) + 60) + 10,
    bottom: bike.ground_mm,
    top: Math.max(upper.points.head[1], upper.points.shoulder[1]) + 150,
  };
}

/** From millimetres to pixels: chosen once per session, so that stepping never makes the bike jump. */
export interface View {
  scale: number;
  x: (mm: number) => number;
  y: (mm: number) => number;
  at: (p: Point) => Point;
  /** For a group drawn in millimetres with y up. */
  transform: string;
}

export function viewOf(
  b: Bounds,
  width: number,
  height: number,
  margin: { top: number; bottom: number; side: number },
): View {
  const scale = Math.min(
    (width - 2 * margin.side) / (b.right - b.left),
    (height - margin.top - margin.bottom) / (b.top - b.bottom),
  );
  const x0 = width / 2 - (scale * (b.left + b.right)) / 2;
  const y0 = height - margin.bottom + scale * b.bottom;
  const x = (mm: number) => x0 + scale * mm;
  const y = (mm: number) => y0 - scale * mm;
  return {
    scale,
    x,
    y,
    at: (p) => [x(p[0]), y(p[1])],
    transform: `translate(${x0} ${y0}) scale(${scale} ${-scale})`,
  };
}
