//! Tilt: gauge it, mark the rails, turn it, gauge it again, and recheck what it moved: fore-aft and height.

use super::Protocol;
use super::run::{
    Ask, Asked, Finding, Guided, Notch, NotchState, Proposing, Run, Saying, Says, Script,
};
use super::setting::Setting;
use crate::foresee::{Change, Step, Trying};
use crate::intake::Place;
use crate::measure::{Convention, Output, Quantity, Refusal, Unit, within};
use crate::rule::rules;
use crate::words::written;
use crate::work::Station;
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

impl Guided for TiltCheck {
    type SoFar = Read;

    const PROTOCOL: Protocol = Protocol::Tilt;
    const AT: &'static [Station] = &[Station::Setback];
    const RIDDEN: bool = false;

    /// Level first; slightly nose-down for front pressure or a low front.
    fn proposed(for_this: &Proposing) -> Self {
        let pressure = (for_this.intake.complaints.iter()).any(|c| c.place == Place::Saddle);
        let bike = &for_this.on.before.bike;
        let to_deg = if pressure {
            PRESSURE_DEG
        } else if bike.sit.y - bike.hand.y >= LOW_FRONT_MM {
            LOW_FRONT_DEG
        } else {
            0.0
        };
        Self { to_deg }
    }

    fn settings(&self) -> Vec<Setting> {
        vec![Setting::number(
            "to_deg",
            "Wanted, nose up",
            self.to_deg,
            Unit::Deg,
        )]
    }

    fn refusals(&self, at: &str) -> Vec<Refusal> {
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

    fn read(&self, run: &Run, script: &mut Script, read: &mut Read) -> Result<(), Box<Asked>> {
        let gauge = |id: String| {
            Ask::number(
                id,
                "What does the gauge say?",
                "Tilt, nose up positive",
                Unit::Deg,
                (-20.0, 20.0),
            )
        };
        let saying = |place: &str, instruction: String, detail: &str| Saying {
            place: place.to_owned(),
            instruction,
            detail: detail.to_owned(),
            timer_s: None,
        };
        let called = script.ask(gauge("gauge".to_owned()), || {
            let level = "Bike on level ground. Lay the gauge on the supporting part, not over the whole saddle.";
            saying("Step 1 of 5", "Gauge the tilt".to_owned(), level)
        })?;
        read.before = Some(called.value());
        script.ask(
            Ask::enter("mark".to_owned(), "Rails marked?", "Marked"),
            || {
                let detail = "A strip of tape on each rail at the clamp's edge: the saddle must not slide while it turns.";
                saying("Step 2 of 5", "Mark the rails".to_owned(), detail)
            },
        )?;
        for turn in 1.. {
            let called = script.ask(gauge(format!("turned.{turn}")), || {
                let way = if turn == 1 {
                    "Loosen, turn, tighten to the printed torque; then gauge it at the same place."
                } else {
                    "Not there yet: once more."
                };
                let instruction = format!("Turn it to {}°", written(self.to_deg));
                saying("Step 3 of 5", instruction, way)
            })?;
            read.after = Some(called.value());
            if (called.value() - self.to_deg).abs() <= THERE_DEG {
                break;
            }
        }
        let conventions = &run.on.conventions;
        let lengths = |convention: Convention| format!("Measure it: {}.", convention.words());
        let ask = Ask::number(
            "setback".to_owned(),
            "Fore-aft now?",
            "Setback",
            conventions.setback.unit(),
            (-250.0, 400.0),
        );
        let called = script.ask(ask, || {
            let detail = lengths(conventions.setback);
            saying("Step 4 of 5", "Measure the setback".to_owned(), &detail)
        })?;
        read.setback = Some(called.value());
        let ask = Ask::number(
            "height".to_owned(),
            "Height now?",
            "Saddle height",
            Unit::Mm,
            (300.0, 1300.0),
        );
        let called = script.ask(ask, || {
            let detail = lengths(conventions.saddle_height);
            saying("Step 5 of 5", "Measure the height".to_owned(), &detail)
        })?;
        read.height = Some(called.value());
        Ok(())
    }

    fn notches(&self, _run: &Run, read: &Read) -> Vec<Notch> {
        read.notches()
    }

    fn finding(&self, run: &Run, read: &Read) -> Finding {
        finding(run.on, read)
    }
}

/// What was read off so far.
#[derive(Debug, Default)]
pub(super) struct Read {
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

fn finding(trying: &Trying, read: &Read) -> Finding {
    let protocol = Protocol::Tilt;
    let (Some(before), Some(after)) = (read.before, read.after) else {
        return Finding::broken(protocol);
    };
    let mut words = vec![format!(
        "Gauged {}° before and {}° after.",
        written(before),
        written(after)
    )];
    let foreseen = trying
        .with(&[Change::to(Quantity::Tilt, after)])
        .map(|(setup, position)| trying.read_saddle(&setup, position.bike.sit));
    let stood = trying.read_saddle(&trying.setup, trying.setup.sit());
    let mut apart = false;
    for (what, output, measured, foreseen, stood) in [
        (
            "Height",
            Output::SaddleHeight,
            read.height,
            foreseen.map(|f| f.0),
            stood.0,
        ),
        (
            "Setback",
            Output::Setback,
            read.setback,
            foreseen.map(|f| f.1),
            stood.1,
        ),
    ] {
        let Some((measured, foreseen)) = measured.zip(foreseen) else {
            continue;
        };
        let unit = output.unit(&trying.conventions).suffix();
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
    let back = vec![
        Change::to(Quantity::Tilt, after),
        Change::to(Quantity::SaddleHeight, stood.0),
        Change::to(Quantity::Setback, stood.1),
    ];
    let moved = (after - trying.setup.saddle.tilt_deg.0).abs() > 0.05;
    let kept = moved
        .then(|| Step::of(trying, back, "height and fore-aft given back".to_owned()))
        .flatten();
    Finding {
        quantity: Some(Quantity::Tilt),
        value: Some(after),
        moves: kept.into_iter().collect(),
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
