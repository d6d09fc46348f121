import { useState } from "react";
import type { Limbs, Sample, TakesView, Wheel } from "../api/types";
import { number } from "../ui/format";

const VIEWS = [
  { key: "front", label: "Knees from the front" },
  { key: "ankle", label: "Ankle paths" },
  { key: "knee", label: "Knee over the stroke" },
  { key: "pelvis", label: "Pelvis" },
  { key: "torque", label: "Torque" },
] as const;
type View = (typeof VIEWS)[number]["key"];

/** What the last take looks like, one drawing at a time: left solid, right dashed, the take before it thin. */
export function Plots({ takes }: { takes: TakesView }) {
  const [view, setView] = useState<View>("front");
  const [now, before] = takes.samples;
  const wheel = takes.wheels.at(-1)?.wheel;
  if (!now) return null;
  const there = VIEWS.filter(({ key }) =>
    key === "torque" ? wheel : key === "pelvis" ? now.pelvis : key === "front" ? !now.planar : true,
  );
  const shown = there.some(({ key }) => key === view) ? view : (there[0]?.key ?? "knee");
  return (
    <section className="card plots" aria-labelledby="plots">
      <h2 id="plots" className="visually-hidden">
        The last take drawn
      </h2>
      <div className="tabs" role="group" aria-label="What is drawn">
        {there.map(({ key, label }) => (
          <button key={key} type="button" aria-pressed={key === shown} onClick={() => setView(key)}>
            {label}
          </button>
        ))}
      </div>
      {shown === "front" && <Front now={now} before={before} />}
      {shown === "ankle" && <Ankles now={now} before={before} />}
      {shown === "knee" && <KneeCurve now={now} />}
      {shown === "pelvis" && <PelvisCurve now={now} before={before} />}
      {shown === "torque" && wheel && <TorqueWheel wheel={wheel} sectors={sectorsOf(takes)} />}
    </section>
  );
}

function sectorsOf(takes: TakesView): number[] {
  const last = takes.takes.findLast(({ take }) => "torque" in take.body)?.take.body;
  return last && "torque" in last ? last.torque.sectors_nm : [];
}

type Points = number[][];

const path = (points: Points, closed: boolean): string =>
  points.length === 0 ? "" : `M${points.map(([x, y]) => `${x ?? 0} ${y ?? 0}`).join("L")}${closed ? "Z" : ""}`;

const WIDTH = 370;

/** Every mm is as long across as up. */
function Fitted({
  all,
  tall,
  label,
  children,
}: {
  all: Points;
  tall: number;
  label: string;
  children: (at: (p: number[]) => number[], scale: number) => React.ReactNode;
}) {
  const xs = all.map(([x]) => x ?? 0);
  const ys = all.map(([, y]) => y ?? 0);
  const [left, right, low, high] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const scale = Math.min((WIDTH - 40) / Math.max(right - left, 1), (tall - 40) / Math.max(high - low, 1));
  const at = ([x = 0, y = 0]: number[]) => [
    WIDTH / 2 + (x - (left + right) / 2) * scale,
    tall / 2 - (y - (low + high) / 2) * scale,
  ];
  return (
    <svg viewBox={`0 0 ${WIDTH} ${tall}`} role="img" aria-label={label}>
      {children(at, scale)}
    </svg>
  );
}

const SIDES = ["left", "right"] as const;
const limbsOf = (sample: Sample | undefined, side: "left" | "right"): Limbs | undefined =>
  sample?.sides[side] ?? undefined;

/** As one sees them from in front of the bike: the rider's right on the left hand. Loops are drawn three times as wide as they are. */
function Front({ now, before }: { now: Sample; before: Sample | undefined }) {
  const WIDE = 3;
  const loop = (limbs: Limbs | undefined, side: "left" | "right"): Points => {
    const off = limbs?.drawn.knee_off_line ?? [];
    const ups = limbs?.drawn.knee_front.map(([, y]) => y ?? 0) ?? [];
    const sign = side === "left" ? 1 : -1;
    return off.map((x, at) => [sign * (150 + WIDE * x), ups[at] ?? 0]);
  };
  const all = SIDES.flatMap((side) => [...loop(limbsOf(now, side), side), ...loop(limbsOf(before, side), side)]);
  const words = SIDES.map((side) => `${side}: ${frontWords(limbsOf(now, side))}`).join("; ");
  if (all.length === 0) return <p>No knee from the front in this take.</p>;
  const ys = all.map(([, y]) => y ?? 0);
  const [low, high] = [Math.min(...ys) - 25, Math.max(...ys) + 25];
  const frame = [...all, [-230, low], [230, high]];
  return (
    <figure>
      <Fitted all={frame} tall={300} label={`Knees from the front, ${words}`}>
        {(at) => (
          <>
            {SIDES.map((side) => {
              const sign = side === "left" ? 1 : -1;
              const [x, top] = at([sign * 150, high]);
              const [, bottom] = at([sign * 150, low]);
              const front = limbsOf(now, side)?.front;
              return (
                <g key={side}>
                  <path className="line-of-leg" d={`M${x ?? 0} ${top ?? 0}V${bottom ?? 0}`} />
                  <path className="was" d={path(loop(limbsOf(before, side), side).map(at), true)} />
                  <path className={`loop ${side}`} d={path(loop(limbsOf(now, side), side).map(at), true)} />
                  <text x={x} y={(top ?? 0) - 6} textAnchor="middle">
                    {side}
                    {front?.path ? "" : ""}
                  </text>
                </g>
              );
            })}
          </>
        )}
      </Fitted>
      <figcaption>
        {SIDES.map((side) => (
          <span key={side}>
            <b>{side}</b>: {frontWords(limbsOf(now, side))}.{" "}
          </span>
        ))}
        Thin upright: the line from toe to hip. Sideways three times as large as it is.
        {before ? " Thin loop: the take before." : ""}
      </figcaption>
    </figure>
  );
}

