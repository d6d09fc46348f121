import type { AxisOpen } from "../api/types";
import { number, signed } from "../ui/format";

const WIDTH = 480;
const SIDE = 14;
/** A witness's row, and the height of its ridge in it. */
const ROW = 46;
const RIDGE = 24;
/** The product's. */
const WHOLE = 84;
/** More than so many are told in words. */
const MOST = 7;

/** Every witness a small ridge, their product a filled one below; now, try, walls and the window over all of them. */
export function Ridges({ open, at }: { open: AxisOpen; at: number | undefined }) {
  const { line, places } = open;
  const [low, high] = inSight(open, at);
  const x = (place: number) => SIDE + ((WIDTH - 2 * SIDE) * (place - low)) / (high - low);
  const shown = open.ridges.slice(0, MOST);
  const more = open.ridges.slice(MOST);
  const cells = places.flatMap((place, index) => (place >= low && place <= high ? [index] : []));
  const ridge = (values: number[], base: number, tall: number) => {
    const top = Math.max(...cells.map((cell) => values[cell] ?? 0), 1e-9);
    const points = cells.map((cell) => `${x(places[cell] ?? 0)},${base - (tall * (values[cell] ?? 0)) / top}`);
    return `M${x(places[cells[0] ?? 0] ?? 0)},${base}L${points.join("L")}L${x(places[cells.at(-1) ?? 0] ?? 0)},${base}Z`;
  };
  const foot = shown.length * ROW + (more.length > 0 ? 22 : 0) + 14;
  const base = foot + WHOLE + 34;
  const height = base + 52;
  const mark = (place: number) => x(Math.min(high, Math.max(low, place)));
  return (
    <svg className="ridges" viewBox={`0 0 ${WIDTH} ${height}`} role="img" aria-label={open.words.join(" ")}>
      {open.walled.map(({ from, to }) => (
        <Wall key={from} from={mark(from)} to={mark(to)} height={base} />
      ))}
      {shown.map(({ said, ridge: values }, index) => {
        const bottom = (index + 1) * ROW;
        return (
          <g key={said.words}>
            <title>{said.words}</title>
            <path className="ridge" d={ridge(values, bottom, RIDGE)} />
            <text className="said" x={SIDE} y={bottom - RIDGE - 6}>
              {short(said.words)}
            </text>
            <text className={said.points < 0 ? "points against" : "points"} x={WIDTH - SIDE} y={bottom - RIDGE - 6}>
              {signed(said.points)}
            </text>
          </g>
        );
      })}
      {more.length > 0 && (
        <text className="said" x={SIDE} y={shown.length * ROW + 20}>
          and {more.length} more: {signed(more.reduce((sum, { said }) => sum + said.points, 0))}
        </text>
      )}
      <text className="whole-word" x={SIDE} y={foot + 10}>
        All together
      </text>
      <text className="points" x={WIDTH - SIDE} y={foot + 10}>
        {line.words}
      </text>
      <path className="whole" d={ridge(open.belief, base, WHOLE)} />
      <path className="line" d={`M${SIDE} ${base}H${WIDTH - SIDE}`} />
      <path className="window" d={`M${mark(line.right - line.half)} ${base + 7}H${mark(line.right + line.half)}`} />
      <Ticks low={low} high={high} x={x} base={base} from={line.reads_from} />
      {open.tried != null && (
        <g className="try">
          <path d={`M${mark(open.tried) - 2} 0V${base}M${mark(open.tried) + 2} 0V${base}`} />
        </g>
      )}
      <path className="now" d={`M${mark(line.now)} 0V${base}`} />
      {at !== undefined && <path className="cursor" d={`M${mark(at)} 0V${base + 6}`} />}
      <Names
        marks={[
          { x: mark(line.now), words: `now ${number(line.now + line.reads_from)}`, name: "now" },
          ...(open.tried == null
            ? []
            : [{ x: mark(open.tried), words: `try ${number(open.tried + line.reads_from)}`, name: "try" }]),
        ]}
        y={base - WHOLE - 4}
      />
      <text className="end" x={SIDE} y={height - 4}>
        ← {line.minus_end}
      </text>
      <text className="end" x={WIDTH - SIDE} y={height - 4} textAnchor="end">
        {line.plus_end} →
      </text>
      <text className="end" x={WIDTH / 2} y={height - 4} textAnchor="middle">
        bar: the window, ± {number(line.half)}
        {line.unit}
      </text>
    </svg>
  );
}

/** What of the line is drawn: where anything is believed, with now and what is tried, and the window around. */
function inSight({ line, places, belief, tried }: AxisOpen, at: number | undefined): [number, number] {
  const believed = places.filter((_, cell) => (belief[cell] ?? 0) > 0.01);
  const all = [...believed, line.now, line.right, tried ?? line.now, at ?? line.now];
  const pad = 2 * line.half;
  return [Math.max(places[0] ?? 0, Math.min(...all) - pad), Math.min(places.at(-1) ?? 0, Math.max(...all) + pad)];
}

const short = (words: string) => (words.length > 58 ? `${words.slice(0, 56).trimEnd()}…` : words);

function Wall({ from, to, height }: { from: number; to: number; height: number }) {
  if (to - from < 1) return null;
  const stripes = [];
  for (let x = from; x < to + height; x += 9) {
    stripes.push(`M${x} 0L${x - height} ${height}`);
  }
  const id = `wall-${Math.round(from)}`;
  return (
    <g className="wall">
      <clipPath id={id}>
        <rect x={from} y={0} width={to - from} height={height} />
      </clipPath>
      <path clipPath={`url(#${id})`} d={stripes.join("")} />
    </g>
  );
}

/** Now and try by name: where they stand close, one reads to the left and the other to the right. */
function Names({ marks, y }: { marks: { x: number; words: string; name: string }[]; y: number }) {
  const sorted = [...marks].sort((a, b) => a.x - b.x);
  return sorted.map((mark, index) => {
    const left = (sorted.length > 1 && index === 0) || mark.x > WIDTH - 90;
    return (
      <text
        key={mark.name}
        className={`name ${mark.name}`}
        x={mark.x + (left ? -6 : 6)}
        y={y + 16 * (mark.x > WIDTH - 90 && index > 0 ? 1 : 0)}
        textAnchor={left ? "end" : "start"}
      >
        {mark.words}
      </text>
    );
  });
}

interface TicksProps {
  low: number;
  high: number;
  x: (place: number) => number;
  base: number;
  from: number;
}

function Ticks({ low, high, x, base, from }: TicksProps) {
  const span = high - low;
  const step = [0.5, 1, 2, 5, 10, 20, 50].find((by) => span / by <= 8) ?? 100;
  const all = [];
  for (let at = Math.ceil((low + from) / step) * step; at <= high + from; at += step) all.push(at);
  return all.map((at) => (
    <g key={at} className="tick">
      <path d={`M${x(at - from)} ${base}v5`} />
      <text x={x(at - from)} y={base + 26} textAnchor="middle">
        {number(at)}
      </text>
    </g>
  ));
}
