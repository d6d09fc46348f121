//! What a rider may do alone between visits: if-then rules, moves of his own, and tests to ride on the road.

use crate::foresee::{Change, Step, Trying};
use crate::measure::Quantity;
use crate::rule::rules;
use crate::trial::{Answer, Call, Form, LightFingers, Proposing, RailSweep, Run, RunPlan, guide};
use crate::words::{capital, ended, lower, words};
use serde::Serialize;

rules! {
    rules "Ledger";
    /// A rider alone moves the saddle by
    const OWN_MM: f64 = 5.0, " mm", Workshop;
    /// A rider alone sweeps the saddle along its rails either way by at most
    const OWN_SWEEP_MM: f64 = 10.0, " mm", House;
}

words! {
    /// A move the rider may make alone.
    pub enum SelfMove {
        SaddleDown "saddle_down" "Saddle 5 mm down",
        SaddleUp "saddle_up" "Saddle 5 mm up",
        SaddleBack "saddle_back" "Saddle 5 mm back",
        SaddleForward "saddle_forward" "Saddle 5 mm forward again",
    }
}

impl SelfMove {
    /// What moves, and by how much.
    pub(super) const fn moves(self) -> (Quantity, f64) {
        match self {
            Self::SaddleDown => (Quantity::SaddleHeight, -OWN_MM),
            Self::SaddleUp => (Quantity::SaddleHeight, OWN_MM),
            Self::SaddleBack => (Quantity::Setback, OWN_MM),
            Self::SaddleForward => (Quantity::Setback, -OWN_MM),
        }
    }
}

words! {
    /// What a ride may bring that must not be passed over.
    pub enum RideSign {
        KneeFront "knee_front" "Pain in front of the knee",
        KneeBehind "knee_behind" "Pain behind the knee",
        KneeOutside "knee_outside" "Pain outside the knee",
        Numb "numb" "New numbness",
        Swelling "swelling" "Swelling",
        NightPain "night_pain" "Pain at night",
        GivesWay "gives_way" "A knee that gives way",
    }
}

impl RideSign {
    /// Whether nothing is moved any further until somebody has looked at it.
    pub const fn stops(self) -> bool {
        matches!(
            self,
            Self::Numb | Self::Swelling | Self::NightPain | Self::GivesWay
        )
    }

    /// The moves it may be answered by.
    const fn answers(self) -> &'static [SelfMove] {
        match self {
            Self::KneeFront => &[SelfMove::SaddleUp, SelfMove::SaddleBack],
            Self::KneeBehind | Self::KneeOutside => &[SelfMove::SaddleDown],
            _ => &[],
        }
    }

    /// What is done about it when no move of the rider's own answers it.
    pub const fn otherwise(self) -> &'static str {
        match self {
            Self::Numb => "Stop the ride, move nothing further, and call.",
            Self::Swelling | Self::NightPain | Self::GivesWay => {
                "Stop riding and see a clinician; move nothing further, and call."
            }
            _ => "One step of the plan back, and call.",
        }
    }
}

/// What to do when something is felt.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct IfThen {
    /// What is felt.
    pub sign: RideSign,
    /// "Pain behind the knee".
    pub felt: String,
    /// "Saddle 5 mm down; write it down, and ride three times before anything else."
    pub then: String,
    /// Whether it stops the plan.
    pub stops: bool,
}

/// The moves this rider may make alone: those no limit of his body and no end of the parts stands against. What goes forward is
/// only ever the way back.
pub fn own_moves(trying: &Trying) -> Vec<SelfMove> {
    let goes = |own: &SelfMove| {
        let (quantity, by) = own.moves();
        let wanted = vec![Change::by(quantity, by)];
        let (step, wall) = Step::as_far_as_it_goes(trying, wanted, String::new());
        step.is_some() && wall.is_none()
    };
    let all: Vec<SelfMove> = SelfMove::ALL.iter().copied().filter(goes).collect();
    let back = all.contains(&SelfMove::SaddleBack);
    let is_offered = |own: &SelfMove| *own != SelfMove::SaddleForward || back;
    all.into_iter().filter(is_offered).collect()
}

/// What to do when something is felt, with the moves that are allowed.
pub fn if_then(allowed: &[SelfMove]) -> Vec<IfThen> {
    let rule = |sign: RideSign| {
        let answers = sign.answers().iter().filter(|own| allowed.contains(own));
        let moves: Vec<String> = answers.map(|own| lower(own.label())).collect();
        let then = if moves.is_empty() {
            sign.otherwise().to_owned()
        } else {
            format!(
                "{}, once. Write it down, and ride three times before anything else.",
                capital(&moves.join(", or "))
            )
        };
        IfThen {
            sign,
            felt: sign.label().to_owned(),
            then,
            stops: sign.stops(),
        }
    };
    RideSign::ALL.iter().copied().map(rule).collect()
}

