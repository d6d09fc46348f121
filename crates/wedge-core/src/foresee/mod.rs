//! Foresight as one pure function: a rider, a bike, a setup and changes in, the position before and after out.
//!
//! ```
//! use wedge_core::example;
//! use wedge_core::foresee::{Change, foresee};
//! use wedge_core::measure::{Output, Quantity};
//!
//! let mut input = example::road();
//! input.changes.push(Change::by(Quantity::SaddleHeight, -6.0));
//! let foreseen = foresee(&input).expect("the example is in range");
//! assert_eq!(foreseen.title, "Saddle down 6");
//! let knee = foreseen.rows.iter().find(|row| row.output == Output::KneeAtFullReach).expect("any rider has knees");
//! assert!(knee.change > 2.0 * knee.spread, "a lower saddle bends the knee, beyond doubt");
//! ```
//!
//! The model fitted to what was seen of the rider:
//!
//! ```
//! use wedge_core::example;
//! use wedge_core::foresee::{Look, Sighting, calibrate};
//! use wedge_core::measure::{Method, Output};
//! use wedge_core::units::Side;
//!
//! let input = example::road();
//! let ride = input.check().expect("the example is in range");
//! let seen = Sighting { output: Output::KneeAtFullReach, side: Some(Side::Left), value: 38.0, method: Method::Film, spread: None };
//! let look = Look::of(input.setup, vec![seen]);
//! let calibration = calibrate(&ride, &[look]).expect("a knee can be fitted to");
//! let knee = &calibration.sightings[0];
//! assert!((knee.after - 38.0).abs() < (knee.before - 38.0).abs());
//! ```

mod band;
mod calibrate;
mod change;
mod doubt;
mod fault;
mod input;
mod offer;
mod post;
mod rotate;
mod row;
mod step;
mod weighed;
mod worth;

pub use calibrate::{
    Calibration, FittedParameter, FittedSighting, Look, SeenTogether, Sighting, calibrate,
};
pub use change::{Change, Turn, meant};
pub use input::ForeseeInput;
pub use offer::Offer;
pub(crate) use offer::WORTH_MM;
pub(crate) use post::post_travel;
pub(crate) use rotate::rotate_ride;
pub use rotate::{Rotation, rotate};
pub use row::Row;
pub(crate) use step::within_limits;
pub use step::{Bound, Step};
pub use weighed::Trying;
pub(crate) use weighed::Weighing;
pub use worth::{Worth, next_readings};

use crate::bike::{Placed, Setup, StackPart, Steerer, front_stack};
use crate::measure::{Output, Refusal};
use crate::position::{Position, Ride, marks};
use crate::rider::{Detail, Lengths};
use crate::rule::{Rule, rules};
use crate::units::Side;
use crate::words::{capital, hands_moved_words, lower, sentence, written};
use serde::{Deserialize, Serialize};

/// What is foreseen of changes.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Foresight {
    /// The core that foresaw it.
    pub core_version: String,
    /// The changes in a few words: "Saddle down 6". Empty without changes.
    pub title: String,
    /// Each bolt to turn.
    pub turns: Vec<Turn>,
    /// What it does to hands, torso and shoulder, where it moves the hands: "hands 12 nearer, 6 higher; torso 44.1° ± 1.2".
    #[serde(default)]
    pub hands: Option<String>,
    /// What stands on the steerer, where the front is turned.
    #[serde(default)]
    pub stack: Vec<StackPart>,
    /// What to keep in mind: parts that no longer fit, work the change calls for.
    pub notes: Vec<String>,
    /// What the trade does not do in one trial: tried only when the fitter insists.
    #[serde(default)]
    pub insist: Vec<String>,
    /// Compensating moves, each a linked trial.
    pub offers: Vec<Offer>,
    /// Every output before and after, the largest change against its spread first.
    pub rows: Vec<Row>,
    /// The body lengths used, measured or estimated.
    pub lengths: Lengths,
    /// The position before.
    pub before: Position,
    /// The position after; the same as before without changes.
    pub after: Position,
    /// The setup after.
    pub setup: Setup,
    /// The steerer's budget after, when its length is known.
    pub steerer: Option<Steerer>,
}

rules! {
    order_rules "Order of work";
    /// A front change that moves the hand further calls for a recheck of the saddle.
    const FRONT_RECHECK_MM: f64 = 10.0, " mm", Workshop;
    /// The most a crank changes at once, unless the fitter insists.
    pub(crate) const CRANK_AT_ONCE_MM: f64 = 5.0, " mm", Workshop;
}

/// The room's lines of the table of rules.
pub(crate) fn rules() -> Vec<Rule> {
    [
        order_rules(),
        offer::rules(),
        calibrate::rules(),
        fault::rules(),
        worth::rules(),
    ]
    .concat()
}

/// Foresees what the changes do to everything else, before a bolt is turned.
///
/// The same input always gives the same answer, whatever the path to it. Errors name each value that cannot be
/// accepted; a position out of reach is an answer.
pub fn foresee(input: &ForeseeInput) -> Result<Foresight, Vec<Refusal>> {
    foresee_on(&input.check()?, &input.changes)
}

