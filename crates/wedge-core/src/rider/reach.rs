//! Whether a chain of limbs gets where it must. Out of reach is an answer, not an error.

use crate::plane::Point;
use crate::units::{CrankAngle, Millimetres};
use serde::{Deserialize, Serialize};

/// How a chain of limbs meets its contact point.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(tag = "state", rename_all = "snake_case")]
pub enum Reach {
    /// It gets there as riders usually do.
    Within,
    /// It gets there only by a compensation.
    Adapted {
        /// Which one.
        words: String,
    },
    /// It does not get there.
    Beyond {
        /// What is missing, with the compensation used up.
        by_mm: Millimetres,
        /// Which chain, where, by how much.
        words: String,
    },
    /// It is too close to fold up to.
    Folded {
        /// How much too close.
        by_mm: Millimetres,
        /// Which chain, where, by how much.
        words: String,
    },
}

/// A limb that does not get to its contact point: where it ends, and where it should.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Gap {
    /// Where the limb ends.
    pub from: Point,
    /// Where it should be.
    pub to: Point,
    /// The millimetres between.
    pub by_mm: Millimetres,
    /// The crank angle where a leg lacks most.
    pub crank_deg: Option<CrankAngle>,
}

impl Reach {
    pub(crate) fn beyond(by: f64, words: String) -> Self {
        Self::Beyond {
            by_mm: Millimetres(by),
            words,
        }
    }

    pub(crate) fn folded(by: f64, words: String) -> Self {
        Self::Folded {
            by_mm: Millimetres(by),
            words,
        }
    }

    /// Whether the contact point is met at all.
    pub fn is_met(&self) -> bool {
        matches!(self, Self::Within | Self::Adapted { .. })
    }

    /// What there is to say about it, `None` when it is simply within.
    pub fn words(&self) -> Option<&str> {
        match self {
            Self::Within => None,
            Self::Adapted { words } | Self::Beyond { words, .. } | Self::Folded { words, .. } => {
                Some(words)
            }
        }
    }
}
