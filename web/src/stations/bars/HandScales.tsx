import type { BarsView } from "../../api/types";
import { useFit } from "../../fit/useFit";
import { number } from "../../ui/format";

type School = BarsView["schools"][number];
type Known = School & { target: NonNullable<School["target"]> };

const WIDTH = 360;
const LABEL = 0;
const LINE = 22;
const TOP = 34;

/** The two scales: square to the arc, and along it, from where the hands are. */
const SCALES = [
  { at: "farther_mm", span: "farther_from_to", less: "nearer", more: "farther", axis: "farther" },
  { at: "higher_mm", span: "higher_from_to", less: "lower", more: "higher", axis: "higher" },
] as const;

/** Every school of the hands' place on two scales, with now and try through all of them. */
export function HandScales({ bars }: { bars: BarsView }) {
  const { view, foresight, pending } = useFit();
  const known = bars.schools.filter((school): school is Known => school.target != null);
  if (known.length === 0) return null;
  const [now, there] = [view.now.after.bike.hand, foresight.after.bike.hand];
  const moved = [there[0] - now[0], there[1] - now[1]] as const;
  return (
    <div className="hand-scales">
      {SCALES.map((scale) => {
        const axis = bars[scale.axis];
        const wanted = moved[0] * axis[0] + moved[1] * axis[1];
        return <Scale key={scale.at} scale={scale} schools={known} wanted={pending ? wanted : undefined} />;
      })}
    </div>
  );
}

interface ScaleProps {
  scale: (typeof SCALES)[number];
  schools: Known[];
  wanted: number | undefined;
}

function Scale({ scale, schools, wanted }: ScaleProps) {
  // A window may reach past what is asked for: it is cut at the scale's ends.
  const asked = schools.map((school) => Math.abs(school[scale.at]));
  const most = Math.ceil(Math.max(20, 1.3 * Math.max(...asked), Math.abs(wanted ?? 0)));
  const middle = WIDTH / 2;
  const x = (mm: number) => middle + ((middle - 16) * Math.min(most, Math.max(-most, mm))) / most;
  const height = TOP + LINE * schools.length + 18;
  const told = schools.map((school) => `${school.label} ${number(school[scale.at], "mm")}`).join(", ");
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${height}`}
      role="img"
      aria-label={`${scale.less} to ${scale.more}, mm from where the hands are: ${told}`}
    >
      <text x={LABEL} y={14} className="end">
        ◂ {scale.less}
      </text>
      <text x={WIDTH} y={14} textAnchor="end" className="end">
        {scale.more} ▸
      </text>
      <text x={middle} y={14} textAnchor="middle" className="end">
        now, mm
      </text>
      <line className="now" x1={middle} x2={middle} y1={20} y2={height - 14} />
      {wanted !== undefined && (
        <g className="try">
          <line x1={x(wanted) - 2} x2={x(wanted) - 2} y1={20} y2={height - 14} />
          <line x1={x(wanted) + 2} x2={x(wanted) + 2} y1={20} y2={height - 14} />
        </g>
      )}
      {schools.map((school, index) => {
        const y = TOP + LINE * index + 6;
        const value = school[scale.at];
        const span = school[scale.span];
        const left = x(value) > middle;
        return (
          <g key={school.school} className={school.leads ? "leads" : undefined}>
            <line className="axis" x1={0} x2={WIDTH} y1={y} y2={y} />
            {span != null && (
              <rect
                className="window"
                x={x(span[0])}
                width={Math.max(2, x(span[1]) - x(span[0]))}
                y={y - 4}
                height={8}
              />
            )}
            <path className="wish" d={`M${x(value)} ${y + 3}l-6 -10h12z`} />
            <text x={left ? x(value) - 10 : x(value) + 10} y={y - 3} textAnchor={left ? "end" : "start"}>
              {school.label} {number(value, "mm")}
            </text>
          </g>
        );
      })}
      <text x={16} y={height - 2} textAnchor="middle" className="end">
        −{number(most, "mm")}
      </text>
      <text x={WIDTH - 16} y={height - 2} textAnchor="middle" className="end">
        {number(most, "mm")}
      </text>
    </svg>
  );
}
