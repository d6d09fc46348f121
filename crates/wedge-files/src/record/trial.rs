//! Trials, with what was seen and said of them.

use super::{refuse_effort, refuse_words};
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use uuid::Uuid;
use wedge_core::bike::StackPart;
use wedge_core::foresee::{Change, Foresight, Row, Turn};
use wedge_core::looking::{HandWeight, SignSeen};
use wedge_core::measure::{Output, Refusal, within};
use wedge_core::rider::Effort;
use wedge_core::solve::Due;
use wedge_core::trial::{Compared, Felt, Hurts, Sure};
use wedge_core::units::Side;
use wedge_core::work::FrontStep;

/// What was foreseen of a trial, stored and never worked out again.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct TrialForesight {
    /// The core that foresaw it.
    pub core_version: String,
    /// "Saddle down 6".
    pub title: String,
    /// Each bolt.
    pub turns: Vec<Turn>,
    /// What it does to hands, torso and shoulder, where it moves the hands.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub hands: Option<String>,
    /// What stands on the steerer before and after, where the front is turned.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub stack: Vec<StackPart>,
    /// What was to be kept in mind.
    pub notes: Vec<String>,
    /// Every output before and after, with the spread of its change.
    pub rows: Vec<Row>,
}

impl From<&Foresight> for TrialForesight {
    fn from(foresight: &Foresight) -> Self {
        Self {
            core_version: foresight.core_version.clone(),
            title: foresight.title.clone(),
            turns: foresight.turns.clone(),
            hands: foresight.hands.clone(),
            stack: foresight.stack.clone(),
            notes: foresight.notes.clone(),
            rows: foresight.rows.clone(),
        }
    }
}

/// How the rider found it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Verdict {
    /// Better than before.
    Better,
    /// No difference.
    Same,
    /// Worse than before.
    Worse,
}

/// What became of a trial.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Outcome {
    /// It stays.
    Kept,
    /// The setup before is back on the bench.
    PutBack,
}

/// One output as seen on the rider.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Seen {
    /// What was seen.
    pub output: Output,
    /// On which side.
    #[serde(default)]
    pub side: Option<Side>,
    /// The value; none takes an earlier one back.
    pub value: Option<f64>,
}

/// One thing written down about a trial.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum EntryBody {
    /// An output as seen.
    Seen(Seen),
    /// What the rider said; later words replace earlier ones.
    Words(String),
    /// Why it was tried.
    Why(String),
    /// The effort it was ridden at, where that is another than the fit's.
    Effort(Effort),
    /// How the rider found it; a later verdict replaces an earlier one.
    Verdict(Verdict),
    /// Where that is felt; a later list replaces an earlier one.
    Felt(Vec<Felt>),
    /// How sure the rider is.
    Sure(Sure),
    /// Where it hurts, asked again; a later answer of the place replaces an earlier one.
    Hurts(Hurts),
    /// A sign that was looked for, there or not.
    Sign(SignSeen),
    /// What a hand carries.
    Hand(HandWeight),
    /// For how many minutes it was held.
    Held(f64),
    /// A step of the front-end work, done or taken back.
    Done(StepDone),
    /// What the move made due was checked.
    Checked(Checked),
    /// What became of it; nothing follows but words, the work and the checks it made due, and its own undoing.
    Outcome(Outcome),
    /// The last verdict or outcome was not meant: it stays on record and counts no more.
    Undone(Undone),
}

/// A step of the front-end work.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct StepDone {
    /// Which.
    pub step: FrontStep,
    /// Whether it is done.
    pub done: bool,
}

/// Something that a move made due, checked.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Checked {
    /// What.
    pub due: Due,
    /// Whether it stays as it is; taken back where not.
    pub stays: bool,
    /// How far ahead of the sit reference the rider sits now, where that was looked at, mm;
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub sits_ahead_mm: Option<f64>,
    /// and how far before the move.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub sat_ahead_mm: Option<f64>,
}

/// What can be taken back.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Undone {
    /// How the rider found it.
    Verdict,
    /// What became of it.
    Outcome,
}

