import type { Point, Position } from "../api/types";
import { Figure } from "./Drawing";
import { bounds, viewOf } from "./figure";

const BOARD = { width: 640, height: 440 };

interface SatProps {
  position: Position;
  /** What it shows. */
  label: string;
  /** Where saddle and hands were wished. */
  sit?: Point;
  hand?: Point;
}

/** How the rider sits, with crosses where saddle and hands were wished. */
export function Sat({ position, label, sit, hand }: SatProps) {
  const paper = viewOf(bounds(position), BOARD.width, BOARD.height, { top: 8, bottom: 12, side: 8 });
  const wishes = [
    { of: sit, what: "saddle wished" },
    { of: hand, what: "hands wished" },
  ];
  return (
    <figure className="rider-standing">
      <div className="board">
        <svg viewBox={`0 0 ${BOARD.width} ${BOARD.height}`} role="img" aria-label={label}>
          <line
            className="ground"
            x1={4}
            x2={BOARD.width - 4}
            y1={paper.y(position.bike.ground_mm)}
            y2={paper.y(position.bike.ground_mm)}
          />
          <g transform={paper.transform}>
            <Figure position={position} crank={position.legs.right.knee.smallest_at} />
          </g>
          {wishes.map(({ of, what }) => of && <Cross key={what} at={paper.at(of)} what={what} />)}
        </svg>
      </div>
      <figcaption>{label}</figcaption>
    </figure>
  );
}

function Cross({ at: [x, y], what }: { at: Point; what: string }) {
  return (
    <g>
      <path className="wish" d={`M${x - 9} ${y - 9}l18 18M${x - 9} ${y + 9}l18 -18`} />
      <text className="wish-word" x={x} y={y - 15} textAnchor="middle">
        {what}
      </text>
    </g>
  );
}
