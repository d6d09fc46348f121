//! The judge's own score: what it claimed of an axis before a protocol found its place, before a trial was called, and as a fit
//! left it, and what that protocol, that trial and the next fit then showed. Worked out again by this version from the evidence
//! there was before each.

use super::evidence::{Gathered, Piece};
use crate::{Bench, Declined};
use jiff::Timestamp;
use serde::Serialize;
use wedge_core::judge::{Axis, AxisBelief, Evidence, Felt, Linkage};
use wedge_files::Trial;

/// What was claimed of one axis, and what was then shown.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Claim {
    /// The axis.
    pub axis: Axis,
    /// The chance it gave that the axis was in its window.
    pub fine: f64,
    /// Which way it said it stood out more likely: 1 or −1.
    pub way: f64,
    /// Whether a protocol then found the bike inside the window; none of a trial.
    pub was_fine: Option<bool>,
    /// Whether it did stand out that way; none where it was fine, or no difference was felt.
    pub was_right: Option<bool>,
}

/// How well an axis was judged.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct AxisScore {
    /// The axis.
    pub axis: Axis,
    /// As it is called.
    pub label: &'static str,
    /// Protocols that found its place.
    pub found: usize,
    /// The chance claimed that it was fine, on the mean over those.
    pub claimed_fine: f64,
    /// How often it was.
    pub was_fine: usize,
    /// Trials and findings that told a direction.
    pub directions: usize,
    /// How often it was the one claimed.
    pub right: usize,
    /// In a sentence.
    pub words: String,
}

/// Trials that moved an axis by less than this share of its window tell nothing of it.
const TELLS: f64 = 0.5;

/// The axis that was moved most, by its window, and by how much; none where none was moved by much.
fn most(moved: impl Iterator<Item = (Axis, f64)>) -> Option<(Axis, f64)> {
    let share = |(axis, by): &(Axis, f64)| by.abs() / axis.spec().half;
    let most = moved.max_by(|a, b| share(a).total_cmp(&share(b)));
    most.filter(|most| share(most) > TELLS)
}

/// The axis a trial moved most.
pub(super) fn moved_most(trial: &Trial, bench: &Bench, linkage: &Linkage) -> Option<Axis> {
    let at = |setup| bench.places(setup, linkage);
    let (before, after) = (at(trial.before)?, at(trial.after)?);
    let moved = Axis::ALL
        .iter()
        .zip(before.iter().zip(&after))
        .map(|(axis, (before, after))| (*axis, after - before));
    most(moved).map(|(axis, _)| axis)
}

/// What is claimed of an axis by somebody who believes this of it.
fn claimed(belief: &AxisBelief) -> Claim {
    Claim {
        axis: belief.of(),
        fine: belief.chances.1,
        way: belief.leans().0,
        was_fine: None,
        was_right: None,
    }
}

/// The claim once a protocol found the bike out by so much.
fn found_out(belief: &AxisBelief, out: f64, half: f64) -> Claim {
    let claim = claimed(belief);
    let was_fine = out.abs() <= half;
    Claim {
        was_fine: Some(was_fine),
        was_right: (!was_fine).then_some(out * claim.way > 0.0),
        ..claim
    }
}

/// The place a protocol found; none of an end it gave, or of anything else.
fn found_place(evidence: &Evidence) -> Option<(Axis, f64)> {
    match evidence {
        Evidence::Finding {
            axis,
            at,
            bound: None,
            ..
        } => Some((*axis, *at)),
        _ => None,
    }
}

/// What was claimed before each protocol and each called trial of a fit, and what it showed.
pub fn claims(bench: &Bench) -> Result<Vec<Claim>, Declined> {
    let session = &bench.session;
    if session.now.is_none() {
        return Ok(Vec::new());
    }
    let found = session.runs.iter().filter(|run| run.finding.is_some());
    let called = session.trials.iter().filter(|t| t.verdict().is_some());
    let mut moments: Vec<Timestamp> = found
        .map(|run| run.started_at)
        .chain(called.map(|trial| trial.tried_at))
        .collect();
    moments.sort();
    bench.with_known(|known| {
        let until = moments.into_iter().map(Some).chain([None]);
        let gathered: Vec<Gathered> = until.map(|until| known.gathered(until)).collect();
        let steps = gathered.windows(2);
        steps
            .flat_map(|step| shown_by(&step[0], &step[1]))
            .collect()
    })
}

