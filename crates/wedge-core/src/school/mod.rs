//! One decision a file, and in it every school of the trade side by side, for this rider. The studio's school leads;
//! the others stay visible.

mod cleat;
mod crank;
mod ladder;
mod saddle;
mod saddle_height;
mod setback;
mod shoe;
mod stance;
mod wish;

pub use cleat::{
    Choice, CleatSchool, Comparison, MEASURING, comparison, scale as cleat_scale, setback_by_size,
};
pub use crank::{CrankSchool, FrameLabel, Longest, alarms, longest, scale as crank_scale, signs};
pub use ladder::{Ladder, Rung, RungState, Shim, Tried, ladders, shims};
pub use saddle::{Nose, Relief, SaddleNotes, YesNo, saddle_advice};
pub use saddle_height::{HeightSchool, crept_by_now, scale as height_scale};
pub use setback::{
    GateItem, Hung, Landmark, Right, SetbackEvidence, SetbackSchool, gate, hung,
    scale as setback_scale, setback_advice,
};
pub use shoe::{Shoe, ShoeWidth, Stiffness, shoe_advice};
pub use stance::{Stance, StanceVoice, stance};

use crate::foresee::{Change, ForeseeInput, Trying, foresee};
use crate::judge::Output;
use crate::measure::{Quantity, Unit};
use crate::units::{Side, Sides};
use serde::{Deserialize, Serialize};

/// Which school leads in a studio, decision by decision.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields, default)]
pub struct Leads {
    /// Where the cleat goes.
    pub cleat: CleatSchool,
    /// Crank length.
    pub crank: CrankSchool,
    /// Saddle height.
    pub saddle_height: HeightSchool,
    /// Setback.
    pub setback: SetbackSchool,
    /// From where on the knee the plumb line hangs.
    pub landmark: Landmark,
}

impl Default for Leads {
    /// The schools that ask the rider most: joints for the cleat, function for the crank, the moving knee for the
    /// height, balance for the setback.
    fn default() -> Self {
        Self {
            cleat: CleatSchool::Midway,
            crank: CrankSchool::Function,
            saddle_height: HeightSchool::KneeMoving,
            setback: SetbackSchool::Balance,
            landmark: Landmark::Centre,
        }
    }
}

/// What the schools of one decision say, on one scale.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Scale {
    /// What is decided.
    pub quantity: Quantity,
    /// On which side, where left and right are apart.
    pub side: Option<Side>,
    /// Its unit.
    pub unit: Unit,
    /// As it stands.
    pub now: f64,
    /// The scale's own ends.
    pub low: f64,
    /// The scale's other end.
    pub high: f64,
    /// Every school, the leading one first.
    pub schools: Vec<Opinion>,
    /// Where they differ by more than is lost in the tape, and why for this rider.
    pub apart: Option<String>,
    /// What holds for several of them.
    pub note: Option<String>,
}

/// That a value is an end, not a wish.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Bound {
    /// The most it accepts: anything less will do.
    AtMost,
    /// The least it accepts: anything more will do.
    AtLeast,
}

/// What one school says of this rider.
#[derive(Debug, Clone, PartialEq, Default, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Opinion {
    /// Its key among the schools of this decision.
    pub school: String,
    /// As it is called.
    pub label: String,
    /// Whether the studio follows it.
    pub leads: bool,
    /// What it wants; none while something must be measured first.
    pub value: Option<f64>,
    /// Least of what it accepts.
    pub low: Option<f64>,
    /// Largest of what it accepts.
    pub high: Option<f64>,
    /// Left and right, where the legs ask for different values; the value is then what fits between.
    pub sides: Option<Sides<f64>>,
    /// One standard deviation of what it rests on, where that is worth saying.
    pub band: Option<f64>,
    /// Whether that value is an end of what it accepts.
    pub bound: Option<Bound>,
    /// Whether it rests on an estimate.
    pub estimated: bool,
    /// How it comes to that, or what must be measured first.
    pub words: String,
    /// The next trial towards it, the saddle's answer among the changes; none when it is there already.
    pub trial: Option<Step>,
}

/// One step towards what a school wants.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Step {
    /// "Cleat back 4, saddle down 2".
    pub title: String,
    /// The whole linked trial.
    pub changes: Vec<Change>,
    /// What remains after it; empty when it goes all the way.
    pub left: String,
}

impl Step {
    /// The trial of these changes, named after what they do; `None` when they cannot be made.
    pub(crate) fn of(trying: &Trying, changes: Vec<Change>, left: String) -> Option<Self> {
        let weighed = trying.weigh(changes)?;
        Some(Self {
            title: weighed.title,
            changes: weighed.changes,
            left,
        })
    }
}

impl Opinion {
    /// A school that has not said anything yet.
    fn of(school: &str, label: &str, leads: bool) -> Self {
        Self {
            school: school.to_owned(),
            label: label.to_owned(),
            leads,
            ..Self::default()
        }
    }

    /// Everything of it that a scale must show: its wish, its window and the band around it.
    fn spans(&self) -> impl Iterator<Item = f64> + use<> {
        let band = self.value.zip(self.band);
        [
            self.value,
            self.low,
            self.high,
            band.map(|(value, band)| value - band),
            band.map(|(value, band)| value + band),
        ]
        .into_iter()
        .flatten()
    }
}

/// How far an output may be off as it stands: one standard deviation.
fn band_of(input: &ForeseeInput, output: Output) -> Option<f64> {
    let still = ForeseeInput {
        changes: Vec::new(),
        ..input.clone()
    };
    let rows = foresee(&still).ok()?.rows;
    rows.iter().find(|row| row.output == output)?.band
}

/// The ends of a scale that shows all of these with some room.
fn ends(values: impl IntoIterator<Item = f64>, room: f64) -> (f64, f64) {
    let (low, high) = values
        .into_iter()
        .filter(|v| v.is_finite())
        .fold((f64::INFINITY, f64::NEG_INFINITY), |(low, high), v| {
            (low.min(v), high.max(v))
        });
    (low - room, high + room)
}

/// The leading school first, the others in their order.
fn led(mut schools: Vec<Opinion>) -> Vec<Opinion> {
    schools.sort_by_key(|opinion| !opinion.leads);
    schools
}

/// The room's lines of the table of rules.
pub(crate) fn rules() -> Vec<crate::rule::Rule> {
    [
        cleat::rules(),
        stance::rules(),
        ladder::rules(),
        shoe::rules(),
        crank::rules(),
        crank::label_rules(),
        saddle_height::rules(),
        setback::rules(),
        saddle::rules(),
    ]
    .concat()
}
