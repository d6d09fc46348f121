//! Wrist and levers: forearm, wrist and back of the hand in one line; one finger on the lever without moving the hand; what
//! the thumb reaches. Yes or no for each side, with what to turn.

use super::Protocol;
use super::run::{
    Ask, Asked, Finding, Guided, Notch, NotchState, Proposing, Run, Saying, Says, Script,
};
use super::setting::Setting;
use crate::bike::Bar;
use crate::foresee::{Change, Step};
use crate::measure::Quantity;
use crate::rule::rules;
use crate::units::{Side, Sides};
use crate::words::{capital, written};
use crate::work::Station;
use serde::{Deserialize, Serialize};

rules! {
    rules "Wrist and levers";
    /// A lever or a hood is turned by so much at a time.
    const TURN_DEG: f64 = 2.0, "°", House;
}

/// How it is set up: there is nothing to set.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct WristLine {}

/// What was called of one side.
#[derive(Debug, Clone, Copy, Default)]
pub(super) struct Hand {
    line: u32,
    finger: bool,
    thumb: bool,
    whole: bool,
}

/// In line.
const IN_LINE: u32 = 1;
/// The hand bent up from the forearm.
const UP: u32 = 2;
/// The hand bent down.
const DOWN: u32 = 3;

impl Hand {
    /// Levers, or hoods, up positive.
    fn turn(&self) -> Option<f64> {
        match self.line {
            UP => Some(-TURN_DEG),
            DOWN => Some(TURN_DEG),
            _ => None,
        }
    }
}

impl Guided for WristLine {
    type SoFar = Sides<Hand>;

    const PROTOCOL: Protocol = Protocol::WristLine;
    const AT: &'static [Station] = &[Station::Bars];
    const RIDDEN: bool = false;

    fn proposed(_: &Proposing) -> Self {
        Self {}
    }

    fn settings(&self) -> Vec<Setting> {
        Vec::new()
    }

    fn read(
        &self,
        run: &Run,
        script: &mut Script,
        hands: &mut Sides<Hand>,
    ) -> Result<(), Box<Asked>> {
        let drop = matches!(run.on.setup.bar, Bar::Drop(_));
        for (n, side) in (1..).zip(Side::BOTH) {
            let saying = |instruction: String, detail: &'static str| {
                move || Saying {
                    place: format!("{} hand, {n} of 2", capital(side.word())),
                    instruction,
                    detail: detail.to_owned(),
                    timer_s: None,
                }
            };
            let ask = Ask::keys(
                format!("{}.line", side.word()),
                "Forearm, wrist and back of the hand?",
                &[
                    ("1", "In one line"),
                    ("2", "Hand bent up"),
                    ("3", "Hand bent down"),
                    ("4", "Rolled outward"),
                ],
            );
            let looks = saying(
                format!("Look along the {} forearm", side.word()),
                "From the side and from above, hands where most of the riding is done.",
            );
            let hand = hands.of_mut(side);
            hand.line = script.ask(ask, looks)?.digit();
            let yes_no = |key: &str, question: &str| {
                Ask::keys(
                    format!("{}.{key}", side.word()),
                    question,
                    &[("1", "Yes"), ("2", "No")],
                )
            };
            let ask = yes_no("finger", "One finger on the lever without moving the hand?");
            let reach = saying(
                "One finger on the lever".to_owned(),
                "The palm stays where it is; the lever is drawn with the first joint of the finger.",
            );
            hand.finger = script.ask(ask, reach)?.is("1");
            let ask = yes_no(
                "thumb",
                if drop {
                    "From the drops: one finger on the lever too?"
                } else {
                    "Thumb controls reached without moving the hand?"
                },
            );
            let thumb = saying(
                if drop {
                    "The same from the drops"
                } else {
                    "Everything the thumb turns"
                }
                .to_owned(),
                "Shift, bell, dropper: none may turn the wrist.",
            );
            hand.thumb = script.ask(ask, thumb)?.is("1");
            hand.whole = true;
        }
        Ok(())
    }

    fn notches(&self, _run: &Run, hands: &Sides<Hand>) -> Vec<Notch> {
        (Side::BOTH.into_iter())
            .filter(|side| hands.of(*side).line > 0)
            .map(|side| {
                let hand = hands.of(side);
                let good = hand.line == IN_LINE && (!hand.whole || hand.finger && hand.thumb);
                Notch {
                    label: side.word().to_owned(),
                    words: ["in line", "bent up", "bent down", "rolled outward"]
                        .get(hand.line as usize - 1)
                        .copied()
                        .unwrap_or_default()
                        .to_owned(),
                    state: if good {
                        NotchState::Quiet
                    } else {
                        NotchState::Marked
                    },
                }
            })
            .collect()
    }

    fn finding(&self, run: &Run, hands: &Sides<Hand>) -> Finding {
        let protocol = Protocol::WristLine;
        if !Side::BOTH.iter().all(|side| hands.of(*side).whole) {
            return Finding::broken(protocol);
        }
        let drop = matches!(run.on.setup.bar, Bar::Drop(_));
        let what = if drop { "hood" } else { "lever" };
        let mut words = Vec::new();
        for side in Side::BOTH {
            let hand = hands.of(side);
            let name = capital(side.word());
            if let Some(turn) = hand.turn() {
                words.push(format!(
                    "{name} {what} {} {}° at a time, until hand and forearm are in line.",
                    if turn > 0.0 { "up" } else { "down" },
                    written(TURN_DEG)
                ));
            }
            if hand.line > DOWN {
                words.push(format!(
                    "{name} wrist rolls outward: the bar is wide, or sweeps back too little."
                ));
            }
            if !hand.finger {
                words.push(format!(
                    "{name} lever nearer: one finger must reach it; turn its reach screw in."
                ));
            }
            if !hand.thumb {
                words.push(if drop {
                    format!("{name} lever is not reached from the drops: hood lower on the bend, or its reach in.")
                } else {
                    format!("{name} thumb controls moved nearer to the grip.")
                });
            }
        }
        let turns = Sides::from_fn(|side| hands.of(side).turn());
        // Both hoods go with the bar.
        let moves = match (turns.left, turns.right) {
            (Some(left), Some(right)) if drop && (left - right).abs() < 1e-9 => Step::of(
                run.on,
                vec![Change::by(Quantity::BarRoll, left)],
                String::new(),
            ),
            _ => None,
        };
        let right = words.is_empty();
        if right {
            words.push("Hands in line, levers and controls reached: nothing to turn.".to_owned());
        }
        Finding {
            words,
            quantity: Some(Quantity::LeverAngle),
            sides: Some(turns),
            moves: moves.into_iter().collect(),
            ..Finding::new(
                protocol,
                Says::Found,
                if right { "In line" } else { "Not in line yet" },
            )
        }
    }
}
