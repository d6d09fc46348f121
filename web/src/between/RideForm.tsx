import { Button } from "@chakra-ui/react";
import { type SyntheticEvent, useState } from "react";
import { type ApiError, newId } from "../api/client";
import type { LedgerRide, LedgerView } from "../api/types";
import { inDays } from "../ui/days";
import { parse } from "../ui/format";
import { Problem } from "../ui/Problem";
import { TextField } from "../ui/TextField";
import { useKept } from "../ui/useKept";

interface Typed {
  on: string;
  circuit: string;
  minutes: string;
  effort: string;
  power: string;
  cadence: string;
  step: string;
  /** By "hands left". */
  ratings: Record<string, string>;
  moved: string[];
  signs: string[];
  words: string;
}

const NOTHING: Typed = {
  on: "",
  circuit: "",
  minutes: "",
  effort: "",
  power: "",
  cadence: "",
  step: "",
  ratings: {},
  moved: [],
  signs: [],
  words: "",
};

interface RideFormProps {
  id: string;
  view: LedgerView;
  write: (rides: LedgerRide[]) => Promise<void>;
}

/** What is no number is refused with the range it should have been in. */
const asTyped = (text: string) => (text.trim() === "" ? undefined : (parse(text) ?? -1));
const toggled = (all: string[], key: string) => (all.includes(key) ? all.filter((k) => k !== key) : [...all, key]);

/** A ride off a paper card, typed in. */
export function RideForm({ id, view, write }: RideFormProps) {
  const { state: typed, edit: set } = useKept<Typed>(`wedge-ride-${id}`, NOTHING);
  const [refused, setRefused] = useState<ApiError>();
  const [plan, step] = view.today;
  const fields = view.ratings.flatMap((rating) =>
    (rating.per_side ? (["left", "right"] as const) : [undefined]).map((side) => ({
      rating,
      side,
      key: side ? `${rating.key} ${side}` : rating.key,
      label: side ? `${rating.label}, ${side}` : rating.label,
    })),
  );
  const send = (event: SyntheticEvent) => {
    event.preventDefault();
    const ride = {
      id: newId(),
      on: typed.on === "" ? inDays(0) : typed.on,
      circuit: typed.circuit.trim(),
      minutes: asTyped(typed.minutes),
      effort: typed.effort === "" ? undefined : Number(typed.effort),
      power_w: asTyped(typed.power),
      cadence_rpm: asTyped(typed.cadence),
      plan,
      step: typed.step === "" ? step : Number(typed.step),
      moved: typed.moved,
      signs: typed.signs,
      ratings: fields
        .filter(({ key }) => (typed.ratings[key] ?? "") !== "")
        .map(({ rating, side, key }) => ({ rating: rating.key, side, value: Number(typed.ratings[key]) })),
      words: typed.words,
    };
    void write([ride as LedgerRide]).then(
      () => {
        setRefused(undefined);
        set({ ...NOTHING, circuit: typed.circuit });
      },
      (error: unknown) => setRefused(error as ApiError),
    );
  };
  return (
    <section className="between" aria-labelledby="typed-ride">
      <h2 id="typed-ride">Type a ride in</h2>
      <form onSubmit={send}>
        <div className="target">
          <div className="text-field">
            <label htmlFor="ride-on">Day</label>
            <input
              id="ride-on"
              type="date"
              value={typed.on === "" ? inDays(0) : typed.on}
              onChange={(event) => set({ on: event.target.value })}
            />
            <Problem words={refused?.at("/on")} />
          </div>
          <TextField
            label="Circuit"
            value={typed.circuit}
            error={refused?.at("/circuit")}
            onChange={(circuit) => set({ circuit })}
          />
          <TextField
            label="Minutes"
            inputMode="decimal"
            value={typed.minutes}
            error={refused?.at("/minutes")}
            onChange={(minutes) => set({ minutes })}
          />
          <Scale label="Effort, of 10" most={10} value={typed.effort} onPick={(effort) => set({ effort })} />
          <TextField
            label="Power, W"
            inputMode="decimal"
            value={typed.power}
            error={refused?.at("/power_w")}
            onChange={(power) => set({ power })}
          />
          <TextField
            label="Cadence, rpm"
            inputMode="decimal"
            value={typed.cadence}
            error={refused?.at("/cadence_rpm")}
            onChange={(cadence) => set({ cadence })}
          />
          {plan > 0 && (
            <TextField
              label="Step of the plan"
              inputMode="decimal"
              value={typed.step === "" ? String(step) : typed.step}
              error={refused?.at("/step")}
              onChange={(text) => set({ step: text.replace(/\D/g, "") })}
            />
          )}
        </div>
        <h3>What was felt: 0 nothing, 10 unbearable</h3>
        <div className="target ratings">
          {fields.map(({ rating, key, label }) => (
            <Scale
              key={key}
              label={rating.scale === "" ? label : `${label}: ${rating.scale}`}
              most={rating.most}
              value={typed.ratings[key] ?? ""}
              onPick={(value) => set({ ratings: { ...typed.ratings, [key]: value } })}
            />
          ))}
        </div>
        {[
          {
            title: "Moved before it",
            words: view.moves,
            chosen: typed.moved,
            edit: (moved: string[]) => set({ moved }),
          },
          {
            title: "Did any of this come?",
            words: view.signs,
            chosen: typed.signs,
            edit: (signs: string[]) => set({ signs }),
          },
        ].map(({ title, words, chosen, edit }) => (
          <fieldset key={title} className="target">
            <legend>{title}</legend>
            {words.map(({ key, label }) => (
              <label key={key} className="check">
                <input type="checkbox" checked={chosen.includes(key)} onChange={() => edit(toggled(chosen, key))} />
                {label}
              </label>
            ))}
          </fieldset>
        ))}
        <TextField
          label="In the rider’s words"
          value={typed.words}
          error={refused?.at("/words")}
          onChange={(words) => set({ words })}
        />
        <Problem words={refused && refused.errors.length === 0 ? refused.message : undefined} />
        <div className="buttons">
          <Button type="submit">Write the ride down</Button>
        </div>
      </form>
    </section>
  );
}

interface ScaleProps {
  label: string;
  most: number;
  value: string;
  onPick: (value: string) => void;
}

function Scale({ label, most, value, onPick }: ScaleProps) {
  return (
    <label className="scale">
      {label}
      <select className="plain-select" value={value} onChange={(event) => onPick(event.target.value)}>
        <option value="">–</option>
        {Array.from({ length: most + 1 }, (_, n) => (
          <option key={n}>{n}</option>
        ))}
      </select>
    </label>
  );
}
