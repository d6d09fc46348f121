//! Tilt: gauge it, mark the rails, turn it, gauge it again, and recheck what it moved: fore-aft and height.

use super::run::{
    Ask, Finding, Guide, Notch, NotchState, Protocol, Run, Saying, Says, Script, asking, over,
};
use crate::foresee::{Change, ForeseeInput, Trying, read_saddle};
use crate::intake::{Intake, Place};
use crate::judge::Output;
use crate::measure::{Convention, Quantity, Refusal, Unit, within, written};
use crate::rule::rules;
use crate::school::Step;
use serde::{Deserialize, Serialize};

rules! {
    rules "Tilt";
    /// Gauged this close to what was wanted, it is there.
    const THERE_DEG: f64 = 0.5, "°", House;
    /// Nose down by this for pressure in front.
    const PRESSURE_DEG: f64 = -1.5, "°", House;
    /// Nose down by this for a low front.
    const LOW_FRONT_DEG: f64 = -1.0, "°", House;
    /// A front is low from this drop on.
    const LOW_FRONT_MM: f64 = 100.0, " mm", House;
    /// Measured further from foreseen than this is worth a word.
    const APART_MM: f64 = 2.0, " mm", House;
}

/// How a tilt is set up.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct TiltCheck {
    /// The tilt wanted, front up.
    pub to_deg: f64,
}

impl TiltCheck {
    /// Level first; slightly nose-down for front pressure or a low front.
    pub fn proposed(input: &ForeseeInput, intake: &Intake) -> Self {
        let pressure = intake.complaints.iter().any(|c| c.place == Place::Saddle);
        let drop = Trying::of(input).map_or(0.0, |trying| {
            trying.before.bike.sit.y - trying.before.bike.hand.y
        });
        let to_deg = if pressure {
            PRESSURE_DEG
        } else if drop >= LOW_FRONT_MM {
            LOW_FRONT_DEG
        } else {
            0.0
        };
        Self { to_deg }
    }

    pub(super) fn refusals(&self, at: &str) -> Vec<Refusal> {
        within(
            format!("{at}/to_deg"),
            self.to_deg,
            -10.0,
            10.0,
            "The tilt wanted, in degrees,",
        )
        .into_iter()
        .collect()
    }

    pub(super) fn guide(&self, run: &Run) -> Guide {
        let mut script = Script::of(run);
        let mut read = Read::default();
        let gauge = |id: String| {
            let (min, max) = (-20.0, 20.0);
            Ask::number(
                id,
                "What does the gauge say?",
                "Tilt, nose up positive",
                Unit::Deg,
                (min, max),
            )
        };
        let ask = gauge("gauge".to_owned());
        let saying = |place: &str, instruction: String, detail: &str| Saying {
            place: place.to_owned(),
            instruction,
            detail: detail.to_owned(),
            timer_s: None,
        };
        let level = "Bike on level ground. Lay the gauge on the supporting part, not over the whole saddle.";
        let Some(called) = script.answer(&ask) else {
            return ask_it(
                run,
                ask,
                saying("Step 1 of 5", "Gauge the tilt".to_owned(), level),
                &read,
            );
        };
        read.before = Some(called.value());
        let ask = Ask::enter("mark".to_owned(), "Rails marked?", "Marked");
        if script.answer(&ask).is_none() {
            let detail = "A strip of tape on each rail at the clamp's edge: the saddle must not slide while it turns.";
            return ask_it(
                run,
                ask,
                saying("Step 2 of 5", "Mark the rails".to_owned(), detail),
                &read,
            );
        }
        for turn in 1.. {
            let ask = gauge(format!("turned.{turn}"));
            let Some(called) = script.answer(&ask) else {
                let way = if turn == 1 {
                    "Loosen, turn, tighten to the printed torque; then gauge it at the same place."
                } else {
                    "Not there yet: once more."
                };
                let instruction = format!("Turn it to {}°", written(self.to_deg));
                return ask_it(run, ask, saying("Step 3 of 5", instruction, way), &read);
            };
            read.after = Some(called.value());
            if (called.value() - self.to_deg).abs() <= THERE_DEG {
                break;
            }
        }
        let lengths = |convention: Convention| format!("Measure it: {}.", convention.words());
        let ask = Ask::number(
            "setback".to_owned(),
            "Fore-aft now?",
            "Setback",
            run.input.conventions.setback.unit(),
            (-250.0, 400.0),
        );
        let Some(called) = script.answer(&ask) else {
            let detail = lengths(run.input.conventions.setback);
            return ask_it(
                run,
                ask,
                saying("Step 4 of 5", "Measure the setback".to_owned(), &detail),
                &read,
            );
        };
        read.setback = Some(called.value());
        let ask = Ask::number(
            "height".to_owned(),
            "Height now?",
            "Saddle height",
            Unit::Mm,
            (300.0, 1300.0),
        );
        let Some(called) = script.answer(&ask) else {
            let detail = lengths(run.input.conventions.saddle_height);
            return ask_it(
                run,
                ask,
                saying("Step 5 of 5", "Measure the height".to_owned(), &detail),
                &read,
            );
        };
        read.height = Some(called.value());
        over(run, finding(run.input, &read), read.notches())
    }
}

