import { Button } from "@chakra-ui/react";
import { useState } from "react";
import { detail } from "../api/client";
import type { DueAgain as Due } from "../api/types";
import { enterInTrial, saveSaddle } from "../fit/sends";
import { useFit } from "../fit/useFit";
import { sentence } from "../ui/format";
import { Keycap } from "../ui/Keycap";
import { useKeys } from "../ui/keys";
import { NumberField } from "../ui/NumberField";
import { ForeseeStep } from "./Foresee";

type Item = Due["due"][number];

/** What is due again since the front moved: this station's, and all of it at the recheck, checked with a key or given back, the others' named. */
export function DueAgain() {
  const { view, station, finished, bench, pending, post, go } = useFit();
  const [last, setLast] = useState<{ trial: string; item: Item }>();
  const again = view.due_again;
  const open = again && !finished && !bench && !pending ? again : undefined;
  const isHere = (item: Item) => station.station === "recheck" || item.station === station.station;
  const due = open?.due ?? [];
  const check = (item: Item) => {
    if (!open) return;
    setLast({ trial: open.trial, item });
    void post(enterInTrial(open.trial, { checked: { due: item.due, stays: true } }));
  };
  const first = due.find(isHere) ?? due[0];
  useKeys({ x: first && (() => check(first)) });
  if (!open && !last) return null;
  return (
    <section className="due-again" aria-label="Due again">
      {open && <h3>Due again since {open.title.toLowerCase()}</h3>}
      <ul>
        {due.filter(isHere).map((item, index) => (
          <li key={item.due}>
            <b>{item.label}</b>
            <p>{sentence(item.words)}</p>
            <span className="buttons">
              <ForeseeStep step={item.step} />
              <Button size="sm" onClick={() => check(item)} aria-label={`Checked, stays: ${item.label.toLowerCase()}`}>
                Checked, stays {index === 0 && <Keycap>X</Keycap>}
              </Button>
            </span>
            {item.due === "setback" && open && <SitsAhead trial={open.trial} />}
          </li>
        ))}
        {due
          .filter((item) => !isHere(item))
          .map((item) => (
            <li key={item.due} className="elsewhere">
              <button type="button" className="more" onClick={() => go(item.station)}>
                {item.label}
              </button>
              {item.step && <span> {item.step.title.toLowerCase()}</span>}
            </li>
          ))}
      </ul>
      {last && (
        <p className="settled">
          {last.item.label}: checked, stays.{" "}
          <button
            type="button"
            className="more"
            onClick={() => {
              setLast(undefined);
              void post(enterInTrial(last.trial, { checked: { due: last.item.due, stays: false } }));
            }}
          >
            Undo
          </button>
        </p>
      )}
    </section>
  );
}

/** How far ahead the rider sits now: looked at, it teaches how far this rider slides, and the model sits there. */
function SitsAhead({ trial }: { trial: string }) {
  const { view, post } = useFit();
  const before = view.session.saddle?.sits_ahead_mm ?? 0;
  return (
    <NumberField
      label="Sits ahead of the sit reference now"
      fieldKey="due.sits_ahead_mm"
      spec={{ unit: "mm", step: 1, fine_step: 1, min: -40, max: 120 }}
      value={undefined}
      placeholder="look"
      onCommit={async (mm) => {
        const told = { due: "setback" as const, stays: true, sits_ahead_mm: mm, sat_ahead_mm: before };
        const error =
          (await post(saveSaddle({ sits_ahead_mm: mm }))) ?? (await post(enterInTrial(trial, { checked: told })));
        return detail(error);
      }}
    />
  );
}
