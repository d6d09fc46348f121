import type { Gap, Position } from "../api/types";
import { number } from "../ui/format";
import type { View } from "./figure";

export interface Short {
  limb: string;
  gap: Gap;
}

/** The limbs of a position that do not get there; legs that lack the same are said once. */
export function gapsOf({ legs, arm_gap }: Position): Short[] {
  const { left: l, right: r } = legs;
  const arms = arm_gap ? [{ limb: "arms", gap: arm_gap }] : [];
  if (l.gap && r.gap && number(l.gap.by_mm) === number(r.gap.by_mm)) return [{ limb: "legs", gap: r.gap }, ...arms];
  return [
    ...(r.gap ? [{ limb: "right leg", gap: r.gap }] : []),
    ...(l.gap ? [{ limb: "left leg", gap: l.gap }] : []),
    ...arms,
  ];
}

interface GapLineProps {
  short: Short;
  paper: View;
  /** Which line of words it is: limbs that end at one place are told below one another. */
  line: number;
}

/** What a limb lacks: a dotted line over the gap, with its millimetres. */
export function GapLine({ short, paper, line }: GapLineProps) {
  const { limb, gap } = short;
  const [a, b] = [paper.at(gap.from), paper.at(gap.to)];
  return (
    <g className="gap">
      <line x1={a[0]} y1={a[1]} x2={b[0]} y2={b[1]} />
      {[a, b].map((p, index) => (
        <circle key={index} cx={p[0]} cy={p[1]} r={5} />
      ))}
      <text className="value out" x={Math.max(a[0], b[0]) + 14} y={(a[1] + b[1]) / 2 - 14 + 34 * line}>
        {limb} {number(gap.by_mm)} mm short
      </text>
    </g>
  );
}
