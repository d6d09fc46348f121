import type { Catalogue, Protocol, RunPlan, SaddleView } from "../api/types";

/** The protocols of a station, in the order of their keys. */
export const PROTOCOLS: Record<"saddle_height" | "setback", Protocol[]> = {
  saddle_height: ["creep_up", "blind"],
  setback: ["balance", "rail_sweep", "plumb", "tilt", "blind"],
};

export const protocolOf = (plan: RunPlan): Protocol => Object.keys(plan)[0] as Protocol;

export const protocolLabel = (catalogue: Catalogue, protocol: Protocol) =>
  catalogue.words.protocol.find((p) => p.key === protocol)?.label ?? protocol;

/** The plan of a protocol as it is proposed. */
export const planOf = (saddle: SaddleView, protocol: Protocol): RunPlan | undefined =>
  saddle.plans.find((plan) => protocolOf(plan) === protocol);

/** The plan of a protocol as it is proposed at a station: blind, the station's own dimension is compared. */
export function planFor(saddle: SaddleView, protocol: Protocol, station: keyof typeof PROTOCOLS): RunPlan | undefined {
  const plan = planOf(saddle, protocol);
  if (plan && "blind" in plan && station === "setback") {
    const next = saddle.feels.find((f) => f.quantity === "setback_mm")?.next ?? Math.abs(plan.blind.by);
    return { blind: { ...plan.blind, quantity: "setback_mm", by: next } };
  }
  return plan;
}
