//! Trials read together: what was seen and said of each, how it turned out, and whether it compares with the one before.

use crate::Bench;
use crate::hurts::{HurtThen, Hurting};
use serde::Serialize;
use wedge_core::bike::Cockpit;
use wedge_core::intake::Complaint;
use wedge_core::looking::{HandWeight, SignSeen};
use wedge_core::rider::Effort;
use wedge_core::school::Tried;
use wedge_core::trial::{Felt, Sure, is_batch, unlike};
use wedge_core::work::FrontStep;
use wedge_files::{Outcome, Seen, Trial, Verdict};

/// A trial with its entries read together.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TrialView {
    /// As it is on record.
    pub trial: Trial,
    /// Why it was tried.
    pub why: Option<String>,
    /// What was seen.
    pub seen: Vec<Seen>,
    /// What the rider said.
    pub words: Option<String>,
    /// How the rider found it.
    pub verdict: Option<Verdict>,
    /// Where that is felt.
    pub felt: Vec<Felt>,
    /// How sure the rider is.
    pub sure: Option<Sure>,
    /// Where it hurt, as it was told last, and what is said of it here.
    pub hurts: Vec<HurtThen>,
    /// The signs that were looked for.
    pub signs: Vec<SignSeen>,
    /// What each hand carries.
    pub hand_weights: Vec<HandWeight>,
    /// The front-end work it asks for; none where the front stays.
    pub front_work: Vec<FrontWork>,
    /// What became of it.
    pub outcome: Option<Outcome>,
    /// How it turned out, in words; none while it is on the bench.
    pub turned_out: Option<String>,
    /// The effort it was ridden at.
    pub effort: Option<Effort>,
    /// Why it does not compare with the one before it.
    pub unlike: Option<String>,
    /// Whether several things moved at once, so that the cause cannot be told.
    pub batch: bool,
}

/// A step of the front-end work of a trial.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FrontWork {
    /// Which.
    pub step: FrontStep,
    /// What to do.
    pub label: &'static str,
    /// Whether it is done.
    pub done: bool,
}

/// The card of front-end work, where a trial turns anything between the head tube and the bar.
pub(crate) fn front_work(trial: &Trial) -> Vec<FrontWork> {
    let turns = &trial.foreseen.turns;
    if !turns
        .iter()
        .any(|turn| Cockpit::QUANTITIES.contains(&turn.quantity))
    {
        return Vec::new();
    }
    let done = trial.done();
    (FrontStep::ALL.iter())
        .map(|step| FrontWork {
            step: *step,
            label: step.label(),
            done: done.contains(step),
        })
        .collect()
}

/// Trials in their order, each with what follows from the one before it.
pub(crate) fn trial_views(trials: Vec<Trial>, complaints: &[Complaint]) -> Vec<TrialView> {
    let mut hurting = Hurting::as_found(complaints);
    let efforts: Vec<Option<Effort>> = trials.iter().map(Trial::ridden_at).collect();
    trials
        .into_iter()
        .enumerate()
        .map(|(index, trial)| {
            let moved: Vec<_> = trial.foreseen.turns.iter().map(|t| t.quantity).collect();
            TrialView {
                why: trial.why().map(str::to_owned),
                seen: trial.seen(),
                words: trial.words().map(str::to_owned),
                verdict: trial.verdict(),
                felt: trial.felt().to_vec(),
                sure: trial.sure(),
                hurts: hurting.in_trial(&trial),
                signs: trial.signs(),
                hand_weights: trial.hand_weights(),
                front_work: front_work(&trial),
                outcome: trial.outcome(),
                turned_out: trial.outcome().map(|_| outcome_words(&trial)),
                effort: efforts[index],
                unlike: (index > 0)
                    .then(|| unlike(efforts[index - 1], efforts[index]))
                    .flatten(),
                batch: is_batch(&moved),
                trial,
            }
        })
        .collect()
}

/// "kept, better behind the knee, left; fairly sure".
pub fn outcome_words(trial: &Trial) -> String {
    let outcome = match trial.outcome() {
        Some(Outcome::Kept) => "kept",
        Some(Outcome::PutBack) => "put back",
        None => "on the bench",
    };
    let verdict = trial.verdict().map(|verdict| match verdict {
        Verdict::Better => "better",
        Verdict::Same => "no difference",
        Verdict::Worse => "worse",
    });
    let felt: Vec<String> = trial.felt().iter().map(|felt| felt.words()).collect();
    let mut words = outcome.to_owned();
    if let Some(verdict) = verdict {
        words = format!("{words}, {verdict}");
    }
    if !felt.is_empty() {
        words = format!("{words} at {}", felt.join(" and "));
    }
    match trial.sure() {
        Some(sure) => format!("{words}; {}", sure.label().to_lowercase()),
        None => words,
    }
}

impl Bench {
    /// What was turned in the settled trials of this fit, and how it turned out.
    pub(crate) fn tried(&self) -> Vec<Tried> {
        let settled = self.session.trials.iter().filter(|t| t.outcome().is_some());
        settled
            .flat_map(|trial| {
                let how = outcome_words(trial);
                trial.foreseen.turns.iter().map(move |turn| Tried {
                    quantity: turn.quantity,
                    side: turn.side,
                    how: how.clone(),
                })
            })
            .collect()
    }
}
