import { Button } from "@chakra-ui/react";
import { type SyntheticEvent, useState } from "react";
import { answer, api, type ApiError, detail, words } from "../api/client";
import type { AfterBody, BetweenView, Catalogue, PlannedStep, PlanProposed, Quantity, Side } from "../api/types";
import { Picker } from "../cards/Picker";
import { specOf } from "../fit/fields";
import { useKept } from "../ui/useKept";
import { daysBetween, inDays, later } from "../ui/days";
import { parse, suffix } from "../ui/format";
import { HeadRow } from "../ui/HeadRow";
import { Problem } from "../ui/Problem";

interface Wanted {
  quantity: Quantity;
  side: Side | "both";
  by: string;
  /** The post answers, so that the knee stays. */
  linked?: boolean;
}

interface Typed {
  targets: Wanted[];
  careful?: boolean;
  start?: string;
  days?: string;
}

interface PlanProps {
  id: string;
  catalogue: Catalogue;
  view: BetweenView;
  write: (body: AfterBody) => Promise<void>;
}

/** From today to a target in safe steps: typed, worked out, its days moved, kept, withdrawn. */
export function Plan({ id, catalogue, view, write }: PlanProps) {
  const { state: typed, edit: setTyped } = useKept<Typed>(`wedge-plan-${id}`, { targets: [] });
  const [proposed, setProposed] = useState<PlanProposed>();
  const [refused, setRefused] = useState<ApiError>();
  const [problem, setProblem] = useState<string>();
  const careful = typed.careful ?? view.careful != null;
  const start = typed.start ?? inDays(1);
  const days = typed.days ?? String(view.hold_days);
  const first = view.bolts.find((bolt) => bolt === "saddle_height_mm") ?? view.bolts[0];
  const targets: Wanted[] =
    typed.targets.length > 0 ? typed.targets : first ? [{ quantity: first, side: "both", by: "" }] : [];
  const change = (index: number, part: Partial<Wanted>) =>
    setTyped({ targets: targets.map((target, at) => (at === index ? { ...target, ...part } : target)) });

  const workOut = (event: SyntheticEvent) => {
    event.preventDefault();
    const body = {
      targets: targets.map((target) => ({
        quantity: target.quantity,
        side: target.side === "both" ? null : target.side,
        by: parse(target.by) ?? 0,
        linked: target.linked ?? false,
      })),
      careful,
      start,
      hold_days: parse(days) ?? 0,
    };
    void answer<PlanProposed>(api.POST("/api/sessions/{id}/plan", { params: { path: { id } }, body })).then(
      (plan) => {
        setProposed(plan);
        setRefused(undefined);
      },
      (error: unknown) => {
        setProposed(undefined);
        setRefused(error as ApiError);
      },
    );
  };
  const keep = (steps: PlannedStep[]) =>
    void write({ plan: { steps } }).then(
      () => {
        setProposed(undefined);
        setProblem(undefined);
        setTyped({ targets: [] });
      },
      (error: unknown) => setProblem(detail(error as ApiError) ?? words(error)),
    );

  return (
    <section className="between" aria-labelledby="plan">
      <h2 id="plan">Adaptation plan</h2>
      {view.plan ? (
        <>
          <p>
            <b>{view.plan.words}</b>
          </p>
          <Problem words={view.plan.paused ?? undefined} />
          <Steps steps={view.plan.steps} today={view.plan.today ?? undefined} onMove={(steps) => keep(steps)} />
          <div className="buttons">
            {view.plan.paused != null && (
              <Button variant="solid" onClick={() => keep(view.plan?.steps ?? [])}>
                Go on with it as it stands
              </Button>
            )}
            <Button asChild>
              <a href={`/api/sessions/${id}/plan.ics`}>Days for a calendar</a>
            </Button>
            <Button onClick={() => keep([])}>Withdraw the plan</Button>
          </div>
        </>
      ) : (
        <p>None yet. From where the bike stands now, in steps the body keeps up with.</p>
      )}
      <Problem words={problem} />

      {!first && (
        <p className="number-hint">The bike as found comes first: what is not on record cannot be planned from.</p>
      )}
      <form onSubmit={workOut} aria-label="A new plan" hidden={!first}>
        <h3>{view.plan ? "Another one in its place" : "What is to move, and how far"}</h3>
        {targets.map((target, index) => (
          <div className="target" key={index}>
            <Picker
              label={index === 0 ? "What" : `What, ${index + 1}`}
              value={target.quantity}
              options={view.bolts.map((bolt) => ({ key: bolt, words: specOf(catalogue, bolt)?.label ?? "" }))}
              onPick={(quantity) => change(index, { quantity, side: "both", linked: false })}
            />
            {specOf(catalogue, target.quantity)?.per_side && (
              <Picker
                label="Side"
                value={target.side}
                options={[
                  { key: "both", words: "both" },
                  { key: "left", words: "left" },
                  { key: "right", words: "right" },
                ]}
                onPick={(side) => change(index, { side })}
              />
            )}
            <div className="text-field">
              <label htmlFor={`by-${index}`}>
                By how much,{suffix(specOf(catalogue, target.quantity)?.unit ?? "mm")}
              </label>
              <input
                id={`by-${index}`}
                inputMode="decimal"
                autoComplete="off"
                value={target.by}
                aria-invalid={refused?.at(`/targets/${index}/by`) !== undefined}
                onChange={(event) => change(index, { by: event.target.value })}
              />
            </div>
            {view.linked.includes(target.quantity) && (
              <label className="check">
                <input
                  type="checkbox"
                  checked={target.linked ?? false}
                  onChange={(event) => change(index, { linked: event.target.checked })}
                />
                The post keeps the knee
              </label>
            )}
            {targets.length > 1 && (
              <Button variant="plain" onClick={() => setTyped({ targets: targets.filter((_, at) => at !== index) })}>
                Not this
              </Button>
            )}
            <Problem words={refused?.errors.find((e) => e.pointer.startsWith(`/targets/${index}/`))?.detail} />
          </div>
        ))}
        {first && (
          <Button
            variant="plain"
            onClick={() => setTyped({ targets: [...targets, { quantity: first, side: "both", by: "" }] })}
          >
            And something else
          </Button>
        )}
        <div className="target">
          <div className="text-field">
            <label htmlFor="start">First step on</label>
            <input id="start" type="date" value={start} onChange={(event) => setTyped({ start: event.target.value })} />
          </div>
          <div className="text-field">
            <label htmlFor="days">Days a step is held</label>
            <input
              id="days"
              inputMode="numeric"
              value={days}
              onChange={(event) => setTyped({ days: event.target.value })}
            />
          </div>
          <label className="check">
            <input
              type="checkbox"
              checked={careful}
              onChange={(event) => setTyped({ careful: event.target.checked })}
            />
            Small steps
          </label>
        </div>
        {view.careful != null && <p className="number-hint">{view.careful}</p>}
        <Problem
          words={
            refused &&
            (refused.errors.find((e) => !e.pointer.startsWith("/targets/"))?.detail ??
              (refused.errors.length === 0 ? refused.message : undefined))
          }
        />
        <div className="buttons">
          <Button type="submit" variant="solid">
            Work out the steps
          </Button>
        </div>
      </form>
      {proposed && (
        <div role="status">
          <Steps steps={proposed.steps} onMove={(steps) => setProposed({ ...proposed, steps })} />
          {proposed.short.map((line) => (
            <p key={line} className="number-warning">
              {line}
            </p>
          ))}
          <div className="buttons">
            <Button variant="solid" disabled={proposed.steps.length === 0} onClick={() => keep(proposed.steps)}>
              Keep this plan
            </Button>
          </div>
        </div>
      )}
    </section>
  );
}

interface StepsProps {
  steps: PlannedStep[];
  today?: number | undefined;
  /** A step's day was moved: those after it move along. */
  onMove: (steps: PlannedStep[]) => void;
}

function Steps({ steps, today, onMove }: StepsProps) {
  const moved = (index: number, to: string) => {
    const from = steps[index]?.on;
    if (!from || to === "") return;
    const by = daysBetween(from, to);
    onMove(steps.map((step, at) => (at < index ? step : { ...step, on: later(step.on, by) })));
  };
  return (
    <table className="plans">
      <HeadRow columns={["Step", "From", "What", "When it is too much"]} />
      <tbody>
        {steps.map((step, index) => (
          <tr key={index} aria-current={index === today ? "step" : undefined}>
            <td className="n">
              {index + 1}
              {index === today && " · today"}
            </td>
            <td>
              <input
                type="date"
                className="plain-select"
                aria-label={`Step ${index + 1}, from`}
                value={step.on}
                onChange={(event) => moved(index, event.target.value)}
              />
            </td>
            <td>
              <b>{step.title}</b>
              <br />
              {step.words}
            </td>
            <td>{step.stop}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
