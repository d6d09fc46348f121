/** Close views beside the board: the front end's stack, the seat post, the feet, each with its parts' numbers. */
import "./detail.css";
import type { Foresight, Point, Quantity, SessionView, Setup, Side, Station } from "../api/types";
import { barOf, held } from "../fit/fields";
import { number } from "../ui/format";
import { FrontStack } from "./FrontStack";
import { add, left, mix, polyline, saddle, sub, times, unit, viewOf, type View } from "./figure";

interface DetailProps {
  station: Station;
  view: SessionView;
  foresight: Foresight;
}

const WIDTH = 372;

/** Whether a station has a close view. */
export const hasDetail = (station: Station) =>
  ["bars", "pad_stack", "saddle_height", "setback", "feet"].includes(station);

/** The close view a station needs, as foreseen where a change is pending. */
export function Detail({ station, view, foresight }: DetailProps) {
  switch (station) {
    case "bars":
    case "pad_stack":
      return (
        <>
          <CockpitDetail foresight={foresight} />
          {foresight.stack != null && foresight.stack.length > 0 && <FrontStack stack={foresight.stack} />}
        </>
      );
    case "saddle_height":
    case "setback":
      return <PostDetail foresight={foresight} />;
    case "feet":
      return <FeetDetail foresight={foresight} before={view.input.setup} />;
    default:
      return null;
  }
}

interface Label {
  /** What it names. */
  at: Point;
  words: string;
}

/** Labels beside a drawing, each with a line to what it names, never closer than a line of text. */
function Labels({ labels, x, anchor }: { labels: Label[]; x: number; anchor: "start" | "end" }) {
  const LINE = 18;
  const sorted = [...labels].sort((a, b) => a.at[1] - b.at[1]);
  let lowest = 0;
  return sorted.map(({ at, words }) => {
    const y = Math.max(at[1], lowest + LINE);
    lowest = y;
    const near = anchor === "end" ? x + 4 : x - 4;
    return (
      <g key={words}>
        <path className="leader" d={polyline([near, y], [anchor === "end" ? near + 8 : near - 8, y], at)} />
        <text x={x} y={y + 5} textAnchor={anchor}>
          {words}
        </text>
      </g>
    );
  });
}

