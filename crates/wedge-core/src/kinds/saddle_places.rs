//! Where on the saddle the rider sits for what: on the nose to sprint, at the tail to climb, as hand places are of the bar.

use crate::foresee::Trying;
use crate::measure::Output;
use crate::rule::rules;
use crate::units::{Millimetres, Side};
use crate::words::words;
use serde::Serialize;

rules! {
    rules "Places on the saddle";
    /// Who sprints on the nose sits so far behind its tip.
    const BEHIND_NOSE_MM: f64 = 45.0, " mm", House;
    /// Who climbs at the tail sits so far ahead of its end.
    const AHEAD_OF_TAIL_MM: f64 = 70.0, " mm", House;
}

words! {
    /// A place on the saddle.
    pub enum SaddlePlace {
        Nose "nose" "Nose, to sprint",
        Middle "middle" "Where the rider sits",
        Tail "tail" "Tail, to climb",
    }
}

/// What follows from a place on the saddle.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SaddlePlaceRow {
    /// Which.
    pub place: SaddlePlace,
    /// As it is called.
    pub label: String,
    /// How far ahead of where the rider sits, mm.
    pub ahead_mm: f64,
    /// Smallest flexion of the knee, right; none where the leg does not reach.
    pub knee_deg: Option<f64>,
    /// Knee over axle, right.
    pub knee_over_axle_mm: Option<f64>,
    /// The hip at its most closed, right.
    pub hip_deg: Option<f64>,
    /// Torso.
    pub torso_deg: Option<f64>,
}

/// Every place on the saddle: the foot goes as it was seen where the rider sits.
pub fn saddle_places(trying: &Trying) -> Vec<SaddlePlaceRow> {
    let saddle = &trying.setup.saddle;
    let sits = trying.person.rider.pelvis.sits_forward_mm.0;
    let nose = saddle.nose_to_sit_mm.0 - BEHIND_NOSE_MM;
    let tail = -(saddle.saddle_length_mm.0 - saddle.nose_to_sit_mm.0 - AHEAD_OF_TAIL_MM);
    let row = |place: SaddlePlace| {
        let ahead_mm = match place {
            SaddlePlace::Nose => (nose - sits).max(0.0),
            SaddlePlace::Middle => 0.0,
            SaddlePlace::Tail => (tail - sits).min(0.0),
        };
        let seen = trying.seen;
        let there = trying.altered(|facts| {
            facts.observed.pitch = Some(seen);
            facts.rider.pelvis.sits_forward_mm =
                Millimetres(facts.rider.pelvis.sits_forward_mm.0 + ahead_mm);
        });
        let position = there.position();
        let of = |output: Output| output.of(&position, Side::Right);
        SaddlePlaceRow {
            place,
            label: place.label().to_owned(),
            ahead_mm,
            knee_deg: of(Output::KneeAtFullReach),
            knee_over_axle_mm: of(Output::KneeOverAxle),
            hip_deg: of(Output::HipClosed),
            torso_deg: of(Output::Torso),
        }
    };
    SaddlePlace::ALL.iter().map(|place| row(*place)).collect()
}
