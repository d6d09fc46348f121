import "./board.css";
import type { BikePoints, LegPose, Point, Position } from "../api/types";
import { add, left, limb, mix, polyline, poseAt, saddle, shoe, sub, times, torso, unit } from "./figure";

/** The body the limb widths are drawn for; others scale with their trunk. */
const TRUNK_MM = 513;

const bodyScale = (position: Position) => {
  const { hip, shoulder } = position.upper.points;
  return Math.hypot(shoulder[0] - hip[0], shoulder[1] - hip[1]) / TRUNK_MM;
};

/** What a bar looks like from the side: a drop bar with its hood, a flat bar end on, a base bar with its pad. */
function Bar({ bike }: { bike: BikePoints }) {
  const { bar_clamp: clamp, bar_bend: bend, bar_end: end, hood, grip, pad, pad_rear, pad_front } = bike;
  if (bend && end && hood) {
    const drops = `M${clamp.join(" ")}L${mix(clamp, bend, 0.55).join(" ")}Q${bend.join(" ")} ${mix(bend, end, 0.5).join(" ")}T${end.join(" ")}`;
    return (
      <>
        <path className="bar" d={drops} />
        <path className="lever" d={polyline(mix(bend, hood, 0.1), hood)} />
      </>
    );
  }
  if (pad && pad_rear && pad_front && grip) {
    return (
      <>
        <path className="bar" d={polyline(clamp, grip)} />
        <path className="thin-lever" d={polyline(grip, add(grip, [55, 8]))} />
        <path className="bar" d={polyline(clamp, [clamp[0], pad[1] - 22], add(pad, [0, -22]))} />
        <path className="pad" d={polyline(add(pad_rear, [0, -9]), add(pad_front, [0, -9]))} />
      </>
    );
  }
  if (grip) {
    return (
      <>
        <path className="bar" d={polyline(clamp, bend ?? clamp, grip)} />
        <path className="thin-lever" d={polyline(add(grip, [12, -8]), add(grip, [66, -34]))} />
        <circle className="grip" cx={grip[0]} cy={grip[1]} r={17} />
      </>
    );
  }
  return null;
}

/** A fit stand: a foot on the floor, and two columns that saddle and front slide on. */
function Stand({ bike }: { bike: BikePoints }) {
  const [x] = bike.saddle_clamp;
  const front = bike.bar_clamp[0];
  const floor = bike.ground_mm;
  return (
    <g className="bike on-stand">
      <path className="tube" d={polyline([x - 120, floor + 14], [front + 160, floor + 14])} />
      <path className="tube" d={polyline([x, floor + 14], [x, bike.saddle_clamp[1] - 60])} />
      <path className="tube" d={polyline([front, floor + 14], [front, bike.bar_clamp[1] - 60])} />
      <path className="tube" d={polyline([0, floor + 14], [0, 0])} />
      <path className="post" d={polyline([x, bike.saddle_clamp[1] - 60], bike.saddle_clamp)} />
      <path className="stem" d={polyline([front, bike.bar_clamp[1] - 60], bike.bar_clamp)} />
      <Bar bike={bike} />
      <path className="saddle" d={saddle(bike.saddle_nose, bike.saddle_tail)} />
    </g>
  );
}

/** The bike, without cranks. */
export function Bike({ bike }: { bike: BikePoints }) {
  const seat = unit(bike.post_clamp);
  const up = unit(sub(bike.head_top, bike.head_bottom));
  const crown = add(bike.head_bottom, times(up, -14));
  const rake = mix(crown, bike.front_axle, 0.72);
  return (
    <g className="bike">
      {[bike.rear_axle, bike.front_axle].map((axle) => (
        <g key={axle[0]}>
          <circle className="tyre" cx={axle[0]} cy={axle[1]} r={bike.wheel_radius_mm - 12} />
          <circle className="rim" cx={axle[0]} cy={axle[1]} r={bike.wheel_radius_mm - 38} />
          <circle className="hub" cx={axle[0]} cy={axle[1]} r={14} />
        </g>
      ))}
      <path className="stay" d={polyline([0, 0], bike.rear_axle, times(seat, Math.hypot(...bike.post_clamp) - 40))} />
      <path
        className="stay"
        d={`M${crown.join(" ")}L${rake.join(" ")}Q${add(rake, [8, -60]).join(" ")} ${bike.front_axle.join(" ")}`}
      />
      <path className="tube" d={polyline([0, 0], bike.post_clamp)} />
      <path className="tube" d={polyline([0, 0], mix(bike.head_bottom, bike.head_top, 0.18))} />
      <path
        className="tube"
        d={polyline(times(seat, Math.hypot(...bike.post_clamp) - 25), mix(bike.head_bottom, bike.head_top, 0.82))}
      />
      <path className="head" d={polyline(bike.head_bottom, bike.head_top)} />
      <path className="steerer" d={polyline(bike.head_top, bike.steerer_top)} />
      <path className="post" d={polyline(bike.post_clamp, bike.saddle_clamp)} />
      <path className="stem" d={polyline(bike.stem_root, bike.bar_clamp)} />
      <Bar bike={bike} />
      <path className="saddle" d={saddle(bike.saddle_nose, bike.saddle_tail)} />
    </g>
  );
}

