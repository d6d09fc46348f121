import { type KeyboardEvent, type PointerEvent, useRef } from "react";
import { useFit } from "../../fit/useFit";
import type { Paper } from "../../fit/station";
import { number } from "../../ui/format";
import { TURNS, useAero } from "./useAero";

/** How far outside the elbow the handle's arc runs, px: clear of the forearm. */
const OUT = 110;
/** And so far below the line through it, degrees: clear of the head. */
const BELOW = 8;

/** The handle that turns the whole position about the BB: dragged, or stepped with the arrows. */
export function TurnHandle({ paper }: { paper: Paper }) {
  const { view } = useFit();
  const { by, turn, data } = useAero();
  const grip = useRef<SVGGElement>(null);
  const held = useRef(false);
  const elbow = view.now.after.bike.pad_elbow;
  if (!elbow) return null;
  const [x0, y0] = [paper.x(0), paper.y(0)];
  const [ex, ey] = [paper.x(elbow[0]) - x0, y0 - paper.y(elbow[1])];
  const rest = (180 / Math.PI) * Math.atan2(ey, ex) - BELOW;
  const far = Math.hypot(ex, ey) + OUT;
  const at = (deg: number, r = far) => {
    const a = ((rest - deg) * Math.PI) / 180;
    return [x0 + r * Math.cos(a), y0 - r * Math.sin(a)] as const;
  };
  const drag = (event: PointerEvent<SVGGElement>) => {
    const box = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
    if (!held.current || !box) return;
    const [dx, dy] = [event.clientX - box.left - x0, y0 - (event.clientY - box.top)];
    turn(rest - (180 / Math.PI) * Math.atan2(dy, dx));
  };
  const press = (event: KeyboardEvent) => {
    const step = event.shiftKey ? TURNS.fine : TURNS.step;
    const way = { ArrowDown: 1, ArrowRight: 1, ArrowUp: -1, ArrowLeft: -1 }[event.key];
    if (way === undefined && event.key !== "Home") return;
    event.preventDefault();
    event.stopPropagation();
    turn(way === undefined ? 0 : by + way * step);
  };
  const words = `Turned ${number(Math.abs(by))}° ${by < 0 ? "back" : "forward"}`;
  const [kx, ky] = at(by);
  const arc = (from: number, to: number) => `M${at(from).join(" ")}A${far} ${far} 0 0 1 ${at(to).join(" ")}`;
  const reach = data?.turned;
  return (
    <g className="turn-handle">
      <path className="whole" d={arc(-TURNS.most, TURNS.most)} />
      {reach && (
        <path
          className="goes"
          d={arc(-Math.min(TURNS.most, reach.back_deg), Math.min(TURNS.most, reach.forward_deg))}
        />
      )}
      <path className="tick" d={`M${at(0, far - 9).join(" ")}L${at(0, far + 9).join(" ")}`} />
      {by !== 0 && <path className="line" d={`M${x0} ${y0}L${kx} ${ky}`} />}
      <g
        ref={grip}
        role="slider"
        tabIndex={0}
        aria-label="Turn the whole position about the BB"
        aria-valuenow={by}
        aria-valuemin={TURNS.least}
        aria-valuemax={TURNS.most}
        aria-valuetext={words}
        data-testid="turn-handle"
        onKeyDown={press}
        onPointerDown={(event) => {
          held.current = true;
          event.currentTarget.setPointerCapture(event.pointerId);
        }}
        onPointerMove={drag}
        onPointerUp={() => (held.current = false)}
      >
        <circle cx={kx} cy={ky} r={15} />
        <path d={`M${at(by - 1.1, far).join(" ")}L${at(by + 1.1, far).join(" ")}`} />
        <text x={kx + 22} y={ky + 6}>
          {number(by)}°
        </text>
      </g>
    </g>
  );
}
