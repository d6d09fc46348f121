//! Foresight as one pure function: a rider, a bike, a setup and changes in, the position before and after out.

mod band;
mod calibrate;
mod change;
mod dimensions;
mod found;
mod input;
mod offer;
mod perched;
mod person;
mod position;
mod post;
mod rotate;
mod row;
mod weighed;

pub use calibrate::{Calibration, FittedParameter, FittedSighting, Look, Sighting, calibrate};
pub use change::{Change, Turn};
pub(crate) use change::{capital, lower};
pub(crate) use dimensions::setback_on_grade;
pub use dimensions::{Dimensions, fitted};
pub use found::{settle, unmeasured_saddle};
pub use input::{Effort, ForeseeInput, Observations, Rider};
pub use offer::Offer;
pub(crate) use offer::WORTH_MM;
pub(crate) use perched::{height_at, post_to, read_saddle, setback_at, sit_moved};
pub use person::{Fit, Held, Parameter};
pub use position::{Clearances, Position};
pub(crate) use post::post_travel;
pub use rotate::{Rotation, rotate};
pub use row::Row;
pub(crate) use weighed::{Trying, Weighing, weigh};

use crate::bike::{Setup, Steerer};
use crate::measure::{Refusal, written};
use crate::plane::Point;
use crate::rider::{Detail, Lengths, PitchSeen};
use crate::rule::{Rule, rules};
use crate::units::{Degrees, Side, Sides};
use person::Person;
use position::{Scene, sentence};
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
        person::spread::rules(),
        person::rules(),
        calibrate::rules(),
    ]
    .concat()
}

/// Foresees what the changes do to everything else, before a bolt is turned.
///
/// The same input always gives the same answer, whatever the path to it. Errors name each value that cannot be
/// accepted; a position out of reach is an answer.
pub fn foresee(input: &ForeseeInput) -> Result<Foresight, Vec<Refusal>> {
    input.check()?;
    let model = Model::of(input)?;
    let scene = model.scene(input, Degrees(0.0));
    let at = |setup: &Setup| Position::of(&scene, setup).ok_or_else(no_saddle);

    let setup = change::apply(input)?;
    let before = at(&input.setup)?;
    let after = if setup == input.setup {
        before.clone()
    } else {
        at(&setup)?
    };
    let steerer = Steerer::budget(&input.frame, &setup.cockpit);
    let bands = band::bands(input, &model, &before, &setup);
    Ok(Foresight {
        core_version: crate::VERSION.to_owned(),
        title: change::title(input, &setup),
        turns: change::turns(input, &setup),
        insist: insist(input, &setup),
        notes: notes(input, &before, &after, steerer.as_ref()),
        offers: offer::offers(&scene, &before, &setup, &after),
        rows: row::rows(&before, &after, &bands, &input.ranges()),
        lengths: model.person.lengths,
        before,
        after,
        setup,
        steerer,
    })
}

/// The position as it stands, without changes, rows or bands: what a drawing needs.
pub fn position(input: &ForeseeInput) -> Result<Position, Vec<Refusal>> {
    input.check()?;
    let model = Model::of(input)?;
    Position::of(&model.scene(input, Degrees(0.0)), &input.setup).ok_or_else(no_saddle)
}

/// The rider as the linkage knows one, and the foot's pattern.
struct Model {
    person: Person,
    seen: Sides<PitchSeen>,
}

impl Model {
    /// Without an observed foot, its pattern is that of the setup before the changes.
    fn of(input: &ForeseeInput) -> Result<Self, Vec<Refusal>> {
        let person = Person::of(&input.rider, input.fit.as_ref());
        let seen = input
            .observed
            .pitch
            .or_else(|| position::observe(input, &person))
            .ok_or_else(no_saddle)?;
        Ok(Self { person, seen })
    }

    fn scene<'a>(&'a self, input: &'a ForeseeInput, rotation: Degrees) -> Scene<'a> {
        Scene {
            input,
            person: &self.person,
            seen: &self.seen,
            rotation,
            detail: Detail::Fine,
        }
    }
}

/// How far the hands would have to go, forward and up, for this torso and this hip–shoulder–elbow angle. `None` when
/// the saddle has no place.
pub(crate) fn hand_way(input: &ForeseeInput, torso: Degrees, shoulder: Degrees) -> Option<Point> {
    hand_way_on(input, &input.setup, torso, shoulder)
}

/// The same on another setup than the input's.
pub(crate) fn hand_way_on(
    input: &ForeseeInput,
    setup: &Setup,
    torso: Degrees,
    shoulder: Degrees,
) -> Option<Point> {
    let person = Person::of(&input.rider, input.fit.as_ref());
    position::hands_to(input, &person, setup, torso, shoulder)
}

/// Foot pitch as it stands in this setup: what later trials answer to until the foot is looked at again. `None` when
/// the saddle has no place.
pub fn observe_pitch(input: &ForeseeInput) -> Option<Sides<PitchSeen>> {
    position::observe(input, &Person::of(&input.rider, input.fit.as_ref()))
}

fn no_saddle() -> Vec<Refusal> {
    vec![Refusal::new(
        "/setup/saddle/setback_mm",
        "A setback as long as the saddle height has no saddle: check both",
    )]
}

/// What passes a limit of the body, or takes the room something needs, and did not before.
fn limits(input: &ForeseeInput, before: &Position, after: &Position) -> Vec<String> {
    let mut notes = Vec::new();
    for side in Side::BOTH {
        let flexion = |p: &Position| p.legs.of(side).hip_flexion_deg.0;
        if let Some(limit) = input.rider.legs.of(side).hip_limit_deg
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
fn insist(input: &ForeseeInput, setup: &Setup) -> Vec<String> {
    let by = |side: Side| {
        let crank = |setup: &Setup| setup.pedalling.of(side).crank_mm.0;
        (crank(setup) - crank(&input.setup)).abs()
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
    input: &ForeseeInput,
    before: &Position,
    after: &Position,
    steerer: Option<&Steerer>,
) -> Vec<String> {
    let mut notes = after.reach_words();
    let perch = |p: &Position| p.clearances.perch.words.clone();
    let news = perch(after)
        .into_iter()
        .filter(|words| !perch(before).contains(words));
    notes.extend(news.map(|words| sentence(&words)));
    notes.extend(limits(input, before, after));
    // A stack that was wrong before is the bike's story, not this change's.
    let gap_before = Steerer::budget(&input.frame, &input.setup.cockpit).map(|s| s.gap_mm);
    if let Some(steerer) = steerer
        && !steerer.words.is_empty()
        && gap_before != Some(steerer.gap_mm)
    {
        notes.push(format!(
            "Steerer gap {} mm: {}.",
            written(steerer.gap_mm.0),
            steerer.words
        ));
    }
    let hand = before.bike.hand.distance(after.bike.hand);
    if hand > FRONT_RECHECK_MM {
        notes.push(format!(
            "The hand moves {} mm: over {FRONT_RECHECK_MM} mm, recheck the saddle after.",
            written(hand)
        ));
    }
    if input.changes.len() > 1 {
        notes.push("Several changes at once: the cause will not be separable.".to_owned());
    }
    notes
}
