//! Guided protocols: a plan, the calls made so far, and from these alone the one thing to do next and, at the end, what
//! was found.
//!
//! A protocol is a function of its calls: it is read from the first call every time. So it is resumed after any
//! interruption, a call taken back is a call fewer, and the same calls always find the same.

use super::setting::Setting;
use super::{Protocol, RunPlan};
use crate::bike::Kind;
use crate::foresee::{Bound, Step, Trying};
use crate::intake::Intake;
use crate::looking::{Sign, SignSeen};
use crate::measure::{Quantity, Refusal, Unit};
use crate::position::{Landmark, Ride};
use crate::rule::rules;
use crate::units::Sides;
use crate::words::written;
use crate::work::Station;
use serde::{Deserialize, Serialize};

rules! {
    rules "Protocols";
    /// A steady effort, as most protocols want it, could be held this long.
    const STEADY_MINUTES: (f64, f64) = (20.0, 30.0), " minutes", Workshop;
}

/// One answer of a run.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Call {
    /// What was asked.
    pub ask: String,
    /// What was called.
    pub answer: Answer,
}

/// What was called.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Answer {
    /// One of the keys offered.
    Key(String),
    /// A number read off.
    Number(f64),
}

/// A run as it stands: what the protocols are functions of.
#[derive(Debug, Clone, Copy)]
pub struct Run<'a> {
    /// What it was set up with.
    pub plan: &'a RunPlan,
    /// The rider on the setup that was on the bench when it began.
    pub on: &'a Trying<'a>,
    /// Every call that stands, in order.
    pub calls: &'a [Call],
    /// Whether it was ended before its time.
    pub stopped: bool,
    /// The hidden order of a blind comparison: whether each round is ridden on the changed setting.
    pub order: &'a [bool],
}

/// A key to call with.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CallKey {
    /// The key: one character, or "Enter".
    pub key: String,
    /// What it calls.
    pub label: String,
}

/// What is asked now.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Ask {
    /// What the call must name, so that no call lands on another question.
    pub id: String,
    /// The question.
    pub question: String,
    /// The keys; none where a number is read off.
    pub keys: Vec<CallKey>,
    /// The number to read off.
    pub number: Option<AskedNumber>,
}

/// A number that is asked for.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct AskedNumber {
    /// What it is.
    pub label: String,
    /// Its unit.
    pub unit: Unit,
    /// Least that can be right.
    pub min: f64,
    /// Largest that can be right.
    pub max: f64,
}

impl Ask {
    pub(super) fn keys(id: String, question: &str, keys: &[(&str, &str)]) -> Self {
        Self {
            id,
            question: question.to_owned(),
            keys: keys
                .iter()
                .map(|(key, label)| CallKey {
                    key: (*key).to_owned(),
                    label: (*label).to_owned(),
                })
                .collect(),
            number: None,
        }
    }

    pub(super) fn enter(id: String, question: &str, label: &str) -> Self {
        Self::keys(id, question, &[("Enter", label)])
    }

    pub(super) fn number(
        id: String,
        question: &str,
        label: &str,
        unit: Unit,
        (min, max): (f64, f64),
    ) -> Self {
        Self {
            id,
            question: question.to_owned(),
            keys: Vec::new(),
            number: Some(AskedNumber {
                label: label.to_owned(),
                unit,
                min,
                max,
            }),
        }
    }

    /// Why this call does not answer it, pointing below `at`.
    pub fn refusal(&self, answer: &Answer, at: &str) -> Option<Refusal> {
        let refused = |key: &str, words: String| Some(Refusal::new(format!("{at}/{key}"), words));
        match (answer, &self.number) {
            (Answer::Key(key), None) => {
                let known: Vec<&str> = self.keys.iter().map(|k| k.key.as_str()).collect();
                if known.contains(&key.as_str()) {
                    None
                } else {
                    refused("key", format!("Call it with {}", known.join(", ")))
                }
            }
            (Answer::Number(value), Some(number)) => {
                if (number.min..=number.max).contains(value) {
                    None
                } else {
                    refused(
                        "number",
                        format!(
                            "{} is {} to {}{}",
                            number.label,
                            written(number.min),
                            written(number.max),
                            number.unit.suffix()
                        ),
                    )
                }
            }
            (Answer::Key(_), Some(_)) => refused("key", "A number is asked for".to_owned()),
            (Answer::Number(_), None) => refused("number", "A key is asked for".to_owned()),
        }
    }
}

