//! What to read or measure next: what would make the angles surer for the least of the fitter's time.
//!
//! To first order, as bands are: with what every output answers to each doubt, a reading of an output that shares a
//! doubt with another takes as much of its variance away as the two have in common,
//! `(Σ aᵢ bᵢ)² / (σ² + Σ bᵢ²)`; a length that is measured is as sure as a tape from then on.

use super::band::Trial;
use super::calibrate::Sighting;
use crate::measure::{Method, Output};
use crate::position::{FITTED, Ride};
use crate::rider::Source;
use crate::units::Side;
use crate::words::{lower, sided, written};
use serde::{Deserialize, Serialize};

crate::rule::rules! {
    rules "What to read next";
    /// An angle by goniometer, on one side.
    const ANGLE_MINUTES: f64 = 1.0, " min", House;
    /// Thigh and shank of both legs, with the tape.
    const LEGS_MINUTES: f64 = 5.0, " min", House;
    /// A length of a leg is as sure as this once it is measured.
    const LEG_MEASURED_MM: f64 = 5.0, " mm", House;
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
pub fn next_readings(ride: &Ride) -> Vec<Worth> {
    let position = ride.position();
    let trial = Trial::of(ride, &position, &ride.setup);
    let named = trial.answers();
    let answers = |output: Output| -> Vec<f64> {
        named
            .iter()
            .map(|(_, answer)| answer.before(output, Side::Right))
            .collect()
    };
    let estimated = Side::BOTH.into_iter().any(|side| {
        let leg = ride.person.lengths.legs.of(side);
        [leg.thigh, leg.shank]
            .iter()
            .any(|length| length.source == Source::Estimated)
    });
    JUDGED
        .into_iter()
        .filter(|output| output.of(&position, Side::Right).is_some())
        .filter_map(|output| {
            let own = answers(output);
            let variance: f64 = own.iter().map(|a| a * a).sum();
            let read = READ
                .into_iter()
                .filter(|read| read.of(&position, Side::Right).is_some());
            let readings = read.map(|read| {
                let other = answers(read);
                let shared: f64 = own.iter().zip(&other).map(|(a, b)| a * b).sum();
                let spread = Sighting {
                    output: read,
                    side: None,
                    value: 0.0,
                    method: Method::Goniometer,
                }
                .spread();
                let whole = spread.powi(2) + other.iter().map(|b| b * b).sum::<f64>();
                let sides = if read.spec().per_side { 2.0 } else { 1.0 };
                let what = if read == output {
                    "by goniometer".to_owned()
                } else {
                    format!("{} by goniometer", lower(read.spec().label))
                };
                (shared.powi(2) / whole, sides * ANGLE_MINUTES, what)
            });
            // What calibration fits of a length is as sure as the tape already, or surer.
            let legs = (estimated && ride.fit.is_none()).then(|| {
                let of_legs = named.iter().zip(&own).filter(|((name, _), _)| {
                    name.starts_with("Thigh") || name.starts_with("Shank")
                });
                let gained: f64 = of_legs
                    .map(|((name, _), a)| {
                        let named = FITTED
                            .iter()
                            .find(|(what, side)| sided(what.label(), *side) == *name);
                        let sd =
                            named.map_or(LEG_MEASURED_MM, |place| ride.person.prior_sd(*place));
                        a * a * (1.0 - (LEG_MEASURED_MM / sd).powi(2)).max(0.0)
                    })
                    .sum();
                (
                    gained,
                    LEGS_MINUTES,
                    "thigh and shank with the tape".to_owned(),
                )
            });
            let (gained, minutes, what) = readings
                .chain(legs)
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