/// What was claimed by what was known before, of everything that was known then besides.
fn shown_by(before: &Gathered, then: &Gathered) -> Vec<Claim> {
    let judged = before.judgement();
    let belief = |axis: Axis| judged.axes.iter().find(|belief| belief.of() == axis);
    let is_new = |piece: &&Piece| {
        !piece.key.is_empty() && before.pieces.iter().all(|known| known.key != piece.key)
    };
    let new = then.pieces.iter().filter(is_new);
    new.filter_map(|piece| {
        if let Some((axis, at)) = found_place(&piece.evidence) {
            let belief = belief(axis)?;
            let half = then.linkage.craft.spec(axis).half;
            return Some(found_out(belief, belief.now - at, half));
        }
        let Evidence::Trial {
            axes: Some(moved),
            verdict,
            ..
        } = &piece.evidence
        else {
            return None;
        };
        let (axis, by) = most(moved.iter().map(|(axis, by)| (*axis, *by)))?;
        let claim = claimed(belief(axis)?);
        // Better the other way of where it was said to stand out is what was claimed.
        let towards = -by * claim.way > 0.0;
        Some(Claim {
            was_right: match verdict {
                Felt::Better => Some(towards),
                Felt::Worse => Some(!towards),
                Felt::Same => None,
            },
            ..claim
        })
    })
    .collect()
}

/// What was claimed of a bike as one fit left it, and what protocols of the next found.
pub fn follow_up(left: &Bench, next: &Bench) -> Result<Vec<Claim>, Declined> {
    if left.session.now.is_none() || next.session.now.is_none() {
        return Ok(Vec::new());
    }
    let judged = left.with_known(|known| known.gathered(None).judgement())?;
    let after = next.with_known(|known| known.gathered(None))?;
    let mut all: Vec<Claim> = Vec::new();
    for (axis, at) in (after.pieces.iter()).filter_map(|piece| found_place(&piece.evidence)) {
        let belief = judged.axes.iter().find(|belief| belief.of() == axis);
        if let Some(belief) = belief.filter(|_| all.iter().all(|known| known.axis != axis)) {
            // The next fit finds the bike where this one left it.
            let half = after.linkage.craft.spec(axis).half;
            all.push(found_out(belief, -at, half));
        }
    }
    Ok(all)
}

/// Claims counted, axis by axis.
pub fn scores(claims: &[Claim]) -> Vec<AxisScore> {
    Axis::ALL
        .iter()
        .filter_map(|axis| {
            let of: Vec<&Claim> = claims.iter().filter(|claim| claim.axis == *axis).collect();
            if of.is_empty() {
                return None;
            }
            let found: Vec<&&Claim> = of.iter().filter(|claim| claim.was_fine.is_some()).collect();
            let was_fine = found
                .iter()
                .filter(|claim| claim.was_fine == Some(true))
                .count();
            let told: Vec<bool> = of.iter().filter_map(|claim| claim.was_right).collect();
            let right = told.iter().filter(|right| **right).count();
            #[allow(clippy::cast_precision_loss, reason = "a few thousand at the most")]
            let claimed_fine = if found.is_empty() {
                0.0
            } else {
                found.iter().map(|claim| claim.fine).sum::<f64>() / found.len() as f64
            };
            let mut words = Vec::new();
            if !found.is_empty() {
                words.push(format!(
                    "in its window {was_fine} of {}, {:.0} % claimed on the mean",
                    found.len(),
                    100.0 * claimed_fine
                ));
            }
            words.push(match told.len() {
                0 => "no direction was shown yet".to_owned(),
                n => format!("the direction right {right} of {n}"),
            });
            Some(AxisScore {
                axis: *axis,
                label: axis.label(),
                found: found.len(),
                claimed_fine,
                was_fine,
                directions: told.len(),
                right,
                words: words.join("; "),
            })
        })
        .collect()
}
