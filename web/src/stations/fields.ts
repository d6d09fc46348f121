/** The fields of the board: which quantity, what it reads now, what a change to it is called. */
import type {
  Change,
  Convention,
  Conventions,
  Foresight,
  Position,
  Quantity,
  SessionView,
  Setup,
  Side,
} from "../api/types";

export interface Field {
  /** Unique on the board: the quantity, with the side where there is one. */
  key: string;
  quantity: Quantity;
  side?: Side;
  /** Follows from the others once the bike as found is closed. */
  derived?: boolean;
}

/** In measuring order: this is the way Tab walks. */
export const FIELDS: Field[] = [
  { key: "saddle_height_mm", quantity: "saddle_height_mm" },
  { key: "tilt_deg", quantity: "tilt_deg" },
  { key: "setback_mm", quantity: "setback_mm" },
  { key: "drop_mm", quantity: "drop_mm", derived: true },
  { key: "bb_to_hood_mm", quantity: "bb_to_hood_mm", derived: true },
  { key: "crank_mm", quantity: "crank_mm" },
  { key: "cleat_setback_mm.left", quantity: "cleat_setback_mm", side: "left" },
  { key: "cleat_setback_mm.right", quantity: "cleat_setback_mm", side: "right" },
  { key: "spacers_below_mm", quantity: "spacers_below_mm" },
  { key: "stem_mm", quantity: "stem_mm" },
  { key: "stem_angle_deg", quantity: "stem_angle_deg" },
];

export function conventionOf(quantity: Quantity, conventions: Conventions): Convention | undefined {
  if (quantity === "saddle_height_mm") return conventions.saddle_height;
  if (quantity === "setback_mm") return conventions.setback;
  if (quantity === "drop_mm") return conventions.drop;
  return undefined;
}

function inConvention(position: Position, convention: Convention): number {
  const d = position.dimensions;
  switch (convention) {
    case "saddle_height_straight":
      return d.saddle_height_straight_mm;
    case "saddle_height_seat_tube":
      return d.saddle_height_seat_tube_mm;
    case "saddle_height_vertical":
      return d.saddle_height_vertical_mm;
    case "saddle_height_from_axle":
      return d.saddle_height_from_axle_mm;
    case "setback_sit":
      return d.setback_sit_mm;
    case "setback_nose":
      return d.setback_nose_mm;
    case "setback_seat_angle":
      return d.seat_angle_deg;
    case "drop_hood":
      return d.drop_hood_mm;
    case "drop_clamp":
      return d.drop_clamp_mm;
    case "drop_bar_top":
      return d.drop_bar_top_mm;
  }
}

/** The value of any quantity a setup holds. */
export function held(setup: Setup, quantity: Quantity, side: Side = "right"): number | undefined {
  const all: Record<string, unknown> = { ...setup.cockpit, ...setup.saddle, ...setup.pedalling[side] };
  const value = all[quantity];
  return typeof value === "number" ? value : undefined;
}

/** What a field reads in a position and its setup. */
export function reads(field: Field, position: Position, setup: Setup, conventions: Conventions): number | undefined {
  const convention = conventionOf(field.quantity, conventions);
  if (convention) return inConvention(position, convention);
  if (field.quantity === "bb_to_hood_mm") return position.dimensions.bb_to_hood_mm;
  return held(setup, field.quantity, field.side);
}

/** What the targets ask for. */
export function changesOf(targets: Record<string, number>, conventions: Conventions): Change[] {
  return FIELDS.flatMap((field) => {
    const to = targets[field.key];
    if (to === undefined) return [];
    return [
      {
        quantity: field.quantity,
        side: field.side ?? null,
        to,
        convention: conventionOf(field.quantity, conventions) ?? null,
      },
    ];
  });
}

/** Targets as if the changes had been typed: what an offer asks for, in the numbers of the board. */
export function targetsOf(changes: Change[], before: Foresight, after: Foresight, view: SessionView) {
  const targets: Record<string, number> = {};
  const { conventions } = view.session;
  for (const field of FIELDS) {
    const asked = changes.some((c) => c.quantity === field.quantity && (c.side ?? undefined) === field.side);
    const both = changes.some((c) => c.quantity === field.quantity && c.side == null);
    if (!asked && !both) continue;
    const value = reads(field, after.after, after.setup, conventions);
    const was = reads(field, before.before, view.input.setup, conventions);
    if (value !== undefined && value !== was) targets[field.key] = Math.round(value * 10) / 10;
  }
  return targets;
}
