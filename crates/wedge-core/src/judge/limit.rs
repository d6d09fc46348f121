//! Limit against demand: what the table allowed, what the stroke asks, and what would open a short margin.

use super::Output;
use crate::foresee::{Change, ForeseeInput, Position, Row, Weighing, weigh};
use crate::measure::{Quantity, written};
use crate::rule::{Provenance, Rule, Shown, rules};
use crate::units::Side;
use serde::{Deserialize, Serialize};

rules! {
    rules "Limit against demand";
    /// The margin to aim for at the least; 5–10° is the trade's.
    pub const AIM_DEG: f64 = 5.0, "°", Workshop;
    /// A remedy that gains less is none.
    const WORTH_DEG: f64 = 0.4, "°", House;
}

/// One joint's limit against what the stroke asks of it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LimitRow {
    /// The limit.
    pub quantity: Quantity,
    /// The side, where there are two.
    pub side: Option<Side>,
    /// "Hip, left".
    pub label: String,
    /// Where the test on the table ended.
    pub end_point: String,
    /// The limit; none while nobody has tested it.
    pub limit_deg: Option<f64>,
    /// What is asked of it.
    pub demand: String,
    /// The most the stroke asks.
    pub demand_deg: f64,
    /// Limit less demand, positive when there is room.
    pub margin_deg: Option<f64>,
    /// Less than the margin to aim for.
    pub short: bool,
    /// "12° of room" or "3° past its limit".
    pub words: String,
    /// What would open it, the most degrees first; only of a short margin.
    pub remedies: Vec<Remedy>,
}

/// Something that opens a short margin.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Remedy {
    /// "Spacers up 10".
    pub title: String,
    /// The change, to be foreseen like any other.
    pub changes: Vec<Change>,
    /// Degrees gained; none where the side view cannot tell.
    pub gained_deg: Option<f64>,
    /// What else it does, the largest first.
    pub knock_ons: Vec<String>,
    /// What it costs at the bench.
    pub cost: String,
}

/// One limit and the output that goes against it.
struct Test {
    limit: Quantity,
    name: &'static str,
    output: Output,
    /// The demand in the limit's own terms.
    demand: fn(f64) -> f64,
    /// Whether the limit is the least, as of the torso, not the most.
    least: bool,
}

const TESTS: [Test; 6] = [
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
    fn demand(&self, position: &Position, side: Side) -> Option<f64> {
        Some((self.demand)(self.output.of(position, side)?))
    }

    fn margin(&self, limit: f64, demand: f64) -> f64 {
        if self.least {
            demand - limit
        } else {
            limit - demand
        }
    }
}

/// The sheet: every joint and side, with remedies for each short margin.
pub fn limits(input: &ForeseeInput, position: &Position) -> Vec<LimitRow> {
    let rider = &input.rider;
    let mut weighed: Option<Vec<Weighing>> = None;
    let mut rows = Vec::new();
    for test in &TESTS {
        let spec = test.limit.spec();
        let sides: &[Option<Side>] = if spec.per_side {
            &[Some(Side::Left), Some(Side::Right)]
        } else {
            &[None]
        };
        for side in sides {
            let on = side.unwrap_or(Side::Right);
            let Some(demand_deg) = test.demand(position, on) else {
                continue;
            };
            let limit_deg = (rider.body.get(test.limit))
                .or_else(|| rider.legs.of(on).get(test.limit))
                .or_else(|| rider.arms.of(on).get(test.limit));
            let margin_deg = limit_deg.map(|limit| test.margin(limit, demand_deg));
            let short = margin_deg.is_some_and(|margin| margin < AIM_DEG);
            let remedies = if short {
                let weighed = weighed.get_or_insert_with(|| weigh(input, candidates(input)));
                remedies(test, on, demand_deg, weighed)
            } else {
                Vec::new()
            };
            rows.push(LimitRow {
                quantity: test.limit,
                side: *side,
                label: side.map_or_else(
                    || test.name.to_owned(),
                    |side| format!("{}, {}", test.name, side.word()),
                ),
                end_point: spec.how.to_owned(),
                limit_deg,
                demand: test.output.spec().label.to_owned(),
                demand_deg,
                margin_deg,
                short,
                words: words(margin_deg),
                remedies,
            });
        }
    }
    rows
}

