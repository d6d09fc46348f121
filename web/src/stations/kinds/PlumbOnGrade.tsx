import type { Paper } from "../../fit/station";
import { useFit } from "../../fit/useFit";
import { number } from "../../ui/format";
import { useGrade } from "./useGrade";

/** So far above the sit reference the line ends, mm. */
const ABOVE_MM = 170;

/** The plumb line through the BB as it hangs on a grade, the bike drawn as ever: what is felt of setback is from this line. */
export function PlumbOnGrade({ paper }: { paper: Paper }) {
  const { view } = useFit();
  const { percent } = useGrade();
  if (percent === 0) return null;
  const { sit, ground_mm } = view.now.after.bike;
  const [low, high] = [ground_mm, sit[1] + ABOVE_MM];
  const x = (up: number) => paper.x((up * percent) / 100);
  return (
    <g className="plumb-on-grade" aria-hidden>
      <line x1={x(low)} y1={paper.y(low)} x2={x(high)} y2={paper.y(high)} />
      <text x={x(high) + 8} y={paper.y(high) + 4}>
        plumb on {number(percent)} %
      </text>
    </g>
  );
}
