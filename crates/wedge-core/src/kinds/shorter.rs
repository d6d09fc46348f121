//! Room for the hips two ways: a shorter crank, the back's angle kept, or the pads higher. Both are worked out.

use crate::foresee::{Change, Trying, within_limits};
use crate::measure::{Convention, Output, Quantity};
use crate::plane::root;
use crate::position::Position;
use crate::rule::rules;
use crate::solve::{Intent, intents};
use crate::units::Side;
use crate::words::tenth;
use serde::Serialize;

rules! {
    rules "Shorter crank or higher pads";
    /// The crank that is looked at is shorter by
    const SHORTER_MM: f64 = 5.0, " mm", House;
    /// Pads are looked at up to so much higher.
    const HIGHER_MM: f64 = 80.0, " mm", House;
}

/// One of the two ways.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = WayToHipRoom))]
pub struct Instead {
    /// "Crank 165, saddle up 5, pads …".
    pub title: String,
    /// The linked trial; empty where it cannot be made.
    pub changes: Vec<Change>,
    /// Degrees the hips fold less, mean of both.
    pub gained_deg: f64,
    /// Drop as a share of saddle height after.
    pub drop_share: Option<f64>,
    /// Torso after.
    pub torso_deg: Option<f64>,
    /// Why it is cut short, or not made.
    pub left: String,
}

fn hips(position: &Position) -> f64 {
    let of = |side| {
        Output::HipFlexion
            .as_drawn(position, side)
            .unwrap_or_default()
    };
    f64::midpoint(of(Side::Left), of(Side::Right))
}

fn told(trying: &Trying, title: String, changes: Vec<Change>, left: String) -> Option<Instead> {
    let after = trying.plain(&changes)?;
    Some(Instead {
        title,
        gained_deg: hips(&trying.before) - hips(&after),
        drop_share: after.dimensions.get(Convention::DropShare),
        torso_deg: Output::Torso.of(&after, Side::Right),
        changes,
        left,
    })
}

/// A crank 5 mm shorter that keeps the back as it lies, and the pads so much higher as give the hips the same; nothing where
/// the bike has no pads or no such crank.
pub fn shorter_or_higher(trying: &Trying) -> Vec<Instead> {
    let crank = trying.setup.pedalling.right.crank_mm.0 - SHORTER_MM;
    let shorter = intents(trying, crank)
        .into_iter()
        .find(|plan| plan.intent == Intent::Back && !plan.changes.is_empty());
    let Some(shorter) = shorter.and_then(|plan| told(trying, plan.title, plan.changes, plan.left))
    else {
        return Vec::new();
    };
    let up = |by: f64| vec![Change::by(Quantity::PadSpacers, by)];
    let gained = |by: f64| {
        trying
            .plain(&up(by))
            .map_or(f64::NAN, |after| hips(&trying.before) - hips(&after))
    };
    let most = (HIGHER_MM).min(
        Quantity::PadSpacers.spec().max
            - trying
                .setup
                .bar
                .get(Quantity::PadSpacers)
                .unwrap_or_default(),
    );
    let higher = root(0.0, most, |by| gained(by) - shorter.gained_deg).and_then(|by| {
        let (changes, wall) = within_limits(trying, up(tenth(by)))?;
        let weighed = trying.weigh(changes.clone())?;
        let left = wall.map_or_else(String::new, |wall| format!("Cut there: {wall}"));
        told(trying, weighed.title, changes, left)
    });
    [Some(shorter), higher].into_iter().flatten().collect()
}
