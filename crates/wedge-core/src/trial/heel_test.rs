//! Heel test: heels on the pedals, backwards. Each side is watched for the hip that tips; the saddle goes down until both stay
//! level, or up until one does not. What is found is compared with the height the linkage gives for a straight leg on its heel.

use super::Protocol;
use super::run::{
    Ask, Asked, Finding, Guided, Notch, NotchState, Proposing, Run, Saying, Says, Script, notch,
};
use super::setting::Setting;
use crate::foresee::{Change, Step};
use crate::measure::{Quantity, Refusal, Unit, within};
use crate::rule::rules;
use crate::solve::heel_travel;
use crate::units::{Side, Sides};
use crate::words::{up_or_down, written};
use crate::work::Station;
use serde::{Deserialize, Serialize};

rules! {
    rules "Heel test";
    /// From place to place.
    const STEP_MM: f64 = 3.0, " mm", House;
    /// The saddle goes no further from where it stands.
    const FAR_MM: f64 = 60.0, " mm", House;
    /// Further than this from what the linkage gives is worth a word.
    const APART_MM: f64 = 8.0, " mm", House;
}

/// How it is set up.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct HeelTest {
    /// From place to place, mm.
    pub step_mm: f64,
}

/// What was called so far.
#[derive(Debug, Default)]
pub(super) struct SoFar {
    trail: Vec<Notch>,
    /// The highest place at which each side stayed level, and the lowest at which it tipped.
    level: Sides<Option<f64>>,
    tips: Sides<Option<f64>>,
    done: bool,
}

impl SoFar {
    fn called(&mut self, side: Side, at: f64, tips: bool) {
        let (kept, better): (_, fn(f64, f64) -> f64) = if tips {
            (self.tips.of_mut(side), f64::min)
        } else {
            (self.level.of_mut(side), f64::max)
        };
        *kept = Some(kept.map_or(at, |known| better(known, at)));
    }
}

impl Guided for HeelTest {
    type SoFar = SoFar;

    const PROTOCOL: Protocol = Protocol::HeelTest;
    const AT: &'static [Station] = &[Station::SaddleHeight];
    const RIDDEN: bool = false;

    fn proposed(_: &Proposing) -> Self {
        Self { step_mm: STEP_MM }
    }

    fn settings(&self) -> Vec<Setting> {
        vec![Setting::number(
            "step_mm",
            "Steps of",
            self.step_mm,
            Unit::Mm,
        )]
    }

    fn refusals(&self, at: &str) -> Vec<Refusal> {
        let at = format!("{at}/step_mm");
        Vec::from_iter(within(at, self.step_mm, 1.0, 10.0, "A step, in mm,"))
    }

    fn read(&self, _run: &Run, script: &mut Script, so_far: &mut SoFar) -> Result<(), Box<Asked>> {
        let mut at = 0.0_f64;
        for n in 1.. {
            let mut tips = Sides::both(false);
            for side in Side::BOTH {
                let ask = Ask::keys(
                    format!("{n}.{}", side.word()),
                    &format!("The {} hip, as its heel passes the bottom?", side.word()),
                    &[("1", "Stays level"), ("2", "Tips down")],
                );
                let called = script
                    .ask(ask, || Saying {
                        place: format!("Place {n}"),
                        instruction: format!("Saddle {}", up_or_down(at, "where it stood")),
                        detail: "Heels on the pedals, knees straight at the bottom, pedalling backwards without load. Watch \
                                 the hips from behind."
                            .to_owned(),
                        timer_s: None,
                    })
                    .map_err(|asked| asked.riding(written(at)))?;
                let tipped = called.is("2");
                *tips.of_mut(side) = tipped;
                so_far.called(side, at, tipped);
            }
            let words = match (tips.left, tips.right) {
                (false, false) => "level",
                (true, false) => "left tips",
                (false, true) => "right tips",
                (true, true) => "both tip",
            };
            let any = tips.left || tips.right;
            let state = if any {
                NotchState::Marked
            } else {
                NotchState::Quiet
            };
            so_far.trail.push(notch(at, words, state));
            let next = at + if any { -self.step_mm } else { self.step_mm };
            // Once a place is level and the next higher one is not, it is known.
            let known = so_far.trail.len() > 1 && {
                let seen = |place: f64| so_far.trail.iter().any(|n| n.label == written(place));
                seen(next)
            };
            if known || next.abs() > FAR_MM {
                so_far.done = known;
                return Ok(());
            }
            at = next;
        }
        Ok(())
    }

    fn notches(&self, _run: &Run, so_far: &SoFar) -> Vec<Notch> {
        so_far.trail.clone()
    }

    fn finding(&self, run: &Run, so_far: &SoFar) -> Finding {
        let protocol = Protocol::HeelTest;
        let on = run.on;
        let (Some(left), Some(right)) = (so_far.level.left, so_far.level.right) else {
            return if so_far.trail.is_empty() {
                Finding::broken(protocol)
            } else {
                Finding {
                    words: vec![
                        "A hip tipped at every place: it is not the height. Look for a leg that is shorter, or a pelvis that \
                         sits aside."
                            .to_owned(),
                    ],
                    ..Finding::new(protocol, Says::Nothing, "A hip tips everywhere")
                }
            };
        };
        if !so_far.done {
            return Finding::broken(protocol);
        }
        let to = left.min(right);
        let straight = |travel: f64| on.sit_moved(travel, 0.0).length();
        let mut words = vec![format!(
            "Both hips stay level up to a saddle {}: {} mm.",
            up_or_down(to, "where it stood"),
            written(on.height_at(to))
        )];
        if let (Some(left), Some(right)) = (so_far.tips.left, so_far.tips.right)
            && (left - right).abs() >= self.step_mm
        {
            let first = if left < right { "left" } else { "right" };
            words.push(format!(
                "The {first} hip tips first: look at that leg’s length, and at how the rider sits."
            ));
        }
        let computed = Sides::from_fn(|side| heel_travel(on, side));
        if let (Some(left), Some(right)) = (computed.left, computed.right) {
            let linkage = f64::midpoint(left, right);
            let apart = to - linkage;
            words.push(format!(
                "The linkage puts a straight leg on its heel at {} mm{}.",
                written(on.height_at(linkage)),
                if apart.abs() > APART_MM {
                    format!(
                        ": {} mm {}, so thigh, shank or foot are worth measuring",
                        written(apart.abs()),
                        if apart > 0.0 {
                            "lower than seen"
                        } else {
                            "higher than seen"
                        }
                    )
                } else {
                    ", as seen".to_owned()
                }
            ));
        }
        let moves = (to.abs() >= self.step_mm).then(|| {
            Step::of(
                on,
                vec![Change::by(Quantity::SaddleHeight, to)],
                String::new(),
            )
        });
        Finding {
            words,
            quantity: Some(Quantity::SaddleHeight),
            value: Some(straight(to)),
            low: Some(straight(to - self.step_mm)),
            high: Some(straight(to + self.step_mm)),
            spread: Some(self.step_mm / 12.0_f64.sqrt()),
            sides: Some(Sides::from_fn(|side| so_far.level.of(side).map(straight))),
            moves: moves.flatten().into_iter().collect(),
            ..Finding::new(
                protocol,
                Says::Found,
                format!("Level up to {} mm", written(on.height_at(to))),
            )
        }
    }
}
