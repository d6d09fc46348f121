//! A test day: one dial of fork or shock, its extremes first, then the half between them, on the same piece of trail each time.

use super::Protocol;
use super::run::{
    Ask, Asked, Finding, Guided, Notch, NotchState, Proposing, Run, Saying, Says, Script,
};
use super::setting::Setting;
use crate::bike::Kind;
use crate::measure::{Quantity, Refusal, within};
use crate::rule::rules;
use crate::words::{words, written};
use crate::work::Station;
use serde::{Deserialize, Serialize};

rules! {
    rules "Test day";
    /// Clicks a dial has, until somebody counts them.
    const CLICKS: u32 = 16, " clicks", House;
    /// Between calls so near one another any place will do.
    const NEAR: u32 = 2, " clicks", Workshop;
}

words! {
    /// A dial, counted from closed.
    pub enum Dial {
        ForkRebound "fork_rebound" "Fork rebound",
        ForkCompression "fork_compression" "Fork compression",
        ShockRebound "shock_rebound" "Shock rebound",
        ShockCompression "shock_compression" "Shock compression",
    }
}

impl Dial {
    fn quantity(self) -> Quantity {
        match self {
            Self::ForkRebound => Quantity::ForkRebound,
            Self::ForkCompression => Quantity::ForkCompression,
            Self::ShockRebound => Quantity::ShockRebound,
            Self::ShockCompression => Quantity::ShockCompression,
        }
    }

    /// What too far open and too far closed feel like.
    fn wrong(self) -> (&'static str, &'static str) {
        match self {
            Self::ForkRebound | Self::ShockRebound => {
                ("Too lively: it kicks back", "Too dead: it packs down")
            }
            Self::ForkCompression | Self::ShockCompression => {
                ("Too soft: it dives", "Too harsh: it beats the hands")
            }
        }
    }
}

/// How it is set up.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct TestDay {
    /// The dial that is turned; the others stay.
    pub dial: Dial,
    /// How many clicks it has from closed to open.
    pub clicks: u32,
}

/// Too far open, right, too far closed.
const OPEN: u32 = 1;
const RIGHT: u32 = 2;

/// A call, in words.
fn called_words(call: u32) -> &'static str {
    match call {
        OPEN => "too far open",
        RIGHT => "right",
        _ => "too far closed",
    }
}

impl Guided for TestDay {
    /// Each setting in clicks from closed, and how it was called.
    type SoFar = Vec<(u32, u32)>;

    const PROTOCOL: Protocol = Protocol::TestDay;
    const AT: &'static [Station] = &[Station::Bars];
    const RIDDEN: bool = false;
    const FOR: &'static [Kind] = &[Kind::OffRoad, Kind::Gravity];

    fn proposed(_: &Proposing) -> Self {
        Self {
            dial: Dial::ForkRebound,
            clicks: CLICKS,
        }
    }

    fn settings(&self) -> Vec<Setting> {
        vec![
            Setting::word("dial", "Dial", self.dial),
            Setting::count("clicks", "Clicks it has", self.clicks),
        ]
    }

    fn refusals(&self, at: &str) -> Vec<Refusal> {
        let clicks = f64::from(self.clicks);
        Vec::from_iter(within(
            format!("{at}/clicks"),
            clicks,
            4.0,
            60.0,
            "Clicks of a dial",
        ))
    }

    fn read(
        &self,
        _run: &Run,
        script: &mut Script,
        called: &mut Vec<(u32, u32)>,
    ) -> Result<(), Box<Asked>> {
        let (open, closed) = self.dial.wrong();
        let mut at = self.clicks;
        loop {
            let ask = Ask::keys(
                format!("{}.{at}", called.len() + 1),
                "How was that?",
                &[("1", open), ("2", "Right"), ("3", closed)],
            );
            let call = script.ask(ask, || Saying {
                place: format!("Ride {}", called.len() + 1),
                instruction: format!(
                    "{}: {} from closed",
                    self.dial.label(),
                    if at == 1 { "1 click".to_owned() } else { format!("{at} clicks") }
                ),
                detail: "The same piece of trail, the same line. Turn this dial alone; count from closed."
                    .to_owned(),
                timer_s: None,
            })?;
            called.push((at, call.digit()));
            match self.next(called) {
                Some(next) => at = next,
                None => return Ok(()),
            }
        }
    }

    fn notches(&self, _run: &Run, called: &Vec<(u32, u32)>) -> Vec<Notch> {
        let notch = |(at, call): &(u32, u32)| Notch {
            label: format!("{at}"),
            words: called_words(*call).to_owned(),
            state: if *call == RIGHT {
                NotchState::Quiet
            } else {
                NotchState::Marked
            },
        };
        called.iter().map(notch).collect()
    }

    fn finding(&self, _run: &Run, called: &Vec<(u32, u32)>) -> Finding {
        let protocol = Protocol::TestDay;
        if called.len() < 2 {
            return Finding::broken(protocol);
        }
        let (low, high) = self.between(called);
        let told: Vec<String> = (called.iter())
            .map(|(at, call)| format!("{at} {}", called_words(*call)))
            .collect();
        let mut words = vec![format!("Clicks from closed: {}.", told.join(", "))];
        if low > high {
            words.push(
                "The calls contradict one another: rest, then ride both ends again.".to_owned(),
            );
            return Finding {
                words,
                ..Finding::new(protocol, Says::Contradicts, "The calls contradict")
            };
        }
        let right = called.iter().rev().find(|(_, call)| *call == RIGHT);
        let at = right.map_or(f64::midpoint(f64::from(low), f64::from(high)), |(at, _)| {
            f64::from(*at)
        });
        words.push(
            "Write it down with the springs; the other dials one at a time, this one as it is now."
                .to_owned(),
        );
        Finding {
            words,
            quantity: Some(self.dial.quantity()),
            value: Some(at),
            low: Some(f64::from(low)),
            high: Some(f64::from(high)),
            spread: Some(f64::from(high - low) / 12.0_f64.sqrt()),
            ..Finding::new(
                protocol,
                Says::Found,
                format!("{}: {} clicks", self.dial.label(), written(at.round())),
            )
        }
    }
}

impl TestDay {
    /// Between which clicks it is right by the calls: least open, most open; crossed where the calls contradict.
    fn between(&self, called: &[(u32, u32)]) -> (u32, u32) {
        let mut ends = (0, self.clicks);
        for (at, call) in called {
            match *call {
                OPEN => ends.1 = ends.1.min(*at),
                RIGHT => {}
                _ => ends.0 = ends.0.max(*at),
            }
        }
        ends
    }

    /// What is ridden next: the other extreme, then the half between; nothing once it is right between both, or near enough.
    fn next(&self, called: &[(u32, u32)]) -> Option<u32> {
        if called.len() == 1 {
            return Some(0);
        }
        let (low, high) = self.between(called);
        let middle = low.midpoint(high);
        let settled = called[2..].iter().any(|(_, call)| *call == RIGHT);
        let ridden = called.iter().any(|(at, _)| *at == middle);
        (!settled && !ridden && low + NEAR < high).then_some(middle)
    }
}
