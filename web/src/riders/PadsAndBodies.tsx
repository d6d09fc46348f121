import { Button, chakra } from "@chakra-ui/react";
import { useState } from "react";
import type { GoverningBody } from "../api/types";
import { number } from "../ui/format";
import { NumberField } from "../ui/NumberField";
import { TextField } from "../ui/TextField";
import type { FullHouse } from "./HouseRules";
import type { HouseWrites } from "./useHouse";

interface PadsAndBodiesProps extends HouseWrites {
  house: FullHouse;
}

const MM = { unit: "mm", step: 5, fine_step: 1, min: 0, max: 150 } as const;
const PARTS = [
  ["stem_mm", "Under the stem, at the most"],
  ["pads_mm", "Under the pads, at the most"],
  ["slide_mm", "Pads slide, either way"],
] as const;

/** What a position on pads is held against: the parts' limits, and what governing bodies allow, as somebody read it. */
export function PadsAndBodies({ house, put, take, takeBeside }: PadsAndBodiesProps) {
  const { budget, bodies } = house;
  const [adding, setAdding] = useState(false);
  return (
    <chakra.section marginTop="28px" aria-labelledby="pads">
      <h2 id="pads">Pads and federations</h2>
      <div className="three-fields">
        {PARTS.map(([key, label]) => (
          <NumberField
            key={key}
            label={label}
            fieldKey={`budget.${key}`}
            spec={MM}
            value={budget[key]}
            onCommit={(mm) => takeBeside(put({ budget: { ...budget, [key]: mm } }), "Saved")}
          />
        ))}
      </div>
      <p className="number-hint">
        Pads slide so far from where they were found, until their slots are typed with the bike. Tables of governing
        bodies are this studio’s own notes, each with the day it was read: check the current rules.
      </p>
      <ul className="bodies">
        {bodies.map((body) => (
          <li key={`${body.name}${body.read_on}`}>
            <b>{body.name}</b>, read {body.read_on}: {told(body)}.{" "}
            <button
              type="button"
              className="more"
              aria-label={`Take ${body.name} out`}
              onClick={() => void take(put({ bodies: bodies.filter((other) => other !== body) }), "Taken out")}
            >
              Take out
            </button>
          </li>
        ))}
      </ul>
      {adding ? (
        <NewBody
          onAdd={async (body) => {
            const sent = put({ bodies: [...bodies, body] });
            await take(sent, "Added");
            // What was refused stays typed.
            await sent.then(
              () => setAdding(false),
              () => undefined,
            );
          }}
          onLeave={() => setAdding(false)}
        />
      ) : (
        <Button size="sm" onClick={() => setAdding(true)}>
          Add a federation’s table
        </Button>
      )}
    </chakra.section>
  );
}

function told(body: GoverningBody): string {
  const classes = body.extension_reach ?? [];
  const all = [
    body.setback_nose_mm != null && `nose ${number(body.setback_nose_mm)} mm or more behind the BB`,
    body.saddle_tilt_deg != null && `saddle tilt up to ${number(body.saddle_tilt_deg)}°`,
    body.pads_to_ends_mm != null && `extensions up to ${number(body.pads_to_ends_mm)} mm above the pads`,
    ...classes.map((c) => `reach ${number(c.reach_mm)} mm up to a stature of ${number(c.up_to_mm)}`),
  ];
  return all.filter((words) => words !== false).join("; ") || "nothing limited";
}

type Limits = Record<"setback_nose_mm" | "saddle_tilt_deg" | "pads_to_ends_mm" | "reach_mm", number | undefined>;
const NONE: Limits = {
  setback_nose_mm: undefined,
  saddle_tilt_deg: undefined,
  pads_to_ends_mm: undefined,
  reach_mm: undefined,
};
const LIMITS: [keyof Limits, string, "mm" | "deg"][] = [
  ["setback_nose_mm", "Nose behind the BB, at least", "mm"],
  ["saddle_tilt_deg", "Saddle tilt, at the most", "deg"],
  ["pads_to_ends_mm", "Extensions above the pads, at the most", "mm"],
  ["reach_mm", "Extensions ahead of the BB, at the most", "mm"],
];

function NewBody({ onAdd, onLeave }: { onAdd: (body: GoverningBody) => Promise<void>; onLeave: () => void }) {
  const [name, setName] = useState("");
  const [day, setDay] = useState("");
  const [limits, setLimits] = useState(NONE);
  const { reach_mm, ...others } = limits;
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        const reach = reach_mm === undefined ? [] : [{ up_to_mm: 2300, reach_mm }];
        void onAdd({ name, read_on: day, ...others, extension_reach: reach });
      }}
    >
      <div className="three-fields">
        <TextField label="Federation" value={name} onChange={setName} />
        <TextField label="Read on (2026-03-01)" value={day} onChange={setDay} />
        {LIMITS.map(([key, label, unit]) => (
          <NumberField
            key={key}
            label={label}
            fieldKey={`body.${key}`}
            spec={{ unit, step: 5, fine_step: 1 }}
            value={limits[key]}
            placeholder="not limited"
            onCommit={(value) => {
              setLimits((before) => ({ ...before, [key]: value }));
              return undefined;
            }}
          />
        ))}
      </div>
      <div className="buttons">
        <Button type="submit" variant="solid">
          Add
        </Button>
        <Button onClick={onLeave}>Leave it</Button>
      </div>
    </form>
  );
}
