/** The fields a fitter steps: which quantity, and what it reads. */
import type {
  Catalogue,
  Change,
  Conventions,
  Output,
  Position,
  Quantity,
  Setup,
  Side,
  StationSpec,
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
export const NAME = { left: "Left", right: "Right" } as const;
/** The two as something to choose from. */
export const SIDE_CHOICES = SIDES.map((side) => ({ key: side, label: NAME[side] }));

/** What each bar shows on the board besides what every bike has. */
const OF_BAR: Record<BarKind, Quantity[]> = {
  drop: [],
  flat: ["bar_rise_mm", "backsweep_deg"],
  aero: ["pad_spacers_mm", "pad_forward_mm", "pad_tilt_deg"],
};

export type BarKind = "drop" | "flat" | "aero";

export const barOf = ({ bar }: Setup): BarKind => ("drop" in bar ? "drop" : "flat" in bar ? "flat" : "aero");

/** The stations of a fit of this bike, in the order of work and with the words of its bar. */
export const stationsOf = (setup: Setup, catalogue: Catalogue): StationSpec[] =>
  catalogue.bars.find(({ bar }) => bar === barOf(setup))?.stations ?? catalogue.stations;

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

/** The fields of some quantities this bike has, left and right apart where it has two. */
export function stationFields(setup: Setup, catalogue: Catalogue, quantities: Quantity[]): Field[] {
  return quantities.flatMap((quantity) => {
    const spec = catalogue.quantities.find((q) => q.quantity === quantity);
    if (!spec || held(setup, quantity) === undefined) return [];
    return spec.per_side ? SIDES.map((side) => sided(quantity, side)) : [whole(quantity)];
  });
}

/** The convention a quantity is read in; nothing for what has one reading only. */
export function conventionIn(conventions: Conventions, quantity: Quantity, catalogue: Catalogue) {
  const chosen: string[] = Object.values(conventions);
  return catalogue.conventions.find((c) => c.quantity === quantity && chosen.includes(c.convention));
}

/** The parts of a bar of whatever kind. */
export function barParts(bar: Setup["bar"]): Record<string, unknown> {
  if ("drop" in bar) return bar.drop;
  return "flat" in bar ? bar.flat : bar.aero;
}

/** What is known of a quantity. */
export const specOf = (catalogue: Catalogue, quantity: Quantity) =>
  catalogue.quantities.find((spec) => spec.quantity === quantity);

/** What is known of an output. */
export const outputOf = (catalogue: Catalogue, output: Output) =>
  catalogue.outputs.find((spec) => spec.output === output);

/** The value of any quantity a setup holds. */
export function held(setup: Setup, quantity: Quantity, side: Side = "right"): number | undefined {
  const all: Record<string, unknown> = {
    ...setup.cockpit,
    ...barParts(setup.bar),
    ...setup.saddle,
    ...setup.post,
    ...setup.pedalling[side],
    ...setup.levers?.[side],
    ...setup.torques,
  };
  const value = all[quantity];
  return typeof value === "number" ? value : undefined;
}

/** What a field reads in a position and its setup. */
export function reads(field: Field, position: Position, setup: Setup, catalogue: Catalogue): number | undefined {
  const spec = conventionIn(position.conventions, field.quantity, catalogue);
  if (spec) return (position.dimensions as Record<string, number | undefined>)[spec.key];
  return held(setup, field.quantity, field.side);
}

/** Whether a change is made where a field reads: to its quantity, on its side or on both. */
export const sameSpot = (change: Change, field: Field) =>
  change.quantity === field.quantity && (change.side == null || !field.side || change.side === field.side);

/** The number asked for in a field, where it was asked for as the field reads. */
export function asked(changes: Change[], field: Field): number | undefined {
  const change = changes.find((c) => sameSpot(c, field) && (c.side == null || c.side === field.side));
  return change?.convention == null ? (change?.to ?? undefined) : undefined;
}
