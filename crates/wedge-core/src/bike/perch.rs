//! The perch: where post and rails hold the saddle, and whether they may.

use super::{Frame, Placed};
use crate::plane::Point;
use crate::units::{Degrees, Millimetres};
use crate::words::written;
use serde::{Deserialize, Serialize};

/// How the post and the rails stand.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Perch {
    /// Post between the seat tube's clamp and the saddle's clamp, along its axis.
    pub exposed_mm: Millimetres,
    /// Post inside the seat tube, when its length is known.
    pub inserted_mm: Option<Millimetres>,
    /// The clamp ahead of the middle of the rails, when the post's setback is known.
    pub clamp_ahead_mm: Option<Millimetres>,
    /// What cannot stay so, empty when all is well.
    pub words: Vec<String>,
}

/// The middle of the clampable rails.
pub(crate) fn rail_middle(setup: &Placed) -> Point {
    let saddle = &setup.saddle;
    setup.sit()
        + Point::new(saddle.rail_middle_mm.0, -saddle.saddle_stack_mm.0).turned(saddle.tilt_deg)
}

/// The saddle clamp: where the post's own axis, moved back by its setback square to it, meets the
/// rails; without a known setback the middle of the rails.
pub(crate) fn clamp_at(frame: &Frame, setup: &Placed) -> Point {
    let middle = rail_middle(setup);
    let Some(back) = setup.post.post_setback_mm else {
        return middle;
    };
    // middle + rails × a = axis × b + square back × setback.
    let (rails, axis) = (setup.saddle.rails_back(), frame.post_axis());
    let (a, _) = (frame.post_back() * back.0 - middle).split(rails, axis * -1.0);
    middle + rails * a
}

/// The sit reference after tilt or saddle were changed with the clamp where it is: the saddle turns about the clamp,
/// and the sit reference stands elsewhere by what the saddle itself grew, forward and up in its own frame.
pub(crate) fn sit_after(
    clamp: Point,
    sit: Point,
    (from, to): (Degrees, Degrees),
    grown: Point,
) -> Point {
    let mount = (sit - clamp).turned(-from) + grown;
    clamp + mount.turned(to)
}

