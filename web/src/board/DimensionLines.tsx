import type { Point, Position } from "../api/types";
import { joints } from "./Drawing";
import { add, left, sub, times, unit, type View } from "./figure";
import { dropLineX, HEIGHT_OFFSET_MM } from "./places";

interface DimensionLinesProps {
  view: View;
  /** Of the board, px. */
  width: number;
  position: Position;
  focus: string | undefined;
  unknown: boolean;
  /** Extension lines run behind the rider. */
  behind?: boolean;
}

/** Dimension lines between the points they measure; the focused one is drawn like a tape held there. */
export function DimensionLines({ view, width, position, focus, unknown, behind }: DimensionLinesProps) {
  const { bike } = position;
  const sit = view.at(bike.sit);
  const bb = view.at([0, 0]);
  const hand = view.at(bike.hand);
  const lane = view.y(bike.ground_mm) + 12;
  const dropX = dropLineX(view, position, width);
  const back = times(left(unit(bike.sit)), HEIGHT_OFFSET_MM);
  const [low, high] = [view.at(back), view.at(add(bike.sit, back))];
  if (behind) {
    return (
      <g>
        <line className="extension" x1={bb[0]} y1={bb[1]} x2={low[0]} y2={low[1]} />
        <line className="extension" x1={sit[0]} y1={sit[1]} x2={high[0]} y2={high[1]} />
        <line className="extension" x1={sit[0]} y1={sit[1]} x2={sit[0]} y2={lane + 4} />
        <line className="extension" x1={bb[0]} y1={bb[1]} x2={bb[0]} y2={lane + 4} />
        <line className="extension" x1={hand[0]} y1={hand[1]} x2={hand[0]} y2={lane + 4} />
        <line className="extension" x1={sit[0]} y1={sit[1]} x2={dropX + 4} y2={sit[1]} />
        <line className="extension" x1={hand[0]} y1={hand[1]} x2={dropX + 4} y2={hand[1]} />
      </g>
    );
  }
  const pose = joints(position, 180);
  const lines: [string, Point, Point][] = [
    ["saddle_height_mm", low, high],
    ["setback_mm", [sit[0], lane], [bb[0], lane]],
    ["bb_to_hand_mm", [bb[0], lane], [hand[0], lane]],
    ["drop_mm", [dropX, sit[1]], [dropX, hand[1]]],
  ];
  if (focus === "stem_mm" || focus === "stem_angle_deg") {
    lines.push([focus, view.at(bike.stem_root), view.at(bike.bar_clamp)]);
  }
  if (focus === "spacers_below_mm") lines.push([focus, view.at(bike.head_top), view.at(bike.steerer_top)]);
  if (focus?.startsWith("crank_mm")) lines.push([focus, bb, view.at(pose.axle)]);
  if (bike.grip && (focus === "bar_rise_mm" || focus === "backsweep_deg")) {
    lines.push([focus, view.at(bike.bar_clamp), view.at(bike.grip)]);
  }
  if (bike.pad && bike.pad_rear && bike.pad_front) {
    if (focus === "pad_tilt_deg") lines.push([focus, view.at(bike.pad_rear), view.at(bike.pad_front)]);
    if (focus === "pad_spacers_mm" || focus === "pad_forward_mm") {
      lines.push([focus, view.at(bike.bar_clamp), view.at(bike.pad)]);
    }
  }
  if (focus === "tilt_deg") lines.push([focus, view.at(bike.saddle_tail), view.at(bike.saddle_nose)]);
  return (
    <g>
      {lines.map(([key, a, b]) => {
        const on = key === focus;
        const blank = unknown && (key === "saddle_height_mm" || key === "setback_mm");
        const n = times(left(unit(sub(b, a))), 6);
        return (
          <g key={key} className={`dimension${on ? " on" : ""}${blank ? " unknown" : ""}`}>
            <line x1={a[0]} y1={a[1]} x2={b[0]} y2={b[1]} />
            {[a, b].map((p, index) => (
              <line key={index} x1={p[0] - n[0]} y1={p[1] - n[1]} x2={p[0] + n[0]} y2={p[1] + n[1]} />
            ))}
          </g>
        );
      })}
    </g>
  );
}
