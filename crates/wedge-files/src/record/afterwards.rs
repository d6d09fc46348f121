//! What leaves a fit and what comes back of it: plans, who was asked what, and rides.

use super::{LedgerRide, RideTakenOut, refuse_words};
use jiff::Timestamp;
use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use uuid::Uuid;
use wedge_core::between::Specialist;
use wedge_core::foresee::Change;
use wedge_core::measure::{Quantity, Refusal};
use wedge_core::units::Side;

/// Something between visits with its place in time: append-only.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct AfterEntry {
    /// Made by the client.
    pub id: Uuid,
    /// When.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = DateTime))]
    pub at: Timestamp,
    /// What.
    pub body: AfterBody,
}

/// What is written down between visits.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum AfterBody {
    /// A plan in place of the one before; one without steps withdraws it.
    Plan(Plan),
    /// Somebody else is asked.
    Referral(Referral),
    /// What they said.
    Answered(Answered),
    /// A ride as the rider kept it; in place of what was read of it before.
    Ride(LedgerRide),
    /// A ride that was read by mistake.
    TakenOut(RideTakenOut),
}

/// An adaptation plan as the rider has it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "schema", schema(as = AdaptationPlan))]
#[serde(deny_unknown_fields)]
pub struct Plan {
    /// The steps, by day.
    pub steps: Vec<PlannedStep>,
}

/// A step of a plan with its day: told as it was when the plan was made.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct PlannedStep {
    /// From when.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = Date))]
    pub on: Date,
    /// What moves.
    pub quantity: Quantity,
    /// On which side, where only one does.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub side: Option<Side>,
    /// By how much.
    pub by: f64,
    /// How much the post goes up with it, where it answers so that the knee stays, mm.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub post_up_mm: Option<f64>,
    /// "Saddle up 5".
    pub title: String,
    /// "Saddle height: 5 of 12 mm, to 758 mm".
    pub words: String,
    /// When to go one step back.
    pub stop: String,
}

impl Plan {
    /// How many of its steps have begun on a day.
    pub fn begun(&self, on: Date) -> usize {
        self.steps.iter().filter(|step| step.on <= on).count()
    }
}

impl PlannedStep {
    /// What it changes.
    pub fn changes(&self) -> Vec<Change> {
        let post = self
            .post_up_mm
            .map(|up| Change::by(Quantity::SaddleHeight, up));
        let own = Change {
            side: self.side,
            ..Change::by(self.quantity, self.by)
        };
        std::iter::once(own).chain(post).collect()
    }
}

/// What a fit cannot mend, and who is asked.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Referral {
    /// What it is.
    pub what: String,
    /// How it was seen.
    #[serde(default)]
    pub seen: String,
    /// Since when, in the rider's words.
    #[serde(default)]
    pub since: String,
    /// Who is asked.
    pub to: Specialist,
    /// What they are asked.
    pub question: String,
    /// When an answer is wanted.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>, format = Date))]
    pub back_by: Option<Date>,
}

/// What they said.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Answered {
    /// Which referral.
    pub referral: Uuid,
    /// In their words.
    pub said: String,
}

/// More steps than this are no plan.
const MOST_STEPS: usize = 60;

impl AfterEntry {
    /// Everything about it that cannot be accepted, pointing below `at`.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        let at = format!("{at}/body");
        match &self.body {
            AfterBody::Plan(plan) => plan.refusals(&format!("{at}/plan")),
            AfterBody::Referral(referral) => referral.refusals(&format!("{at}/referral")),
            AfterBody::Answered(answered) => {
                let at = format!("{at}/answered/said");
                let mut all = Vec::from_iter(refuse_words(&answered.said, &at));
                if answered.said.trim().is_empty() {
                    all.push(Refusal::new(at, "Write down what they said"));
                }
                all
            }
            AfterBody::Ride(ride) => ride.refusals(&format!("{at}/ride")),
            AfterBody::TakenOut(_) => Vec::new(),
        }
    }
}

impl Plan {
    fn refusals(&self, at: &str) -> Vec<Refusal> {
        let mut all = Vec::new();
        if self.steps.len() > MOST_STEPS {
            all.push(Refusal::new(
                format!("{at}/steps"),
                format!("{MOST_STEPS} steps are the most"),
            ));
        }
        for (index, step) in self.steps.iter().enumerate() {
            let at = format!("{at}/steps/{index}");
            for (words, field) in [
                (&step.title, "title"),
                (&step.words, "words"),
                (&step.stop, "stop"),
            ] {
                all.extend(refuse_words(words, &format!("{at}/{field}")));
            }
            if !step.by.is_finite() || step.post_up_mm.is_some_and(|up| !up.is_finite()) {
                all.push(Refusal::new(format!("{at}/by"), "A number is wanted"));
            }
            if index > 0 && self.steps[index - 1].on >= step.on {
                all.push(Refusal::new(
                    format!("{at}/on"),
                    "Each step begins after the one before it",
                ));
            }
        }
        all
    }
}

impl Referral {
    fn refusals(&self, at: &str) -> Vec<Refusal> {
        let mut all = Vec::new();
        for (words, field) in [
            (&self.what, "what"),
            (&self.seen, "seen"),
            (&self.since, "since"),
            (&self.question, "question"),
        ] {
            all.extend(refuse_words(words, &format!("{at}/{field}")));
        }
        if self.what.trim().is_empty() {
            all.push(Refusal::new(format!("{at}/what"), "Say what it is"));
        }
        if self.question.trim().is_empty() {
            all.push(Refusal::new(
                format!("{at}/question"),
                "Say what they are asked",
            ));
        }
        all
    }
}
