//! Ordinary bikes to start typing from: made-up frames in the proportions of the trade. What comes from here is
//! typical, not measured, and is to be overwritten.

use super::{
    AeroBar, Bar, Cockpit, DropBar, FlatBar, Frame, Kind, Pedalling, Post, Residual, Saddle, Setup,
    Torques,
};
use crate::units::{Degrees, Millimetres, Sides};
use serde::Serialize;

/// An ordinary bike of one size.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OrdinaryBike {
    /// Its made-up name.
    pub name: &'static str,
    /// The kind of riding.
    pub kind: Kind,
    /// The frame.
    pub frame: Frame,
    /// Head tube to bar clamp.
    pub cockpit: Cockpit,
    /// The bar.
    pub bar: Bar,
    /// Either side.
    pub pedalling: Pedalling,
    /// Saddle nose to tail.
    pub saddle_length_mm: Millimetres,
    /// Saddle nose to sit reference.
    pub nose_to_sit_mm: Millimetres,
    /// Saddle tilt.
    pub tilt_deg: Degrees,
}

impl OrdinaryBike {
    /// Its bolts and parts, the saddle nowhere in particular.
    pub fn setup(&self) -> Setup {
        let saddle = Saddle::new(self.tilt_deg, self.saddle_length_mm, self.nose_to_sit_mm);
        Setup {
            cockpit: self.cockpit,
            bar: self.bar,
            saddle,
            post: Post::default(),
            pedalling: Sides::both(self.pedalling),
            levers: Sides::default(),
            torques: Torques::default(),
            residual: Residual::default(),
        }
    }
}

