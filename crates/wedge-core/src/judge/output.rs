//! What a position answers: the outputs a fitter reads, one row each.

use crate::foresee::Position;
use crate::measure::{Conventions, Unit};
use crate::units::Side;
use serde::{Deserialize, Serialize};

/// What is known of an output before any position.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OutputSpec {
    /// The output.
    pub output: Output,
    /// The fitter's word.
    pub label: &'static str,
    /// The convention, where there are several.
    pub convention: &'static str,
    /// Its unit.
    pub unit: Unit,
    /// The spread a foreseen change of a usual step carries (house choice): changes are ordered by how far they
    /// exceed it.
    pub noise: f64,
    /// The spread of one reading of it: tape ± 2 mm, goniometer or film ± 3° (workshop rule).
    pub reading_spread: f64,
    /// The least value a fitter can have seen.
    pub seen_min: f64,
    /// The largest value a fitter can have seen.
    pub seen_max: f64,
    /// Whether left and right are read apart.
    pub per_side: bool,
}

macro_rules! outputs {
    ($($variant:ident $key:tt $label:literal $convention:literal $unit:ident $noise:literal $sides:literal;)*) => {
        /// Something a position answers.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
        #[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
        pub enum Output {
            $(#[doc = $label] #[serde(rename = $key)] $variant,)*
        }

        impl Output {
            /// Every output, in the order of a fit.
            pub const ALL: &'static [Self] = &[$(Self::$variant,)*];

            /// What is known of it.
            pub const fn spec(self) -> OutputSpec {
                match self {
                    $(Self::$variant => OutputSpec {
                        output: self,
                        label: $label,
                        convention: $convention,
                        unit: Unit::$unit,
                        noise: $noise,
                        reading_spread: if matches!(Unit::$unit, Unit::Deg) { 3.0 } else { 2.0 },
                        seen_min: if matches!(Unit::$unit, Unit::Deg) { -30.0 } else { -600.0 },
                        seen_max: if matches!(Unit::$unit, Unit::Deg) { 190.0 } else { 1200.0 },
                        per_side: $sides,
                    },)*
                }
            }
        }
    };
}

outputs! {
    KneeAtFullReach "knee_at_full_reach_deg" "Knee at full reach" "smallest flexion of the stroke" Deg 0.5 true;
    KneeMostBent "knee_most_bent_deg" "Knee most bent" "largest flexion of the stroke" Deg 0.5 true;
    KneeOverAxle "knee_over_axle_mm" "Knee over axle" "knee centre, crank level forward" Mm 2.0 true;
    HipClosed "hip_closed_deg" "Hip at its most closed" "shoulder–hip–knee" Deg 0.5 true;
    HipFlexion "hip_flexion_deg" "Hip flexion" "against the pelvis, largest" Deg 0.5 true;
    AnkleSmallest "ankle_smallest_deg" "Ankle at its most closed" "shank to sole" Deg 1.0 true;
    Torso "torso_deg" "Torso" "hands on the hoods" Deg 0.5 false;
    Shoulder "shoulder_deg" "Shoulder" "hip–shoulder–elbow" Deg 0.5 false;
    Elbow "elbow_deg" "Elbow" "flexion" Deg 1.0 false;
    SaddleHeight "saddle_height" "Saddle height" "" Mm 2.0 false;
    Setback "setback" "Setback" "" Mm 2.0 false;
    Drop "drop" "Drop" "" Mm 2.0 false;
    BbToHood "bb_to_hood_mm" "BB to hood" "horizontal" Mm 2.0 false;
    SaddleToHood "saddle_to_hood_mm" "Saddle to hood" "sit reference to hood, horizontal" Mm 2.0 false;
    KneeToElbow "knee_to_elbow_mm" "Knee to elbow" "least distance" Mm 3.0 true;
    KneeToTrunk "knee_to_trunk_mm" "Knee to trunk" "least distance" Mm 3.0 true;
}

impl Output {
    /// Its value in a position; `side` matters only where it is per side.
    pub fn of(self, position: &Position, side: Side, conventions: &Conventions) -> f64 {
        let leg = position.legs.of(side);
        let dimensions = &position.dimensions;
        match self {
            Self::KneeAtFullReach => leg.knee.smallest_deg.0,
            Self::KneeMostBent => leg.knee.largest_deg.0,
            Self::KneeOverAxle => leg.knee_over_axle.centre_mm.0,
            Self::HipClosed => leg.hip_closed_deg.0,
            Self::HipFlexion => leg.hip_flexion_deg.0,
            Self::AnkleSmallest => leg.ankle_smallest_deg.0,
            Self::Torso => position.upper.torso_deg.0,
            Self::Shoulder => position.upper.shoulder_deg.0,
            Self::Elbow => position.upper.elbow_deg.0,
            Self::SaddleHeight => dimensions.get(conventions.saddle_height),
            Self::Setback => dimensions.get(conventions.setback),
            Self::Drop => dimensions.get(conventions.drop),
            Self::BbToHood => dimensions.bb_to_hood_mm.0,
            Self::SaddleToHood => dimensions.saddle_to_hood_mm.0,
            Self::KneeToElbow => leg.clearance.knee_to_elbow_mm.0,
            Self::KneeToTrunk => leg.clearance.knee_to_trunk_mm.0,
        }
    }

    /// The words of its convention, the chosen one where the fitter chooses.
    pub fn convention(self, conventions: &Conventions) -> &'static str {
        match self {
            Self::SaddleHeight => conventions.saddle_height.words(),
            Self::Setback => conventions.setback.words(),
            Self::Drop => conventions.drop.words(),
            _ => self.spec().convention,
        }
    }

    /// Its unit: setback may be chosen as an angle.
    pub fn unit(self, conventions: &Conventions) -> Unit {
        match self {
            Self::Setback => conventions.setback.unit(),
            _ => self.spec().unit,
        }
    }
}
