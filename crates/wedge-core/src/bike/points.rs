//! Where everything of the bike stands: contact points, and what a drawing needs besides.

use super::{Frame, Setup};
use crate::plane::Point;
use crate::units::{Degrees, Millimetres};
use serde::{Deserialize, Serialize};

/// The points of a bike, from the BB centre.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BikePoints {
    /// Where the rider sits: the sit reference. Also the saddle's highest point.
    pub sit: Point,
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
    /// The bend, at the end of the bar's reach.
    pub bar_bend: Point,
    /// End of the drops.
    pub bar_end: Point,
    /// The hand point on the hoods, as taped where taped.
    pub hood: Point,
}

/// Radius of a road bar at its clamp: 31.8 mm across.
const BAR_RADIUS_MM: f64 = 15.9;

/// The clamp under the sit reference, along and square to the saddle: 10 mm ahead and 45 below (workshop rule).
const SIT_TO_CLAMP: Point = Point::new(10.0, -45.0);

/// The saddle clamp under a sit reference at this tilt.
pub(crate) fn saddle_clamp(sit: Point, tilt: Degrees) -> Point {
    sit + SIT_TO_CLAMP.turned(tilt)
}

/// Sit reference over a saddle clamp at this tilt.
pub(crate) fn sit_over(clamp: Point, tilt: Degrees) -> Point {
    clamp - SIT_TO_CLAMP.turned(tilt)
}

impl BikePoints {
    /// Stands a setup on its frame. `None` when the saddle has no place (see [`super::Saddle::sit`]).
    pub fn of(frame: &Frame, setup: &Setup) -> Option<Self> {
        let sit = setup.saddle.sit()?;
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
            );
        let on_bar = |x: f64, y: f64| bar_clamp + Point::new(x, y).turned(cockpit.bar_roll_deg);
        let reach = cockpit.bar_reach_mm.0;

        Some(Self {
            sit,
            saddle_nose: nose,
            saddle_tail: nose - saddle_axis * setup.saddle.saddle_length_mm.0,
            saddle_clamp: saddle_clamp(sit, setup.saddle.tilt_deg),
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
            bar_bend: on_bar(reach, 0.0),
            bar_end: on_bar(reach - 60.0, -cockpit.bar_drop_mm.0),
            hood: on_bar(reach + cockpit.hood_forward_mm.0, cockpit.hood_rise_mm.0)
                + Point::new(
                    setup.residual.hand_forward_mm.0,
                    setup.residual.hand_up_mm.0,
                ),
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::example;
    use proptest::prelude::*;

    fn stand(change: impl FnOnce(&mut Frame, &mut Setup)) -> BikePoints {
        let mut input = example::road();
        input.frame.head_angle_deg = Degrees(73.0);
        change(&mut input.frame, &mut input.setup);
        BikePoints::of(&input.frame, &input.setup).unwrap()
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
        assert!(level.hood.distance(Point::new(573.9196, 632.5968)) < 2e-3);
        let rolled = stand(|_, s| {
            s.cockpit.stem_angle_deg = Degrees(-17.0);
            s.cockpit.bar_roll_deg = Degrees(90.0);
        });
        assert!(rolled.hood.distance(Point::new(453.9196, 722.5968)) < 2e-3);
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
        let parts = stand(|_, _| ()).hood;
        let taped = stand(|_, s| {
            s.residual.hand_forward_mm = Millimetres(4.0);
            s.residual.hand_up_mm = Millimetres(-3.0);
        });
        assert!(taped.hood.distance(parts + Point::new(4.0, -3.0)) < 1e-9);
    }

    proptest! {
        #[test]
        fn spacers_lift_by_the_sine_and_pull_back_by_the_cosine(
            head in 60.0..80.0_f64, spacers in 0.0..60.0_f64, more in 0.0..40.0_f64,
        ) {
            let at = |below: f64| stand(|f, s| {
                f.head_angle_deg = Degrees(head);
                s.cockpit.spacers_below_mm = Millimetres(below);
            }).hood;
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
            }).hood;
            prop_assert!(at(stem + more).x >= at(stem).x - 1e-9);
        }

        #[test]
        fn tilting_there_and_back_returns(
            x in -300.0..0.0_f64, y in 500.0..900.0_f64, tilt in -10.0..10.0_f64, other in -10.0..10.0_f64,
        ) {
            let sit = Point::new(x, y);
            let clamp = saddle_clamp(sit, Degrees(tilt));
            let there = sit_over(clamp, Degrees(other));
            let back = sit_over(saddle_clamp(there, Degrees(other)), Degrees(tilt));
            prop_assert!(back.distance(sit) < 1e-9);
        }
    }
}
