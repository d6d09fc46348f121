//! Where everything of the bike stands: contact points, and what a drawing needs besides.

use super::perch::clamp_at;
use super::{Frame, HandPlace, Placed};
use crate::measure::{Along, From, HandLine, Spot};
use crate::plane::Point;
use crate::rule::rules;
use crate::units::{Degrees, Millimetres};
use serde::{Deserialize, Serialize};

/// The points of a bike, from the BB centre. What a kind of bar does not have is left out.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BikePoints {
    /// Where the rider sits: the sit reference.
    pub sit: Point,
    /// The saddle's highest point.
    pub saddle_top: Point,
    /// Saddle nose.
    pub saddle_nose: Point,
    /// Saddle tail.
    pub saddle_tail: Point,
    /// The saddle clamp on its post: the pivot of tilt.
    pub saddle_clamp: Point,
    /// Where the post leaves the seat tube.
    pub post_clamp: Point,
    /// Rear axle.
    pub rear_axle: Point,
    /// Front axle.
    pub front_axle: Point,
    /// Wheel radius, tyre on.
    pub wheel_radius_mm: Millimetres,
    /// Height of the ground.
    pub ground_mm: Millimetres,
    /// Top centre of the head tube.
    pub head_top: Point,
    /// Bottom centre of the head tube.
    pub head_bottom: Point,
    /// Where the stem leaves the steerer.
    pub stem_root: Point,
    /// Top of everything on the steerer.
    pub steerer_top: Point,
    /// Bar clamp centre.
    pub bar_clamp: Point,
    /// Highest point of the bar at the clamp.
    pub bar_top: Point,
    /// The bend: at the end of a drop bar's reach, or where a flat bar's rise ends.
    pub bar_bend: Option<Point>,
    /// End of the drops.
    pub bar_end: Option<Point>,
    /// The hand point on the hoods.
    pub hood: Option<Point>,
    /// The hand point on the tops.
    pub tops: Option<Point>,
    /// The hand point in the drops.
    pub drops: Option<Point>,
    /// The middle between the grips.
    pub grip: Option<Point>,
    /// The pads' centre.
    pub pad: Option<Point>,
    /// The pads' rear edge.
    pub pad_rear: Option<Point>,
    /// The pads' front edge.
    pub pad_front: Option<Point>,
    /// Where the elbow rests over the pad.
    pub pad_elbow: Option<Point>,
    /// Where the main lengths go: hood, grip or the pad's centre, as taped where taped.
    pub hand: Point,
}

rules! {
    rules "Bike";
    /// Radius of a bar at its clamp: 31.8 mm across.
    const BAR_RADIUS_MM: f64 = 15.9, " mm", Workshop;
}

impl BikePoints {
    /// Stands a setup on its frame.
    pub fn of(frame: &Frame, setup: &Placed) -> Self {
        let sit = setup.sit();
        let cockpit = &setup.cockpit;
        let saddle_axis = Point::polar(Millimetres(1.0), setup.saddle.tilt_deg);
        let nose = sit + saddle_axis * setup.saddle.nose_to_sit_mm.0;

        let axis = frame.steerer_axis();
        let head_top = frame.head_top();
        let below = cockpit.cover_mm.0 + cockpit.spacers_below_mm.0;
        let stem_root = head_top + axis * (below + cockpit.stem_clamp_mm.0 / 2.0);
        let steerer_top =
            head_top + axis * (below + cockpit.stem_clamp_mm.0 + cockpit.spacers_above_mm.0);
        // The stem leaves at 90 − θ + α above horizontal.
        let bar_clamp = stem_root
            + Point::polar(
                cockpit.stem_mm,
                Degrees(90.0) - frame.head_angle_deg + cockpit.stem_angle_deg,
            )
            + setup.residual.offset();
        let bar = setup.bar.points();
        let at = |point: Option<Point>| point.map(|p| bar_clamp + p);

        Self {
            sit,
            saddle_top: sit + Point::new(0.0, setup.saddle.saddle_top_mm.0),
            saddle_nose: nose,
            saddle_tail: nose - saddle_axis * setup.saddle.saddle_length_mm.0,
            saddle_clamp: clamp_at(frame, setup),
            post_clamp: frame.post_axis() * frame.seat_tube_mm.0,
            rear_axle: frame.rear_axle(),
            front_axle: frame.front_axle(),
            wheel_radius_mm: frame.wheel_radius_mm,
            ground_mm: Millimetres(frame.bb_drop_mm.0 - frame.wheel_radius_mm.0),
            head_top,
            head_bottom: head_top - axis * frame.head_tube_mm.0,
            stem_root,
            steerer_top,
            bar_clamp,
            bar_top: bar_clamp + Point::new(0.0, BAR_RADIUS_MM),
            bar_bend: at(bar.bend),
            bar_end: at(bar.end),
            hood: at(bar.hood),
            tops: at(bar.tops),
            drops: at(bar.drops),
            grip: at(bar.grip),
            pad: at(bar.pad),
            pad_rear: at(bar.pad_rear),
            pad_front: at(bar.pad_front),
            pad_elbow: at(bar.elbow),
            hand: bar_clamp + setup.bar.hand_offset(),
        }
    }

