//! The bar: what the hands hold, or the elbows rest on.

use crate::measure::{Convention, Quantity, Refusal, Spot, measured};
use crate::plane::Point;
use crate::rule::rules;
use crate::units::{Degrees, Millimetres};
use serde::{Deserialize, Serialize};

/// Where the hands are. Angles of the upper body belong to one.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum HandPlace {
    /// On the hoods of a drop bar.
    Hoods,
    /// On the tops of a drop bar.
    Tops,
    /// In the drops.
    Drops,
    /// On the grips of a flat bar or a base bar.
    Grips,
    /// Elbows on the pads.
    Pads,
}

impl HandPlace {
    /// The fitter's word.
    pub fn word(self) -> &'static str {
        match self {
            Self::Hoods => "hoods",
            Self::Tops => "tops",
            Self::Drops => "drops",
            Self::Grips => "grips",
            Self::Pads => "pads",
        }
    }
}

/// The kinds of bars.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum BarKind {
    /// A drop bar with hoods.
    Drop,
    /// A flat or risen bar with grips.
    Flat,
    /// A base bar with pads.
    Aero,
}

measured! {
    /// A drop bar with its hoods. The angles of its parts are those to the bar's reach, for conversions of bar roll.
    pub struct DropBar {
        /// Centre to centre at the hoods.
        bar_width_mm: Millimetres = BarWidth,
        /// Bar clamp centre forward to the bend.
        bar_reach_mm: Millimetres = BarReach,
        /// Bar top down to the drops.
        bar_drop_mm: Millimetres = BarDrop,
        /// Angle of the bar's reach to the horizontal, front up.
        bar_roll_deg: Degrees = BarRoll,
        /// Hood's hand point ahead of the bend.
        hood_forward_mm: Millimetres = HoodForward,
        /// Hood's hand point above the bend.
        hood_rise_mm: Millimetres = HoodRise,
        /// Lower part of the drops against the bar's reach, front up.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        drops_angle_deg: Option<Degrees> = DropsAngle,
        /// Upright ends of the drops against the upright to the bar's reach, top forward negative.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        ends_angle_deg: Option<Degrees> = EndsAngle,
        /// The ramp against the bar's reach, front up.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        ramp_angle_deg: Option<Degrees> = RampAngle,
    }
}

measured! {
    /// A flat or risen bar.
    pub struct FlatBar {
        /// End to end along the bar's width, as sold.
        flat_bar_width_mm: Millimetres = FlatWidth,
        /// Clamp centre up to the grips, before upsweep.
        bar_rise_mm: Millimetres = BarRise,
        /// Angle of the grips backwards.
        backsweep_deg: Degrees = Backsweep,
        /// Angle of the grips upwards.
        upsweep_deg: Degrees = Upsweep,
        /// Roll about the clamp, front up.
        bar_roll_deg: Degrees = BarRoll,
        /// Grip's centre from the end of the bar.
        #[serde(default = "grip_from_end")]
        grip_from_end_mm: Millimetres = GripFromEnd,
        /// Where the bend starts, from the bar's centre.
        #[serde(default = "bend_from_centre")]
        bend_from_centre_mm: Millimetres = BendFromCentre,
    }
}

fn grip_from_end() -> Millimetres {
    Millimetres(65.0)
}

fn bend_from_centre() -> Millimetres {
    Millimetres(70.0)
}

measured! {
    /// A base bar with pads. The pads stand on the bar clamp and do not turn with the bar.
    pub struct AeroBar {
        /// Centre to centre of the base bar's grips.
        bar_width_mm: Millimetres = BarWidth,
        /// Bar clamp centre forward to the base bar's grips.
        bar_reach_mm: Millimetres = BarReach,
        /// Base bar's grips above the clamp centre.
        grip_rise_mm: Millimetres = GripRise,
        /// Bar clamp centre forward to the pads' centre.
        pad_forward_mm: Millimetres = PadForward,
        /// As far back as their slots let them go, where somebody looked.
        pad_forward_least_mm: Option<Millimetres> = PadForwardLeast,
        /// As far ahead.
        pad_forward_most_mm: Option<Millimetres> = PadForwardMost,
        /// Bar clamp centre up to the pads' surface, without spacers.
        pad_rise_mm: Millimetres = PadRise,
        /// Spacers under the pads.
        pad_spacers_mm: Millimetres = PadSpacers,
        /// Rear edge to front edge.
        pad_length_mm: Millimetres = PadLength,
        /// Centre to centre.
        pad_spacing_mm: Millimetres = PadSpacing,
        /// Tilt of pads and extensions, front up.
        pad_tilt_deg: Degrees = PadTilt,
    }
}

