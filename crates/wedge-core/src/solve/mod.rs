//! What must move so that something stays: compensations solved with the linkage.

mod crank;

pub use crank::{Intent, Plan, intents};
pub(crate) use crank::{crank_now, keeping_the_bottom};

use crate::foresee::{Change, Trying, post_travel};
use crate::measure::Quantity;

/// Post travel, up positive, with which the knee at full reach is `wanted` (mean of both sides), beside changes that
/// leave the post alone. `None` when no travel gets there.
pub(crate) fn post_for_knee(trying: &Trying, changes: &[Change], wanted: f64) -> Option<f64> {
    let error = |travel: f64| {
        let mut all = changes.to_vec();
        all.push(Change::by(Quantity::SaddleHeight, travel));
        let (_, after) = trying.with(&all)?;
        Some(after.knee_at_full_reach() - wanted)
    };
    post_travel(error(0.0)?, error)
}

/// To the half millimetre a bolt is turned by.
pub(crate) fn half_mm(value: f64) -> f64 {
    (value * 2.0).round() / 2.0
}

/// The room's lines of the table of rules.
pub(crate) fn rules() -> Vec<crate::rule::Rule> {
    Vec::new()
}
