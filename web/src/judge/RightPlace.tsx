import "./judge.css";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { axisQuery } from "../api/queries";
import type { AxisLine, AxisOpen, JudgedAxis, JudgeView } from "../api/types";
import { useFit } from "../fit/useFit";
import { number, sentence, signed } from "../ui/format";
import { Keycap } from "../ui/Keycap";
import { useKeys } from "../ui/keys";
import { Ridges } from "./Ridges";
import { useJudge } from "./useJudge";
import { Witness } from "./NextMove";

/** Where the right place is: every axis with its wedge, and the open one with everybody who says something of it. */
export function RightPlace() {
  const { shown, still } = useFit();
  const judge = useJudge();
  const [picked, pick] = useState<JudgedAxis>();
  const [cell, setCell] = useState<number>();
  if (!judge) {
    return (
      <div className="station-page">
        <p>{still ? "While a trial is on the bench nothing is judged: settle it first." : "…"}</p>
      </div>
    );
  }
  return (
    <div className="right-place">
      <Axes
        judge={judge}
        picked={picked ?? judge.next.axis ?? judge.axes[0]?.axis}
        onPick={(axis) => {
          pick(axis);
          setCell(undefined);
        }}
      />
      <Open
        axis={picked ?? judge.next.axis ?? "height"}
        cell={cell}
        onWalk={setCell}
        onClose={() => shown.close("right")}
      />
    </div>
  );
}

/** Every axis in a line: its name, what is believed, and the wedge that points where to go. */
function Axes({
  judge,
  picked,
  onPick,
}: {
  judge: JudgeView;
  picked: JudgedAxis | undefined;
  onPick: (axis: JudgedAxis) => void;
}) {
  const at = judge.axes.findIndex((line) => line.axis === picked);
  const walk = (by: 1 | -1) => {
    const next = judge.axes[at + by];
    if (!next) return;
    onPick(next.axis);
    document.querySelector(`[data-axis="${next.axis}"]`)?.scrollIntoView({ block: "nearest" });
  };
  useKeys({ ArrowDown: () => walk(1), ArrowUp: () => walk(-1) });
  return (
    <section className="axes" aria-labelledby="right-place">
      <h2 id="right-place">Where the right place is</h2>
      <p className="hint">A wedge points where to go; the thicker, the surer.</p>
      <ul>
        {judge.axes.map((line) => (
          <li key={line.axis}>
            <button
              type="button"
              data-axis={line.axis}
              aria-pressed={line.axis === picked}
              onClick={() => onPick(line.axis)}
            >
              <span>
                <b>{line.label}</b>
                <span className={line.wedge === 0 ? "words" : "words out"}>{line.words}</span>
              </span>
              <Wedge line={line} />
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The wedge of an axis at now: it points where to go, as thick as it is sure, doubled where it is far out. */
function Wedge({ line }: { line: AxisLine }) {
  const chance = Math.max(line.plus, line.minus);
  const thick = 4 + 18 * chance;
  const tip = line.wedge > 0 ? 8 : 92;
  const shape = (from: number) => `M${from} 26V${26 - thick}L${from + (tip - 50) * 0.9} 26Z`;
  return (
    <svg viewBox="0 0 100 34" width={72} height={34} aria-hidden>
      <path className="line" d="M2 26H98" />
      {line.wedge !== 0 && <path className="wedge" d={shape(50)} />}
      {line.wedge !== 0 && line.gross && <path className="wedge second" d={shape(50 + (tip - 50) * 0.34)} />}
      <path className="now" d="M50 14V32" />
    </svg>
  );
}

interface OpenProps {
  axis: JudgedAxis;
  cell: number | undefined;
  onWalk: (cell: number) => void;
  onClose: () => void;
}

/** One axis opened. */
function Open({ axis, cell, onWalk, onClose }: OpenProps) {
  const { view, version, changes } = useFit();
  const open = useQuery(axisQuery(view.session.id, version, axis, changes)).data;
  const line = open?.line;
  const now = open && line ? nearest(open.places, line.now) : 0;
  const at = cell ?? now;
  const walk = (event: KeyboardEvent, by: number) => {
    if (!open) return;
    const to = at + by * (event.shiftKey ? 5 : 1);
    if (to >= 0 && to < open.places.length) onWalk(to);
  };
  useKeys({ ArrowLeft: (event) => walk(event, -1), ArrowRight: (event) => walk(event, 1) });
  if (!open || !line) return <section className="open-axis" aria-busy />;
  const reads = (place: number) => number(place + line.reads_from) + line.unit;
  const place = open.places[at] ?? line.now;
  return (
    <section className="open-axis" aria-label={`${line.label}: where it is right`}>
      <header>
        <h2>{line.label}</h2>
        <span>
          {line.scale}, {line.unit.trim()}
        </span>
        <button type="button" className="more" onClick={onClose}>
          Back to the board <Keycap>G</Keycap>
        </button>
      </header>
      <Ridges open={open} at={cell === undefined ? undefined : place} />
      <p className="readout" aria-live="polite" data-testid="readout">
        <b>{reads(place)}</b>: {signed(open.points_at[at] ?? 0)} points against now,{" "}
        {number(Math.round(100 * (open.lands_at[at] ?? 0)))} % in the window
      </p>
      <p className="hint">
        <Keycap>↑</Keycap> <Keycap>↓</Keycap> another axis, <Keycap>←</Keycap> <Keycap>→</Keycap> along it, with Shift
        faster. Now {reads(line.now)}; most likely right {reads(line.right)} ± {number(line.half)}
        {line.unit}
        {open.tried != null && `; tried ${reads(open.tried)}`}.
      </p>
      <SaidInWords open={open} reads={reads} />
    </section>
  );
}

/** The same in words: every witness with its points, their sum, and what is walled off. */
function SaidInWords({ open, reads }: { open: AxisOpen; reads: (place: number) => string }) {
  return (
    <details>
      <summary>In words</summary>
      <p>{sentence(open.words[0] ?? "")}</p>
      <table className="plans">
        <thead>
          <tr>
            <th>Who</th>
            <th>Points, right against now</th>
          </tr>
        </thead>
        <tbody>
          {open.ridges.map(({ said }) => (
            <tr key={said.words}>
              <td>
                <Witness said={said} />
              </td>
              <td className="n">{signed(said.points)}</td>
            </tr>
          ))}
          <tr>
            <td>what says next to nothing</td>
            <td className="n">{signed(open.rest)}</td>
          </tr>
          <tr>
            <td>
              <b>all together</b>
            </td>
            <td className="n">{signed(open.points)}</td>
          </tr>
        </tbody>
      </table>
      {open.walled.map(({ from, to }) => (
        <p key={from}>
          Walled off by the parts or a limit: {reads(from)} to {reads(to)}.
        </p>
      ))}
    </details>
  );
}

const nearest = (places: number[], to: number) =>
  places.reduce((best, place, at) => (Math.abs(place - to) < Math.abs((places[best] ?? 0) - to) ? at : best), 0);
