//! How far from the bike the feet go. The schools contradict each other here, and that is said.

use super::cleat::on;
use crate::foresee::Change;
use crate::looking::KneePath;
use crate::measure::Quantity;
use crate::position::Ride;
use crate::rule::rules;
use crate::units::{Side, Sides};
use crate::words::{lower, words, written};
use serde::Serialize;

words! {
    /// A school of the feet's sideways place.
    pub enum StanceVoice {
        KneeDrift "knee_drift" "Closer to the bike when the knee drifts in",
        Broad "broad" "Wider for broad hips and heavy riders",
        Joints "joints" "As wide as the hip joints",
    }
}

rules! {
    rules "Stance";
    /// One sideways step of a foot.
    pub(super) const ASIDE_STEP_MM: f64 = 2.0, " mm", Workshop;
    /// Hips broader than this share of stature are broad.
    const BROAD_HIPS: f64 = 0.205, "", House;
    /// A rider of more than this is heavy for the stature, in kilograms by square metre.
    const HEAVY: f64 = 27.0, " kg/m²", House;
    /// The middle of the shoe lies this far inside the pedal's outer end.
    const SHOE_INSIDE_PEDAL_MM: f64 = 45.0, " mm", House;
    /// Feet this close to the hip joints' width match it.
    const MATCHES_MM: f64 = 5.0, " mm", House;
}

/// What one school of the stance says of this rider.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Stance {
    /// Its key.
    pub voice: StanceVoice,
    /// As it is called.
    pub label: String,
    /// What it says of this rider, or what it would have to know.
    pub words: String,
    /// The trial it asks for, if any.
    pub changes: Vec<Change>,
}

/// Every school of the stance, and in words where they pull apart for this rider.
pub fn stance(ride: &Ride, paths: &Sides<Option<KneePath>>) -> (Vec<Stance>, Option<String>) {
    let voices = [knee_drift(paths), broad(ride), joints(ride)];
    let pulls = |way: f64| {
        let mut labels = voices
            .iter()
            .filter(|v| {
                v.changes
                    .iter()
                    .any(|c| c.by.unwrap_or_default() * way > 0.0)
            })
            .map(|v| lower(&v.label));
        labels.next()
    };
    let apart = match (pulls(-1.0), pulls(1.0)) {
        (Some(inwards), Some(outwards)) => Some(format!(
            "They pull apart for this rider: “{inwards}” asks for the feet further in, “{outwards}” for further out. \
             Try one, look at the knees, then the other."
        )),
        _ => None,
    };
    (voices.into(), apart)
}

fn voice(voice: StanceVoice, words: String, changes: Vec<Change>) -> Stance {
    Stance {
        voice,
        label: voice.label().to_owned(),
        words,
        changes,
    }
}

fn knee_drift(paths: &Sides<Option<KneePath>>) -> Stance {
    let drifting: Vec<Side> = Side::BOTH
        .into_iter()
        .filter(|side| paths.of(*side).is_some_and(KneePath::goes_in))
        .collect();
    let words = if drifting.is_empty() {
        if Side::BOTH.iter().any(|side| paths.of(*side).is_none()) {
            "Look at the knees from the front first".to_owned()
        } else {
            "No knee was seen to drift in: nothing asked".to_owned()
        }
    } else {
        let sides: Vec<&str> = drifting.iter().map(|side| side.word()).collect();
        format!(
            "The {} knee drifts in: that foot {} mm closer",
            sides.join(" and the "),
            written(ASIDE_STEP_MM)
        )
    };
    voice(
        StanceVoice::KneeDrift,
        words,
        drifting
            .into_iter()
            .map(|side| on(side, Quantity::CleatOut, -ASIDE_STEP_MM))
            .collect(),
    )
}

