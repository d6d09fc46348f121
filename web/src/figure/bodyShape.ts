/** The body as drawn for where it hurts and for how it is measured: three views of one own figure, 100 by 236. */
import type { Place } from "../api/types";

export type Face = "front" | "back" | "side";

export interface Shape {
  /** Skin: strokes with round ends, thick as the limb. */
  limbs: [path: string, width: number][];
  /** Clothes over it. */
  cloth: string[];
  shorts: string[];
  /** Thin lines that say which view it is. */
  marks: string[];
  head: [x: number, y: number, rx: number, ry: number];
}

const ARMS: [string, number][] = [
  ["M31 56C25 74 22 88 20 104", 11],
  ["M20 104C18 116 16 124 15 134", 9],
  ["M14.5 138C14 142 14 145 14.5 148", 8],
  ["M69 56C75 74 78 88 80 104", 11],
  ["M80 104C82 116 84 124 85 134", 9],
  ["M85.5 138C86 142 86 145 85.5 148", 8],
];

const LEGS: [string, number][] = [
  ["M42 122C41 144 40 158 40 174", 17],
  ["M40 174C40 190 40 204 41 216", 12],
  ["M58 122C59 144 60 158 60 174", 17],
  ["M60 174C60 190 60 204 59 216", 12],
];

const TRUNK =
  "M34 50C40 46 60 46 66 50C68 66 65 84 64 96C65 104 66 110 66 118L34 118C34 110 35 104 36 96C35 84 32 66 34 50Z";
const SHORTS = "M34 112L66 112C68 126 69 140 68 150L53 150L50 126L47 150L32 150C31 140 32 126 34 112Z";

export const SHAPES: Record<Face, Shape> = {
  front: {
    limbs: [...ARMS, ...LEGS, ["M41 220C39 225 37 228 36 230", 9], ["M59 220C61 225 63 228 64 230", 9]],
    cloth: [TRUNK],
    shorts: [SHORTS],
    marks: ["M44 58C47 61 53 61 56 58", "M36 172C38 178 42 178 44 172", "M56 172C58 178 62 178 64 172"],
    head: [50, 22, 11, 15],
  },
  back: {
    limbs: [...ARMS, ...LEGS, ["M41 220L41 229", 9], ["M59 220L59 229", 9]],
    cloth: [TRUNK],
    shorts: [SHORTS],
    marks: [
      "M50 46V108",
      "M40 58C38 66 41 72 45 74",
      "M60 58C62 66 59 72 55 74",
      "M36 176C38 174 42 174 44 176",
      "M56 176C58 174 62 174 64 176",
      "M41 205V216",
      "M59 205V216",
    ],
    head: [50, 22, 11, 15],
  },
  side: {
    limbs: [
      ["M48 122C50 144 52 158 53 174", 18],
      ["M53 174C51 190 50 204 49 216", 13],
      ["M49 222C56 227 62 229 66 229", 9],
      ["M47 56C46 74 46 90 47 104", 11],
      ["M47 104C51 116 55 124 58 134", 9],
      ["M59 138C60 142 61 145 61 148", 8],
    ],
    cloth: ["M42 48C50 45 58 50 59 60C61 76 58 92 59 118L37 118C36 108 40 100 39 90C36 74 36 56 42 48Z"],
    shorts: ["M37 110L59 110C63 124 64 140 63 152L41 152C36 140 34 124 37 110Z"],
    marks: ["M50 170C56 168 60 172 58 178"],
    head: [52, 22, 12, 15],
  },
};

/** Where each place stands on each view; what the body has twice stands on the view's right, and mirrored. */
export const SPOTS: Record<Face, Partial<Record<Place, [x: number, y: number]>>> = {
  front: {
    head: [50, 14],
    shoulder: [68, 54],
    chest: [50, 68],
    upper_arm: [75, 80],
    elbow: [80, 104],
    wrist: [84, 128],
    hand: [86, 146],
    hip_front: [60, 114],
    saddle: [50, 128],
    thigh_front: [61, 146],
    knee_front: [60, 174],
    knee_inside: [53, 181],
    knee_outside: [69, 181],
    shin: [60, 198],
    ankle: [58, 217],
    toes: [65, 231],
  },
  back: {
    neck: [50, 42],
    shoulder_blades: [50, 66],
    low_back: [50, 100],
    seat: [60, 136],
    thigh_back: [60, 156],
    knee_behind: [60, 175],
    calf: [60, 192],
    achilles: [59, 209],
    foot_sole: [59, 229],
  },
  side: {
    hip_outside: [46, 118],
    knee_outside: [52, 174],
    foot_ball: [60, 229],
  },
};