    /// A spot of the front end; `None` where the bar has none.
    pub fn spot(&self, spot: Spot) -> Option<Point> {
        match spot {
            Spot::Clamp => Some(self.bar_clamp),
            Spot::BarTop => Some(self.bar_top),
            Spot::Hood => self.hood,
            Spot::Grip => self.grip,
            Spot::PadRear => self.pad_rear,
            Spot::PadCentre => self.pad,
        }
    }

    /// Where the hands are (the elbows, on pads); `None` where the bar has no such place.
    pub fn place(&self, place: HandPlace) -> Option<Point> {
        match place {
            HandPlace::Hoods => self.hood,
            HandPlace::Tops => self.tops,
            HandPlace::Drops => self.drops,
            HandPlace::Grips => self.grip,
            HandPlace::Pads => self.pad_elbow,
        }
    }

    /// Where a length of the front end starts. `sit` is the reference the fitter chose.
    fn start(&self, from: From, sit: Point) -> Point {
        match from {
            From::Bb => Point::default(),
            From::Sit => sit,
            From::Nose => self.saddle_nose,
            From::Top => self.saddle_top,
        }
    }

    /// The length of a line of the front end; `None` where the bar has no such spot.
    pub fn length(&self, line: HandLine, sit: Point) -> Option<Millimetres> {
        let span = self.spot(line.to)? - self.start(line.from, sit);
        Some(Millimetres(match line.along {
            Along::Level => span.x,
            Along::Up => span.y,
            Along::Down => -span.y,
            Along::Straight => span.length(),
        }))
    }