/// A test the rider rides alone, as a card.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RoadTest {
    /// The protocol it is of.
    pub title: String,
    /// What to do, in order.
    pub lines: Vec<String>,
}

/// The tests for the road, told as their protocols tell them: light fingers, and the sweep along the rails in its road form, no
/// further than a rider alone may go and no limit of his body stands against.
pub fn road_tests(proposing: &Proposing) -> Vec<RoadTest> {
    let fingers = RunPlan::LightFingers(LightFingers {});
    let swept = RunPlan::proposed(proposing)
        .into_iter()
        .find_map(|plan| match plan {
            RunPlan::RailSweep(sweep) => on_the_road(proposing.on, sweep).map(RunPlan::RailSweep),
            _ => None,
        });
    (std::iter::once(fingers).chain(swept))
        .map(|plan| as_card(&plan, proposing.on))
        .collect()
}

/// A sweep a rider may ride alone; none with fewer than three places.
fn on_the_road(on: &Trying, sweep: RailSweep) -> Option<RailSweep> {
    let step_mm = sweep.step_mm.min(OWN_MM);
    let far = |room: f64, way: f64| {
        let mut far = 0.0;
        while far + step_mm <= room.min(OWN_SWEEP_MM) + 1e-9 {
            let wanted = vec![Change::by(Quantity::Setback, way * (far + step_mm))];
            let (step, wall) = Step::as_far_as_it_goes(on, wanted, String::new());
            if step.is_none() || wall.is_some() {
                break;
            }
            far += step_mm;
        }
        far
    };
    let road = RailSweep {
        back_mm: far(sweep.back_mm, 1.0),
        forward_mm: far(sweep.forward_mm, -1.0),
        step_mm,
        form: Form::Road,
    };
    (road.back_mm + road.forward_mm >= 2.0 * step_mm - 1e-9).then_some(road)
}

/// The questions of a protocol one after the other, each called by its first key: what stands on a card.
fn as_card(plan: &RunPlan, on: &Trying) -> RoadTest {
    const MOST: usize = 60;
    let mut calls: Vec<Call> = Vec::new();
    let mut told: Vec<String> = Vec::new();
    let mut lines: Vec<String> = Vec::new();
    while calls.len() < MOST {
        let screen = guide(&Run {
            plan,
            on,
            calls: &calls,
            stopped: false,
            order: &[],
        })
        .screen;
        let Some(ask) = screen.ask else { break };
        let Some(key) = ask.keys.first() else { break };
        let answer = Answer::Key(key.key.clone());
        let mut new: Vec<String> = vec![screen.instruction, screen.detail];
        new.retain(|words| !words.is_empty() && !told.contains(words));
        if !new.is_empty() {
            lines.push(ended(&new.join(". ")));
            told.append(&mut new);
        }
        calls.push(Call {
            ask: ask.id,
            answer,
        });
    }
    RoadTest {
        title: plan.protocol().label().to_owned(),
        lines,
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::example::{self, trying};
    use crate::units::{Degrees, Sides};

    #[test]
    fn a_limit_takes_a_move_away_and_its_rule_says_what_else() {
        let mut input = example::road();
        let all = trying(&input, own_moves);
        assert_eq!(all, SelfMove::ALL);
        let knee = trying(&input, |t| t.before.legs.right.knee.largest_deg.0);
        input.rider.legs = Sides::from_fn(|_| crate::rider::LegBody {
            knee_limit_deg: Some(Degrees(knee + 1.0)),
            ..Default::default()
        });
        let limited = trying(&input, own_moves);
        assert!(!limited.contains(&SelfMove::SaddleDown), "{limited:?}");
        let of = |moves: &[SelfMove], sign| {
            let rules = if_then(moves);
            rules
                .into_iter()
                .find(|rule| rule.sign == sign)
                .unwrap()
                .then
        };
        assert!(of(&all, RideSign::KneeBehind).starts_with("Saddle 5 mm down, once."));
        assert!(
            of(&all, RideSign::KneeFront).starts_with("Saddle 5 mm up, or saddle 5 mm back, once.")
        );
        assert_eq!(
            of(&limited, RideSign::KneeBehind),
            "One step of the plan back, and call."
        );
        assert!(of(&all, RideSign::NightPain).contains("clinician"));
    }
}
