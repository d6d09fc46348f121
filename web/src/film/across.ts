/** The points a clip from ahead or behind is asked for, and what is known of them. */
import type { AcrossMark, AcrossShot, BodyPoint, SeenFrom, Side } from "../api/types";
import type { Ask, Pixel } from "./points";
import type { Placed } from "./useDraft";

interface View {
  label: string;
  lead: string;
  tyre: string;
  parts: { part: BodyPoint; label: string }[];
}

export const FROM: Record<SeenFrom, View> = {
  ahead: {
    label: "From the front",
    lead: "A clip from straight ahead, the camera at hip height, a dot on each kneecap, second toe and hip: where the knees go, and how the hips dip.",
    tyre: "Where the front tyre meets the floor",
    parts: [
      { part: "toe", label: "second toe" },
      { part: "knee", label: "kneecap" },
      { part: "hip", label: "hip" },
    ],
  },
  behind: {
    label: "From behind",
    lead: "A clip from straight behind, the camera at hip height, two dots on each heel, one above the other, and one on each hip: how heels lean and hips dip.",
    tyre: "Where the rear tyre meets the floor",
    parts: [
      { part: "heel_lower", label: "lower heel dot" },
      { part: "heel_upper", label: "upper heel dot" },
      { part: "hip", label: "hip" },
    ],
  },
};

const SIDES: Side[] = ["right", "left"];

/** Plumb, pedals, tyre, then the dots of the right leg and of the left. */
export const askedFrom = (from: SeenFrom): Ask[] => [
  { key: "plumb_high", label: "Something upright, its upper end" },
  { key: "plumb_low", label: "Something upright, its lower end" },
  { key: "pedal_right", label: "Right pedal’s outer end, cranks upright" },
  { key: "pedal_left", label: "Left pedal’s outer end, cranks upright" },
  { key: "tyre", label: FROM[from].tyre },
  ...SIDES.flatMap((side) =>
    FROM[from].parts.map(({ part, label }) => ({ key: `${side}.${part}`, label: `Rider’s ${side} ${label}` })),
  ),
];

export const limbsFrom = (from: SeenFrom): [string, string][] =>
  SIDES.flatMap((side) => {
    const keys = FROM[from].parts.map(({ part }) => `${side}.${part}`);
    return keys.slice(1).map((key, index): [string, string] => [keys[index] ?? key, key]);
  });

export interface AcrossDraft extends Placed {
  /** Which of the marks are middles of dots. */
  dots: string[];
  /** From one pedal’s outer end to the other’s, taped. */
  pedals?: number | undefined;
}

export const beginning: AcrossDraft = { name: "", size: [1280, 720], points: {}, dots: [] };

/** What goes to the server, once both pedals stand. */
export function acrossOf(from: SeenFrom, draft: AcrossDraft): AcrossShot | undefined {
  const { pedal_right, pedal_left, plumb_high, plumb_low, tyre } = draft.points;
  if (!pedal_right || !pedal_left) return undefined;
  const marks: AcrossMark[] = SIDES.flatMap((side) =>
    FROM[from].parts.flatMap(({ part }) => {
      const at = draft.points[`${side}.${part}`];
      return at ? [{ side, part, at, dot: draft.dots.includes(`${side}.${part}`) }] : [];
    }),
  );
  return {
    from,
    size: draft.size,
    pedals: [pedal_right, pedal_left],
    ...(plumb_high && plumb_low ? { plumb: [plumb_high, plumb_low] } : {}),
    ...(draft.pedals === undefined ? {} : { pedals_mm: draft.pedals }),
    ...(tyre ? { tyre } : {}),
    ...(draft.distance === undefined ? {} : { distance_mm: draft.distance * 1000 }),
    ...(draft.lens === undefined ? {} : { lens_mm: draft.lens }),
    marks,
  };
}

/** The points with what was found of them. */
export const withFound = (draft: AcrossDraft, marks: AcrossMark[]): Pick<AcrossDraft, "points" | "dots"> => ({
  points: {
    ...draft.points,
    ...Object.fromEntries(marks.map(({ side, part, at }): [string, Pixel] => [`${side}.${part}`, at as Pixel])),
  },
  dots: marks.filter(({ dot }) => dot).map(({ side, part }) => `${side}.${part}`),
});
