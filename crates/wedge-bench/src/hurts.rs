//! What hurt, and what became of it: what the rider came with, and what was said when it was asked again in a trial.

use serde::Serialize;
use wedge_core::intake::{Complaint, Place};
use wedge_core::trial::Hurts;
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
            all.tell((complaint.place, complaint.side), was);
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

    fn tell(&mut self, of: (Place, Option<Side>), was: String) {
        self.of(of).was = Some(was);
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
    pub(crate) fn places(&self) -> Vec<(Place, Option<Side>)> {
        self.0.iter().map(|told| (told.place, told.side)).collect()
    }
}

/// What became of what hurt, a line a place that was asked again in a kept trial: "Neck: 5 of 10 as found, gone in trial 3".
pub(crate) fn became(complaints: &[Complaint], trials: &[Trial]) -> Vec<(Hurts, String)> {
    let kept = || {
        trials
            .iter()
            .filter(|trial| trial.outcome() == Some(Outcome::Kept))
    };
    let mut last: Vec<Hurts> = Vec::new();
    for hurt in kept().flat_map(Trial::hurts) {
        last.retain(|known| (known.place, known.side) != (hurt.place, hurt.side));
        last.push(hurt);
    }
    let line = |of: Hurts| {
        let found = Hurting::as_found(complaints).0.into_iter();
        let found = found.filter(|told| (told.place, told.side) == (of.place, of.side));
        let asked = kept().flat_map(|trial| {
            let here = trial.hurts().into_iter();
            let here = here.filter(|known| (known.place, known.side) == (of.place, of.side));
            here.filter_map(|known| Some(format!("{} in trial {}", known.rated()?, trial.number)))
        });
        let told: Vec<String> = found.filter_map(|told| told.was).chain(asked).collect();
        format!("{}: {}", of.label(), told.join(", "))
    };
    last.into_iter().map(|of| (of, line(of))).collect()
}
