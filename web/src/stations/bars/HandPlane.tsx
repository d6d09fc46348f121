import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { planeQuery } from "../../api/queries";
import type { BarsView, PlaneView, Point } from "../../api/types";
import { type Family, FamilyLabels, FamilyLines } from "../../cards/MapFamilies";
import { useFit } from "../../fit/useFit";
import { number, suffix } from "../../ui/format";
import { Keycap } from "../../ui/Keycap";
import { useKeys } from "../../ui/keys";
import type { Box } from "../../ui/mapLabels";
import { useBars } from "./useBars";

const WIDTH = 368;
const HEIGHT = 372;
/** Where the plane itself lies in its drawing: square, so that it stands as the bike does. */
const BOX: Box = { left: 42, right: WIDTH - 42, top: 24, bottom: HEIGHT - 64 };

/** What is drawn. */
const FAMILIES: readonly Family[] = [
  ["torso_deg", "deg", "Torso", "torso", "left"],
  ["shoulder_deg", "deg", "Shoulder", "shoulder", "top"],
  ["hip_closed_deg", "deg", "Hip", "hip", "bottom"],
  ["hand_load_n", "n", "Hand load", "load", "right"],
];

/** The hand plane, above everything else while it is open. */
export function HandPlaneLead() {
  const { view, version, closed, shown } = useFit();
  const open = closed && shown.is("map");
  const plane = useQuery({ ...planeQuery(view.session.id, version), enabled: open }).data;
  useKeys({ d: closed ? () => shown.toggle("map") : undefined });
  return open && plane ? <HandPlane shown={plane} /> : null;
}

const far = (a: Point, b: Point) => Math.hypot(a[0] - b[0], a[1] - b[1]);

/** Where the hands can be: arrows walk the wish, the board follows with the front end that comes nearest. */
function HandPlane({ shown }: { shown: PlaneView }) {
  const { still, leave } = useFit();
  const bars = useBars();
  const { plane } = shown;
  const at = bars.aim ?? plane.now;
  const walked = useWalked(bars.data, bars.answered, bars.aim);
  const top = useRef<HTMLElement>(null);
  useEffect(() => {
    // Some browsers answer with a promise, which is no clean-up.
    top.current?.scrollIntoView({ block: "nearest" });
  }, []);
  const within = ([x, y]: Point) =>
    x >= plane.forward.low && x <= plane.forward.high && y >= plane.up.low && y <= plane.up.high;
  const wish = (to: Point) => {
    if (still || !within(to)) return;
    if (far(to, plane.now) < 0.1) {
      bars.wish(undefined);
      leave();
    } else bars.wish(to);
  };
  const walk = (event: KeyboardEvent, x: number, y: number) => {
    const by = event.shiftKey ? 1 : 5;
    wish([at[0] + x * by, at[1] + y * by]);
  };
  // The dots nearest to the wish, one after the other, and back.
  const near = [...plane.dots].sort((a, b) => far(a.hand, at) - far(b.hand, at));
  const dot = (way: 1 | -1) => {
    const next = way > 0 ? near.find((d) => far(d.hand, at) > 0.5) : near.find((d) => d.on_hand);
    if (next) wish(next.hand);
  };
  useKeys({
    ArrowUp: (event) => walk(event, 0, 1),
    ArrowDown: (event) => walk(event, 0, -1),
    ArrowRight: (event) => walk(event, 1, 0),
    ArrowLeft: (event) => walk(event, -1, 0),
    ".": () => dot(1),
    ",": () => dot(-1),
  });
  const words = bars.aim
    ? `Wish: ${number(at[0], "mm")} forward, ${number(at[1], "mm")} up, mm from the BB`
    : `Now: ${number(at[0], "mm")} forward, ${number(at[1], "mm")} up, mm from the BB`;
  return (
    <section ref={top} className="saddle-map hand-plane" aria-label="Hand plane">
      <h3>Where the hands can be</h3>
      <div
        role="img"
        aria-label={`Hand plane: arrows walk it, the table of the board tells what follows. ${words}`}
        data-testid="hand-plane"
        data-x={at[0]}
        data-y={at[1]}
      >
        <Drawn shown={shown} wish={bars.aim} tried={walked} />
      </div>
      <p className="where">
        <b>{words}</b>
      </p>
      <ul className="legend">
        {FAMILIES.map(([output, unit, label, name, edge]) => (
          <li key={output}>
            <svg viewBox="0 0 26 10" width={26} height={10} aria-hidden>
              <g className={name}>
                <polyline points="0,5 26,5" />
              </g>
            </svg>
            {label}, {suffix(unit).trim()}: {edge}
          </li>
        ))}
      </ul>
      <p className="number-hint">
        Cross: now. Ring: wish. Double ring: the front end tried. Dots: what the box builds, hollow ones to order.
        Triangles: what was called. Thick band: the arc. Hatched: walled off. <Keycap>↑</Keycap> <Keycap>↓</Keycap>{" "}
        <Keycap>←</Keycap> <Keycap>→</Keycap> 5 mm, with Shift 1; <Keycap>.</Keycap> <Keycap>,</Keycap> the nearest
        dots.
      </p>
      {plane.walls.map((wall) => (
        <p key={wall} className="apart">
          {wall}.
        </p>
      ))}
    </section>
  );
}

