import "./SchoolScale.css";
import { useState } from "react";
import type { Opinion, Scale, Unit } from "../api/types";
import { number, suffix, ticks, withUnit, sentence } from "../ui/format";
import { ForeseeStep } from "./Foresee";

interface SchoolScaleProps {
  title: string;
  scale: Scale;
  /** What is being tried on the board, where that is another number than now. */
  wanted: number | undefined;
}

/** A value that is an end, not a wish. */
const BOUND = { at_most: "≤ ", at_least: "≥ " };

const WIDTH = 360;
const INSET = 14;
/** The axis shows so many numbers at the most. */
const MARKS = 5;

/** Where a value stands across the scale. */
type Across = (value: number) => number;

/**
 * What the schools of one decision say, one below the other on one scale, with "now" and "try" through all of them. One
 * school is open, with its reason and its trial: the leading one until another is picked.
 */
export function SchoolScale({ title, scale, wanted }: SchoolScaleProps) {
  const leading = scale.schools.find((school) => school.leads)?.school;
  const [picked, setPicked] = useState<string>();
  const open = picked ?? leading;
  const x: Across = (value) => {
    const within = Math.min(scale.high, Math.max(scale.low, value));
    return INSET + ((WIDTH - 2 * INSET) * (within - scale.low)) / (scale.high - scale.low || 1);
  };
  return (
    <section className="schools" aria-label={title}>
      <h3>
        {title} <span className="now-words">│ now {withUnit(scale.now, scale.unit)}</span>
        {wanted !== undefined && <span className="try-word">║ try {withUnit(wanted, scale.unit)}</span>}
      </h3>
      <ul>
        {scale.schools.map((school) => (
          <li key={school.school} className={school.leads ? "leads" : undefined}>
            {school.value == null ? (
              <>
                <Says school={school} unit={scale.unit} />
                <p className="why">{sentence(school.words)}</p>
              </>
            ) : (
              <>
                <button
                  type="button"
                  className="school"
                  aria-expanded={school.school === open}
                  onClick={() => setPicked(school.school)}
                >
                  <Says school={school} unit={scale.unit} />
                  <Bar school={school} now={scale.now} wanted={wanted} x={x} />
                </button>
                {school.school === open && (
                  <div className="why">
                    <span>
                      {school.words}
                      {school.trial && school.trial.left !== "" && `; ${school.trial.left}`}.
                    </span>
                    <ForeseeStep step={school.trial} keycap={school.leads ? "S" : undefined} />
                  </div>
                )}
              </>
            )}
          </li>
        ))}
      </ul>
      <svg viewBox={`0 0 ${WIDTH} 24`} aria-hidden>
        <line className="axis" x1={0} x2={WIDTH} y1={1} y2={1} />
        {ticks(scale.low, scale.high, scale.unit, MARKS).map((value) => (
          <g key={value} className="mark">
            <line x1={x(value)} x2={x(value)} y1={1} y2={6} />
            <text x={x(value)} y={20}>
              {number(value, scale.unit)}
            </text>
          </g>
        ))}
      </svg>
      {scale.note != null && <p className="number-hint">{sentence(scale.note)}</p>}
      {scale.apart != null && <p className="apart">{scale.apart}</p>}
    </section>
  );
}

/** A school and its number. */
function Says({ school, unit }: { school: Opinion; unit: Unit }) {
  const { value, band, bound, estimated } = school;
  // A tenth of an estimate says more than is known.
  const shown = value != null && estimated && unit === "mm" ? Math.round(value) : value;
  return (
    <span className="says">
      <span>
        {school.label}
        {school.leads && <b> leads</b>}
      </span>
      <b className="value">
        {shown == null ? (
          "?"
        ) : (
          <>
            {bound && BOUND[bound]}
            {estimated && "≈ "}
            {number(shown, unit)}
            {band != null && (
              <span className="band"> ± {number(estimated && unit === "mm" ? Math.round(band) : band, unit)}</span>
            )}
            {suffix(unit)}
          </>
        )}
      </b>
    </span>
  );
}

interface BarProps {
  school: Opinion;
  now: number;
  wanted: number | undefined;
  x: Across;
}

/** A school's window, band and wish on the scale, left and right above it where they differ. */
function Bar({ school, now, wanted, x }: BarProps) {
  const { value, low, high, band, sides } = school;
  const top = sides == null ? 0 : 14;
  const middle = top + 9;
  const first = sides != null && sides.left > sides.right ? "right" : "left";
  return (
    <svg viewBox={`0 0 ${WIDTH} ${top + 17}`} aria-hidden>
      <line className="axis" x1={0} x2={WIDTH} y1={middle} y2={middle} />
      {low != null && high != null && (
        <rect className="window" x={x(low)} width={Math.max(2, x(high) - x(low))} y={middle - 5} height={10} />
      )}
      {value != null && band != null && (
        <line className="band" x1={x(value - band)} x2={x(value + band)} y1={middle} y2={middle} />
      )}
      {value != null && <path className="wish" d={`M${x(value)} ${middle + 3}l-6 -10h12z`} />}
      <line className="now" x1={x(now)} x2={x(now)} y1={0} y2={top + 17} />
      {wanted !== undefined && (
        <g className="try">
          <line x1={x(wanted) - 2} x2={x(wanted) - 2} y1={0} y2={top + 17} />
          <line x1={x(wanted) + 2} x2={x(wanted) + 2} y1={0} y2={top + 17} />
        </g>
      )}
      {sides != null &&
        (["left", "right"] as const).map((side) => (
          <g key={side} className="side">
            <line x1={x(sides[side])} x2={x(sides[side])} y1={2} y2={middle} />
            <text x={x(sides[side]) + (side === first ? -3 : 3)} y={12} textAnchor={side === first ? "end" : "start"}>
              {side === "left" ? "L" : "R"}
            </text>
          </g>
        ))}
    </svg>
  );
}
