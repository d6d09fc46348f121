//! Light fingers: the grip lightened at three efforts. A trunk that carries itself lets the hands lie; one that does not
//! falls onto them.

use super::Protocol;
use super::run::{
    Ask, Asked, Finding, Guided, Notch, NotchState, Proposing, Run, Saying, Says, Script, seen,
};
use super::setting::Setting;
use crate::looking::{Sign, SignSeen};
use crate::rule::rules;
use crate::work::Station;
use serde::{Deserialize, Serialize};

rules! {
    rules "Light fingers";
    /// Each effort is ridden this long before it is called.
    const RIDE_S: u32 = 60, " s", House;
}

/// How it is set up: there is nothing to set.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct LightFingers {}

const EFFORTS: [&str; 3] = ["easy", "steady", "hard"];

/// Holds.
const HOLDS: u32 = 1;
/// Falls onto the hands.
const FALLS: u32 = 2;

impl Guided for LightFingers {
    type SoFar = Vec<u32>;

    /// At the effort that matters the trunk holds, falls onto the hands as a failed balance test does, or pushes back.
    fn signs(&self, _run: &Run, called: &Vec<u32>) -> Vec<(SignSeen, f64)> {
        match called[..] {
            [_, FALLS, _] => vec![seen(Sign::BalanceFails, true)],
            [_, HOLDS, HOLDS] => vec![seen(Sign::BalanceFails, false)],
            [_, pushes, _] if pushes != HOLDS => vec![seen(Sign::SlidesBack, true)],
            _ => Vec::new(),
        }
    }

    const PROTOCOL: Protocol = Protocol::LightFingers;
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
        _run: &Run,
        script: &mut Script,
        called: &mut Vec<u32>,
    ) -> Result<(), Box<Asked>> {
        for effort in EFFORTS {
            let ask = Ask::keys(
                effort.to_owned(),
                "With the fingers light?",
                &[
                    ("1", "The trunk holds"),
                    ("2", "Falls onto the hands"),
                    ("3", "Pushes back in the saddle"),
                ],
            );
            let call = script.ask(ask, || Saying {
                place: format!("{} of 3", called.len() + 1),
                instruction: format!("Ride {effort}; fingers light"),
                detail:
                    "Lift the fingers until the hands only lie there. Elbows soft, nobody sits up."
                        .to_owned(),
                timer_s: Some(RIDE_S),
            })?;
            called.push(call.digit());
        }
        Ok(())
    }

    fn notches(&self, _run: &Run, called: &Vec<u32>) -> Vec<Notch> {
        let words = ["holds", "falls onto the hands", "pushes back"];
        (EFFORTS.iter().zip(called))
            .map(|(effort, call)| Notch {
                label: (*effort).to_owned(),
                words: words
                    .get(*call as usize - 1)
                    .copied()
                    .unwrap_or_default()
                    .to_owned(),
                state: if *call == HOLDS {
                    NotchState::Quiet
                } else {
                    NotchState::Marked
                },
            })
            .collect()
    }

    fn finding(&self, _run: &Run, called: &Vec<u32>) -> Finding {
        let protocol = Protocol::LightFingers;
        let [easy, steady, hard] = called[..] else {
            return Finding::broken(protocol);
        };
        let found = |says, title: &str, words: &str| Finding {
            words: vec![words.to_owned()],
            ..Finding::new(protocol, says, title)
        };
        match (easy, steady, hard) {
            (HOLDS, HOLDS, HOLDS) => found(
                Says::Found,
                "Light at every effort",
                "The trunk carries itself at every effort: heavy hands are not made by the front.",
            ),
            (_, HOLDS, HOLDS) => found(
                Says::Nothing,
                "Heavy riding easy only",
                "Riding easy, every front feels heavy: nothing to turn for that.",
            ),
            (_, FALLS, _) => found(
                Says::Found,
                "Falls onto the hands",
                "At the effort that matters the trunk falls onto the hands: saddle forward or nose down first (balance \
                 test, tilt), then bars low or far.",
            ),
            (_, HOLDS, FALLS) => found(
                Says::Found,
                "Falls forward riding hard",
                "Steady it holds, hard it does not: the trunk tires, or the bars are a little low for that effort.",
            ),
            _ => found(
                Says::Found,
                "Pushes back",
                "Pushes back in the saddle instead of lying light: the bars are too near.",
            ),
        }
    }
}