impl Perch {
    /// How post and rails stand under the saddle.
    pub(crate) fn of(frame: &Frame, setup: &Placed) -> Self {
        let clamp = clamp_at(frame, setup);
        let saddle = &setup.saddle;
        let middle = rail_middle(setup);
        // A setback square to the post leaves its height along it.
        let exposed = clamp.dot(frame.post_axis()) - frame.seat_tube_mm.0;
        let inserted = setup.post.post_length_mm.map(|length| length.0 - exposed);
        let ahead = setup
            .post
            .post_setback_mm
            .map(|_| -(clamp - middle).dot(saddle.rails_back()));
        let mut words = Vec::new();
        if exposed < -0.05 {
            words.push(format!(
                "the saddle would stand {} mm below where the post comes out",
                written(-exposed)
            ));
        }
        if let (Some(inserted), Some(least)) = (inserted, setup.post.post_insertion_mm)
            && inserted < least.0 - 0.05
        {
            words.push(format!(
                "the post is {} mm short of its least insertion of {} mm",
                written(least.0 - inserted),
                written(least.0)
            ));
        }
        if let (Some(ahead), Some(rail)) = (ahead, saddle.rail_mm) {
            let over = ahead.abs() - rail.0 / 2.0;
            if over > 0.05 {
                words.push(format!(
                    "the rails end {} mm before: the saddle would need to sit further {} than they reach",
                    written(over),
                    if ahead > 0.0 { "back" } else { "forward" }
                ));
            }
        }
        Self {
            exposed_mm: Millimetres(exposed),
            inserted_mm: inserted.map(Millimetres),
            clamp_ahead_mm: ahead.map(Millimetres),
            words,
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::example;
    use proptest::prelude::*;

    /// A level saddle on a plumb post: sit (−10, 700), rails' middle 10 ahead and 45 below: (0, 655).
    fn plumb() -> (Frame, Placed) {
        let mut input = example::road();
        input.frame.seat_angle_deg = Degrees(90.0);
        input.frame.seat_tube_mm = Millimetres(500.0);
        input.setup.saddle.tilt_deg = Degrees(0.0);
        input.setup.post = crate::bike::Post::default();
        input.setup.saddle.place(Point::new(-10.0, 700.0));
        (input.frame, Placed::of(input.setup).unwrap())
    }

    #[test]
    fn golden_clamp_and_insertion_on_a_plumb_post() {
        let (frame, setup) = plumb();
        assert!(clamp_at(&frame, &setup).distance(Point::new(0.0, 655.0)) < 1e-9);
        // An inline post holds the rails' middle; one of 20 setback holds them 20 behind it.
        for (setback, ahead) in [(0.0, 0.0), (20.0, -20.0)] {
            let setup = setup.with(|setup| {
                setup.post.post_setback_mm = Some(Millimetres(setback));
                setup.post.post_length_mm = Some(Millimetres(250.0));
            });
            let perch = Perch::of(&frame, &setup);
            assert!((perch.clamp_ahead_mm.unwrap().0 - ahead).abs() < 1e-9);
            // 655 − 500 = 155 exposed, 250 − 155 = 95 inserted.
            assert!((perch.exposed_mm.0 - 155.0).abs() < 1e-9);
            assert!((perch.inserted_mm.unwrap().0 - 95.0).abs() < 1e-9);
            assert!(perch.words.is_empty());
        }
    }

    #[test]
    fn what_may_not_be_is_said_with_its_millimetres() {
        let (frame, setup) = plumb();
        let setup = setup.with(|setup| {
            setup.post.post_setback_mm = Some(Millimetres(30.0));
            setup.post.post_length_mm = Some(Millimetres(250.0));
            setup.post.post_insertion_mm = Some(Millimetres(110.0));
            setup.saddle.rail_mm = Some(Millimetres(50.0));
        });
        let perch = Perch::of(&frame, &setup);
        assert_eq!(
            perch.words,
            [
                "the post is 15 mm short of its least insertion of 110 mm",
                "the rails end 5 mm before: the saddle would need to sit further forward than they reach",
            ]
        );
        let low = Perch::of(&frame, &setup.moved(Point::new(-10.0, 530.0)));
        assert!(low.words[0].starts_with("the saddle would stand 15 mm below"));
    }

    #[test]
    fn golden_saddle_swapped_for_a_higher_one() {
        // Level, 7 mm more stack and rails 4 further ahead under it: up 7 and back 4. Tilted 90° front up it would go 7 back.
        let (clamp, sit) = (Point::new(0.0, 655.0), Point::new(-10.0, 700.0));
        let level = sit_after(
            clamp,
            sit,
            (Degrees(0.0), Degrees(0.0)),
            Point::new(-4.0, 7.0),
        );
        assert!(level.distance(Point::new(-14.0, 707.0)) < 1e-9);
        let turned = sit_after(clamp, sit, (Degrees(0.0), Degrees(90.0)), Point::default());
        // (−10, 45) about the clamp turns to (−45, −10).
        assert!(turned.distance(Point::new(-45.0, 645.0)) < 1e-9);
    }

    proptest! {
        #[test]
        fn tilting_there_and_back_returns(
            x in -300.0..0.0_f64, y in 500.0..900.0_f64, tilt in -10.0..10.0_f64, other in -10.0..10.0_f64,
        ) {
            let (sit, clamp) = (Point::new(x, y), Point::new(x + 10.0, y - 45.0));
            let none = Point::default();
            let there = sit_after(clamp, sit, (Degrees(tilt), Degrees(other)), none);
            let back = sit_after(clamp, there, (Degrees(other), Degrees(tilt)), none);
            prop_assert!(back.distance(sit) < 1e-9);
        }

        #[test]
        fn a_higher_saddle_shows_more_post(lower in 500.0..800.0_f64, more in 0.1..80.0_f64) {
            let (frame, setup) = plumb();
            let exposed = |y: f64| Perch::of(&frame, &setup.moved(Point::new(-10.0, y))).exposed_mm.0;
            prop_assert!(exposed(lower + more) > exposed(lower));
        }
    }
}