/// A bar of one kind.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Bar {
    /// A drop bar with hoods.
    Drop(DropBar),
    /// A flat or risen bar with grips.
    Flat(FlatBar),
    /// A base bar with pads.
    Aero(AeroBar),
}

/// Where the elbow rests on a pad: 30 mm behind its centre, and the joint 35 mm above the surface.
const ELBOW_OVER_PAD: Point = Point::new(-30.0, 35.0);
rules! {
    rules "Bike";
    /// The tops are held about as far ahead of the clamp centre as a finger is thick.
    const TOPS_FORWARD_MM: f64 = 10.0, " mm", House;
    /// A hand in the drops holds the bar this far behind the bend.
    const DROPS_BEHIND_BEND_MM: f64 = 25.0, " mm", House;
}
/// The end of the drops lies this far behind the bend (drawing only).
const END_BEHIND_BEND_MM: f64 = 60.0;

/// The bar's points, from the bar clamp centre.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub(crate) struct BarPoints {
    pub(crate) bend: Option<Point>,
    pub(crate) end: Option<Point>,
    pub(crate) hood: Option<Point>,
    pub(crate) tops: Option<Point>,
    pub(crate) drops: Option<Point>,
    pub(crate) grip: Option<Point>,
    pub(crate) pad: Option<Point>,
    pub(crate) pad_rear: Option<Point>,
    pub(crate) pad_front: Option<Point>,
    pub(crate) elbow: Option<Point>,
}

impl Bar {
    /// Its kind.
    pub fn kind(&self) -> BarKind {
        match self {
            Self::Drop(_) => BarKind::Drop,
            Self::Flat(_) => BarKind::Flat,
            Self::Aero(_) => BarKind::Aero,
        }
    }

    /// The value of a quantity held here.
    pub fn get(&self, quantity: Quantity) -> Option<f64> {
        match self {
            Self::Drop(bar) => bar.get(quantity),
            Self::Flat(bar) => bar.get(quantity),
            Self::Aero(bar) => bar.get(quantity),
        }
    }

    /// Sets a quantity held here; `false` if it is not held here.
    pub fn set(&mut self, quantity: Quantity, value: f64) -> bool {
        match self {
            Self::Drop(bar) => bar.set(quantity, value),
            Self::Flat(bar) => bar.set(quantity, value),
            Self::Aero(bar) => bar.set(quantity, value),
        }
    }

