/** The fields a fitter steps: which quantity, what it reads now, what a change to it is called. */
import type {
  Catalogue,
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
  /** Unique: the quantity, with the side where there is one. */
  key: string;
  quantity: Quantity;
  side?: Side;
  /** Follows from the others once the bike as found is closed. */
  derived?: boolean;
}

/** The key of a quantity's field, of one side where there are two. */
export const keyOf = (quantity: Quantity, side: Side | null | undefined): string =>
  side ? `${quantity}.${side}` : quantity;

const whole = (quantity: Quantity): Field => ({ key: quantity, quantity });
const sided = (quantity: Quantity, side: Side): Field => ({ key: keyOf(quantity, side), quantity, side });
export const SIDES: Side[] = ["left", "right"];

/** What each bar shows on the board besides what every bike has. */
const OF_BAR: Record<BarKind, Quantity[]> = {
  drop: [],
  flat: ["bar_rise_mm", "backsweep_deg"],
  aero: ["pad_spacers_mm", "pad_forward_mm", "pad_tilt_deg"],
};

export type BarKind = "drop" | "flat" | "aero";

export const barOf = ({ bar }: Setup): BarKind => ("drop" in bar ? "drop" : "flat" in bar ? "flat" : "aero");

/** The fields on the board, in the order the studio walks: this is the way Tab goes. What is no stop of the walk comes
 * last. */
export function boardFields(setup: Setup, walk: Quantity[] = []): Field[] {
  const stop = ({ quantity }: Field) => {
    const at = walk.indexOf(quantity);
    return at < 0 ? walk.length : at;
  };
  return fieldsOnBoard(setup).sort((a, b) => stop(a) - stop(b));
}

function fieldsOnBoard(setup: Setup): Field[] {
  const { left, right } = setup.pedalling;
  return [
    whole("saddle_height_mm"),
    whole("tilt_deg"),
    whole("setback_mm"),
    { ...whole("drop_mm"), derived: true },
    { ...whole("bb_to_hand_mm"), derived: true },
    ...(left.crank_mm === right.crank_mm ? [whole("crank_mm")] : SIDES.map((side) => sided("crank_mm", side))),
    ...SIDES.map((side) => sided("cleat_setback_mm", side)),
    whole("spacers_below_mm"),
    whole("stem_mm"),
    whole("stem_angle_deg"),
    ...OF_BAR[barOf(setup)].map(whole),
  ];
}

/** Every field a change can be made to: those of the board, and the further bolts of each station this bike has. */
export function allFields(setup: Setup, catalogue: Catalogue): Field[] {
  const board = boardFields(setup);
  const further = catalogue.stations.flatMap((station) => stationFields(setup, catalogue, station.quantities));
  return [...board, ...further.filter((f) => !board.some((b) => b.key === f.key))];
}

/** The fields of some quantities this bike has, left and right apart where it has two. */
export function stationFields(setup: Setup, catalogue: Catalogue, quantities: Quantity[]): Field[] {
  return quantities.flatMap((quantity) => {
    const spec = catalogue.quantities.find((q) => q.quantity === quantity);
    if (!spec || held(setup, quantity) === undefined) return [];
    return spec.per_side ? SIDES.map((side) => sided(quantity, side)) : [whole(quantity)];
  });
}

/** The convention a quantity is read in here: the one chosen, or the bar's own where it has no such spot. */
export function conventionOf(quantity: Quantity, conventions: Conventions): Convention | undefined {
  switch (quantity) {
    case "saddle_height_mm":
      return conventions.saddle_height;
    case "setback_mm":
      return conventions.setback;
    case "drop_mm":
      return conventions.drop;
    case "bb_to_hand_mm":
      return conventions.bb_to_hand;
    case "saddle_to_hand_mm":
      return conventions.saddle_to_hand;
    default:
      return undefined;
  }
}

/** The parts of a bar of whatever kind. */
export function barParts(bar: Setup["bar"]): Record<string, unknown> {
  if ("drop" in bar) return bar.drop;
  return "flat" in bar ? bar.flat : bar.aero;
}

/** The value of any quantity a setup holds. */
export function held(setup: Setup, quantity: Quantity, side: Side = "right"): number | undefined {
  const all: Record<string, unknown> = {
    ...setup.cockpit,
    ...barParts(setup.bar),
    ...setup.saddle,
    ...setup.post,
    ...setup.pedalling[side],
  };
  const value = all[quantity];
  return typeof value === "number" ? value : undefined;
}

/** What a field reads in a position and its setup. */
export function reads(field: Field, position: Position, setup: Setup, catalogue: Catalogue): number | undefined {
  const convention = conventionOf(field.quantity, position.conventions);
  const spec = catalogue.conventions.find((c) => c.convention === convention);
  if (spec) return (position.dimensions as Record<string, number | undefined>)[spec.key];
  return held(setup, field.quantity, field.side);
}

/** What the targets ask for. */
export function changesOf(targets: Record<string, number>, fields: Field[], conventions: Conventions): Change[] {
  return fields.flatMap((field) => {
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

/** Parts that carry the saddle elsewhere by themselves: beside them its height and setback are held by being asked for. */
const CARRIES_SADDLE: string[] = ["tilt_deg", "saddle_stack_mm", "rail_middle_mm", "post_setback_mm"];

/** Whether a number that stands there already is asked for all the same. */
export const isHeld = (key: string, asked: string[]) =>
  (key === "saddle_height_mm" || key === "setback_mm") && asked.some((other) => CARRIES_SADDLE.includes(other));

/** Targets as if the changes had been typed: what an offer asks for, in the numbers of the board. */
export function targetsOf(
  changes: Change[],
  fields: Field[],
  after: Foresight,
  view: SessionView,
  catalogue: Catalogue,
): Record<string, number> {
  const targets: Record<string, number> = {};
  for (const change of changes) {
    const own = fields.filter((field) => field.quantity === change.quantity);
    const whole = own.filter((field) => field.side === undefined);
    // A change of both sides is typed into the field for both, where there is one.
    const meant = change.side ? own.filter((field) => field.side === change.side) : whole.length > 0 ? whole : own;
    for (const field of meant) {
      const value = reads(field, after.after, after.setup, catalogue);
      const was = reads(field, view.now.after, view.input.setup, catalogue);
      const held = isHeld(
        field.key,
        changes.map((c) => c.quantity),
      );
      // Finer than it is read: a bolt stepped by 5 stays stepped by 5.
      if (value !== undefined && (value !== was || held)) targets[field.key] = Math.round(value * 1000) / 1000;
    }
  }
  return targets;
}
