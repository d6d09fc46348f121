/** What a bike is typed in with, group by group in the order of the form. */
import type { Catalogue, Quantity } from "../api/types";
import type { BarKind } from "./fields";

export interface PartGroup {
  /** Where the group stands in a new bike. */
  at: "frame" | "cockpit" | "bar" | "saddle" | "post" | "pedalling" | "levers" | "torques";
  title: string;
  keys: Quantity[];
}

const BAR: Record<BarKind, string> = {
  drop: "Drop bar and hoods",
  flat: "Flat bar and grips",
  aero: "Base bar and pads",
};

/** A saddle's place is measured, not typed in with its parts. */
const MEASURED: Quantity[] = ["saddle_height_mm", "setback_mm"];

/** The groups of a bike with this bar. */
export function partGroups(catalogue: Catalogue, bar: BarKind): PartGroup[] {
  const { frame, cockpit, saddle, post, pedalling, levers, torques } = catalogue.parts;
  return [
    { at: "frame", title: "Frame", keys: frame },
    { at: "cockpit", title: "Front end", keys: cockpit },
    { at: "bar", title: BAR[bar], keys: catalogue.bars.find((b) => b.bar === bar)?.quantities ?? [] },
    { at: "saddle", title: "Saddle", keys: saddle.filter((q) => !MEASURED.includes(q)) },
    { at: "post", title: "Seat post", keys: post },
    { at: "pedalling", title: "Cranks, pedals and shoes, both sides", keys: pedalling },
    { at: "levers", title: "Brake levers, both sides", keys: levers },
    { at: "torques", title: "Torque printed on the parts", keys: torques },
  ];
}
