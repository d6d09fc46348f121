import { Button } from "@chakra-ui/react";
import { useState } from "react";
import type { RunPlan, Setting, Start } from "../api/types";
import { useFit } from "../fit/useFit";
import { Choice } from "../ui/Choice";
import { NumberField } from "../ui/NumberField";

/** Each protocol with what can be set of it before it begins. */
export function ProtocolPlans({ starts }: { starts: Start[] }) {
  return (
    <section aria-label="Protocols with their settings">
      <h2>Protocols</h2>
      <table className="plans protocols">
        <tbody>
          {starts.map((start) => (
            <Protocol key={start.protocol} start={start} />
          ))}
        </tbody>
      </table>
    </section>
  );
}

type Set = Record<string, number | string>;

/** The plan with what was set in it. */
const planWith = (plan: RunPlan, set: Set) =>
  Object.fromEntries(Object.entries(plan).map(([kind, own]) => [kind, { ...own, ...set }])) as RunPlan;

function Protocol({ start }: { start: Start }) {
  const { beginRun } = useFit();
  const [set, setSet] = useState<Set>({});
  return (
    <tr>
      <th scope="row">{start.label}</th>
      <td>
        <div className="settings">
          {start.settings.map((setting) => (
            <Settable
              key={setting.key}
              id={`plan.${start.protocol}.${setting.key}`}
              setting={setting}
              value={set[setting.key]}
              onSet={(value) => setSet((before) => ({ ...before, [setting.key]: value }))}
            />
          ))}
        </div>
      </td>
      <td>
        <Button
          size="sm"
          aria-label={`Begin: ${start.label.toLowerCase()}`}
          onClick={() => beginRun(planWith(start.plan, set))}
        >
          Begin
        </Button>
      </td>
    </tr>
  );
}

interface SettableProps {
  id: string;
  setting: Setting;
  value: number | string | undefined;
  onSet: (value: number | string) => void;
}

/** One thing that can be set: a number, or one of some words. */
function Settable({ id, setting: { label, takes }, value, onSet }: SettableProps) {
  if ("one_of" in takes) {
    return (
      <Choice
        label={label}
        options={takes.one_of.options}
        value={String(value ?? takes.one_of.value)}
        onPick={(key) => key !== null && onSet(key)}
      />
    );
  }
  const { value: proposed, unit, whole } = takes.number;
  const set = (typed: number) => onSet(whole ? Math.round(typed) : typed);
  return (
    <NumberField
      label={label}
      fieldKey={id}
      spec={{ unit, step: 1, fine_step: whole ? 1 : 0.5 }}
      value={typeof value === "number" ? value : proposed}
      onCommit={(typed) => {
        set(typed);
        return undefined;
      }}
      onStep={set}
    />
  );
}
