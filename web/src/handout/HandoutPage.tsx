import "../board/board.css";
import "./handout.css";
import { Button, chakra, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { words } from "../api/client";
import { catalogueQuery, handoutQuery } from "../api/queries";
import type { Catalogue, Handout, Line, Point, Quantity, TrialView } from "../api/types";
import { Figure, Lines } from "../board/Drawing";
import { add, bounds, left, poseAt, sub, times, unit, viewOf } from "../board/figure";
import { day, inSentence, number, signed, suffix, withUnit, sentence } from "../ui/format";
import { Nowhere, TopBar } from "../ui/Page";
import { specOf, outputOf } from "../fit/fields";
import { FrontStack } from "../board/FrontStack";

/** The sheet for the rider and the next mechanic. */
export default function HandoutPage() {
  const { id = "" } = useParams();
  const handout = useQuery(handoutQuery(id));
  const catalogue = useQuery(catalogueQuery);
  if (handout.error) return <Nowhere what={words(handout.error)} />;
  if (!handout.data || !catalogue.data) return null;
  return (
    <>
      <div className="no-print">
        <TopBar>
          <chakra.span marginLeft="auto" color="tide" textDecoration="underline">
            <Link to={`/sessions/${id}`}>Back to the board</Link>
          </chakra.span>
          <Button variant="solid" onClick={() => window.print()}>
            Print
          </Button>
        </TopBar>
      </div>
      <Sheet handout={handout.data} catalogue={catalogue.data} />
    </>
  );
}

/** The work at the front end: what stands on the steerer, and each step, done or to do. */
function FrontEndWork({ work }: { work: NonNullable<Handout["front_work"]> }) {
  return (
    <section aria-label="Front-end work" className="front-end-work">
      <h2>Front-end work: {inSentence(work.title)}</h2>
      {work.stack.length > 0 && <FrontStack stack={work.stack} />}
      <ol>
        {work.steps.map((step) => (
          <li key={step.step}>
            {step.done ? "☑ done:" : "☐ to do:"} {step.label}
          </li>
        ))}
      </ol>
    </section>
  );
}

function Sheet({ handout, catalogue }: { handout: Handout; catalogue: Catalogue }) {
  const kept = handout.trials.filter((t) => t.outcome === "kept");
  const others = handout.trials.filter((t) => t.outcome !== "kept");
  return (
    <main className="sheet">
      <title>{`Hand-out, ${handout.rider} · Wedge`}</title>
      {handout.studio !== "" && <p className="studio-name">{handout.studio}</p>}
      <Flex justify="space-between" align="baseline" gap="20px" wrap="wrap">
        <h1>{handout.rider}</h1>
        <p>
          {handout.bike} · fit {handout.number} · {day(handout.day)}
          {handout.effort &&
            ` · ${withUnit(handout.effort.power_w, "w")} at ${withUnit(handout.effort.cadence_rpm, "rpm")}`}
        </p>
      </Flex>
      {handout.simulated && (
        <p>
          <b>Simulated rider: nobody sits there. For practice, not for riding.</b>
        </p>
      )}
      {handout.stand && (
        <p>
          <b>Fitted on a stand: a position, not a bike to set up.</b>
        </p>
      )}
      {!handout.finished && (
        <p>
          <b>This fit is still going on: the position may change.</b>
        </p>
      )}
      <Drawing handout={handout} />
      <h2>The position</h2>
      <table>
        <TableHead />
        <tbody>{handout.table.filter((line) => !line.other).map(lineOf)}</tbody>
      </table>
      <p>The sit reference is {handout.sit_reference}.</p>
      {handout.disagreement != null && <p className="warn">{handout.disagreement}</p>}
      <details>
        <summary>The same lengths in other conventions</summary>
        <table>
          <TableHead />
          <tbody>{handout.table.filter((line) => line.other).map(lineOf)}</tbody>
        </table>
      </details>

      <h2>What was changed</h2>
      {kept.length === 0 && <p>Nothing was changed: the position is as found.</p>}
      <ol>
        {kept.map((trial) => (
          <TrialLine key={trial.trial.id} trial={trial} catalogue={catalogue} why={whyOf(handout, trial)} />
        ))}
      </ol>
      <ListOf title="What remains likely" lines={handout.judged.remains} />
      <ListOf title="To ask a clinician" lines={handout.judged.refer} />
      {others.length > 0 && (
        <>
          <h2>Tried and not kept</h2>
          <ol>
            {others.map((trial) => (
              <TrialLine key={trial.trial.id} trial={trial} catalogue={catalogue} />
            ))}
          </ol>
        </>
      )}

      {handout.front_work != null && <FrontEndWork work={handout.front_work} />}

      {handout.intake.length > 0 && (
        <>
          <h2>What the rider came with</h2>
          <ul className="cautions">
            {handout.intake.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        </>
      )}

      {handout.estimated.length > 0 && (
        <>
          <h2>Estimated, not measured</h2>
          <p>
            {handout.estimated
              .map((length) => {
                const label = specOf(catalogue, length.quantity)?.label ?? "";
                return `${label} ≈ ${number(length.value_mm, "mm")} ± ${withUnit(length.spread_mm, "mm")}`;
              })
              .join("; ")}
            . Angles foreseen from these are estimates.
          </p>
        </>
      )}

      {handout.evidence.length > 0 && (
        <>
          <h2>Tested</h2>
          <ul>
            {handout.evidence.map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ul>
        </>
      )}
      {handout.next_bike.length > 0 && (
        <>
          <h2>For the next bike</h2>
          <ul>
            {handout.next_bike.map((words) => (
              <li key={words}>{sentence(words)}</li>
            ))}
          </ul>
        </>
      )}

      <h2>Before you ride, and when to stop</h2>
      <ul className="cautions">
        {handout.follow_up != null && (
          <li>
            <b>Come back on {day(handout.follow_up)}.</b>
          </li>
        )}
        <li>
          <b>{handout.self_check}</b>
        </li>
        {handout.cautions.map((caution) => (
          <li key={caution}>{caution}</li>
        ))}
      </ul>
    </main>
  );
}

function TableHead() {
  return (
    <thead>
      <tr>
        <th scope="col">Measure</th>
        <th scope="col">From where to where</th>
        <th scope="col" className="n">
          Found
        </th>
        <th scope="col" className="n">
          Left
        </th>
        <th scope="col" className="n">
          Difference
        </th>
        <th scope="col">The number is</th>
      </tr>
    </thead>
  );
}

const lineOf = (line: Line) => <TableLine key={`${line.label}, ${line.convention}`} line={line} />;

function TableLine({ line }: { line: Line }) {
  const unit = suffix(line.unit);
  const change = signed(line.difference, line.unit);
  const same = change === "0";
  return (
    <tr>
      <th scope="row">{line.label}</th>
      <td>{line.convention}</td>
      <td className="n">
        {number(line.found, line.unit)}
        {unit}
      </td>
      <td className="n left-value">
        {number(line.left, line.unit)}
        {unit}
      </td>
      <td className={same ? "n same" : "n"}>{same ? "as found" : `${change}${unit}`}</td>
      <td className="same">{line.from}</td>
    </tr>
  );
}

/** Why a kept change was made, as the judge tells it. */
const whyOf = (handout: Handout, trial: TrialView) =>
  handout.judged.why.find((why) => why.trial === trial.trial.id)?.sentences ?? [];

function ListOf({ title, lines }: { title: string; lines: string[] }) {
  if (lines.length === 0) return null;
  return (
    <>
      <h2>{title}</h2>
      <ul className="cautions">
        {lines.map((line) => (
          <li key={line}>{sentence(line)}</li>
        ))}
      </ul>
    </>
  );
}

interface TrialLineProps {
  trial: TrialView;
  catalogue: Catalogue;
  why?: string[];
}

function TrialLine({ trial, catalogue, why = [] }: TrialLineProps) {
  const { foreseen } = trial.trial;
  const row = foreseen.rows[0];
  const seen = trial.seen.map((s) => {
    const spec = outputOf(catalogue, s.output);
    const was = foreseen.rows.find((r) => r.output === s.output && (r.side ?? null) === (s.side ?? null));
    if (!spec || s.value == null) return "";
    const side = s.side ? `, ${s.side}` : "";
    return `${spec.label}${side}: seen ${withUnit(s.value, spec.unit)}${was ? `, foreseen ${withUnit(was.after, spec.unit)}` : ""}`;
  });
  return (
    <li>
      <b>{foreseen.title}</b>
      {trial.outcome === "put_back" && " (put back)"}
      {trial.outcome == null && " (still on the bench)"}: {foreseen.turns.map((t) => t.words).join("; ")}.{" "}
      {foreseen.hands != null && `${sentence(foreseen.hands)} `}
      {seen.length > 0
        ? `${seen.join("; ")}.`
        : row &&
          `Foreseen: ${inSentence(row.label)} ${number(row.before, row.unit)} → ${withUnit(row.after, row.unit)}.`}{" "}
      {trial.why && `Why: ${sentence(trial.why)} `}
      {trial.turned_out && trial.verdict && `The rider: ${trial.turned_out.split(", ").slice(1).join(", ")}. `}
      {trial.batch && "Several things moved at once: the cause is not separable. "}
      {trial.unlike && sentence(trial.unlike)}
      {trial.words && <blockquote>“{trial.words}”</blockquote>}
      {why.length > 0 && <p className="why-kept">{why.join(" ")}</p>}
    </li>
  );
}

/** What is told without from where to where: it says so on the part. */
const PARTS: Quantity[] = ["stem_mm", "spacers_below_mm", "crank_mm", "cleat_setback_mm"];
const WIDTH = 856;
const HEIGHT = 440;

/** The position as left, each dimension with its number; as found in dashes where it was changed. */
function Drawing({ handout }: { handout: Handout }) {
  /** The number of a measure, and its name; of a cleat that differs the left one and the right one. */
  const told = (quantity: Quantity): string[] => {
    const lines = handout.table.filter((line) => line.drawn === quantity);
    const values = lines.map((line) => number(line.left, line.unit)).join(" / ");
    const [first] = lines;
    if (!first) return [];
    const how = PARTS.includes(quantity) ? [] : [first.convention];
    return [values + suffix(first.unit), inSentence(first.label.split(",")[0] ?? ""), ...how];
  };
  const position = handout.left.after;
  const found = handout.found.after;
  const { bike } = position;
  const view = viewOf(bounds(position), WIDTH, HEIGHT, { top: 6, bottom: 74, side: 6 });
  const crank = position.legs.right.knee.smallest_at;
  const lane = view.y(bike.ground_mm) + 14;
  const [sit, bb, hood] = [view.at(bike.sit), view.at([0, 0]), view.at(bike.hand)];
  const back = times(left(unit(bike.sit)), 150);
  const [low, high] = [view.at(back), view.at(add(bike.sit, back))];
  const dropX = Math.max(hood[0], view.x(position.upper.points.hand[0])) + 46;
  const lines: [Quantity, Point, Point, Point, Anchor][] = [
    ["saddle_height_mm", low, high, [-14, 0], "end"],
    ["setback_mm", [sit[0], lane], [bb[0], lane], [(bb[0] - sit[0]) / 2 - 10, 20], "end"],
    ["drop_mm", [dropX, sit[1]], [dropX, hood[1]], [14, 0], "start"],
    ["bb_to_hand_mm", [bb[0], lane], [hood[0], lane], [(bb[0] - hood[0]) / 2 + 10, 20], "start"],
  ];
  // What is too small to be drawn is told beside it, one below the other, with a line to where it is.
  const parts: [Quantity, Point][] = [
    ["stem_mm", view.at(bike.bar_clamp)],
    ["spacers_below_mm", view.at(bike.head_top)],
    ["crank_mm", bb],
    ["cleat_setback_mm", view.at(poseAt(position.legs.right, crank).toe)],
  ];
  const beside = (index: number): Point => [
    view.x(bike.front_axle[0]) + 110,
    view.y(bike.bar_clamp[1]) + 46 + 40 * index,
  ];
  const moved = JSON.stringify(found.bike) !== JSON.stringify(bike);
  return (
    <div className="drawing">
      <div className="board">
        <svg
          viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
          width="100%"
          height="100%"
          role="img"
          aria-label="The position as left, in side view, with its numbers; the table says from where to where they are"
        >
          <line className="ground" x1={8} x2={WIDTH - 8} y1={view.y(bike.ground_mm)} y2={view.y(bike.ground_mm)} />
          {(
            [
              [sit, [sit[0], lane]],
              [bb, [bb[0], lane]],
              [hood, [hood[0], lane]],
              [sit, [dropX, sit[1]]],
              [hood, [dropX, hood[1]]],
              [bb, low],
              [sit, high],
            ] as [Point, Point][]
          ).map(([a, b], index) => (
            <line key={index} className="extension" x1={a[0]} y1={a[1]} x2={b[0]} y2={b[1]} />
          ))}
          <g transform={view.transform}>
            <Figure position={position} crank={crank} stand={handout.stand} />
            {moved && <Lines position={found} crank={crank} state="found" />}
          </g>
          {lines.map(([quantity, a, b, by, anchor]) => {
            const n = times(left(unit(sub(b, a))), 5);
            return (
              <g key={quantity} className="dimension">
                <line x1={a[0]} y1={a[1]} x2={b[0]} y2={b[1]} />
                {[a, b].map((p, index) => (
                  <line key={index} x1={p[0] - n[0]} y1={p[1] - n[1]} x2={p[0] + n[0]} y2={p[1] + n[1]} />
                ))}
                <Told
                  told={told(quantity)}
                  at={[(a[0] + b[0]) / 2 + by[0], (a[1] + b[1]) / 2 + by[1]]}
                  anchor={anchor}
                />
              </g>
            );
          })}
          {parts.map(([quantity, from], index) => {
            const at = beside(index);
            return (
              <g key={quantity}>
                <line className="extension" x1={from[0]} y1={from[1]} x2={at[0] - 6} y2={at[1] - 4} />
                <Told told={told(quantity)} at={at} anchor="start" />
              </g>
            );
          })}
        </svg>
      </div>
      {moved && <p className="caption">Drawn full: as left. Dashed: as found.</p>}
    </div>
  );
}

type Anchor = "start" | "end";

/** A number on the drawing, its name below it. */
function Told({ told, at, anchor }: { told: string[]; at: Point; anchor: Anchor }) {
  const [value, ...names] = told;
  return (
    <text className="told" x={at[0]} y={at[1]} textAnchor={anchor}>
      {value}
      {names.map((name) => (
        <tspan key={name} className="name" x={at[0]} dy="16">
          {name}
        </tspan>
      ))}
    </text>
  );
}
