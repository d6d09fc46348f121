import { type ReactNode, type Ref, useLayoutEffect, useMemo, useRef, useState } from "react";
import type { Output, Position } from "../api/types";
import { boardFields, outputOf } from "../fit/fields";
import type { StationEntry } from "../fit/station";
import { useWaits } from "../fit/settling";
import { type Fit, useFit } from "../fit/useFit";
import { withUnit } from "../ui/format";
import { Angle } from "./Angle";
import { BoardTable } from "./BoardTable";
import { Box } from "./Box";
import { DimensionLines } from "./DimensionLines";
import { Figure, Lines } from "./Drawing";
import { bounds, viewOf } from "./figure";
import { GapLine, gapsOf } from "./Gaps";
import { placeOf, rectOf, type Size } from "./places";
import { useStroke } from "./useStroke";

const MARGIN = { top: 14, bottom: 84, side: 14 };

/** The size of an element as it is laid out. */
function useSize() {
  const frame = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState<Size>({ width: 768, height: 600 });
  useLayoutEffect(() => {
    const element = frame.current;
    if (!element) return;
    // Before anything is painted; the observer tells of what comes later.
    const { width, height } = element.getBoundingClientRect();
    setSize({ width, height });
    const watch = new ResizeObserver(([entry]) => {
      if (entry) setSize({ width: entry.contentRect.width, height: entry.contentRect.height });
    });
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  return { frame, size };
}

/** The board: bike and rider to scale, every dimension line a field, and what the station can take hold of. */
export function Board({ Handle, Drawn }: Pick<StationEntry, "Handle" | "Drawn">) {
  const fit = useFit();
  const { view, catalogue, foresight, pending, shown, station } = fit;
  const { output } = station;
  const { frame, size } = useSize();

  // The scale belongs to the session: chosen from the bike as found, it stays when a dimension is stepped.
  const extent = bounds((view.found ?? view.now).after);
  const paper = viewOf(extent, size.width, size.height, MARGIN);

  const now = view.now.after;
  const flipped = shown.is("flipped");
  const drawn = pending && flipped ? foresight.after : now;
  const gaps = gapsOf(pending ? foresight.after : now);
  const crank = useStroke(
    gaps.find(({ gap }) => gap.crank_deg != null)?.gap.crank_deg ?? restingCrank(output, drawn),
    shown.is("turning"),
  );
  const found = view.found?.after;
  const moved = useMemo(
    () => found !== undefined && JSON.stringify(found.bike) !== JSON.stringify(now.bike),
    [found, now],
  );
  const fields = boardFields(view.input.setup, view.walk);
  const lines = { view: paper, width: size.width, position: drawn, unknown: view.unknown.length > 0 };

  return (
    <Frame ref={frame} fit={fit}>
      <svg width={size.width} height={size.height} role="img" aria-label={describe(fit)}>
        <line className="ground" x1={8} x2={size.width - 8} y1={paper.y(extent.bottom)} y2={paper.y(extent.bottom)} />
        <DimensionLines {...lines} focus={undefined} behind />
        <g transform={paper.transform}>
          <Figure position={drawn} crank={crank} stand={view.bike.stand} />
          {moved && found && <Lines position={found} crank={crank} state="found" />}
          {pending && !flipped && <Lines position={foresight.after} crank={crank} state="foreseen" />}
        </g>
        {gaps.map((short, index) => (
          <GapLine key={short.limb} short={short} paper={paper} line={index} />
        ))}
        {view.unknown.length === 0 && gaps.length === 0 && (
          <Angle
            paper={paper}
            position={pending ? foresight.after : now}
            crank={crank}
            row={foresight.rows.find((r) => r.output === output && r.side !== "left")}
            label={outputOf(catalogue, output)?.label ?? ""}
            boxes={fields.map((field) => rectOf(placeOf(field, paper, size, drawn, fit.focus), size))}
            size={size}
          />
        )}
        {Drawn && <Drawn paper={paper} />}
        <DimensionLines {...lines} focus={fit.focus} />
      </svg>
      {Handle && (
        <svg className="hold" width={size.width} height={size.height}>
          <Handle paper={paper} />
        </svg>
      )}
      <Legend found={moved} pending={pending} flipped={flipped} />
      {fields.map((field) => (
        <Box key={field.key} field={field} paper={paper} size={size} position={drawn} />
      ))}
      {shown.is("table") && <BoardTable />}
    </Frame>
  );
}

/** The board's own element: it says whether what is drawn is what was asked for, and is drawn for that alone. */
function Frame({ ref, fit, children }: { ref: Ref<HTMLDivElement>; fit: Fit; children: ReactNode }) {
  const waits = useWaits(fit.settling);
  return (
    <div ref={ref} className="board" data-settled={fit.settled && !waits}>
      {children}
    </div>
  );
}

/** Where the crank rests so that the station's measure can be seen. */
function restingCrank(output: Output, position: Position): number {
  switch (output) {
    case "knee_at_full_reach_deg":
      return position.legs.right.knee.smallest_at;
    case "knee_most_bent_deg":
    case "hip_closed_deg":
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

/** The board in words, for those who do not see it. */
function describe({ view, foresight, station }: Fit): string {
  const rows = foresight.rows.slice(0, 4).map((row) => `${row.label} ${withUnit(row.after, row.unit)}`);
  const what = foresight.title ? `foreseen after ${foresight.title}` : "now";
  return `${view.rider.name} on ${view.bike.name} in side view, at ${station.label}, ${what}: ${rows.join(", ")}. Press T for every dimension as a table.`;
}
