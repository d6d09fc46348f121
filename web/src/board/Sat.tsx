import type { ReactNode } from "react";
import type { Point, Position } from "../api/types";
import { Figure } from "./Drawing";
import { bounds, viewOf } from "./figure";

type Paper = ReturnType<typeof viewOf>;

interface StandingProps {
  position: Position;
  /** How large it is drawn. */
  size: { width: number; height: number };
  /** What it shows, and the words beneath it. */
  label: string;
  caption: ReactNode;
  /** What lies over it. */
  children?: (paper: Paper) => ReactNode;
}

/** A rider on the bike, standing on the ground, with what lies over it. */
export function Standing({ position, size: { width, height }, label, caption, children }: StandingProps) {
  const paper = viewOf(bounds(position), width, height, { top: 8, bottom: 12, side: 8 });
  const ground = paper.y(position.bike.ground_mm);
  return (
    <figure className="rider-standing">
      <div className="board">
        <svg viewBox={`0 0 ${width} ${height}`} role="img" aria-label={label}>
          <line className="ground" x1={4} x2={width - 4} y1={ground} y2={ground} />
          <g transform={paper.transform}>
            <Figure position={position} crank={position.legs.right.knee.smallest_at} />
          </g>
          {children?.(paper)}
        </svg>
      </div>
      <figcaption>{caption}</figcaption>
    </figure>
  );
}

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
  const wishes = [
    { of: sit, what: "saddle wished" },
    { of: hand, what: "hands wished" },
  ];
  return (
    <Standing position={position} size={BOARD} label={label} caption={label}>
      {(paper) => wishes.map(({ of, what }) => of && <Cross key={what} at={paper.at(of)} what={what} />)}
    </Standing>
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
