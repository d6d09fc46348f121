/** How a measure of the body is taken: a small drawing with the tape, calliper or gauge where it goes. */
import type { ReactNode } from "react";
import type { Quantity } from "../../api/types";
import { BodyFigure } from "../../figure/BodyFigure";
import type { Face } from "../../figure/bodyShape";

type At = [x: number, y: number];

/** From where to where, on one view of the standing body. */
const SPANS: Partial<Record<Quantity, [face: Face, from: At, to: At]>> = {
  stature_mm: ["back", [92, 7], [92, 233]],
  inseam_mm: ["front", [50, 128], [50, 233]],
  inseam_shod_mm: ["front", [50, 128], [50, 233]],
  trunk_mm: ["side", [46, 118], [46, 54]],
  shoulder_breadth_mm: ["back", [29, 50], [71, 50]],
  upper_arm_mm: ["side", [47, 54], [47, 104]],
  forearm_mm: ["side", [47, 104], [58, 134]],
  arm_mm: ["side", [47, 54], [61, 146]],
  knuckle_height_mm: ["front", [18, 142], [18, 233]],
  hip_breadth_mm: ["front", [31, 122], [69, 122]],
  sit_bones_mm: ["back", [41, 140], [59, 140]],
  thigh_mm: ["side", [46, 118], [53, 174]],
  shank_mm: ["side", [53, 174], [49, 216]],
  ankle_height_mm: ["side", [49, 216], [49, 233]],
  thigh_shorter_mm: ["side", [46, 118], [53, 174]],
  shank_shorter_mm: ["side", [53, 174], [49, 216]],
  foot_lower_mm: ["side", [49, 216], [49, 233]],
  looks_shorter_mm: ["front", [50, 114], [40, 226]],
};

/** A dimension line with its end strokes, square to it. */
function Tape({ from, to }: { from: At; to: At }) {
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
  const length = Math.hypot(dx, dy) || 1;
  const [nx, ny] = [(-dy / length) * 5, (dx / length) * 5];
  return (
    <g className="taking-tape">
      <path d={`M${from[0]} ${from[1]}L${to[0]} ${to[1]}`} />
      {[from, to].map(([x, y]) => (
        <path key={`${x} ${y}`} d={`M${x - nx} ${y - ny}L${x + nx} ${y + ny}`} />
      ))}
    </g>
  );
}

const limb = (d: string, width: number) => <path className="skin" d={d} strokeWidth={width} />;

/** An angle with its two arms. */
const Angle = ({ d, arms }: { d: string; arms: string }) => (
  <g className="taking-tape">
    <path className="thin" d={arms} />
    <path d={d} />
  </g>
);

const Bench = ({ y }: { y: number }) => <path className="mark-line" d={`M6 ${y}H194`} />;

/** A rider lying on the back, trunk to the left. */
const Lying = ({ children }: { children: ReactNode }) => (
  <g className="body-figure">
    <Bench y={92} />
    <ellipse className="skin-fill" cx={22} cy={78} rx={13} ry={10} />
    <path className="cloth" d="M36 68L96 68L96 90L36 90Z" />
    {limb("M100 82L146 84", 15)}
    {limb("M146 84L184 86", 11)}
    {children}
  </g>
);

