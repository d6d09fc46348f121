//! Height sweep: the bars lower, lower again, then back up the same way. At each place the weight on the hands, the shoulders
//! and a word. Lower bars can make the hands lighter: only moving them tells.

use super::Protocol;
use super::run::{
    Ask, Asked, Finding, Guided, Notch, NotchState, Proposing, Run, Saying, Says, Script, notch,
};
use super::setting::Setting;
use crate::foresee::{Step, Trying};
use crate::measure::{Quantity, Refusal, Unit, mean, within};
use crate::plane::Point;
use crate::position::wall;
use crate::rule::rules;
use crate::solve::{Stems, hands_moved, parts_for, slid};
use crate::words::{up_or_down, written};
use crate::work::Station;
use serde::{Deserialize, Serialize};

rules! {
    rules "Height sweep";
    /// From place to place.
    const STEP_MM: f64 = 20.0, " mm", Workshop;
    /// Each place is ridden this long.
    const RIDE_S: u32 = 120, " s", House;
    /// Ratings of the hands that differ by less say nothing.
    const FLAT: f64 = 1.5, " of 10", House;
    /// A place rated this differently on the way down and up contradicts itself.
    const APART: f64 = 3.0, " of 10", House;
}

/// How it is set up.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct HeightSweep {
    /// From place to place, mm.
    pub step_mm: f64,
}

/// One place as it was rated.
#[derive(Debug, Clone, Copy)]
pub(super) struct Rated {
    /// Steps from where the hands were, down positive.
    down: u32,
    hands: f64,
    shoulders: u32,
}

/// Down, down again, and back up.
const WAY: [u32; 5] = [0, 1, 2, 1, 0];

const SHOULDERS: [(&str, &str); 4] = [
    ("1", "Quiet"),
    ("2", "Hunched up"),
    ("3", "Drawn forward"),
    ("4", "Pushed back"),
];

impl HeightSweep {
    fn at(&self, down: u32) -> f64 {
        -self.step_mm * f64::from(down)
    }
}

/// What was called so far.
#[derive(Debug, Default)]
pub(super) struct SoFar {
    rated: Vec<Rated>,
    trail: Vec<Notch>,
}

impl Guided for HeightSweep {
    type SoFar = SoFar;

    const PROTOCOL: Protocol = Protocol::HeightSweep;
    const AT: &'static [Station] = &[Station::Bars];

    fn proposed(_: &Proposing) -> Self {
        Self { step_mm: STEP_MM }
    }

    fn settings(&self) -> Vec<Setting> {
        vec![Setting::number(
            "step_mm",
            "Lower by",
            self.step_mm,
            Unit::Mm,
        )]
    }

    fn refusals(&self, at: &str) -> Vec<Refusal> {
        let at = format!("{at}/step_mm");
        Vec::from_iter(within(at, self.step_mm, 5.0, 30.0, "A step, in mm,"))
    }

    fn read(&self, _run: &Run, script: &mut Script, so_far: &mut SoFar) -> Result<(), Box<Asked>> {
        for (n, down) in (1..).zip(WAY) {
            let at = self.at(down);
            let saying = || {
                Saying {
                place: format!("Place {n} of {}", WAY.len()),
                instruction: format!("Hands {}", up_or_down(at, "as they were")),
                detail: "Spacers, or the stand. Ride it at the named effort before you ask: riding easy, every front feels \
                         heavy."
                    .to_owned(),
                timer_s: Some(RIDE_S),
            }
            };
            let number = Ask::number(
                format!("{n}.hands"),
                "How heavy are the hands, 0 nothing to 10?",
                "Weight on the hands",
                Unit::Size,
                (0.0, 10.0),
            );
            let riding =
                |asked: Box<Asked>| asked.riding(written(at)).moved(Quantity::BbToHandUp, at);
            let hands = script.ask(number, saying).map_err(riding)?.value();
            let look = Ask::keys(format!("{n}.shoulders"), "The shoulders?", &SHOULDERS);
            let shoulders = script.ask(look, saying).map_err(riding)?.digit();
            let mut said = format!("hands {}", written(hands));
            if n > 1 {
                let words = Ask::keys(
                    format!("{n}.words"),
                    "Against the place before?",
                    &[("1", "Better"), ("2", "The same"), ("3", "Worse")],
                );
                let called = script.ask(words, saying).map_err(riding)?.digit();
                let word = ["better", "the same", "worse"].get(called as usize - 1);
                said = format!("{said}, {}", word.copied().unwrap_or_default());
            }
            if shoulders > 1 {
                let seen = SHOULDERS.get(shoulders as usize - 1).map_or("", |s| s.1);
                said = format!("{said}, shoulders {}", seen.to_lowercase());
            }
            let state = if shoulders > 1 {
                NotchState::Marked
            } else {
                NotchState::Quiet
            };
            so_far.trail.push(notch(at, &said, state));
            so_far.rated.push(Rated {
                down,
                hands,
                shoulders,
            });
        }
        Ok(())
    }

