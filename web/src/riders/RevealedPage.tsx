import "../board/board.css";
import "./rider.css";
import "./practice.css";
import { Button, chakra, Flex } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { answer, api, words } from "../api/client";
import { practiceQuery, practisedQuery } from "../api/queries";
import type { Point, Position, PracticeOpen, Revealed } from "../api/types";
import { Figure } from "../board/Drawing";
import { bounds } from "../board/figure";
import { number } from "../ui/format";
import { Nowhere, Page } from "../ui/Page";
import { Problem } from "../ui/Problem";

/** The end of a fit of practice: the truth, drawn over the board. */
export default function RevealedPage() {
  const { id = "" } = useParams();
  const queries = useQueryClient();
  const open = useQuery(practisedQuery(id));
  const [wrong, setWrong] = useState<string>();
  if (open.error) return <Nowhere what={words(open.error)} />;
  if (!open.data) return null;
  const { fit, revealed, position } = open.data;
  const end = () => {
    setWrong(undefined);
    answer<PracticeOpen>(api.POST("/api/practice/{rider}/end", { params: { path: { rider: id } } })).then(
      (told) => {
        queries.setQueryData(practisedQuery(id).queryKey, told);
        void queries.invalidateQueries({ queryKey: practiceQuery.queryKey });
      },
      (error: unknown) => setWrong(words(error)),
    );
  };
  return (
    <Page title="Practice, the end" wide>
      <Flex gap="24px" fontSize="16px" color="tide" textDecoration="underline">
        <Link to="/practice">Practice</Link>
        <Link to={`/sessions/${fit.session}`}>Back to the fit</Link>
      </Flex>
      <chakra.h1 fontSize="29px">
        {fit.apprentice}, {fit.level.toLowerCase()}: {revealed ? "the truth" : "going on"}
      </chakra.h1>
      {revealed && position ? (
        <Truth revealed={revealed} position={position} />
      ) : (
        <>
          <p className="number-hint">
            Ended, the rider’s truth is told: where his windows were, what each trial told, what the judge and fixed
            rules would have done. It cannot be taken back.
          </p>
          <Button variant="solid" onClick={end}>
            End it and see the truth
          </Button>
          <Problem words={wrong} />
        </>
      )}
    </Page>
  );
}

function Truth({ revealed, position }: { revealed: Revealed; position: Position }) {
  return (
    <>
      <p className="verdict">{revealed.words}</p>
      <div className="truth">
        <Drawn revealed={revealed} position={position} />
        <section aria-labelledby="windows">
          <h2 id="windows">Where the windows were</h2>
          <Windows axes={revealed.axes} />
        </section>
      </div>
      <Flex gap="40px" wrap="wrap" align="start">
        <Trials revealed={revealed} />
        <Beside revealed={revealed} />
        <Who revealed={revealed} />
      </Flex>
    </>
  );
}

/** Pixels a millimetre of the drawing. */
const K = 0.34;

/** The bike as left, and where its sit reference and the hands belonged. */
function Drawn({ revealed, position }: { revealed: Revealed; position: Position }) {
  const box = bounds(position);
  const [width, height] = [(box.right - box.left) * K, (box.top - box.bottom) * K];
  const at = ([x, y]: Point): Point => [(x - box.left) * K, (box.top - y) * K];
  return (
    <figure className="truth-drawn board">
      <svg viewBox={`0 0 ${width} ${height}`} role="img" aria-label={revealed.regions.map(inWords).join(" ")}>
        <g transform={`translate(${-box.left * K} ${box.top * K}) scale(${K} ${-K})`}>
          <Figure position={position} crank={90} />
        </g>
        {revealed.regions.map((region, index) => (
          <Glass key={region.label} region={region} seen={at(region.left)} at={index === 0 ? 12 : width - GLASS - 12} />
        ))}
      </svg>
      <figcaption>In the glasses: the dot is where it was left, the box where it belonged.</figcaption>
    </figure>
  );
}

/** How large a glass is, px, and how much it shows at the least, mm to either side. */
const GLASS = 150;
const SHOWS_MM = 24;

