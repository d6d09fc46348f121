//! What must move so that something stays: compensations solved with the linkage.

mod arc;
mod cockpit;
mod crank;
mod front;
mod map;
mod parts;
mod plane;
mod recheck;
mod saddle;

pub use arc::Arc;
pub(crate) use cockpit::{AHEAD_MM, WIDTH_BY_SPAN, ahead};
pub use cockpit::{Cockpit, Cockpits, cockpits, cockpits_for};
pub use crank::{Intent, Plan, intents};
pub(crate) use crank::{crank_now, keeping_the_bottom};
pub use front::{Aim, FrontEnd, Fronts, front_ends};
pub(crate) use front::{MOST_BELOW_MM, PADS_MM, miss_class};
pub use map::{Axis, MapLine, SaddleMap, Spot, saddle_map, spot};
pub(crate) use parts::{Stems, hand_on, parts_for, slid};
pub(crate) use plane::hands_moved;
pub use plane::{Dot, HandPlane, HandRow, hand_plane, hand_room, hand_rows};
pub use recheck::{Due, Recheck, Slide, rechecks};
pub use saddle::{
    OtherSaddle, PartOption, PerchRoom, SetbackParts, perch_room, setback_parts, swap,
};

use crate::foresee::{Change, Trying, WORTH_MM, post_travel};
use crate::measure::{Quantity, half_mm};
use crate::plane::root;
use crate::units::Side;

/// Post travel, up positive, with which the knee at full reach is `wanted` (mean of both sides), beside changes that
/// leave the post alone. `None` when no travel gets there.
pub(crate) fn post_for_knee(trying: &Trying, changes: &[Change], wanted: f64) -> Option<f64> {
    let error = |travel: f64| {
        let mut all = changes.to_vec();
        all.push(Change::by(Quantity::SaddleHeight, travel));
        let after = trying.plain(&all)?;
        Some(after.knee_at_full_reach() - wanted)
    };
    post_travel(error(0.0)?, error)
}

/// The travel of the post at which the hip is as far from the axle at its farthest as the leg is long, straight, on its
/// heel: thigh, shank, ankle height, sole, footbed and pedal. The hips are level.
pub(crate) fn heel_travel(trying: &Trying, side: Side) -> Option<f64> {
    let leg = trying.lengths().legs.of(side);
    let pedalling = trying.setup.pedalling.of(side);
    let bones = leg.thigh.value_mm + leg.shank.value_mm + leg.ankle_height.value_mm;
    let under = pedalling.pedal_stack_mm + pedalling.sole_mm + pedalling.footbed_mm;
    let long = (bones + under).0;
    root(-150.0, 150.0, |travel| {
        let after = trying.plain(&[Change::by(Quantity::SaddleHeight, travel)]);
        after.map_or(f64::NAN, |p| {
            p.upper.points.hip.length() + pedalling.crank_mm.0 - long
        })
    })
}

/// The changes with the post travel that keeps the knee at full reach, when that is more than the tape's error.
pub(crate) fn linked(trying: &Trying, mut changes: Vec<Change>) -> Vec<Change> {
    let wanted = trying.before.knee_at_full_reach();
    let travel = post_for_knee(trying, &changes, wanted).map(half_mm);
    changes.extend(
        travel
            .filter(|by| by.abs() >= WORTH_MM)
            .map(|by| Change::by(Quantity::SaddleHeight, by)),
    );
    changes
}

/// The room's lines of the table of rules.
pub(crate) fn rules() -> Vec<crate::rule::Rule> {
    [
        arc::rules(),
        cockpit::rules(),
        front::rules(),
        plane::rules(),
        recheck::rules(),
        saddle::rules(),
        map::rules(),
        parts::rules(),
    ]
    .concat()
}
