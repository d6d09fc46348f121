//! Compensating moves: what else should move so that the knee at full reach stays.

use super::position::Scene;
use super::{Change, Position, change};
use crate::bike::Setup;
use crate::measure::{Quantity, written};
use serde::{Deserialize, Serialize};

/// A compensating move, offered as one linked trial that still lists each bolt.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Offer {
    /// "And saddle up 2.5".
    pub title: String,
    /// Why.
    pub reason: String,
    /// The whole linked trial: the changes asked for and the compensating one.
    pub changes: Vec<Change>,
}

/// Compensations smaller than this are lost in the tape's error.
const WORTH_MM: f64 = 1.0;

/// Offers the post travel that gives back the knee at full reach, mean of both sides, when something else moved it.
pub(crate) fn offers(
    scene: &Scene,
    before: &Position,
    setup: &Setup,
    after: &Position,
) -> Vec<Offer> {
    let input = scene.input;
    let touches_saddle_height = input
        .changes
        .iter()
        .any(|c| c.quantity == Quantity::SaddleHeight);
    if touches_saddle_height || input.changes.is_empty() || !after.is_reached() {
        return Vec::new();
    }
    let knee = |p: &Position| {
        f64::midpoint(
            p.legs.left.knee.smallest_deg.0,
            p.legs.right.knee.smallest_deg.0,
        )
    };
    let wanted = knee(before);
    let raised = |travel: f64| {
        let mut with = input.clone();
        with.setup = *setup;
        with.changes = vec![Change::by(Quantity::SaddleHeight, travel)];
        let setup = change::apply(&with).ok()?;
        Position::of(scene, &setup).map(|p| knee(&p))
    };
    let Some(travel) = secant(knee(after) - wanted, |t| raised(t).map(|k| k - wanted)) else {
        return Vec::new();
    };
    let travel = (travel * 2.0).round() / 2.0;
    if travel.abs() < WORTH_MM {
        return Vec::new();
    }
    let mut changes = input.changes.clone();
    changes.push(Change::by(Quantity::SaddleHeight, travel));
    vec![Offer {
        title: format!(
            "and saddle {} {}",
            if travel > 0.0 { "up" } else { "down" },
            written(travel.abs())
        ),
        reason: format!("keeps the knee at full reach at {}°", written(wanted)),
        changes,
    }]
}

/// The travel at which `error` vanishes, from the error at none: a few secant steps, since the knee answers the post
/// almost evenly. `None` when it does not settle.
fn secant(at_zero: f64, error: impl Fn(f64) -> Option<f64>) -> Option<f64> {
    /// About what a mm of saddle does to the knee.
    const DEGREES_A_MM: f64 = -0.4;
    let (mut last, mut last_error) = (0.0, at_zero);
    let mut travel = -at_zero / DEGREES_A_MM;
    for _ in 0..8 {
        if travel.abs() > 80.0 {
            return None;
        }
        let here = error(travel)?;
        if here.abs() < 0.01 {
            return Some(travel);
        }
        let slope = (here - last_error) / (travel - last);
        if !slope.is_finite() || slope.abs() < 1e-6 {
            return None;
        }
        (last, last_error) = (travel, here);
        travel -= here / slope;
    }
    None
}
