import type { Choice, Ranked } from "../api/types";
import { number, suffix, ticks } from "../ui/format";

const PAPER = { width: 640, height: 460, left: 62, right: 16, top: 14, bottom: 46 };
/** So many of the best are named. */
const NAMED = 6;

interface PlaneProps {
  choice: Choice;
  on: number | undefined;
}

/** Frames as dots in the plane of reach and stack, with the band of good ones. The table says the same. */
export function Plane({ choice, on }: PlaneProps) {
  const all = [...choice.ranked.map((one) => one.head_top), ...choice.good];
  if (all.length === 0) return null;
  const span = (at: 0 | 1): [number, number] => {
    const values = all.map((p) => p[at]);
    return [Math.min(...values) - 12, Math.max(...values) + 12];
  };
  const [west, east] = span(0);
  const [low, high] = span(1);
  const x = (v: number) => PAPER.left + ((v - west) / (east - west)) * (PAPER.width - PAPER.left - PAPER.right);
  const y = (v: number) =>
    PAPER.height - PAPER.bottom - ((v - low) / (high - low)) * (PAPER.height - PAPER.top - PAPER.bottom);
  const floor = PAPER.height - PAPER.bottom;
  const named = choice.ranked.filter((one, place) => place < NAMED || one.index === on);
  return (
    <figure>
      <svg
        className="plane"
        viewBox={`0 0 ${PAPER.width} ${PAPER.height}`}
        role="img"
        aria-label={`Frames by reach and stack. ${choice.good_words}. Full dots are reached, rings are not; the table names each.`}
      >
        {ticks(west, east, "mm", 6).map((tick) => (
          <g key={tick}>
            <line x1={x(tick)} x2={x(tick)} y1={PAPER.top} y2={floor} />
            <text x={x(tick)} y={floor + 18} textAnchor="middle">
              {number(tick, "mm")}
            </text>
          </g>
        ))}
        {ticks(low, high, "mm", 6).map((tick) => (
          <g key={tick}>
            <line x1={PAPER.left} x2={PAPER.width - PAPER.right} y1={y(tick)} y2={y(tick)} />
            <text x={PAPER.left - 6} y={y(tick) + 5} textAnchor="end">
              {number(tick, "mm")}
            </text>
          </g>
        ))}
        <text x={PAPER.width - PAPER.right} y={PAPER.height - 8} textAnchor="end">
          frame reach{suffix("mm") && `,${suffix("mm")}`}
        </text>
        <text x={PAPER.left + 6} y={PAPER.top + 14}>
          frame stack{suffix("mm") && `,${suffix("mm")}`}
        </text>
        <polygon className="band" points={choice.good.map((p) => `${x(p[0])},${y(p[1])}`).join(" ")} />
        {choice.ranked.map((one) => (
          <Dot key={one.index} of={one} on={one.index === on} at={[x(one.head_top[0]), y(one.head_top[1])]} />
        ))}
        <Names of={named} x={x} y={y} />
      </svg>
      <figcaption className="other">
        Shaded: {choice.good_words.charAt(0).toLowerCase() + choice.good_words.slice(1)}. Full dots are reached, rings
        are not.
      </figcaption>
    </figure>
  );
}

function Dot({ of, on, at: [x, y] }: { of: Ranked; on: boolean; at: [number, number] }) {
  return (
    <circle className={`dot${of.reached ? "" : " out"}${on ? " on" : ""}`} cx={x} cy={y} r={on ? 8 : 5}>
      <title>{of.name}</title>
    </circle>
  );
}

/** Names beside their dots, from the top; one that would lie on another gives way. */
function Names({ of, x, y }: { of: Ranked[]; x: (v: number) => number; y: (v: number) => number }) {
  const taken: { left: number; right: number; y: number }[] = [];
  const placed = of.flatMap((one) => {
    const wide = one.name.length * 7.6;
    const [at, level] = [x(one.head_top[0]), y(one.head_top[1]) + 5];
    const toLeft = at + 16 + wide > PAPER.width - PAPER.right;
    const left = toLeft ? at - 16 - wide : at + 16;
    const free = !taken.some((t) => Math.abs(t.y - level) < 16 && left < t.right && t.left < left + wide);
    if (!free) return [];
    taken.push({ left, right: left + wide, y: level });
    return [{ one, at: toLeft ? at - 16 : at + 16, level, anchor: toLeft ? ("end" as const) : ("start" as const) }];
  });
  return placed.map(({ one, at, level, anchor }) => (
    <text key={one.index} className="name" x={at} y={level} textAnchor={anchor}>
      {one.name}
    </text>
  ));
}
