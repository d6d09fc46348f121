import "./kinds.css";
import { useQuery } from "@tanstack/react-query";
import { gradeQuery } from "../../api/queries";
import { useFit } from "../../fit/useFit";
import { number, sentence, withUnit } from "../../ui/format";
import { HeadRow } from "../../ui/HeadRow";
import { useGrade } from "./useGrade";

const MOST = 15;

/** A grade under the wheels: what the rider feels of setback, tilt and weight there. */
export function Grade() {
  const { view, version } = useFit();
  const { percent, set } = useGrade();
  const felt = useQuery(gradeQuery(view.session.id, version, percent)).data;
  const climb = view.session.intake?.usual_climb_percent;
  return (
    <section className="grade" aria-label="On a grade">
      <h3>
        <label htmlFor="grade">On a grade</label> <b className="value">{number(percent)} %</b>
      </h3>
      <input
        id="grade"
        type="range"
        min={-MOST}
        max={MOST}
        step={1}
        value={percent}
        aria-valuetext={`${number(percent)} %${felt ? `: ${felt.words}` : ""}`}
        onChange={(event) => set(Number(event.target.value))}
      />
      <p className="ends" aria-hidden>
        <span>downhill −{MOST} %</span>
        <span>level</span>
        <span>uphill {MOST} %</span>
      </p>
      {climb != null && climb <= MOST && climb !== percent && (
        <button type="button" className="more" onClick={() => set(climb)}>
          The usual climb, {number(climb)} %
        </button>
      )}
      {felt && (
        <>
          {percent !== 0 && <p>{sentence(felt.words)}</p>}
          <dl>
            <Felt label="Setback" level={felt.setback_mm} there={felt.felt_setback_mm} unit="mm" />
            <Felt label="Tilt" level={felt.tilt_deg} there={felt.felt_tilt_deg} unit="deg" />
            <Felt label="Front share" level={felt.front_share} there={felt.felt_front_share} unit="percent" />
            <Felt label="Hands" level={felt.hands_n} there={felt.felt_hands_n} unit="n" />
          </dl>
          <table className="rows saddle-places">
            <caption>Places on the saddle, on the level</caption>
            <HeadRow columns={["", "knee", "over axle", "hip", "torso"]} />
            <tbody>
              {felt.places.map((row) => (
                <tr key={row.place}>
                  <th scope="row">{row.label}</th>
                  <td>{known(row.knee_deg, "deg")}</td>
                  <td>{known(row.knee_over_axle_mm, "mm")}</td>
                  <td>{known(row.hip_deg, "deg")}</td>
                  <td>{known(row.torso_deg, "deg")}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
    </section>
  );
}

const known = (value: number | null | undefined, unit: "deg" | "mm") =>
  value == null ? "out of reach" : withUnit(value, unit);

interface FeltProps {
  label: string;
  level: number | null | undefined;
  there: number | null | undefined;
  unit: "mm" | "deg" | "percent" | "n";
}

function Felt({ label, level, there, unit }: FeltProps) {
  if (level == null || there == null) return null;
  return (
    <div>
      <dt>{label}</dt>
      <dd>
        {number(level, unit)} → <b>{withUnit(there, unit)}</b>
      </dd>
    </div>
  );
}
