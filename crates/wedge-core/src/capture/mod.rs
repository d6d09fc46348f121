//! Markers: from where they were in a room to the figures of a fit, each with its spread.
//!
//! A file or a camera gives [`Tracks`] in axes, names and units of its own. [`look`] names them, turns them onto the
//! bike (`x` forward, `y` up, `z` to the rider's right), bridges short gaps, filters, finds each crank's angle, cuts strokes
//! at each side's own top, and answers a [`Sample`]: figures as mean, spread and number of strokes, curves to draw, the shape
//! of the knee's path, the pelvis. What is doubtful is an [`TakeAsk`], put once; what cannot be gone on without is [`Unlooked`].
//!
//! Angles are read on the side view, never in space. Flexion 0 is straight; heel up, knee ahead of the axle, knee
//! outward, right hip up and right hip ahead are positive.
//!
//! Between takes, [`Difference`] says what is real. Torque over the stroke is [`torque`]'s.
#![allow(
    clippy::cast_precision_loss,
    clippy::cast_possible_truncation,
    clippy::cast_sign_loss,
    reason = "frames, strokes and whole degrees are counted in thousands, and are not negative"
)]

mod compare;
mod crank;
mod even;
mod evidence;
mod figure;
mod frame;
mod leg;
mod names;
mod pelvis;
mod sample;
mod smooth;
mod spline;
mod standing;
mod stat;
mod stroke;
pub mod torque;
mod tracks;

pub use compare::{Beside, Column, TakeRow, TakesCompared, beside};
pub use evidence::{Shown, Shows, shows};
pub use figure::{Figure, FigureSpec};
pub use names::{BodyPoint, Named, read_name};
pub use sample::{Drawn, FigureStat, KneeFront, Limbs, PelvisTake, Sample, look};
pub use smooth::{CHOPPY_DEG, ROUGHER};
pub use standing::{StandingZero, standing};
pub use stat::{Difference, Stat};

pub(crate) use crank::{circle, level_fall};
pub(crate) use even::{clock, evened, shifted, smoothed, step};
pub(crate) use leg::{angle, flexion, lean, off_line, phases, pitch};
pub(crate) use pelvis::Turned;
pub(crate) use sample::{mean_curve, stats};
pub(crate) use stat::{middle, no_figures, nothing_real};
pub(crate) use stroke::{Turn, degrees, regular};
pub use tracks::{MarkerUnit, Track, Tracks};

use crate::rider::{Body, Lengths};
use crate::rule::Rule;
use crate::units::{Millimetres, Side, Sides};
use crate::words::words;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use thiserror::Error;

/// What is known of rider and bike beside the markers.
#[derive(Debug, Clone, PartialEq)]
pub struct Told {
    /// Stature.
    pub stature_mm: f64,
    /// Ankle above the inside of the sole.
    pub ankle_height_mm: f64,
    /// Ankle to ball of the foot, along the sole.
    pub ankle_to_ball_mm: f64,
    /// Crank, where it is known.
    pub crank_mm: Option<f64>,
    /// Seat tube above horizontal, for the crank in line with it.
    pub seat_tube_deg: Option<f64>,
    /// Pedal axle behind the ball.
    pub cleat_setback_mm: f64,
    /// Sole.
    pub sole_mm: f64,
    /// Pedal axle to sole.
    pub pedal_stack_mm: f64,
    /// How high the toe's marker sits above the inside of the sole.
    pub toe_marker_mm: f64,
    /// Thigh by the tape, if it was taken.
    pub thigh_mm: Option<f64>,
    /// Shanks by the tape.
    pub shank_mm: Sides<Option<f64>>,
    /// Between the hip joints.
    pub hip_spacing_mm: f64,
    /// What of this was estimated, in words.
    pub estimated: Vec<String>,
}

impl Told {
    /// The crank, or an ordinary one.
    pub(crate) fn crank_or_usual(&self) -> f64 {
        self.crank_mm.unwrap_or(crank::USUAL_CRANK_MM)
    }

    /// The thigh by the tape, or as long as it is in most riders of this stature.
    pub(crate) fn thigh_or_usual(&self) -> f64 {
        self.thigh_mm.unwrap_or_else(|| {
            let usual = usual_lengths(self.stature_mm);
            usual.legs.right.thigh.value_mm.0
        })
    }
}

/// What may be known, in the keys of a rider's file of lengths; what is missing is estimated and said.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Known {
    /// Stature.
    pub stature_mm: Option<f64>,
    /// Ankle above the inside of the sole.
    pub ankle_height_mm: Option<f64>,
    /// Ankle to ball of the foot, along the sole.
    pub ankle_to_ball_mm: Option<f64>,
    /// Crank.
    pub crank_mm: Option<f64>,
    /// Seat tube above horizontal.
    pub seat_tube_deg: Option<f64>,
    /// Pedal axle behind the ball.
    pub cleat_setback_mm: Option<f64>,
    /// Sole.
    pub sole_mm: Option<f64>,
    /// Pedal axle to sole.
    pub pedal_stack_mm: Option<f64>,
    /// The toe's marker above the inside of the sole.
    pub toe_marker_above_sole_mm: Option<f64>,
    /// Thigh.
    pub thigh_mm: Option<f64>,
    /// Left shank.
    pub shank_left_mm: Option<f64>,
    /// Right shank.
    pub shank_right_mm: Option<f64>,
    /// Between the hip joints.
    pub hip_spacing_mm: Option<f64>,
}

