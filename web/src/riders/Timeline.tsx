import type { Year, Years } from "../api/types";
import { Choice } from "../ui/Choice";
import { day, withUnit } from "../ui/format";
import { Keycap } from "../ui/Keycap";

const WIDTH = 620;
/** Where the ruler begins, right of the labels, and ends, left of the last number. */
const FROM = 232;
const TO = 570;
/** Pixels of one measure on the ruler, and of one complaint beneath it. */
const ROW = 62;
const BAR = 26;
/** A first fit alone still needs a ruler of some length. */
const LEAST_DAYS = 120;

const dayNumber = (iso: string) => Date.parse(`${iso}T00:00:00Z`) / 86_400_000;

interface TimelineProps {
  fits: Year[];
  complaints: Years["complaints"];
  /** The days of the rides that came back. */
  rides: Years["rides"];
  at: number;
  onPick: (at: number) => void;
}

/** One ruler of time: the main measures as step lines, and beneath them what hurt, as bars. */
export function Timeline({ fits, complaints, rides, at, onPick }: TimelineProps) {
  const days = [
    ...fits.map((fit) => dayNumber(fit.day)),
    ...complaints.flatMap((c) => [dayNumber(c.from), c.until == null ? NaN : dayNumber(c.until)]),
    ...rides.map(dayNumber),
  ].filter((d) => !Number.isNaN(d));
  const first = Math.min(...days);
  const last = Math.max(...days, first + LEAST_DAYS);
  const x = (d: number) => FROM + ((TO - FROM) * (d - first)) / (last - first);
  const labels = fits[at]?.measures ?? [];
  const ground = labels.length * ROW + 4;
  const beneath = ground + 22 + complaints.length * BAR;
  const height = beneath + (rides.length > 0 ? BAR : 2);
  const here = fits[at];
  return (
    <div className="timeline">
      <div className="visually-hidden">
        <table>
          <caption>Measures by fit, as left</caption>
          <thead>
            <tr>
              <th scope="col">Fit</th>
              {labels.map((m) => (
                <th key={m.label} scope="col">
                  {m.label}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {fits.map((fit) => (
              <tr key={fit.session_id}>
                <th scope="row">{day(fit.day)}</th>
                {fit.measures.map((m) => (
                  <td key={m.label}>{m.left == null ? "" : withUnit(m.left, m.unit)}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <svg viewBox={`0 0 ${WIDTH} ${height}`} aria-hidden>
        {labels.map((measure, row) => (
          <Steps
            key={measure.label}
            fits={fits}
            row={row}
            at={at}
            x={(fit) => x(dayNumber(fit.day))}
            top={row * ROW}
            label={measure.label}
            how={measure.how}
            onPick={onPick}
          />
        ))}
        <line className="ruler" x1={FROM - 14} x2={TO + 14} y1={ground} y2={ground} />
        {years(first, last).map(({ at: tick, label }) => (
          <g key={label}>
            <line className="ruler" x1={x(tick)} x2={x(tick)} y1={ground} y2={ground + 6} />
            <text className="how" x={x(tick) + 4} y={ground + 16}>
              {label}
            </text>
          </g>
        ))}
        {here && <line className="here" x1={x(dayNumber(here.day))} x2={x(dayNumber(here.day))} y1={8} y2={height} />}
        {complaints.map((complaint, index) => {
          const y = ground + 22 + index * BAR;
          const from = x(dayNumber(complaint.from));
          const until = complaint.until == null ? TO + 14 : x(dayNumber(complaint.until));
          return (
            <g key={`${complaint.label}${complaint.from}`} className={complaint.until == null ? "ache open" : "ache"}>
              <text className="ache-label" x={0} y={y + 16}>
                {complaint.label}
              </text>
              <rect x={from} width={Math.max(4, until - from)} y={y + 3} height={18} />
              {complaint.worst != null && until - from > 46 && (
                <text className="ache-words" x={from + 6} y={y + 17}>
                  {complaint.worst} of 10
                </text>
              )}
            </g>
          );
        })}
        {rides.length > 0 && (
          <g>
            <text className="ache-label" x={0} y={beneath + 16}>
              Rides
            </text>
            <path className="ridden" d={rides.map((on) => `M${x(dayNumber(on))} ${beneath + 4}v14`).join("")} />
          </g>
        )}
      </svg>
      {rides.length > 0 && (
        <p className="visually-hidden">
          {rides.length} rides came back, from {day(rides[0] ?? "")} to {day(rides.at(-1) ?? "")}
        </p>
      )}
      {complaints.length > 0 && (
        <ul className="visually-hidden" aria-label="Complaints">
          {complaints.map((c) => (
            <li key={`${c.label}${c.from}`}>
              {c.label}, from {day(c.from)} {c.until == null ? "until now" : `to ${day(c.until)}`}
            </li>
          ))}
        </ul>
      )}
      <div className="dates">
        <Choice
          label="Fit"
          labelHidden
          options={fits.map((fit) => ({ key: fit.session_id, label: `Fit ${fit.number}, ${day(fit.day)}` }))}
          value={here?.session_id}
          onPick={(id) => onPick(fits.findIndex((fit) => fit.session_id === id))}
        />
        {fits.length > 1 && (
          <span>
            <Keycap>←</Keycap> <Keycap>→</Keycap> earlier, later
          </span>
        )}
      </div>
    </div>
  );
}

/** The beginnings of the years on the ruler. */
function years(first: number, last: number): { at: number; label: string }[] {
  const year = (d: number) => new Date(d * 86_400_000).getUTCFullYear();
  const all = [{ at: first, label: String(year(first)) }];
  for (let y = year(first) + 1; y <= year(last); y++) all.push({ at: dayNumber(`${y}-01-01`), label: String(y) });
  // A year that begins right after the ruler does leaves its first label no room.
  return all.length > 1 && (all[1]?.at ?? 0) - first < (last - first) / 8 ? all.slice(1) : all;
}

interface StepsProps {
  fits: Year[];
  row: number;
  at: number;
  x: (fit: Year) => number;
  top: number;
  label: string;
  how: string;
  onPick: (at: number) => void;
}

/** One measure over the years: up or down where a fit changed it, level between. */
function Steps({ fits, row, at, x, top, label, how, onPick }: StepsProps) {
  const values = fits.map((fit) => fit.measures[row]);
  const known = values.flatMap((m) => [m?.found, m?.left]).filter((v): v is number => v != null);
  const [low, high] = [Math.min(...known), Math.max(...known)];
  const y = (v: number) => top + 56 - (high > low ? (24 * (v - low)) / (high - low) : 12);
  let path = "";
  fits.forEach((fit, index) => {
    const { found, left } = values[index] ?? {};
    if (found == null || left == null) return;
    path += path === "" ? `M${x(fit)} ${y(found)}` : `H${x(fit)}V${y(found)}`;
    path += `V${y(left)}`;
  });
  const here = values[at];
  // At the ruler's beginning its words would lie over what the measure is.
  const first = fits[at] !== undefined && x(fits[at]) < FROM + 46;
  return (
    <g>
      <text x={0} y={top + 36} className="label">
        {label}
      </text>
      <text x={0} y={top + 53} className="how">
        {how}
      </text>
      <path className="steps" d={path} />
      {fits.map((fit, index) => {
        const left = values[index]?.left;
        return (
          left != null && (
            <circle
              key={fit.session_id}
              className={index === at ? "on" : undefined}
              cx={x(fit)}
              cy={y(left)}
              r={index === at ? 6 : 4}
              onClick={() => onPick(index)}
            />
          )
        );
      })}
      {here?.left != null && fits[at] && (
        <text
          className="on"
          x={x(fits[at]) - (first ? 6 : 0)}
          y={y(here.left) - 10}
          textAnchor={first ? "start" : "middle"}
        >
          {withUnit(here.left, here.unit)}
        </text>
      )}
    </g>
  );
}
