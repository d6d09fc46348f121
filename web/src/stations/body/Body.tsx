import "./body.css";
import { Button } from "@chakra-ui/react";
import { useState } from "react";
import type { LimitRow, MeasureView, Quantity, Side, Spec } from "../../api/types";
import { AskedLimits } from "../../cards/AskedLimits";
import { WorthReading } from "../../cards/WorthReading";
import { keyOf, specOf } from "../../fit/fields";
import { useFit } from "../../fit/useFit";
import { number, withUnit, sentence } from "../../ui/format";
import { useKeys } from "../../ui/keys";
import { NumberField } from "../../ui/NumberField";
import { Problem } from "../../ui/Problem";
import { Taking } from "./Taking";
import { HeadRow } from "../../ui/HeadRow";

const GROUPS: [title: string, quantities: Quantity[]][] = [
  [
    "Whole",
    [
      "stature_mm",
      "mass_kg",
      "inseam_mm",
      "inseam_shod_mm",
      "trunk_mm",
      "shoulder_breadth_mm",
      "arm_span_mm",
      "knuckle_height_mm",
      "fist_angle_deg",
      "hip_breadth_mm",
      "sit_bones_mm",
    ],
  ],
  ["Legs", ["thigh_mm", "shank_mm", "ankle_height_mm"]],
  ["Arms", ["arm_mm", "upper_arm_mm", "forearm_mm"]],
  ["Feet", ["foot_length_mm", "foot_width_mm", "shoe_size_eu", "arch_height_mm", "forefoot_tilt_deg"]],
  ["One leg shorter, and where", ["thigh_shorter_mm", "shank_shorter_mm", "foot_lower_mm", "looks_shorter_mm"]],
  [
    "Limits, with their end points",
    [
      "hip_limit_deg",
      "straight_leg_raise_deg",
      "knee_limit_deg",
      "ankle_limit_deg",
      "shoulder_limit_deg",
      "back_limit_deg",
      "neck_extension_deg",
    ],
  ],
];

/** "846 ± 1.5 of 3". */
function together(measure: MeasureView, spec: Spec): string | undefined {
  const { repeated, readings } = measure;
  if (!repeated || readings.length < 2) return undefined;
  return `${number(repeated.mean, spec.unit)} ± ${withUnit(repeated.spread ?? 0, spec.unit)} of ${readings.length}`;
}

/** Every measure of the body: a number typed again is another reading of the same. */
export function BodyMeasures() {
  const { view, catalogue, finished, draft, setText, looked, bodyReading } = useFit();
  const field = (quantity: Quantity, side: Side | null) => {
    const spec = specOf(catalogue, quantity);
    const measure = view.body.find((m) => m.quantity === quantity && (m.side ?? null) === side);
    if (!spec || !measure) return null;
    const key = keyOf(quantity, side);
    const estimate =
      measure.estimate == null
        ? undefined
        : `≈ ${measure.estimate.toFixed(0)} ± ${(measure.estimate_spread ?? 0).toFixed(0)}`;
    return (
      <NumberField
        key={key}
        label={side ? `${spec.label}, ${side}` : spec.label}
        fieldKey={key}
        spec={spec}
        value={measure.measured ?? undefined}
        typed={draft.texts[key]}
        onTyped={(text) => setText(key, text)}
        placeholder={estimate ?? "not taken"}
        readOnly={finished}
        hint={together(measure, spec)}
        warning={key === looked ? undefined : measure.questions[0]}
        onCommit={(value) => bodyReading(quantity, side, value)}
      />
    );
  };
  return (
    <div className="station-page">
      <div className="body-page">
        {GROUPS.map(([title, quantities]) => (
          <section key={title} aria-label={title}>
            <h2>{title}</h2>
            <div className="measure-grid">
              {quantities.flatMap((quantity) => {
                const spec = specOf(catalogue, quantity);
                return spec?.per_side ? [field(quantity, "left"), field(quantity, "right")] : [field(quantity, null)];
              })}
            </div>
          </section>
        ))}
      </div>
    </div>
  );
}

