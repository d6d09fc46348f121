//! Ways through a fit: by the judge, by a fixed order of rules, by protocols in their order, and by bolts alone.

use super::fit::{Fit, Keeps};
use serde::{Deserialize, Serialize};
use wedge_core::intake::Place;
use wedge_core::judge::{Axis, Candidate, Judgement};
use wedge_core::looking::Sign;
use wedge_core::school::setback_by_size;
use wedge_core::units::Side;

/// A way of fitting.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Way {
    /// What the judge proposes.
    Judge,
    /// Cleat by size, knee to the middle of its range, plumb line to zero, torso to the middle of its range; then a bolt a
    /// complaint.
    FixedOrder,
    /// Creep-up, sweep, brackets of reach and height; then by the signs.
    Protocols,
    /// What the judge proposes where there are no protocols.
    Bolts,
}

/// How a fit came to its end.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Ended {
    /// Nothing was left to do.
    Done,
    /// Nothing of the position explained it.
    Refer,
    /// There was no more time.
    Stopped,
}

/// More trials than this nobody bears in a day.
const TRIALS: usize = 16;
/// And no more talk than this.
const TURNS: usize = 60;
/// Protocols of an axis, and the ladder.
const PROTOCOLS: [&str; 12] = [
    "creep_up",
    "sweep",
    "tilt_gauge",
    "bracket_reach",
    "bracket_bars",
    "crank_compare",
    "wrist_line",
    "hanging_foot_left",
    "hanging_foot_right",
    "ladder_left",
    "ladder_right",
    "repeat",
];
/// What is looked at first, whoever fits.
const FIRST_LOOK: [&str; 3] = ["look_hips", "look_upper", "look_foot"];

impl Way {
    /// Every one, as the table has them.
    pub const ALL: [Self; 4] = [Self::Judge, Self::FixedOrder, Self::Protocols, Self::Bolts];

    /// As it is told.
    pub fn label(self) -> &'static str {
        match self {
            Self::Judge => "The judge",
            Self::FixedOrder => "Rules in a fixed order",
            Self::Protocols => "Protocols in their order",
            Self::Bolts => "The judge without protocols",
        }
    }

    /// As it is named on the command line and in files.
    pub fn key(self) -> &'static str {
        match self {
            Self::Judge => "judge",
            Self::FixedOrder => "fixed-order",
            Self::Protocols => "protocols",
            Self::Bolts => "bolts",
        }
    }

    /// The way of a name.
    pub fn named(name: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|way| way.key() == name)
    }

    pub(super) fn without(self) -> &'static [&'static str] {
        match self {
            Self::Bolts => &PROTOCOLS,
            _ => &[],
        }
    }

    /// Whether it goes by the judge.
    pub(super) fn heeds_judge(self) -> bool {
        matches!(self, Self::Judge | Self::Bolts)
    }

    /// Fits the rider; what was believed at the end, where anybody believed anything.
    pub(super) fn fits(self, fit: &mut Fit) -> (Ended, Option<Judgement>) {
        match self {
            Self::Judge | Self::Bolts => by_judge(fit),
            Self::FixedOrder => (fixed_order(fit), None),
            Self::Protocols => (protocols(fit), None),
        }
    }
}

fn by_judge(fit: &mut Fit) -> (Ended, Option<Judgement>) {
    fit.hears();
    for name in FIRST_LOOK {
        fit.looks(name);
    }
    let mut judged = fit.judged();
    for _ in 0..TURNS {
        // What costs nothing but a question is asked before anything is turned.
        if fit.asks_for(&judged.asks) {
            judged = fit.judged();
        }
        if fit.after.len() >= TRIALS {
            return (Ended::Stopped, Some(judged));
        }
        let all = [&judged.next].into_iter().chain(&judged.others);
        let next = all.into_iter().find(|of| !fit.is_stuck(of)).cloned();
        let next = next.unwrap_or_else(Candidate::done);
        match does(fit, &next) {
            Some(ended) => return (ended, Some(judged)),
            None => judged = fit.judged(),
        }
    }
    (Ended::Stopped, Some(judged))
}

/// Does what is proposed; an end where it is one.
fn does(fit: &mut Fit, next: &Candidate) -> Option<Ended> {
    let done = match (next.act.as_str(), next.what.as_str(), next.of) {
        ("done", ..) => return Some(Ended::Done),
        ("refer", ..) => return Some(Ended::Refer),
        ("move" | "linked", ..) => fit.tries(next),
        ("put_back", ..) => fit.puts_back(next),
        ("test", "measure_legs", _) => {
            fit.measures_legs();
            true
        }
        ("test", "ladder_left", _) => {
            fit.climbs_ladder(Side::Left);
            true
        }
        ("test", "ladder_right", _) => {
            fit.climbs_ladder(Side::Right);
            true
        }
        ("test", "repeat", _) => fit.repeats(),
        ("test", name, Some(axis)) => {
            fit.rides(name, axis);
            true
        }
        ("test", name, None) => {
            fit.looks(name);
            true
        }
        _ => {
            fit.remedies(next);
            true
        }
    };
    if !done {
        fit.cannot(next);
    }
    None
}

/// Brings an axis so far as one trial; whether it went.
fn turns(fit: &mut Fit, axis: Axis, by: f64, keeps: Keeps) -> bool {
    fit.here(|fit, trying| {
        let changes = fit.towards(trying, axis, by);
        changes.is_some_and(|changes| fit.trial(trying, &changes, keeps))
    })
}

