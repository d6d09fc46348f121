import "./tape.css";
import { type CSSProperties, memo, useEffect, useRef, useState } from "react";
import type { Output, Row, TrialView } from "../api/types";
import { useFit } from "../fit/useFit";
import { inSentence, number, suffix } from "../ui/format";
import { outputOf } from "../fit/fields";
import { useKeys } from "../ui/keys";
import { LEFT, STEP, strip as laidOut } from "./strip";

const TOP = 46;
const HEIGHT = 26;
const NOTCH = 79;

const ofOutput = (rows: Row[], output: Output) => rows.find((row) => row.output === output && row.side !== "left");

const seenOf = (trial: TrialView, output: Output) =>
  trial.seen.find((s) => s.output === output && s.side !== "left")?.value ?? undefined;

const status = (trial: TrialView): string => trial.turned_out ?? "now on the bench";

/** What keeps a trial from being compared. */
const doubt = (trial: TrialView): string =>
  [trial.batch ? "cause not separable" : "", trial.unlike != null ? "unlike effort" : ""].filter(Boolean).join(", ");

/** Every trial of the session on one strip, over the measure that matters at this station. */
export const Tape = memo(function Tape() {
  const { view, catalogue, station } = useFit();
  const { output } = station;
  const strip = useRef<HTMLElement>(null);
  const [unfolded, setUnfolded] = useState<ReadonlySet<string>>(new Set());
  const by = (pages: number) => strip.current?.scrollBy({ left: pages * 0.8 * strip.current.clientWidth });
  const to = (left: number) => strip.current?.scrollTo({ left });
  useKeys({
    PageUp: () => by(-1),
    PageDown: () => by(1),
    Home: () => to(0),
    End: () => to(Number.MAX_SAFE_INTEGER),
  });
  // The newest trial is the one that is talked about.
  useEffect(() => {
    strip.current?.scrollTo({ left: strip.current.scrollWidth });
  }, [view.trials.length]);
  const spec = outputOf(catalogue, output);
  const error = view.errors.find((e) => e.output === output);
  const range = view.ranges.find((r) => r.output === output);
  const found = view.found ? ofOutput(view.found.rows, output)?.after : undefined;
  const laid = laidOut(view.trials, unfolded);
  const points = laid.stops.flatMap((stop) =>
    stop.kind === "fold"
      ? []
      : [
          {
            trial: stop.trial,
            x: stop.x,
            foreseen: ofOutput(stop.trial.trial.foreseen.rows, output)?.after,
            seen: seenOf(stop.trial, output),
          },
        ],
  );
  const values = [found, range?.low, range?.high, ...points.flatMap((p) => [p.foreseen, p.seen])].filter(
    (v): v is number => v !== undefined,
  );
  const low = Math.min(...values) - 1;
  const high = Math.max(...values) + 1;
  const y = (value: number) => TOP + HEIGHT * (1 - (value - low) / (high - low || 1));
  const { width } = laid;
  // The line follows what stayed: a trial put back goes back to where it came from.
  const line: [number, number][] = found === undefined ? [] : [[LEFT, found]];
  for (const p of points) {
    const value = p.seen ?? p.foreseen;
    if (value !== undefined && p.trial.outcome !== "put_back") line.push([p.x, value]);
  }
  const heading = `Trials · ${spec ? inSentence(spec.label) : ""}${spec ? `, ${suffix(spec.unit).trim()}` : ""}`;
  return (
    // A strip that scrolls must be reachable by keyboard.
    // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex
    <section ref={strip} className="tape" aria-label="Trials" tabIndex={0}>
      <svg width={width} height="100%" aria-hidden>
        {range && view.found && (
          <rect className="window" x={0} width={width} y={y(range.high)} height={y(range.low) - y(range.high)} />
        )}
        {Array.from({ length: view.found ? Math.floor(width / 16) : 0 }, (_, i) => (
          <line key={i} className="tick" x1={LEFT + i * 16} x2={LEFT + i * 16} y1={NOTCH - 3} y2={NOTCH + 3} />
        ))}
        {line.length > 1 && <path className="line" d={`M${line.map(([px, v]) => `${px} ${y(v)}`).join("L")}`} />}
        {found !== undefined && (
          <>
            <circle className="seen" cx={LEFT} cy={y(found)} r={5} />
            <text x={LEFT + 9} y={y(found) - 9}>
              {number(found, spec?.unit)}
            </text>
            <line className="notch" x1={LEFT} x2={LEFT} y1={NOTCH - 6} y2={NOTCH + 5} />
          </>
        )}
        {laid.runs.map((run) => (
          <line key={run.key} className="run" x1={run.from} x2={run.to} y1={NOTCH} y2={NOTCH} />
        ))}
        {points.map((p) => (
          <g key={p.trial.trial.id}>
            <line className="notch" x1={p.x} x2={p.x} y1={NOTCH - 6} y2={NOTCH + 5} />
            {p.foreseen !== undefined && <circle className="foreseen" cx={p.x} cy={y(p.foreseen)} r={6.5} />}
            {p.seen !== undefined && <circle className="seen" cx={p.x} cy={y(p.seen)} r={5} />}
            <text x={p.x + 11} y={y(p.seen ?? p.foreseen ?? low) - 7}>
              {p.seen !== undefined && p.foreseen !== undefined
                ? `${number(p.seen, spec?.unit)} seen, ${number(p.foreseen, spec?.unit)} foreseen`
                : number(p.seen ?? p.foreseen ?? 0, spec?.unit)}
            </text>
          </g>
        ))}
      </svg>
      <h2>
        {heading}
        {range && ` · range ${number(range.low, spec?.unit)}–${number(range.high, spec?.unit)}`}
        {error && <span className="error"> · model: {error.words}</span>}
      </h2>
      {!view.found && <p className="empty">Trials are kept here, once the bike as found is closed.</p>}
      <ol>
        {view.found && (
          <li style={{ left: LEFT - 6, width: STEP - 14 }}>
            <b>As found</b>
            <span>before any bolt</span>
          </li>
        )}
        {laid.stops.map((stop) => {
          const style = { left: stop.x - 6, width: stop.width - 14 };
          if (stop.kind === "trial") return <TrialItem key={stop.trial.trial.id} view={stop.trial} style={style} />;
          return (
            <li key={`${stop.key} folded`} style={style}>
              <button
                type="button"
                className="more"
                onClick={() => setUnfolded(new Set([...unfolded, stop.key]))}
                aria-label={`Show ${stop.folded.length} more trials of the same bolt`}
              >
                … {stop.folded.length} more
              </button>
            </li>
          );
        })}
      </ol>
    </section>
  );
});

/** A trial on the strip: what was turned, and what became of it. */
function TrialItem({ view, style }: { view: TrialView; style: CSSProperties }) {
  return (
    <li
      className={view.outcome ?? "bench"}
      data-trial={view.trial.id}
      tabIndex={-1}
      style={style}
      title={[view.why, view.words, view.unlike].filter(Boolean).join(" · ") || undefined}
    >
      <b>
        {view.trial.number} {view.trial.foreseen.title}
      </b>
      <span>{[doubt(view), status(view)].filter(Boolean).join(" · ")}</span>
    </li>
  );
}
