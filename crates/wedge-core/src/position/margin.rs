//! What the body's limits leave: each limit tested on the table against what a position asks of it, and the wall that
//! no proposal crosses.

use super::Position;
use crate::measure::{Output, Quantity};
use crate::rider::Rider;
use crate::rule::rules;
use crate::units::Side;
use crate::words::written;

rules! {
    rules "Limit against demand";
    /// The margin to aim for at the least; 5–10° is the trade's. No proposal goes below it, or takes what is short
    /// already.
    pub const AIM_DEG: f64 = 5.0, "°", Workshop;
    /// A margin this much smaller is the same: nobody reads half a tenth.
    const SAME_DEG: f64 = 0.05, "°", House;
}

/// One limit and the output that goes against it.
pub(crate) struct Test {
    pub(crate) limit: Quantity,
    pub(crate) name: &'static str,
    pub(crate) output: Output,
    /// The demand in the limit's own terms.
    demand: fn(f64) -> f64,
    /// Whether the limit is the least, as of the torso, not the most.
    pub(crate) least: bool,
}

pub(crate) const TESTS: [Test; 6] = [
    Test {
        limit: Quantity::HipLimit,
        name: "Hip",
        output: Output::HipFlexion,
        demand: same,
        least: false,
    },
    Test {
        limit: Quantity::StraightLegRaise,
        name: "Back of the thigh",
        output: Output::HipFlexionAtReach,
        demand: same,
        least: false,
    },
    Test {
        limit: Quantity::KneeLimit,
        name: "Knee",
        output: Output::KneeMostBent,
        demand: same,
        least: false,
    },
    Test {
        limit: Quantity::AnkleLimit,
        name: "Ankle",
        output: Output::AnkleSmallest,
        demand: past_square,
        least: false,
    },
    Test {
        limit: Quantity::ShoulderLimit,
        name: "Shoulder",
        output: Output::Shoulder,
        demand: same,
        least: false,
    },
    Test {
        limit: Quantity::BackLimit,
        name: "Back",
        output: Output::Torso,
        demand: same,
        least: true,
    },
];

fn same(value: f64) -> f64 {
    value
}

/// A shank past square to the sole, from the angle between them.
fn past_square(ankle: f64) -> f64 {
    90.0 - ankle
}

impl Test {
    /// What a position asks of it.
    pub(crate) fn demand(&self, position: &Position, side: Side) -> Option<f64> {
        Some((self.demand)(self.output.as_drawn(position, side)?))
    }

    /// What the table allowed; none while nobody tested it.
    pub(crate) fn limit(&self, rider: &Rider, side: Side) -> Option<f64> {
        (rider.body.get(self.limit))
            .or_else(|| rider.legs.of(side).get(self.limit))
            .or_else(|| rider.arms.of(side).get(self.limit))
    }

    /// The room left, positive when there is some.
    pub(crate) fn margin(&self, limit: f64, demand: f64) -> f64 {
        if self.least {
            demand - limit
        } else {
            limit - demand
        }
    }

    /// The sides it is tested on.
    pub(crate) fn sides(&self) -> &'static [Option<Side>] {
        Side::each(self.limit.spec().per_side)
    }

    /// "left hip".
    pub(crate) fn joint(&self, side: Option<Side>) -> String {
        let name = self.name.to_lowercase();
        side.map_or_else(|| name.clone(), |side| format!("{} {name}", side.word()))
    }
}

/// Which of the rider's limits forbids going from one position to another: the first that would be left with less than
/// the margin to aim for, or with less than the little it has.
pub(crate) fn wall(rider: &Rider, before: &Position, after: &Position) -> Option<String> {
    TESTS.iter().find_map(|test| {
        test.sides().iter().find_map(|side| {
            let on = side.unwrap_or(Side::Right);
            let limit = test.limit(rider, on)?;
            let margin = |position| Some(test.margin(limit, test.demand(position, on)?));
            let (was, is) = (margin(before)?, margin(after)?);
            (is < was.min(AIM_DEG) - SAME_DEG).then(|| {
                if was < AIM_DEG - SAME_DEG {
                    format!(
                        "the {} has {}° of room as it stands, {}° wanted: that comes first",
                        test.joint(*side),
                        written(was),
                        written(AIM_DEG)
                    )
                } else {
                    format!(
                        "the {} would be left with less than {}° of room",
                        test.joint(*side),
                        written(AIM_DEG)
                    )
                }
            })
        })
    })
}
