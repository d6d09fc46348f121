//! Ordinary bikes to start typing from: made-up frames in the proportions of the trade. What comes from here is
//! typical, not measured, and is to be overwritten.

use super::{Cockpit, Frame, Pedalling};
use crate::units::{Degrees, Millimetres};
use serde::Serialize;

/// An ordinary bike of one size.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OrdinaryBike {
    /// Its made-up name.
    pub name: &'static str,
    /// The frame.
    pub frame: Frame,
    /// The front end.
    pub cockpit: Cockpit,
    /// Either side.
    pub pedalling: Pedalling,
    /// Saddle nose to tail.
    pub saddle_length_mm: Millimetres,
    /// Saddle nose to sit reference.
    pub nose_to_sit_mm: Millimetres,
    /// Saddle tilt.
    pub tilt_deg: Degrees,
}

/// Ordinary road bikes, small to large.
pub fn ordinary_bikes() -> Vec<OrdinaryBike> {
    // Name, reach, stack, head angle, head tube, seat angle, seat tube, front centre, stem, bar width, crank.
    [
        (
            "Weir 48", 366.0, 506.0, 71.0, 105.0, 74.5, 440.0, 572.0, 80.0, 380.0, 165.0,
        ),
        (
            "Weir 54", 384.0, 556.0, 72.5, 145.0, 73.5, 510.0, 588.0, 100.0, 420.0, 172.5,
        ),
        (
            "Weir 60", 402.0, 612.0, 73.5, 200.0, 73.0, 570.0, 612.0, 110.0, 440.0, 175.0,
        ),
    ]
    .map(
        |(name, reach, stack, head, head_tube, seat, seat_tube, front, stem, width, crank)| {
            let mm = Millimetres;
            OrdinaryBike {
                name,
                frame: Frame {
                    frame_reach_mm: mm(reach),
                    frame_stack_mm: mm(stack),
                    head_angle_deg: Degrees(head),
                    head_tube_mm: mm(head_tube),
                    seat_angle_deg: Degrees(seat),
                    seat_tube_mm: mm(seat_tube),
                    chainstay_mm: mm(412.0),
                    bb_drop_mm: mm(72.0),
                    front_centre_mm: mm(front),
                    wheel_radius_mm: mm(340.0),
                    lower_stack_mm: mm(5.0),
                    steerer_mm: None,
                },
                cockpit: Cockpit {
                    cover_mm: mm(15.0),
                    spacers_below_mm: mm(20.0),
                    spacers_above_mm: mm(0.0),
                    stem_clamp_mm: mm(40.0),
                    stem_mm: mm(stem),
                    stem_angle_deg: Degrees(-6.0),
                    bar_width_mm: mm(width),
                    bar_reach_mm: mm(80.0),
                    bar_drop_mm: mm(125.0),
                    bar_roll_deg: Degrees(0.0),
                    hood_forward_mm: mm(25.0),
                    hood_rise_mm: mm(15.0),
                },
                pedalling: Pedalling {
                    crank_mm: mm(crank),
                    cleat_setback_mm: mm(12.0),
                    pedal_stack_mm: mm(14.0),
                    sole_mm: mm(8.0),
                    shim_mm: mm(0.0),
                },
                saddle_length_mm: mm(272.0),
                nose_to_sit_mm: mm(150.0),
                tilt_deg: Degrees(0.0),
            }
        },
    )
    .to_vec()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn ordinary_bikes_are_within_what_is_allowed() {
        for bike in ordinary_bikes() {
            assert!(bike.frame.refusals("").is_empty(), "{}", bike.name);
            assert!(bike.cockpit.refusals("").is_empty(), "{}", bike.name);
            assert!(bike.pedalling.refusals("").is_empty(), "{}", bike.name);
        }
    }
}
