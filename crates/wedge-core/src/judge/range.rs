//! The ranges of a kind of riding, each with its convention's output and its source.

use super::Output;
use crate::bike::{HandPlace, Kind};
use serde::Serialize;

/// A range an output should lie in.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Range {
    /// What it is a range of.
    pub output: Output,
    /// Where the hands must be for it to hold; anywhere when none.
    pub hands: Option<HandPlace>,
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

const KNEE: Range = Range {
    output: Output::KneeAtFullReach,
    hands: None,
    low: 35.0,
    high: 40.0,
    outer_low: 30.0,
    outer_high: 43.0,
    source: "workshop rule: moving rider, smallest flexion; outer 30–43",
};

const SHOULDER: Range = Range {
    output: Output::Shoulder,
    hands: Some(HandPlace::Hoods),
    low: 65.0,
    high: 78.0,
    outer_low: 60.0,
    outer_high: 80.0,
    source: "workshop rule: never over 80; lower outer end a house choice",
};

const ELBOW: Range = Range {
    output: Output::Elbow,
    hands: Some(HandPlace::Hoods),
    low: 15.0,
    high: 30.0,
    outer_low: 10.0,
    outer_high: 45.0,
    source: "workshop rule; outer ends a house choice",
};

/// Road endurance, hands on the hoods.
const ROAD: &[Range] = &[
    KNEE,
    Range {
        output: Output::Torso,
        hands: Some(HandPlace::Hoods),
        low: 40.0,
        high: 50.0,
        outer_low: 35.0,
        outer_high: 55.0,
        source: "workshop rule: road, hands on the hoods; outer from the race range (house choice)",
    },
    SHOULDER,
    ELBOW,
];

/// Road race, hands on the hoods.
const RACE: &[Range] = &[
    KNEE,
    Range {
        output: Output::Torso,
        hands: Some(HandPlace::Hoods),
        low: 35.0,
        high: 45.0,
        outer_low: 30.0,
        outer_high: 50.0,
        source: "workshop rule: race, hands on the hoods; outer ends 5° further (house choice)",
    },
    SHOULDER,
    ELBOW,
];

/// Time trial, elbows on the pads.
const TIME_TRIAL: &[Range] = &[
    KNEE,
    Range {
        output: Output::SeatAngle,
        hands: None,
        low: 78.0,
        high: 82.0,
        outer_low: 76.0,
        outer_high: 84.0,
        source: "workshop rule: 78–80 moderate, 82–84 extreme; lower outer end a house choice",
    },
];

/// The ranges of a kind of riding. Where the trade has none for the hands or the back, there is none.
pub fn ranges(kind: Kind) -> &'static [Range] {
    match kind {
        Kind::Road => ROAD,
        Kind::Race => RACE,
        Kind::TimeTrial => TIME_TRIAL,
        Kind::Gravel | Kind::City | Kind::OffRoad => &[KNEE],
    }
}
