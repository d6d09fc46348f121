import "./kinds.css";
import { type ReactNode, useState } from "react";
import type { CandidateView, Point } from "../../api/types";
import { LongPage } from "../../cards/LongPage";
import { Picker } from "../../cards/Picker";
import { number, sentence } from "../../ui/format";
import { HeadRow } from "../../ui/HeadRow";
import { EarField } from "./EarField";
import { useAero } from "./useAero";

/** Up to four positions side by side on one judged sheet, and any two of them over each other. */
export function AeroPage({ below }: { below: ReactNode }) {
  const { answer, data } = useAero();
  const [pair, setPair] = useState<[number, number]>([0, 1]);
  const all = data?.candidates ?? [];
  const options = all.map(({ candidate }, index) => ({ key: String(index), words: candidate.name }));
  const other = pair[1] < all.length ? pair[1] : 0;
  return (
    <LongPage title="Positions side by side" className="aero-page" answer={answer}>
      {data && (
        <>
          <div className="overlay-and-pick">
            <Overlay one={all[pair[0]]} other={all[other]} />
            <div className="pick">
              <EarField />
              <Picker
                label="Drawn full"
                value={String(pair[0])}
                options={options}
                onPick={(key) => setPair([Number(key), pair[1]])}
              />
              <Picker
                label="Drawn dashed over it"
                value={String(other)}
                options={options}
                onPick={(key) => setPair([pair[0], Number(key)])}
              />
              <p className="number-hint">
                {data.event.minutes == null
                  ? "How long the event takes is typed at Intake; so are drag, air and speed."
                  : `For ${number(data.event.minutes)} minutes${data.event.run_follows ? ", a run follows" : ""}.`}{" "}
                The position that can be held is the fast one.
              </p>
            </div>
          </div>
          <Sheet all={all} />
          <Rules all={all} bodies={data.bodies.map((body) => `${body.name}, read ${body.read_on}`)} />
          <h2>What hurts, and what would settle it</h2>
          {below}
        </>
      )}
    </LongPage>
  );
}

/** The judged sheet: a column a position, a line a figure. */
function Sheet({ all }: { all: CandidateView[] }) {
  const lines = all[0]?.candidate.figures ?? [];
  return (
    <table className="plans sheet-of-positions">
      <HeadRow columns={["", ...all.map(({ candidate }) => candidate.name)]} />
      <tbody>
        {lines.map((line, index) => (
          <tr key={line.label}>
            <th scope="row">{line.label}</th>
            {all.map(({ candidate }) => {
              const figure = candidate.figures[index];
              if (!figure) return <td key={candidate.name} />;
              return (
                <td key={candidate.name}>
                  <span className="n">
                    {figure.value == null ? "?" : number(figure.value)}
                    {figure.value != null && figure.unit}
                    {figure.spread != null && ` ± ${number(figure.spread)}`}
                  </span>
                  <span className={figure.against ? "short" : "number-hint"}>
                    {figure.against && "✗ "}
                    {figure.words}
                  </span>
                </td>
              );
            })}
          </tr>
        ))}
        <tr>
          <th scope="row">What choosing it costs</th>
          {all.map(({ candidate, costs }) => (
            <td key={candidate.name}>{costs.length === 0 ? "–" : costs.join("; ")}</td>
          ))}
        </tr>
      </tbody>
    </table>
  );
}

/** What each breaks of the studio's tables. */
function Rules({ all, bodies }: { all: CandidateView[]; bodies: string[] }) {
  const broken = all.flatMap(({ candidate, broken }) => broken.map((rule) => ({ name: candidate.name, ...rule })));
  return (
    <section aria-label="Rules of governing bodies">
      <h2>Rules of governing bodies</h2>
      <p>
        {bodies.length === 0
          ? "The studio has no table: Studio, Pads and federations."
          : `Held against: ${bodies.join("; ")}. Check your federation’s current rules.`}
      </p>
      {broken.map((rule) => (
        <p key={`${rule.name}${rule.words}${rule.by}`} className="apart">
          <b>✗ {rule.name}:</b> {sentence(`${rule.words}, ${rule.by}`)}
        </p>
      ))}
      {bodies.length > 0 && broken.length === 0 && <p>Nothing of it is broken.</p>}
    </section>
  );
}

const WIDTH = 520;
const HEIGHT = 420;
const MARGIN = 16;

/** Two positions as outlines, one over the other, both from the BB. */
function Overlay({ one, other }: { one: CandidateView | undefined; other: CandidateView | undefined }) {
  if (!one || !other) return null;
  const both = [one, other].map(({ candidate }) => candidate.outline);
  const all: Point[] = both.flatMap((o) => [...o.upper, ...o.leg_up, ...o.leg_down, o.tail, o.nose]);
  const [left, right] = [Math.min(...all.map((p) => p[0])), Math.max(...all.map((p) => p[0]))];
  const [low, high] = [Math.min(...all.map((p) => p[1])), Math.max(...all.map((p) => p[1])) + 110];
  const scale = Math.min((WIDTH - 2 * MARGIN) / (right - left), (HEIGHT - 2 * MARGIN) / (high - low));
  const at = (p: Point) => `${MARGIN + (p[0] - left) * scale},${HEIGHT - MARGIN - (p[1] - low) * scale}`;
  const line = (points: (Point | null | undefined)[]) =>
    points
      .filter((p) => p != null)
      .map(at)
      .join(" ");
  const names = `${one.candidate.name} drawn full, ${other.candidate.name} dashed over it, both from the BB`;
  return (
    <svg className="overlay" viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="img" aria-label={names}>
      {both.map((outline, index) => {
        const [hip, shoulder, elbow, wrist, hand, head] = outline.upper;
        const [hx, hy] = at(head as Point).split(",");
        return (
          <g key={index} className={index === 0 ? "one" : "other"}>
            <polyline points={line([outline.tail, outline.nose])} className="thick" />
            <polyline points={line([outline.pad_rear, outline.pad_front])} className="thick" />
            <polyline points={line([hip, shoulder, elbow, wrist, hand])} />
            <polyline points={line(outline.leg_up)} />
            <polyline points={line(outline.leg_down)} />
            <circle cx={hx} cy={hy} r={95 * scale} />
          </g>
        );
      })}
      <path className="bb" d={`M${at([-14, 0])}L${at([14, 0])}M${at([0, -14])}L${at([0, 14])}`} />
    </svg>
  );
}
