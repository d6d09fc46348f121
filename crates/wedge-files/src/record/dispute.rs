//! Where the fitter disagrees with the judge, and why.

use super::refuse_words;
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use uuid::Uuid;
use wedge_core::judge::{Axis, fault_of};
use wedge_core::measure::Refusal;

/// What is disputed.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Disputed {
    /// A fault is not there: it is never proposed. Its key, `height:high`, `dip_r`.
    Fault(String),
    /// A witness is struck out. Its key, as the judge gave it.
    Witness(String),
    /// An axis is right where it stands.
    Right(Axis),
    /// An earlier disagreement is taken back. Its id.
    TakenBack(Uuid),
}

/// A disagreement with its place in time: append-only.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Dispute {
    /// Made by the client.
    pub id: Uuid,
    /// When.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = DateTime))]
    pub at: Timestamp,
    /// What.
    pub about: Disputed,
    /// As that was told when it was disputed: "Saddle too high".
    pub told: String,
    /// Why, in the fitter's words.
    pub reason: String,
}

impl Dispute {
    /// Everything about it that cannot be accepted, pointing below `at`.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        let mut all: Vec<Refusal> =
            Vec::from_iter(refuse_words(&self.reason, &format!("{at}/reason")));
        all.extend(refuse_words(&self.told, &format!("{at}/told")));
        let taken_back = matches!(self.about, Disputed::TakenBack(_));
        if self.reason.trim().is_empty() && !taken_back {
            all.push(Refusal::new(
                format!("{at}/reason"),
                "Say why: the next fitter reads it",
            ));
        }
        if let Disputed::Fault(key) = &self.about
            && fault_of(key).is_none()
        {
            all.push(Refusal::new(
                format!("{at}/about/fault"),
                "There is no such fault",
            ));
        }
        all
    }
}

/// The disagreements that stand, those taken back left out.
pub fn standing(all: &[Dispute]) -> Vec<&Dispute> {
    let back = |id: Uuid| {
        all.iter()
            .any(|dispute| dispute.about == Disputed::TakenBack(id))
    };
    all.iter()
        .filter(|dispute| !matches!(dispute.about, Disputed::TakenBack(_)) && !back(dispute.id))
        .collect()
}
