import "./firstlook.css";
import { Button } from "@chakra-ui/react";
import { useState } from "react";
import type { Catalogue, LookBody, Method, Output, SeenRow, SessionView, Side } from "../api/types";
import { Choice } from "../ui/Choice";
import { number, suffix, withUnit } from "../ui/format";
import { Keycap } from "../ui/Keycap";
import { NumberField } from "../ui/NumberField";
import { WordsField } from "../ui/WordsField";

interface FirstLookProps {
  view: SessionView;
  catalogue: Catalogue;
  readOnly: boolean;
  texts: Record<string, string>;
  onText: (key: string, text: string | undefined) => void;
  onSee: (body: LookBody) => Promise<string | undefined>;
  onFit: () => void;
  onShow: () => void;
  shown: boolean;
  problem: string | undefined;
}

/** How many of the angles stand open. */
const COMMON = 6;

const METHODS: { key: Method; label: string }[] = [
  { key: "goniometer", label: "goniometer, ± 3°" },
  { key: "film", label: "a frame of film, ± 2°" },
];

/** The latest value seen on the setup that is on the bench. */
function seenOf(view: SessionView, output: Output, side: Side | null): SeenRow | undefined {
  return view.seen.findLast(({ entry }) => {
    if (entry.setup !== view.session.now || !("seen" in entry.body)) return false;
    const { seen } = entry.body;
    return seen.output === output && (seen.side ?? null) === side && (entry.hands ?? null) === view.now.after.hands;
  });
}