/** Drawings of their own: lying, kneeling, a foot. */
const OWN: Partial<Record<Quantity, ReactNode>> = {
  mass_kg: (
    <g className="body-figure">
      <path className="mark-line" d="M60 100H140V112H60Z" />
      {limb("M92 70L90 96", 12)}
      {limb("M108 70L110 96", 12)}
      <path className="cloth" d="M84 14H116L112 72H88Z" />
    </g>
  ),
  fist_angle_deg: (
    <g className="body-figure">
      <ellipse className="skin-fill" cx={100} cy={20} rx={16} ry={13} />
      {limb("M84 32L62 84", 12)}
      {limb("M116 32L138 84", 12)}
      <path className="mark-line" d="M40 92H160" />
      <Angle arms="M62 92V66M138 92V66" d="M46 78L76 104M154 78L124 104" />
    </g>
  ),
  arm_span_mm: (
    <g className="body-figure">
      {limb("M16 44H184", 12)}
      <path className="cloth" d="M82 38H118L114 108H86Z" />
      <ellipse className="skin-fill" cx={100} cy={22} rx={11} ry={14} />
      <Tape from={[12, 66]} to={[188, 66]} />
    </g>
  ),
  hip_limit_deg: (
    <Lying>
      {limb("M98 80L118 42", 15)}
      {limb("M118 42L146 66", 11)}
      <Angle d="M130 82A32 32 0 0 0 113 52" arms="M98 82H150M98 82L122 34" />
    </Lying>
  ),
  straight_leg_raise_deg: (
    <Lying>
      {limb("M98 80L124 44", 15)}
      {limb("M124 44L146 14", 11)}
      <Angle d="M142 82A44 44 0 0 0 124 46" arms="M98 82H160M98 82L152 6" />
    </Lying>
  ),
  shoulder_limit_deg: (
    <Lying>
      {limb("M44 72L18 46", 11)}
      {limb("M18 46L4 28", 9)}
      <Angle d="M82 62A42 42 0 0 0 20 46" arms="M44 70L96 70M44 70L2 26" />
    </Lying>
  ),
  knee_limit_deg: (
    <g className="body-figure">
      <Bench y={92} />
      <ellipse className="skin-fill" cx={22} cy={78} rx={13} ry={10} />
      <path className="cloth" d="M36 72L96 72L96 90L36 90Z" />
      {limb("M100 82L148 84", 15)}
      {limb("M148 82L120 46", 11)}
      <Angle d="M182 82A36 36 0 0 0 128 52" arms="M148 84H192M148 84L114 38" />
    </g>
  ),
  ankle_limit_deg: (
    <g className="body-figure">
      <Bench y={104} />
      {limb("M96 98L128 40", 13)}
      {limb("M128 40L70 36", 16)}
      {limb("M94 100H136", 9)}
      <Angle d="M96 58A42 42 0 0 1 117 62" arms="M96 98V34M96 98L132 32" />
    </g>
  ),
  back_limit_deg: (
    <g className="body-figure">
      <Bench y={112} />
      {limb("M84 62L88 108", 14)}
      <path className="cloth" d="M78 66L92 70L150 42L144 28Z" />
      <ellipse className="skin-fill" cx={162} cy={28} rx={12} ry={10} />
      {limb("M140 40L112 74", 9)}
      <Angle d="M128 64A44 44 0 0 0 125 48" arms="M84 64H172M84 64L168 20" />
    </g>
  ),
  neck_extension_deg: (
    <g className="body-figure">
      <path className="cloth" d="M78 62H122L118 112H82Z" />
      {limb("M100 62L98 46", 14)}
      <ellipse className="skin-fill" cx={92} cy={30} rx={18} ry={15} />
      <Angle d="M158 30A58 58 0 0 0 132 -12" arms="M100 30H172M100 30L144 -24" />
    </g>
  ),
  foot_length_mm: <Sole tape={<Tape from={[22, 96]} to={[178, 96]} />} />,
  foot_width_mm: <Sole tape={<Tape from={[134, 18]} to={[128, 78]} />} />,
  shoe_size_eu: (
    <Sole
      tape={
        <text className="taking-word" x={78} y={56}>
          EU
        </text>
      }
    />
  ),
  arch_height_mm: <FootSide tape={<Tape from={[92, 62]} to={[92, 100]} />} />,
  forefoot_tilt_deg: (
    <g className="body-figure">
      {limb("M100 20V62", 20)}
      <path className="skin-fill" d="M76 62H124V78H76Z" />
      <Angle d="M156 84A56 56 0 0 0 152 70" arms="M60 90H164M60 98L160 64" />
    </g>
  ),
};

function Sole({ tape }: { tape: ReactNode }) {
  return (
    <g className="body-figure">
      <path
        className="skin-fill"
        d="M24 48C24 30 46 28 66 34C92 40 112 22 140 18C168 16 180 36 176 54C172 74 146 80 124 74C98 66 84 66 62 68C40 70 24 66 24 48Z"
      />
      {tape}
    </g>
  );
}

function FootSide({ tape }: { tape: ReactNode }) {
  return (
    <g className="body-figure">
      <Bench y={102} />
      <path
        className="skin-fill"
        d="M44 10H74C74 34 84 48 108 60C132 70 166 78 172 100H138C120 90 96 88 78 100H38C34 80 46 50 44 10Z"
      />
      {tape}
    </g>
  );
}

/** The drawing of one measure; nothing for what is none of the body. */
export function Taking({ quantity }: { quantity: Quantity }) {
  const span = SPANS[quantity];
  if (span) {
    const [face, from, to] = span;
    return (
      <svg className="taking tall" viewBox="0 0 100 236" aria-hidden>
        <BodyFigure face={face} />
        <Tape from={from} to={to} />
      </svg>
    );
  }
  const own = OWN[quantity];
  return own ? (
    <svg className="taking" viewBox="0 0 200 118" aria-hidden>
      {own}
    </svg>
  ) : null;
}
