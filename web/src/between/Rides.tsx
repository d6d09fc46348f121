import { Button } from "@chakra-ui/react";
import { useState } from "react";
import { words } from "../api/client";
import type { LedgerSeries, LedgerView } from "../api/types";
import { number } from "../ui/format";
import { HeadRow } from "../ui/HeadRow";
import { Problem } from "../ui/Problem";

/** So many rides are shown one by one unasked. */
const FEW = 20;

interface RidesProps {
  view: LedgerView;
  takeOut: (ride: string) => Promise<void>;
}

/** What the rides say: each rating by day and setting, what of it is real, what outruns the body, and every ride. */
export function Rides({ view, takeOut }: RidesProps) {
  // Hundreds of rides are a long table: it waits until somebody wants it.
  const [open, setOpen] = useState(view.rides.length <= FEW);
  const { rides, settings, series, found, warnings } = view;
  if (rides.length === 0)
    return <p>No ride is back yet. The card goes out with the rider; what it gives back is read in here.</p>;
  const settled = settledOf(view);
  const compared = rides.filter((row) => row.apart == null).length;
  return (
    <section className="between" aria-labelledby="felt">
      <h2 id="felt">What was felt</h2>
      <p>
        {rides.length} {rides.length === 1 ? "ride" : "rides"}, {compared} of them alike.{" "}
        {found.length === 0 && "No change is more than the scatter of the ratings yet."}
      </p>
      {found.length > 0 && (
        <ul className="found" aria-label="Real changes">
          {found.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      )}
      {warnings.length > 0 && (
        <ul className="warned" aria-label="Mind this">
          {warnings.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      )}
      <div className="plots" aria-hidden>
        {series.map((one) => (
          <Plot key={one.label} series={one} view={view} {...settled} />
        ))}
      </div>
      <p className="number-hint">
        A ring is a ride that does not compare. A bar is the median of a setting ridden three times or more; a dashed
        line a real slope.
      </p>
      <Medians series={series} settings={settings} />
      <details className="all-rides" open={open} onToggle={(event) => setOpen(event.currentTarget.open)}>
        <summary>Every ride</summary>
        {open && <Table view={view} takeOut={takeOut} />}
      </details>
    </section>
  );
}

/** Every ride, the last first. */
function Table({ view, takeOut }: RidesProps) {
  const [problem, setProblem] = useState<string>();
  const { rides, settings } = view;
  return (
    <>
      <table className="plans">
        <HeadRow columns={["Day", "Circuit", "Ridden", "Felt", "Setting", "Read by mistake"]} />
        <tbody>
          {[...rides].reverse().map(({ ride, on, words: how, felt, setting, apart }) => (
            <tr key={ride.id}>
              <td>{on}</td>
              <td>
                {ride.circuit}
                {apart != null && <span className="number-hint">{apart}</span>}
              </td>
              <td>{how}</td>
              <td>
                {felt}
                {ride.words != null && ride.words !== "" && <q className="said">{ride.words}</q>}
              </td>
              <td>{settings[setting]}</td>
              <td>
                <Button
                  variant="plain"
                  aria-label={`Take out the ride of ${on}`}
                  onClick={() => {
                    takeOut(ride.id).then(
                      () => setProblem(undefined),
                      (error: unknown) => setProblem(words(error)),
                    );
                  }}
                >
                  Take out
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Problem words={problem} />
    </>
  );
}

/** The medians by setting as a table: what the bars of the plots show. */
function Medians({ series, settings }: { series: LedgerSeries[]; settings: string[] }) {
  return (
    <table className="plans">
      <HeadRow columns={["Median", ...settings]} />
      <tbody>
        {series.map((one) => (
          <tr key={one.label}>
            <th scope="row">
              {one.label}, of {one.most}
            </th>
            {one.medians.map(({ rides, median }, at) => (
              <td key={at} className="n">
                {median == null ? `${rides} of 3 rides` : number(median)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const WIDTH = 440;
const HEIGHT = 118;
/** Where the days begin and end, and the scale: the top, and nothing. */
const [FROM, TO, TOP, GROUND] = [28, 432, 30, 106];
const R = 4;

interface PlotProps extends Settled {
  series: LedgerSeries;
  view: LedgerView;
}

/** How the settings lie over the days, alike in every plot. */
interface Settled {
  /** The rides another setting begins with. */
  begins: LedgerView["rides"];
  /** Of each setting, its first and last day. */
  ridden: { from: number; to: number }[];
}

function settledOf({ rides, settings }: LedgerView): Settled {
  return {
    begins: rides.filter((row, at) => at > 0 && rides[at - 1]?.setting !== row.setting),
    ridden: settings.map((_, setting) => {
      const own = rides.filter((row) => row.setting === setting);
      return { from: own[0]?.day ?? 0, to: own.at(-1)?.day ?? 0 };
    }),
  };
}

/** One rating by day: a path for all dots and one for all rings, however many rides there are. */
function Plot({ series, view, begins, ridden }: PlotProps) {
  const { rides } = view;
  const last = Math.max(1, rides.at(-1)?.day ?? 1);
  const x = (day: number) => FROM + ((TO - FROM) * day) / last;
  const y = (value: number) => GROUND - ((GROUND - TOP) * value) / series.most;
  let [dots, rings] = ["", ""];
  for (const [at, value] of series.points) {
    const row = rides[at];
    if (!row) continue;
    const [cx, cy] = [x(row.day).toFixed(1), y(value).toFixed(1)];
    if (row.apart == null) dots += `M${cx} ${cy}h0`;
    else rings += `M${cx} ${cy}m${-R} 0a${R} ${R} 0 1 0 ${2 * R} 0a${R} ${R} 0 1 0 ${-2 * R} 0`;
  }
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="plot">
      <text x={0} y={16} className="label">
        {series.label}
      </text>
      <line className="ground" x1={FROM - 6} x2={TO + 6} y1={GROUND} y2={GROUND} />
      <line className="top" x1={FROM - 6} x2={TO + 6} y1={TOP} y2={TOP} />
      <text x={18} y={TOP + 5} className="tick">
        {series.most}
      </text>
      <text x={18} y={GROUND + 5} className="tick">
        0
      </text>
      {begins.map((row) => (
        <g key={row.ride.id}>
          <line className="begins" x1={x(row.day - 0.5)} x2={x(row.day - 0.5)} y1={TOP - 8} y2={GROUND} />
          <text
            className="setting"
            x={Math.min(x(row.day - 0.5) + 3, TO + 6)}
            textAnchor={row.day > last * 0.85 ? "end" : "start"}
            y={row.day > last * 0.85 ? TOP - 14 : TOP - 4}
          >
            {view.settings[row.setting]}
          </text>
        </g>
      ))}
      {series.medians.map(({ median }, setting) => {
        if (median == null) return null;
        const { from, to } = ridden[setting] ?? { from: 0, to: 0 };
        return <line key={setting} className="median" x1={x(from) - 4} x2={x(to) + 4} y1={y(median)} y2={y(median)} />;
      })}
      {series.line && <line className="slope" x1={x(0)} x2={x(last)} y1={y(series.line[0])} y2={y(series.line[1])} />}
      <path className="dots" d={dots} />
      <path className="rings" d={rings} />
    </svg>
  );
}
