//! What to read or measure next: what would make the angles surer for the least of the fitter's time.
//!
//! To first order, as bands are: with what every output answers to each doubt, a reading of an output that shares a
//! doubt with another takes as much of its variance away as the two have in common,
//! `(Σ aᵢ bᵢ)² / (σ² + Σ bᵢ²)`; a length that is measured is as sure as a tape from then on.

use super::Trying;
use super::band::Answer;
use super::calibrate::BY_GONIOMETER_DEG;
use crate::measure::Output;
use crate::position::{FITTED, Parameter, Ride};
use crate::rider::spread::LEG_MEASURED;
use crate::units::Side;
use crate::words::{lower, sided, written};
use serde::{Deserialize, Serialize};

crate::rule::rules! {
    rules "What to read next";
    /// An angle by goniometer, on one side.
    const ANGLE_MINUTES: f64 = 1.0, " min", House;
    /// Thigh and shank of both legs, with the tape.
    const LEGS_MINUTES: f64 = 5.0, " min", House;
    /// Less than this of a band taken away is not worth a minute.
    const WORTH_SHARE: f64 = 0.05, "", House;
}

/// What is worth reading or measuring next, for one angle.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Worth {
    /// The angle it makes surer.
    pub output: Output,
    /// One standard deviation of that now.
    pub band: f64,
    /// And then.
    pub then: f64,
    /// How long it takes, in minutes.
    pub minutes: f64,
    /// "Knee at full reach: thigh and shank with the tape, 5 min, ± 11° → ± 4°".
    pub words: String,
}

/// The angles a fit is judged by.
const JUDGED: [Output; 3] = [Output::KneeAtFullReach, Output::Torso, Output::HipClosed];
/// What a goniometer reads soonest.
const READ: [Output; 7] = [
    Output::KneeAtFullReach,
    Output::KneeForward,
    Output::KneeMostBent,
    Output::HipClosed,
    Output::Torso,
    Output::Shoulder,
    Output::Elbow,
];

/// For knee, torso and hip, what shrinks their band most a minute of the fitter's time; nothing where nothing would
/// much. The angles of legs are looked at on the right, read on both sides.
pub fn next_readings(trying: &Trying) -> Vec<Worth> {
    let here = &trying.before;
    let named = trying.answers();
    let answers = |output: Output| -> Vec<f64> {
        named
            .iter()
            .map(|(_, answer)| answer.before(output, Side::Right))
            .collect()
    };
    let has = |output: &Output| output.of(here, Side::Right).is_some();
    let read: Vec<_> = (READ.into_iter().filter(has))
        .map(|output| (output, answers(output)))
        .collect();
    let taped = taped(trying, named);
    JUDGED
        .into_iter()
        .filter(has)
        .filter_map(|output| {
            let own = answers(output);
            let variance: f64 = own.iter().map(|a| a * a).sum();
            let readings = read.iter().map(|(read, other)| {
                let shared: f64 = own.iter().zip(other).map(|(a, b)| a * b).sum();
                let whole = BY_GONIOMETER_DEG.powi(2) + other.iter().map(|b| b * b).sum::<f64>();
                let sides = if read.spec().per_side { 2.0 } else { 1.0 };
                let what = if *read == output {
                    "by goniometer".to_owned()
                } else {
                    format!("{} by goniometer", lower(read.spec().label))
                };
                (shared.powi(2) / whole, sides * ANGLE_MINUTES, what)
            });
            let legs: f64 = taped
                .iter()
                .map(|(at, share)| share * own[*at].powi(2))
                .sum();
            let legs = (
                legs,
                LEGS_MINUTES,
                "thigh and shank with the tape".to_owned(),
            );
            let (gained, minutes, what) = readings
                .chain([legs])
                .max_by(|a, b| (a.0 / a.1).total_cmp(&(b.0 / b.1)))?;
            let (band, then) = (variance.sqrt(), (variance - gained).max(0.0).sqrt());
            (band - then > WORTH_SHARE * band).then(|| Worth {
                output,
                band,
                then,
                minutes,
                words: format!(
                    "{}: {what}, {} min, ± {}° → ± {}°",
                    output.spec().label,
                    written(minutes),
                    written(band),
                    written(then)
                ),
            })
        })
        .collect()
}

/// The doubts that a tape on thighs and shanks would make smaller, and by which share of their variance: none of those that
/// were measured, or fitted.
fn taped(ride: &Ride, named: &[(String, Answer)]) -> Vec<(usize, f64)> {
    FITTED
        .into_iter()
        .filter(|(parameter, _)| matches!(parameter, Parameter::Thigh | Parameter::Shank))
        .filter_map(|place| {
            let name = sided(place.0.label(), place.1);
            let at = named.iter().position(|(doubt, _)| *doubt == name)?;
            let left = LEG_MEASURED / ride.person.prior_sd(place);
            Some((at, (1.0 - left.powi(2)).max(0.0)))
        })
        .collect()
}