impl EntryBody {
    /// Everything about it that cannot be accepted, pointing below `at`.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        match self {
            Self::Seen(seen) => {
                let at = format!("{at}/seen/value");
                let refusal = seen
                    .value
                    .and_then(|value| seen.output.refuse_seen(value, &at));
                Vec::from_iter(refusal)
            }
            Self::Words(said) => Vec::from_iter(refuse_words(said, &format!("{at}/words"))),
            Self::Why(why) => Vec::from_iter(refuse_words(why, &format!("{at}/why"))),
            Self::Effort(effort) => effort.refusals(&format!("{at}/effort")),
            Self::Felt(felt) => (felt.iter().enumerate())
                .filter_map(|(index, felt)| felt.refusal(&format!("{at}/felt/{index}")))
                .collect(),
            Self::Hurts(hurts) => Vec::from_iter(hurts.refusal(&format!("{at}/hurts"))),
            Self::Sign(sign) => Vec::from_iter(sign.refusal(&format!("{at}/sign"))),
            Self::Hand(hand) => Vec::from_iter(hand.refusal(&format!("{at}/hand"))),
            Self::Checked(checked) => {
                let what = "How far ahead the rider sits, in mm,";
                let both = [
                    ("sits_ahead_mm", checked.sits_ahead_mm),
                    ("sat_ahead_mm", checked.sat_ahead_mm),
                ];
                let refused = |(key, mm): (&str, Option<f64>)| {
                    within(format!("{at}/checked/{key}"), mm?, -40.0, 120.0, what)
                };
                both.into_iter().filter_map(refused).collect()
            }
            Self::Held(minutes) => {
                let what = "How long it was held, in minutes,";
                Vec::from_iter(within(format!("{at}/held"), *minutes, 0.0, 1440.0, what))
            }
            Self::Done(_)
            | Self::Verdict(_)
            | Self::Sure(_)
            | Self::Outcome(_)
            | Self::Undone(_) => Vec::new(),
        }
    }
}

/// An entry with its place in time: append-only.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Entry {
    /// Made by the client.
    pub id: Uuid,
    /// When.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = DateTime))]
    pub at: Timestamp,
    /// What.
    pub body: EntryBody,
}

/// One change tried on the bench.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Trial {
    /// Made by the client.
    pub id: Uuid,
    /// The how-manieth of the session, from 1.
    pub number: i64,
    /// When it was begun.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = DateTime))]
    pub tried_at: Timestamp,
    /// What was asked for.
    pub changes: Vec<Change>,
    /// The effort it was ridden at.
    pub effort: Option<Effort>,
    /// What was foreseen.
    pub foreseen: TrialForesight,
    /// The setup before, among the session's.
    pub before: Uuid,
    /// The setup tried, among the session's.
    pub after: Uuid,
    /// What was written down about it, in order.
    pub entries: Vec<Entry>,
}

