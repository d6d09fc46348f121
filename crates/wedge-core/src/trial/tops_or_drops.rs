//! Tops or drops: which place the hands take when nobody asks for one, minute by minute.

use super::Protocol;
use super::run::{
    Ask, Asked, Finding, Guided, Notch, NotchState, Proposing, Run, Saying, Says, Script, seen,
};
use super::setting::Setting;
use crate::bike::Bar;
use crate::looking::{Sign, SignSeen};
use crate::measure::{Refusal, mean, within};
use crate::rule::rules;
use crate::work::Station;
use serde::{Deserialize, Serialize};

rules! {
    rules "Tops or drops";
    /// Watched for so many minutes.
    const MINUTES: u32 = 5, " minutes", Workshop;
    /// A place taken in this share of them is the rider's own.
    const MOSTLY: f64 = 0.6, "", House;
}

/// How it is set up.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct TopsOrDrops {
    /// Watched for so many minutes.
    pub minutes: u32,
}

/// The places of a bar: what is called, and what it speaks for where it is taken unasked.
struct Taken {
    label: &'static str,
    speaks: &'static str,
}

/// The nearest place, the one most of the riding is meant for, and the lowest or farthest.
fn places(bar: &Bar) -> [Taken; 3] {
    let taken = |label, speaks| Taken { label, speaks };
    match bar {
        Bar::Drop(_) => [
            taken(
                "Tops",
                "Always on the tops: the bars are too far, or too low.",
            ),
            taken("Hoods", "On the hoods, where most of the riding belongs."),
            taken("Drops", "Happier in the drops: the bars may be too high."),
        ],
        Bar::Flat(_) => [
            taken(
                "Inside the grips",
                "Hands drawn in beside the stem: the bars are too far, or too wide.",
            ),
            taken("Grips", "On the grips, where most of the riding belongs."),
            taken(
                "Ends or crouched",
                "Crouched, or out at the ends: the bars may be too high, or too near.",
            ),
        ],
        Bar::Aero(_) => [
            taken(
                "Sat up",
                "Sits up from the pads: it cannot be held; lower back, neck and hip room first.",
            ),
            taken("Pads", "On the pads, where the riding belongs."),
            taken(
                "Base bar",
                "Down on the base bar: the pads are too far or too narrow to rest on.",
            ),
        ],
    }
}

/// What was called so far: each minute's place.
type SoFar = Vec<u32>;

/// It says nothing before so many minutes.
const LEAST_MINUTES: usize = 3;

/// Whether a place was taken most of the time.
fn mostly(taken: &SoFar, place: u32) -> bool {
    let there = taken.iter().map(|p| f64::from(u8::from(*p == place)));
    mean(&there.collect::<Vec<f64>>()).unwrap_or_default() >= MOSTLY
}

impl Guided for TopsOrDrops {
    type SoFar = SoFar;

    /// Where the hands are most of the time, of the three places of a bar.
    fn signs(&self, _run: &Run, taken: &SoFar) -> Vec<(SignSeen, f64)> {
        let mostly = (1..=3).find(|place| mostly(taken, *place));
        match mostly.filter(|_| taken.len() >= LEAST_MINUTES) {
            Some(1) => vec![seen(Sign::AlwaysTops, true), seen(Sign::LikesDrops, false)],
            Some(2) => vec![seen(Sign::AlwaysTops, false), seen(Sign::LikesDrops, false)],
            Some(_) => vec![seen(Sign::AlwaysTops, false), seen(Sign::LikesDrops, true)],
            None => Vec::new(),
        }
    }

    const PROTOCOL: Protocol = Protocol::TopsOrDrops;
    const AT: &'static [Station] = &[Station::Bars];

    fn proposed(_: &Proposing) -> Self {
        Self { minutes: MINUTES }
    }

    fn settings(&self) -> Vec<Setting> {
        vec![Setting::count("minutes", "Minutes", self.minutes)]
    }

    fn refusals(&self, at: &str) -> Vec<Refusal> {
        let minutes = f64::from(self.minutes);
        Vec::from_iter(within(
            format!("{at}/minutes"),
            minutes,
            3.0,
            20.0,
            "Minutes",
        ))
    }

    fn read(&self, run: &Run, script: &mut Script, taken: &mut SoFar) -> Result<(), Box<Asked>> {
        let [near, home, low] = places(&run.on.setup.bar);
        for minute in 1..=self.minutes {
            let ask = Ask::keys(
                format!("{minute}"),
                "Where are the hands now?",
                &[("1", near.label), ("2", home.label), ("3", low.label)],
            );
            let called = script.ask(ask, || Saying {
                place: format!("Minute {minute} of {}", self.minutes),
                instruction: "Ride; say nothing of the hands".to_owned(),
                detail:
                    "Talk of something else. Call the place they are in when the minute is over."
                        .to_owned(),
                timer_s: Some(60),
            })?;
            taken.push(called.digit());
        }
        Ok(())
    }

    fn notches(&self, run: &Run, taken: &SoFar) -> Vec<Notch> {
        let places = places(&run.on.setup.bar);
        (1..)
            .zip(taken)
            .map(|(minute, place): (u32, _)| Notch {
                label: minute.to_string(),
                words: (places.get(*place as usize - 1))
                    .map_or_else(String::new, |p| p.label.to_lowercase()),
                state: if *place == 2 {
                    NotchState::Quiet
                } else {
                    NotchState::Marked
                },
            })
            .collect()
    }

    fn finding(&self, run: &Run, taken: &SoFar) -> Finding {
        let protocol = Protocol::TopsOrDrops;
        if taken.len() < LEAST_MINUTES {
            return Finding::broken(protocol);
        }
        let places = places(&run.on.setup.bar);
        let mostly = (1..).zip(&places).find(|(place, _)| mostly(taken, *place));
        match mostly {
            Some((_, place)) => Finding {
                words: vec![place.speaks.to_owned()],
                ..Finding::new(protocol, Says::Found, format!("Mostly: {}", place.label.to_lowercase()))
            },
            None => Finding {
                words: vec![
                    "No place for long: the hands wander. Good as such; with sore hands, none of them is right.".to_owned(),
                ],
                ..Finding::new(protocol, Says::Nothing, "No place for long")
            },
        }
    }
}
