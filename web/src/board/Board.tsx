import { useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import type { Catalogue, Foresight, Gap, Mark, Output, Point, Position, SessionView } from "../api/types";
import { boardFields, conventionOf, type Field, reads } from "../stations/fields";
import { inSentence, number, withUnit } from "../ui/format";
import { NumberField } from "../ui/NumberField";
import { Figure, joints, Lines } from "./Drawing";
import { add, bounds, left, mix, polyline, sector, sub, times, unit, viewOf, type View } from "./figure";
import { useStroke } from "./useStroke";

export interface BoardProps {
  view: SessionView;
  catalogue: Catalogue;
  /** What is foreseen of the pending changes; the same as now without any. */
  foresight: Foresight;
  targets: Record<string, number>;
  texts: Record<string, string>;
  /** The output this station looks at. */
  output: Output;
  /** Shows the other of before and after. */
  flipped: boolean;
  turning: boolean;
  asTable: boolean;
  /** Why numbers cannot be stepped just now. */
  locked: string | undefined;
  focusKey: string | undefined;
  settled: boolean;
  onTyped: (field: Field, text: string | undefined) => void;
  onTarget: (field: Field, value: number) => void;
  onReading: (field: Field, value: number) => Promise<string | undefined>;
  onTry: () => void;
}

const MARGIN = { top: 14, bottom: 84, side: 14 };

/** The board: bike and rider to scale, and every dimension line a field. */
export function Board(props: BoardProps) {
  const { view, foresight, output, flipped } = props;
  const frame = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 768, height: 600 });
  useLayoutEffect(() => {
    const element = frame.current;
    if (!element) return;
    const watch = new ResizeObserver(([entry]) => {
      if (entry) setSize({ width: entry.contentRect.width, height: entry.contentRect.height });
    });
    watch.observe(element);
    return () => watch.disconnect();
  }, []);

  // The scale belongs to the session: chosen from the bike as found, it stays when a dimension is stepped.
  const extent = bounds((view.found ?? view.now).after);
  const paper = viewOf(extent, size.width, size.height, MARGIN);

  const now = view.now.after;
  const pending = Object.keys(props.targets).length > 0;
  const shown = pending && flipped ? foresight.after : now;
  const gaps = gapsOf(pending ? foresight.after : now);
  const crank = useStroke(
    gaps.find(({ gap }) => gap.crank_deg != null)?.gap.crank_deg ?? restingCrank(output, shown),
    props.turning,
  );
  const found = view.found?.after;
  const moved = useMemo(
    () => found !== undefined && JSON.stringify(found.bike) !== JSON.stringify(now.bike),
    [found, now],
  );
  const label = describe(view, foresight, props.catalogue);

  return (
    <div ref={frame} className="board" data-settled={props.settled}>
      <svg width={size.width} height={size.height} role="img" aria-label={label}>
        <line className="ground" x1={8} x2={size.width - 8} y1={paper.y(extent.bottom)} y2={paper.y(extent.bottom)} />
        <DimensionLines
          view={paper}
          width={size.width}
          position={shown}
          focus={undefined}
          unknown={view.unknown.length > 0}
          behind
        />
        <g transform={paper.transform}>
          <Figure position={shown} crank={crank} />
          {moved && found && <Lines position={found} crank={crank} state="found" />}
          {pending && !flipped && <Lines position={foresight.after} crank={crank} state="foreseen" />}
        </g>
        {gaps.map((short) => (
          <GapLine key={short.limb} short={short} paper={paper} />
        ))}
        {view.unknown.length === 0 && gaps.length === 0 && (
          <Angle
            paper={paper}
            position={pending ? foresight.after : now}
            before={now}
            crank={crank}
            output={output}
            band={foresight.rows.find((r) => r.output === output && r.side !== "left")?.band ?? undefined}
            catalogue={props.catalogue}
          />
        )}
        <DimensionLines
          view={paper}
          width={size.width}
          position={shown}
          focus={props.focusKey}
          unknown={view.unknown.length > 0}
        />
      </svg>
      <Legend found={moved} pending={pending} flipped={flipped} />
      {boardFields(view.input.setup, view.walk).map((field) => (
        <Box key={field.key} field={field} paper={paper} size={size} position={shown} {...props} />
      ))}
      {props.asTable && <BoardTable {...props} />}
    </div>
  );
}

interface Short {
  limb: string;
  gap: Gap;
}