fn ask_it(run: &Run, ask: Ask, saying: Saying, read: &Read) -> Guide {
    asking(run, ask, saying, read.notches(), || {
        finding(run.input, read)
    })
}

/// What was read off so far.
#[derive(Debug, Default)]
struct Read {
    before: Option<f64>,
    after: Option<f64>,
    setback: Option<f64>,
    height: Option<f64>,
}

impl Read {
    fn notches(&self) -> Vec<Notch> {
        [
            ("before", self.before, "°"),
            ("after", self.after, "°"),
            ("setback", self.setback, ""),
            ("height", self.height, " mm"),
        ]
        .into_iter()
        .filter_map(|(words, value, unit)| {
            Some(Notch {
                label: format!("{}{unit}", written(value?)),
                words: words.to_owned(),
                state: NotchState::Quiet,
            })
        })
        .collect()
    }
}

fn finding(input: &ForeseeInput, read: &Read) -> Finding {
    let protocol = Protocol::Tilt;
    let (Some(before), Some(after)) = (read.before, read.after) else {
        return Finding::broken(protocol);
    };
    let mut words = vec![format!(
        "Gauged {}° before and {}° after.",
        written(before),
        written(after)
    )];
    let trying = Trying::of(input);
    let turned = vec![Change::to(Quantity::Tilt, after)];
    let foreseen = trying.as_ref().and_then(|trying| {
        let (setup, position) = trying.with(&turned)?;
        read_saddle(input, &setup, position.bike.sit)
    });
    let stood = input
        .setup
        .saddle
        .sit()
        .and_then(|sit| read_saddle(input, &input.setup, sit));
    let mut apart = false;
    for (what, output, measured, foreseen, stood) in [
        (
            "Height",
            Output::SaddleHeight,
            read.height,
            foreseen.map(|f| f.0),
            stood.map(|s| s.0),
        ),
        (
            "Setback",
            Output::Setback,
            read.setback,
            foreseen.map(|f| f.1),
            stood.map(|s| s.1),
        ),
    ] {
        let (Some(measured), Some(foreseen), Some(stood)) = (measured, foreseen, stood) else {
            continue;
        };
        let unit = output.unit(&input.conventions).suffix();
        words.push(format!(
            "{what} {}{unit} → {}{unit}, foreseen {}{unit}.",
            written(stood),
            written(measured),
            written(foreseen)
        ));
        apart |= (measured - foreseen).abs() > APART_MM;
    }
    if apart {
        words.push("Measured is not what the turn alone does: the saddle slid on its rails, or the tape did.".to_owned());
    }
    // Turned with fore-aft and height given back, as one linked trial.
    let back = stood.map(|(height, setback)| {
        vec![
            Change::to(Quantity::Tilt, after),
            Change::to(Quantity::SaddleHeight, height),
            Change::to(Quantity::Setback, setback),
        ]
    });
    let kept = trying.as_ref().zip(back).and_then(|(trying, changes)| {
        Step::of(trying, changes, "height and fore-aft given back".to_owned())
    });
    let moved = (after - input.setup.saddle.tilt_deg.0).abs() > 0.05;
    Finding {
        quantity: Some(Quantity::Tilt),
        value: Some(after),
        moves: kept.into_iter().filter(|_| moved).collect(),
        words,
        ..Finding::new(
            protocol,
            if apart {
                Says::Contradicts
            } else {
                Says::Found
            },
            format!("Tilt {}°", written(after)),
        )
    }
}