fn broad(ride: &Ride) -> Stance {
    let body = &ride.rider.body;
    let stature = body.stature_mm.0;
    let hips = body.hip_breadth_mm.map(|hips| hips.0 / stature);
    let weight = body.mass_kg.map(|mass| mass.0 / (stature / 1000.0).powi(2));
    let reasons: Vec<String> = [
        hips.filter(|share| *share > BROAD_HIPS)
            .map(|share| format!("hips are {} % of stature", written(100.0 * share))),
        weight
            .filter(|weight| *weight > HEAVY)
            .map(|weight| format!("{} kg a square metre", written(weight))),
    ]
    .into_iter()
    .flatten()
    .collect();
    if reasons.is_empty() {
        let words = match (hips, weight) {
            (None, None) => "Measure hip breadth and mass first",
            _ => "Neither broad nor heavy: nothing asked",
        };
        return voice(StanceVoice::Broad, words.to_owned(), Vec::new());
    }
    voice(
        StanceVoice::Broad,
        format!(
            "{}: both feet {} mm further out",
            reasons.join(", "),
            written(ASIDE_STEP_MM)
        ),
        vec![Change::by(Quantity::CleatOut, ASIDE_STEP_MM)],
    )
}

fn joints(ride: &Ride) -> Stance {
    let joint = ride.rider.lengths().hip_aside_mm.0;
    let foot = |side: Side| {
        let pedalling = ride.setup.pedalling.of(side);
        let out = pedalling.pedal_out_mm?.0 - SHOE_INSIDE_PEDAL_MM + pedalling.cleat_out_mm.0;
        Some(out - joint)
    };
    let Some((left, right)) = foot(Side::Left).zip(foot(Side::Right)) else {
        return voice(
            StanceVoice::Joints,
            "Measure the pedals' outer ends first".to_owned(),
            Vec::new(),
        );
    };
    let out = f64::midpoint(left, right);
    let both = |by: f64| vec![Change::by(Quantity::CleatOut, by)];
    let place = |what: &str| {
        format!(
            "Each foot stands about {} mm {what} its hip joint (estimated)",
            written(out.abs())
        )
    };
    let (words, changes) = if out.abs() < MATCHES_MM {
        (
            "The feet stand under the hip joints (estimated)".to_owned(),
            Vec::new(),
        )
    } else if out > 0.0 {
        (place("outside"), both(-ASIDE_STEP_MM))
    } else {
        (place("inside"), both(ASIDE_STEP_MM))
    };
    voice(StanceVoice::Joints, words, changes)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::example;
    use crate::units::{Kilograms, Millimetres};

    #[test]
    fn what_pulls_in_and_what_pulls_out_is_said_openly() {
        let mut input = example::road();
        let nothing_seen = Sides::both(None);
        // 148 − 45 = 103 from the mid-plane, hip joint .05 × 1780 = 89: 14 outside.
        let (voices, apart) = stance(&input.check().unwrap(), &nothing_seen);
        assert!(
            voices[2].words.contains("14 mm outside"),
            "{}",
            voices[2].words
        );
        assert_eq!(apart, None, "one voice alone cannot disagree");
        // 75 kg at 1.78 m is 23.7; 90 kg is 28.4.
        assert!(voices[1].changes.is_empty());
        input.rider.body.mass_kg = Some(Kilograms(90.0));
        let (voices, apart) = stance(&input.check().unwrap(), &nothing_seen);
        assert_eq!(voices[1].changes[0].by, Some(2.0));
        assert!(voices[1].words.starts_with("28.4 kg"));
        assert!(apart.unwrap().contains("as wide as the hip joints"));
    }

    #[test]
    fn only_the_foot_under_a_knee_that_drifts_in_is_moved() {
        let mut input = example::road();
        input.rider.body.hip_breadth_mm = Some(Millimetres(340.0));
        let paths = Sides {
            left: Some(KneePath::InPushing),
            right: Some(KneePath::Straight),
        };
        let (voices, _) = stance(&input.check().unwrap(), &paths);
        assert_eq!(
            voices[0].changes,
            [on(Side::Left, Quantity::CleatOut, -2.0)]
        );
        let straight = Sides::both(Some(KneePath::SweptOut));
        assert!(
            stance(&input.check().unwrap(), &straight).0[0]
                .changes
                .is_empty()
        );
    }

    #[test]
    fn a_voice_that_lacks_a_number_asks_for_it() {
        let mut input = example::road();
        input.rider.body.mass_kg = None;
        input.setup.pedalling.left.pedal_out_mm = None;
        let (voices, apart) = stance(&input.check().unwrap(), &Sides::both(None));
        assert!(voices.iter().all(|v| v.changes.is_empty()));
        assert!(voices[1].words.starts_with("Measure") && voices[2].words.starts_with("Measure"));
        assert_eq!(apart, None);
    }
}
