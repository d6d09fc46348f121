//! The figures of a take: what each is, its unit, what placing a marker anew does to it, and the output it is a look at.

use crate::measure::Output;
use serde::{Deserialize, Serialize};

/// What is known of a figure before any take.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FigureSpec {
    /// The figure.
    pub figure: Figure,
    /// Its key in files and on the page.
    pub key: &'static str,
    /// The fitter's word.
    pub label: &'static str,
    /// The unit, as written behind a number.
    pub unit: &'static str,
    /// How many decimals it is told with.
    pub decimals: u8,
    /// What two takes differ by with nothing changed and the markers left on, 1 SD (house choice).
    pub left_on: f64,
    /// The same with the markers put on anew, or left against right (house choice: 5 mm of placement).
    pub put_on: f64,
    /// The output it is a look at, where it is one.
    pub output: Option<Output>,
}

macro_rules! figures {
    ($($variant:ident $key:literal $label:literal $unit:literal $decimals:literal $left_on:literal $put_on:literal $($output:ident)?;)*) => {
        /// Something a take of markers answers, a side or for the pelvis.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
        #[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
        pub enum Figure {
            $(#[doc = $label] #[serde(rename = $key)] $variant,)*
        }

        impl Figure {
            /// Every figure, in the order they are told.
            pub const ALL: &'static [Self] = &[$(Self::$variant,)*];

            /// What is known of it.
            pub const fn spec(self) -> FigureSpec {
                match self {
                    $(Self::$variant => FigureSpec {
                        figure: self,
                        key: $key,
                        label: $label,
                        unit: $unit,
                        decimals: $decimals,
                        left_on: $left_on,
                        put_on: $put_on,
                        output: figures!(@output $($output)?),
                    },)*
                }
            }
        }
    };
    (@output) => { None };
    (@output $output:ident) => { Some(Output::$output) };
}

figures! {
    KneeSmallest "knee_smallest_deg" "Knee at full reach" "°" 1 0.4 1.6 KneeAtFullReach;
    KneeLargest "knee_largest_deg" "Knee most bent" "°" 1 0.4 1.6 KneeMostBent;
    Knee0 "knee_0_deg" "Knee at the top" "°" 1 0.4 1.6 KneeAtTop;
    Knee90 "knee_90_deg" "Knee, crank forward" "°" 1 0.4 1.6 KneeForward;
    Knee180 "knee_180_deg" "Knee at the bottom" "°" 1 0.4 1.6 KneeAtBottom;
    KneeInLine "knee_in_line_deg" "Knee, crank in line" "°" 1 0.4 1.6 KneeInLine;
    KneeOverAxle "knee_over_axle_mm" "Knee over axle" "mm" 0 2.0 5.0 KneeOverAxle;
    HipClosed "hip_closed_deg" "Hip at its most closed" "°" 1 0.4 1.1 HipClosed;
    HipOpen "hip_open_deg" "Hip at its most open" "°" 1 0.4 1.1 HipOpen;
    Torso "torso_deg" "Torso" "°" 1 0.4 0.8 Torso;
    Shoulder "shoulder_deg" "Shoulder" "°" 1 0.4 1.4 Shoulder;
    ShoulderToWrist "shoulder_to_wrist_deg" "Shoulder to wrist" "°" 1 0.4 1.4 ShoulderToWrist;
    Elbow "elbow_deg" "Elbow" "°" 1 0.4 2.4 Elbow;
    Foot0 "foot_0_deg" "Foot at the top" "°" 1 0.4 2.9 FootAtTop;
    Foot90 "foot_90_deg" "Foot, crank forward" "°" 1 0.4 2.9 FootForward;
    Foot180 "foot_180_deg" "Foot at the bottom" "°" 1 0.4 2.9 FootAtBottom;
    Foot270 "foot_270_deg" "Foot rising" "°" 1 0.4 2.9 FootRising;
    HeelDrop "heel_drop_deg" "Heel drop" "°" 1 0.4 2.9;
    AnkleSmallest "ankle_smallest_deg" "Ankle at its most closed" "°" 1 0.4 2.9 AnkleSmallest;
    AnkleLargest "ankle_largest_deg" "Ankle at its most open" "°" 1 0.4 2.9 AnkleLargest;
    HipTravel "hip_travel_mm" "Hip travel" "mm" 0 2.0 2.0;
    PathArea "path_area_mm2" "Ankle path, area" "mm²" 0 700.0 700.0;
    PathHeight "path_height_mm" "Ankle path, height" "mm" 0 2.0 2.0;
    PathWidth "path_width_mm" "Ankle path, width" "mm" 0 2.0 2.0;
    PathLowShare "path_low_share" "Ankle path, low width by height" "" 2 0.01 0.01;
    KneePush "knee_push_mm" "Knee while pushing" "mm" 0 2.0 6.0;
    KneeRise "knee_rise_mm" "Knee while rising" "mm" 0 2.0 6.0;
    KneeSwing "knee_swing_mm" "Knee's swing" "mm" 0 1.0 1.0;
    FootTiltPush "foot_tilt_push_deg" "Heel's lean while pushing" "°" 1 0.4 2.9;
    FootTiltRise "foot_tilt_rise_deg" "Heel's lean while rising" "°" 1 0.4 2.9;
    DipRight "dip_right_deg" "Dip to the right" "°" 1 0.3 1.5;
    DipLeft "dip_left_deg" "Dip to the left" "°" 1 0.3 1.5;
    Lean "lean_deg" "Pelvis lean" "°" 1 0.3 1.5;
    Rock "rock_deg" "Rock" "°" 1 0.3 1.5;
    Twist "twist_deg" "Twist" "°" 1 0.3 0.8;
    Creep "creep_mm_per_10_s" "Creep forward in 10 s" "mm" 1 2.0 2.0;
}

impl Figure {
    /// Whether it is the pelvis's, and has no sides.
    pub fn of_pelvis(self) -> bool {
        matches!(
            self,
            Self::DipRight | Self::DipLeft | Self::Lean | Self::Rock | Self::Twist | Self::Creep
        )
    }
}
