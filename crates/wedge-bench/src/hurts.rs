//! What hurt, and what became of it: what the rider came with, and what was said when it was asked again in a trial.

use serde::Serialize;
use wedge_core::intake::{Complaint, Place};
use wedge_core::trial::{Felt, Hurts};
use wedge_core::units::Side;
use wedge_core::words::sided;
use wedge_files::{Outcome, Trial};

/// A place that hurts or hurt, as it was told last, to be asked again.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct HurtThen {
    /// Where on the body.
    pub place: Place,
    /// On which side, where there are two.
    pub side: Option<Side>,
    /// "Front of the knee, left".
    pub label: String,
    /// What was said of it last: "6 of 10 as found", "gone in trial 2"; none where it is new.
    pub was: Option<String>,
    /// What is said of it here, 0 to 10; none until it is asked.
    pub now: Option<f64>,
}

/// What hurts of a fit, trial by trial.
pub(crate) struct Hurting(Vec<HurtThen>);

impl Hurting {
    /// As the rider came.
    pub(crate) fn as_found(complaints: &[Complaint]) -> Self {
        let mut all = Self(Vec::new());
        for complaint in complaints {
            let rated = complaint.how_bad.map(|bad| format!("{bad} of 10 "));
            let was = format!("{}as found", rated.unwrap_or_default());
            all.of((complaint.place, complaint.side)).was = Some(was);
        }
        all
    }

    fn of(&mut self, (place, side): (Place, Option<Side>)) -> &mut HurtThen {
        let known = self
            .0
            .iter()
            .position(|t| (t.place, t.side) == (place, side));
        let index = known.unwrap_or_else(|| {
            self.0.push(HurtThen {
                place,
                side,
                label: sided(place.label(), side),
                was: None,
                now: None,
            });
            self.0.len() - 1
        });
        &mut self.0[index]
    }

    /// What a trial's card asks and what it was answered; what is said of it counts as said last for the trials after it.
    pub(crate) fn in_trial(&mut self, trial: &Trial) -> Vec<HurtThen> {
        let hurts = trial.hurts();
        for hurt in &hurts {
            self.of((hurt.place, hurt.side)).now = hurt.how_bad;
        }
        let here = self.0.clone();
        for hurt in &hurts {
            let told = self.of((hurt.place, hurt.side));
            told.now = None;
            if let Some(rated) = hurt.rated() {
                told.was = Some(format!("{rated} in trial {}", trial.number));
            }
        }
        here
    }

    /// The places that were told of so far.
    pub(crate) fn places(&self) -> Vec<Felt> {
        let place = |told: &HurtThen| Felt {
            place: told.place,
            side: told.side,
        };
        self.0.iter().map(place).collect()
    }
}

/// What became of what hurt, a line a place that was asked again in a kept trial: "Neck: 5 of 10 as found, gone in trial 3".
pub(crate) fn became(complaints: &[Complaint], trials: &[Trial]) -> Vec<(Hurts, String)> {
    let found = Hurting::as_found(complaints).0;
    let mut told: Vec<(Hurts, Vec<String>)> = Vec::new();
    let kept = (trials.iter()).filter(|trial| trial.outcome() == Some(Outcome::Kept));
    for trial in kept {
        for hurt in trial.hurts() {
            let known = told.iter().position(|(of, _)| of.felt() == hurt.felt());
            let mut said = match known {
                Some(index) => told.remove(index).1,
                None => (found.iter())
                    .filter(|of| (of.place, of.side) == (hurt.place, hurt.side))
                    .filter_map(|of| of.was.clone())
                    .collect(),
            };
            let rated = hurt.rated();
            said.extend(rated.map(|rated| format!("{rated} in trial {}", trial.number)));
            told.push((hurt, said));
        }
    }
    let line =
        |(of, said): (Hurts, Vec<String>)| (of, format!("{}: {}", of.label(), said.join(", ")));
    told.into_iter().map(line).collect()
}
