//! Plumb line: knee over axle measured from a named landmark, crank level and forward, three drops a side.

use super::Protocol;
use super::run::{
    Ask, Asked, Finding, Guided, Notch, NotchState, Proposing, Run, Saying, Says, Script,
};
use super::setting::Setting;
use crate::foresee::Sighting;
use crate::measure::{Method, Quantity, Repeated, Unit};
use crate::position::{Landmark, Position};
use crate::rule::rules;
use crate::units::{Side, Sides};
use crate::words::{capital, written};
use crate::work::Station;
use serde::{Deserialize, Serialize};

/// How a plumb line is set up.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Plumb {
    /// From where on the knee the line hangs.
    pub landmark: Landmark,
}

rules! {
    rules "Plumb line";
    /// A measured line this far from the model's is worth fitting the model to.
    const OFF_MM: f64 = 5.0, " mm", House;
}

/// Drops a side.
const DROPS: usize = 3;
/// As far as a knee can be ahead of or behind the axle and still be the one that is measured.
const FAR_MM: f64 = 150.0;

/// What a plumb line measured, against the linkage: where the knees really hang.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct PlumbMeasured {
    /// From where on the knee the line hung.
    pub landmark: Landmark,
    /// How much further ahead of the axle than foreseen on the setup it hung on, mm; none for a side nobody measured.
    pub more_mm: Sides<Option<f64>>,
    /// One standard deviation of a drop, mm.
    pub spread_mm: f64,
}

impl PlumbMeasured {
    /// Where the line hangs beside what the model says, when that is worth fitting the model to.
    pub fn off_the_model(&self) -> Option<String> {
        let off = |side: Side| {
            let more = self.more_mm.of(side).filter(|m| m.abs() >= OFF_MM)?;
            Some(format!(
                "{} mm further {} {}",
                written(more.abs().round()),
                if more > 0.0 { "ahead" } else { "back" },
                side.word()
            ))
        };
        let off: Vec<String> = Side::BOTH.into_iter().filter_map(off).collect();
        (!off.is_empty()).then(|| {
            format!(
                "The line hung {} than the model has it: fitted to it, board and map go by the line",
                off.join(", ")
            )
        })
    }
}

impl Plumb {
    /// What a finding of this plan adds to the linkage. `there` is the position on the setup the line hung on. `None`
    /// when the drops said nothing that can be relied on.
    pub fn measured(&self, there: &Position, finding: &Finding) -> Option<PlumbMeasured> {
        let (Says::Found, Some(sides)) = (finding.says, finding.sides) else {
            return None;
        };
        Some(PlumbMeasured {
            landmark: self.landmark,
            more_mm: Sides::from_fn(|side| {
                sides
                    .of(side)
                    .map(|measured| measured - self.foreseen(there, side))
            }),
            spread_mm: finding
                .spread
                .unwrap_or(Quantity::Setback.spec().uncertainty),
        })
    }

    /// What a finding of this plan says of the rider, as seen: the model is fitted to it like to any other sighting.
    pub fn sightings(&self, finding: &Finding) -> Vec<Sighting> {
        let sides = finding.sides.filter(|_| finding.says == Says::Found);
        let of = |side| {
            let value = sides.and_then(|sides| *sides.of(side))?;
            Some(Sighting {
                output: self.landmark.output(),
                side: Some(side),
                value,
                method: Method::Tape,
                spread: None,
            })
        };
        Side::BOTH.into_iter().filter_map(of).collect()
    }

    fn foreseen(&self, position: &Position, side: Side) -> f64 {
        self.landmark
            .output()
            .of(position, side)
            .unwrap_or_default()
    }
}

impl Guided for Plumb {
    type SoFar = Sides<Vec<f64>>;

    const PROTOCOL: Protocol = Protocol::Plumb;
    const AT: &'static [Station] = &[Station::Setback];
    const RIDDEN: bool = false;

    fn proposed(for_this: &Proposing) -> Self {
        Self {
            landmark: for_this.landmark,
        }
    }

    fn settings(&self) -> Vec<Setting> {
        vec![Setting::word(
            "landmark",
            "The line hangs from",
            self.landmark,
        )]
    }