/** The limbs of a position that do not get there; legs that lack the same are said once. */
function gapsOf({ legs, arm_gap }: Position): Short[] {
  const { left: l, right: r } = legs;
  const arms = arm_gap ? [{ limb: "arms", gap: arm_gap }] : [];
  if (l.gap && r.gap && number(l.gap.by_mm) === number(r.gap.by_mm)) return [{ limb: "legs", gap: r.gap }, ...arms];
  return [
    ...(r.gap ? [{ limb: "right leg", gap: r.gap }] : []),
    ...(l.gap ? [{ limb: "left leg", gap: l.gap }] : []),
    ...arms,
  ];
}

/** What a limb lacks: a dotted line over the gap, with its millimetres. */
function GapLine({ short, paper }: { short: Short; paper: View }) {
  const { limb, gap } = short;
  const [a, b] = [paper.at(gap.from), paper.at(gap.to)];
  return (
    <g className="gap">
      <line x1={a[0]} y1={a[1]} x2={b[0]} y2={b[1]} />
      {[a, b].map((p, index) => (
        <circle key={index} cx={p[0]} cy={p[1]} r={5} />
      ))}
      <text className="value out" x={Math.max(a[0], b[0]) + 14} y={(a[1] + b[1]) / 2 - 14}>
        {limb} {number(gap.by_mm)} mm short
      </text>
    </g>
  );
}

/** Where the crank rests so that the station's measure can be seen. */
function restingCrank(output: Output, position: Position): number {
  switch (output) {
    case "knee_at_full_reach_deg":
      return position.legs.right.knee.smallest_at;
    case "knee_most_bent_deg":
      return 10;
    default:
      return 90;
  }
}

function Legend({ found, pending, flipped }: { found: boolean; pending: boolean; flipped: boolean }) {
  return (
    <div className="legend" aria-hidden>
      {found && (
        <span>
          <svg width="26" height="8">
            <path className="found" d="M1 4h24" stroke="currentcolor" strokeDasharray="5 4" strokeWidth="1.5" />
          </svg>
          as found
        </span>
      )}
      <span>
        <svg width="26" height="8">
          <path d="M1 4h24" stroke="currentcolor" strokeWidth="4" />
        </svg>
        {pending && flipped ? "foreseen, drawn full" : "now"}
      </span>
      {pending && !flipped && (
        <span>
          <svg width="26" height="8">
            <path d="M1 2h24M1 6h24" stroke="var(--chakra-colors-amber)" strokeWidth="2" />
          </svg>
          foreseen
        </span>
      )}
    </div>
  );
}

interface AngleProps {
  paper: View;
  position: Position;
  /** What it is compared with: the same without changes. */
  before: Position;
  crank: number;
  output: Output;
  /** One standard deviation of the value. */
  band: number | undefined;
  catalogue: Catalogue;
}