fn words(margin: Option<f64>) -> String {
    match margin {
        None => "not tested on the table".to_owned(),
        Some(margin) if margin < 0.0 => format!("{}° past its limit", written(-margin)),
        Some(margin) if margin < AIM_DEG => {
            format!("{}° of room, {}° wanted", written(margin), written(AIM_DEG))
        }
        Some(margin) => format!("{}° of room", written(margin)),
    }
}

/// What may open a joint, in the order of what it costs at the bench (workshop rule).
const REMEDIES: [(Quantity, f64, &str); 11] = [
    (
        Quantity::SpacersBelow,
        10.0,
        "minutes: spacers from above to below",
    ),
    (
        Quantity::PadSpacers,
        10.0,
        "minutes: spacers under the pads",
    ),
    (Quantity::SaddleHeight, 5.0, "minutes: the post"),
    (Quantity::SaddleHeight, -5.0, "minutes: the post"),
    (Quantity::Setback, -5.0, "minutes: the rails"),
    (Quantity::Setback, 5.0, "minutes: the rails"),
    (Quantity::BarRise, 15.0, "another bar"),
    (
        Quantity::StemAngle,
        12.0,
        "another stem, or this one flipped",
    ),
    (Quantity::Stem, -10.0, "another stem"),
    (
        Quantity::PedalStack,
        -3.0,
        "thinner pedals; soles do the same",
    ),
    (Quantity::Crank, -5.0, "another crank"),
];

/// What is tried on paper against a short margin, for the table of rules.
pub(super) fn remedy_rules() -> Vec<Rule> {
    REMEDIES
        .iter()
        .map(|(quantity, by, cost)| {
            let spec = quantity.spec();
            Rule::new(
                "Limit against demand",
                &format!("Remedy weighed: {}", spec.label),
                by.shown(spec.unit.suffix()),
                Provenance::House,
                &format!("cost: {cost}"),
            )
        })
        .collect()
}

/// The changes this bike has the parts for.
fn candidates(input: &ForeseeInput) -> Vec<Vec<Change>> {
    let setup = &input.setup;
    REMEDIES
        .iter()
        .filter(|(quantity, ..)| setup.holds(*quantity))
        .filter(|(quantity, ..)| {
            // Spacers only go below when there are some above.
            *quantity != Quantity::SpacersBelow || setup.cockpit.spacers_above_mm.0 > 0.0
        })
        .map(|(quantity, by, _)| {
            let most = match quantity {
                Quantity::SpacersBelow => setup.cockpit.spacers_above_mm.0.min(*by),
                _ => *by,
            };
            let mut changes = vec![Change::by(*quantity, most)];
            if *quantity == Quantity::Crank {
                // The bottom of the stroke is kept.
                changes.push(Change::by(Quantity::SaddleHeight, -by));
            }
            changes
        })
        .collect()
}

/// The remedies worth turning a bolt for, the best first.
fn remedies(test: &Test, side: Side, demand: f64, weighed: &[Weighing]) -> Vec<Remedy> {
    let mut all: Vec<Remedy> = weighed
        .iter()
        .filter_map(|foresight| {
            let after = test.demand(&foresight.after, side)?;
            let gained = if test.least {
                after - demand
            } else {
                demand - after
            };
            let change = foresight.changes.first()?;
            let (.., cost) = REMEDIES.iter().find(|(quantity, by, _)| {
                *quantity == change.quantity && by.signum() == change.by.unwrap_or(*by).signum()
            })?;
            (gained >= WORTH_DEG).then(|| Remedy {
                title: foresight.title.clone(),
                changes: foresight.changes.clone(),
                gained_deg: Some(gained),
                knock_ons: foresight
                    .rows
                    .iter()
                    .filter(|row| row.moved && row.output.is_main() && row.output != test.output)
                    .take(3)
                    .map(Row::moved_words)
                    .collect(),
                cost: (*cost).to_owned(),
            })
        })
        .collect();
    let gained = |remedy: &Remedy| remedy.gained_deg.unwrap_or_default();
    all.sort_by(|a, b| gained(b).total_cmp(&gained(a)));
    // A hip gets room to the side as well, which the side view does not see.
    if matches!(test.limit, Quantity::HipLimit) {
        all.push(Remedy {
            title: "Feet wider by 2".to_owned(),
            changes: vec![Change::by(Quantity::CleatOut, 2.0)],
            gained_deg: None,
            knock_ons: vec!["room to the side, not seen in side view: watch the knees".to_owned()],
            cost: "minutes: the cleats".to_owned(),
        });
    }
    all
}
