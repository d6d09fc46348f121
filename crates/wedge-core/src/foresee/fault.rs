//! Faults as they stand, whatever is changed: what no bike holds and no body does.

use crate::bike::Steerer;
use crate::position::{Position, Ride};
use crate::units::{Side, Sides};
use crate::words::{sentence, written};

crate::rule::rules! {
    rules "Faults as they stand";
    /// The most a knee folds.
    const KNEE_MOST_DEG: f64 = 150.0, "°", House;
    /// Between these a sole stands to its shank.
    const ANKLE_DEG: (f64, f64) = (40.0, 140.0), "°", House;
    /// Left and right of one body further apart than this share are no body's.
    const SIDES_APART: f64 = 0.15, "", House;
}

/// What cannot be as it stands: parts that do not hold, joints no body has, sides of two bodies.
pub(super) fn faults(ride: &Ride, position: &Position, steerer: Option<&Steerer>) -> Vec<String> {
    let perch = &position.clearances.perch.words;
    let steerer = steerer.and_then(Steerer::fault);
    let parts = perch.iter().chain(&steerer);
    let mut all: Vec<String> = parts.map(|words| sentence(words)).collect();
    all.extend(
        Side::BOTH
            .into_iter()
            .flat_map(|side| joints(position, side)),
    );
    all.extend(apart(ride));
    all
}

/// Joints that no body has, on a leg that reaches.
fn joints(position: &Position, side: Side) -> Vec<String> {
    let leg = position.legs.of(side);
    let (least, most) = ANKLE_DEG;
    let side = side.word();
    let mut all = Vec::new();
    if !leg.reach.is_met() {
        return all;
    }
    if leg.knee.largest_deg.0 > KNEE_MOST_DEG {
        all.push(format!(
            "The {side} knee would fold {}°, and none folds over {KNEE_MOST_DEG}°: a length or the saddle is wrong.",
            written(leg.knee.largest_deg.0)
        ));
    }
    for ankle in [leg.ankle_smallest_deg.0, leg.ankle_largest_deg.0] {
        if !(least..=most).contains(&ankle) {
            all.push(format!(
                "The {side} sole would stand {}° to its shank, and none goes beyond {least} to {most}°: look at the foot \
                 again.",
                written(ankle)
            ));
        }
    }
    all
}

/// Lengths whose sides are not one body's.
fn apart(ride: &Ride) -> Vec<String> {
    let legs = &ride.person.lengths.legs;
    [
        (
            "thighs",
            Sides::from_fn(|side| legs.of(side).thigh.value_mm.0),
        ),
        (
            "shanks",
            Sides::from_fn(|side| legs.of(side).shank.value_mm.0),
        ),
        (
            "feet",
            Sides::from_fn(|side| legs.of(side).foot_length.value_mm.0),
        ),
    ]
    .into_iter()
    .filter(|(_, of)| (of.left - of.right).abs() > SIDES_APART * of.left.max(of.right))
    .map(|(what, of)| {
        format!(
            "The {what} are {} and {} mm, left and right: measure both again.",
            written(of.left),
            written(of.right)
        )
    })
    .collect()
}