/// Name, kind, reach, stack, head angle, head tube, seat angle, seat tube, chainstay, front centre, wheel radius, stem,
/// stem angle, crank, bar.
type Size = (&'static str, Kind, [f64; 9], (f64, f64), f64, Bar);

/// Ordinary bikes of every kind, small to large.
pub fn ordinary_bikes() -> Vec<OrdinaryBike> {
    let sizes: [Size; 11] = [
        (
            "Weir 48",
            Kind::Road,
            [366.0, 506.0, 71.0, 105.0, 74.5, 440.0, 412.0, 572.0, 340.0],
            (80.0, -6.0),
            165.0,
            drop(380.0, 80.0),
        ),
        (
            "Weir 54",
            Kind::Road,
            [384.0, 556.0, 72.5, 145.0, 73.5, 510.0, 412.0, 588.0, 340.0],
            (100.0, -6.0),
            172.5,
            drop(420.0, 80.0),
        ),
        (
            "Weir 60",
            Kind::Road,
            [402.0, 612.0, 73.5, 200.0, 73.0, 570.0, 412.0, 612.0, 340.0],
            (110.0, -6.0),
            175.0,
            drop(440.0, 80.0),
        ),
        (
            "Sluice 53",
            Kind::Race,
            [388.0, 535.0, 72.5, 125.0, 74.0, 495.0, 408.0, 585.0, 338.0],
            (110.0, -8.0),
            170.0,
            drop(400.0, 78.0),
        ),
        (
            "Levee S",
            Kind::Gravel,
            [378.0, 560.0, 70.5, 130.0, 74.0, 470.0, 430.0, 608.0, 352.0],
            (70.0, -6.0),
            170.0,
            drop(440.0, 70.0),
        ),
        (
            "Levee L",
            Kind::Gravel,
            [400.0, 615.0, 71.5, 180.0, 73.5, 540.0, 430.0, 640.0, 352.0],
            (80.0, -6.0),
            172.5,
            drop(460.0, 70.0),
        ),
        (
            "Towpath M",
            Kind::City,
            [365.0, 600.0, 70.5, 160.0, 72.5, 460.0, 450.0, 625.0, 350.0],
            (80.0, 10.0),
            170.0,
            flat(640.0, 30.0, 25.0),
        ),
        (
            "Culvert M",
            Kind::OffRoad,
            [445.0, 620.0, 66.0, 110.0, 76.0, 430.0, 435.0, 768.0, 365.0],
            (45.0, 0.0),
            170.0,
            flat(770.0, 25.0, 8.0),
        ),
        (
            "Culvert L",
            Kind::OffRoad,
            [470.0, 632.0, 66.0, 120.0, 76.0, 460.0, 437.0, 796.0, 365.0],
            (45.0, 0.0),
            170.0,
            flat(780.0, 30.0, 8.0),
        ),
        (
            "Spillway 54",
            Kind::TimeTrial,
            [412.0, 510.0, 72.5, 100.0, 78.0, 510.0, 405.0, 602.0, 338.0],
            (80.0, -17.0),
            165.0,
            aero(),
        ),
        (
            "Lock Gate M",
            Kind::Gravity,
            [455.0, 628.0, 63.0, 110.0, 77.0, 420.0, 440.0, 800.0, 365.0],
            (40.0, 0.0),
            165.0,
            flat(790.0, 40.0, 8.0),
        ),
    ];
    sizes.into_iter().map(ordinary).collect()
}

/// A fit stand for a rider of this stature: an ordinary road bike of that size whose stem lies level and which stands on half of
/// its spacers, so that saddle and front slide both ways. It has no frame to be limited by.
pub fn fit_stand(stature_mm: f64) -> OrdinaryBike {
    /// Whom the road bike it is made from fits.
    const MADE_FOR_MM: f64 = 1780.0;
    /// Half of its slides.
    const SPACERS_MM: f64 = 60.0;
    const STEM_MM: f64 = 90.0;
    let size = (stature_mm / MADE_FOR_MM).clamp(0.75, 1.2);
    let middle = |bike: &OrdinaryBike| bike.name == "Weir 54";
    let mut stand =
        (ordinary_bikes().into_iter().find(middle)).unwrap_or_else(|| ordinary_bikes()[0]);
    stand.name = "Fit stand";
    let raised = SPACERS_MM - stand.cockpit.spacers_below_mm.0;
    let (sin, cos) = stand.frame.head_angle_deg.sin_cos();
    let frame = &mut stand.frame;
    frame.frame_reach_mm = Millimetres((size * frame.frame_reach_mm.0 + raised * cos).round());
    frame.frame_stack_mm = Millimetres((size * frame.frame_stack_mm.0 - raised * sin).round());
    stand.cockpit.spacers_below_mm = Millimetres(SPACERS_MM);
    stand.cockpit.stem_mm = Millimetres(STEM_MM);
    stand.cockpit.stem_angle_deg = Degrees(frame.head_angle_deg.0 - 90.0);
    stand
}

fn ordinary((name, kind, frame, (stem, stem_angle), crank, bar): Size) -> OrdinaryBike {
    let mm = Millimetres;
    let [
        reach,
        stack,
        head,
        head_tube,
        seat,
        seat_tube,
        chainstay,
        front,
        wheel,
    ] = frame;
    let flat_pedals = matches!(kind, Kind::City | Kind::OffRoad | Kind::Gravity);
    OrdinaryBike {
        name,
        kind,
        frame: Frame {
            frame_reach_mm: mm(reach),
            frame_stack_mm: mm(stack),
            head_angle_deg: Degrees(head),
            head_tube_mm: mm(head_tube),
            seat_angle_deg: Degrees(seat),
            seat_tube_mm: mm(seat_tube),
            chainstay_mm: mm(chainstay),
            bb_drop_mm: mm(if matches!(kind, Kind::OffRoad | Kind::Gravity) {
                40.0
            } else {
                72.0
            }),
            front_centre_mm: mm(front),
            wheel_radius_mm: mm(wheel),
            lower_stack_mm: mm(5.0),
            steerer_mm: None,
            tyre_mm: None,
            sag_mm: None,
            standover_mm: None,
            bike_mass_kg: None,
        },
        cockpit: Cockpit {
            cover_mm: mm(15.0),
            spacers_below_mm: mm(20.0),
            spacers_above_mm: mm(0.0),
            stem_clamp_mm: mm(40.0),
            stem_mm: mm(stem),
            stem_angle_deg: Degrees(stem_angle),
        },
        bar,
        pedalling: Pedalling {
            crank_mm: mm(crank),
            cleat_setback_mm: mm(if flat_pedals { 20.0 } else { 12.0 }),
            pedal_stack_mm: mm(if flat_pedals { 16.0 } else { 14.0 }),
            sole_mm: mm(if flat_pedals { 12.0 } else { 8.0 }),
            footbed_mm: mm(0.0),
            shim_mm: mm(0.0),
            cleat_out_mm: Millimetres(0.0),
            cleat_rotation_deg: Degrees(0.0),
            cleat_wedge_deg: Degrees(0.0),
            cleat_float_deg: None,
            cleat_rearmost_mm: None,
            pedal_out_mm: None,
            pedal_below_mm: None,
        },
        saddle_length_mm: mm(if kind == Kind::TimeTrial {
            245.0
        } else {
            272.0
        }),
        nose_to_sit_mm: mm(if kind == Kind::TimeTrial {
            110.0
        } else {
            150.0
        }),
        tilt_deg: Degrees(0.0),
    }
}

fn drop(width: f64, reach: f64) -> Bar {
    Bar::Drop(DropBar {
        bar_width_mm: Millimetres(width),
        bar_reach_mm: Millimetres(reach),
        bar_drop_mm: Millimetres(125.0),
        bar_roll_deg: Degrees(0.0),
        hood_forward_mm: Millimetres(25.0),
        hood_rise_mm: Millimetres(15.0),
        drops_angle_deg: None,
        ends_angle_deg: None,
        ramp_angle_deg: None,
    })
}

fn flat(width: f64, rise: f64, backsweep: f64) -> Bar {
    Bar::Flat(FlatBar {
        flat_bar_width_mm: Millimetres(width),
        bar_rise_mm: Millimetres(rise),
        backsweep_deg: Degrees(backsweep),
        upsweep_deg: Degrees(4.0),
        bar_roll_deg: Degrees(0.0),
        grip_from_end_mm: Millimetres(65.0),
        bend_from_centre_mm: Millimetres(70.0),
    })
}

fn aero() -> Bar {
    Bar::Aero(AeroBar {
        bar_width_mm: Millimetres(400.0),
        bar_reach_mm: Millimetres(90.0),
        grip_rise_mm: Millimetres(-15.0),
        pad_forward_mm: Millimetres(10.0),
        pad_rise_mm: Millimetres(55.0),
        pad_spacers_mm: Millimetres(20.0),
        pad_forward_least_mm: None,
        pad_forward_most_mm: None,
        pad_length_mm: Millimetres(110.0),
        pad_spacing_mm: Millimetres(190.0),
        pad_tilt_deg: Degrees(8.0),
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn ordinary_bikes_are_within_what_is_allowed() {
        for bike in ordinary_bikes() {
            assert!(bike.frame.refusals("").is_empty(), "{}", bike.name);
            assert!(bike.cockpit.refusals("").is_empty(), "{}", bike.name);
            assert!(bike.bar.refusals("").is_empty(), "{}", bike.name);
            assert!(bike.pedalling.refusals("").is_empty(), "{}", bike.name);
        }
    }

    #[test]
    fn every_kind_of_riding_has_one() {
        for kind in Kind::ALL {
            assert!(ordinary_bikes().iter().any(|b| b.kind == kind), "{kind:?}");
        }
    }
}
