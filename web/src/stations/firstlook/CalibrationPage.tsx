import { Button } from "@chakra-ui/react";
import type { Calibration } from "../../api/types";
import { LongPage } from "../../cards/LongPage";
import { useFit } from "../../fit/useFit";
import { number, withUnit, sentence } from "../../ui/format";
import { HeadRow } from "../../ui/HeadRow";

/** The fitted rider, parameter by parameter: what was thought, what was fitted, how much of that the data said. */
export function CalibrationPage() {
  const { view, finished, calibrate } = useFit();
  const record = view.calibration;
  const calibration = record?.calibration;
  const buttons = !finished && (
    <>
      <Button onClick={() => calibrate(true)}>Fit anew</Button>
      {record?.on && <Button onClick={() => calibrate(false)}>Switch off</Button>}
    </>
  );
  return (
    <LongPage title="The model, fitted to what was seen" className="calibration" head={buttons}>
      {!calibration ? (
        <p className="task">
          {record
            ? "Switched off: angles are foreseen from lengths and habits as measured or estimated."
            : "Not fitted yet."}
        </p>
      ) : (
        <>
          {record.words && <p className="warn">{sentence(record.words)}</p>}
          <p className="number-hint">
            What was thought before (±), what the fit says (±), and how much of the doubt the data took away. What two
            angles cannot tell apart keeps its band.
          </p>
          <Parameters parameters={calibration.parameters} />
          <Sightings sightings={calibration.sightings} />
        </>
      )}
    </LongPage>
  );
}

/** What was thought, what was fitted. */
function Parameters({ parameters }: Pick<Calibration, "parameters">) {
  return (
    <table className="rows">
      <caption>Parameters</caption>
      <HeadRow columns={["", "thought", "fitted", "from thought to fitted", "the data said"]} />
      <tbody>
        {parameters.map((p) => (
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
  );
}

/** What was seen, with what was foreseen of it. */
function Sightings({ sightings }: Pick<Calibration, "sightings">) {
  return (
    <table className="rows">
      <caption>What was seen, foreseen before and after the fit</caption>
      <HeadRow columns={["", "seen", "before", "after"]} />
      <tbody>
        {sightings.map((s, index) => (
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