/// How a step of a run turned out.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum NotchState {
    /// Nothing to remark.
    Quiet,
    /// What is being looked for was there.
    Marked,
    /// Being ridden.
    Now,
}

/// A step of the run, as it stands on the tape.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Notch {
    /// "738".
    pub label: String,
    /// "left 1, right 0".
    pub words: String,
    /// How it turned out.
    pub state: NotchState,
}

/// What there is to do now.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Screen {
    /// The protocol.
    pub title: String,
    /// Where in it: "Step 4".
    pub place: String,
    /// The one instruction.
    pub instruction: String,
    /// What to mind.
    pub detail: String,
    /// What the rider is to hold; empty where nobody rides.
    pub effort: String,
    /// Seconds on the clock, running since the last call; none while nothing is timed.
    pub timer_s: Option<u32>,
    /// What is asked; none once it is over.
    pub ask: Option<Ask>,
    /// The run so far.
    pub notches: Vec<Notch>,
    /// How far what is ridden now was moved from the setup the run began from; none where nothing was, or it is hidden.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub moved: Option<Shifted>,
}

/// Something moved for a moment, and put back when the run is over.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Shifted {
    /// What.
    pub quantity: Quantity,
    /// By so much.
    pub by: f64,
}

/// What a finding is worth.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Says {
    /// It says what it was asked.
    Found,
    /// The calls are all alike: it says nothing.
    Nothing,
    /// The calls contradict one another.
    Contradicts,
    /// It was ended before it could say anything.
    Broken,
}

/// The picks of a blind comparison.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Picks {
    /// What was changed.
    pub quantity: Quantity,
    /// By how much, without sign.
    pub by: f64,
    /// Rounds ridden.
    pub rounds: u32,
    /// Picked rightly.
    pub right: u32,
    /// How often guessing does as well or better.
    pub chance: f64,
}

/// What a run found: evidence, with the core that found it, never worked out again.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Finding {
    /// By which protocol.
    pub protocol: Protocol,
    /// The core that found it.
    pub core_version: String,
    /// What it is worth.
    pub says: Says,
    /// In the largest type: "745 ± 1 mm".
    pub title: String,
    /// In sentences.
    pub words: Vec<String>,
    /// What it is a finding about.
    #[serde(default)]
    pub quantity: Option<Quantity>,
    /// Where it points, as a setup keeps that quantity: straight height, horizontal setback of the sit reference.
    #[serde(default)]
    pub value: Option<f64>,
    /// Least of what it accepts.
    #[serde(default)]
    pub low: Option<f64>,
    /// Largest of what it accepts.
    #[serde(default)]
    pub high: Option<f64>,
    /// One standard deviation of the value.
    #[serde(default)]
    pub spread: Option<f64>,
    /// Whether the value is only an end.
    #[serde(default)]
    pub bound: Option<Bound>,
    /// Left and right, where they were called apart.
    #[serde(default)]
    pub sides: Option<Sides<Option<f64>>>,
    /// What follows, each a linked trial.
    #[serde(default)]
    pub moves: Vec<Step>,
    /// What waits for the next bike.
    #[serde(default)]
    pub next_bike: Option<String>,
    /// Picks of a blind comparison.
    #[serde(default)]
    pub picks: Option<Picks>,
}

impl Finding {
    pub(super) fn new(protocol: Protocol, says: Says, title: impl Into<String>) -> Self {
        Self {
            protocol,
            core_version: crate::VERSION.to_owned(),
            says,
            title: title.into(),
            words: Vec::new(),
            quantity: None,
            value: None,
            low: None,
            high: None,
            spread: None,
            bound: None,
            sides: None,
            moves: Vec::new(),
            next_bike: None,
            picks: None,
        }
    }

    /// Ended before it could say anything.
    pub(super) fn broken(protocol: Protocol) -> Self {
        Self {
            words: vec!["Ended before there was anything to say.".to_owned()],
            ..Self::new(protocol, Says::Broken, "Ended early")
        }
    }
}

/// A run as it stands.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Guide {
    /// What there is to do now.
    pub screen: Screen,
    /// What was found; none while it goes on.
    pub finding: Option<Finding>,
}

