import { describe, expect, it } from "vitest";
import type { RunPlan, SaddleView } from "../api/types";
import { planFor, protocolOf, PROTOCOLS } from "./plans";

const plans: RunPlan[] = [
  { creep_up: { from_mm: -15, step_mm: 5 } },
  { rail_sweep: { back_mm: 15, forward_mm: 15, step_mm: 5 } },
  { balance: { variant: "tempo" } },
  { plumb: { landmark: "centre" } },
  { tilt: { to_deg: 0 } },
  { blind: { quantity: "saddle_height_mm", by: -5, rounds: 8 } },
];

const saddle = (feels: { quantity: string; next: number }[] = []) => ({ plans, feels }) as unknown as SaddleView;

describe("what a key begins", () => {
  it("is a plan for every protocol of either station", () => {
    for (const station of ["saddle_height", "setback"] as const) {
      for (const protocol of PROTOCOLS[station]) {
        const plan = planFor(saddle(), protocol, station);
        expect(plan && protocolOf(plan)).toBe(protocol);
      }
    }
    // And every protocol has a key somewhere.
    const keyed = new Set([...PROTOCOLS.saddle_height, ...PROTOCOLS.setback]);
    expect(plans.map(protocolOf).every((protocol) => keyed.has(protocol))).toBe(true);
  });

  it("compares blind what the station is about", () => {
    expect(planFor(saddle(), "blind", "saddle_height")).toEqual(plans[5]);
    // Back, by as much as is worth comparing next; as much as in height while nobody said.
    const felt = saddle([
      { quantity: "saddle_height_mm", next: 2 },
      { quantity: "setback_mm", next: 3.5 },
    ]);
    expect(planFor(felt, "blind", "setback")).toEqual({ blind: { quantity: "setback_mm", by: 3.5, rounds: 8 } });
    expect(planFor(saddle(), "blind", "setback")).toEqual({ blind: { quantity: "setback_mm", by: 5, rounds: 8 } });
  });

  it("is nothing where nothing is proposed", () => {
    expect(planFor({ ...saddle(), plans: [] }, "plumb", "setback")).toBeUndefined();
  });
});
