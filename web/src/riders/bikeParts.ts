/** What a bike is typed in with, group by group in the order of the form. */
import type { Quantity } from "../api/types";

/** Where each group of quantities stands in a new bike. */
export const GROUPS = [
  {
    at: "frame",
    title: "Frame",
    keys: [
      "frame_reach_mm",
      "frame_stack_mm",
      "head_angle_deg",
      "head_tube_mm",
      "seat_angle_deg",
      "seat_tube_mm",
      "chainstay_mm",
      "bb_drop_mm",
      "front_centre_mm",
      "wheel_radius_mm",
      "lower_stack_mm",
      "steerer_mm",
    ],
  },
  {
    at: "cockpit",
    title: "Front end",
    keys: [
      "stem_mm",
      "stem_angle_deg",
      "spacers_below_mm",
      "spacers_above_mm",
      "cover_mm",
      "stem_clamp_mm",
      "bar_width_mm",
      "bar_reach_mm",
      "bar_drop_mm",
      "bar_roll_deg",
      "hood_forward_mm",
      "hood_rise_mm",
    ],
  },
  { at: "saddle", title: "Saddle", keys: ["saddle_length_mm", "nose_to_sit_mm", "tilt_deg"] },
  {
    at: "pedalling",
    title: "Cranks, pedals and shoes, both sides",
    keys: ["crank_mm", "cleat_setback_mm", "pedal_stack_mm", "sole_mm", "shim_mm"],
  },
] as const satisfies { at: string; title: string; keys: Quantity[] }[];

/** The quantities of the frame. */
export const FRAME = GROUPS[0].keys;