impl Trial {
    /// Everything about it that cannot be accepted, pointing below `at`.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        let mut all = refuse_effort(self.effort, at);
        for (index, entry) in self.entries.iter().enumerate() {
            all.extend(entry.body.refusals(&format!("{at}/entries/{index}/body")));
        }
        all
    }

    /// What became of it, `None` while it is on the bench.
    pub fn outcome(&self) -> Option<Outcome> {
        self.standing(Undone::Outcome, |body| match body {
            EntryBody::Outcome(outcome) => Some(*outcome),
            _ => None,
        })
    }

    /// The last of its kind that was not undone.
    fn standing<T>(&self, kind: Undone, of: impl Fn(&EntryBody) -> Option<T>) -> Option<T> {
        let mut all = Vec::new();
        for entry in &self.entries {
            if entry.body == EntryBody::Undone(kind) {
                all.pop();
            }
            all.extend(of(&entry.body));
        }
        all.pop()
    }

    /// How the rider found it.
    pub fn verdict(&self) -> Option<Verdict> {
        self.standing(Undone::Verdict, |body| match body {
            EntryBody::Verdict(verdict) => Some(*verdict),
            _ => None,
        })
    }

    /// What the rider said.
    pub fn words(&self) -> Option<&str> {
        self.last_text(|body| match body {
            EntryBody::Words(words) => Some(words),
            _ => None,
        })
    }

    /// Why it was tried.
    pub fn why(&self) -> Option<&str> {
        self.last_text(|body| match body {
            EntryBody::Why(why) => Some(why),
            _ => None,
        })
    }

    fn last_text(&self, of: impl Fn(&EntryBody) -> Option<&String>) -> Option<&str> {
        let last = self.entries.iter().rev().find_map(|e| of(&e.body))?;
        Some(last.as_str()).filter(|text| !text.is_empty())
    }

    /// The effort it was ridden at.
    pub fn ridden_at(&self) -> Option<Effort> {
        let later = self.entries.iter().rev().find_map(|e| match e.body {
            EntryBody::Effort(effort) => Some(effort),
            _ => None,
        });
        later.or(self.effort)
    }

    /// For how many minutes it was held, the longest time.
    pub fn held_min(&self) -> Option<f64> {
        let held = self.entries.iter().filter_map(|e| match e.body {
            EntryBody::Held(minutes) => Some(minutes),
            _ => None,
        });
        held.max_by(f64::total_cmp)
    }

    /// Where it is felt.
    pub fn felt(&self) -> &[Felt] {
        let last = self.entries.iter().rev().find_map(|e| match &e.body {
            EntryBody::Felt(felt) => Some(felt.as_slice()),
            _ => None,
        });
        last.unwrap_or_default()
    }

    /// How sure the rider is of the verdict.
    pub fn sure(&self) -> Option<Sure> {
        self.entries.iter().rev().find_map(|e| match e.body {
            EntryBody::Sure(sure) => Some(sure),
            _ => None,
        })
    }

    /// Where it hurts, asked again: the latest answer of each place and side.
    pub fn hurts(&self) -> Vec<Hurts> {
        let mut all: Vec<Hurts> = Vec::new();
        for entry in &self.entries {
            if let EntryBody::Hurts(new) = entry.body {
                all.retain(|known| (known.place, known.side) != (new.place, new.side));
                all.extend(new.how_bad.map(|_| new));
            }
        }
        all
    }

    /// The signs that were looked for, the latest of each kind and side; what a hand carries counts as one.
    pub fn signs(&self) -> Vec<SignSeen> {
        let mut all: Vec<SignSeen> = Vec::new();
        for entry in &self.entries {
            match entry.body {
                EntryBody::Sign(sign) => replace_sign(&mut all, sign),
                EntryBody::Hand(hand) => replace_hand(&mut all, hand),
                _ => {}
            }
        }
        all
    }

    /// What each hand carries, as it was rated last.
    pub fn hand_weights(&self) -> Vec<HandWeight> {
        let mut all: Vec<HandWeight> = Vec::new();
        for entry in &self.entries {
            if let EntryBody::Hand(hand) = entry.body {
                all.retain(|known| known.side != hand.side);
                all.extend(hand.weight.map(|_| hand));
            }
        }
        all
    }

    /// The steps of the front-end work that are done.
    pub fn done(&self) -> Vec<FrontStep> {
        let mut all = Vec::new();
        for entry in &self.entries {
            if let EntryBody::Done(StepDone { step, done }) = entry.body {
                all.retain(|known| *known != step);
                all.extend(done.then_some(step));
            }
        }
        all
    }

    /// What of what it made due was checked and stays.
    pub fn checked(&self) -> Vec<Checked> {
        let mut all: Vec<Checked> = Vec::new();
        for entry in &self.entries {
            if let EntryBody::Checked(checked) = entry.body {
                all.retain(|known| known.due != checked.due);
                all.extend(checked.stays.then_some(checked));
            }
        }
        all
    }

    /// What was seen of it beside what was foreseen: what foresight is scored by.
    pub fn compared(&self) -> Vec<Compared> {
        self.seen()
            .into_iter()
            .filter_map(|seen| {
                // Seen without a side, it was the near one: the right.
                let rows = || {
                    self.foreseen
                        .rows
                        .iter()
                        .filter(|r| r.output == seen.output)
                };
                let row = rows()
                    .find(|row| row.side == seen.side || row.side.is_none())
                    .or_else(|| rows().find(|row| row.side == Some(Side::Right)))?;
                Some(Compared {
                    output: seen.output,
                    foreseen: row.after,
                    band: row.band,
                    seen: seen.value?,
                })
            })
            .collect()
    }

    /// The latest value seen of each output and side.
    pub fn seen(&self) -> Vec<Seen> {
        let mut seen: Vec<Seen> = Vec::new();
        for entry in &self.entries {
            if let EntryBody::Seen(new) = entry.body {
                seen.retain(|s| (s.output, s.side) != (new.output, new.side));
                if new.value.is_some() {
                    seen.push(new);
                }
            }
        }
        seen
    }
}

/// A later look for a sign takes the place of an earlier one; a look without an answer takes it back.
fn replace_sign(all: &mut Vec<SignSeen>, new: SignSeen) {
    all.retain(|known| (known.sign, known.side) != (new.sign, new.side));
    all.extend(new.there.map(|_| new));
}

/// The same of what a hand carries, as the sign it stands for.
fn replace_hand(all: &mut Vec<SignSeen>, new: HandWeight) {
    let heavy = wedge_core::looking::Sign::HandsHeavy;
    all.retain(|known| (known.sign, known.side) != (heavy, Some(new.side)));
    all.extend(new.sign());
}