/** One wedge-shaped sector at the joint in question, with its number and, out of range, its words. */
function Angle({ paper, position, before, crank, output, band, catalogue }: AngleProps) {
  const { hip, shoulder, knee, ankle, axle } = joints(position, crank);
  const mark = position.marks.find((m) => m.output === output && m.side !== "left");
  const spec = catalogue.outputs.find((o) => o.output === output);
  const value = outputValue(position, output);
  const was = outputValue(before, output);
  if (value === undefined || was === undefined || !spec) return null;
  const from = number(was) === number(value) ? "" : `${number(was, spec.unit)} → `;
  let shape: string;
  let anchor: Point;
  let align: "start" | "end" = "start";
  let bones: Point[];
  if (output === "torso_deg") {
    shape = sector(hip, [1, 0], sub(shoulder, hip), 190);
    anchor = add(mix(hip, shoulder, 0.62), times(left(unit(sub(shoulder, hip))), 175));
    align = "end";
    bones = [hip, shoulder];
  } else if (output === "knee_over_axle_mm") {
    shape = polyline(knee, [knee[0], axle[1] - 60]);
    anchor = add([knee[0], axle[1] + 0.42 * (knee[1] - axle[1])], [45, 0]);
    bones = [knee];
  } else {
    shape = sector(knee, sub(knee, hip), sub(ankle, knee), 165);
    anchor = add(knee, output === "knee_most_bent_deg" ? [70, -230] : [110, 10]);
    bones = [hip, knee, ankle];
  }
  const [x, y] = paper.at(anchor);
  const out = mark ? " out" : "";
  return (
    <g>
      <g transform={paper.transform}>
        <path className={`sector${out}`} d={shape} />
        {bones.length > 1 && <path className="bone" d={polyline(...bones)} />}
        {bones.map((p, index) => (
          <circle key={index} className="joint" cx={p[0]} cy={p[1]} r={13} />
        ))}
      </g>
      <text className={`value${out}${from ? " changed" : ""}`} x={x} y={y} textAnchor={align}>
        {from}
        {withUnit(value, spec.unit)}
      </text>
      <text className={`words${out}`} x={x} y={y + 21} textAnchor={align}>
        {mark ? mark.words : inSentence(spec.label)}
        {band !== undefined && <tspan className="band"> ± {number(band, spec.unit)}</tspan>}
      </text>
      {mark && <BoardWedge mark={mark} x={align === "start" ? x : x - 40} y={y + 30} />}
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

function outputValue(position: Position, output: Output): number | undefined {
  switch (output) {
    case "knee_at_full_reach_deg":
      return position.legs.right.knee.smallest_deg;
    case "knee_most_bent_deg":
      return position.legs.right.knee.largest_deg;
    case "knee_over_axle_mm":
      return position.legs.right.knee_over_axle.centre_mm;
    case "torso_deg":
      return position.upper.torso_deg;
    default:
      return undefined;
  }
}

interface DimensionLinesProps {
  view: View;
  /** Of the board, px. */
  width: number;
  position: Position;
  focus: string | undefined;
  unknown: boolean;
  /** Extension lines run behind the rider. */
  behind?: boolean;
}

/** Dimension lines between the points they measure; the focused one is drawn like a tape held there. */
function DimensionLines({ view, width, position, focus, unknown, behind }: DimensionLinesProps) {
  const { bike } = position;
  const sit = view.at(bike.sit);
  const bb = view.at([0, 0]);
  const hand = view.at(bike.hand);
  const lane = view.y(bike.ground_mm) + 12;
  const dropX = dropLineX(view, position, width);
  const back = times(left(unit(bike.sit)), HEIGHT_OFFSET_MM);
  const [low, high] = [view.at(back), view.at(add(bike.sit, back))];
  if (behind) {
    return (
      <g>
        <line className="extension" x1={bb[0]} y1={bb[1]} x2={low[0]} y2={low[1]} />
        <line className="extension" x1={sit[0]} y1={sit[1]} x2={high[0]} y2={high[1]} />
        <line className="extension" x1={sit[0]} y1={sit[1]} x2={sit[0]} y2={lane + 4} />
        <line className="extension" x1={bb[0]} y1={bb[1]} x2={bb[0]} y2={lane + 4} />
        <line className="extension" x1={hand[0]} y1={hand[1]} x2={hand[0]} y2={lane + 4} />
        <line className="extension" x1={sit[0]} y1={sit[1]} x2={dropX + 4} y2={sit[1]} />
        <line className="extension" x1={hand[0]} y1={hand[1]} x2={dropX + 4} y2={hand[1]} />
      </g>
    );
  }
  const pose = joints(position, 180);
  const lines: [string, Point, Point][] = [
    ["saddle_height_mm", low, high],
    ["setback_mm", [sit[0], lane], [bb[0], lane]],
    ["bb_to_hand_mm", [bb[0], lane], [hand[0], lane]],
    ["drop_mm", [dropX, sit[1]], [dropX, hand[1]]],
  ];
  if (focus === "stem_mm" || focus === "stem_angle_deg") {
    lines.push([focus, view.at(bike.stem_root), view.at(bike.bar_clamp)]);
  }
  if (focus === "spacers_below_mm") lines.push([focus, view.at(bike.head_top), view.at(bike.steerer_top)]);
  if (focus?.startsWith("crank_mm")) lines.push([focus, bb, view.at(pose.axle)]);
  if (bike.grip && (focus === "bar_rise_mm" || focus === "backsweep_deg")) {
    lines.push([focus, view.at(bike.bar_clamp), view.at(bike.grip)]);
  }
  if (bike.pad && bike.pad_rear && bike.pad_front) {
    if (focus === "pad_tilt_deg") lines.push([focus, view.at(bike.pad_rear), view.at(bike.pad_front)]);
    if (focus === "pad_spacers_mm" || focus === "pad_forward_mm") {
      lines.push([focus, view.at(bike.bar_clamp), view.at(bike.pad)]);
    }
  }
  if (focus === "tilt_deg") lines.push([focus, view.at(bike.saddle_tail), view.at(bike.saddle_nose)]);
  return (
    <g>
      {lines.map(([key, a, b]) => {
        const on = key === focus;
        const blank = unknown && (key === "saddle_height_mm" || key === "setback_mm");
        const n = times(left(unit(sub(b, a))), 6);
        return (
          <g key={key} className={`dimension${on ? " on" : ""}${blank ? " unknown" : ""}`}>
            <line x1={a[0]} y1={a[1]} x2={b[0]} y2={b[1]} />
            {[a, b].map((p, index) => (
              <line key={index} x1={p[0] - n[0]} y1={p[1] - n[1]} x2={p[0] + n[0]} y2={p[1] + n[1]} />
            ))}
          </g>
        );
      })}
    </g>
  );
}

/** How far behind the line from BB to saddle the height is drawn: clear of the leg. */
const HEIGHT_OFFSET_MM = 150;

/** Beyond the hands, but clear of the boxes on the right. */
const dropLineX = (view: View, position: Position, width: number) =>
  Math.min(view.x(Math.max(position.bike.hand[0], position.upper.points.hand[0])) + 58, width - 122);

interface Size {
  width: number;
  height: number;
}

interface BoxPlace {
  left: number;
  /** From the top, or for the lane under the ground from the bottom: there a focused box grows upwards. */
  top?: number;
  bottom?: number;
  anchor: "start" | "end";
  low?: boolean;
}

const COLUMN = ["stem_mm", "stem_angle_deg", "spacers_below_mm"];
const PADS = ["pad_spacers_mm", "pad_forward_mm", "pad_tilt_deg"];
const GRIPS = ["bar_rise_mm", "backsweep_deg"];

/** Where each field's box stands. */
function placeOf(field: Field, paper: View, size: Size, position: Position, focus: string | undefined): BoxPlace {
  const { bike } = position;
  const lane = { bottom: 12, low: true };
  const right = size.width - 12;
  // The column of boxes on the right, from the stem down to the drop. A full one stands closer, and makes room below
  // the focused box, since that is larger.
  const keys = [...COLUMN, ...(bike.pad ? PADS : bike.grip ? GRIPS : []), "drop_mm"];
  const full = keys.length > 6;
  const row = keys.indexOf(field.key);
  const focused = focus === undefined ? -1 : keys.indexOf(focus);
  const below = full && focused >= 0 && row > focused ? 14 : 0;
  const column = { left: right, top: 40 + row * (full ? 66 : 79) + below, anchor: "end" as const };
  switch (field.key) {
    case "saddle_height_mm": {
      const p = paper.at(add(times(bike.sit, 0.62), times(left(unit(bike.sit)), HEIGHT_OFFSET_MM + 20)));
      return { left: p[0], top: p[1] - 26, anchor: "end" };
    }
    case "tilt_deg":
      return { left: paper.x(bike.saddle_tail[0]) - 14, top: paper.y(bike.sit[1]) - 46, anchor: "end" };
    case "setback_mm":
      return { left: paper.x(0) - 3, ...lane, anchor: "end" };
    case "bb_to_hand_mm":
      return { left: paper.x(0) + 3, ...lane, anchor: "start" };
    case "drop_mm":
      return { ...column, top: Math.max(column.top, paper.y((bike.sit[1] + bike.hand[1]) / 2) - 26) };
    case "cleat_setback_mm.left":
      return { left: 12, ...lane, anchor: "start" };
    case "cleat_setback_mm.right":
      // On a narrow board the two stand over one another, clear of the setback.
      return paper.x(0) < 330 ? { left: 12, bottom: 68, anchor: "start" } : { left: 100, ...lane, anchor: "start" };
    case "crank_mm.left":
      return { left: right - 112, ...lane, anchor: "end" };
    case "crank_mm":
    case "crank_mm.right":
      return { left: right, ...lane, anchor: "end" };
    default:
      return column;
  }
}

const LABELS: Record<string, string> = {
  "crank_mm.left": "crank, left",
  "crank_mm.right": "crank, right",
  "cleat_setback_mm.left": "cleat, left",
  "cleat_setback_mm.right": "cleat, right",
};

function Box(props: BoardProps & { field: Field; paper: View; size: Size; position: Position }) {
  const { field, view, foresight, targets, catalogue, locked } = props;
  const [measuring, setMeasuring] = useState(false);
  const holder = useRef<HTMLDivElement>(null);
  const { conventions } = view.now.after;
  const base = catalogue.quantities.find((q) => q.quantity === field.quantity);
  const convention = catalogue.conventions.find((c) => c.convention === conventionOf(field.quantity, conventions));
  const closed = view.found != null;
  const unknown = view.unknown.includes(field.quantity);
  const now = reads(field, view.now.after, view.input.setup, catalogue);
  const after = reads(field, foresight.after, foresight.setup, catalogue);
  const readOnly = (closed && field.derived === true && !measuring) || locked !== undefined;
  const changed = now !== undefined && after !== undefined && number(now) !== number(after);

  useEffect(() => {
    if (props.focusKey === field.key) holder.current?.querySelector("input")?.focus();
  }, [props.focusKey, field.key]);

  if (!base) return null;
  const spec = convention?.unit === "deg" ? { ...base, unit: "deg" as const, step: 0.5, fine_step: 0.1 } : base;
  const records = !closed || measuring;
  const place = placeOf(field, props.paper, props.size, props.position, props.focusKey);
  const classes = [
    "board-box",
    place.anchor,
    place.low ? "low" : "",
    changed ? "foreseen" : "",
    closed && field.derived ? "derived" : "",
  ].join(" ");
  const label =
    LABELS[field.key] ?? (field.quantity === "bb_to_hand_mm" && convention ? convention.short : inSentence(base.label));
  return (
    <div ref={holder} className={classes} style={{ left: place.left, top: place.top, bottom: place.bottom }}>
      <NumberField
        label={measuring ? `${label}, measured again` : label}
        fieldKey={field.key}
        fit
        spec={spec}
        value={unknown ? undefined : (targets[field.key] ?? after)}
        before={changed && !unknown ? number(now, base.unit) : undefined}
        placeholder={unknown ? "?" : undefined}
        typed={props.texts[field.key]}
        readOnly={readOnly}
        onTyped={(text) => props.onTyped(field, text)}
        onCommit={async (value) => {
          if (!records) {
            props.onTarget(field, value);
            return undefined;
          }
          const refused = await props.onReading(field, value);
          if (refused === undefined) setMeasuring(false);
          return refused;
        }}
        onStep={records || readOnly ? undefined : (value) => props.onTarget(field, value)}
        onEnterAgain={props.onTry}
        onMeasure={closed && locked === undefined ? () => setMeasuring(!measuring) : undefined}
      />
    </div>
  );
}

/** The board in words, for those who do not see it. */
function describe(view: SessionView, foresight: Foresight, catalogue: Catalogue): string {
  const rows = foresight.rows.slice(0, 4).map((row) => `${row.label} ${withUnit(row.after, row.unit)}`);
  const what = foresight.title ? `foreseen after ${foresight.title}` : "now";
  const station = catalogue.stations.find((s) => s.station === view.session.station)?.label ?? "";
  return `${view.rider.name} on ${view.bike.name} in side view, at ${station}, ${what}: ${rows.join(", ")}. Press T for every dimension as a table.`;
}

/** Every dimension of the board as a table. */
function BoardTable({ view, foresight, catalogue }: BoardProps) {
  const { conventions } = view.now.after;
  const pending = foresight.title !== "";
  return (
    // It scrolls, so it must be reachable by keyboard.
    // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex
    <section className="board-table" aria-label="The board as a table" tabIndex={0}>
      <table>
        <thead>
          <tr>
            <th scope="col">Dimension</th>
            <th scope="col">Convention</th>
            {view.found && <th scope="col">As found</th>}
            <th scope="col">Now</th>
            {pending && <th scope="col">Foreseen</th>}
          </tr>
        </thead>
        <tbody>
          {boardFields(view.input.setup, view.walk).map((field) => {
            const spec = catalogue.quantities.find((q) => q.quantity === field.quantity);
            const convention = catalogue.conventions.find(
              (c) => c.convention === conventionOf(field.quantity, conventions),
            );
            const unit = convention?.unit ?? spec?.unit ?? "mm";
            const cell = (value: number | undefined) => (value === undefined ? "?" : withUnit(value, unit));
            const unknown = view.unknown.includes(field.quantity);
            const found = view.session.setups[0]?.setup;
            return (
              <tr key={field.key}>
                <th scope="row">{field.side ? `${spec?.label ?? ""}, ${field.side}` : spec?.label}</th>
                <td style={{ textAlign: "left" }}>{convention?.words ?? spec?.how}</td>
                {view.found && found && <td>{cell(reads(field, view.found.after, found, catalogue))}</td>}
                <td>{unknown ? "?" : cell(reads(field, view.now.after, view.input.setup, catalogue))}</td>
                {pending && <td>{cell(reads(field, foresight.after, foresight.setup, catalogue))}</td>}
              </tr>
            );
          })}
          {foresight.rows.map((row) => (
            <tr key={`${row.output}${row.side ?? ""}`}>
              <th scope="row">{row.label}</th>
              <td style={{ textAlign: "left" }}>{row.convention}</td>
              {view.found && (
                <td>
                  {cellOf(view.found.rows.find((r) => r.output === row.output && (r.side ?? row.side) === row.side))}
                </td>
              )}
              <td>{withUnit(row.before, row.unit)}</td>
              {pending && <td>{withUnit(row.after, row.unit)}</td>}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

const cellOf = (row: Foresight["rows"][number] | undefined) => (row ? withUnit(row.after, row.unit) : "");
