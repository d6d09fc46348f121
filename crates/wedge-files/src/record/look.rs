//! What was seen of a rider, and the rider fitted to it.

use super::{refuse_effort, refuse_words};
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use uuid::Uuid;
use wedge_core::bike::HandPlace;
use wedge_core::foresee::{Calibration, Sighting};
use wedge_core::looking::{
    EarSeen, HandWeight, KneeBend, KneePath, PelvisSeen, ShouldersSeen, SignSeen,
};
use wedge_core::measure::{Method, Output, Refusal};
use wedge_core::rider::Effort;
use wedge_core::units::Side;

/// One output as seen at a look.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct LookSeen {
    /// What was seen.
    pub output: Output,
    /// On which side; both alike when none.
    #[serde(default)]
    pub side: Option<Side>,
    /// The value; none takes the last one back.
    pub value: Option<f64>,
    /// How it was taken.
    #[serde(default)]
    pub method: Method,
    /// One standard deviation of it as it was worked out, where that was done.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub spread: Option<f64>,
}

impl LookSeen {
    /// One more reading among others; without a value the last of its kind is taken back.
    pub fn read_into(self, readings: &mut Vec<Sighting>) {
        let same = |s: &Sighting| (s.output, s.side) == (self.output, self.side);
        if let Some(value) = self.value {
            readings.push(Sighting {
                output: self.output,
                side: self.side,
                value,
                method: self.method,
                spread: self.spread,
            });
        } else if let Some(last) = readings.iter().rposition(same) {
            readings.remove(last);
        }
    }

    /// Everything about it that nobody can have seen, pointing below `at`.
    fn refusals(&self, at: &str) -> Vec<Refusal> {
        let spec = self.output.spec();
        let mut all = Vec::new();
        if self.side.is_some() && !spec.per_side {
            all.push(Refusal::new(
                format!("{at}/side"),
                format!("{} has no left and right", spec.label),
            ));
        }
        if self
            .spread
            .is_some_and(|spread| !(0.01..=60.0).contains(&spread))
        {
            all.push(Refusal::new(
                format!("{at}/spread"),
                "A spread of 0.01 to 60",
            ));
        }
        let value = self.value;
        all.extend(value.and_then(|value| self.output.refuse_seen(value, &format!("{at}/value"))));
        all
    }
}

impl From<Sighting> for LookSeen {
    fn from(sighting: Sighting) -> Self {
        Self {
            output: sighting.output,
            side: sighting.side,
            value: Some(sighting.value),
            method: sighting.method,
            spread: sighting.spread,
        }
    }
}

/// One thing written down at a look. An output seen again is another reading; of anything else a later one of the same kind
/// and side takes the place of an earlier one.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum LookBody {
    /// An output as seen.
    Seen(LookSeen),
    /// The way a knee goes.
    Knee {
        /// Which knee.
        side: Side,
        /// Its way.
        path: KneePath,
    },
    /// Where a knee goes in a slow bend to a third, off the bike.
    Bend {
        /// Which knee.
        side: Side,
        /// Where to.
        bend: KneeBend,
    },
    /// How the pelvis sits.
    Pelvis(PelvisSeen),
    /// How the shoulders are held.
    Shoulders(ShouldersSeen),
    /// A sign that was looked for, there or not.
    Sign(SignSeen),
    /// What a hand carries.
    Hand(HandWeight),
    /// How far ahead of the elbow's crease the ear is, on pads.
    Ear(EarSeen),
    /// What else was seen or said.
    Words(String),
}

impl LookBody {
    /// Everything about it that cannot be accepted, pointing below `at`.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        match self {
            Self::Seen(seen) => seen.refusals(&format!("{at}/seen")),
            Self::Words(said) => Vec::from_iter(refuse_words(said, &format!("{at}/words"))),
            Self::Sign(sign) => Vec::from_iter(sign.refusal(&format!("{at}/sign"))),
            Self::Hand(hand) => Vec::from_iter(hand.refusal(&format!("{at}/hand"))),
            Self::Ear(ear) => Vec::from_iter(ear.refusal(&format!("{at}/ear"))),
            Self::Knee { .. } | Self::Bend { .. } | Self::Pelvis(_) | Self::Shoulders(_) => {
                Vec::new()
            }
        }
    }
}

/// What was foreseen of what was seen, as it stood then.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct ForeseenThen {
    /// The value.
    pub value: f64,
    /// One standard deviation of it.
    pub band: f64,
}

/// Something seen of the rider on the setup that was on the bench: append-only.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct LookEntry {
    /// Made by the client.
    pub id: Uuid,
    /// When.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = DateTime))]
    pub at: Timestamp,
    /// The setup on the bench, among the session's.
    pub setup: Uuid,
    /// Where the hands were; the bar's main place when none.
    #[serde(default)]
    pub hands: Option<HandPlace>,
    /// The effort.
    #[serde(default)]
    pub effort: Option<Effort>,
    /// What.
    pub body: LookBody,
    /// What was foreseen of it.
    #[serde(default)]
    pub foreseen: Option<ForeseenThen>,
    /// Whether what measured it was in doubt when it was written down.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub doubtful: bool,
}

impl LookEntry {
    /// Everything about it that cannot be accepted, pointing below `at`.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        let mut all = self.body.refusals(&format!("{at}/body"));
        all.extend(refuse_effort(self.effort, at));
        all
    }
}

/// The rider fitted to what was seen, or the fit switched off: append-only.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct CalibrationRecord {
    /// Made by the client.
    pub id: Uuid,
    /// When.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = DateTime))]
    pub at: Timestamp,
    /// The fit; none switches it off.
    pub calibration: Option<Calibration>,
}
