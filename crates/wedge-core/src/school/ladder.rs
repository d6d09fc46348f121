//! The ladder for a knee that tracks in or out: one thing at a time, testing after each; and the shim under a leg that
//! is truly short.

use super::cleat::on;
use super::stance::ASIDE_STEP_MM;
use crate::foresee::{Change, Trying};
use crate::looking::KneePath;
use crate::measure::{Output, Quantity, half_mm};
use crate::rule::rules;
use crate::solve::linked;
use crate::units::{Side, Sides};
use crate::words::written;
use serde::Serialize;

rules! {
    rules "Ladder";
    /// One step of a footbed.
    const FOOTBED_STEP_MM: f64 = 2.0, " mm", House;
    /// One wedge.
    const WEDGE_STEP_DEG: f64 = 1.0, "°", House;
    /// A shim fills at most this share of a leg's shortness to begin with.
    const SHIM_SHARE: f64 = 0.5, "", Workshop;
    /// A leg shorter by less is left alone.
    const SHORT_LEG_MM: f64 = 4.0, " mm", House;
}

/// How a trial of this fit turned out, as far as the ladder asks.
#[derive(Debug, Clone, PartialEq)]
pub struct Tried {
    /// What was turned.
    pub quantity: Quantity,
    /// On which side; both when none.
    pub side: Option<Side>,
    /// "kept, better".
    pub how: String,
}

/// Where a rung stands.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum RungState {
    /// Tried in this fit.
    Done,
    /// The one to try now.
    Next,
    /// Only after the one before.
    Later,
}

/// One rung.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Rung {
    /// "Footbed".
    pub label: String,
    /// What to do, or how it turned out.
    pub words: String,
    /// Where it stands.
    pub state: RungState,
    /// What is turned.
    pub quantity: Quantity,
    /// The trial; none when the way is the foot's to say.
    pub changes: Vec<Change>,
}

/// The ladder of one knee.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Ladder {
    /// Whose.
    pub side: Side,
    /// How the knee was seen to go.
    pub seen: String,
    /// The rungs, from the cheapest.
    pub rungs: Vec<Rung>,
    /// What to do once all were tried.
    pub after: String,
}

/// A ladder for each knee that was seen to track in or out.
pub fn ladders(trying: &Trying, paths: &Sides<Option<KneePath>>, tried: &[Tried]) -> Vec<Ladder> {
    Side::BOTH
        .into_iter()
        .filter_map(|side| {
            let path = (*paths.of(side)).filter(|path| *path != KneePath::Straight)?;
            // Negative closes the foot in, and raises the inner edge the other way round.
            let out = if path.goes_in() { -1.0 } else { 1.0 };
            let knee = if path.goes_in() { "in" } else { "out" };
            let footbed = linked(trying, vec![on(side, Quantity::Footbed, FOOTBED_STEP_MM)]);
            let plans = [
                (
                    "Cleat",
                    Quantity::CleatRotation,
                    "Turn it a degree at a time to where the foot hangs by itself, in the middle of its float".to_owned(),
                    Vec::new(),
                ),
                (
                    "Sideways place",
                    Quantity::CleatOut,
                    format!(
                        "The foot {} mm {} the bike, under a knee that goes {knee}",
                        written(ASIDE_STEP_MM),
                        if out < 0.0 { "closer to" } else { "away from" }
                    ),
                    vec![on(side, Quantity::CleatOut, out * ASIDE_STEP_MM)],
                ),
                (
                    "Footbed",
                    Quantity::Footbed,
                    "One that carries the arch; its thickness is made good at the saddle".to_owned(),
                    footbed,
                ),
                (
                    "Wedge",
                    Quantity::CleatWedge,
                    format!(
                        "One, the {} edge of the foot raised {}°",
                        if out < 0.0 { "inner" } else { "outer" },
                        written(WEDGE_STEP_DEG)
                    ),
                    vec![on(side, Quantity::CleatWedge, -out * WEDGE_STEP_DEG)],
                ),
            ];
            let mut next = true;
            let rungs = plans
                .into_iter()
                .map(|(label, quantity, words, changes)| {
                    let done = tried.iter().rev().find(|t| {
                        t.quantity == quantity && t.side.is_none_or(|tried| tried == side)
                    });
                    let state = match done {
                        Some(_) => RungState::Done,
                        None if std::mem::take(&mut next) => RungState::Next,
                        None => RungState::Later,
                    };
                    Rung {
                        label: label.to_owned(),
                        words: done.map_or(words, |t| format!("Tried: {}", t.how)),
                        state,
                        quantity,
                        changes,
                    }
                })
                .collect();
            Some(Ladder {
                side,
                seen: path.label().to_owned(),
                rungs,
                after: "Look at the knee again after each. What is left after the wedge is not the foot's: refer it."
                    .to_owned(),
            })
        })
        .collect()
}

/// A shim under a leg that is truly short.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Shim {
    /// The short leg.
    pub side: Side,
    /// How short, and what to do.
    pub words: String,
    /// Whether height, balance and cleats are right, as far as Wedge can see.
    pub ready: bool,
    /// The trial.
    pub changes: Vec<Change>,
}

