//! Why something is not done.

use thiserror::Error;
use wedge_core::measure::Refusal;

/// Why something is not done. Nothing was written.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum Declined {
    /// Values that cannot be accepted, each with its pointer.
    #[error("{}", .0.iter().map(|refusal| refusal.detail.as_str()).collect::<Vec<_>>().join("; "))]
    Refused(Vec<Refusal>),
    /// It may be done, but something else comes first.
    #[error("{0}")]
    NotNow(String),
    /// There is no such thing on record.
    #[error("There is no such {0}")]
    Unknown(&'static str),
}

impl Declined {
    /// One value that cannot be accepted.
    pub(crate) fn field(pointer: &str, detail: impl Into<String>) -> Self {
        Self::Refused(vec![Refusal::new(pointer, detail)])
    }

    /// What is asked of pads alone.
    pub(crate) const NO_PADS: &'static str = "This bike has no pads";

    /// A rider nobody knows the size of.
    pub(crate) fn no_stature() -> Self {
        Self::field("/stature_mm", "The rider needs a stature first")
    }

    /// Something else comes first.
    pub(crate) fn not_now(words: impl Into<String>) -> Self {
        Self::NotNow(words.into())
    }
}

impl From<Vec<Refusal>> for Declined {
    fn from(refusals: Vec<Refusal>) -> Self {
        Self::Refused(refusals)
    }
}

/// Nothing refused, or all of it.
pub(crate) fn accepted(refusals: Vec<Refusal>) -> Result<(), Declined> {
    if refusals.is_empty() {
        Ok(())
    } else {
        Err(refusals.into())
    }
}
