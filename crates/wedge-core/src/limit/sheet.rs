//! Limit against demand: what the table allowed, what the stroke asks, and what would open a short margin.

use crate::foresee::{Change, Row, Trying, Weighing, within_limits};
use crate::measure::Quantity;
use crate::position::{AIM_DEG, Ride, TESTS, Test};
use crate::rule::{Provenance, Rule, Shown, rules};
use crate::units::Side;
use crate::words::{sided, written};
use serde::{Deserialize, Serialize};

rules! {
    rules "Limit against demand";
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

/// The sheet: every joint and side, with remedies for each short margin.
pub fn limits(trying: &Trying) -> Vec<LimitRow> {
    let mut weighed: Option<Vec<Tried>> = None;
    let mut rows = Vec::new();
    for test in &TESTS {
        for side in test.sides() {
            let on = side.unwrap_or(Side::Right);
            let Some(demand_deg) = test.demand(&trying.before, on) else {
                continue;
            };
            let limit_deg = test.limit(&trying.rider, on);
            let margin_deg = limit_deg.map(|limit| test.margin(limit, demand_deg));
            let short = margin_deg.is_some_and(|margin| margin < AIM_DEG);
            let remedies = if short {
                let weighed = weighed.get_or_insert_with(|| weigh(trying));
                remedies(test, on, demand_deg, weighed)
            } else {
                Vec::new()
            };
            rows.push(LimitRow {
                quantity: test.limit,
                side: *side,
                label: sided(test.name, *side),
                end_point: test.limit.spec().how.to_owned(),
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

/// A remedy weighed: what it costs at the bench, what it does, and what of the rider stops it before its end.
struct Tried {
    cost: &'static str,
    weighing: Weighing,
    wall: Option<String>,
}

/// What every remedy does that this bike has the parts for, as far as the rider's other limits let it go.
fn weigh(trying: &Trying) -> Vec<Tried> {
    candidates(trying)
        .into_iter()
        .filter_map(|(cost, changes)| {
            let (changes, wall) = within_limits(trying, changes)?;
            let weighing = trying.weigh(changes).filter(|w| !w.changes.is_empty())?;
            Some(Tried {
                cost,
                weighing,
                wall,
            })
        })
        .collect()
}

/// The changes this bike has the parts for, each with its cost.
fn candidates(ride: &Ride) -> Vec<(&'static str, Vec<Change>)> {
    let setup = &ride.setup;
    REMEDIES
        .iter()
        .filter(|(quantity, ..)| setup.holds(*quantity))
        .filter(|(quantity, ..)| {
            // Spacers only go below when there are some above.
            *quantity != Quantity::SpacersBelow || setup.cockpit.spacers_above_mm.0 > 0.0
        })
        .map(|(quantity, by, cost)| {
            let most = match quantity {
                Quantity::SpacersBelow => setup.cockpit.spacers_above_mm.0.min(*by),
                _ => *by,
            };
            let mut changes = vec![Change::by(*quantity, most)];
            if *quantity == Quantity::Crank {
                // The bottom of the stroke is kept.
                changes.push(Change::by(Quantity::SaddleHeight, -by));
            }
            (*cost, changes)
        })
        .collect()
}

/// The remedies worth turning a bolt for, the best first.
fn remedies(test: &Test, side: Side, demand: f64, weighed: &[Tried]) -> Vec<Remedy> {
    let mut all: Vec<Remedy> = weighed
        .iter()
        .filter_map(|tried| {
            let weighing = &tried.weighing;
            let after = test.demand(&weighing.after, side)?;
            let gained = if test.least {
                after - demand
            } else {
                demand - after
            };
            let moved = (weighing.rows.iter())
                .filter(|row| row.moved && row.output.is_main() && row.output != test.output);
            let wall = tried.wall.iter().map(|wall| format!("no further: {wall}"));
            (gained >= WORTH_DEG).then(|| Remedy {
                title: weighing.title.clone(),
                changes: weighing.changes.clone(),
                gained_deg: Some(gained),
                knock_ons: moved.take(3).map(Row::moved_words).chain(wall).collect(),
                cost: tried.cost.to_owned(),
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
