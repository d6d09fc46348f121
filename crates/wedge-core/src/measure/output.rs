//! What a position answers: the outputs a fitter reads, one row each. Their values are the position's to give.

use super::{Convention, Conventions, Refusal, Unit};
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
    /// The least difference worth telling (house choice): added to the band of a foreseen change, by which changes are
    /// ordered.
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

/// The limbs an output is of.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Limbs {
    /// The bike's alone.
    None,
    /// One leg.
    Leg,
    /// Both arms.
    Arms,
    /// A leg whose hip stands where the trunk leans, and that where the hands are.
    LegAndArms,
    /// The whole rider.
    All,
}

macro_rules! outputs {
    ($($variant:ident $key:tt $label:literal $convention:literal $unit:ident $noise:literal $sides:literal $limbs:ident;)*) => {
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
                        seen_min: match Unit::$unit {
                            Unit::Deg => -30.0,
                            Unit::Percent => -100.0,
                            _ => -600.0,
                        },
                        seen_max: match Unit::$unit {
                            Unit::Deg => 190.0,
                            Unit::Percent => 200.0,
                            _ => 1200.0,
                        },
                        per_side: $sides,
                    },)*
                }
            }

            /// The limbs that must meet the bike for it to be known.
            pub(crate) const fn limbs(self) -> Limbs {
                match self {
                    $(Self::$variant => Limbs::$limbs,)*
                }
            }
        }
    };
}

outputs! {
    KneeAtFullReach "knee_at_full_reach_deg" "Knee at full reach" "smallest flexion of the stroke" Deg 0.5 true Leg;
    KneeMostBent "knee_most_bent_deg" "Knee most bent" "largest flexion of the stroke" Deg 0.5 true Leg;
    KneeAtTop "knee_at_top_deg" "Knee at the top" "flexion at crank 0" Deg 0.5 true Leg;
    KneeForward "knee_forward_deg" "Knee with crank forward" "flexion at crank 90" Deg 0.5 true Leg;
    KneeAtBottom "knee_at_bottom_deg" "Knee at the bottom" "flexion at crank 180" Deg 0.5 true Leg;
    KneeInLine "knee_in_line_deg" "Knee in line" "flexion, crank in line with the seat tube" Deg 0.5 true Leg;
    KneeOverAxle "knee_over_axle_mm" "Knee over axle" "knee centre, crank level forward" Mm 2.0 true Leg;
    FrontQuarterOverAxle "front_quarter_over_axle_mm" "Front quarter over axle" "front quarter of the knee joint, crank level forward" Mm 2.0 true Leg;
    KneecapOverAxle "kneecap_over_axle_mm" "Kneecap over axle" "front of the kneecap, crank level forward" Mm 2.0 true Leg;
    TendonOverAxle "tendon_over_axle_mm" "Knee tendon over axle" "below the kneecap, crank level forward" Mm 2.0 true Leg;
    ShinOverAxle "shin_over_axle_mm" "Shin bump over axle" "top of the shin, crank level forward" Mm 2.0 true Leg;
    HipClosed "hip_closed_deg" "Hip at its most closed" "shoulder–hip–knee" Deg 0.5 true LegAndArms;
    HipOpen "hip_open_deg" "Hip at its most open" "shoulder–hip–knee" Deg 0.5 true LegAndArms;
    HipFlexion "hip_flexion_deg" "Hip flexion" "against the pelvis, largest" Deg 0.5 true LegAndArms;
    HipFlexionAtReach "hip_flexion_at_reach_deg" "Hip flexion at full reach" "against the pelvis, knee straightest" Deg 0.5 true LegAndArms;
    FootAtTop "foot_at_top_deg" "Foot at the top" "sole above level, heel up, crank 0" Deg 1.0 true Leg;
    FootForward "foot_forward_deg" "Foot with crank forward" "sole above level, heel up, crank 90" Deg 1.0 true Leg;
    FootAtBottom "foot_at_bottom_deg" "Foot at the bottom" "sole above level, heel up, crank 180" Deg 1.0 true Leg;
    FootRising "foot_rising_deg" "Foot rising" "sole above level, heel up, crank 270" Deg 1.0 true Leg;
    AnkleSmallest "ankle_smallest_deg" "Ankle at its most closed" "shank to sole" Deg 1.0 true Leg;
    AnkleLargest "ankle_largest_deg" "Ankle at its most open" "shank to sole" Deg 1.0 true Leg;
    Torso "torso_deg" "Torso" "above horizontal" Deg 0.5 false Arms;
    Shoulder "shoulder_deg" "Shoulder" "hip–shoulder–elbow" Deg 0.5 false Arms;
    ShoulderToWrist "shoulder_to_wrist_deg" "Shoulder to wrist" "hip–shoulder–wrist" Deg 0.5 false Arms;
    Elbow "elbow_deg" "Elbow" "flexion" Deg 1.0 false Arms;
    SaddleHeight "saddle_height" "Saddle height" "" Mm 2.0 false None;
    Setback "setback" "Setback" "" Mm 2.0 false None;
    SeatAngle "seat_angle_deg" "Effective seat angle" "of the sit reference" Deg 0.2 false None;
    SetbackOnGrade "setback_on_grade_mm" "Setback on the grade" "as felt, BB to the sit reference" Mm 2.0 false None;
    Drop "drop" "Drop" "" Mm 2.0 false None;
    DropShare "drop_share_percent" "Drop as a share" "of straight saddle height" Percent 0.3 false None;
    BbToHand "bb_to_hand" "BB to hand" "" Mm 2.0 false None;
    BbToHandUp "bb_to_hand_up_mm" "BB to hand, up" "vertical, to hood, grip or pad" Mm 2.0 false None;
    SaddleToHand "saddle_to_hand" "Saddle to hand" "" Mm 2.0 false None;
    SaddleToHandByTrunk "saddle_to_hand_by_trunk_percent" "Saddle to hand by trunk" "horizontal, as a share of the trunk" Percent 0.5 false None;
    GripLength "grip_length_mm" "BB to grips" "BB straight to the midpoint between the grips" Mm 2.0 false None;
    KneeToElbow "knee_to_elbow_mm" "Knee to elbow" "least distance" Mm 3.0 true LegAndArms;
    KneeToTrunk "knee_to_trunk_mm" "Knee to trunk" "least distance" Mm 3.0 true LegAndArms;
    ToeClearance "toe_clearance_mm" "Toe to front wheel" "crank forward, positive = clear" Mm 2.0 true None;
    AxleToGround "axle_to_ground_mm" "Pedal axle to ground" "pedal down, level bike" Mm 1.0 true None;
    PedalLean "pedal_lean_deg" "Lean at pedal strike" "pedal down, at sag" Deg 0.5 true None;
    Standover "standover_clearance_mm" "Standover" "barefoot inseam over the top tube" Mm 3.0 false None;
    PostExposed "post_exposed_mm" "Post exposed" "seat tube to saddle clamp" Mm 2.0 false None;
    PostInserted "post_inserted_mm" "Post inserted" "inside the seat tube" Mm 2.0 false None;
    RailPlace "rail_place_mm" "Clamp on the rails" "ahead of their middle" Mm 2.0 false None;
    FrontShare "front_share_percent" "Front wheel's share" "estimate, whole stroke" Percent 0.3 false All;
    HandLoad "hand_load_n" "Hand load" "estimate, both hands together" N 5.0 false All;
}

