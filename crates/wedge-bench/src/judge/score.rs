//! The judge's own score: what it claimed of an axis before a protocol found its place, before a trial was called, and as a fit
//! left it, and what that protocol, that trial and the next fit then showed. Worked out again by this version from the evidence
//! there was before each.

use crate::{Bench, Declined};
use jiff::Timestamp;
use serde::Serialize;
use uuid::Uuid;
use wedge_core::foresee::Trying;
use wedge_core::judge::{Axis, Evidence, Felt, Linkage, Stand, judge_by};
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

/// The axis a trial moved most, by its window; none where it moved none by much.
pub(super) fn moved_most(trial: &Trial, bench: &Bench, linkage: &Linkage) -> Option<Axis> {
    let at = |setup: Uuid| {
        let record = bench.session.setups.iter().find(|of| of.id == setup)?;
        let ride = bench.ride(record.setup).ok()?;
        let on = Trying::of(&ride);
        Some(linkage.places(&Stand::of(&on, &on.before, &record.setup)))
    };
    let (before, after) = (at(trial.before)?, at(trial.after)?);
    let share =
        |axis: &Axis| (after[*axis as usize] - before[*axis as usize]).abs() / axis.spec().half;
    let most = (Axis::ALL.iter()).max_by(|a, b| share(a).total_cmp(&share(b)));
    most.copied().filter(|axis| share(axis) > TELLS)
}

/// What was claimed before each protocol and each called trial of a fit, and what it showed.
pub fn claims(bench: &Bench) -> Result<Vec<Claim>, Declined> {
    let session = &bench.session;
    if session.now.is_none() {
        return Ok(Vec::new());
    }
    let (found, now) = (bench.ride(bench.found()?)?, bench.ride_now()?);
    let (found, now) = (Trying::of(&found), Trying::of(&now));
    let runs = session
        .runs
        .iter()
        .filter(|run| run.finding.is_some())
        .map(|run| run.started_at);
    let trials = session
        .trials
        .iter()
        .filter(|trial| trial.verdict().is_some())
        .map(|trial| trial.tried_at);
    let mut moments: Vec<Timestamp> = runs.chain(trials).collect();
    moments.sort();
    let whole = bench.gathered((&found, &now), None);
    let after = |index: usize| moments.get(index + 1).copied();
    let mut all = Vec::new();
    for (index, moment) in moments.iter().enumerate() {
        let before = bench.gathered((&found, &now), Some(*moment));
        let judged = judge_by(&before.case(), &before.linkage.craft);
        let then = match after(index) {
            Some(next) => bench.gathered((&found, &now), Some(next)),
            None => bench.gathered((&found, &now), None),
        };
        let new = then.pieces.iter().filter(|piece| {
            !piece.key.is_empty() && before.pieces.iter().all(|known| known.key != piece.key)
        });
        for piece in new {
            let claim = |axis: Axis| {
                let belief = judged.axes.iter().find(|belief| belief.of() == axis)?;
                let (way, _) = belief.leans();
                Some((belief.now, belief.chances.1, way))
            };
            match &piece.evidence {
                Evidence::Finding {
                    axis,
                    at,
                    bound: None,
                    ..
                } => {
                    let Some((stands, fine, way)) = claim(*axis) else {
                        continue;
                    };
                    let half = whole.linkage.craft.spec(*axis).half;
                    let out = stands - at;
                    let was_fine = out.abs() <= half;
                    all.push(Claim {
                        axis: *axis,
                        fine,
                        way,
                        was_fine: Some(was_fine),
                        was_right: (!was_fine).then_some(out * way > 0.0),
                    });
                }
                Evidence::Trial {
                    axes: Some(moved),
                    verdict,
                    ..
                } => {
                    let most = moved.iter().max_by(|a, b| {
                        let share = |(axis, by): &(&Axis, &f64)| by.abs() / axis.spec().half;
                        share(a).total_cmp(&share(b))
                    });
                    let Some((axis, by)) =
                        most.filter(|(axis, by)| by.abs() > TELLS * axis.spec().half)
                    else {
                        continue;
                    };
                    let Some((_, fine, way)) = claim(*axis) else {
                        continue;
                    };
                    // Better the other way of where it was said to stand out is what was claimed.
                    let towards = -by * way > 0.0;
                    all.push(Claim {
                        axis: *axis,
                        fine,
                        way,
                        was_fine: None,
                        was_right: match verdict {
                            Felt::Better => Some(towards),
                            Felt::Worse => Some(!towards),
                            Felt::Same => None,
                        },
                    });
                }
                _ => {}
            }
        }
    }
    Ok(all)
}

/// What was claimed of a bike as one fit left it, and what protocols of the next found.
pub fn follow_up(left: &Bench, next: &Bench) -> Result<Vec<Claim>, Declined> {
    if left.session.now.is_none() || next.session.now.is_none() {
        return Ok(Vec::new());
    }
    let gathered = |bench: &Bench| {
        let (found, now) = (bench.ride(bench.found()?)?, bench.ride_now()?);
        Ok::<_, Declined>(bench.gathered((&Trying::of(&found), &Trying::of(&now)), None))
    };
    let (before, after) = (gathered(left)?, gathered(next)?);
    let judged = judge_by(&before.case(), &before.linkage.craft);
    let mut all: Vec<Claim> = Vec::new();
    for piece in &after.pieces {
        let Evidence::Finding {
            axis,
            at,
            bound: None,
            ..
        } = &piece.evidence
        else {
            continue;
        };
        let belief = judged.axes.iter().find(|belief| belief.of() == *axis);
        let Some(belief) = belief.filter(|_| all.iter().all(|known| known.axis != *axis)) else {
            continue;
        };
        // The next fit finds the bike where this one left it.
        let was_fine = at.abs() <= after.linkage.craft.spec(*axis).half;
        let (way, _) = belief.leans();
        all.push(Claim {
            axis: *axis,
            fine: belief.chances.1,
            way,
            was_fine: Some(was_fine),
            was_right: (!was_fine).then_some(-at * way > 0.0),
        });
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
