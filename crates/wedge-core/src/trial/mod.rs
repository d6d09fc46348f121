//! Trials that can be trusted: which compare with one another, how far foresight is off over all of them, and guided
//! protocols, one a file.
//!
//! ```
//! use wedge_core::example;
//! use wedge_core::foresee::Trying;
//! use wedge_core::trial::{Answer, Call, CreepUp, Run, RunPlan, guide};
//!
//! let ride = example::road().check().expect("the example is in range");
//! let on = Trying::of(&ride);
//! let plan = RunPlan::CreepUp(CreepUp { from_mm: -10.0, step_mm: 5.0 });
//! let mut calls = Vec::new();
//! let finding = loop {
//!     let now = guide(&Run { plan: &plan, on: &on, calls: &calls, stopped: false, order: &[] });
//!     let Some(ask) = now.screen.ask else {
//!         break now.finding.expect("nothing is asked any more");
//!     };
//!     // This rider's bottom turns choppy above 745 mm.
//!     let height = now.screen.notches.last().and_then(|notch| notch.label.parse::<f64>().ok());
//!     let chop = if height > Some(745.0) { "2" } else { "0" };
//!     let key = match ask.keys[0].key.as_str() {
//!         "Enter" => "Enter",
//!         _ if ask.id.ends_with("hips") => "0",
//!         _ => chop,
//!     };
//!     calls.push(Call { ask: ask.id, answer: Answer::Key(key.to_owned()) });
//! };
//! // 3 to 5 mm back from there.
//! assert!(finding.value.is_some_and(|to| (739.0..743.0).contains(&to)));
//! ```

mod balance;
mod blind;
mod bracket;
mod crank_comparison;
mod creep_up;
mod heel_test;
mod height_sweep;
mod hurts;
mod light_fingers;
mod plumb;
mod rail_sweep;
mod run;
mod setting;
mod standing_still;
mod test_day;
mod tilt_check;
mod tops_or_drops;
mod wrist_line;