/** The measure at hand, what measuring has made surer, what the proportions ask for, limits against demand. */
export function BodyPanel() {
  const { view, catalogue, finished, problem, setProblem, looked, aside, go } = useFit();
  const measure = view.body.find((m) => keyOf(m.quantity, m.side) === looked);
  // The last reading of the measure at hand is set aside.
  const takeBack = () => {
    const last = measure?.readings.at(-1);
    if (last) void aside(last.id).then(setProblem);
  };
  useKeys({ "Ctrl+z": finished ? undefined : takeBack });
  return (
    <>
      {measure ? (
        <HowTo key={looked} measure={measure} />
      ) : (
        <section className="card">
          <h2>Body</h2>
          <p className="task">Measure the rider. What is not measured is estimated, and says so.</p>
          <p className="number-hint" style={{ marginTop: 6 }}>
            Type 845, 84,5 cm or 33 in. A number typed again is another reading; a wrong one is set aside here.
          </p>
        </section>
      )}
      <table className="rows">
        <caption>How sure the angles are</caption>
        <HeadRow columns={["", "stature alone", "now"]} />
        <tbody>
          {view.certainty.map((row) => (
            <tr key={row.label}>
              <th scope="row">{row.label}</th>
              <td>± {withUnit(row.with_stature_alone, row.unit)}</td>
              <td className="after">± {withUnit(row.band, row.unit)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <WorthReading />
      {view.calibration?.words && <p className="number-warning">{sentence(view.calibration.words)}</p>}
      <AskedLimits asked={view.asked} />
      {view.proportions.length > 0 && (
        <section aria-labelledby="proportions" className="proportions">
          <h3 id="proportions">Proportions</h3>
          {view.proportions.map((p) => (
            <p key={p.words}>
              <b>{p.words}</b>
              <br />
              {p.asks_for}.
            </p>
          ))}
        </section>
      )}
      <Limits rows={view.limits} />
      {!finished && (
        <div className="buttons">
          <Button variant="solid" onClick={() => go("bike_as_found")}>
            On to the bike as found
          </Button>
        </div>
      )}
      <p className="visually-hidden">{catalogue.body.length} measures</p>
      <Problem words={problem} />
    </>
  );
}

/** One measure: how it is taken, its readings, what is doubtful about them. */
function HowTo({ measure }: { measure: MeasureView }) {
  const { catalogue, finished, aside } = useFit();
  const [problem, setProblem] = useState<string>();
  const spec = specOf(catalogue, measure.quantity);
  const taking = catalogue.body.find((t) => t.quantity === measure.quantity)?.taking;
  if (!spec) return null;
  return (
    <section className="card how-to" aria-label="How it is taken" data-how={measure.quantity}>
      <h2>{measure.side ? `${spec.label}, ${measure.side}` : spec.label}</h2>
      <div className="how-to-row">
        <Taking quantity={measure.quantity} />
        <p>{taking}</p>
      </div>
      {measure.readings.length > 0 && (
        <>
          <p className="readings-line">
            {together(measure, spec) ?? `${withUnit(measure.measured ?? 0, spec.unit)}, one reading`}
            {measure.aside > 0 && `, ${measure.aside} set aside`}
          </p>
          <ul className="readings">
            {measure.readings.map((reading, index) => (
              <li key={reading.id} className={measure.repeated?.far.includes(index) ? "far" : undefined}>
                {withUnit(reading.value, spec.unit)}
                {measure.repeated?.far.includes(index) && <b> far off</b>}
                {!finished && (
                  <button
                    type="button"
                    className="more"
                    aria-label={`Set ${withUnit(reading.value, spec.unit)} aside`}
                    onClick={() => void aside(reading.id).then(setProblem)}
                  >
                    set aside
                  </button>
                )}
              </li>
            ))}
          </ul>
        </>
      )}
      {measure.questions.map((question) => (
        <p key={question} className="warn">
          {question}.
        </p>
      ))}
      <Problem words={problem} />
    </section>
  );
}

/** Limits against what the stroke asks, left and right, with what would open a short margin. */
function Limits({ rows }: { rows: LimitRow[] }) {
  const { closed, foreseeAt } = useFit();
  if (rows.length === 0) return null;
  const tested = rows.filter((row) => row.limit_deg != null);
  return (
    <>
      <table className="rows limits">
        <caption>Limit against demand</caption>
        <HeadRow columns={["", "limit", "asked", "room"]} />
        <tbody>
          {tested.map((row) => (
            <tr key={row.label} title={row.end_point}>
              <th scope="row">
                {row.label}
                {row.short && <span className="mark"> {row.words}</span>}
              </th>
              <td>{withUnit(row.limit_deg ?? 0, "deg")}</td>
              <td>{withUnit(row.demand_deg, "deg")}</td>
              <td className="after">{withUnit(row.margin_deg ?? 0, "deg")}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {tested.length === 0 && <p className="number-hint">No limit is tested on the table yet.</p>}
      {tested
        .filter((row) => row.remedies.length > 0)
        .map((row) => (
          <details key={row.label} className="remedies">
            <summary>What would open it: {row.label.toLowerCase()}</summary>
            <ul>
              {row.remedies.map((remedy) => (
                <li key={remedy.title}>
                  <b>{remedy.title}</b>:{" "}
                  {remedy.gained_deg == null
                    ? "not to be told in side view"
                    : `${withUnit(remedy.gained_deg, "deg")} gained`}
                  . {remedy.cost}.
                  {remedy.knock_ons.length > 0 && <span className="how"> Also {remedy.knock_ons.join(", ")}.</span>}
                  {closed && (
                    <button type="button" className="more" onClick={() => foreseeAt("saddle_height", remedy.changes)}>
                      foresee it
                    </button>
                  )}
                </li>
              ))}
            </ul>
          </details>
        ))}
    </>
  );
}