/// The same for a ride that is checked already.
pub fn foresee_on(ride: &Ride, changes: &[Change]) -> Result<Foresight, Vec<Refusal>> {
    let scene = ride.scene(Detail::Fine);
    let setup = change::apply(ride, changes)?;
    let changes = &meant(ride, changes);
    let mut before = Position::of(&scene, &ride.setup);
    let mut after = if setup == ride.setup {
        before.clone()
    } else {
        Position::of(&scene, &setup)
    };
    let steerer = Steerer::budget(&ride.frame, &setup.cockpit);
    let bands = band::bands(ride, &before, &setup);
    before.marks = marks(&before, &ride.ranges, |output, side| {
        bands.of(output, side).before
    });
    after.marks = marks(&after, &ride.ranges, |output, side| {
        bands.of(output, side).after
    });
    Ok(Foresight {
        core_version: crate::VERSION.to_owned(),
        title: change::title(ride, changes, &setup),
        turns: change::turns(ride, &setup),
        insist: insist(ride, &setup),
        hands: hands(&before, &after, &bands),
        stack: if setup.cockpit == ride.setup.cockpit {
            Vec::new()
        } else {
            front_stack(&ride.frame, &ride.setup.cockpit, &setup.cockpit)
        },
        notes: notes(ride, changes, (&before, &after), steerer.as_ref()),
        offers: offer::offers(ride, changes, &before, (&setup, &after)),
        rows: row::rows(&before, &after, &bands, &ride.ranges),
        lengths: ride.person.lengths,
        before,
        after,
        setup: setup.into(),
        steerer,
    })
}

/// What passes a limit of the body, or takes the room something needs, and did not before.
/// Where the hands go and what that does above them, once they move by half a millimetre.
fn hands(before: &Position, after: &Position, bands: &band::Bands) -> Option<String> {
    let by = after.bike.hand - before.bike.hand;
    (by.length() >= 0.5).then(|| {
        let told = |output: Output| {
            let value = output.of(after, Side::Right)?;
            let band = bands.of(output, Side::Right).after;
            let label = lower(output.spec().label);
            Some(format!("{label} {}° ± {}", written(value), written(band)))
        };
        let angles: Vec<String> = [Output::Torso, Output::Shoulder]
            .into_iter()
            .filter_map(told)
            .collect();
        let moved = hands_moved_words(by.x, by.y);
        capital(&[vec![moved], vec![angles.join(", ")]].concat().join("; "))
    })
}

fn limits(ride: &Ride, before: &Position, after: &Position) -> Vec<String> {
    let mut notes = Vec::new();
    for side in Side::BOTH {
        let flexion = |p: &Position| p.legs.of(side).hip_flexion_deg.0;
        if let Some(limit) = ride.rider.legs.of(side).hip_limit_deg
            && flexion(after) > limit.0
            && flexion(before) <= limit.0
        {
            notes.push(format!(
                "The {} hip folds {}° past its limit of {}°.",
                side.word(),
                written(flexion(after) - limit.0),
                written(limit.0)
            ));
        }
        let toe = |p: &Position| p.clearances.toe_mm.of(side).0;
        if toe(after) < 0.0 && toe(before) >= 0.0 {
            notes.push(format!(
                "The {} toe now overlaps the front wheel by {} mm.",
                side.word(),
                written(-toe(after))
            ));
        }
    }
    notes
}

/// What must be insisted on.
fn insist(ride: &Ride, setup: &Placed) -> Vec<String> {
    let by = |side: Side| {
        let crank = |setup: &Placed| setup.pedalling.of(side).crank_mm.0;
        (crank(setup) - crank(&ride.setup)).abs()
    };
    let crank = by(Side::Left).max(by(Side::Right));
    if crank > CRANK_AT_ONCE_MM {
        vec![format!(
            "A crank changes by {CRANK_AT_ONCE_MM} mm at once at the most: this is {}.",
            written(crank)
        )]
    } else {
        Vec::new()
    }
}

fn notes(
    ride: &Ride,
    changes: &[Change],
    (before, after): (&Position, &Position),
    steerer: Option<&Steerer>,
) -> Vec<String> {
    let mut notes = after.reach_words();
    let perch = |p: &Position| p.clearances.perch.words.clone();
    let news = perch(after)
        .into_iter()
        .filter(|words| !perch(before).contains(words));
    notes.extend(news.map(|words| sentence(&words)));
    notes.extend(limits(ride, before, after));
    // A stack that was wrong before is the bike's story, not this change's.
    let gap_before = Steerer::budget(&ride.frame, &ride.setup.cockpit).map(|s| s.gap_mm);
    if let Some(steerer) = steerer
        && let Some(fault) = steerer.fault()
        && gap_before != Some(steerer.gap_mm)
    {
        notes.push(sentence(&fault));
    }
    let hand = before.bike.hand.distance(after.bike.hand);
    if hand > FRONT_RECHECK_MM {
        notes.push(format!(
            "The hand moves {} mm: over {FRONT_RECHECK_MM} mm, recheck the saddle after.",
            written(hand)
        ));
    }
    if changes.is_empty() {
        notes.extend(fault::faults(ride, after, steerer));
    }
    if changes.len() > 1 {
        notes.push("Several changes at once: the cause will not be separable.".to_owned());
    }
    notes
}
