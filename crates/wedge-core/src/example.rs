//! Complete examples of a rider on a bike, one for each kind of bar: made-up, in the proportions of the trade.

use crate::bike::{
    AeroBar, Bar, Cockpit, DropBar, FlatBar, Frame, Kind, Lever, Pedalling, Post, Residual, Saddle,
    Setup, Torques,
};
use crate::foresee::ForeseeInput;
use crate::rider::{Body, LegBody, Rider};
use crate::units::{Degrees, Kilograms, Millimetres, Sides};

/// Every example.
pub fn all() -> [ForeseeInput; 4] {
    [road(), time_trial(), flat_bar(), gravel()]
}

/// A rider of 1.78 m on a moderate road bike, saddle 749.1 straight along 73.5°: the rider of the sanity line.
pub fn road() -> ForeseeInput {
    let mm = Millimetres;
    let pedalling = Pedalling {
        crank_mm: mm(172.5),
        cleat_setback_mm: mm(12.0),
        pedal_stack_mm: mm(14.0),
        sole_mm: mm(8.0),
        footbed_mm: mm(0.0),
        shim_mm: mm(0.0),
        cleat_out_mm: Millimetres(0.0),
        cleat_rotation_deg: Degrees(0.0),
        cleat_wedge_deg: Degrees(0.0),
        cleat_float_deg: None,
        cleat_rearmost_mm: None,
        pedal_out_mm: Some(mm(148.0)),
        pedal_below_mm: Some(mm(9.0)),
    };
    ForeseeInput::new(
        Rider::new(
            Body {
                mass_kg: Some(Kilograms(75.0)),
                inseam_mm: Some(mm(845.5)),
                ..Body::new(mm(1780.0))
            },
            Sides::<LegBody>::default(),
        ),
        Kind::Road,
        Frame {
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
            tyre_mm: Some(mm(28.0)),
            sag_mm: None,
            standover_mm: Some(mm(795.0)),
            bike_mass_kg: None,
        },
        Setup {
            cockpit: Cockpit {
                cover_mm: mm(15.0),
                spacers_below_mm: mm(20.0),
                spacers_above_mm: mm(0.0),
                stem_clamp_mm: mm(40.0),
                stem_mm: mm(100.0),
                stem_angle_deg: Degrees(-6.0),
            },
            bar: Bar::Drop(DropBar {
                bar_width_mm: mm(420.0),
                bar_reach_mm: mm(80.0),
                bar_drop_mm: mm(125.0),
                bar_roll_deg: Degrees(0.0),
                hood_forward_mm: mm(25.0),
                hood_rise_mm: mm(15.0),
                drops_angle_deg: Some(Degrees(8.0)),
                ends_angle_deg: Some(Degrees(4.0)),
                ramp_angle_deg: Some(Degrees(-6.0)),
            }),
            saddle: Saddle {
                saddle_height_mm: mm(749.1),
                setback_mm: mm(212.8),
                tilt_deg: Degrees(0.0),
                saddle_length_mm: mm(272.0),
                nose_to_sit_mm: mm(150.0),
                nose_to_mark_mm: None,
                saddle_stack_mm: mm(45.0),
                saddle_top_mm: mm(0.0),
                rail_middle_mm: mm(10.0),
                saddle_width_mm: None,
                rail_mm: Some(mm(60.0)),
            },
            post: Post {
                post_setback_mm: Some(mm(20.0)),
                post_length_mm: Some(mm(350.0)),
                post_insertion_mm: Some(mm(100.0)),
            },
            pedalling: Sides::both(pedalling),
            levers: Sides::both(Lever::default()),
            torques: Torques::default(),
            residual: Residual::default(),
        },
    )
}

/// A rider of 1.76 m on pads: steep seat angle, 165 cranks.
pub fn time_trial() -> ForeseeInput {
    let mm = Millimetres;
    let mut input = road();
    input.kind = Kind::TimeTrial;
    input.rider.body.stature_mm = mm(1760.0);
    input.rider.body.inseam_mm = Some(mm(838.0));
    input.rider.body.mass_kg = Some(Kilograms(70.0));
    input.frame.frame_reach_mm = mm(412.0);
    input.frame.frame_stack_mm = mm(510.0);
    input.frame.head_angle_deg = Degrees(72.5);
    input.frame.head_tube_mm = mm(100.0);
    input.frame.seat_angle_deg = Degrees(78.0);
    input.frame.front_centre_mm = mm(602.0);
    input.setup.cockpit.spacers_below_mm = mm(10.0);
    input.setup.cockpit.stem_mm = mm(80.0);
    input.setup.cockpit.stem_angle_deg = Degrees(-17.0);
    input.setup.bar = Bar::Aero(AeroBar {
        bar_width_mm: mm(400.0),
        bar_reach_mm: mm(90.0),
        grip_rise_mm: mm(-15.0),
        pad_forward_mm: mm(10.0),
        pad_rise_mm: mm(55.0),
        pad_spacers_mm: mm(20.0),
        pad_forward_least_mm: None,
        pad_forward_most_mm: None,
        pad_length_mm: mm(110.0),
        pad_spacing_mm: mm(190.0),
        pad_tilt_deg: Degrees(8.0),
    });
    input.setup.saddle.saddle_height_mm = mm(752.0);
    input.setup.saddle.setback_mm = mm(130.0);
    input.setup.saddle.saddle_length_mm = mm(245.0);
    input.setup.saddle.nose_to_sit_mm = mm(110.0);
    input.setup.post.post_setback_mm = Some(mm(0.0));
    for side in crate::units::Side::BOTH {
        input.setup.pedalling.of_mut(side).crank_mm = mm(165.0);
    }
    input
}

