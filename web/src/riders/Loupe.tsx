import type { Point } from "../api/types";
import { day } from "../ui/format";

/** A contact point as a fit left it. */
export interface Left {
  p: Point;
  day: string;
}

const RADIUS = 52;
/** How many times closer the loupe looks, at the most. */
const MOST = 12;

interface LoupeProps {
  /** Where it hangs, and where the point as it is now lies, px. */
  at: Point;
  now: Point;
  /** The earlier ones, the oldest first. */
  earlier: Left[];
  /** On which side of the loupe the days stand. */
  side: "left" | "right";
}

/** Earlier contact points close up: years of fits lie within a thumb's breadth, and would bury one another. */
export function Loupe({ at, now, earlier, side }: LoupeProps) {
  const far = Math.max(1, ...earlier.map(({ p }) => Math.hypot(p[0] - now[0], p[1] - now[1])));
  const closer = Math.min(MOST, (RADIUS - 12) / far);
  const inside = ([x, y]: Point): Point => [at[0] + (x - now[0]) * closer, at[1] + (y - now[1]) * closer];
  const way = side === "left" ? -1 : 1;
  const [dx, dy] = [now[0] - at[0], now[1] - at[1]];
  const off = RADIUS / (Math.hypot(dx, dy) || 1);
  return (
    <g className="loupe">
      <path className="leader" d={`M${at[0] + dx * off} ${at[1] + dy * off}L${now[0]} ${now[1]}`} />
      <circle className="glass" cx={at[0]} cy={at[1]} r={RADIUS} />
      <path className="now" d={`M${at[0] - 8} ${at[1]}h16m-8 -8v16`} />
      {earlier.map((then, index) => {
        const [x, y] = inside(then.p);
        const line = at[1] + (index - (earlier.length - 1) / 2) * 20;
        const edge = at[0] + way * (RADIUS + 6);
        return (
          <g key={then.day} className="cross">
            <path d={`M${x - 5} ${y - 5}l10 10m0 -10l-10 10`} />
            <path className="leader" d={`M${x + way * 6} ${y}L${edge} ${line}`} />
            <text x={edge + way * 4} y={line + 5} textAnchor={side === "left" ? "end" : "start"}>
              {day(then.day)}
            </text>
          </g>
        );
      })}
    </g>
  );
}