/// What a shim could do, for a leg whose bones were found shorter than the other's.
pub fn shims(trying: &Trying, ladders: &[Ladder]) -> Vec<Shim> {
    Side::BOTH
        .into_iter()
        .filter_map(|side| {
            let shorter = trying.rider.legs.of(side).shorter().iter().sum::<f64>();
            if shorter < SHORT_LEG_MM {
                return None;
            }
            let there = trying.setup.pedalling.of(side).shim_mm.0;
            let most = SHIM_SHARE * shorter;
            let by = half_mm(most - there);
            if by < 0.5 {
                return Some(Shim {
                    side,
                    words: format!(
                        "The {} leg is {} mm shorter; the shim of {} mm fills as much as one begins with",
                        side.word(),
                        written(shorter),
                        written(there)
                    ),
                    ready: false,
                    changes: Vec::new(),
                });
            }
            let marked = (trying.marks().iter())
                .any(|mark| mark.output == Output::KneeAtFullReach);
            let climbing = ladders
                .iter()
                .any(|l| l.rungs.iter().any(|r| r.state == RungState::Next));
            let waits = match (marked, climbing) {
                (true, _) => " Saddle height first: a knee is still outside its range.",
                (_, true) => " The ladder first: a knee still tracks in or out.",
                _ => "",
            };
            Some(Shim {
                side,
                words: format!(
                    "The {} leg is {} mm shorter: {} mm under its cleat, half at the most to begin with, and only after \
                     height, balance and cleats are right.{waits}",
                    side.word(),
                    written(shorter),
                    written(by)
                ),
                ready: waits.is_empty(),
                changes: linked(trying, vec![on(side, Quantity::Shim, by)]),
            })
        })
        .collect()
}

#[cfg(test)]
mod tests {
    use super::RungState::{Done, Later, Next};
    use super::*;
    use crate::example::{self, trying};
    use crate::foresee::ForeseeInput;
    use crate::units::Millimetres;

    fn tried(quantity: Quantity, side: Option<Side>) -> Tried {
        Tried {
            quantity,
            side,
            how: "put back, no difference".to_owned(),
        }
    }

    #[test]
    fn rungs_are_climbed_one_after_the_other_on_the_side_that_needs_them() {
        let input = example::road();
        let paths = Sides {
            left: Some(KneePath::SweptIn),
            right: Some(KneePath::Straight),
        };
        let states = |tried: &[Tried]| {
            let ladders = trying(&input, |t| ladders(t, &paths, tried));
            assert_eq!(ladders.len(), 1);
            assert_eq!(ladders[0].side, Side::Left);
            ladders[0].rungs.iter().map(|r| r.state).collect::<Vec<_>>()
        };
        assert_eq!(states(&[]), [Next, Later, Later, Later]);
        assert_eq!(
            states(&[tried(Quantity::CleatRotation, Some(Side::Left))]),
            [Done, Next, Later, Later]
        );
        // What was tried on the other side does not count; a rung tried out of turn does.
        assert_eq!(
            states(&[
                tried(Quantity::CleatRotation, Some(Side::Right)),
                tried(Quantity::Footbed, None)
            ]),
            [Next, Later, Done, Later]
        );
    }

    #[test]
    fn a_knee_that_goes_out_is_answered_the_other_way() {
        let input = example::road();
        let by = |path: KneePath, rung: usize| {
            let paths = Sides::both(Some(path));
            trying(&input, |t| ladders(t, &paths, &[]))[0].rungs[rung].changes[0].by
        };
        assert_eq!(by(KneePath::InPushing, 1), Some(-2.0));
        assert_eq!(by(KneePath::OutRising, 1), Some(2.0));
        assert_eq!(by(KneePath::InPushing, 3), Some(1.0));
        assert_eq!(by(KneePath::OutRising, 3), Some(-1.0));
        assert!(trying(&input, |t| ladders(t, &Sides::both(None), &[])).is_empty());
    }

    fn shims_of(input: &ForeseeInput) -> Vec<Shim> {
        trying(input, |t| shims(t, &[]))
    }

    #[test]
    fn a_shim_fills_half_at_most_and_waits_for_the_rest() {
        let mut input = example::road();
        assert!(shims_of(&input).is_empty());
        input.rider.legs.left.shank_shorter_mm = Some(Millimetres(3.0));
        assert!(shims_of(&input).is_empty(), "too little to fill");
        input.rider.legs.left.shank_shorter_mm = Some(Millimetres(7.0));
        input.rider.legs.left.thigh_shorter_mm = Some(Millimetres(3.0));
        let shim = &shims_of(&input)[0];
        assert_eq!(shim.changes[0], on(Side::Left, Quantity::Shim, 5.0));
        assert!(shim.words.contains("10 mm shorter"), "{}", shim.words);
        // A knee outside its range goes first.
        input.setup.saddle.saddle_height_mm = Millimetres(665.0);
        let early = &shims_of(&input)[0];
        assert!(!early.ready && early.words.contains("Saddle height first"));
        // What is filled already is not filled twice.
        input.setup.pedalling.left.shim_mm = Millimetres(5.0);
        assert!(shims_of(&input)[0].changes.is_empty());
    }
}