/// Where nothing of a rider is known (house choice).
const STATURE_MM: f64 = 1750.0;

/// Lengths of most riders of a stature.
fn usual_lengths(stature_mm: f64) -> Lengths {
    let (body, sides) = (Body::new(Millimetres(stature_mm)), Sides::default());
    Lengths::of(&body, &sides, &Sides::default())
}

impl Known {
    /// Fills in what is missing, and says so.
    pub fn told(&self) -> Told {
        let mut guessed = Vec::new();
        let mut or = |value: Option<f64>, ordinary: f64, words: &str| {
            value.unwrap_or_else(|| {
                guessed.push(format!("{words} {ordinary:.0}"));
                ordinary
            })
        };
        let stature = or(self.stature_mm, STATURE_MM, "stature");
        let usual = usual_lengths(stature);
        let ankle_height = usual.legs.right.ankle_height.value_mm.0;
        let ankle_height_mm = or(self.ankle_height_mm, ankle_height, "ankle height");
        let ankle_to_ball_mm = or(
            self.ankle_to_ball_mm,
            usual.legs.right.ankle_to_ball(),
            "ankle to ball",
        );
        let cleat_setback_mm = or(self.cleat_setback_mm, 10.0, "cleat behind the ball");
        let sole_mm = or(self.sole_mm, 8.0, "sole");
        let pedal_stack_mm = or(self.pedal_stack_mm, 14.0, "pedal stack");
        let hip_spacing_mm = or(
            self.hip_spacing_mm,
            2.0 * usual.hip_aside_mm.0,
            "hip joints apart",
        );
        let toe_marker_mm = self
            .toe_marker_above_sole_mm
            .unwrap_or(crank::TOE_MARKER_MM);
        let mut estimated = Vec::new();
        if !guessed.is_empty() {
            estimated.push(format!(
                "Estimated, not measured: {} (mm).",
                guessed.join(", ")
            ));
        }
        if self.crank_mm.is_none() {
            estimated.push(
                "The crank's length was not told: it is read from the circle, to some millimetres."
                    .to_owned(),
            );
        }
        if self.seat_tube_deg.is_none() {
            estimated.push(
                "Without the seat tube's angle there is no knee with the crank in line.".to_owned(),
            );
        }
        Told {
            stature_mm: stature,
            ankle_height_mm,
            ankle_to_ball_mm,
            crank_mm: self.crank_mm,
            seat_tube_deg: self.seat_tube_deg,
            cleat_setback_mm,
            sole_mm,
            pedal_stack_mm,
            toe_marker_mm,
            thigh_mm: self.thigh_mm,
            shank_mm: Sides {
                left: self.shank_left_mm,
                right: self.shank_right_mm,
            },
            hip_spacing_mm,
            estimated,
        }
    }
}

words! {
    /// What is asked about a take.
    pub enum AskKind {
        Names "names" "names",
        Unit "unit" "unit",
        Swap "swap" "left and right",
        Marker "marker" "a marker",
    }
}

/// Something doubtful about a take, asked once.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TakeAsk {
    /// About what.
    pub kind: AskKind,
    /// The question.
    pub words: String,
    /// The markers it is about, by their names in the file.
    pub markers: Vec<String>,
}

impl TakeAsk {
    pub(crate) fn new(kind: AskKind, words: impl Into<String>) -> Self {
        Self {
            kind,
            words: words.into(),
            markers: Vec::new(),
        }
    }

    /// Whether it must be answered before a take is kept.
    pub fn is_first(&self) -> bool {
        self.kind != AskKind::Marker
    }
}

/// What a marker with a doubtful name sits on.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Sits {
    /// The part.
    pub part: BodyPoint,
    /// The side.
    pub side: Side,
}

/// What was answered about a take.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields, default)]
pub struct Answers {
    /// What markers sit on, by their names in the file.
    pub names: BTreeMap<String, Sits>,
    /// Markers that sit on nothing of the body or the bike.
    pub nothing: Vec<String>,
    /// The unit of the file.
    pub unit: Option<MarkerUnit>,
    /// Whether left and right are to be swapped.
    pub swap: Option<bool>,
}

/// Why a take has no figures.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[error("{words}")]
pub struct Unlooked {
    /// What is wrong.
    pub words: String,
    /// What could be answered to go on.
    pub asks: Vec<TakeAsk>,
}

impl Unlooked {
    pub(crate) fn new(words: impl Into<String>) -> Self {
        Self {
            words: words.into(),
            asks: Vec::new(),
        }
    }

    pub(crate) fn asking(mut self, asks: &[TakeAsk]) -> Self {
        self.asks = asks.to_vec();
        self
    }
}

/// Its lines of the table of rules.
pub(crate) fn rules() -> Vec<Rule> {
    [
        even::rules(),
        frame::rules(),
        crank::rules(),
        stroke::rules(),
        leg::rules(),
        smooth::rules(),
        pelvis::rules(),
        standing::rules(),
        stat::rules(),
        compare::rules(),
        evidence::rules(),
        torque::rules(),
    ]
    .concat()
}
