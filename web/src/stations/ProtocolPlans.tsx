import "./saddle.css";
import { Button } from "@chakra-ui/react";
import { useState } from "react";
import type { Catalogue, Protocol, Quantity, RunPlan, SaddleView, Unit } from "../api/types";
import { protocolLabel, protocolOf } from "../protocol/plans";
import { Choice } from "../ui/Choice";
import { NumberField } from "../ui/NumberField";

/** Each protocol with what can be set of it before it begins. */
export function ProtocolPlans({
  saddle,
  catalogue,
  onBegin,
}: {
  saddle: SaddleView;
  catalogue: Catalogue;
  onBegin: (plan: RunPlan) => void;
}) {
  const [changed, setChanged] = useState<Partial<Record<Protocol, RunPlan>>>({});
  const plans = saddle.plans.map((plan) => changed[protocolOf(plan)] ?? plan);
  const put = (next: RunPlan) => setChanged({ ...changed, [protocolOf(next)]: next });
  const field = (text: string, value: number, key: string, set: (value: number) => void, unit: Unit = "mm") => (
    <NumberField
      key={key}
      label={text}
      fieldKey={`plan.${key}`}
      spec={{ unit, step: 1, fine_step: 0.5 }}
      value={value}
      onCommit={(typed) => {
        set(typed);
        return undefined;
      }}
      onStep={set}
    />
  );
  const settings = (plan: RunPlan) => {
    if ("creep_up" in plan) {
      const own = plan.creep_up;
      return [
        field("First step, post from here", own.from_mm, "creep.from", (from_mm) =>
          put({ creep_up: { ...own, from_mm } }),
        ),
        field("Rises by", own.step_mm, "creep.step", (step_mm) => put({ creep_up: { ...own, step_mm } })),
      ];
    }
    if ("rail_sweep" in plan) {
      const own = plan.rail_sweep;
      return [
        field("Back from here", own.back_mm, "sweep.back", (back_mm) => put({ rail_sweep: { ...own, back_mm } })),
        field("Forward from here", own.forward_mm, "sweep.forward", (forward_mm) =>
          put({ rail_sweep: { ...own, forward_mm } }),
        ),
        field("Steps of", own.step_mm, "sweep.step", (step_mm) => put({ rail_sweep: { ...own, step_mm } })),
      ];
    }
    if ("balance" in plan) {
      return (
        <Choice
          label="Ridden"
          options={catalogue.words.balance_variant}
          value={plan.balance.variant}
          onPick={(variant) => variant && put({ balance: { variant } })}
        />
      );
    }
    if ("plumb" in plan) {
      return (
        <Choice
          label="The line hangs from"
          options={catalogue.words.landmark}
          value={plan.plumb.landmark}
          onPick={(landmark) => landmark && put({ plumb: { landmark } })}
        />
      );
    }
    if ("tilt" in plan) {
      return field("Wanted, nose up", plan.tilt.to_deg, "tilt.to", (to_deg) => put({ tilt: { to_deg } }), "deg");
    }
    const own = plan.blind;
    const compared = (["saddle_height_mm", "setback_mm", "tilt_deg"] as Quantity[]).map((key) => ({
      key,
      label: catalogue.quantities.find((q) => q.quantity === key)?.label ?? key,
    }));
    return [
      <Choice
        key="what"
        label="Compares"
        options={compared}
        value={own.quantity}
        onPick={(quantity) => quantity && put({ blind: { ...own, quantity } })}
      />,
      field(
        "B differs by",
        own.by,
        "blind.by",
        (by) => put({ blind: { ...own, by } }),
        own.quantity === "tilt_deg" ? "deg" : "mm",
      ),
      field(
        "Hidden rounds",
        own.rounds,
        "blind.rounds",
        (rounds) => put({ blind: { ...own, rounds: Math.round(rounds) } }),
        "size",
      ),
    ];
  };
  return (
    <section aria-label="Protocols with their settings">
      <h2>Protocols</h2>
      <table className="plans protocols">
        <tbody>
          {plans.map((plan) => (
            <tr key={protocolOf(plan)}>
              <th scope="row">{protocolLabel(catalogue, protocolOf(plan))}</th>
              <td>
                <div className="settings">{settings(plan)}</div>
              </td>
              <td>
                <Button
                  size="sm"
                  aria-label={`Begin: ${protocolLabel(catalogue, protocolOf(plan)).toLowerCase()}`}
                  onClick={() => onBegin(plan)}
                >
                  Begin
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
