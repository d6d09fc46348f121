//! From a proposal to the bolts and parts of one bike: a linked trial that can be foreseen and tried.

use super::axis::Axis;
use super::case::Bolt;
use super::decide::Candidate;
use super::linkage::turned;
use crate::bike::{BarKind, Part, Setup};
use crate::foresee::{Change, Step, Trying};
use crate::measure::Quantity;
use crate::plane::Point;
use crate::rule::rules;
use crate::solve::{Aim, front_ends};

rules! {
    rules "The judge’s moves";
    /// Parts that bring the hands less than this share of the way are none for it.
    const SHARE: f64 = 0.4, "", House;
    /// And parts that move them further than this the other way.
    const ASIDE_MM: f64 = 10.0, " mm", House;
    /// Stems are sold in steps of this.
    const STEM_STEP_MM: f64 = 10.0, " mm", House;
}

/// A move as one linked trial on the bike as it stands; or why it cannot be made, where it turns bolts at all.
pub fn step(candidate: &Candidate, now: &Trying, parts: &[Part]) -> (Option<Step>, Option<String>) {
    if candidate.bolts.is_empty() {
        return (None, None);
    }
    if candidate
        .bolts
        .iter()
        .any(|(bolt, _)| *bolt == Bolt::Saddle)
    {
        // Another saddle is chosen, not turned.
        return (None, None);
    }
    let setup = Setup::from(now.setup);
    if let Some(axis @ (Axis::Reach | Axis::Bars)) = candidate.of {
        return front(axis, candidate, now, parts);
    }
    let mut changes: Vec<Change> = Vec::new();
    for (index, (bolt, by)) in candidate.bolts.iter().enumerate() {
        let by = match bolt {
            Bolt::Stem if setup.bar.kind() != BarKind::Aero => {
                (by / STEM_STEP_MM).round() * STEM_STEP_MM
            }
            // What answers is set to the millimetre.
            _ if index > 0 => by.round(),
            _ => *by,
        };
        if by != 0.0 {
            changes.extend(turned(&setup, *bolt, by));
        }
    }
    stepped(now, changes)
}

/// The changes as a step, cut where a limit of the rider begins.
fn stepped(now: &Trying, changes: Vec<Change>) -> (Option<Step>, Option<String>) {
    let (step, wall) = Step::as_far_as_it_goes(now, changes, String::new());
    let none = step.is_none() && wall.is_none();
    (
        step,
        wall.or_else(|| none.then(|| "the bike does not go there".to_owned())),
    )
}

/// The front end of the box that comes nearest to where the hands should go.
fn front(
    axis: Axis,
    candidate: &Candidate,
    now: &Trying,
    parts: &[Part],
) -> (Option<Step>, Option<String>) {
    let way = if candidate.dir == Some("+") {
        1.0
    } else {
        -1.0
    };
    let by = way * candidate.amount;
    let wanted = match axis {
        Axis::Reach => Point::new(by, 0.0),
        _ => Point::new(0.0, by),
    };
    let hand = now.before.bike.hand;
    let comes = |to: Point| {
        let moved = to - hand;
        let (along, aside) = match axis {
            Axis::Reach => (moved.x, moved.y),
            _ => (moved.y, moved.x),
        };
        along * way >= SHARE * candidate.amount && aside.abs() <= ASIDE_MM
    };
    if let Some(stem) = plain_stem(axis, by, now, parts)
        && now.with(&stem).is_some_and(|(_, p)| comes(p.bike.hand))
    {
        return stepped(now, stem);
    }
    let fronts = front_ends(now, &Aim::at(hand + wanted, None), parts);
    // Fewest bolts first, then the nearest.
    let best = (fronts.answers.iter())
        .filter(|end| comes(end.hand))
        .min_by(|a, b| {
            let fewer = a.changes.len().cmp(&b.changes.len());
            fewer.then(a.miss_mm.total_cmp(&b.miss_mm))
        });
    let Some(end) = best else {
        let why = fronts.in_the_way.into_iter().next();
        return (
            None,
            Some(why.unwrap_or_else(|| "no part of the box does it".to_owned())),
        );
    };
    stepped(now, end.changes.clone())
}

/// Another stem alone, of a length there is, where that is what reach asks for.
fn plain_stem(axis: Axis, by: f64, now: &Trying, parts: &[Part]) -> Option<Vec<Change>> {
    let setup = Setup::from(now.setup);
    if axis != Axis::Reach || setup.bar.kind() == BarKind::Aero {
        return None;
    }
    let length = setup.cockpit.stem_mm.0 + (by / STEM_STEP_MM).round() * STEM_STEP_MM;
    let is_sold = |part: &Part| {
        part.size(Quantity::Stem)
            .is_some_and(|size| (size - length).abs() < 1.0)
    };
    (parts.iter().any(is_sold)).then(|| vec![Change::to(Quantity::Stem, length)])
}

/// What would undo a trial: every bolt and part to where it stood on the setup before.
pub fn undoing(
    now: &Trying,
    before: &Setup,
    turned: &[(Quantity, Option<crate::units::Side>, f64)],
) -> Option<Step> {
    let changes = turned.iter().filter_map(|(quantity, side, by)| {
        let of = |change| Change {
            side: *side,
            ..change
        };
        match quantity {
            Quantity::SaddleHeight | Quantity::Setback => Some(Change::by(*quantity, -by)),
            _ => Some(of(Change::to(*quantity, before.get(*quantity, *side)?))),
        }
    });
    let changes: Vec<Change> = changes.collect();
    Step::of(now, changes, String::new())
}