interface Room {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/** A view of some points as large as fits between the labels, in the middle of what is left. */
function closeUp(points: Point[], around: number, room: Room, height: number): View {
  const box = boundsOf(points, around);
  const [wide, tall] = [WIDTH - room.left - room.right, height - room.top - room.bottom];
  const fitted = viewOf(box, wide, tall, { top: 0, bottom: 0, side: 0 });
  const lift = (tall - fitted.scale * (box.top - box.bottom)) / 2;
  const x = (mm: number) => fitted.x(mm) + room.left;
  const y = (mm: number) => fitted.y(mm) + room.top - lift;
  return {
    scale: fitted.scale,
    x,
    y,
    at: (p) => [x(p[0]), y(p[1])],
    transform: `translate(${x(0)} ${y(0)}) scale(${fitted.scale} ${-fitted.scale})`,
  };
}

const boundsOf = (points: Point[], by: number) => ({
  left: Math.min(...points.map((p) => p[0])) - by,
  right: Math.max(...points.map((p) => p[0])) + by,
  bottom: Math.min(...points.map((p) => p[1])) - by,
  top: Math.max(...points.map((p) => p[1])) + by,
});

const mm = (setup: Setup, quantity: Quantity, side?: Side) => {
  const value = held(setup, quantity, side);
  return value === undefined ? "?" : number(value);
};

/** What stands on the steerer, and where it carries the hand. */
function CockpitDetail({ foresight }: { foresight: Foresight }) {
  const { setup, steerer } = foresight;
  const { bike } = foresight.after;
  const height = 236;
  const ends = [bike.head_top, bike.steerer_top, bike.bar_clamp, bike.hand, bike.pad_rear, bike.grip, bike.bar_bend];
  const paper = closeUp(
    ends.filter((p): p is Point => p != null),
    14,
    { left: 112, right: 8, top: 26, bottom: 42 },
    height,
  );
  const axis = unit(sub(bike.steerer_top, bike.head_top));
  const { cover_mm, spacers_below_mm, stem_clamp_mm, spacers_above_mm } = setup.cockpit;
  const stack: [string, number][] = [
    ["cover", cover_mm],
    ["spacers", spacers_below_mm],
    ["stem clamp", stem_clamp_mm],
    ["above", spacers_above_mm],
  ];
  let reached = 0;
  const parts = stack.map(([name, length]) => {
    const from = add(bike.head_top, times(axis, reached));
    reached += length;
    return { name, length, from, to: add(bike.head_top, times(axis, reached)) };
  });
  const labels: Label[] = parts.map((part) => ({
    at: paper.at(mix(part.from, part.to, 0.5)),
    words: `${part.name} ${number(part.length)}`,
  }));
  if (steerer) labels.push({ at: paper.at(bike.steerer_top), words: `gap ${number(steerer.gap_mm)}` });
  const stem = `stem ${mm(setup, "stem_mm")}, ${mm(setup, "stem_angle_deg")}°`;
  return (
    <figure className="detail">
      <svg
        viewBox={`0 0 ${WIDTH} ${height}`}
        role="img"
        aria-label={`Front end: ${labels.map((l) => l.words).join(", ")}, ${stem}`}
      >
        {parts.map((part, index) => (
          <path
            key={part.name}
            className={index === 2 ? "part solid" : "part"}
            strokeWidth={Math.max(2, 30 * paper.scale)}
            d={polyline(paper.at(part.from), paper.at(part.to))}
          />
        ))}
        <path className="line thick" d={polyline(paper.at(bike.stem_root), paper.at(bike.bar_clamp))} />
        <FrontBar foresight={foresight} paper={paper} />
        <Labels labels={labels} x={104} anchor="end" />
        <text x={WIDTH - 8} y={18} textAnchor="end" className="strong">
          {stem}
        </text>
        {barWords(setup).map((words, index, all) => (
          <text key={words} x={WIDTH - 8} y={height - 8 - 18 * (all.length - 1 - index)} textAnchor="end">
            {words}
          </text>
        ))}
      </svg>
      <figcaption>The front end close up, mm</figcaption>
    </figure>
  );
}

function FrontBar({ foresight, paper }: { foresight: Foresight; paper: View }) {
  const { bike } = foresight.after;
  const { bar_clamp, bar_bend, hand, pad, pad_rear, pad_front, grip } = bike;
  const [x, y] = paper.at(hand);
  return (
    <>
      {pad && pad_rear && pad_front && grip ? (
        <>
          <path className="line" d={polyline(paper.at(bar_clamp), paper.at([bar_clamp[0], pad[1]]), paper.at(pad))} />
          <path className="line thick" d={polyline(paper.at(pad_rear), paper.at(pad_front))} />
          <path className="line" d={polyline(paper.at(bar_clamp), paper.at(grip))} />
        </>
      ) : (
        <path className="line" d={polyline(paper.at(bar_clamp), paper.at(bar_bend ?? bar_clamp), [x, y])} />
      )}
      <circle className="hand" cx={x} cy={y} r={7} />
    </>
  );
}

/** The bar's numbers, in a few short lines. */
function barWords(setup: Setup): string[] {
  switch (barOf(setup)) {
    case "drop":
      return [
        `bar reach ${mm(setup, "bar_reach_mm")}, roll ${mm(setup, "bar_roll_deg")}°`,
        `hood ${mm(setup, "hood_forward_mm")} ahead, ${mm(setup, "hood_rise_mm")} up`,
      ];
    case "flat":
      return [
        `rise ${mm(setup, "bar_rise_mm")}, roll ${mm(setup, "bar_roll_deg")}°`,
        `swept ${mm(setup, "backsweep_deg")}° back, ${mm(setup, "upsweep_deg")}° up`,
      ];
    case "aero":
      return [
        `pads ${mm(setup, "pad_forward_mm")} ahead, ${mm(setup, "pad_tilt_deg")}° up`,
        `bracket ${mm(setup, "pad_rise_mm")} + spacers ${mm(setup, "pad_spacers_mm")}`,
      ];
  }
}

/** Post, rails and saddle, and what is left of them. */
function PostDetail({ foresight }: { foresight: Foresight }) {
  const { setup } = foresight;
  const { bike, clearances } = foresight.after;
  const { perch } = clearances;
  const height = 236;
  const { sit, saddle_nose, saddle_tail, saddle_clamp, post_clamp } = bike;
  const axis = unit(post_clamp);
  const along = unit(sub(saddle_nose, saddle_tail));
  const stack = held(setup, "saddle_stack_mm") ?? 0;
  const setback = held(setup, "post_setback_mm");
  const middle = add(sit, add(times(along, held(setup, "rail_middle_mm") ?? 0), times(left(along), -stack)));
  const half = (setup.saddle.rail_mm ?? 60) / 2;
  const [railBack, railFront] = [add(middle, times(along, -half)), add(middle, times(along, half))];
  const head = add(saddle_clamp, times(left(axis), -(setback ?? 0)));
  const paper = closeUp(
    [saddle_nose, saddle_tail, sit, add(post_clamp, times(axis, -60))],
    10,
    { left: 104, right: 112, top: 4, bottom: 4 },
    height,
  );
  const at = paper.at;
  const labels: Label[] = [
    { at: at(mix(sit, middle, 0.5)), words: `stack ${number(stack)}` },
    { at: at(mix(head, post_clamp, 0.5)), words: `post out ${number(perch.exposed_mm)}` },
  ];
  if (perch.inserted_mm != null) {
    labels.push({ at: at(add(post_clamp, times(axis, -40))), words: `post in ${number(perch.inserted_mm)}` });
  }
  const right: Label[] = [{ at: at(mix(sit, saddle_nose, 0.6)), words: `tilt ${mm(setup, "tilt_deg")}°` }];
  if (perch.clamp_ahead_mm != null) {
    const ahead = perch.clamp_ahead_mm;
    const words =
      Math.abs(ahead) < 0.5 ? "rails: middle" : `rails: ${number(Math.abs(ahead))} ${ahead > 0 ? "front" : "rear"}`;
    right.push({ at: at(saddle_clamp), words });
  }
  if (setback !== undefined) {
    right.push({ at: at(mix(head, saddle_clamp, 0.5)), words: `post setback ${number(setback)}` });
  }
  const wide = 27 * paper.scale;
  return (
    <figure className="detail">
      <svg
        viewBox={`0 0 ${WIDTH} ${height}`}
        role="img"
        aria-label={`Saddle and post: ${[...labels, ...right].map((l) => l.words).join(", ")}`}
      >
        <path
          className="part"
          strokeWidth={wide * 1.5}
          d={polyline(at(post_clamp), at(add(post_clamp, times(axis, -70))))}
        />
        <path className="part solid" strokeWidth={wide} d={polyline(at(head), at(add(post_clamp, times(axis, -30))))} />
        <path className="line" d={polyline(at(head), at(saddle_clamp))} />
        <path className="line" d={polyline(at(railBack), at(railFront))} />
        <g transform={paper.transform}>
          <path className="saddle" d={saddle(saddle_nose, saddle_tail)} />
        </g>
        <circle className="hand" cx={at(saddle_clamp)[0]} cy={at(saddle_clamp)[1]} r={5} />
        <Labels labels={labels} x={100} anchor="end" />
        <Labels labels={right} x={WIDTH - 112} anchor="start" />
      </svg>
      <figcaption>
        Saddle and post close up, mm
        {perch.words.length > 0 && <strong className="warn"> · {perch.words.join("; ")}</strong>}
      </figcaption>
    </figure>
  );
}

/** Both feet on their pedals, level: what stands between axle and sole, and where the axle is under the foot. */
function FeetDetail({ foresight, before }: { foresight: Foresight; before: Setup }) {
  return (
    <figure className="detail feet">
      {(["left", "right"] as const).map((side) => (
        <Foot key={side} side={side} foresight={foresight} before={before} />
      ))}
      <figcaption>Both feet level, mm. Dashed: the first metatarsal joint.</figcaption>
    </figure>
  );
}

function Foot({ side, foresight, before }: { side: Side; foresight: Foresight; before: Setup }) {
  const { setup, lengths } = foresight;
  const leg = foresight.after.legs[side];
  const own = setup.pedalling[side];
  const foot = lengths.legs[side].foot_length.value_mm;
  const [toe, heel] = [leg.toe_ahead_mm, leg.toe_ahead_mm - foot];
  const stack = own.pedal_stack_mm + own.shim_mm + own.sole_mm + (own.footbed_mm ?? 0);
  const [width, height] = [178, 158];
  const paper = viewOf({ left: heel - 12, right: toe + 14, bottom: -24, top: 100 }, width, height, {
    top: 18,
    bottom: 56,
    side: 4,
  });
  const at = paper.at;
  const ball = own.cleat_setback_mm;
  const shoe = [
    [heel, stack],
    [toe, stack],
    [toe + 8, stack + 18],
    [toe - 46, stack + 42],
    [heel + 92, stack + 74],
    [heel + 10, stack + 78],
    [heel - 6, stack + 30],
  ] as Point[];
  const extra = [
    own.shim_mm > 0 ? `shim ${number(own.shim_mm)}` : "",
    (own.footbed_mm ?? 0) !== 0 ? `footbed ${number(own.footbed_mm ?? 0)}` : "",
  ].filter((words) => words !== "");
  const stackWords = [`pedal ${number(own.pedal_stack_mm)}, sole ${number(own.sole_mm)}`, extra.join(", ")];
  const cleat = `cleat ${number(ball)} behind`;
  const moved = before.pedalling[side].cleat_setback_mm !== ball;
  return (
    <svg viewBox={`0 0 ${width} ${height}`} role="img" aria-label={`${side} foot: ${cleat}, ${stackWords.join(", ")}`}>
      <path className="shoe" d={`${polyline(...shoe.map(at))}Z`} />
      <path className="dash" d={polyline(at([ball, stack + 56]), at([ball, 0]))} />
      <path className="line" d={polyline(at([-42, 0]), at([42, 0]))} />
      <circle className="hand" cx={at([0, 0])[0]} cy={at([0, 0])[1]} r={5} />
      <text x={4} y={14} className="strong">
        {side}
      </text>
      <text x={4} y={height - 40} className={moved ? "foreseen" : undefined}>
        {cleat}
      </text>
      {stackWords.map((words, line) => (
        <text key={line} x={4} y={height - 22 + 18 * line}>
          {words}
        </text>
      ))}
    </svg>
  );
}