const NAMES: Record<string, string> = {
  straight: "straight",
  in_pushing: "in while pushing",
  out_rising: "out while rising",
  swept_in: "swept in",
  swept_out: "swept out",
};

function frontWords(limbs: Limbs | undefined): string {
  if (!limbs?.front) return "not seen";
  const name = limbs.front.path ? (NAMES[limbs.front.path] ?? limbs.front.path) : "of no one shape";
  return limbs.front.near_border ? `${name}, near another` : name;
}

function Ankles({ now, before }: { now: Sample; before: Sample | undefined }) {
  const of = (sample: Sample | undefined, side: "left" | "right") => limbsOf(sample, side)?.drawn.ankle_path ?? [];
  const all = [...SIDES.flatMap((side) => [...of(now, side), ...of(before, side)]), [0, 0]];
  return (
    <figure>
      <Fitted all={all} tall={300} label="The ankles’ paths from the side, left and right, about the bottom bracket">
        {(at) => {
          const [x = 0, y = 0] = at([0, 0]);
          return (
            <>
              <path className="axes" d={`M${x - 8} ${y}H${x + 8}M${x} ${y - 8}V${y + 8}`} />
              {SIDES.map((side) => (
                <g key={side}>
                  <path className="was" d={path(of(before, side).map(at), true)} />
                  <path className={`loop ${side}`} d={path(of(now, side).map(at), true)} />
                </g>
              ))}
            </>
          );
        }}
      </Fitted>
      <figcaption>
        Left solid, right dashed; the cross is the bottom bracket. Paths that differ tell of feet that do.
      </figcaption>
    </figure>
  );
}

/** Curves over the crank from one top to the next. */
function Curves({
  curves,
  label,
  unit,
  zero,
}: {
  curves: { name: string; values: number[] }[];
  label: string;
  unit: string;
  zero?: boolean;
}) {
  const TALL = 260;
  const all = curves.flatMap(({ values }) => values);
  if (all.length === 0) return null;
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const room = Math.max((high - low) * 0.08, 0.5);
  const x = (index: number, count: number) => 56 + ((WIDTH - 78) * index) / count;
  const y = (value: number) => TALL - 28 - ((TALL - 44) * (value - low + room)) / (high - low + 2 * room);
  return (
    <svg viewBox={`0 0 ${WIDTH} ${TALL}`} role="img" aria-label={label}>
      {[0, 90, 180, 270, 360].map((degree) => (
        <g key={degree}>
          <path className="grid" d={`M${x(degree, 360)} 10V${TALL - 26}`} />
          <text x={x(degree, 360)} y={TALL - 8} textAnchor="middle">
            {degree}°
          </text>
        </g>
      ))}
      {[low, high].map((value) => (
        <text key={value} x={50} y={y(value) + 5} textAnchor="end">
          {number(value)}
          {unit}
        </text>
      ))}
      {zero && low < 0 && high > 0 && <path className="axes" d={`M56 ${y(0)}H${WIDTH - 22}`} />}
      {curves.map(({ name, values }) => (
        <path
          key={name}
          className={`loop ${name}`}
          d={path(
            [...values, values[0] ?? 0].map((value, index) => [x(index, values.length), y(value)]),
            false,
          )}
        />
      ))}
    </svg>
  );
}