/// Lists the protocols: each is a file of this room with what it is set up with, its key and its name. Everything that
/// tells one from another is made from this list.
macro_rules! protocols {
    ($($file:ident $variant:ident($plan:ident) $key:tt $label:literal $(#[doc = $doc:literal])+)*) => {
        $(pub use $file::$plan;)*

        words! {
            /// A guided protocol.
            pub enum Protocol {
                $($variant $key $label,)*
            }
        }

        /// What a run of a protocol was set up with; it stays so.
        #[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
        #[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
        #[serde(rename_all = "snake_case")]
        pub enum RunPlan {
            $($(#[doc = $doc])+ $variant($plan),)*
        }

        impl RunPlan {
            /// Its protocol.
            pub fn protocol(&self) -> Protocol {
                match self {
                    $(Self::$variant(_) => Protocol::$variant,)*
                }
            }

            /// What is wrong with it, pointing below `at`.
            pub fn refusals(&self, at: &str) -> Vec<Refusal> {
                let at = format!("{at}/{}", self.protocol().key());
                match self {
                    $(Self::$variant(plan) => run::Guided::refusals(plan, &at),)*
                }
            }

            /// How each protocol would be set up for this rider, here and now.
            pub fn proposed(for_this: &Proposing) -> Vec<Self> {
                vec![$(Self::$variant(run::Guided::proposed(for_this)),)*]
            }

            /// How many throws its hidden order needs; none where nothing is hidden.
            pub fn hides(&self) -> u32 {
                match self {
                    $(Self::$variant(plan) => run::Guided::hides(plan),)*
                }
            }

            /// The hidden setting to make now, while a hidden one waits for it: what alone may be shown, and only while it
            /// is asked for. `ever` is every call ever made, those taken back among them.
            pub fn setting(&self, run: &Run, ever: &[Call]) -> Option<String> {
                match self {
                    $(Self::$variant(plan) => run::Guided::setting(plan, run, ever),)*
                }
            }

            /// Whether the last call that stands may be taken back.
            pub fn gives_back(&self, standing: &[Call], ever: &[Call]) -> bool {
                match self {
                    $(Self::$variant(plan) => run::Guided::gives_back(plan, standing, ever),)*
                }
            }

            /// The stations it is begun at.
            pub fn stations(&self) -> &'static [Station] {
                match self {
                    $(Self::$variant(_) => <$plan as run::Guided>::AT,)*
                }
            }

            /// The kinds of riding it is of.
            fn kinds(&self) -> &'static [Kind] {
                match self {
                    $(Self::$variant(_) => <$plan as run::Guided>::FOR,)*
                }
            }

            /// What can be set of it before it begins.
            pub fn settings(&self) -> Vec<Setting> {
                match self {
                    $(Self::$variant(plan) => run::Guided::settings(plan),)*
                }
            }
        }

        impl Protocol {
            /// Whether it is begun at a station.
            pub fn is_of(self, station: Station) -> bool {
                match self {
                    $(Self::$variant => <$plan as run::Guided>::AT,)*
                }
                .contains(&station)
            }
        }

        /// Where a run stands, from its calls.
        pub fn guide(run: &Run) -> Guide {
            match run.plan {
                $(RunPlan::$variant(plan) => run::guided(plan, run),)*
            }
        }

        impl RunPlan {
            /// The signs a run saw, each with how far back on its rails the saddle stood from where it began, mm.
            pub fn signs(&self, run: &Run) -> Vec<(SignSeen, f64)> {
                match self {
                    $(Self::$variant(plan) => run::signs(plan, run),)*
                }
            }
        }

        fn protocol_rules() -> Vec<crate::rule::Rule> {
            [$($file::rules(),)*].concat()
        }
    };
}

protocols! {
    creep_up CreepUp(CreepUp) "creep_up" "Creep up"
        /// Saddle height by creeping up.
    balance Balance(Balance) "balance" "Balance test"
        /// Setback by balance.
    rail_sweep RailSweep(RailSweep) "rail_sweep" "Rail sweep"
        /// Setback by sharing the work.
    plumb Plumb(Plumb) "plumb" "Plumb line"
        /// Knee over axle.
    tilt_check Tilt(TiltCheck) "tilt" "Tilt"
        /// Tilt, with what it moves.
    heel_test HeelTest(HeelTest) "heel_test" "Heel test"
        /// Saddle height by hips that stay level.
    crank_comparison CrankComparison(CrankComparison) "crank_comparison" "Crank comparison"
        /// Crank length by riding two or three.
    standing_still StandingStill(StandingStill) "standing_still" "Standing still"
        /// The hands' height as the rider likes it standing still.
    bracket Bracket(Bracket) "bracket" "Bracket"
        /// Where the hands belong, between too far and too near.
    height_sweep HeightSweep(HeightSweep) "height_sweep" "Height sweep"
        /// The hands' height by their weight.
    tops_or_drops TopsOrDrops(TopsOrDrops) "tops_or_drops" "Tops or drops"
        /// The place the hands take unasked.
    light_fingers LightFingers(LightFingers) "light_fingers" "Light fingers"
        /// Whether the trunk carries itself.
    wrist_line WristLine(WristLine) "wrist_line" "Wrist and levers"
        /// Wrists, levers and controls, side by side.
    blind Blind(Blind) "blind" "Blind A/B"
        /// How small a change this rider feels.
    test_day TestDay(TestDay) "test_day" "Test day"
        /// One dial of fork or shock, its extremes first.
}

pub use balance::BalanceVariant;
pub use blind::{Feels, USUAL_STEP_MM, chance, feels};
pub use bracket::{Bracketed, RiddenOn};
pub use crank_comparison::Order;
pub(crate) use creep_up::BACK_OFF_MM;
pub use creep_up::Crept;
pub use hurts::Hurts;
pub use plumb::PlumbMeasured;
pub use rail_sweep::Form;
pub use run::{
    Answer, Ask, AskedNumber, Call, CallKey, Finding, Guide, Notch, NotchState, Picks, Proposing,
    Run, Says, Screen, Shifted,
};
pub use setting::{Choosable, Setting, Start, Takes};
pub use test_day::Dial;

use crate::bike::Kind;
use crate::intake::{Complaint, Place};
use crate::looking::SignSeen;
use crate::measure::{Output, Quantity, Refusal};
use crate::rider::Effort;
use crate::rule::rules;
use crate::units::Side;
use crate::words::{sided, words, written};
use crate::work::Station;
use serde::{Deserialize, Serialize};

words! {
    /// How sure the rider is of a verdict.
    pub enum Sure {
        Guess "guess" "A guess",
        Fairly "fairly" "Fairly sure",
        Certain "certain" "Certain",
    }
}

impl RunPlan {
    /// Every protocol begun at the station it is proposed for, in the order of their keys.
    pub fn starts(for_this: &Proposing) -> Vec<Start> {
        let kind = for_this.on.kind;
        let here =
            |plan: &Self| plan.stations().contains(&for_this.at) && plan.kinds().contains(&kind);
        let start = |plan: Self| Start {
            station: for_this.at,
            protocol: plan.protocol(),
            label: plan.protocol().label(),
            settings: plan.settings(),
            plan,
        };
        let all = Self::proposed(for_this).into_iter();
        all.filter(here).map(start).collect()
    }
}

/// Where a trial is felt.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Felt {
    /// Where on the body.
    pub place: Place,
    /// On which side, where there are two; both when none.
    #[serde(default)]
    pub side: Option<Side>,
}

impl From<&Complaint> for Felt {
    fn from(complaint: &Complaint) -> Self {
        Self {
            place: complaint.place,
            side: complaint.side,
        }
    }
}

impl Felt {
    /// What is wrong with it, pointing below `at`.
    pub fn refusal(self, at: &str) -> Option<Refusal> {
        (self.side.is_some() && !self.place.per_side())
            .then(|| Refusal::new(format!("{at}/side"), "That has no left and right"))
    }

    /// Whether what is said of it answers for another: of one side and of both does.
    pub fn is_of(self, other: Self) -> bool {
        self.place == other.place
            && (self.side == other.side || self.side.is_none() || other.side.is_none())
    }

    /// "behind the knee, left".
    pub fn words(self) -> String {
        sided(&self.place.label().to_lowercase(), self.side)
    }
}

rules! {
    own_rules "Trials";
    /// Trials are compared when their power is this alike, in hundredths.
    const LIKE_POWER_PERCENT: f64 = 10.0, " %", House;
    /// And their cadence.
    const LIKE_CADENCE_RPM: f64 = 5.0, " rpm", House;
    /// A steady effort, as most trials want it, is pedalled this fast.
    const STEADY_RPM: (f64, f64) = (80.0, 100.0), " rpm", Workshop;
}

/// The room's lines of the table of rules.
pub(crate) fn rules() -> Vec<crate::rule::Rule> {
    [own_rules(), run::rules(), protocol_rules()].concat()
}

/// Why two trials do not compare, `None` when they were ridden alike. Of an effort nobody named nothing is said: it may have
/// been the same.
pub fn unlike(before: Option<Effort>, here: Option<Effort>) -> Option<String> {
    let (before, here) = before.zip(here)?;
    let mut apart = Vec::new();
    if (here.power_w - before.power_w).abs() * 100.0 > LIKE_POWER_PERCENT * before.power_w + 1e-9 {
        apart.push(format!(
            "{} W against {} W",
            written(here.power_w),
            written(before.power_w)
        ));
    }
    if (here.cadence_rpm - before.cadence_rpm).abs() > LIKE_CADENCE_RPM + 1e-9 {
        apart.push(format!(
            "{} rpm against {} rpm",
            written(here.cadence_rpm),
            written(before.cadence_rpm)
        ));
    }
    (!apart.is_empty()).then(|| format!("Not at like effort: {}", apart.join(", ")))
}

/// What to mind about an effort: most trials want a steady one.
pub fn steady(effort: Effort) -> Option<String> {
    let (low, high) = STEADY_RPM;
    (!(low..=high).contains(&effort.cadence_rpm)).then(|| {
        format!(
            "{} rpm: most trials want a steady {} to {}; soft-pedalling misleads",
            written(effort.cadence_rpm),
            written(low),
            written(high)
        )
    })
}

/// Whether a trial moves several things, so that its cause cannot be told; left and right of one thing are one.
pub fn is_batch(quantities: &[Quantity]) -> bool {
    let mut moved: Vec<Quantity> = quantities.to_vec();
    moved.sort_unstable();
    moved.dedup();
    moved.len() > 1
}

/// One output foreseen, with its spread, and seen.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Compared {
    /// What.
    pub output: Output,
    /// Foreseen after the change.
    pub foreseen: f64,
    /// One standard deviation of that, when it was worked out.
    pub band: Option<f64>,
    /// Seen.
    pub seen: f64,
}