/// What a protocol is set up for.
#[derive(Debug, Clone, Copy)]
pub struct Proposing<'a> {
    /// The rider on the setup on the bench.
    pub on: &'a Trying<'a>,
    /// Where it would begin.
    pub at: Station,
    /// What the rider came with.
    pub intake: &'a Intake,
    /// What the rider feels of saddle height.
    pub height: &'a super::Feels,
    /// What the rider feels of setback.
    pub setback: &'a super::Feels,
    /// From where on the knee plumb lines hang in this studio.
    pub landmark: Landmark,
    /// What was found in this fit, the last last.
    pub findings: &'a [Finding],
    /// Whether it is ridden on a fit stand.
    pub stand: bool,
    /// Cranks on hand, mm.
    pub cranks: &'a [f64],
}

/// A guided protocol: what is asked, what was called, what was found. A file that implements this and its line in
/// [`RunPlan`] are all a protocol needs.
pub(super) trait Guided: Sized {
    /// What was called so far, as the protocol reads it.
    type SoFar: Default;

    /// Which it is.
    const PROTOCOL: Protocol;

    /// The stations it is begun at.
    const AT: &'static [Station];

    /// Whether somebody rides, so that an effort is named.
    const RIDDEN: bool = true;

    /// The kinds of riding it is of.
    const FOR: &'static [Kind] = &Kind::ALL;

    /// How it would be set up for this rider, here and now.
    fn proposed(for_this: &Proposing) -> Self;

    /// What can be set of it before it begins.
    fn settings(&self) -> Vec<Setting>;

    /// What is wrong with how it is set up, pointing below `at`.
    fn refusals(&self, _at: &str) -> Vec<Refusal> {
        Vec::new()
    }

    /// How many throws its hidden order needs; none where nothing is hidden.
    fn hides(&self) -> u32 {
        0
    }

    /// The hidden setting to make now; `None` where nothing is hidden.
    fn setting(&self, _run: &Run, _ever: &[Call]) -> Option<String> {
        None
    }

    /// Whether the last call that stands may be taken back.
    fn gives_back(&self, standing: &[Call], _ever: &[Call]) -> bool {
        !standing.is_empty()
    }

    /// Reads the calls from the first on. It stops at the first question that is not called yet, with what was called
    /// until there in `so_far`.
    fn read(
        &self,
        run: &Run,
        script: &mut Script,
        so_far: &mut Self::SoFar,
    ) -> Result<(), Box<Asked>>;

    /// What was seen on the way that is a sign, each with how far back on its rails the saddle stood.
    fn signs(&self, _run: &Run, _so_far: &Self::SoFar) -> Vec<(SignSeen, f64)> {
        Vec::new()
    }

    /// The run as it stands on the tape.
    fn notches(&self, run: &Run, so_far: &Self::SoFar) -> Vec<Notch>;

    /// What was found, as far as it was called.
    fn finding(&self, run: &Run, so_far: &Self::SoFar) -> Finding;
}

/// The signs a run of a protocol saw, as far as it was called.
pub(super) fn signs<P: Guided>(plan: &P, run: &Run) -> Vec<(SignSeen, f64)> {
    let (mut script, mut so_far) = (Script::of(run), P::SoFar::default());
    // What is not called yet is not asked for here.
    let _ = plan.read(run, &mut script, &mut so_far);
    plan.signs(run, &so_far)
}

/// A sign with no side, there or not, the saddle where it stood.
pub(super) fn seen(sign: Sign, there: bool) -> (SignSeen, f64) {
    let seen = SignSeen {
        sign,
        side: None,
        there: Some(there),
    };
    (seen, 0.0)
}

/// A place of a run on the tape.
pub(super) fn notch(at: f64, words: &str, state: NotchState) -> Notch {
    Notch {
        label: written(at),
        words: words.to_owned(),
        state,
    }
}

/// Where a run of a protocol stands.
pub(super) fn guided<P: Guided>(plan: &P, run: &Run) -> Guide {
    let mut script = Script::of(run);
    let mut so_far = P::SoFar::default();
    let read = plan.read(run, &mut script, &mut so_far);
    let mut notches = plan.notches(run, &so_far);
    let title = P::PROTOCOL.label().to_owned();
    match read {
        Err(asked) if !run.stopped => {
            let Asked {
                ask,
                saying,
                now,
                moved,
            } = *asked;
            notches.extend(now.map(|label| Notch {
                label,
                words: String::new(),
                state: NotchState::Now,
            }));
            Guide {
                screen: Screen {
                    title,
                    place: saying.place,
                    instruction: saying.instruction,
                    detail: saying.detail,
                    effort: if P::RIDDEN {
                        effort_words(run.on)
                    } else {
                        String::new()
                    },
                    timer_s: saying.timer_s,
                    ask: Some(ask),
                    notches,
                    moved,
                },
                finding: None,
            }
        }
        _ => {
            let finding = plan.finding(run, &so_far);
            Guide {
                screen: Screen {
                    title,
                    place: if run.stopped { "Ended" } else { "Done" }.to_owned(),
                    instruction: finding.title.clone(),
                    detail: finding.words.join(" "),
                    effort: String::new(),
                    timer_s: None,
                    ask: None,
                    notches,
                    moved: None,
                },
                finding: Some(finding),
            }
        }
    }
}

