import type { Mark, Output, Point, Position, Row } from "../api/types";
import { inSentence, number, withUnit } from "../ui/format";
import { joints } from "./Drawing";
import { add, left, mix, polyline, sector, sub, times, unit, type View } from "./figure";

interface Shape {
  path: string;
  /** Where its number stands. */
  anchor: Point;
  align: "start" | "end";
  bones: Point[];
}

/** How an output is drawn at its joint; not every one is. */
function shapeOf(output: Output, { hip, shoulder, knee, ankle, axle }: ReturnType<typeof joints>): Shape | undefined {
  switch (output) {
    case "torso_deg":
      return {
        path: sector(hip, [1, 0], sub(shoulder, hip), 190),
        anchor: add(mix(hip, shoulder, 0.62), times(left(unit(sub(shoulder, hip))), 175)),
        align: "end",
        bones: [hip, shoulder],
      };
    case "knee_over_axle_mm":
      return {
        path: polyline(knee, [knee[0], axle[1] - 60]),
        anchor: add([knee[0], axle[1] + 0.42 * (knee[1] - axle[1])], [45, 0]),
        align: "start",
        bones: [knee],
      };
    case "knee_at_full_reach_deg":
    case "knee_most_bent_deg":
      return {
        path: sector(knee, sub(knee, hip), sub(ankle, knee), 165),
        anchor: add(knee, output === "knee_most_bent_deg" ? [70, -230] : [110, 10]),
        align: "start",
        bones: [hip, knee, ankle],
      };
    default:
      return undefined;
  }
}

interface AngleProps {
  paper: View;
  position: Position;
  crank: number;
  /** The output with its value before and after. */
  row: Row | undefined;
  label: string;
}

/** One wedge-shaped sector at the joint in question, with its number and, out of range, its words. */
export function Angle({ paper, position, crank, row, label }: AngleProps) {
  const shape = row && shapeOf(row.output, joints(position, crank));
  if (!shape) return null;
  const { unit: of, before, after, band, mark } = row;
  const from = number(before) === number(after) ? "" : `${number(before, of)} → `;
  const [x, y] = paper.at(shape.anchor);
  const out = mark ? " out" : "";
  return (
    <g>
      <g transform={paper.transform}>
        <path className={`sector${out}`} d={shape.path} />
        {shape.bones.length > 1 && <path className="bone" d={polyline(...shape.bones)} />}
        {shape.bones.map((p, index) => (
          <circle key={index} className="joint" cx={p[0]} cy={p[1]} r={13} />
        ))}
      </g>
      <text className={`value${out}${from ? " changed" : ""}`} x={x} y={y} textAnchor={shape.align}>
        {from}
        {withUnit(after, of)}
      </text>
      <text className={`words${out}`} x={x} y={y + 21} textAnchor={shape.align}>
        {mark ? mark.words : inSentence(label)}
        {band != null && <tspan className="band"> ± {number(band, of)}</tspan>}
      </text>
      {mark && <BoardWedge mark={mark} x={shape.align === "start" ? x : x - 40} y={y + 30} />}
    </g>
  );
}

/** The wedge mark on the board: thickens toward the way to go, doubles beyond the outer range. */
function BoardWedge({ mark, x, y }: { mark: Mark; x: number; y: number }) {
  const width = 14 + 26 * Math.min(1, mark.distance / 12);
  const d = (top: number) =>
    mark.toward === "more" ? `M${x} ${top + 11}h${width}v-11z` : `M${x + width} ${top + 11}h${-width}v-11z`;
  return (
    <>
      <path style={{ fill: "var(--chakra-colors-brick)" }} d={d(y)} />
      {mark.outer && <path style={{ fill: "var(--chakra-colors-brick)" }} d={d(y + 14)} />}
    </>
  );
}