/// How far foresight of one output was off, over every trial it was seen in.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RunningError {
    /// Of what.
    pub output: Output,
    /// As it is called.
    pub label: String,
    /// How often it was seen.
    pub count: usize,
    /// Mean of seen less foreseen: which way the model leans.
    pub mean: f64,
    /// Root of the mean square: how far it is off.
    pub rms: f64,
    /// How often what was seen lay within twice the band.
    pub within: usize,
    /// How many had a band.
    pub banded: usize,
    /// "seen +0.6° on the mean, 1.1° off over 5; 4 of 5 within the band".
    pub words: String,
}

/// The running error of each output that was seen, in the order of a fit.
pub fn running_errors(compared: &[Compared]) -> Vec<RunningError> {
    Output::ALL
        .iter()
        .filter_map(|output| {
            let of: Vec<&Compared> = compared.iter().filter(|c| c.output == *output).collect();
            let count = of.len();
            let by = f64::from(u32::try_from(count).ok().filter(|n| *n > 0)?);
            let mean = of.iter().map(|c| c.seen - c.foreseen).sum::<f64>() / by;
            let square = of
                .iter()
                .map(|c| (c.seen - c.foreseen).powi(2))
                .sum::<f64>()
                / by;
            let rms = square.sqrt();
            let within = of
                .iter()
                .filter(|c| {
                    c.band
                        .is_some_and(|b| (c.seen - c.foreseen).abs() <= 2.0 * b)
                })
                .count();
            let banded = of.iter().filter(|c| c.band.is_some()).count();
            let spec = output.spec();
            let unit = spec.unit.suffix();
            let lean = if written(mean) == "0" {
                "no lean".to_owned()
            } else {
                format!(
                    "seen {}{unit} {} than foreseen",
                    written(mean.abs()),
                    if mean > 0.0 { "more" } else { "less" }
                )
            };
            let times = if count == 1 { "once" } else { "" };
            let over = if times.is_empty() {
                format!("over {count} trials")
            } else {
                times.to_owned()
            };
            Some(RunningError {
                output: *output,
                label: spec.label.to_owned(),
                count,
                mean,
                rms,
                within,
                banded,
                words: format!(
                    "{lean}, {}{unit} off {over}; {within} of {banded} within the band",
                    written(rms)
                ),
            })
        })
        .collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    fn effort(power_w: f64, cadence_rpm: f64) -> Effort {
        Effort {
            power_w,
            cadence_rpm,
        }
    }

    #[test]
    fn only_like_efforts_compare() {
        for (before, here, alike) in [
            (Some(effort(200.0, 90.0)), Some(effort(200.0, 90.0)), true),
            (Some(effort(200.0, 90.0)), Some(effort(220.0, 95.0)), true),
            (Some(effort(200.0, 90.0)), Some(effort(221.0, 90.0)), false),
            (Some(effort(200.0, 90.0)), Some(effort(179.0, 90.0)), false),
            (Some(effort(200.0, 90.0)), Some(effort(200.0, 84.9)), false),
            (None, Some(effort(200.0, 90.0)), true),
            (Some(effort(200.0, 90.0)), None, true),
        ] {
            assert_eq!(unlike(before, here).is_none(), alike, "{before:?} {here:?}");
        }
        let words = unlike(Some(effort(200.0, 90.0)), Some(effort(150.0, 70.0))).unwrap();
        assert_eq!(
            words,
            "Not at like effort: 150 W against 200 W, 70 rpm against 90 rpm"
        );
    }

    #[test]
    fn a_steady_effort_has_a_cadence() {
        let at = |rpm: f64| steady(effort(180.0, rpm)).is_none();
        assert!(at(80.0) && at(100.0));
        assert!(!at(79.0) && !at(101.0));
    }

    #[test]
    fn running_error_by_hand() {
        // Off by +2, −1, +2: mean 1, square (4 + 1 + 4) / 3 = 3. Twice the band of 0.9 holds one of two.
        let of = |foreseen: f64, seen: f64, band| Compared {
            output: Output::Torso,
            foreseen,
            band,
            seen,
        };
        let errors = running_errors(&[
            of(45.0, 47.0, Some(0.9)),
            of(45.0, 44.0, Some(0.9)),
            of(40.0, 42.0, None),
        ]);
        assert_eq!(errors.len(), 1);
        let error = &errors[0];
        assert!((error.mean - 1.0).abs() < 1e-12);
        assert!((error.rms - 3.0_f64.sqrt()).abs() < 1e-12);
        assert_eq!((error.count, error.within, error.banded), (3, 1, 2));
        assert_eq!(
            error.words,
            "seen 1° more than foreseen, 1.7° off over 3 trials; 1 of 2 within the band"
        );
        assert!(running_errors(&[]).is_empty());
    }

    #[test]
    fn left_and_right_of_one_thing_are_one_cause() {
        use Quantity as Q;
        assert!(!is_batch(&[Q::CleatSetback, Q::CleatSetback]));
        assert!(is_batch(&[Q::Crank, Q::SaddleHeight]));
        assert!(!is_batch(&[]));
    }
}
