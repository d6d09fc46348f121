//! The order of work: the stations of a fit, back to front.

use crate::bike::BarKind;
use crate::measure::{Mark, Output, Quantity};
use crate::words::{lower, words};
use serde::{Deserialize, Serialize};

/// A station of a fit.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Station {
    /// What the rider comes with, and where it hurts.
    #[default]
    Intake,
    /// The rider's body is measured.
    Body,
    /// The bike is measured as it came.
    BikeAsFound,
    /// The rider is seen on the bike as found; the model is fitted to what was seen.
    FirstLook,
    /// Cleats.
    Feet,
    /// Crank length.
    Cranks,
    /// Saddle height.
    SaddleHeight,
    /// Setback and tilt.
    Setback,
    /// Stem, spacers and bars; on a bike with pads, how far ahead they stand.
    Bars,
    /// How high the pads stand; on a bike with pads alone, like the two after it.
    PadStack,
    /// The whole position is turned about the BB.
    Turn,
    /// What all of it did to what was set before.
    Recheck,
    /// The position is written down for the rider and the next mechanic.
    HandOut,
}

/// What is known of a station.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StationSpec {
    /// The station.
    pub station: Station,
    /// The fitter's word.
    pub label: &'static str,
    /// What to do here, in one sentence.
    pub task: &'static str,
    /// The dimensions this station turns, the first one focused; a bike has those its bar has.
    pub quantities: Vec<Quantity>,
    /// The output that matters here: the tape's line and the sector on the board.
    pub output: Output,
}

/// What raises the pads, their own spacers first.
const PAD_STACK: [Quantity; 6] = [
    Quantity::PadSpacers,
    Quantity::SpacersBelow,
    Quantity::PadTilt,
    Quantity::StemAngle,
    Quantity::PadRise,
    Quantity::GripRise,
];

impl Station {
    /// Every station of a bike without pads, in the order of work (workshop rule: knees first, then back and hands).
    pub const ALL: [Self; 10] = [
        Self::Intake,
        Self::Body,
        Self::BikeAsFound,
        Self::FirstLook,
        Self::Feet,
        Self::Cranks,
        Self::SaddleHeight,
        Self::Setback,
        Self::Bars,
        Self::HandOut,
    ];

    /// What a bike with pads has besides, before the hand-out: pad reach comes before pad stack, then the whole position is
    /// turned, then it is rechecked (workshop rule).
    pub const OF_PADS: [Self; 3] = [Self::PadStack, Self::Turn, Self::Recheck];

    /// The stations of a fit on a bike with such a bar, in the order of work and in its words.
    pub fn way(bar: BarKind) -> Vec<StationSpec> {
        if bar != BarKind::Aero {
            return Self::ALL.map(Self::spec).to_vec();
        }
        let (before, last) = Self::ALL.split_at(Self::ALL.len() - 1);
        before
            .iter()
            .chain(&Self::OF_PADS)
            .chain(last)
            .map(|station| station.on_pads())
            .collect()
    }

    /// The dimensions it turns.
    fn quantities(self) -> Vec<Quantity> {
        use Quantity as Q;
        let mark = match self {
            Self::Intake
            | Self::Body
            | Self::FirstLook
            | Self::Turn
            | Self::Recheck
            | Self::HandOut => return Vec::new(),
            Self::PadStack => return PAD_STACK.to_vec(),
            Self::BikeAsFound => return vec![Q::SaddleHeight, Q::Setback, Q::Drop, Q::BbToHand],
            Self::Feet => Mark::feet,
            Self::Cranks => Mark::cranks,
            Self::SaddleHeight => Mark::height,
            Self::Setback => Mark::rails,
            Self::Bars => Mark::bars,
        };
        Quantity::marked(mark).collect()
    }

    /// What is known of it on a bike with pads: its own words and first measures.
    fn on_pads(self) -> StationSpec {
        let plain = self.spec();
        match self {
            Self::SaddleHeight => StationSpec {
                task: "Step the saddle until the knee at full reach is in its range, where on it the rider really sits.",
                ..plain
            },
            Self::Setback => StationSpec {
                label: "Fore-aft",
                task: "Bring the saddle fore or aft to its seat angle; recheck the height after.",
                output: Output::SeatAngle,
                ..plain
            },
            Self::Bars => {
                let first = [Quantity::PadForward, Quantity::PadSpacing];
                let elsewhere = |q: &Quantity| first.contains(q) || PAD_STACK.contains(q);
                let rest = plain.quantities.iter().copied().filter(|q| !elsewhere(q));
                StationSpec {
                    label: "Pad reach",
                    task: "Bring the pads to where the upper arms are quiet, the ear over the crease of the elbow.",
                    quantities: first.into_iter().chain(rest).collect(),
                    output: Output::Shoulder,
                    ..plain
                }
            }
            _ => plain,
        }
    }