function KneeCurve({ now }: { now: Sample }) {
  const rough = SIDES.map((side) => limbsOf(now, side)?.bottom_roughness_deg);
  return (
    <figure>
      {SIDES.map((side) => {
        const drawn = limbsOf(now, side)?.drawn;
        if (!drawn) return null;
        return (
          <div key={side}>
            <p className="side">
              {side}
              {rough[side === "left" ? 0 : 1] == null
                ? ""
                : `: ${(rough[side === "left" ? 0 : 1] ?? 0).toFixed(2)}° rough around the bottom`}
            </p>
            <Curves
              label={`Knee of the ${side} leg over the stroke, and of a leg that goes round smoothly`}
              unit="°"
              curves={[
                { name: "smooth", values: drawn.smooth_deg },
                { name: "left", values: drawn.knee_deg },
              ]}
            />
          </div>
        );
      })}
      <figcaption>
        Knee flexion over the crank, thick; the leg that goes round smoothly, thin. Quiet legs read 0.1 to 0.2° of
        roughness, choppy ones 0.4 and more.
      </figcaption>
    </figure>
  );
}

function PelvisCurve({ now, before }: { now: Sample; before: Sample | undefined }) {
  const pelvis = now.pelvis;
  if (!pelvis) return null;
  const twist = pelvis.twist_deg.length > 0;
  return (
    <figure>
      <Curves
        zero
        label="Roll and twist of the pelvis over the right crank"
        unit="°"
        curves={[
          ...(before?.pelvis ? [{ name: "smooth", values: before.pelvis.roll_deg }] : []),
          { name: "left", values: pelvis.roll_deg },
          ...(twist ? [{ name: "right", values: pelvis.twist_deg }] : []),
        ]}
      />
      <figcaption>
        Roll, right hip up, solid{twist ? "; twist, right hip ahead, dashed" : ""}; over the right crank. At the hip
        joints the dip is {number(pelvis.dip_mm.right)} mm to the right and {number(pelvis.dip_mm.left)} mm to the left.
        {pelvis.zero
          ? ` A standing zero of ${number(pelvis.zero.lean_deg, "deg")}° lean is taken off.`
          : twist
            ? " Without a standing zero, lean and twist bear 1.5° and 0.8° of doubt."
            : ""}
        {before?.pelvis ? " Thin: the roll of the take before." : ""}
      </figcaption>
    </figure>
  );
}

/** Torque by clock sector: petals as long as the torque, the right crank's top above. */
function TorqueWheel({ wheel, sectors }: { wheel: Wheel; sectors: number[] }) {
  const most = Math.max(...sectors.map(Math.abs), 1);
  const [cx, cy, inner, outer] = [WIDTH / 2, 150, 34, 128];
  const flat = [...wheel.flat_deg.right, ...wheel.flat_deg.left.map((degree) => (degree + 180) % 360)];
  const petal = (index: number, nm: number) => {
    const from = ((index * 15 + 1) * Math.PI) / 180;
    const to = (((index + 1) * 15 - 1) * Math.PI) / 180;
    const far = inner + ((outer - inner) * Math.max(nm, 0)) / most;
    const at = (angle: number, r: number) => `${cx + r * Math.sin(angle)} ${cy - r * Math.cos(angle)}`;
    return `M${at(from, inner)}L${at(from, far)}A${far} ${far} 0 0 1 ${at(to, far)}L${at(to, inner)}Z`;
  };
  return (
    <figure>
      <svg viewBox={`0 0 ${WIDTH} 300`} role="img" aria-label={`Torque over the stroke, ${wheel.power_w.toFixed(0)} W`}>
        <circle className="grid" cx={cx} cy={cy} r={outer} />
        <circle className="grid" cx={cx} cy={cy} r={(inner + outer) / 2} />
        {sectors.map((nm, index) => (
          <path key={index} className={index < 12 ? "petal right" : "petal left"} d={petal(index, nm)} />
        ))}
        {flat.map((degree) => {
          const angle = (degree * Math.PI) / 180;
          return (
            <text
              key={degree}
              x={cx + (outer + 12) * Math.sin(angle)}
              y={cy + 5 - (outer + 12) * Math.cos(angle)}
              textAnchor="middle"
            >
              flat
            </text>
          );
        })}
        <text x={cx} y={cy + 5} textAnchor="middle">
          {wheel.power_w.toFixed(0)} W
        </text>
        <text x={WIDTH - 6} y={20} textAnchor="end">
          right pushes
        </text>
        <text x={6} y={20}>
          left pushes
        </text>
      </svg>
      <figcaption>
        Half-turn split {wheel.half_turn_split_percent.toFixed(1)} % while the right crank goes down: it counts the
        other leg’s drag, so it is no leg’s share. Evenness left {wheel.evenness.left.toFixed(2)}, right{" "}
        {wheel.evenness.right.toFixed(2)}; the longest petal is {number(most)} N·m. {wheel.messages.join(" ")}
      </figcaption>
    </figure>
  );
}
