import type { Mark, Output, Point, Position, Row } from "../api/types";
import { inSentence, number, withUnit } from "../ui/format";
import { joints } from "./Drawing";
import { add, left, mix, polyline, sub, times, turned, unit, type View } from "./figure";
import { clearOf, type Rect } from "./places";

interface Shape {
  /** What is drawn whether it is in range or not. */
  line?: string;
  /** Where its number stands, and which way it is written from there. */
  anchor: Point;
  align: "start" | "end";
  /** The wedge between where it is and where its range begins. */
  wedge: (mark: Mark) => string[];
}

/** How far out a wedge reaches from its joint, mm. */
const REACH_MM = 190;
/** A wedge is twice as thick as the angle is out, so that it is seen from two metres; and never thicker than this. */
const [TIMES, THICK_DEG] = [2, 36];
/** From a wedge to its double. */
const APART_DEG = 3;

/** At a joint: from the limb toward where it would be in range, as thick as that is far; doubled beyond the outer range. */
function atJoint(joint: Point, from: Point, limb: Point): Shape["wedge"] {
  return ({ distance, toward, outer }) => {
    const opens = from[0] * limb[1] - from[1] * limb[0] >= 0 ? 1 : -1;
    const way = toward === "more" ? opens : -opens;
    const thick = way * Math.min(THICK_DEG, TIMES * distance);
    const d = times(unit(limb), REACH_MM);
    const one = (start: number) =>
      `${polyline(joint, add(joint, turned(d, start)), add(joint, turned(d, start + thick)))}Z`;
    return outer ? [one(0), one(thick + way * APART_DEG)] : [one(0)];
  };
}

/** How an output is drawn at its joint; not every one is. */
function shapeOf(output: Output, at: ReturnType<typeof joints>): Shape | undefined {
  const { hip, shoulder, elbow, knee, ankle, axle } = at;
  const aboveBack = (along: number, by: number) =>
    add(mix(hip, shoulder, along), times(left(unit(sub(shoulder, hip))), by));
  switch (output) {
    case "torso_deg":
      return {
        anchor: aboveBack(0.62, 175),
        align: "end",
        wedge: atJoint(hip, [1, 0], sub(shoulder, hip)),
      };
    case "shoulder_deg":
      return {
        anchor: aboveBack(0.9, 175),
        align: "end",
        wedge: atJoint(shoulder, sub(hip, shoulder), sub(elbow, shoulder)),
      };
    case "hip_closed_deg":
      return {
        anchor: aboveBack(0.2, 190),
        align: "end",
        wedge: atJoint(hip, sub(shoulder, hip), sub(knee, hip)),
      };
    case "knee_over_axle_mm": {
      const low = axle[1] - 60;
      return {
        line: polyline(knee, [knee[0], low]),
        anchor: add([knee[0], axle[1] + 0.42 * (knee[1] - axle[1])], [45, 0]),
        align: "start",
        wedge: ({ distance, toward, outer }) => {
          const by = (toward === "more" ? 1 : -1) * Math.max(10, distance);
          const one = (from: number) => `${polyline(knee, [knee[0] + from, low], [knee[0] + from + by, low])}Z`;
          return outer ? [one(0), one(by * 1.4)] : [one(0)];
        },
      };
    }
    case "knee_at_full_reach_deg":
    case "knee_most_bent_deg":
      return {
        anchor: add(knee, output === "knee_most_bent_deg" ? [70, -230] : [110, 10]),
        align: "start",
        wedge: atJoint(knee, sub(knee, hip), sub(ankle, knee)),
      };
    default:
      return undefined;
  }
}

/** Widths of a character of the number and of the words, px, and the height of both lines. */
const [NUMBER_CH, WORDS_CH, LINES] = [15, 8.4, 48];

interface AngleProps {
  paper: View;
  position: Position;
  crank: number;
  /** The output with its value before and after. */
  row: Row | undefined;
  label: string;
  /** The boxes it must stay clear of, and the board. */
  boxes: Rect[];
  size: { width: number; height: number };
}

/** The station's measure at its joint: its number and words, and the wedge mark while it is out of its range. */
export function Angle({ paper, position, crank, row, label, boxes, size }: AngleProps) {
  const shape = row && shapeOf(row.output, joints(position, crank));
  if (!shape) return null;
  const { unit: of, before, after, band, mark } = row;
  const value = `${number(before) === number(after) ? "" : `${number(before, of)} → `}${withUnit(after, of)}`;
  const words = mark ? mark.words : inSentence(label);
  const doubt = band == null ? "" : ` ± ${number(band, of)}`;
  const width = Math.max(value.length * NUMBER_CH, (words.length + doubt.length) * WORDS_CH);
  const [x, y] = paper.at(shape.anchor);
  const at = clearOf({ x: shape.align === "start" ? x : x - width, y: y - 26, width, height: LINES }, boxes, size);
  const out = mark ? " out" : "";
  const side = shape.align === "start" ? at.x : at.x + width;
  return (
    <g>
      <g transform={paper.transform}>
        {shape.line !== undefined && <path className="plumb" d={shape.line} />}
        {mark && shape.wedge(mark).map((d) => <path key={d} className="wedge" d={d} />)}
      </g>
      <text className={`value${out}`} x={side} y={at.y + 26} textAnchor={shape.align}>
        {value}
      </text>
      <text className={`words${out}`} x={side} y={at.y + LINES - 3} textAnchor={shape.align}>
        {words}
        {doubt !== "" && <tspan className="band">{doubt}</tspan>}
      </text>
    </g>
  );
}
