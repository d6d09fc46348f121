//! Compensating moves: what else should move so that the knee at full reach stays.

use super::{Change, change, post_travel};
use crate::bike::Placed;
use crate::measure::{Quantity, half_mm};
use crate::position::{Position, Ride, wall};
use crate::rider::Detail;
use crate::rule::rules;
use crate::words::written;
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

/// Offers the post travel that gives back the knee at full reach, mean of both sides, when something else moved it. Not
/// what a limit of the rider forbids.
pub(crate) fn offers(
    ride: &Ride,
    changes: &[Change],
    before: &Position,
    (setup, after): (&Placed, &Position),
) -> Vec<Offer> {
    let touches_saddle_height = changes.iter().any(|c| c.quantity == Quantity::SaddleHeight);
    if touches_saddle_height || changes.is_empty() || !after.is_reached() {
        return Vec::new();
    }
    let wanted = before.knee_at_full_reach();
    let changed = ride.on(*setup);
    let raised = |travel: f64| {
        let up = change::apply(&changed, &[Change::by(Quantity::SaddleHeight, travel)]).ok()?;
        Some(Position::of(&ride.scene(Detail::Plain), &up))
    };
    let error = |travel: f64| Some(raised(travel)?.knee_at_full_reach() - wanted);
    let Some(travel) = post_travel(after.knee_at_full_reach() - wanted, error) else {
        return Vec::new();
    };
    let travel = half_mm(travel);
    let allowed = |to: &Position| wall(&ride.rider, after, to).is_none();
    if travel.abs() < WORTH_MM || !raised(travel).is_some_and(|to| allowed(&to)) {
        return Vec::new();
    }
    let mut linked = changes.to_vec();
    linked.push(Change::by(Quantity::SaddleHeight, travel));
    vec![Offer {
        title: format!(
            "and saddle {} {}",
            if travel > 0.0 { "up" } else { "down" },
            written(travel.abs())
        ),
        reason: format!("keeps the knee at full reach at {}°", written(wanted)),
        changes: linked,
    }]
}