/** The first look: what is seen of the rider, beside what is foreseen. */
export function FirstLook(props: FirstLookProps) {
  const { view, catalogue, readOnly, texts, onText, onSee, onFit, onShow, shown, problem } = props;
  const [method, setMethod] = useState<Method>("goniometer");
  const [all, setAll] = useState(false);
  const outputs = all ? catalogue.sightings : catalogue.sightings.slice(0, COMMON);
  const { words } = catalogue;
  const last = (kind: "pelvis" | "shoulders" | "words") =>
    view.seen.map(({ entry }) => entry.body).findLast((body) => kind in body);
  const knee = (side: Side) => {
    const body = view.seen.map(({ entry }) => entry.body).findLast((b) => "knee" in b && b.knee.side === side);
    return body && "knee" in body ? body.knee.path : null;
  };
  const pelvis = last("pelvis");
  const shoulders = last("shoulders");
  const said = last("words");
  const spoken = said && "words" in said ? said.words : "";

  const field = (output: Output, side: Side | null) => {
    const spec = catalogue.outputs.find((o) => o.output === output);
    if (!spec) return null;
    const key = `look.${output}${side ? `.${side}` : ""}`;
    const seen = seenOf(view, output, side);
    const value = seen && "seen" in seen.entry.body ? (seen.entry.body.seen.value ?? undefined) : undefined;
    return (
      <NumberField
        key={key}
        label={`${spec.label}${side ? `, ${side}` : ""}, seen`}
        labelHidden
        fieldKey={key}
        spec={{ unit: spec.unit, step: 1, fine_step: 0.5, min: spec.seen_min, max: spec.seen_max }}
        value={value}
        typed={texts[key]}
        onTyped={(text) => onText(key, text)}
        readOnly={readOnly}
        onCommit={(read) => onSee({ seen: { output, side, value: read, method } })}
      />
    );
  };

  return (
    <>
      <section className="card" aria-labelledby="first-look">
        <h2 id="first-look">First look</h2>
        <p className="task">
          {view.session.effort
            ? `Have the rider hold ${number(view.session.effort.power_w)} W at ${number(view.session.effort.cadence_rpm)} rpm, then read.`
            : "Name the effort above, have the rider hold it, then read."}
        </p>
        {view.calibration?.words && <p className="warn">{view.calibration.words}.</p>}
        {!readOnly && (
          <div className="buttons">
            <Button variant="solid" disabled={view.sightings === 0} onClick={onFit}>
              {view.calibration?.on ? "Fit the model anew" : "Fit the model to what was seen"}
            </Button>
            {view.calibration?.calibration && (
              <Button aria-pressed={shown} onClick={onShow}>
                Calibration <Keycap>C</Keycap>
              </Button>
            )}
          </div>
        )}
        {problem && (
          <p className="number-error" role="alert">
            {problem}
          </p>
        )}
      </section>
      <Choice
        label={`Angles are read by, hands on the ${view.now.after.hands}`}
        options={METHODS}
        value={method}
        readOnly={readOnly}
        onPick={(key) => key && setMethod(key)}
      />
      <table className="rows look">
        <caption>Seen, beside what is foreseen</caption>
        <thead>
          <tr>
            <th />
            <th scope="col">left</th>
            <th scope="col">right</th>
            <th scope="col">foreseen</th>
          </tr>
        </thead>
        <tbody>
          {outputs.map((output) => {
            const spec = catalogue.outputs.find((o) => o.output === output);
            const rows = view.now.rows.filter((row) => row.output === output);
            if (!spec || rows.length === 0) return null;
            return (
              <tr key={output} title={spec.convention}>
                <th scope="row">
                  {spec.label}
                  {all && <span className="how">{rows[0]?.convention}</span>}
                </th>
                {spec.per_side ? (
                  <>
                    <td>{field(output, "left")}</td>
                    <td>{field(output, "right")}</td>
                  </>
                ) : (
                  <>
                    <td />
                    <td>{field(output, null)}</td>
                  </>
                )}
                <td className="foreseen-cell">
                  {rows.map((row) => (
                    <span key={row.side ?? ""}>
                      {number(row.after, row.unit)}
                      {suffix(row.unit)}
                      <span className="band">± {number(row.band ?? 0, row.unit)}</span>
                    </span>
                  ))}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <button type="button" className="more" onClick={() => setAll(!all)}>
        {all ? "The common angles" : `All ${catalogue.sightings.length} that can be read`}
      </button>
      <div className="field-grid">
        {(["left", "right"] as const).map((side) => (
          <Choice
            key={side}
            label={`Knee path, ${side}`}
            options={words.knee_path}
            value={knee(side)}
            none="not looked"
            readOnly={readOnly}
            onPick={(path) => path && void onSee({ knee: { side, path } })}
          />
        ))}
        <Choice
          label="Pelvis"
          options={words.pelvis}
          value={pelvis && "pelvis" in pelvis ? pelvis.pelvis : null}
          none="not looked"
          readOnly={readOnly}
          onPick={(seen) => seen && void onSee({ pelvis: seen })}
        />
        <Choice
          label="Shoulders"
          options={words.shoulders}
          value={shoulders && "shoulders" in shoulders ? shoulders.shoulders : null}
          none="not looked"
          readOnly={readOnly}
          onPick={(seen) => seen && void onSee({ shoulders: seen })}
        />
      </div>
      <div className="look-words">
        <WordsField
          label="What else was seen, what the rider said"
          rows={2}
          value={spoken}
          typed={texts["look.words"]}
          readOnly={readOnly}
          onTyped={(text) => onText("look.words", text)}
          onCommit={(text) => onSee({ words: text })}
        />
      </div>
      <SeenList rows={view.seen} />
    </>
  );
}

/** Everything seen, with what was foreseen of it then. */
function SeenList({ rows }: { rows: SeenRow[] }) {
  const angles = rows.filter(({ entry }) => "seen" in entry.body);
  if (angles.length === 0) return null;
  return (
    <table className="rows">
      <caption>Foreseen against seen, as it stood then</caption>
      <tbody>
        {angles.map((row) => (
          <tr key={row.entry.id}>
            <th scope="row">
              {row.label}
              <span className="how">{row.convention}</span>
            </th>
            <td>{row.foreseen}</td>
            <td className="after">{row.words}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

interface CalibrationPageProps {
  view: SessionView;
  readOnly: boolean;
  onFit: (on: boolean) => void;
  onClose: () => void;
}

/** The fitted rider, parameter by parameter: what was thought, what was fitted, how much of that the data said. */
export function CalibrationPage({ view, readOnly, onFit, onClose }: CalibrationPageProps) {
  const record = view.calibration;
  const calibration = record?.calibration;
  return (
    <div className="station-page calibration">
      <div className="calibration-head">
        <h2>The model, fitted to what was seen</h2>
        {!readOnly && (
          <div className="buttons">
            <Button onClick={() => onFit(true)}>Fit anew</Button>
            {record?.on && <Button onClick={() => onFit(false)}>Switch off</Button>}
            <Button onClick={onClose}>
              Back to the board <Keycap>C</Keycap>
            </Button>
          </div>
        )}
      </div>
      {!calibration ? (
        <p className="task">
          {record
            ? "Switched off: angles are foreseen from lengths and habits as measured or estimated."
            : "Not fitted yet."}
        </p>
      ) : (
        <>
          {record.words && <p className="warn">{record.words}.</p>}
          <p className="number-hint">
            What was thought before (±), what the fit says (±), and how much of the doubt the data took away. What two
            angles cannot tell apart keeps its band.
          </p>
          <table className="rows">
            <caption>Parameters</caption>
            <thead>
              <tr>
                <th />
                <th scope="col">thought</th>
                <th scope="col">fitted</th>
                <th scope="col">from thought to fitted</th>
                <th scope="col">the data said</th>
              </tr>
            </thead>
            <tbody>
              {calibration.parameters.map((p) => (
                <tr key={p.label}>
                  <th scope="row">{p.label}</th>
                  <td>
                    {withUnit(p.prior, p.unit)} <span className="band">± {number(p.prior_sd, p.unit)}</span>
                  </td>
                  <td className="after">
                    {withUnit(p.fitted, p.unit)} <span className="band">± {number(p.sd, p.unit)}</span>
                  </td>
                  <td>
                    <Spread parameter={p} />
                  </td>
                  <td className="said">
                    {number(p.said_percent)} %<span className="how">{p.words}</span>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <table className="rows">
            <caption>What was seen, foreseen before and after the fit</caption>
            <thead>
              <tr>
                <th />
                <th scope="col">seen</th>
                <th scope="col">before</th>
                <th scope="col">after</th>
              </tr>
            </thead>
            <tbody>
              {calibration.sightings.map((s, index) => (
                <tr key={index}>
                  <th scope="row">
                    {s.label}
                    {s.question && <span className="mark"> {s.question}</span>}
                  </th>
                  <td>
                    {withUnit(s.seen, s.unit)} <span className="band">± {number(s.spread, s.unit)}</span>
                  </td>
                  <td>{withUnit(s.before, s.unit)}</td>
                  <td className="after">{withUnit(s.after, s.unit)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
    </div>
  );
}

/** The prior's band as an open bar, the fit's as a full one, on one scale of ± 3 prior deviations. */
function Spread({ parameter }: { parameter: { prior: number; prior_sd: number; fitted: number; sd: number } }) {
  const { prior, prior_sd, fitted, sd } = parameter;
  const x = (value: number) => 80 + ((value - prior) / prior_sd) * 26;
  return (
    <svg className="spread" width="160" height="22" viewBox="0 0 160 22" aria-hidden>
      <path className="axis" d="M2 11H158" />
      <rect
        className="thought"
        x={x(prior - prior_sd)}
        y="4"
        width={x(prior + prior_sd) - x(prior - prior_sd)}
        height="14"
      />
      <rect
        className="fitted"
        x={x(fitted - sd)}
        y="8"
        width={Math.max(2, x(fitted + sd) - x(fitted - sd))}
        height="6"
      />
      <path className="at" d={`M${x(fitted)} 2V20`} />
    </svg>
  );
}
