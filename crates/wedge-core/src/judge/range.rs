//! The ranges of a kind of riding, each with its convention's output and its source.

use super::Output;
use crate::bike::Kind;
use serde::Serialize;

/// A range an output should lie in.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Range {
    /// What it is a range of.
    pub output: Output,
    /// Least of the range.
    pub low: f64,
    /// Largest of the range.
    pub high: f64,
    /// Least of the outer range, beyond which the mark doubles.
    pub outer_low: f64,
    /// Largest of the outer range.
    pub outer_high: f64,
    /// Where it comes from.
    pub source: &'static str,
}

/// Road endurance, hands on the hoods.
const ROAD: &[Range] = &[
    Range {
        output: Output::KneeAtFullReach,
        low: 35.0,
        high: 40.0,
        outer_low: 30.0,
        outer_high: 43.0,
        source: "workshop rule: moving rider, smallest flexion; outer 30–43",
    },
    Range {
        output: Output::Torso,
        low: 40.0,
        high: 50.0,
        outer_low: 35.0,
        outer_high: 55.0,
        source: "workshop rule: road, hands on the hoods; outer from the race range (house choice)",
    },
    Range {
        output: Output::Shoulder,
        low: 65.0,
        high: 78.0,
        outer_low: 60.0,
        outer_high: 80.0,
        source: "workshop rule: never over 80; lower outer end a house choice",
    },
    Range {
        output: Output::Elbow,
        low: 15.0,
        high: 30.0,
        outer_low: 10.0,
        outer_high: 45.0,
        source: "workshop rule; outer ends a house choice",
    },
];

/// The ranges of a kind of riding.
pub fn ranges(kind: Kind) -> &'static [Range] {
    match kind {
        Kind::Road => ROAD,
    }
}