/// Reads a run's calls one after the other.
pub(super) struct Script<'a> {
    run: &'a Run<'a>,
    next: usize,
}

/// A question that is not called yet: where reading stops.
pub(super) struct Asked {
    ask: Ask,
    saying: Saying,
    /// What is being ridden, on the tape.
    now: Option<String>,
    /// And what was moved for it.
    moved: Option<Shifted>,
}

impl Asked {
    /// With what is being ridden on the tape.
    pub(super) fn riding(mut self: Box<Self>, now: impl Into<String>) -> Box<Self> {
        self.now = Some(now.into());
        self
    }

    /// With what was moved for it.
    pub(super) fn moved(mut self: Box<Self>, quantity: Quantity, by: f64) -> Box<Self> {
        self.moved = Some(Shifted { quantity, by });
        self
    }
}

/// The number called, or the key's place among those offered.
pub(super) enum Called {
    Key(String),
    Number(f64),
}

impl Called {
    /// A digit that was called; 0 for anything else.
    pub(super) fn digit(&self) -> u32 {
        match self {
            Self::Key(key) => key.parse().unwrap_or_default(),
            Self::Number(_) => 0,
        }
    }

    pub(super) fn is(&self, key: &str) -> bool {
        matches!(self, Self::Key(called) if called == key)
    }

    pub(super) fn value(&self) -> f64 {
        match self {
            Self::Number(value) => *value,
            Self::Key(_) => 0.0,
        }
    }
}

impl<'a> Script<'a> {
    /// From the first call on.
    pub(super) fn of(run: &'a Run<'a>) -> Self {
        Self { run, next: 0 }
    }

    /// What was called when this was asked. A call that answers something else, or answers what cannot be answered so,
    /// ends what can be read; `saying` is what the screen then says.
    pub(super) fn ask(
        &mut self,
        ask: Ask,
        saying: impl FnOnce() -> Saying,
    ) -> Result<Called, Box<Asked>> {
        let called = (self.run.calls.get(self.next))
            .filter(|call| call.ask == ask.id && ask.refusal(&call.answer, "").is_none());
        let Some(call) = called else {
            return Err(Box::new(Asked {
                ask,
                saying: saying(),
                now: None,
                moved: None,
            }));
        };
        self.next += 1;
        Ok(match &call.answer {
            Answer::Key(key) => Called::Key(key.clone()),
            Answer::Number(value) => Called::Number(*value),
        })
    }
}

/// What a screen says besides its question.
pub(super) struct Saying {
    pub(super) place: String,
    pub(super) instruction: String,
    pub(super) detail: String,
    pub(super) timer_s: Option<u32>,
}

/// A place along the rails: "5 mm back", or what it is called where the saddle has not moved.
pub(super) fn along_rails(back: f64, unmoved: &str) -> String {
    if back.abs() < 0.05 {
        unmoved.to_owned()
    } else {
        format!(
            "{} mm {}",
            written(back.abs()),
            if back > 0.0 { "back" } else { "forward" }
        )
    }
}

/// A setback in the chosen convention with its unit, after so much travel of post and rails.
pub(super) fn setback_words(ride: &Ride, post: f64, back: f64) -> String {
    let unit = ride.conventions.setback.unit().suffix();
    format!("{}{unit}", written(ride.setback_at(post, back)))
}

/// "Hold 200 W at 90 rpm".
fn effort_words(ride: &Ride) -> String {
    ride.effort.map_or_else(
        || {
            format!(
                "Steady: what could be held for {} to {} minutes; name it above before you compare",
                STEADY_MINUTES.0, STEADY_MINUTES.1
            )
        },
        |effort| {
            format!(
                "Hold {} W at {} rpm",
                written(effort.power_w),
                written(effort.cadence_rpm)
            )
        },
    )
}
