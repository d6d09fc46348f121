import { useEffect, useId, useRef, useState } from "react";
import type { Convention, MapView, Quantity } from "../../api/types";
import { type Family, FamilyLabels, FamilyLines } from "../../cards/MapFamilies";
import { useFit } from "../../fit/useFit";
import { number, suffix, withUnit } from "../../ui/format";
import { Keycap } from "../../ui/Keycap";
import { useKeys } from "../../ui/keys";
import type { Box } from "../../ui/mapLabels";

const WIDTH = 368;
const HEIGHT = 316;
const half = (axis: { low: number; high: number }) => (axis.high - axis.low) / 2;

/** Where the map itself lies in its drawing. */
const BOX: Box = { left: 42, right: WIDTH - 42, top: 22, bottom: HEIGHT - 58 };

/** What is drawn, with the pattern it is drawn in and the edge its labels stand on. */
const FAMILIES: readonly Family[] = [
  ["knee_at_full_reach_deg", "deg", "Knee", "knee", "left"],
  ["knee_over_axle_mm", "mm", "Over axle", "axle", "top"],
  ["hip_closed_deg", "deg", "Hip", "hip", "bottom"],
  ["drop", "mm", "Drop", "drop", "right"],
];

/** Fore-aft and height together: arrows walk the saddle, the board follows. */
export function SaddleMap({ shown }: { shown: MapView }) {
  const { catalogue, foresight, changes, pending, still, bench, foresee, leave } = useFit();
  const { map } = shown;
  const clip = useId();
  const [hidden, setHidden] = useState<string[]>([]);
  // Opened by key, it may stand above what is in sight.
  const top = useRef<HTMLElement>(null);
  useEffect(() => {
    top.current?.scrollIntoView({ block: "nearest" });
  }, []);
  const read = (convention: Convention) => {
    const key = catalogue.conventions.find((c) => c.convention === convention)?.key ?? "";
    return (foresight.after.dimensions as Record<string, number | undefined>)[key];
  };
  const trying =
    map && pending && !bench
      ? {
          setback: read(map.setback.convention) ?? map.now.setback,
          height: read(map.height.convention) ?? map.now.height,
        }
      : undefined;
  // What the arrows walk are the bolts: the post along its axis, the saddle along its rails.
  const walked = (quantity: Quantity) =>
    changes.find((change) => change.quantity === quantity)?.by ??
    (pending ? foresight.turns.find((turn) => turn.quantity === quantity)?.by : undefined) ??
    0;
  const walk = (event: KeyboardEvent, up: number, back: number) => {
    if (!map || still) return;
    const by = event.shiftKey ? 1 : 5;
    const [post, rails] = [walked("saddle_height_mm") + up * by, walked("setback_mm") + back * by];
    if (Math.abs(post) > half(map.height) || Math.abs(rails) > half(map.setback)) return;
    const travel = (quantity: Quantity, amount: number) => (amount === 0 ? [] : [{ quantity, by: amount }]);
    const wanted = [...travel("saddle_height_mm", post), ...travel("setback_mm", rails)];
    if (wanted.length > 0) foresee(wanted);
    else leave();
  };
  // The map stands as the bike does: forward is to the right.
  useKeys({
    ArrowUp: (event) => walk(event, 1, 0),
    ArrowDown: (event) => walk(event, -1, 0),
    ArrowRight: (event) => walk(event, 0, -1),
    ArrowLeft: (event) => walk(event, 0, 1),
  });
  if (!map) return <p className="apart">There is no map of a saddle nobody can sit on.</p>;
  const { setback, height } = map;
  const x = (value: number) =>
    BOX.left + ((BOX.right - BOX.left) * (setback.high - value)) / (setback.high - setback.low);
  const y = (value: number) => BOX.top + ((BOX.bottom - BOX.top) * (height.high - value)) / (height.high - height.low);
  const drawn = { families: FAMILIES.filter(([output]) => !hidden.includes(output)), lines: map.lines, x, y };
  const words = trying
    ? `Try: setback ${withUnit(trying.setback, "mm")}, height ${withUnit(trying.height, "mm")}`
    : `Now: setback ${withUnit(map.now.setback, "mm")}, height ${withUnit(map.now.height, "mm")}`;
  return (
    <section ref={top} className="saddle-map" aria-label="Map of the saddle">
      <h3>Fore-aft and height</h3>
      <div
        className="walk"
        role="img"
        aria-label={`Map of the saddle: arrows walk it, the table of the board tells what follows. ${words}`}
        data-testid="saddle-map"
        data-setback={(trying ?? map.now).setback}
        data-height={(trying ?? map.now).height}
      >
        <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} aria-hidden>
          <clipPath id={clip}>
            <rect x={BOX.left} y={BOX.top} width={BOX.right - BOX.left} height={BOX.bottom - BOX.top} />
          </clipPath>
          <rect className="frame" x={BOX.left} y={BOX.top} width={BOX.right - BOX.left} height={BOX.bottom - BOX.top} />
          <g clipPath={`url(#${clip})`}>
            {map.reachable != null && (
              <polygon
                className="reachable"
                points={map.reachable.map(([s, h]) => `${x(s ?? 0)},${y(h ?? 0)}`).join(" ")}
              />
            )}
            <FamilyLines {...drawn} />
          </g>
          <FamilyLabels {...drawn} box={BOX} />
          {shown.found != null && (
            <circle className="found" cx={x(shown.found.setback)} cy={y(shown.found.height)} r={7} />
          )}
          {shown.trials.map(({ number: place, spot, outcome }) => (
            <g key={place} className="tried">
              <circle cx={x(spot.setback)} cy={y(spot.height)} r={3} />
              {outcome === "put_back" && <path d={`M${x(spot.setback) - 6} ${y(spot.height) + 6}l12 -12`} />}
              <text x={x(spot.setback) + 7} y={y(spot.height) + 14}>
                {place}
              </text>
            </g>
          ))}
          <path className="now" d={`M${x(map.now.setback) - 9} ${y(map.now.height)}h18m-9 -9v18`} />
          {trying && (
            <g className="try">
              <circle cx={x(trying.setback)} cy={y(trying.height)} r={7} />
              <circle cx={x(trying.setback)} cy={y(trying.height)} r={3.5} />
            </g>
          )}
          <text className="axis-name" x={WIDTH / 2} y={HEIGHT - 22} textAnchor="middle">
            back ← setback {number(setback.high, "mm")} to {withUnit(setback.low, "mm")} → forward
          </text>
          <text className="axis-name" x={WIDTH / 2} y={HEIGHT - 4} textAnchor="middle">
            low ↓ height {number(height.low, "mm")} to {withUnit(height.high, "mm")} ↑ high
          </text>
        </svg>
      </div>
      <p className="where">
        <b>{words}</b>
        {trying && (
          <>
            {" "}
            <Keycap>Enter</Keycap> tries it
          </>
        )}
      </p>
      <div className="legend">
        {FAMILIES.map(([output, unit, label, name, edge]) => (
          <label key={output}>
            <input
              type="checkbox"
              checked={!hidden.includes(output)}
              onChange={() =>
                setHidden(hidden.includes(output) ? hidden.filter((h) => h !== output) : [...hidden, output])
              }
            />
            <svg viewBox="0 0 26 10" width={26} height={10} aria-hidden>
              <g className={name}>
                <polyline points="0,5 26,5" />
              </g>
            </svg>
            {label}, {suffix(unit).trim()}: {edge}
          </label>
        ))}
      </div>
      <p className="number-hint">
        Cross: now. Double ring: try. Dots: trials, struck where put back. ↑ ↓ move the post, ← → the rails: 5 mm, with
        Shift 1. {map.reach_words}
      </p>
    </section>
  );
}