/** Puts the nearest front end for a new wish on the board, and tells where it puts the hands. */
function useWalked(bars: BarsView | undefined, answered: boolean, aim: Point | undefined): Point | undefined {
  const { foresee, still } = useFit();
  const best = aim && answered ? bars?.fronts?.answers[0] : undefined;
  const key = best && aim ? `${aim[0]} ${aim[1]} ${best.words}` : "";
  const put = useRef("");
  useEffect(() => {
    if (!best || still || put.current === key) return;
    put.current = key;
    foresee(best.changes);
  }, [best, key, foresee, still]);
  return best?.hand;
}

function Drawn({ shown, wish, tried }: { shown: PlaneView; wish: Point | undefined; tried: Point | undefined }) {
  const { plane } = shown;
  const { forward, up } = plane;
  const x = (value: number) =>
    BOX.left + ((BOX.right - BOX.left) * (value - forward.low)) / (forward.high - forward.low);
  const y = (value: number) => BOX.top + ((BOX.bottom - BOX.top) * (up.high - value)) / (up.high - up.low);
  const on = (p: Point) => `${x(p[0])},${y(p[1])}`;
  const drawn = { families: FAMILIES, lines: plane.lines, x, y };
  const [nowX, nowY] = [x(plane.now[0]), y(plane.now[1])];
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} aria-hidden>
      <rect className="frame" x={BOX.left} y={BOX.top} width={BOX.right - BOX.left} height={BOX.bottom - BOX.top} />
      {plane.walled.map((p) => (
        <path key={on(p)} className="wall" d={`M${x(p[0]) - 6} ${y(p[1]) + 6}l12 -12`} />
      ))}
      <FamilyLines {...drawn} />
      {plane.dots.map((dot) => (
        <circle
          key={`${on(dot.hand)}${dot.on_hand}`}
          className={dot.on_hand ? "dot" : "dot order"}
          cx={x(dot.hand[0])}
          cy={y(dot.hand[1])}
          r={dot.on_hand ? 2.6 : 1.8}
        />
      ))}
      {plane.arc.length > 1 && <polyline className="arc" points={plane.arc.map(on).join(" ")} />}
      <FamilyLabels {...drawn} box={BOX} />
      {shown.found != null && <circle className="found" cx={x(shown.found[0])} cy={y(shown.found[1])} r={8} />}
      {shown.trials.map((trial) => (
        <g key={trial.number} className="tried">
          <circle cx={x(trial.hand[0])} cy={y(trial.hand[1])} r={3} />
          {trial.outcome === "put_back" && <path d={`M${x(trial.hand[0]) - 6} ${y(trial.hand[1]) + 6}l12 -12`} />}
        </g>
      ))}
      {shown.calls.map((call, index) => (
        <g key={index} className="call">
          <title>{call.words}</title>
          <path d={`M${x(call.hand[0])} ${y(call.hand[1]) - 7}l6 12h-12z`} />
        </g>
      ))}
      <path className="now" d={`M${nowX - 9} ${nowY}h18m-9 -9v18`} />
      {wish && <circle className="wish" cx={x(wish[0])} cy={y(wish[1])} r={9} />}
      {tried && (
        <g className="try">
          <circle cx={x(tried[0])} cy={y(tried[1])} r={6} />
          <circle cx={x(tried[0])} cy={y(tried[1])} r={2.5} />
        </g>
      )}
      <text className="axis-name" x={WIDTH / 2} y={HEIGHT - 24} textAnchor="middle">
        nearer ← BB to hand {number(forward.low, "mm")} to {number(forward.high, "mm")} mm → farther
      </text>
      <text className="axis-name" x={WIDTH / 2} y={HEIGHT - 6} textAnchor="middle">
        low ↓ above the BB {number(up.low, "mm")} to {number(up.high, "mm")} mm ↑ high
      </text>
    </svg>
  );
}