    fn notches(&self, _run: &Run, so_far: &SoFar) -> Vec<Notch> {
        so_far.trail.clone()
    }

    fn finding(&self, run: &Run, so_far: &SoFar) -> Finding {
        let protocol = Protocol::HeightSweep;
        let rated = &so_far.rated;
        if rated.len() < 3 {
            return Finding::broken(protocol);
        }
        let of = |down: u32| -> Vec<f64> {
            let at = rated.iter().filter(|r| r.down == down);
            at.map(|r| r.hands).collect()
        };
        let apart = (0..3)
            .map(&of)
            .filter(|all| all.len() > 1)
            .map(|all| (all[0] - all[1]).abs())
            .fold(0.0, f64::max);
        let means: Vec<(u32, f64)> = (0..3)
            .filter_map(|down| Some((down, mean(&of(down))?)))
            .collect();
        let (least, most) = means
            .iter()
            .fold((f64::INFINITY, 0.0), |(low, high), (_, hands)| {
                (f64::min(low, *hands), f64::max(high, *hands))
            });
        let told: Vec<String> = (means.iter())
            .map(|(down, hands)| {
                format!(
                    "{} {}",
                    up_or_down(self.at(*down), "where they were"),
                    written(*hands)
                )
            })
            .collect();
        let mut words = vec![format!("Weight on the hands, of 10: {}.", told.join(", "))];
        words.extend(shoulders_words(rated));
        if apart > APART {
            words.push("Down and up again the same place was rated differently: rest, name the effort, and sweep again.".to_owned());
            return Finding {
                words,
                ..Finding::new(protocol, Says::Contradicts, "Down and up contradict")
            };
        }
        if most - least < FLAT.max(apart) {
            words.push("Alike at every height: the bars’ height is not what makes the hands heavy or light.".to_owned());
            return Finding {
                words,
                ..Finding::new(protocol, Says::Nothing, "It says nothing")
            };
        }
        let mut order = means.clone();
        order.sort_by(|(a, one), (b, other)| one.total_cmp(other).then(a.cmp(b)));
        let stopped = |down: u32| self.stopped(run.on, down);
        if let Some(wall) = order.first().and_then(|(down, _)| stopped(*down)) {
            words.push(format!(
                "Lightest where a limit of the rider forbids it: {wall}."
            ));
        }
        let Some((down, _)) = order.into_iter().find(|(down, _)| stopped(*down).is_none()) else {
            return Finding {
                words,
                ..Finding::new(protocol, Says::Nothing, "No height is free")
            };
        };
        let at = self.at(down);
        let hand = run.on.before.bike.hand.y;
        Finding {
            words,
            quantity: Some(Quantity::BbToHandUp),
            value: Some(hand + at),
            low: Some(hand + at - self.step_mm / 2.0),
            high: Some(hand + at + self.step_mm / 2.0),
            spread: Some(self.step_mm / 12.0_f64.sqrt()),
            moves: moves(run.on, Point::new(0.0, at)),
            ..Finding::new(
                protocol,
                Says::Found,
                format!("Lightest {}", up_or_down(at, "where they were")),
            )
        }
    }
}

impl HeightSweep {
    /// What of the rider's limits forbids a place.
    fn stopped(&self, trying: &Trying, down: u32) -> Option<String> {
        let there = hands_moved(trying, Point::new(0.0, self.at(down)));
        wall(&trying.rider, &trying.before, &there)
    }
}

/// The parts that move the hands by so much, as a linked trial; none where that is less than a part is worth.
pub(super) fn moves(on: &Trying, by: Point) -> Vec<Step> {
    let (changes, _) = parts_for(
        on,
        &on.setup,
        by,
        &Stems::ordinary(),
        (3.0, 5.0),
        |_| true,
        |_| false,
    );
    let step = (!changes.is_empty()).then(|| Step::of(on, changes, String::new()));
    step.flatten().into_iter().collect()
}

/// The same on a stand, whose front slides.
pub(super) fn slides(on: &Trying, by: Point) -> Vec<Step> {
    let changes = slid(on, by).filter(|changes| !changes.is_empty());
    let step = changes.and_then(|changes| Step::of(on, changes, String::new()));
    step.into_iter().collect()
}

fn shoulders_words(rated: &[Rated]) -> Option<String> {
    let first = rated.iter().find(|r| r.shoulders > 1)?;
    let seen = SHOULDERS.get(first.shoulders as usize - 1)?.1;
    Some(format!(
        "Shoulders {} {}.",
        seen.to_lowercase(),
        if first.down == 0 {
            "from the start"
        } else {
            "once lower"
        }
    ))
}
