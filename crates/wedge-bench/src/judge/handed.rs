//! What the hand-out says of the judging: why each kept change was made, what remains likely, and what a clinician is asked.

use super::{Judged, score};
use crate::Bench;
use serde::Serialize;
use uuid::Uuid;
use wedge_core::judge::{Axis, Judgement, fault_words, percent};
use wedge_core::words::{capital, lower};
use wedge_files::{Outcome, Trial};

/// Why a kept change was made, in three sentences at most.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WhyKept {
    /// Which trial.
    pub trial: Uuid,
    /// What was believed before it and why, how the rider found it, what is believed of it now.
    pub sentences: Vec<String>,
}

/// What the hand-out says of the judging.
#[derive(Debug, Clone, PartialEq, Default, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct HandedOver {
    /// Of every kept trial.
    pub why: Vec<WhyKept>,
    /// What remains likely.
    pub remains: Vec<String>,
    /// What is asked of a clinician.
    pub refer: Vec<String>,
}

/// What is at least this likely remains so.
const REMAINS: f64 = 0.5;
/// More than so many are a list nobody reads.
const MOST: usize = 3;

impl Bench {
    /// Why kept changes were made and what remains likely; nothing while nobody can be put on the bike.
    pub(crate) fn handed_over(&self) -> HandedOver {
        let told = self.judged_with(|judged| HandedOver {
            why: judged.kept(),
            remains: judged.remains(),
            refer: judged.referrals(),
        });
        told.unwrap_or_default()
    }
}

impl Judged<'_> {
    fn kept(&self) -> Vec<WhyKept> {
        let trials = self.known.bench.session.trials.iter();
        let kept = trials.filter(|trial| trial.outcome() == Some(Outcome::Kept));
        kept.filter_map(|trial| self.why(trial)).collect()
    }

    fn why(&self, trial: &Trial) -> Option<WhyKept> {
        let before = self.known.gathered(Some(trial.tried_at));
        let then = before.judgement();
        let axis = score::moved_most(trial, self.known.bench, &before.linkage)?;
        let was = belief(&then, axis)?;
        let is = self.belief(axis)?;
        let label = axis.label();
        let (way, chance) = was.leans();
        let leans = chance > was.chances.1;
        let mut said: Vec<String> = (was.witnesses.iter())
            .filter(|witness| leans && witness.piece.is_some() && witness.points > super::WORTH)
            .take(2)
            .map(|witness| lower(&before.words(witness)))
            .collect();
        said.dedup();
        let because = if said.is_empty() {
            String::new()
        } else {
            format!(", by {}", said.join("; "))
        };
        let mut sentences = vec![format!(
            "Before it, {} was {}{because}.",
            lower(label),
            was.words()
        )];
        sentences.extend(
            (trial.verdict().is_some())
                .then(|| format!("Tried: {}.", crate::trial::outcome_words(trial))),
        );
        let (plus, fine, minus) = is.chances;
        let still = if way > 0.0 { plus } else { minus };
        let now = if still > fine {
            format!("{} that it goes on the same way", percent(still))
        } else {
            is.words()
        };
        sentences.push(format!("Now {}: {now}.", lower(label)));
        Some(WhyKept {
            trial: trial.id,
            sentences,
        })
    }

    /// "Crank too long: 63 %".
    fn remains(&self) -> Vec<String> {
        let likely = (self.judgement.faults.iter()).filter(|fault| fault.chance >= REMAINS);
        likely
            .take(MOST)
            .map(|fault| format!("{}: {}", fault_words(&fault.fault), percent(fault.chance)))
            .collect()
    }

    /// Who is sent to a clinician, and with which question.
    fn referrals(&self) -> Vec<String> {
        let intake = &self.known.bench.session.intake;
        let mut all: Vec<String> = (intake.stops().into_iter())
            .filter(|stop| !stop.covered)
            .map(|stop| format!("{}: may this rider be fitted, and how far?", stop.label))
            .collect();
        let every = std::iter::once(&self.judgement.next).chain(&self.judgement.others);
        if all.is_empty() && every.into_iter().any(|candidate| candidate.act == "refer") {
            let worst = (intake.complaints.iter()).max_by_key(|complaint| complaint.how_bad);
            all.extend(worst.map(|complaint| {
                format!(
                    "{}: the position explains too little of it; what else does?",
                    capital(&complaint.line())
                )
            }));
        }
        for row in &self.gathered.limits {
            all.push(format!(
                "{}: {}; is that the joint, or can it be loosened?",
                row.label, row.words
            ));
        }
        all
    }
}

fn belief(judgement: &Judgement, axis: Axis) -> Option<&wedge_core::judge::AxisBelief> {
    judgement.axes.iter().find(|belief| belief.of() == axis)
}
