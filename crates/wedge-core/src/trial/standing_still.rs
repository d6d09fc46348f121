//! Standing still: the bike held, the rider seated with the hands where most of the riding is done. A little higher, or a
//! little lower? What is found is where the bracket of height begins.

use super::Protocol;
use super::run::{
    Ask, Asked, Finding, Guided, Notch, NotchState, Proposing, Run, Saying, Says, Script, notch,
};
use super::setting::Setting;
use crate::measure::{Quantity, Refusal, Unit, within};
use crate::rule::rules;
use crate::words::{up_or_down, written};
use crate::work::Station;
use serde::{Deserialize, Serialize};

rules! {
    rules "Standing still";
    /// The first step.
    const STEP_MM: f64 = 10.0, " mm", House;
    /// Once turned round, half of it; and no finer.
    const FINEST_MM: f64 = 5.0, " mm", House;
    /// The hands go no further from where they are.
    const FAR_MM: f64 = 80.0, " mm", House;
}

/// How it is set up.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct StandingStill {
    /// The first step, mm.
    pub step_mm: f64,
}

/// What was called so far.
#[derive(Debug, Default)]
pub(super) struct SoFar {
    trail: Vec<Notch>,
    /// Where it was good, and how finely that was asked.
    good: Option<(f64, f64)>,
    /// Where the hands could not go further.
    end: Option<f64>,
}

impl Guided for StandingStill {
    type SoFar = SoFar;

    const PROTOCOL: Protocol = Protocol::StandingStill;
    const AT: &'static [Station] = &[Station::Bars];
    const RIDDEN: bool = false;

    fn proposed(_: &Proposing) -> Self {
        Self { step_mm: STEP_MM }
    }

    fn settings(&self) -> Vec<Setting> {
        vec![Setting::number(
            "step_mm",
            "First step",
            self.step_mm,
            Unit::Mm,
        )]
    }

    fn refusals(&self, at: &str) -> Vec<Refusal> {
        let at = format!("{at}/step_mm");
        let (least, most) = (FINEST_MM, 20.0);
        Vec::from_iter(within(at, self.step_mm, least, most, "A step, in mm,"))
    }

    fn read(&self, _run: &Run, script: &mut Script, so_far: &mut SoFar) -> Result<(), Box<Asked>> {
        let (mut at, mut step) = (0.0_f64, self.step_mm);
        let mut last: Option<f64> = None;
        for n in 1.. {
            let ask = Ask::keys(
                format!("{n}"),
                "A little higher, or a little lower?",
                &[("1", "Lower"), ("2", "Good"), ("3", "Higher")],
            );
            let called = script
                .ask(ask, || Saying {
                    place: format!("Place {n}"),
                    instruction: format!("Hands {}", up_or_down(at, "as they are")),
                    detail: "The bike held, the rider seated on the saddle’s wide part, hands where most of the riding is \
                             done, eyes on the road. Hold the hands there, or set the stand."
                        .to_owned(),
                    timer_s: None,
                })
                .map_err(|asked| asked.riding(written(at)).moved(Quantity::BbToHandUp, at))?;
            let way = match called.digit() {
                1 => -1.0,
                3 => 1.0,
                _ => {
                    so_far.trail.push(notch(at, "good", NotchState::Marked));
                    so_far.good = Some((at, step));
                    return Ok(());
                }
            };
            let words = if way > 0.0 { "higher" } else { "lower" };
            so_far.trail.push(notch(at, words, NotchState::Quiet));
            if last.is_some_and(|last| last * way < 0.0) {
                if step <= FINEST_MM {
                    // Too low below it, too high above: between the two.
                    so_far.good = Some((at + way * step / 2.0, step));
                    return Ok(());
                }
                step = (step / 2.0).max(FINEST_MM);
            }
            last = Some(way);
            at += way * step;
            if at.abs() > FAR_MM {
                so_far.end = Some(at - way * step);
                return Ok(());
            }
        }
        Ok(())
    }

    fn notches(&self, _run: &Run, so_far: &SoFar) -> Vec<Notch> {
        so_far.trail.clone()
    }

    fn finding(&self, run: &Run, so_far: &SoFar) -> Finding {
        let protocol = Protocol::StandingStill;
        let hand = run.on.before.bike.hand.y;
        if let Some((at, step)) = so_far.good {
            let spread = step / 12.0_f64.sqrt() * 2.0;
            return Finding {
                words: vec![format!(
                    "Standing still the rider likes the hands {}. It is where the bracket of height begins, and no finding of \
                     the ride.",
                    up_or_down(at, "as they are")
                )],
                quantity: Some(Quantity::BbToHandUp),
                value: Some(hand + at),
                low: Some(hand + at - step),
                high: Some(hand + at + step),
                spread: Some(spread),
                ..Finding::new(
                    protocol,
                    Says::Found,
                    format!("Hands {}", up_or_down(at, "as they are")),
                )
            };
        }
        match so_far.end {
            Some(end) => Finding {
                words: vec![format!(
                    "Still not good {}: look at the reach first, or at what the rider sits on.",
                    up_or_down(end, "where they are")
                )],
                ..Finding::new(protocol, Says::Nothing, "No height was good")
            },
            None => Finding::broken(protocol),
        }
    }
}
