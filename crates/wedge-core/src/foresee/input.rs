//! What foresight is asked with: self-contained, so that the same input always gives the same answer.

use super::Change;
use crate::bike::{Frame, HandPlace, Kind, Placed, Setup};
use crate::measure::{Conventions, Refusal, within};
use crate::position::{Facts, Fit, Observations, OwnRange, Ride, ranges_with};
use crate::rider::{Effort, Rider};
use crate::units::Side;
use serde::{Deserialize, Serialize};

/// What foresight is asked with.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct ForeseeInput {
    /// The rider.
    pub rider: Rider,
    /// The kind of riding, whose ranges mark the outputs.
    #[serde(default)]
    pub kind: Kind,
    /// The frame.
    pub frame: Frame,
    /// The setup before the changes.
    pub setup: Setup,
    /// Where the hands are; the bar's main place when left out.
    #[serde(default)]
    pub hands: Option<HandPlace>,
    /// A grade to feel the setback on, uphill positive, in hundredths.
    #[serde(default)]
    pub grade_percent: f64,
    /// The effort of the test.
    #[serde(default)]
    pub effort: Option<Effort>,
    /// What was seen.
    #[serde(default)]
    pub observed: Observations,
    /// What calibration fitted to what was seen; the rider as measured and estimated when left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub fit: Option<Fit>,
    /// The conventions the answers are given in.
    #[serde(default)]
    pub conventions: Conventions,
    /// The studio's own ranges for this kind of riding, in the place of the house's.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub ranges: Vec<OwnRange>,
    /// What to change.
    #[serde(default)]
    pub changes: Vec<Change>,
}

impl ForeseeInput {
    /// A rider on a setup: the house's conventions, nothing observed, no changes.
    pub fn new(rider: Rider, kind: Kind, frame: Frame, setup: Setup) -> Self {
        Self {
            rider,
            kind,
            frame,
            setup,
            hands: None,
            grade_percent: 0.0,
            effort: None,
            observed: Observations::default(),
            fit: None,
            conventions: Conventions::default(),
            ranges: Vec::new(),
            changes: Vec::new(),
        }
    }

    /// The checked ride, or everything that cannot be accepted, each with its JSON pointer; the changes among it, which
    /// are asked beside the ride.
    pub fn check(&self) -> Result<Ride, Vec<Refusal>> {
        let refusals = self.refusals();
        match Placed::of(self.setup) {
            Some(setup) if refusals.is_empty() => Ok(Ride::of(Facts {
                rider: self.rider,
                kind: self.kind,
                frame: self.frame,
                setup,
                hands: self.hands,
                grade_percent: self.grade_percent,
                effort: self.effort,
                observed: self.observed,
                fit: self.fit.clone(),
                conventions: self.conventions,
                ranges: ranges_with(self.kind, &self.ranges),
            })),
            _ => Err(refusals),
        }
    }

    /// Everything that cannot be accepted; a saddle without a place always is.
    fn refusals(&self) -> Vec<Refusal> {
        let mut all = self.rider.refusals("/rider");
        all.extend(self.observed_refusals());
        all.extend(self.frame.refusals("/frame"));
        all.extend(self.setup.refusals("/setup"));
        if let Some(effort) = &self.effort {
            all.extend(effort.refusals("/effort"));
        }
        all.extend(
            self.hands
                .and_then(|place| self.setup.bar.refuse_place(place, "/hands")),
        );
        if !(-40.0..=40.0).contains(&self.grade_percent) {
            all.push(Refusal::new("/grade_percent", "A grade is −40 to 40 %"));
        }
        all.extend(self.conventions.refusals("/conventions"));
        all.extend(self.fit.iter().flat_map(|fit| fit.refusals("/fit")));
        for (index, range) in self.ranges.iter().enumerate() {
            all.extend(range.refusals(&format!("/ranges/{index}")));
        }
        for (index, change) in self.changes.iter().enumerate() {
            let twice = self.changes[..index]
                .iter()
                .any(|c| c.quantity == change.quantity && (c.side == change.side));
            all.extend(change.refusals(&format!("/changes/{index}"), twice));
        }
        all
    }

    fn observed_refusals(&self) -> Vec<Refusal> {
        let Some(seen) = self.observed.pitch else {
            return Vec::new();
        };
        Side::BOTH
            .into_iter()
            .flat_map(|side| {
                let (at, seen) = (format!("/observed/pitch/{}", side.word()), seen.of(side));
                let mut all = seen.pitch.refusals(&format!("{at}/pitch"));
                all.extend(within(
                    format!("{at}/hip_to_axle_mm"),
                    seen.hip_to_axle_mm.0,
                    300.0,
                    1400.0,
                    "The hip-to-axle distance, in mm,",
                ));
                all
            })
            .collect()
    }
}