    /// The quantities held here, in the order they are asked for.
    pub fn quantities(&self) -> &'static [Quantity] {
        self.kind().quantities()
    }

    /// Everything here that is outside what is allowed, each with its JSON pointer below `at`.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        match self {
            Self::Drop(bar) => bar.refusals(&format!("{at}/drop")),
            Self::Flat(bar) => {
                let mut all = bar.refusals(&format!("{at}/flat"));
                let half = bar.flat_bar_width_mm.0 / 2.0;
                if all.is_empty() && half < bar.grip_from_end_mm.0 + bar.bend_from_centre_mm.0 {
                    all.push(Refusal::new(
                        format!("{at}/flat/flat_bar_width_mm"),
                        "The bar ends before its grips begin: check width, grip centre and bend",
                    ));
                }
                all
            }
            Self::Aero(bar) => bar.refusals(&format!("{at}/aero")),
        }
    }

    /// The spot lengths are taken to on this bar.
    pub fn main_spot(&self) -> Spot {
        self.kind().main_spot()
    }

    /// Clamp centre to the spot lengths are taken to.
    pub(crate) fn hand_offset(&self) -> Point {
        let points = self.points();
        let spot = match self.main_spot() {
            Spot::Grip => points.grip,
            Spot::PadCentre => points.pad,
            _ => points.hood,
        };
        spot.unwrap_or_default()
    }

    /// Where the hands can be, the main place first.
    pub fn places(&self) -> &'static [HandPlace] {
        self.kind().places()
    }

    /// A refusal of a place of the hands this bar has not, pointing at `pointer`.
    pub fn refuse_place(&self, place: HandPlace, pointer: &str) -> Option<Refusal> {
        (!self.places().contains(&place))
            .then(|| Refusal::new(pointer, format!("This bar has no {}", place.word())))
    }

    /// Distance between the hands (between the elbows on pads).
    pub(crate) fn spacing(&self, place: HandPlace) -> Millimetres {
        match (self, place) {
            // Tops are held about as wide as the shoulders are: a third in from the hoods (house choice).
            (Self::Drop(bar), HandPlace::Tops) => bar.bar_width_mm * (2.0 / 3.0),
            (Self::Drop(bar), _) => bar.bar_width_mm,
            (Self::Flat(bar), _) => bar.flat_bar_width_mm - bar.grip_from_end_mm * 2.0,
            (Self::Aero(bar), HandPlace::Pads) => bar.pad_spacing_mm,
            (Self::Aero(bar), _) => bar.bar_width_mm,
        }
    }

    /// Tilt of the forearms on the pads.
    pub(crate) fn forearm_tilt(&self) -> Degrees {
        match self {
            Self::Aero(bar) => bar.pad_tilt_deg,
            _ => Degrees(0.0),
        }
    }

    /// Its points, from the bar clamp centre.
    pub(crate) fn points(&self) -> BarPoints {
        match self {
            Self::Drop(bar) => {
                let on_bar = |x: f64, y: f64| Some(Point::new(x, y).turned(bar.bar_roll_deg));
                let (reach, drop) = (bar.bar_reach_mm.0, bar.bar_drop_mm.0);
                BarPoints {
                    bend: on_bar(reach, 0.0),
                    end: on_bar(reach - END_BEHIND_BEND_MM, -drop),
                    hood: on_bar(reach + bar.hood_forward_mm.0, bar.hood_rise_mm.0),
                    tops: on_bar(TOPS_FORWARD_MM, 0.0),
                    drops: on_bar(reach - DROPS_BEHIND_BEND_MM, -drop),
                    ..BarPoints::default()
                }
            }
            // Grips: rise up; back by (half width − grip from end − bend) × sin(backsweep), upsweep likewise; turned
            // by roll.
            Self::Flat(bar) => {
                let swept = bar.flat_bar_width_mm.0 / 2.0
                    - bar.grip_from_end_mm.0
                    - bar.bend_from_centre_mm.0;
                let back = swept * bar.backsweep_deg.sin_cos().0;
                let up = bar.bar_rise_mm.0 + swept * bar.upsweep_deg.sin_cos().0;
                BarPoints {
                    bend: Some(Point::new(0.0, bar.bar_rise_mm.0).turned(bar.bar_roll_deg)),
                    grip: Some(Point::new(-back, up).turned(bar.bar_roll_deg)),
                    ..BarPoints::default()
                }
            }
            Self::Aero(bar) => {
                let pad = Point::new(
                    bar.pad_forward_mm.0,
                    bar.pad_rise_mm.0 + bar.pad_spacers_mm.0,
                );
                let half = Point::polar(bar.pad_length_mm * 0.5, bar.pad_tilt_deg);
                BarPoints {
                    grip: Some(Point::new(bar.bar_reach_mm.0, bar.grip_rise_mm.0)),
                    pad: Some(pad),
                    pad_rear: Some(pad - half),
                    pad_front: Some(pad + half),
                    elbow: Some(pad + ELBOW_OVER_PAD),
                    ..BarPoints::default()
                }
            }
        }
    }

    /// Bar roll in a convention; `None` where the bar has no such part or its angle is not known.
    pub fn roll(&self, convention: Convention) -> Option<f64> {
        let roll = self.get(Quantity::BarRoll)?;
        Some(roll + self.roll_offset(convention)?)
    }

    /// The stored bar roll of a reading in a convention: the way back from [`Self::roll`].
    pub fn roll_from(&self, convention: Convention, value: f64) -> Option<f64> {
        Some(value - self.roll_offset(convention)?)
    }

    fn roll_offset(&self, convention: Convention) -> Option<f64> {
        match (convention, self) {
            (Convention::BarRollReach, Self::Drop(_) | Self::Flat(_)) => Some(0.0),
            (Convention::BarRollDrops, Self::Drop(bar)) => bar.drops_angle_deg.map(|a| a.0),
            (Convention::BarRollEnds, Self::Drop(bar)) => bar.ends_angle_deg.map(|a| a.0),
            (Convention::BarRollRamp, Self::Drop(bar)) => bar.ramp_angle_deg.map(|a| a.0),
            _ => None,
        }
    }
}

impl BarKind {
    /// Every kind.
    pub const ALL: [Self; 3] = [Self::Drop, Self::Flat, Self::Aero];