    fn read(
        &self,
        _run: &Run,
        script: &mut Script,
        drops: &mut Self::SoFar,
    ) -> Result<(), Box<Asked>> {
        for (side, number) in [(Side::Right, 1), (Side::Left, 2)] {
            let place = format!("{} knee, {number} of 2", capital(side.word()));
            let ready = Ask::enter(
                format!("{}.ready", side.word()),
                "Crank level, foot as it rides?",
                "Hang the line",
            );
            script.ask(ready, || Saying {
                place: place.clone(),
                instruction: format!("Level the cranks, {} one forward", side.word()),
                detail: "A minute of pedalling first, then stop without lifting the heel. Check the crank with the level."
                    .to_owned(),
                timer_s: None,
            })?;
            for drop in 1..=DROPS {
                let ask = Ask::number(
                    format!("{}.{drop}", side.word()),
                    &format!("Drop {drop} of {DROPS}: line ahead of the pedal axle"),
                    "Knee ahead of the axle, behind negative",
                    Unit::Mm,
                    (-FAR_MM, FAR_MM),
                );
                let called = script.ask(ask, || Saying {
                    place: place.clone(),
                    instruction: format!(
                        "Hang it from the {}",
                        self.landmark.label().to_lowercase()
                    ),
                    detail: format!(
                        "{} Let it come to rest; read it at the height of the axle. Take the line off between drops.",
                        self.landmark.how()
                    ),
                    timer_s: None,
                })?;
                drops.of_mut(side).push(called.value());
            }
        }
        Ok(())
    }

    fn notches(&self, _run: &Run, drops: &Self::SoFar) -> Vec<Notch> {
        [Side::Right, Side::Left]
            .into_iter()
            .flat_map(|side| {
                drops.of(side).iter().map(move |value| Notch {
                    label: written(*value),
                    words: format!("{} knee", side.word()),
                    state: NotchState::Quiet,
                })
            })
            .collect()
    }

    fn finding(&self, run: &Run, drops: &Self::SoFar) -> Finding {
        let protocol = Protocol::Plumb;
        let spec = Quantity::Setback.spec();
        let means = Sides::from_fn(|side| Repeated::of(drops.of(side), &spec));
        if means.left.is_none() && means.right.is_none() {
            return Finding::broken(protocol);
        }
        let mut words = Vec::new();
        let mut contradicts = false;
        for side in [Side::Right, Side::Left] {
            let Some(repeated) = means.of(side) else {
                continue;
            };
            let over = match repeated.spread {
                Some(spread) => format!(
                    ", ± {} mm over {} drops",
                    written(spread),
                    drops.of(side).len()
                ),
                None => " in a single drop".to_owned(),
            };
            let foreseen = ahead(self.foreseen(&run.on.before, side));
            words.push(format!(
                "{} knee: {}{over}; foreseen {foreseen}.",
                capital(side.word()),
                ahead(repeated.mean)
            ));
            if let Some(question) = &repeated.question {
                contradicts = true;
                words.push(format!("{question}."));
            }
        }
        let known: Vec<f64> = Side::BOTH
            .into_iter()
            .filter_map(|side| means.of(side).as_ref().map(|r| r.mean))
            .collect();
        let mean = known.iter().sum::<f64>() / f64::from(u32::try_from(known.len()).unwrap_or(1));
        let spreads: Vec<f64> = Side::BOTH
            .into_iter()
            .filter_map(|side| means.of(side).as_ref().and_then(|r| r.spread))
            .collect();
        if let [left, right] = known[..]
            && (left - right).abs() > 10.0
        {
            words.push(format!(
                "The knees are {} mm apart: one line cannot suit both. Between them is {}.",
                written((left - right).abs()),
                ahead(mean)
            ));
        }
        Finding {
            quantity: None,
            value: Some(mean),
            spread: spreads.into_iter().reduce(f64::max),
            sides: Some(Sides::from_fn(|side| {
                means.of(side).as_ref().map(|r| r.mean)
            })),
            words,
            ..Finding::new(
                protocol,
                if contradicts {
                    Says::Contradicts
                } else {
                    Says::Found
                },
                format!("{}: {}", self.landmark.label(), ahead(mean)),
            )
        }
    }
}

/// "4 mm ahead of the axle".
fn ahead(value: f64) -> String {
    if written(value) == "0" {
        "over the axle".to_owned()
    } else {
        format!(
            "{} mm {} the axle",
            written(value.abs()),
            if value > 0.0 { "ahead of" } else { "behind" }
        )
    }
}