impl Output {
    /// A refusal of a value nobody can have seen, pointing at `pointer`.
    pub fn refuse_seen(self, value: f64, pointer: &str) -> Option<Refusal> {
        let spec = self.spec();
        let (low, high) = (spec.seen_min, spec.seen_max);
        (!(low..=high).contains(&value)).then(|| {
            Refusal::new(
                pointer,
                format!(
                    "{} is read as {low} to {high}{}",
                    spec.label,
                    spec.unit.suffix()
                ),
            )
        })
    }

    /// Whether it stands for itself: the others are the same measure in another convention, or matter only near a
    /// limit, and come after.
    pub fn is_main(self) -> bool {
        matches!(
            self,
            Self::KneeAtFullReach
                | Self::KneeMostBent
                | Self::KneeOverAxle
                | Self::HipClosed
                | Self::HipFlexion
                | Self::AnkleSmallest
                | Self::Torso
                | Self::Shoulder
                | Self::Elbow
                | Self::SaddleHeight
                | Self::Setback
                | Self::Drop
                | Self::BbToHand
                | Self::SaddleToHand
                | Self::KneeToElbow
                | Self::KneeToTrunk
                | Self::HandLoad
        )
    }

    /// The convention a fitter chooses it in, where there is a choice.
    pub(crate) fn chosen(self, conventions: &Conventions) -> Option<Convention> {
        match self {
            Self::SaddleHeight => Some(conventions.saddle_height),
            Self::Setback => Some(conventions.setback),
            Self::Drop => Some(conventions.drop),
            Self::BbToHand => Some(conventions.bb_to_hand),
            Self::SaddleToHand => Some(conventions.saddle_to_hand),
            _ => None,
        }
    }

    /// Its unit: setback may be chosen as an angle, drop as a share.
    pub fn unit(self, conventions: &Conventions) -> Unit {
        self.chosen(conventions)
            .map_or(self.spec().unit, Convention::unit)
    }
}