/// A rider of 1.68 m on a town bike with a swept flat bar.
pub fn flat_bar() -> ForeseeInput {
    let mm = Millimetres;
    let mut input = road();
    input.kind = Kind::City;
    input.rider.body.stature_mm = mm(1680.0);
    input.rider.body.inseam_mm = Some(mm(786.0));
    input.rider.body.mass_kg = Some(Kilograms(68.0));
    input.frame.frame_reach_mm = mm(365.0);
    input.frame.frame_stack_mm = mm(600.0);
    input.frame.head_angle_deg = Degrees(70.5);
    input.frame.head_tube_mm = mm(160.0);
    input.frame.seat_angle_deg = Degrees(72.5);
    input.frame.seat_tube_mm = mm(460.0);
    input.frame.front_centre_mm = mm(625.0);
    input.frame.wheel_radius_mm = mm(350.0);
    input.frame.chainstay_mm = mm(450.0);
    input.frame.tyre_mm = Some(mm(42.0));
    input.frame.standover_mm = Some(mm(720.0));
    input.setup.cockpit.spacers_below_mm = mm(30.0);
    input.setup.cockpit.stem_mm = mm(80.0);
    input.setup.cockpit.stem_angle_deg = Degrees(10.0);
    input.setup.bar = Bar::Flat(FlatBar {
        flat_bar_width_mm: mm(640.0),
        bar_rise_mm: mm(30.0),
        backsweep_deg: Degrees(25.0),
        upsweep_deg: Degrees(3.0),
        bar_roll_deg: Degrees(0.0),
        grip_from_end_mm: mm(65.0),
        bend_from_centre_mm: mm(70.0),
    });
    input.setup.saddle.saddle_height_mm = mm(690.0);
    input.setup.saddle.setback_mm = mm(208.0);
    for side in crate::units::Side::BOTH {
        let pedalling = input.setup.pedalling.of_mut(side);
        pedalling.crank_mm = mm(170.0);
        pedalling.cleat_setback_mm = mm(25.0);
        pedalling.pedal_stack_mm = mm(16.0);
        pedalling.sole_mm = mm(14.0);
        pedalling.pedal_out_mm = Some(mm(165.0));
        pedalling.pedal_below_mm = Some(mm(14.0));
    }
    input
}

/// A rider of 1.82 m on a gravel bike: tall front, wide tyres, wide drop bar.
pub fn gravel() -> ForeseeInput {
    let mm = Millimetres;
    let mut input = road();
    input.kind = Kind::Gravel;
    input.rider.body.stature_mm = mm(1820.0);
    input.rider.body.inseam_mm = Some(mm(868.0));
    input.rider.body.mass_kg = Some(Kilograms(82.0));
    input.frame.frame_reach_mm = mm(394.0);
    input.frame.frame_stack_mm = mm(605.0);
    input.frame.head_angle_deg = Degrees(71.0);
    input.frame.head_tube_mm = mm(165.0);
    input.frame.chainstay_mm = mm(430.0);
    input.frame.front_centre_mm = mm(634.0);
    input.frame.wheel_radius_mm = mm(352.0);
    input.frame.tyre_mm = Some(mm(45.0));
    input.frame.standover_mm = Some(mm(818.0));
    input.setup.cockpit.stem_mm = mm(80.0);
    input.setup.saddle.saddle_height_mm = mm(770.0);
    input.setup.saddle.setback_mm = mm(219.0);
    input
        .setup
        .bar
        .set(crate::measure::Quantity::BarWidth, 460.0);
    input
        .setup
        .bar
        .set(crate::measure::Quantity::BarReach, 70.0);
    input
}

/// Asks something of a ride that is tried out, for the tests of every room.
#[cfg(test)]
pub(crate) fn trying<R>(input: &ForeseeInput, ask: impl FnOnce(&crate::foresee::Trying) -> R) -> R {
    let ride = input.check().unwrap();
    ask(&crate::foresee::Trying::of(&ride))
}
