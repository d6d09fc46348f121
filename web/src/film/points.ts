/** The points a picture is asked for, in the order they are clicked, and what is known of them. */
import type { BodyPoint, FilmMark, Shot } from "../api/types";
import type { Placed } from "./useDraft";

export type Pixel = [number, number];

export interface Ask {
  key: string;
  label: string;
}

const RIM = ["above", "ahead", "below", "behind"] as const;

/** Both axles, four points of each tyre, BB, then the rider from the pedal up. */
export const ASKED: Ask[] = [
  { key: "rear", label: "Rear axle" },
  { key: "front", label: "Front axle" },
  ...RIM.map((at) => ({ key: `rear_${at}`, label: `Rear tyre’s edge, ${at}` })),
  ...RIM.map((at) => ({ key: `front_${at}`, label: `Front tyre’s edge, ${at}` })),
  { key: "bb", label: "Bottom bracket" },
  { key: "pedal", label: "Pedal axle, its outer end" },
  { key: "toe", label: "Toe joint" },
  { key: "ankle", label: "Ankle" },
  { key: "knee", label: "Knee" },
  { key: "hip", label: "Hip" },
  { key: "shoulder", label: "Shoulder" },
  { key: "elbow", label: "Elbow" },
  { key: "wrist", label: "Wrist" },
];

export const JOINTS: BodyPoint[] = ["pedal", "toe", "ankle", "knee", "hip", "shoulder", "elbow", "wrist"];

/** A picture from the side. */
export interface Draft extends Placed {
  /** Which of the joints are middles of dots. */
  dots: BodyPoint[];
  facesLeft: boolean;
  moving: boolean;
  wheel: number;
}

/** Limbs drawn between points. */
export const LIMBS: [string, string][] = [
  ["toe", "ankle"],
  ["ankle", "knee"],
  ["knee", "hip"],
  ["hip", "shoulder"],
  ["shoulder", "elbow"],
  ["elbow", "wrist"],
];

/** The next point that is asked for. */
export const nextOf = (asked: Ask[], points: Placed["points"]): Ask | undefined =>
  asked.find(({ key }) => !points[key]);

/** A picture that nothing is known of yet. */
export const beginning = (wheelMm: number): Draft => ({
  name: "",
  size: [1280, 720],
  points: {},
  dots: [],
  facesLeft: false,
  moving: false,
  wheel: Math.round(wheelMm),
});

/** What another point makes of the rest: the tyres' edges stand ready once both axles do, which say where the rider faces. */
export function settled(draft: Draft, placed: Draft["points"]): Partial<Draft> {
  const points = withRims(placed, draft.wheel);
  const { rear, front } = points;
  return { points, ...(rear && front ? { facesLeft: front[0] < rear[0] } : {}) };
}

/** Four points of each tyre where they would be for a square camera, to be dragged onto its edge. */
export function withRims(points: Draft["points"], wheelMm: number): Draft["points"] {
  const [rear, front] = [points.rear, points.front];
  if (!rear || !front) return points;
  const apart = Math.hypot(front[0] - rear[0], front[1] - rear[1]);
  // An ordinary wheelbase, until the edges say better.
  const radius = (apart / 1010) * (wheelMm / 2);
  const ahead = Math.sign(front[0] - rear[0]);
  const ring = (name: string, [u, v]: Pixel): [string, Pixel][] => [
    [`${name}_above`, [u, v - radius]],
    [`${name}_ahead`, [u + ahead * radius, v]],
    [`${name}_below`, [u, v + radius]],
    [`${name}_behind`, [u - ahead * radius, v]],
  ];
  return { ...Object.fromEntries([...ring("rear", rear), ...ring("front", front)]), ...points };
}

/** What goes to the server, once both axles stand. */
export function shotOf(draft: Draft): Shot | undefined {
  const { rear, front } = draft.points;
  if (!rear || !front) return undefined;
  const rim = (name: string) =>
    RIM.flatMap((at) => {
      const point = draft.points[`${name}_${at}`];
      return point ? [point] : [];
    });
  const marks: FilmMark[] = JOINTS.flatMap((part) => {
    const at = draft.points[part];
    return at ? [{ part, at, dot: draft.dots.includes(part) }] : [];
  });
  return {
    view: {
      size: draft.size,
      faces_left: draft.facesLeft,
      rear: { axle: rear, rim: rim("rear") },
      front: { axle: front, rim: rim("front") },
      wheel_diameter_mm: draft.wheel,
      ...(draft.distance === undefined ? {} : { distance_m: draft.distance }),
      ...(draft.lens === undefined ? {} : { lens_height_mm: draft.lens }),
    },
    ...(draft.points.bb ? { bb: draft.points.bb } : {}),
    marks,
    moving: draft.moving,
  };
}