/** A region and the place that was left, enlarged: the window is millimetres of a bike of a metre. */
function Glass({ region, seen, at }: { region: Revealed["regions"][number]; seen: Point; at: number }) {
  const middle = mean(region.corners);
  const around = [region.left, ...region.corners].map(([x, y]) =>
    Math.max(Math.abs(x - middle[0]), Math.abs(y - middle[1])),
  );
  const k = GLASS / 2 / Math.max(SHOWS_MM, ...around.map((far) => far + 6));
  const inside = ([x, y]: Point): Point => [at + GLASS / 2 + (x - middle[0]) * k, 12 + GLASS / 2 - (y - middle[1]) * k];
  const [x, y] = inside(region.left);
  return (
    <g className="region">
      <path className="leader" d={`M${seen.join(" ")}L${at + GLASS / 2} ${12 + GLASS}`} />
      <circle className="seen" cx={seen[0]} cy={seen[1]} r="6" />
      <rect className="glass" x={at} y={12} width={GLASS} height={GLASS} rx="4" />
      <polygon points={region.corners.map((corner) => inside(corner).join(",")).join(" ")} />
      <path d={`M${x} ${y}L${inside(middle).join(" ")}`} />
      <circle cx={x} cy={y} r="5" />
      <text x={at + 8} y={30}>
        {region.label}
      </text>
      <path className="scale" d={`M${at + 8} ${GLASS + 2}h${10 * k}`} />
      <text className="scale-words" x={at + 14 + 10 * k} y={GLASS + 7}>
        10 mm
      </text>
    </g>
  );
}

const mean = (points: Point[]): Point => {
  const sum = points.reduce<Point>((a, b) => [a[0] + b[0], a[1] + b[1]], [0, 0]);
  return [sum[0] / points.length, sum[1] / points.length];
};

const inWords = (region: Revealed["regions"][number]): string => {
  const middle = mean(region.corners);
  const by = [region.left[0] - middle[0], region.left[1] - middle[1]] as const;
  return `${region.label}: left ${number(by[0], "mm")} mm ahead and ${number(by[1], "mm")} mm above the middle of its true window.`;
};

/** Each axis: its window, and where the bike was left. */
function Windows({ axes }: { axes: Revealed["axes"] }) {
  return (
    <table className="rows scores">
      <thead>
        <tr>
          {["Axis", "Window, from as found", "Left at", "So"].map((head, at) => (
            <th key={at} scope="col">
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {axes.map((axis) => (
          <tr key={axis.label} className={axis.missed ? "missed" : undefined}>
            <th scope="row">{axis.label}</th>
            <td className="after">
              {axis.window.map((end) => number(Math.round(end * 10) / 10)).join(" to ")} {axis.unit}
            </td>
            <td className="after">{number(Math.round(axis.left * 10) / 10)}</td>
            <td className="words">
              {axis.missed ? `Missed: ${axis.words}` : axis.words}
              {axis.came_out && !axis.missed && "; it came out, and was put right"}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Trials({ revealed }: { revealed: Revealed }) {
  return (
    <section aria-labelledby="told">
      <h2 id="told">What each trial told</h2>
      {revealed.trials.length === 0 && <p>Nothing was tried.</p>}
      <ol className="told">
        {revealed.trials.map((trial) => (
          <li key={trial.number} value={trial.number}>
            <b>{trial.title}</b>: {trial.words}
          </li>
        ))}
      </ol>
    </section>
  );
}

function Beside({ revealed }: { revealed: Revealed }) {
  return (
    <section aria-labelledby="others">
      <h2 id="others">What others would have done</h2>
      {revealed.beside.map((other) => (
        <details key={other.label}>
          <summary>
            {other.label}: {other.trials} trials, {other.out} {other.out === 1 ? "window" : "windows"} missed
          </summary>
          <ol className="told">
            {other.did.map((did, at) => (
              <li key={at}>{did}</li>
            ))}
          </ol>
        </details>
      ))}
    </section>
  );
}

/** His body, what was wrong besides, and how he talks. */
function Who({ revealed }: { revealed: Revealed }) {
  const two = ([left, right]: [number, number]) =>
    Math.abs(left - right) < 0.5 ? left.toFixed(0) : `${left.toFixed(0)} / ${right.toFixed(0)}`;
  return (
    <section aria-labelledby="who">
      <h2 id="who">Who he is</h2>
      <p>
        {revealed.troubles.length > 0 ? `${revealed.troubles.join("; ")}. ` : "Nothing was wrong besides. "}
        {revealed.character}
      </p>
      <table className="rows scores">
        <thead>
          <tr>
            {["Length, mm", "Thought", "Is"].map((head) => (
              <th key={head} scope="col">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {revealed.body.map((part) => (
            <tr key={part.label}>
              <th scope="row">{part.label}</th>
              <td className="after">{two(part.known as [number, number])}</td>
              <td className="after">{two(part.is as [number, number])}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