    /// How far the bar must move for a line of the front end to read `value`: the way back from [`Self::length`],
    /// forward for level and straight lines, up for the others. `None` where the bar has no such spot, or a straight
    /// line is shorter than its rise.
    pub fn bar_move(&self, line: HandLine, sit: Point, value: f64) -> Option<Point> {
        let start = self.start(line.from, sit);
        let to = self.spot(line.to)?;
        Some(match line.along {
            Along::Level => Point::new(start.x + value - to.x, 0.0),
            Along::Up => Point::new(0.0, start.y + value - to.y),
            Along::Down => Point::new(0.0, start.y - value - to.y),
            Along::Straight => {
                let level = value * value - (to.y - start.y).powi(2);
                if level < 0.0 {
                    return None;
                }
                Point::new(start.x + level.sqrt() - to.x, 0.0)
            }
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::bike::Setup;
    use crate::example;
    use crate::measure::Convention;
    use proptest::prelude::*;

    fn stand(change: impl FnOnce(&mut Frame, &mut Setup)) -> BikePoints {
        let mut input = example::road();
        input.frame.head_angle_deg = Degrees(73.0);
        change(&mut input.frame, &mut input.setup);
        BikePoints::of(&input.frame, &Placed::of(input.setup).unwrap())
    }

    #[test]
    fn golden_clamp_centre_for_three_stems() {
        // Head top (385, 565), head angle 73°, cover 15 + spacers 20 + half clamp 20 = 55 along (−cos 73, sin 73):
        //   root = (385 − 55·0.2923717, 565 + 55·0.9563048) = (368.9196, 617.5968).
        // A stem leaves at 90 − 73 + α = 17 + α above horizontal:
        //   100 at  −6°: 11°: (368.9196 + 98.1627, 617.5968 + 19.0809) = (467.0823, 636.6777)
        //   100 at −17°:  0°: level: (468.9196, 617.5968)
        //    80 at  +6°: 23°: (368.9196 + 73.6404, 617.5968 + 31.2585) = (442.5600, 648.8553)
        for (length, angle, x, y) in [
            (100.0, -6.0, 467.0823, 636.6777),
            (100.0, -17.0, 468.9196, 617.5968),
            (80.0, 6.0, 442.5600, 648.8553),
        ] {
            let points = stand(|_, setup| {
                setup.cockpit.stem_mm = Millimetres(length);
                setup.cockpit.stem_angle_deg = Degrees(angle);
            });
            assert!(
                points.bar_clamp.distance(Point::new(x, y)) < 2e-3,
                "{length} at {angle}: {:?}",
                points.bar_clamp
            );
        }
    }

    #[test]
    fn golden_hand_point_on_the_hoods() {
        // −17° stem: clamp centre (468.9196, 617.5968). Bar reach 80 + hood 25 forward, 15 up, roll 0:
        // (573.9196, 632.5968). Rolled 90° front up, (105, 15) turns to (−15, 105).
        let level = stand(|_, s| s.cockpit.stem_angle_deg = Degrees(-17.0));
        assert!(level.hand.distance(Point::new(573.9196, 632.5968)) < 2e-3);
        let rolled = stand(|_, s| {
            s.cockpit.stem_angle_deg = Degrees(-17.0);
            s.bar.set(crate::measure::Quantity::BarRoll, 90.0);
        });
        assert!(rolled.hand.distance(Point::new(453.9196, 722.5968)) < 2e-3);
    }

    #[test]
    fn golden_axles_and_ground() {
        // Chainstay 410, drop 70: x = −sqrt(168100 − 4900) = −403.980. Front centre 590: sqrt(348100 − 4900) = 585.833.
        let points = stand(|frame, _| {
            frame.chainstay_mm = Millimetres(410.0);
            frame.bb_drop_mm = Millimetres(70.0);
            frame.front_centre_mm = Millimetres(590.0);
            frame.wheel_radius_mm = Millimetres(340.0);
        });
        assert!(points.rear_axle.distance(Point::new(-403.980, 70.0)) < 1e-3);
        assert!(points.front_axle.distance(Point::new(585.833, 70.0)) < 1e-3);
        assert!((points.ground_mm.0 + 270.0).abs() < 1e-9);
    }

    #[test]
    fn a_taped_hand_wins_over_the_parts() {
        let parts = stand(|_, _| ()).hand;
        let taped = stand(|_, s| {
            s.residual.hand_forward_mm = Millimetres(4.0);
            s.residual.hand_up_mm = Millimetres(-3.0);
        });
        assert!(taped.hand.distance(parts + Point::new(4.0, -3.0)) < 1e-9);
    }

    #[test]
    fn golden_lengths_of_the_front_end() {
        // Hood at (573.9196, 632.5968), sit (−200, 700), nose (−50, 700), level: nose to hood 623.9196 level,
        // straight sqrt(623.9196² + 67.4032²) = 627.5499; drop 67.4032; BB up 632.5968.
        let bike = stand(|_, s| {
            s.cockpit.stem_angle_deg = Degrees(-17.0);
            s.saddle.place(Point::new(-200.0, 700.0));
        });
        for (convention, value) in [
            (Convention::NoseToHood, 623.9196),
            (Convention::NoseToHoodStraight, 627.5499),
            (Convention::SitToHood, 773.9196),
            (Convention::DropHood, 67.4032),
            (Convention::BbToHood, 573.9196),
            (Convention::BbToHoodUp, 632.5968),
        ] {
            let line = convention.hand_line().unwrap();
            let length = bike.length(line, bike.sit).unwrap().0;
            assert!((length - value).abs() < 2e-3, "{convention:?}: {length}");
        }
        assert_eq!(
            bike.length(Convention::DropPad.hand_line().unwrap(), bike.sit),
            None
        );
    }

    #[test]
    fn every_line_of_the_front_end_returns() {
        for input in example::all() {
            let bike = BikePoints::of(&input.frame, &Placed::of(input.setup).unwrap());
            for convention in Convention::ALL {
                let Some(line) = convention.hand_line() else {
                    continue;
                };
                let Some(length) = bike.length(line, bike.sit) else {
                    continue;
                };
                let mut moved = input.setup;
                moved.residual.hand_forward_mm = Millimetres(13.0);
                moved.residual.hand_up_mm = Millimetres(-7.0);
                // From elsewhere the reading brings the bar to where it reads the same again.
                let elsewhere = BikePoints::of(&input.frame, &Placed::of(moved).unwrap());
                let by = elsewhere.bar_move(line, bike.sit, length.0).unwrap();
                moved.residual.hand_forward_mm.0 += by.x;
                moved.residual.hand_up_mm.0 += by.y;
                let back = BikePoints::of(&input.frame, &Placed::of(moved).unwrap());
                let again = back.length(line, bike.sit).unwrap();
                assert!((again - length).0.abs() < 1e-9, "{convention:?}");
            }
        }
    }

    proptest! {
        #[test]
        fn spacers_lift_by_the_sine_and_pull_back_by_the_cosine(
            head in 60.0..80.0_f64, spacers in 0.0..60.0_f64, more in 0.0..40.0_f64,
        ) {
            let at = |below: f64| stand(|f, s| {
                f.head_angle_deg = Degrees(head);
                s.cockpit.spacers_below_mm = Millimetres(below);
            }).hand;
            let (sin, cos) = Degrees(head).sin_cos();
            let moved = at(spacers + more) - at(spacers);
            prop_assert!((moved.y - more * sin).abs() < 1e-9);
            prop_assert!((moved.x + more * cos).abs() < 1e-9);
        }

        #[test]
        fn a_longer_stem_never_brings_the_hand_nearer(
            head in 62.0..78.0_f64, angle in -40.0..40.0_f64, stem in 30.0..140.0_f64, more in 0.0..40.0_f64,
        ) {
            let at = |length: f64| stand(|f, s| {
                f.head_angle_deg = Degrees(head);
                s.cockpit.stem_angle_deg = Degrees(angle);
                s.cockpit.stem_mm = Millimetres(length);
            }).hand;
            prop_assert!(at(stem + more).x >= at(stem).x - 1e-9);
        }
    }
}
