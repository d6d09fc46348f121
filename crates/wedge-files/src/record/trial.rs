//! Trials, with what was seen and said of them.

use super::{refuse_effort, refuse_words};
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use uuid::Uuid;
use wedge_core::foresee::{Change, Foresight, Row, Turn};
use wedge_core::measure::{Output, Refusal};
use wedge_core::rider::Effort;
use wedge_core::trial::{Compared, Felt, Sure};
use wedge_core::units::Side;

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
    /// What became of it; nothing follows but words and its own undoing.
    Outcome(Outcome),
    /// The last verdict or outcome was not meant: it stays on record and counts no more.
    Undone(Undone),
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
            Self::Verdict(_) | Self::Sure(_) | Self::Outcome(_) | Self::Undone(_) => Vec::new(),
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