/// By the numbers: cleats, knee, plumb line, torso.
fn by_rules(fit: &mut Fit) {
    /// The middle of each range.
    const KNEE_DEG: f64 = 37.5;
    const TORSO_DEG: f64 = 45.0;
    let wanted = |fit: &mut Fit, of: fn(&super::fit::Read) -> f64| {
        fit.here(|fit, trying| fit.reads(trying).map(|read| of(&read)))
    };
    cleats_by_size(fit);
    let knee = wanted(fit, |read| f64::midpoint(read.knee[0], read.knee[1]));
    if let Some(knee) = knee {
        turns(
            fit,
            Axis::Height,
            (knee - KNEE_DEG) / 0.38,
            Keeps::UnlessWorse,
        );
    }
    let plumb = wanted(fit, |read| f64::midpoint(read.plumb[0], read.plumb[1]));
    if let Some(plumb) = plumb {
        turns(fit, Axis::Setback, plumb / 0.8, Keeps::UnlessWorse);
    }
    if let Some(torso) = wanted(fit, |read| read.torso) {
        turns(
            fit,
            Axis::Bars,
            (TORSO_DEG - torso) / 0.083,
            Keeps::UnlessWorse,
        );
    }
}

fn cleats_by_size(fit: &mut Fit) {
    // A European size is two thirds of a centimetre, on a last 15 mm longer than the foot.
    let foot = fit.known.rider.legs.left.foot_length_mm;
    let size = foot.map_or(42.0, |foot| (foot.0 + 15.0) / 6.67);
    let by = setback_by_size(size).0 - fit.setup().pedalling.left.cleat_setback_mm.0;
    fit.here(|fit, trying| {
        let both = [Axis::CleatL, Axis::CleatR].map(|axis| fit.towards(trying, axis, by));
        let changes: Vec<_> = both.into_iter().flatten().flatten().collect();
        if !changes.is_empty() {
            fit.trial(trying, &changes, Keeps::UnlessWorse);
        }
    });
}

/// The bolt a place that hurts is answered with, by ear.
fn bolt_for(place: Place) -> Option<(Axis, f64)> {
    Some(match place {
        Place::KneeFront => (Axis::Height, 5.0),
        Place::KneeBehind | Place::Seat | Place::KneeOutside | Place::Calf => (Axis::Height, -5.0),
        Place::LowBack | Place::Neck | Place::HipFront => (Axis::Bars, 10.0),
        Place::ShoulderBlades | Place::Shoulder | Place::Elbow => (Axis::Reach, -10.0),
        Place::Hand | Place::ThighFront => (Axis::Setback, 5.0),
        Place::ThighBack => (Axis::Setback, -5.0),
        Place::Saddle => (Axis::Tilt, -1.0),
        Place::Wrist => (Axis::Levers, -4.0),
        Place::FootBall | Place::Toes | Place::Achilles => (Axis::CleatL, 3.0),
        Place::KneeInside => (Axis::StanceL, 2.0),
        _ => return None,
    })
}

/// One bolt for each complaint, the worst first, for as long as it helps; one that did not help is not turned again.
fn a_bolt_a_complaint(fit: &mut Fit) {
    let mut given_up: Vec<Place> = Vec::new();
    while fit.after.len() < TRIALS {
        let mut left = fit.asks();
        left.retain(|of| !given_up.contains(&of.place));
        let Some(worst) = left.into_iter().max_by_key(|of| of.how_bad) else {
            return;
        };
        let helped = bolt_for(worst.place).is_some_and(|(axis, by)| {
            let stood = fit.places.clone();
            turns(fit, of_side(axis, worst.side), by, Keeps::IfBetter) && fit.places != stood
        });
        if !helped {
            given_up.push(worst.place);
        }
    }
}

/// The axis of the side that hurts.
fn of_side(axis: Axis, side: Option<Side>) -> Axis {
    match (axis, side) {
        (Axis::CleatL, Some(Side::Right)) => Axis::CleatR,
        (Axis::StanceL, Some(Side::Right)) => Axis::StanceR,
        (Axis::TurnL, Some(Side::Right)) => Axis::TurnR,
        _ => axis,
    }
}

fn fixed_order(fit: &mut Fit) -> Ended {
    by_rules(fit);
    a_bolt_a_complaint(fit);
    Ended::Done
}

/// The bolt a sign is answered with.
fn bolt_of(sign: Sign) -> Option<(Axis, f64)> {
    Some(match sign {
        Sign::HipsRock | Sign::BottomChoppy | Sign::ToesPoint => (Axis::Height, -4.0),
        Sign::HipHikes => (Axis::Crank, -2.5),
        Sign::BalanceFails => (Axis::Setback, 5.0),
        Sign::ShouldersDrawnForward | Sign::ElbowsLocked => (Axis::Reach, -10.0),
        Sign::ShouldersHunched => (Axis::Bars, -10.0),
        Sign::ShouldersPushedBack => (Axis::Reach, 10.0),
        Sign::FloatEndIn => (Axis::TurnL, 1.0),
        Sign::FloatEndOut => (Axis::TurnL, -1.0),
        Sign::KneeInPushing => (Axis::StanceL, 2.0),
        _ => return None,
    })
}

fn protocols(fit: &mut Fit) -> Ended {
    for (name, axis) in [
        ("creep_up", Axis::Height),
        ("sweep", Axis::Setback),
        ("bracket_reach", Axis::Reach),
        ("bracket_bars", Axis::Bars),
    ] {
        fit.rides(name, axis);
    }
    for name in [
        "look_hips",
        "look_upper",
        "look_knees",
        "look_foot",
        "balance",
    ] {
        for (sign, side) in fit.looks(name) {
            if fit.after.len() >= TRIALS {
                return Ended::Stopped;
            }
            if let Some((axis, by)) = bolt_of(sign) {
                turns(fit, of_side(axis, side), by, Keeps::IfBetter);
            }
        }
    }
    a_bolt_a_complaint(fit);
    Ended::Done
}
