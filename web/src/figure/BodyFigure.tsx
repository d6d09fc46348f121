import "./figure.css";
import { type Face, SHAPES } from "./bodyShape";

/** One view of the body, clothed; everything else is drawn over it. */
export function BodyFigure({ face }: { face: Face }) {
  const shape = SHAPES[face];
  const [x, y, rx, ry] = shape.head;
  return (
    <g className="body-figure">
      <path className="skin" d={`M${x} ${y + 10}V50`} strokeWidth="10" />
      {shape.limbs.map(([path, width]) => (
        <path key={path} className="skin" d={path} strokeWidth={width} />
      ))}
      {shape.cloth.map((path) => (
        <path key={path} className="cloth" d={path} />
      ))}
      {shape.shorts.map((path) => (
        <path key={path} className="shorts" d={path} />
      ))}
      <ellipse className="skin-fill" cx={x} cy={y} rx={rx} ry={ry} />
      {shape.marks.map((path) => (
        <path key={path} className="mark-line" d={path} />
      ))}
    </g>
  );
}
