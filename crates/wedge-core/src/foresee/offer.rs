//! Compensating moves: what else should move so that the knee at full reach stays.

use super::position::Scene;
use super::{Change, Position, change, post_travel};
use crate::bike::Setup;
use crate::measure::{Quantity, written};
use crate::rule::rules;
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

rules! {
    rules "Knock-on";
    /// Compensations smaller than this are not offered: they are lost in the tape's error.
    pub(crate) const WORTH_MM: f64 = 1.0, " mm", House;
}

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
    let knee = Position::knee_at_full_reach;
    let wanted = knee(before);
    let raised = |travel: f64| {
        let mut with = input.clone();
        with.setup = *setup;
        with.changes = vec![Change::by(Quantity::SaddleHeight, travel)];
        let setup = change::apply(&with).ok()?;
        Position::of(scene, &setup).map(|p| knee(&p))
    };
    let Some(travel) = post_travel(knee(after) - wanted, |t| raised(t).map(|k| k - wanted)) else {
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
