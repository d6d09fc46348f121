import { Button, chakra, Flex } from "@chakra-ui/react";
import { useState } from "react";
import { ApiError } from "../api/client";
import type {
  Catalogue,
  Conventions,
  GoverningBody,
  HandPlace,
  House,
  Kind,
  KindRange,
  Leads,
  Output,
  OwnRange,
  Part,
  Quantity,
  Range,
  RotorLine,
  SpacerBudget,
  Units,
} from "../api/types";
import { Choice } from "../ui/Choice";
import { NumberField } from "../ui/NumberField";
import { WordsField } from "../ui/WordsField";
import { outputOf } from "../fit/fields";
import type { HouseWrites } from "./useHouse";

/** The server always writes every setting; only a file may leave some out. */
export type FullHouse = Required<House> & {
  conventions: Conventions;
  walk: Quantity[];
  leads: Leads;
  units: Units;
  ranges: KindRange[];
  parts: Part[];
  budget: Required<SpacerBudget>;
  bodies: GoverningBody[];
  rotors: RotorLine[];
};

interface HouseRulesProps extends Pick<HouseWrites, "put" | "take"> {
  house: FullHouse;
  catalogue: Catalogue;
}

/** The studio's name, units and leading schools, and its ranges by kind of riding. */
export function HouseRules({ house, catalogue, put, take }: HouseRulesProps) {
  const [name, setName] = useState<string>();
  const save = (change: Partial<FullHouse>) => void take(put(change), "Saved");
  return (
    <>
      <Flex gap="40px" wrap="wrap" align="start" marginTop="10px">
        <chakra.section flex="1" minWidth="320px" aria-labelledby="name-units">
          <h2 id="name-units">Name and units</h2>
          <WordsField
            label="The studio’s name, for the hand-out"
            value={house.name}
            typed={name}
            onTyped={setName}
            onCommit={async (text) => {
              await take(put({ name: text.trim() }), "Saved");
              return undefined;
            }}
          />
          <Choice<Units["length"]>
            label="Lengths are shown and typed in"
            options={catalogue.length_units}
            value={house.units.length}
            onPick={(length) => length && save({ units: { ...house.units, length } })}
          />
          <Choice<Units["mass"]>
            label="Masses in"
            options={catalogue.mass_units}
            value={house.units.mass}
            onPick={(mass) => mass && save({ units: { ...house.units, mass } })}
          />
          <p className="number-hint">
            What is said in sentences, and the travel of a bolt, stay in mm. Any unit can be typed behind a number.
          </p>
        </chakra.section>
        <chakra.section flex="1" minWidth="320px" aria-labelledby="leads">
          <h2 id="leads">Which schools lead</h2>
          <p className="number-hint">The others stay visible beside it.</p>
          <Choice<Leads["cleat"]>
            label="Cleat"
            options={catalogue.words.cleat_school}
            value={house.leads.cleat}
            onPick={(cleat) => cleat && save({ leads: { ...house.leads, cleat } })}
          />
          <Choice<Leads["crank"]>
            label="Crank"
            options={catalogue.words.crank_school}
            value={house.leads.crank}
            onPick={(crank) => crank && save({ leads: { ...house.leads, crank } })}
          />
          <Choice<Leads["saddle_height"]>
            label="Saddle height by"
            options={catalogue.words.height_school}
            value={house.leads.saddle_height}
            onPick={(height) => height && save({ leads: { ...house.leads, saddle_height: height } })}
          />
          <Choice<Leads["setback"]>
            label="Setback by"
            options={catalogue.words.setback_school}
            value={house.leads.setback}
            onPick={(setback) => setback && save({ leads: { ...house.leads, setback } })}
          />
          <Choice<Leads["hands"]>
            label="Hands by"
            options={catalogue.words.hand_school}
            value={house.leads.hands}
            onPick={(hands) => hands && save({ leads: { ...house.leads, hands } })}
          />
          <Choice<Leads["landmark"]>
            label="Plumb line from"
            options={catalogue.words.landmark}
            value={house.leads.landmark}
            onPick={(landmark) => landmark && save({ leads: { ...house.leads, landmark } })}
          />
          <Choice<Leads["drop_ends"]>
            label="Drop bars are rolled by"
            options={catalogue.words.drop_ends}
            value={house.leads.drop_ends}
            onPick={(ends) => ends && save({ leads: { ...house.leads, drop_ends: ends } })}
          />
        </chakra.section>
      </Flex>
      <Ranges house={house} catalogue={catalogue} put={put} take={take} />
    </>
  );
}

/** What a range can be given for besides those the house has. */
const OFFERED: [Output, HandPlace | null][] = [
  ["knee_at_full_reach_deg", null],
  ["knee_most_bent_deg", null],
  ["knee_over_axle_mm", null],
  ["hip_closed_deg", null],
  ["seat_angle_deg", null],
  ["drop_share_percent", null],
  ["torso_deg", "hoods"],
  ["torso_deg", "grips"],
  ["torso_deg", "pads"],
  ["shoulder_deg", "hoods"],
  ["elbow_deg", "hoods"],
];

