//! The bike's numbers checked against each other: what cannot all be right, before anything is built on it.

use super::{Frame, Perch, Placed, Setup, Steerer};
use crate::measure::Quantity;
use crate::rule::rules;
use crate::words::{capital, written};
use serde::{Deserialize, Serialize};

/// Two or more numbers that do not go together.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Check {
    /// The numbers to look at again.
    pub quantities: Vec<Quantity>,
    /// What is wrong with them, and what would be right.
    pub words: String,
}

rules! {
    rules "Checks of a bike";
    /// The bottom bracket stands this high above the ground on any bike.
    const BB_HEIGHT_MM: (f64, f64) = (215.0, 390.0), " mm", House;
    /// Ground left under a lowered pedal axle.
    const AXLE_CLEAR_MM: f64 = 60.0, " mm", House;
    /// The front axle ahead of the head tube's top, any fork and head angle.
    const AXLE_AHEAD_MM: (f64, f64) = (60.0, 420.0), " mm", House;
    /// Cranks of two lengths are made on purpose, by less than this.
    const CRANKS_APART_MM: f64 = 10.0, " mm", House;
    /// The head tube's lower end stays above this share of the seat tube.
    const LOWEST_HEAD: f64 = 0.4, "", House;
}

/// Everything about a bike that does not go together: steerer, post and rails, residuals, and plain sense.
pub fn checks(frame: &Frame, setup: &Setup) -> Vec<Check> {
    use Quantity as Q;
    let mut all = Vec::new();
    let mut say = |quantities: &[Quantity], words: String| {
        all.push(Check {
            quantities: quantities.to_vec(),
            words,
        });
    };
    if let Some(fault) = Steerer::budget(frame, &setup.cockpit).and_then(|s| s.fault()) {
        say(&[Q::Steerer, Q::SpacersBelow, Q::SpacersAbove], fault);
    }
    if let Some(placed) = Placed::of(*setup) {
        for words in Perch::of(frame, &placed).words {
            say(
                &[Q::SaddleHeight, Q::PostLength, Q::PostSetback],
                capital(&words),
            );
        }
    }
    if let Some(question) = setup.residual.question() {
        say(&[Q::FrameReach, Q::FrameStack, Q::Stem], question);
    }

    let bb_height = frame.wheel_radius_mm.0 - frame.bb_drop_mm.0;
    let (least, most) = BB_HEIGHT_MM;
    if !(least..=most).contains(&bb_height) {
        say(
            &[Q::WheelRadius, Q::BbDrop],
            format!(
                "Wheel radius and BB drop put the BB {} mm above the ground: {} to {} is usual",
                written(bb_height),
                written(least),
                written(most)
            ),
        );
    }
    let [left, right] = [&setup.pedalling.left, &setup.pedalling.right].map(|p| p.crank_mm.0);
    let clear = bb_height - frame.sag_mm.unwrap_or_default().0 - left.max(right);
    if clear < AXLE_CLEAR_MM {
        say(
            &[Q::Crank, Q::BbDrop, Q::WheelRadius],
            format!(
                "The lowered pedal axle is {} mm above the ground: look at crank, BB drop and wheel",
                written(clear)
            ),
        );
    }
    if (left - right).abs() > CRANKS_APART_MM {
        say(
            &[Q::Crank],
            format!(
                "Left and right crank differ by {} mm",
                written((left - right).abs())
            ),
        );
    }
    let under = frame.front_centre_mm.0.powi(2) - frame.bb_drop_mm.0.powi(2);
    let ahead = under.max(0.0).sqrt() - frame.frame_reach_mm.0;
    let (least, most) = AXLE_AHEAD_MM;
    if !(least..=most).contains(&ahead) {
        say(
            &[Q::FrontCentre, Q::FrameReach],
            format!(
                "Front centre and frame reach put the front axle {} mm ahead of the head tube's top: {} to {} is usual",
                written(ahead),
                written(least),
                written(most)
            ),
        );
    }
    if frame.head_tube_mm.0 > frame.frame_stack_mm.0 - frame.seat_tube_mm.0 * LOWEST_HEAD {
        say(
            &[Q::HeadTube, Q::FrameStack],
            "The head tube is too long for this frame stack: its lower end would lie under the top of the wheel".to_owned(),
        );
    }
    let saddle = &setup.saddle;
    if saddle.nose_to_sit_mm.0 >= saddle.saddle_length_mm.0 {
        say(
            &[Q::NoseToSit, Q::SaddleLength],
            "The sit reference lies behind the saddle's tail: look at nose to sit reference and saddle length".to_owned(),
        );
    }
    all
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::example;
    use crate::units::Millimetres;

    #[test]
    fn the_examples_go_together() {
        for input in example::all() {
            assert_eq!(checks(&input.frame, &input.setup), []);
        }
    }

    #[test]
    fn each_number_that_cannot_go_with_the_others_is_named() {
        type Spoil = fn(&mut Frame, &mut Setup);

        let mm = Millimetres;
        let good = example::road();
        let cases: [(Spoil, Quantity); 8] = [
            (
                |f, _| f.steerer_mm = Some(Millimetres(250.0)),
                Quantity::Steerer,
            ),
            (
                |_, s| s.residual.hand_up_mm = Millimetres(22.0),
                Quantity::FrameReach,
            ),
            (
                |f, _| f.wheel_radius_mm = Millimetres(240.0),
                Quantity::WheelRadius,
            ),
            (
                |_, s| s.pedalling.left.crank_mm = Millimetres(220.0),
                Quantity::Crank,
            ),
            (
                |f, _| f.front_centre_mm = Millimetres(430.0),
                Quantity::FrontCentre,
            ),
            (
                |f, _| f.head_tube_mm = Millimetres(380.0),
                Quantity::HeadTube,
            ),
            (
                |_, s| s.saddle.nose_to_sit_mm = Millimetres(290.0),
                Quantity::NoseToSit,
            ),
            (
                |f, _| f.seat_tube_mm = Millimetres(720.0),
                Quantity::SaddleHeight,
            ),
        ];
        for (spoil, quantity) in cases {
            let (mut frame, mut setup) = (good.frame, good.setup);
            frame.seat_tube_mm = mm(520.0);
            spoil(&mut frame, &mut setup);
            let found = checks(&frame, &setup);
            assert!(
                found
                    .iter()
                    .any(|check| check.quantities.contains(&quantity)),
                "{quantity:?}: {found:?}"
            );
        }
    }
}
