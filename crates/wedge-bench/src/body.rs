//! The body, measure by measure, and how far the main angles may be off for it.

use serde::Serialize;
use wedge_core::foresee::{ForeseeInput, Foresight, foresee};
use wedge_core::measure::{Output, Quantity, Unit};
use wedge_core::position::Observations;
use wedge_core::rider::{Body, BodyMeasure, Measured, Rider as MeasuredRider, measures};
use wedge_core::units::{Side, Sides};
use wedge_files::{ReadingRecord, taken};

/// A measure of the body with its readings, those set aside among them.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MeasureView {
    /// The measure.
    #[serde(flatten)]
    pub measure: BodyMeasure,
    /// The readings that count, as one visit took them.
    pub readings: Vec<ReadingRecord>,
    /// How many were set aside at this visit.
    pub aside: usize,
}

/// How sure an angle is.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Certainty {
    /// What it is.
    pub label: String,
    /// Its unit.
    pub unit: Unit,
    /// One standard deviation as things are known now.
    pub band: f64,
    /// The same with nothing measured but stature, nothing seen.
    pub with_stature_alone: f64,
}

/// What was measured, as the measures are made of it.
pub(crate) fn measured_of(rider: &MeasuredRider) -> Measured {
    Measured {
        body: rider.body,
        legs: rider.legs,
        arms: rider.arms,
    }
}

/// The body, measure by measure, with the readings of each.
pub(crate) fn body(rider: &MeasuredRider, readings: &[ReadingRecord]) -> Vec<MeasureView> {
    let taken = taken(readings);
    let values: Vec<_> = taken.iter().map(|(taken, _)| taken.clone()).collect();
    measures(&measured_of(rider), &values)
        .into_iter()
        .map(|measure| {
            let of = |quantity: Quantity, side: Option<Side>| {
                quantity == measure.quantity && (side == measure.side || side.is_none())
            };
            let ids = taken
                .iter()
                .rev()
                .find(|(t, _)| of(t.quantity, t.side))
                .map(|(_, ids)| ids.as_slice())
                .unwrap_or_default();
            let counted: Vec<_> = readings
                .iter()
                .filter(|r| ids.contains(&r.id))
                .cloned()
                .collect();
            let since = counted.iter().map(|r| r.taken_at).min();
            MeasureView {
                aside: readings
                    .iter()
                    .filter(|r| of(r.reading.quantity, r.reading.side) && r.set_aside_at.is_some())
                    .filter(|r| since.is_none_or(|since| r.taken_at >= since))
                    .count(),
                readings: counted,
                measure,
            }
        })
        .collect()
}

/// The angles whose bands are shown to narrow.
const TELLING: [Output; 4] = [
    Output::KneeAtFullReach,
    Output::HipClosed,
    Output::Torso,
    Output::KneeOverAxle,
];

/// How far the main angles may be off now, and with stature alone.
pub(crate) fn certainty(input: &ForeseeInput, now: &Foresight) -> Vec<Certainty> {
    let bare = ForeseeInput {
        rider: MeasuredRider::new(Body::new(input.rider.body.stature_mm), Sides::default()),
        fit: None,
        observed: Observations::default(),
        ..input.clone()
    };
    let Ok(alone) = foresee(&bare) else {
        return Vec::new();
    };
    let band = |foresight: &Foresight, output: Output| {
        (foresight.rows.iter())
            .find(|row| row.output == output)
            .and_then(|row| row.band)
    };
    TELLING
        .into_iter()
        .filter_map(|output| {
            Some(Certainty {
                label: output.spec().label.to_owned(),
                unit: output.spec().unit,
                band: band(now, output)?,
                with_stature_alone: band(&alone, output)?,
            })
        })
        .collect()
}