function Crank({ axle, near }: { axle: Point; near: boolean }) {
  return (
    <g className={near ? "crank near" : "crank far"}>
      {near && <circle className="ring" cx={0} cy={0} r={92} />}
      <path className="arm" d={polyline([0, 0], axle)} />
      <path className="pedal" d={polyline(add(axle, [-45, -8]), add(axle, [45, -8]))} />
    </g>
  );
}

function LegShape({ hip, pose, k, near }: { hip: Point; pose: LegPose; k: number; near: boolean }) {
  const shortsEnd = mix(hip, pose.knee, 0.62);
  return (
    <g className={near ? "leg near" : "leg far"}>
      <path className="skin" d={limb(pose.knee, pose.ankle, 56 * k, 34 * k)} />
      <path className="skin" d={limb(hip, pose.knee, 88 * k, 58 * k)} />
      <path className="sock" d={limb(mix(pose.knee, pose.ankle, 0.72), pose.ankle, 41 * k, 35 * k)} />
      <path className="shorts" d={limb(hip, shortsEnd, 96 * k, 76 * k)} />
      <path className="shoe" d={shoe(pose, k)} />
    </g>
  );
}

/** The rider on the bike at a crank angle: the far leg, the bike, then what is near. */
export function Figure({ position, crank, stand }: { position: Position; crank: number; stand?: boolean }) {
  const { upper, legs, bike } = position;
  const k = bodyScale(position);
  const near = poseAt(legs.right, crank);
  const far = poseAt(legs.left, crank + 180);
  const { hip, shoulder, elbow, hand, head } = upper.points;
  const trunk = unit(sub(shoulder, hip));
  const neck = mix(shoulder, head, 0.62);
  const face = unit(sub(head, shoulder));
  const brow = times(left(face), -1);
  const on = (p: Point, along: number, ahead: number): Point =>
    add(p, add(times(face, along * k), times(brow, ahead * k)));
  const point = (p: Point) => p.map((v) => v.toFixed(1)).join(" ");
  return (
    <g className="figure">
      <Crank axle={far.axle} near={false} />
      <LegShape hip={hip} pose={far} k={k} near={false} />
      {stand ? <Stand bike={bike} /> : <Bike bike={bike} />}
      <Crank axle={near.axle} near />
      <path className="skin" d={limb(add(shoulder, times(trunk, 20 * k)), neck, 58 * k, 46 * k)} />
      <path className="cloth" d={torso(hip, shoulder, k)} />
      <LegShape hip={hip} pose={near} k={k} near />
      <path className="skin head-shape" d={limb(on(head, -44, 14), on(head, 22, 6), 60 * k, 82 * k)} />
      <path
        className="helmet"
        d={`M${point(on(head, 4, 96))}C${point(on(head, 70, 120))} ${point(on(head, 130, 50))} ${point(on(head, 122, -20))}C${point(on(head, 110, -90))} ${point(on(head, 40, -118))} ${point(on(head, -16, -92))}C${point(on(head, 20, -60))} ${point(on(head, 30, 30))} ${point(on(head, 4, 96))}Z`}
      />
      {bike.pad && (
        <path className="bar" d={polyline(add(bike.pad, [0, -22]), add(hand, [-70, -26]), add(hand, [6, 6]))} />
      )}
      <path className="skin" d={limb(elbow, hand, 38 * k, 26 * k)} />
      <path className="skin" d={limb(shoulder, elbow, 54 * k, 40 * k)} />
      <path className="cloth sleeve" d={limb(shoulder, mix(shoulder, elbow, 0.62), 64 * k, 52 * k)} />
      <path className="glove" d={limb(hand, add(hand, times(unit(sub(hand, elbow)), 42 * k)), 32 * k, 24 * k)} />
    </g>
  );
}

/** The joints of a position at a crank angle, near side. */
export function joints(position: Position, crank: number) {
  const pose = poseAt(position.legs.right, crank);
  const { hip, shoulder, elbow, hand } = position.upper.points;
  return {
    chain: [hand, elbow, shoulder, hip, pose.knee, pose.ankle, pose.axle] as Point[],
    hip,
    shoulder,
    elbow,
    knee: pose.knee,
    ankle: pose.ankle,
    axle: pose.axle,
  };
}

/** A position as lines: thin dashed grey for as found, a double amber line with hollow joints for foreseen. */
export function Lines({ position, crank, state }: { position: Position; crank: number; state: "found" | "foreseen" }) {
  const { chain } = joints(position, crank);
  const { bike } = position;
  const paths = [
    polyline(...chain),
    saddle(bike.saddle_nose, bike.saddle_tail),
    polyline(bike.stem_root, bike.bar_clamp, bike.bar_bend ?? bike.bar_clamp, bike.hand),
    polyline([0, 0], chain[chain.length - 1] ?? [0, 0]),
  ];
  return (
    <g className={`lines ${state}`}>
      {paths.map((d, index) => (
        <path key={index} className="outer" d={d} />
      ))}
      {state === "foreseen" && paths.map((d, index) => <path key={index} className="inner" d={d} />)}
      {state === "foreseen" && chain.map((p, index) => <circle key={index} cx={p[0]} cy={p[1]} r={13} />)}
    </g>
  );
}