    /// What is known of it.
    pub fn spec(self) -> StationSpec {
        let (label, task, output) = match self {
            Self::Intake => (
                "Intake",
                "Ask what the fit is for and where it hurts, before anything is measured.",
                Output::KneeAtFullReach,
            ),
            Self::FirstLook => (
                "First look",
                "Have the rider pedal at the named effort; read what is seen beside what is foreseen.",
                Output::KneeAtFullReach,
            ),
            Self::Body => (
                "Body",
                "Measure the rider. What is not measured is estimated, and says so.",
                Output::KneeAtFullReach,
            ),
            Self::BikeAsFound => (
                "Bike as found",
                "Walk the tape round the bike before any bolt is turned.",
                Output::KneeAtFullReach,
            ),
            Self::Feet => (
                "Feet",
                "Set the cleats: everything above stands on them.",
                Output::KneeAtFullReach,
            ),
            Self::Cranks => (
                "Cranks",
                "Settle the crank before the saddle: it moves everything after.",
                Output::KneeMostBent,
            ),
            Self::SaddleHeight => (
                "Saddle height",
                "Step the saddle until the knee at full reach is in its range.",
                Output::KneeAtFullReach,
            ),
            Self::Setback => (
                "Setback & tilt",
                "Slide the saddle on its rails; recheck the height after.",
                Output::KneeOverAxle,
            ),
            Self::Bars => (
                "Bars",
                "Bring the hands to where torso and shoulders are quiet.",
                Output::Torso,
            ),
            Self::PadStack => (
                "Pad stack",
                "Lower or raise the pads to the drop that can be held; spacers under pads and stem are two lots.",
                Output::DropShare,
            ),
            Self::Turn => (
                "Rotation",
                "Turn the whole position about the BB: every joint keeps its angle.",
                Output::Torso,
            ),
            Self::Recheck => (
                "Recheck",
                "Check what the front has done to knees, hips and seat; what is due again is done from here.",
                Output::HipClosed,
            ),
            Self::HandOut => (
                "Hand-out",
                "Check the sheet, print it, finish the fit.",
                Output::KneeAtFullReach,
            ),
        };
        StationSpec {
            station: self,
            label,
            task,
            quantities: self.quantities(),
            output,
        }
    }
}

words! {
    /// A step of work at the front end, in the order it is done (workshop rule).
    pub enum FrontStep {
        Photograph "photograph" "Photograph the spacers, or write down their order",
        Slacken "slacken" "Slacken the stem’s bolts, then the cap",
        Rebuild "rebuild" "Rebuild as drawn",
        Gap "gap" "Gap of 2 to 3 mm under the cap",
        Preload "preload" "Preload by hand until the play is gone: front brake, rock",
        Straight "straight" "Wheel straight under the stem",
        Torque "torque" "Bolts evenly to the printed torque, carbon with its paste",
        Level "level" "Bars and levers level",
        Hoses "hoses" "Hoses and cables free at full lock",
        Ride "ride" "Ride it, then recheck",
    }
}

/// What stands at the foot of every hand-out.
pub const CAUTIONS: &[&str] = &[
    "Stop riding and see a licensed clinician for night pain, swelling, a joint that locks or gives way, numbness that \
     stays after the ride, pain after a crash, chest pain, or fever with joint pain.",
    "Tighten every bolt to the torque printed on the part. Carbon needs its own paste and limits. Keep the post below \
     its minimum insertion mark and the steerer gap under the cap.",
    "Check all bolts again after the first ride. Brake hoses and cables must be long enough to turn the bars freely.",
    "These numbers are a fitter's aid, not medical advice. Local rules, makers' limits and licensed practitioners come \
     first.",
];

/// What the rider should feel for between visits, with what was changed last, if anything was.
pub fn self_check(last: Option<&str>) -> String {
    match last {
        Some(last) => format!(
            "New pain on a ride: stop, undo the last change ({}), feel again. If it stays, call us.",
            lower(last)
        ),
        None => "New pain on a ride: stop, and call us.".to_owned(),
    }
}
