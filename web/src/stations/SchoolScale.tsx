import "./schools.css";
import { Button } from "@chakra-ui/react";
import type { Change, Scale } from "../api/types";
import { number, suffix, withUnit } from "../ui/format";

interface SchoolScaleProps {
  title: string;
  scale: Scale;
  /** What is being tried on the board, where that is another number than now. */
  wanted: number | undefined;
  readOnly: boolean;
  onTry: (changes: Change[]) => void;
}

/** A value that is an end, not a wish. */
const BOUND = { at_most: "≤ ", at_least: "≥ " };

const WIDTH = 360;
const INSET = 10;

/** What the schools of one decision say, on one scale, with "now" and "try". */
export function SchoolScale({ title, scale, wanted, readOnly, onTry }: SchoolScaleProps) {
  const x = (value: number) => {
    const within = Math.min(scale.high, Math.max(scale.low, value));
    return INSET + ((WIDTH - 2 * INSET) * (within - scale.low)) / (scale.high - scale.low || 1);
  };
  return (
    <section className="schools" aria-label={title}>
      <h3>
        {title} <span className="now-words">now {withUnit(scale.now, scale.unit)}</span>
      </h3>
      <ul>
        {scale.schools.map((school) => (
          <li key={school.school} className={school.leads ? "leads" : undefined}>
            <p className="says">
              <span>
                {school.label}
                {school.leads && <b> leads</b>}
              </span>
              <b className="value">
                {school.value == null
                  ? "?"
                  : `${school.bound ? BOUND[school.bound] : ""}${school.estimated ? "≈ " : ""}${number(school.value, scale.unit)}`}
                {school.value != null && school.band != null && (
                  <span className="band"> ± {number(school.band, scale.unit)}</span>
                )}
                {school.value != null && suffix(scale.unit)}
              </b>
            </p>
            <svg viewBox={`0 0 ${WIDTH} 22`} aria-hidden>
              <line className="axis" x1={0} x2={WIDTH} y1={15} y2={15} />
              {school.low != null && school.high != null && (
                <rect
                  className="window"
                  x={x(school.low)}
                  width={Math.max(2, x(school.high) - x(school.low))}
                  y={10}
                  height={10}
                />
              )}
              {school.value != null && school.band != null && (
                <line
                  className="band"
                  x1={x(school.value - school.band)}
                  x2={x(school.value + school.band)}
                  y1={15}
                  y2={15}
                />
              )}
              {school.sides != null &&
                (["left", "right"] as const).map((side) => (
                  <text key={side} className="side" x={x(school.sides?.[side] ?? 0)} y={9}>
                    {side === "left" ? "L" : "R"}
                  </text>
                ))}
              {school.value != null && <path className="wish" d={`M${x(school.value)} 9l-5 -8h10z`} />}
              <line className="now" x1={x(scale.now)} x2={x(scale.now)} y1={4} y2={21} />
              {wanted !== undefined && (
                <g className="try">
                  <line x1={x(wanted) - 2} x2={x(wanted) - 2} y1={4} y2={21} />
                  <line x1={x(wanted) + 2} x2={x(wanted) + 2} y1={4} y2={21} />
                </g>
              )}
            </svg>
            <div className="why">
              <span>
                {school.words}
                {school.trial && school.trial.left !== "" && `; ${school.trial.left}`}.
              </span>
              {school.trial && !readOnly && (
                <Button
                  size="sm"
                  whiteSpace="normal"
                  textAlign="left"
                  onClick={() => school.trial && onTry(school.trial.changes)}
                >
                  Foresee: {school.trial.title}
                </Button>
              )}
            </div>
          </li>
        ))}
      </ul>
      <p className="key">
        <b>│</b> now{wanted !== undefined && <span className="try-word"> ║ try {withUnit(wanted, scale.unit)}</span>}
      </p>
      {scale.note != null && <p className="number-hint">{scale.note}.</p>}
      {scale.apart != null && <p className="apart">{scale.apart}</p>}
    </section>
  );
}