    /// The quantities of such a bar, in the order they are asked for.
    pub fn quantities(self) -> &'static [Quantity] {
        match self {
            Self::Drop => DropBar::QUANTITIES,
            Self::Flat => FlatBar::QUANTITIES,
            Self::Aero => AeroBar::QUANTITIES,
        }
    }

    /// The spot lengths are taken to on such a bar.
    fn main_spot(self) -> Spot {
        match self {
            Self::Drop => Spot::Hood,
            Self::Flat => Spot::Grip,
            Self::Aero => Spot::PadCentre,
        }
    }

    /// Whether a length can be read so on such a bar: it may end at no spot that only another kind has.
    pub fn reads(self, convention: Convention) -> bool {
        let spot = self.main_spot();
        convention.hand_line().is_none_or(|line| match line.to {
            Spot::Clamp | Spot::BarTop => true,
            Spot::PadRear => spot == Spot::PadCentre,
            other => other == spot,
        })
    }

    /// Where the hands can be, the main place first.
    pub fn places(self) -> &'static [HandPlace] {
        match self {
            Self::Drop => &[HandPlace::Hoods, HandPlace::Tops, HandPlace::Drops],
            Self::Flat => &[HandPlace::Grips],
            Self::Aero => &[HandPlace::Pads, HandPlace::Grips],
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn flat() -> FlatBar {
        FlatBar {
            flat_bar_width_mm: Millimetres(760.0),
            bar_rise_mm: Millimetres(20.0),
            backsweep_deg: Degrees(30.0),
            upsweep_deg: Degrees(0.0),
            bar_roll_deg: Degrees(0.0),
            grip_from_end_mm: grip_from_end(),
            bend_from_centre_mm: bend_from_centre(),
        }
    }

    #[test]
    fn golden_grip_of_a_swept_bar() {
        // Half width 380 − 65 − 70 = 245 swept; back 245 × sin 30° = 122.5; up 20. Hands 760 − 130 = 630 apart.
        let bar = Bar::Flat(flat());
        let grip = bar.points().grip.unwrap();
        assert!(grip.distance(Point::new(-122.5, 20.0)) < 1e-9);
        assert!((bar.spacing(HandPlace::Grips).0 - 630.0).abs() < 1e-9);
        // Rolled 90° front up, (−122.5, 20) turns to (−20, −122.5).
        let rolled = Bar::Flat(FlatBar {
            bar_roll_deg: Degrees(90.0),
            ..flat()
        });
        let grip = rolled.points().grip.unwrap();
        assert!(grip.distance(Point::new(-20.0, -122.5)) < 1e-9);
    }

    #[test]
    fn golden_pads() {
        // Centre 40 ahead, 60 + 25 up; level, 120 long: rear edge (−20, 85), front (100, 85); elbow (10, 120).
        let points = Bar::Aero(AeroBar {
            bar_width_mm: Millimetres(400.0),
            bar_reach_mm: Millimetres(60.0),
            grip_rise_mm: Millimetres(-20.0),
            pad_forward_mm: Millimetres(40.0),
            pad_rise_mm: Millimetres(60.0),
            pad_spacers_mm: Millimetres(25.0),
            pad_forward_least_mm: None,
            pad_forward_most_mm: None,
            pad_length_mm: Millimetres(120.0),
            pad_spacing_mm: Millimetres(180.0),
            pad_tilt_deg: Degrees(0.0),
        })
        .points();
        assert!(points.pad_rear.unwrap().distance(Point::new(-20.0, 85.0)) < 1e-9);
        assert!(points.pad_front.unwrap().distance(Point::new(100.0, 85.0)) < 1e-9);
        assert!(points.elbow.unwrap().distance(Point::new(10.0, 120.0)) < 1e-9);
        assert!(points.grip.unwrap().distance(Point::new(60.0, -20.0)) < 1e-9);
    }

    #[test]
    fn bar_roll_converts_there_and_back_where_the_part_is_known() {
        let crate::bike::Bar::Drop(mut bar) = crate::example::road().setup.bar else {
            panic!("the road example has a drop bar");
        };
        bar.bar_roll_deg = Degrees(3.0);
        bar.ramp_angle_deg = Some(Degrees(-8.0));
        bar.drops_angle_deg = None;
        let bar = Bar::Drop(bar);
        // A ramp 8° below the reach on a bar rolled 3° up lies 5° below the horizontal.
        assert_eq!(bar.roll(Convention::BarRollRamp), Some(-5.0));
        assert_eq!(bar.roll_from(Convention::BarRollRamp, -5.0), Some(3.0));
        assert_eq!(bar.roll(Convention::BarRollDrops), None);
        assert_eq!(Bar::Flat(flat()).roll(Convention::BarRollRamp), None);
    }

    #[test]
    fn a_bar_that_ends_before_its_grips_is_refused() {
        let short = Bar::Flat(FlatBar {
            flat_bar_width_mm: Millimetres(400.0),
            grip_from_end_mm: Millimetres(140.0),
            ..flat()
        });
        assert_eq!(
            short.refusals("/bar")[0].pointer,
            "/bar/flat/flat_bar_width_mm"
        );
        assert!(Bar::Flat(flat()).refusals("").is_empty());
    }
}
