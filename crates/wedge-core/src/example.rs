//! A complete road example: the bike and rider of the sanity line.

use crate::bike::{Cockpit, Frame, Kind, Pedalling, Residual, Saddle, Setup};
use crate::foresee::{ForeseeInput, Observations, Rider};
use crate::measure::Conventions;
use crate::rider::{Body, LegBody};
use crate::units::{Degrees, Kilograms, Millimetres, Sides};

/// A rider of 1.78 m on a moderate road bike, saddle 749.1 straight along 73.5°.
pub fn road() -> ForeseeInput {
    let mm = Millimetres;
    let pedalling = Pedalling {
        crank_mm: mm(172.5),
        cleat_setback_mm: mm(12.0),
        pedal_stack_mm: mm(14.0),
        sole_mm: mm(8.0),
        shim_mm: mm(0.0),
    };
    ForeseeInput {
        rider: Rider::new(
            Body {
                stature_mm: mm(1780.0),
                mass_kg: Some(Kilograms(75.0)),
                inseam_mm: Some(mm(845.5)),
                trunk_mm: None,
                shoulder_breadth_mm: None,
                upper_arm_mm: None,
                forearm_mm: None,
            },
            Sides::<LegBody>::default(),
        ),
        kind: Kind::Road,
        frame: Frame {
            frame_reach_mm: mm(385.0),
            frame_stack_mm: mm(565.0),
            head_angle_deg: Degrees(73.0),
            head_tube_mm: mm(150.0),
            seat_angle_deg: Degrees(73.5),
            seat_tube_mm: mm(520.0),
            chainstay_mm: mm(412.0),
            bb_drop_mm: mm(70.0),
            front_centre_mm: mm(592.0),
            wheel_radius_mm: mm(340.0),
            lower_stack_mm: mm(5.0),
            steerer_mm: None,
        },
        setup: Setup {
            cockpit: Cockpit {
                cover_mm: mm(15.0),
                spacers_below_mm: mm(20.0),
                spacers_above_mm: mm(0.0),
                stem_clamp_mm: mm(40.0),
                stem_mm: mm(100.0),
                stem_angle_deg: Degrees(-6.0),
                bar_width_mm: mm(420.0),
                bar_reach_mm: mm(80.0),
                bar_drop_mm: mm(125.0),
                bar_roll_deg: Degrees(0.0),
                hood_forward_mm: mm(25.0),
                hood_rise_mm: mm(15.0),
            },
            saddle: Saddle {
                saddle_height_mm: mm(749.1),
                setback_mm: mm(212.8),
                tilt_deg: Degrees(0.0),
                saddle_length_mm: mm(272.0),
                nose_to_sit_mm: mm(150.0),
            },
            pedalling: Sides::both(pedalling),
            residual: Residual::default(),
        },
        effort: None,
        observed: Observations::default(),
        conventions: Conventions::default(),
        changes: Vec::new(),
    }
}
