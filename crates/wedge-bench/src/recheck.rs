//! What is due again since the front, or the saddle on its rails, moved in a kept trial.

use crate::Bench;
use serde::Serialize;
use uuid::Uuid;
use wedge_core::foresee::Trying;
use wedge_core::measure::{Output, Quantity};
use wedge_core::solve::{Due, Recheck, Slide, rechecks};
use wedge_core::trial::Protocol;
use wedge_files::{Outcome, Session, Trial};

/// What one kept trial made due again and nobody has checked since.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DueAgain {
    /// The trial's id: what is checked is written down there.
    pub trial: Uuid,
    /// "Stem 80, one 10 mm spacer more".
    pub title: String,
    /// What is due, in the order it is checked.
    pub due: Vec<Recheck>,
}

/// How much further ahead a rider sat after each front move that was looked at, mm, and how far the torso had gone down.
pub(crate) fn slides(session: &Session) -> Vec<(f64, f64)> {
    let looked = session.trials.iter().flat_map(|trial| {
        let seen = trial.checked().into_iter();
        seen.filter_map(|checked| Some(checked.sits_ahead_mm? - checked.sat_ahead_mm?))
            .zip(std::iter::repeat(trial))
    });
    looked
        .filter_map(|(ahead, trial)| {
            let mut rows = trial.foreseen.rows.iter();
            let torso = rows.find(|row| row.output == Output::Torso)?;
            Some((ahead, torso.before - torso.after))
        })
        .collect()
}

/// What a later kept trial turned, or a later protocol found, needs no second check.
fn checked_since(session: &Session, trial: &Trial, due: Due) -> bool {
    let turned = |quantity: Quantity| {
        let later = session.trials.iter().filter(|t| t.number > trial.number);
        let kept = later.filter(|t| t.outcome() == Some(Outcome::Kept));
        kept.flat_map(|t| &t.foreseen.turns)
            .any(|turn| turn.quantity == quantity)
    };
    let run = |protocol: Protocol| {
        (session.runs.iter())
            .filter(|run| run.started_at > trial.tried_at && run.finding.is_some())
            .any(|run| run.plan.protocol() == protocol)
    };
    match due {
        Due::Height => turned(Quantity::SaddleHeight) || run(Protocol::CreepUp),
        Due::Setback => turned(Quantity::Setback) || run(Protocol::RailSweep),
        Due::Balance => run(Protocol::Balance),
        Due::Tilt => turned(Quantity::Tilt) || run(Protocol::Tilt),
        Due::Front => turned(Quantity::Stem) || turned(Quantity::SpacersBelow),
        Due::HandPlaces => false,
    }
}

impl Bench {
    /// What the last kept trial that moved front or saddle made due again; none while a trial is on the bench.
    pub(crate) fn due_again(&self, now: &Trying) -> Option<DueAgain> {
        if self.session.undecided().is_some() {
            return None;
        }
        let kept = self.session.trials.iter().rev();
        let mut kept = kept.filter(|trial| trial.outcome() == Some(Outcome::Kept));
        kept.find_map(|trial| {
            let before = self.session.setup(trial.before)?;
            let before = self.ride(*before).ok()?.position();
            let all = rechecks(&before, now, Slide::learnt(&self.slides));
            let checked = trial.checked();
            let due: Vec<Recheck> = (all.into_iter())
                .filter(|again| checked.iter().all(|checked| checked.due != again.due))
                .filter(|again| !checked_since(&self.session, trial, again.due))
                .collect();
            let moves = |quantity: Quantity| {
                trial
                    .foreseen
                    .turns
                    .iter()
                    .any(|turn| turn.quantity == quantity)
            };
            // A trial is looked at when it moved the front or the saddle along its rails itself.
            let front = wedge_core::bike::Cockpit::QUANTITIES
                .iter()
                .any(|q| moves(*q))
                || moves(Quantity::HoodForward)
                || moves(Quantity::BarReach)
                || moves(Quantity::PadForward)
                || moves(Quantity::PadSpacers)
                || moves(Quantity::BarRise)
                || moves(Quantity::Setback);
            front.then(|| DueAgain {
                trial: trial.id,
                title: trial.foreseen.title.clone(),
                due,
            })
        })
        .filter(|again| !again.due.is_empty())
    }
}