const ENDS = ["outer_low", "low", "high", "outer_high"] as const;
const END_LABEL = { outer_low: "outer from", low: "from", high: "to", outer_high: "outer to" } as const;

const same = (a: Pick<OwnRange, "output" | "hands">, b: Pick<OwnRange, "output" | "hands">) =>
  a.output === b.output && (a.hands ?? null) === (b.hands ?? null);

/** The ranges that mark the outputs of one kind of riding, each end to be typed, each to be put back. */
function Ranges({ house, catalogue, put, take }: HouseRulesProps) {
  const [kind, setKind] = useState<Kind>("road");
  const own = house.ranges.filter((r) => r.kind === kind).map((r) => r.range);
  const base: Range[] = catalogue.kinds.find((k) => k.kind === kind)?.ranges ?? [];
  const shown: OwnRange[] = [
    ...base.map((range) => own.find((o) => same(o, range)) ?? range),
    ...own.filter((o) => !base.some((range) => same(o, range))),
  ].map(({ output, hands, low, high, outer_low, outer_high }) => ({ output, hands, low, high, outer_low, outer_high }));
  const others = house.ranges.filter((r) => r.kind !== kind);
  const write = (next: OwnRange[]) => put({ ranges: [...others, ...next.map((range) => ({ kind, range }))] });
  const label = (range: Pick<OwnRange, "output" | "hands">) => {
    const spec = outputOf(catalogue, range.output);
    const place = catalogue.bars.flatMap((b) => b.places).find((p) => p.place === range.hands);
    return `${spec?.label ?? range.output}${place ? `, on the ${place.word}` : ""}`;
  };
  const missing = OFFERED.filter(([output, hands]) => !shown.some((r) => same(r, { output, hands })));
  return (
    <chakra.section marginTop="28px" aria-labelledby="ranges">
      <Flex justify="space-between" align="end" wrap="wrap" gap="12px">
        <h2 id="ranges">Ranges</h2>
        <Choice<Kind>
          label="Kind of riding"
          options={catalogue.kinds.map((k) => ({ key: k.kind, label: k.word }))}
          value={kind}
          onPick={(next) => next && setKind(next)}
        />
        <Button disabled={own.length === 0} onClick={() => void take(write([]), "The house’s ranges are back")}>
          Put them all back
        </Button>
      </Flex>
      <p className="number-hint">
        Outside its range a value is marked, outside the outer range twice. An end is saved as it is typed; all four
        must stay in order.
      </p>
      <table className="rows ranges" key={kind}>
        <thead>
          <tr>
            <th scope="col" style={{ textAlign: "left" }}>
              Value
            </th>
            {ENDS.map((end) => (
              <th key={end} scope="col">
                {END_LABEL[end]}
              </th>
            ))}
            <th scope="col">source</th>
            <td />
          </tr>
        </thead>
        <tbody>
          {shown.map((range) => {
            const mine = own.some((o) => same(o, range));
            const house = base.find((b) => same(b, range));
            const spec = outputOf(catalogue, range.output);
            return (
              <tr key={label(range)}>
                <th scope="row">{label(range)}</th>
                {ENDS.map((end) => (
                  <td key={end}>
                    <NumberField
                      label={`${label(range)}, ${END_LABEL[end]}`}
                      labelHidden
                      spec={{ unit: spec?.unit ?? "deg", step: 1, fine_step: 0.5 }}
                      value={range[end]}
                      onCommit={async (value) => {
                        const next = [...own.filter((o) => !same(o, range)), { ...range, [end]: value }];
                        try {
                          const answered = await write(next);
                          await take(Promise.resolve(answered), "Saved");
                          return undefined;
                        } catch (error) {
                          return error instanceof ApiError
                            ? (error.errors[0]?.detail ?? error.message)
                            : "That could not be saved";
                        }
                      }}
                    />
                  </td>
                ))}
                <td className="source">{mine ? "this studio’s own" : house?.source}</td>
                <td>
                  {mine && (
                    <button
                      type="button"
                      className="more"
                      aria-label={`${label(range)}: ${house ? "back to the house’s" : "take it out"}`}
                      onClick={() => void take(write(own.filter((o) => !same(o, range))), "Put back")}
                    >
                      {house ? "put back" : "take out"}
                    </button>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {missing.length > 0 && (
        <Choice
          label="Add a range"
          options={missing.map(([output, hands]) => ({
            key: `${output}|${hands ?? ""}`,
            label: label({ output, hands }),
          }))}
          value={null}
          none="of what…"
          onPick={(key) => {
            const [output, hands] = (key ?? "").split("|") as [Output, HandPlace | ""];
            const found = missing.find(([o, h]) => o === output && (h ?? "") === hands);
            if (found) {
              void take(
                write([...own, { output, hands: found[1], outer_low: 0, low: 30, high: 60, outer_high: 90 }]),
                "Added: type its ends",
              );
            }
          }}
        />
      )}
    </chakra.section>
  );
}
