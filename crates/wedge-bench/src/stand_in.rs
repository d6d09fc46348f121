//! What a fit gives a stand-in, and what it makes of what one says.

use crate::hurts::Hurting;
use crate::{Bench, Declined};
use serde::Serialize;
use wedge_core::foresee::ForeseeInput;
use wedge_core::intake::Complaint;
use wedge_core::looking::{Sign, SignSeen};
use wedge_core::measure::Output;
use wedge_core::rider::{Effort, Weighed, front_share_words};
use wedge_core::trial::{Felt, Hurts, Sure, unlike};
use wedge_core::units::{Millimetres, Side};
use wedge_core::words::{capital, lower, sided};
use wedge_files::{LookBody, Trial, Verdict};

/// What a stand-in says of the trial on the bench: entries to take down.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TrialSaid {
    /// Better, the same, worse.
    pub verdict: Verdict,
    /// How sure.
    pub sure: Sure,
    /// Where it is felt.
    pub felt: Vec<Felt>,
    /// Where it hurts now, and where it does not any more.
    pub hurts: Vec<Hurts>,
}

/// Something to take down of a look.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LookSaid {
    /// In words.
    pub words: String,
    /// As it would be written down.
    pub body: LookBody,
}

/// What a stand-in says and shows where he sits: simulated, to be accepted or overwritten.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Spoken {
    /// His words.
    pub words: String,
    /// Of the trial on the bench; none while there is none.
    pub trial: Option<TrialSaid>,
    /// Signs that are seen.
    pub signs: Vec<LookSaid>,
    /// Where it hurts, as an intake has it.
    pub complaints: Vec<Complaint>,
}

/// What is easily held: where nobody named an effort, and for the tests of a stand-in.
pub(crate) const EASY: Effort = Effort {
    power_w: 150.0,
    cadence_rpm: 85.0,
};

/// How a change is told.
fn compared(said: &TrialSaid) -> String {
    let how = match said.verdict {
        Verdict::Better => "Better",
        Verdict::Same => "No difference",
        Verdict::Worse => "Worse",
    };
    let sure = match said.sure {
        Sure::Certain => ", I am certain",
        Sure::Fairly => ", I think",
        Sure::Guess => ", if I have to say",
    };
    let place = said.felt.first().map_or_else(String::new, |felt| {
        let less = if said.verdict == Verdict::Worse {
            "more"
        } else {
            "less"
        };
        format!(": {less} of it, {}", felt.words())
    });
    format!("{how}{sure}{place}.")
}

/// "Front of the knee, right: 4 of 10, pushing down".
fn ached(complaint: &Complaint) -> String {
    let place = sided(complaint.place.label(), complaint.side);
    let bad = complaint
        .how_bad
        .map_or_else(String::new, |bad| format!(": {bad} of 10"));
    let stroke = complaint
        .stroke
        .map_or_else(String::new, |stroke| format!(", {}", lower(stroke.label())));
    format!("{}{bad}{stroke}.", capital(&place))
}

impl Spoken {
    /// Put together from what a rider answered.
    pub fn of(
        trial: Option<TrialSaid>,
        complaints: Vec<Complaint>,
        signs: &[(Sign, Option<Side>)],
    ) -> Self {
        let mut words: Vec<String> = trial.iter().map(compared).collect();
        if complaints.is_empty() {
            words.push("Nothing hurts.".to_owned());
        }
        words.extend(complaints.iter().map(ached));
        let signs = signs.iter().map(|(sign, side)| {
            let seen = SignSeen {
                sign: *sign,
                side: *side,
                there: Some(true),
            };
            LookSaid {
                words: seen.words(),
                body: LookBody::Sign(seen),
            }
        });
        Self {
            words: words.join(" "),
            trial,
            signs: signs.collect(),
            complaints,
        }
    }
}

/// What two scales under the wheels tell, beside what is estimated and aimed at.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WeighedView {
    /// What was read.
    pub weighed: Weighed,
    /// What the front wheel was foreseen to carry, %, and how far that may be off.
    pub estimated: Option<(f64, f64)>,
    /// What was read before on this bike in this fit, %.
    pub before: Option<f64>,
    /// In words.
    pub words: Vec<String>,
}

impl Bench {
    /// Where it hurt, as the rider came and in trials since: what he is asked of again.
    pub fn hurt_places(&self) -> Vec<Felt> {
        let mut hurting = Hurting::as_found(&self.session.intake.complaints);
        for trial in &self.session.trials {
            hurting.in_trial(trial);
        }
        hurting.places()
    }

    /// The rider as measured when the bike as found was closed, on it: what a stand-in is thrown behind, so that nothing that is
    /// measured or noted since makes him another.
    pub fn as_found(&self) -> Result<ForeseeInput, Declined> {
        let found = (self.session.setups.first())
            .ok_or_else(|| Declined::not_now("Close the bike as found first"))?;
        let measured = self.rider.measured_until(Some(found.recorded_at));
        let mut input = self.unfitted(found.setup);
        input.rider = measured.unwrap_or(input.rider);
        input.rider.pelvis.sits_forward_mm = Millimetres(0.0);
        Ok(input)
    }

    /// The effort the rider holds now: the trial's, else the fit's, else one that is easily held.
    pub fn held(&self) -> Effort {
        let trial = self.session.undecided().and_then(Trial::ridden_at);
        trial.or(self.session.effort).unwrap_or(EASY)
    }

    /// Whether the trial on the bench is ridden like what went before it.
    pub fn ridden_alike(&self) -> bool {
        let Some((trial, before)) = self.session.trials.split_last() else {
            return true;
        };
        let was = before.last().map_or(self.session.effort, Trial::ridden_at);
        unlike(was, trial.ridden_at()).is_none()
    }

    /// What two scales tell of the rider on the setup that is on the bench.
    pub fn weighed(&self, front_kg: f64, rear_kg: f64) -> Result<WeighedView, Declined> {
        let weighed = Weighed::of(front_kg, rear_kg)?;
        let ride = self.ride_now()?;
        let now = wedge_core::foresee::foresee_on(&ride, &[])?;
        let row = (now.rows.iter()).find(|row| row.output == Output::FrontShare);
        let estimated = row.and_then(|row| Some((row.after, row.band?)));
        let looks = self.session.looks();
        let of = |seen: &wedge_core::foresee::Sighting| {
            (seen.output == Output::FrontShare).then_some(seen.value)
        };
        let before = looks
            .iter()
            .flat_map(|look| &look.seen)
            .filter_map(of)
            .next_back();
        let mass = self.measured.body.mass_kg.map(|kg| kg.0);
        let bike = self.bike.frame.bike_mass_kg.map(|kg| kg.0);
        Ok(WeighedView {
            words: front_share_words(
                &weighed,
                estimated,
                before,
                mass.zip(bike).map(|(a, b)| a + b),
            ),
            weighed,
            estimated,
            before,
        })
    }
}
