//! The catalogue of everything a fitter types: one row each, with unit, limits, steps and tape error.

use crate::words::written;
use serde::{Deserialize, Serialize};

/// The unit a quantity is held in.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Unit {
    /// Millimetres.
    Mm,
    /// Degrees.
    Deg,
    /// Kilograms.
    Kg,
    /// Watts.
    W,
    /// Revolutions a minute.
    Rpm,
    /// Newtons.
    N,
    /// Newton metres.
    Nm,
    /// Hundredths.
    Percent,
    /// Hours.
    Hours,
    /// A size as printed.
    Size,
    /// Bar, over the air outside.
    Bar,
    /// Clicks of a dial, from closed.
    Clicks,
    /// Square metres.
    SquareMetres,
    /// Kilograms a cubic metre.
    KgPerCubicMetre,
    /// Metres a second.
    MetresPerSecond,
}

impl Unit {
    /// Every unit.
    pub const ALL: [Self; 15] = [
        Self::Mm,
        Self::Deg,
        Self::Kg,
        Self::W,
        Self::Rpm,
        Self::N,
        Self::Nm,
        Self::Percent,
        Self::Hours,
        Self::Size,
        Self::Bar,
        Self::Clicks,
        Self::SquareMetres,
        Self::KgPerCubicMetre,
        Self::MetresPerSecond,
    ];

    /// As written after a number, with its space where it has one.
    pub fn suffix(self) -> &'static str {
        match self {
            Self::Mm => " mm",
            Self::Deg => "°",
            Self::Kg => " kg",
            Self::W => " W",
            Self::Rpm => " rpm",
            Self::N => " N",
            Self::Nm => " N·m",
            Self::Percent => " %",
            Self::Hours => " h",
            Self::Size => "",
            Self::Bar => " bar",
            Self::Clicks => " clicks",
            Self::SquareMetres => " m²",
            Self::KgPerCubicMetre => " kg/m³",
            Self::MetresPerSecond => " m/s",
        }
    }
}

/// What is known of a quantity before any rider is measured.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Spec {
    /// The quantity.
    pub quantity: Quantity,
    /// The fitter's word.
    pub label: &'static str,
    /// From where to where it is taken; empty when the label says it.
    pub how: &'static str,
    /// Its unit.
    pub unit: Unit,
    /// The least value taken seriously; below it the entry is refused.
    pub min: f64,
    /// The largest value taken seriously.
    pub max: f64,
    /// One step of the arrow keys (workshop rule for steps of the bolts).
    pub step: f64,
    /// One step with Shift held.
    pub fine_step: f64,
    /// One standard deviation of a single reading: ± 2 mm tape, ± 1 calliper or a printed part, ± 3° goniometer,
    /// ± 0.5° gauge (workshop rule).
    pub uncertainty: f64,
    /// Whether left and right are measured apart.
    pub per_side: bool,
    /// Whether a bike can be written down without it.
    pub optional: bool,
}

/// A value that cannot be accepted, and where it stands in the input.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Refusal {
    /// JSON pointer to the value.
    pub pointer: String,
    /// What would be right, in the fitter's words.
    pub detail: String,
}

impl Refusal {
    /// A refusal of the value at `pointer`.
    pub fn new(pointer: impl Into<String>, detail: impl Into<String>) -> Self {
        Self {
            pointer: pointer.into(),
            detail: detail.into(),
        }
    }
}

macro_rules! catalogue {
    ($($variant:ident $key:tt $label:literal $how:literal $unit:ident $min:literal..$max:literal
        step $step:literal / $fine:literal err $err:literal $($mark:ident)*;)*) => {
        /// Something that can be measured or set. Its JSON name is the key it has everywhere, with the unit in it.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
        #[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
        pub enum Quantity {
            $(#[doc = $label] #[serde(rename = $key)] $variant,)*
        }

        impl Quantity {
            /// Every quantity, in measuring order.
            pub const ALL: &'static [Self] = &[$(Self::$variant,)*];

            /// What is known of it.
            pub const fn spec(self) -> Spec {
                match self {
                    $(Self::$variant => Spec {
                        quantity: self,
                        label: $label,
                        how: $how,
                        unit: Unit::$unit,
                        min: $min,
                        max: $max,
                        step: $step,
                        fine_step: $fine,
                        uncertainty: $err,
                        per_side: false $(|| matches!(Mark::$mark, Mark::sides))*,
                        optional: false $(|| matches!(Mark::$mark, Mark::maybe))*,
                    },)*
                }
            }

            /// What the words at the end of its row say of it.
            const fn marks(self) -> &'static [Mark] {
                match self {
                    $(Self::$variant => &[$(Mark::$mark),*],)*
                }
            }

            /// The key it has in JSON, files and the command line.
            pub const fn key(self) -> &'static str {
                match self {
                    $(Self::$variant => $key,)*
                }
            }
        }
    };
}

/// The words at the end of a catalogue row.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[expect(non_camel_case_types, reason = "they read as words of a row")]
pub(crate) enum Mark {
    /// Left and right are measured apart.
    sides,
    /// A bike can be written down without it.
    maybe,
    /// The station that turns it: the cleats',
    feet,
    /// the cranks',
    cranks,
    /// the saddle height's,
    height,
    /// that of setback and tilt,
    rails,
    /// the bars'.
    bars,
    /// Can be changed, at no station.
    turned,
    /// The next mechanic reads it on the hand-out.
    printed,
    /// A rider compares two settings of it blind.
    blind,
    /// Read of fork or shock.
    springs,
}

catalogue! {
    Stature "stature_mm" "Stature" "barefoot, against a wall" Mm 1200.0..2300.0 step 5.0 / 1.0 err 5.0;
    Mass "mass_kg" "Mass" "" Kg 25.0..250.0 step 1.0 / 0.5 err 0.5;
    Inseam "inseam_mm" "Inseam" "barefoot, floor to a book pressed up firmly" Mm 500.0..1150.0 step 5.0 / 1.0 err 5.0;
    InseamShod "inseam_shod_mm" "Inseam, shod" "in riding shoes, floor to a book pressed up firmly" Mm 500.0..1200.0 step 5.0 / 1.0 err 5.0;
    Trunk "trunk_mm" "Trunk" "hip joint to shoulder joint" Mm 300.0..800.0 step 5.0 / 1.0 err 5.0;
    ShoulderBreadth "shoulder_breadth_mm" "Shoulder breadth" "between the bony points of the shoulders" Mm 220.0..560.0 step 5.0 / 1.0 err 5.0;
    Arm "arm_mm" "Arm" "shoulder joint to the middle of a rod held in the hand" Mm 350.0..900.0 step 5.0 / 1.0 err 5.0 sides;
    UpperArm "upper_arm_mm" "Upper arm" "shoulder joint to elbow" Mm 180.0..480.0 step 5.0 / 1.0 err 5.0 sides;
    Forearm "forearm_mm" "Forearm" "elbow to wrist" Mm 150.0..400.0 step 5.0 / 1.0 err 5.0 sides;
    ArmSpan "arm_span_mm" "Arm span" "finger tip to finger tip" Mm 1100.0..2500.0 step 5.0 / 1.0 err 10.0;
    KnuckleHeight "knuckle_height_mm" "Floor to knuckles" "in riding shoes, feet a pedal's width and arms a bar's width apart, standing tall, shoulders back" Mm 450.0..1000.0 step 5.0 / 1.0 err 5.0;
    FistAngle "fist_angle_deg" "Fist angle" "relaxed fists held out at bar width: each turned back from square" Deg 0.0..60.0 step 1.0 / 1.0 err 2.0;
    HipBreadth "hip_breadth_mm" "Hip breadth" "across the widest of the hips" Mm 200.0..600.0 step 5.0 / 1.0 err 5.0;
    SitBones "sit_bones_mm" "Sit bones" "middle to middle of the two dents" Mm 70.0..200.0 step 5.0 / 1.0 err 3.0;
    Thigh "thigh_mm" "Thigh" "hip joint to knee joint" Mm 260.0..650.0 step 5.0 / 1.0 err 5.0 sides;
    Shank "shank_mm" "Shank" "knee joint to ankle joint" Mm 260.0..650.0 step 5.0 / 1.0 err 5.0 sides;
    AnkleHeight "ankle_height_mm" "Ankle height" "floor to ankle joint" Mm 30.0..150.0 step 2.0 / 1.0 err 3.0 sides;
    FootLength "foot_length_mm" "Foot length" "heel to longest toe" Mm 180.0..360.0 step 2.0 / 1.0 err 2.0 sides;

    FootWidth "foot_width_mm" "Foot width" "across the ball, standing" Mm 60.0..140.0 step 2.0 / 1.0 err 2.0 sides;
    FifthJoint "fifth_joint_mm" "Fifth joint" "little toe's joint behind the big toe's, along the foot" Mm 0.0..80.0 step 2.0 / 1.0 err 2.0 sides;
    ShoeSize "shoe_size_eu" "Shoe size" "European, as printed" Size 28.0..55.0 step 1.0 / 0.5 err 0.5 sides;
    ArchHeight "arch_height_mm" "Arch height" "floor to the bump on the inner side, standing" Mm 5.0..80.0 step 2.0 / 1.0 err 2.0 sides;
    ForefootTilt "forefoot_tilt_deg" "Forefoot tilt" "inner edge up is positive" Deg -30.0..30.0 step 1.0 / 0.5 err 2.0 sides;

    ThighShorter "thigh_shorter_mm" "Thigh shorter" "than the other leg's" Mm 0.0..80.0 step 2.0 / 1.0 err 3.0 sides;
    ShankShorter "shank_shorter_mm" "Shank shorter" "than the other leg's" Mm 0.0..80.0 step 2.0 / 1.0 err 3.0 sides;
    FootLower "foot_lower_mm" "Foot lower" "than the other" Mm 0.0..40.0 step 2.0 / 1.0 err 3.0 sides;
    LooksShorter "looks_shorter_mm" "Leg looks shorter" "bones alike: pelvis or habit" Mm 0.0..80.0 step 2.0 / 1.0 err 3.0 sides;

    NeckExtension "neck_extension_deg" "Neck extension" "sitting tall, the face turned up until the chest follows" Deg 10.0..100.0 step 5.0 / 1.0 err 5.0;
    HipLimit "hip_limit_deg" "Hip limit" "lying, bent knee raised until the pelvis rolls or the other leg lifts" Deg 60.0..160.0 step 5.0 / 1.0 err 3.0 sides;
    StraightLegRaise "straight_leg_raise_deg" "Straight leg raise" "lying, knee straight, until the knee bends or the pelvis rolls" Deg 20.0..130.0 step 5.0 / 1.0 err 3.0 sides;
    KneeLimit "knee_limit_deg" "Knee limit" "lying face down, heel drawn in until it stops or hurts" Deg 60.0..170.0 step 5.0 / 1.0 err 3.0 sides;
    AnkleLimit "ankle_limit_deg" "Ankle limit" "knee bent, foot drawn up from square until the heel lifts" Deg 0.0..60.0 step 5.0 / 1.0 err 3.0 sides;
    ShoulderLimit "shoulder_limit_deg" "Shoulder limit" "lying, arm raised forward until the ribs rise" Deg 40.0..200.0 step 5.0 / 1.0 err 3.0 sides;
    BackLimit "back_limit_deg" "Back limit" "hinging forward, hands on the thighs, until the back rounds: torso above horizontal" Deg -10.0..90.0 step 5.0 / 1.0 err 3.0;

    SaddleHeight "saddle_height_mm" "Saddle height" "" Mm 350.0..1050.0 step 5.0 / 1.0 err 2.0 height blind;
    Setback "setback_mm" "Setback" "" Mm -200.0..450.0 step 5.0 / 1.0 err 2.0 rails blind;
    Tilt "tilt_deg" "Saddle tilt" "front up is positive" Deg -20.0..20.0 step 1.0 / 0.5 err 0.5 rails printed blind;
    Drop "drop_mm" "Drop" "" Mm -400.0..400.0 step 5.0 / 1.0 err 2.0;
    BbToHand "bb_to_hand_mm" "BB to hand" "horizontal" Mm 150.0..1000.0 step 5.0 / 1.0 err 2.0;
    BbToHandUp "bb_to_hand_up_mm" "BB to hand, up" "vertical" Mm 200.0..1200.0 step 5.0 / 1.0 err 2.0;
    SaddleToHand "saddle_to_hand_mm" "Saddle to hand" "" Mm 150.0..1200.0 step 5.0 / 1.0 err 2.0;
    GripLength "grip_length_mm" "BB to grips" "BB straight to the midpoint between the grips, in side view" Mm 300.0..1200.0 step 5.0 / 1.0 err 2.0;
    Crank "crank_mm" "Crank" "BB centre to pedal axle" Mm 100.0..220.0 step 2.5 / 2.5 err 0.2 sides cranks printed;
    CleatSetback "cleat_setback_mm" "Cleat" "pedal axle behind the first metatarsal joint" Mm -20.0..90.0 step 2.0 / 1.0 err 2.0 sides feet printed;
    CleatRearmost "cleat_rearmost_mm" "Cleat slid fully back" "pedal axle behind the first metatarsal joint" Mm -20.0..120.0 step 2.0 / 1.0 err 2.0 sides maybe;
    CleatOut "cleat_out_mm" "Foot sideways" "away from the bike is positive" Mm -15.0..15.0 step 2.0 / 1.0 err 1.0 sides maybe feet printed;
    CleatRotation "cleat_rotation_deg" "Heel turned in" "towards the bike is positive" Deg -20.0..20.0 step 1.0 / 0.5 err 1.0 sides maybe feet printed;
    CleatFloat "cleat_float_deg" "Float" "free turn of the foot on the pedal" Deg 0.0..30.0 step 1.0 / 0.5 err 0.5 sides maybe feet printed;
    Footbed "footbed_mm" "Footbed" "thicker than the shoe's own" Mm -5.0..20.0 step 1.0 / 0.5 err 0.5 sides maybe feet printed;
    CleatWedge "cleat_wedge_deg" "Wedge" "inner edge of the foot raised is positive" Deg -8.0..8.0 step 1.0 / 0.5 err 0.5 sides maybe feet printed;
    Shim "shim_mm" "Shim" "under the cleat" Mm 0.0..40.0 step 1.0 / 0.5 err 0.5 sides feet printed;
    PedalStack "pedal_stack_mm" "Pedal stack" "axle centre to sole" Mm 0.0..60.0 step 1.0 / 0.5 err 0.5 sides feet printed;
    Sole "sole_mm" "Sole" "under the foot at the cleat" Mm 0.0..60.0 step 1.0 / 0.5 err 1.0 sides feet printed;
    PedalOut "pedal_out_mm" "Pedal's outer end" "from the bike's mid-plane" Mm 90.0..260.0 step 1.0 / 1.0 err 1.0 sides maybe turned;
    PedalBelow "pedal_below_mm" "Pedal's lower edge" "below the axle centre" Mm 0.0..40.0 step 1.0 / 0.5 err 0.5 sides maybe;

    SaddleStack "saddle_stack_mm" "Saddle stack" "rails to the top at the sit reference" Mm 20.0..100.0 step 1.0 / 0.5 err 1.0 maybe height printed;
    SaddleWidth "saddle_width_mm" "Saddle width" "at its widest" Mm 80.0..300.0 step 1.0 / 1.0 err 1.0 maybe rails printed;
    PostSetback "post_setback_mm" "Post setback" "clamp behind the post's axis, square to it" Mm -40.0..60.0 step 5.0 / 1.0 err 1.0 maybe rails printed;
    SaddleLength "saddle_length_mm" "Saddle length" "nose to tail" Mm 180.0..340.0 step 5.0 / 1.0 err 1.0 rails;
    NoseToSit "nose_to_sit_mm" "Nose to sit reference" "to where the saddle is 80 mm wide" Mm 40.0..280.0 step 5.0 / 1.0 err 1.0 rails printed;
    NoseToMark "nose_to_mark_mm" "Nose to own mark" "to the fitter's own mark" Mm 0.0..320.0 step 5.0 / 1.0 err 1.0 maybe;
    SaddleTop "saddle_top_mm" "Highest point" "above the sit reference" Mm 0.0..40.0 step 1.0 / 0.5 err 1.0 maybe;
    RailMiddle "rail_middle_mm" "Rail middle" "ahead of the sit reference" Mm -60.0..100.0 step 1.0 / 1.0 err 2.0 maybe rails;
    Rail "rail_mm" "Clampable rail" "length the clamp may take" Mm 20.0..120.0 step 5.0 / 1.0 err 1.0 maybe rails;
    PostLength "post_length_mm" "Post length" "clamp to lower end" Mm 100.0..600.0 step 5.0 / 1.0 err 1.0 maybe;
    PostInsertion "post_insertion_mm" "Post insertion" "the least the makers ask for" Mm 30.0..250.0 step 5.0 / 1.0 err 1.0 maybe;

    SpacersBelow "spacers_below_mm" "Spacers" "below the stem" Mm 0.0..120.0 step 5.0 / 1.0 err 0.5 bars printed;
    SpacersAbove "spacers_above_mm" "Spacers above" "above the stem" Mm 0.0..120.0 step 5.0 / 1.0 err 0.5 turned printed;
    Spacer "spacer_mm" "Spacer" "its height" Mm 0.5..60.0 step 5.0 / 1.0 err 0.2;
    Stem "stem_mm" "Stem" "steerer axis to bar clamp centre" Mm 0.0..180.0 step 10.0 / 5.0 err 1.0 bars printed;
    StemAngle "stem_angle_deg" "Stem angle" "as mounted, down is negative" Deg -60.0..60.0 step 1.0 / 0.5 err 0.5 bars printed;
    StemClamp "stem_clamp_mm" "Stem clamp height" "along the steerer" Mm 20.0..80.0 step 1.0 / 0.5 err 0.5 turned printed;
    Cover "cover_mm" "Top cover" "headset cover above the head tube" Mm 0.0..60.0 step 1.0 / 0.5 err 0.5 printed;
    PadSpacers "pad_spacers_mm" "Pad spacers" "under the pads" Mm 0.0..150.0 step 5.0 / 1.0 err 0.5 bars;
    PadForward "pad_forward_mm" "Pad forward" "bar clamp centre to the pad's centre, horizontal" Mm -150.0..200.0 step 5.0 / 1.0 err 1.0 bars;
    PadForwardLeast "pad_forward_least_mm" "Pads furthest back" "end of their slots: bar clamp centre to the pad's centre" Mm -150.0..200.0 step 5.0 / 1.0 err 1.0 maybe;
    PadForwardMost "pad_forward_most_mm" "Pads furthest ahead" "other end of their slots" Mm -150.0..200.0 step 5.0 / 1.0 err 1.0 maybe;
    PadTilt "pad_tilt_deg" "Pad tilt" "front up is positive" Deg -15.0..45.0 step 1.0 / 0.5 err 0.5 bars;
    PadSpacing "pad_spacing_mm" "Pad spacing" "centre to centre" Mm 60.0..400.0 step 5.0 / 1.0 err 1.0 bars;
    PadRise "pad_rise_mm" "Pad bracket" "bar clamp centre to the pad's surface without its spacers" Mm 0.0..150.0 step 5.0 / 1.0 err 1.0 bars;
    PadLength "pad_length_mm" "Pad length" "rear edge to front edge" Mm 50.0..300.0 step 5.0 / 1.0 err 1.0;
    BarRise "bar_rise_mm" "Bar rise" "clamp centre up to the grips" Mm -40.0..200.0 step 5.0 / 1.0 err 1.0 bars;
    Backsweep "backsweep_deg" "Backsweep" "grips backwards" Deg 0.0..90.0 step 1.0 / 0.5 err 1.0 bars;
    Upsweep "upsweep_deg" "Upsweep" "grips upwards" Deg -20.0..45.0 step 1.0 / 0.5 err 1.0 bars;
    BarRoll "bar_roll_deg" "Bar roll" "front up is positive" Deg -45.0..45.0 step 1.0 / 0.5 err 0.5 bars;
    HoodForward "hood_forward_mm" "Hood forward" "hand point ahead of the bar's bend" Mm -40.0..90.0 step 5.0 / 1.0 err 2.0 bars;
    HoodRise "hood_rise_mm" "Hood rise" "hand point above the bar's bend" Mm -40.0..90.0 step 5.0 / 1.0 err 2.0 bars;
    BarReach "bar_reach_mm" "Bar reach" "bar clamp centre forward to the bend" Mm 0.0..200.0 step 5.0 / 1.0 err 1.0 bars;
    BarDrop "bar_drop_mm" "Bar drop" "bar top down to the drops" Mm 60.0..200.0 step 5.0 / 1.0 err 1.0;
    GripRise "grip_rise_mm" "Base-bar grip" "above the bar clamp centre" Mm -150.0..100.0 step 5.0 / 1.0 err 2.0 bars;
    GripFromEnd "grip_from_end_mm" "Grip centre" "from the bar's end" Mm 20.0..160.0 step 5.0 / 1.0 err 1.0 maybe bars;
    BendFromCentre "bend_from_centre_mm" "Bend" "from the bar's centre to where the bend starts" Mm 0.0..250.0 step 5.0 / 1.0 err 1.0 maybe;
    BarWidth "bar_width_mm" "Bar width" "centre to centre at the hoods" Mm 300.0..600.0 step 10.0 / 5.0 err 1.0 bars;
    FlatWidth "flat_bar_width_mm" "Bar width" "end to end, as sold" Mm 350.0..900.0 step 10.0 / 5.0 err 1.0 bars;
    LeverAngle "lever_angle_deg" "Lever angle" "of the lever's blade, or the hood's top: up is positive" Deg -90.0..60.0 step 2.0 / 1.0 err 1.0 sides maybe bars printed;
    LeverReach "lever_reach_mm" "Lever reach" "bar to the lever where the finger takes it" Mm 20.0..120.0 step 2.0 / 1.0 err 1.0 sides maybe bars printed;
    DropsAngle "drops_angle_deg" "Drops" "lower part of the drops against the bar's reach" Deg -45.0..45.0 step 1.0 / 0.5 err 0.5 maybe;
    EndsAngle "ends_angle_deg" "Upright ends" "against the upright to the bar's reach" Deg -45.0..45.0 step 1.0 / 0.5 err 0.5 maybe;
    RampAngle "ramp_angle_deg" "Ramp" "the ramp against the bar's reach" Deg -45.0..45.0 step 1.0 / 0.5 err 0.5 maybe;

    StemTorque "stem_torque_nm" "Stem on the steerer" "printed torque" Nm 0.5..60.0 step 1.0 / 0.5 err 0.5 maybe printed;
    BarTorque "bar_torque_nm" "Bar clamp" "printed torque" Nm 0.5..60.0 step 1.0 / 0.5 err 0.5 maybe printed;
    LeverTorque "lever_torque_nm" "Lever clamps" "printed torque" Nm 0.5..60.0 step 1.0 / 0.5 err 0.5 maybe printed;
    PadTorque "pad_torque_nm" "Pads and extensions" "printed torque" Nm 0.5..60.0 step 1.0 / 0.5 err 0.5 maybe printed;
    PostTorque "post_torque_nm" "Seat post clamp" "printed torque" Nm 0.5..60.0 step 1.0 / 0.5 err 0.5 maybe printed;
    RailTorque "rail_torque_nm" "Saddle rails" "printed torque" Nm 0.5..60.0 step 1.0 / 0.5 err 0.5 maybe printed;
    CrankTorque "crank_torque_nm" "Crank bolts" "printed torque" Nm 0.5..80.0 step 1.0 / 0.5 err 0.5 maybe printed;
    CleatTorque "cleat_torque_nm" "Cleat bolts" "printed torque" Nm 0.5..60.0 step 1.0 / 0.5 err 0.5 maybe printed;

    FrameReach "frame_reach_mm" "Frame reach" "BB to top of the head tube, horizontal" Mm 250.0..600.0 step 5.0 / 1.0 err 2.0;
    FrameStack "frame_stack_mm" "Frame stack" "BB to top of the head tube, vertical" Mm 400.0..800.0 step 5.0 / 1.0 err 2.0;
    HeadAngle "head_angle_deg" "Head angle" "" Deg 55.0..85.0 step 0.5 / 0.1 err 0.5;
    HeadTube "head_tube_mm" "Head tube" "length" Mm 50.0..320.0 step 5.0 / 1.0 err 1.0;
    SeatAngle "seat_angle_deg" "Seat tube angle" "of the post's own axis" Deg 60.0..85.0 step 0.5 / 0.1 err 0.5;
    SeatTube "seat_tube_mm" "Seat tube" "BB centre to the post clamp" Mm 250.0..700.0 step 5.0 / 1.0 err 2.0;
    Chainstay "chainstay_mm" "Chainstay" "" Mm 350.0..520.0 step 5.0 / 1.0 err 2.0;
    BbDrop "bb_drop_mm" "BB drop" "BB below the axles" Mm -40.0..110.0 step 1.0 / 1.0 err 2.0;
    FrontCentre "front_centre_mm" "Front centre" "BB to front axle, straight" Mm 480.0..900.0 step 5.0 / 1.0 err 2.0;
    WheelRadius "wheel_radius_mm" "Wheel radius" "axle to ground, tyre on" Mm 220.0..400.0 step 1.0 / 1.0 err 2.0;
    LowerStack "lower_stack_mm" "Lower headset stack" "" Mm 0.0..40.0 step 1.0 / 0.5 err 0.5;
    Steerer "steerer_mm" "Steerer length" "crown to cut end" Mm 100.0..450.0 step 1.0 / 1.0 err 1.0 maybe;
    Tyre "tyre_mm" "Tyre width" "of its section" Mm 18.0..130.0 step 1.0 / 1.0 err 1.0 maybe;
    Sag "sag_mm" "BB sag" "how far the BB sinks under the rider" Mm 0.0..120.0 step 5.0 / 1.0 err 5.0 maybe;
    Standover "standover_mm" "Standover" "ground to the top tube where the rider stands" Mm 400.0..950.0 step 5.0 / 1.0 err 3.0 maybe;
    BikeMass "bike_mass_kg" "Bike mass" "" Kg 4.0..40.0 step 0.5 / 0.1 err 0.5 maybe;

    BbToHeadTop "bb_to_head_top_mm" "BB to head tube" "straight to the top centre of the head tube" Mm 400.0..1000.0 step 5.0 / 1.0 err 2.0;
    GroundToBb "ground_to_bb_mm" "Ground to BB" "vertical" Mm 200.0..420.0 step 1.0 / 1.0 err 2.0;
    GroundToHeadTop "ground_to_head_top_mm" "Ground to head tube" "vertical, to its top centre" Mm 600.0..1200.0 step 5.0 / 1.0 err 2.0;
    TopTube "top_tube_mm" "Level top tube" "head tube's top centre level back to the seat tube's line" Mm 400.0..800.0 step 5.0 / 1.0 err 3.0;

    ForkTravel "fork_travel_mm" "Fork travel" "along the leg, as printed" Mm 20.0..250.0 step 5.0 / 1.0 err 1.0 springs;
    ForkTarget "fork_target_percent" "Fork's target" "sag as its maker has it, of the travel" Percent 5.0..50.0 step 1.0 / 1.0 err 0.5 springs;
    ForkRing "fork_ring_mm" "Fork ring" "o-ring pushed up by the rider in full kit" Mm 0.0..250.0 step 1.0 / 1.0 err 1.0 springs;
    ForkPressure "fork_pressure_bar" "Fork pressure" "by the pump's gauge" Bar 0.5..25.0 step 0.2 / 0.1 err 0.1 springs;
    ForkRebound "fork_rebound_clicks" "Fork rebound" "counted from closed" Clicks 0.0..60.0 step 1.0 / 1.0 err 0.5 springs;
    ForkCompression "fork_compression_clicks" "Fork compression" "counted from closed" Clicks 0.0..60.0 step 1.0 / 1.0 err 0.5 springs;
    RearTravel "rear_travel_mm" "Rear travel" "of the wheel, as printed" Mm 20.0..300.0 step 5.0 / 1.0 err 1.0 springs;
    ShockStroke "shock_stroke_mm" "Shock stroke" "of the shock itself, as printed" Mm 15.0..120.0 step 2.5 / 0.5 err 0.5 springs;
    ShockProgression "shock_progression_percent" "Shock's progression" "how much less the shock is levered at the end of its stroke than at the start, as the frame's maker has it" Percent -30.0..60.0 step 5.0 / 1.0 err 2.0 springs;
    ShockTarget "shock_target_percent" "Shock's target" "sag as its maker has it, of the stroke" Percent 5.0..50.0 step 1.0 / 1.0 err 0.5 springs;
    ShockRing "shock_ring_mm" "Shock ring" "o-ring pushed along by the rider in full kit" Mm 0.0..120.0 step 1.0 / 0.5 err 0.5 springs;
    ShockPressure "shock_pressure_bar" "Shock pressure" "by the pump's gauge" Bar 0.5..30.0 step 0.5 / 0.1 err 0.2 springs;
    ShockRebound "shock_rebound_clicks" "Shock rebound" "counted from closed" Clicks 0.0..60.0 step 1.0 / 1.0 err 0.5 springs;
    ShockCompression "shock_compression_clicks" "Shock compression" "counted from closed" Clicks 0.0..60.0 step 1.0 / 1.0 err 0.5 springs;

    UsualClimb "usual_climb_percent" "Usual climb" "its grade, uphill positive" Percent 0.0..40.0 step 1.0 / 0.5 err 1.0;
    DragArea "drag_area_m2" "Drag area" "the rider's own, measured" SquareMetres 0.1..1.0 step 0.01 / 0.001 err 0.01;
    AirDensity "air_density_kg_m3" "Air density" "" KgPerCubicMetre 0.7..1.5 step 0.01 / 0.001 err 0.01;
    Speed "speed_m_s" "Speed" "through still air" MetresPerSecond 3.0..25.0 step 0.5 / 0.1 err 0.1;

    LongestRide "longest_ride_h" "Longest ride" "" Hours 0.0..72.0 step 1.0 / 0.5 err 0.5;
    Event "event_h" "Event takes" "" Hours 0.0..240.0 step 1.0 / 0.5 err 0.5;
    Seated "seated_h" "Seated a day" "at work" Hours 0.0..24.0 step 1.0 / 0.5 err 0.5;

    Power "power_w" "Power" "held during the test" W 20.0..2000.0 step 10.0 / 1.0 err 5.0;
    Cadence "cadence_rpm" "Cadence" "held during the test" Rpm 20.0..200.0 step 5.0 / 1.0 err 1.0;
}

impl Quantity {
    /// Whether a word stands at the end of its row.
    pub(crate) fn is(self, mark: Mark) -> bool {
        self.marks().contains(&mark)
    }

    /// Those at the end of whose row a word stands, in measuring order.
    pub(crate) fn marked(mark: Mark) -> impl Iterator<Item = Self> {
        Self::ALL.iter().copied().filter(move |q| q.is(mark))
    }

    /// Whether a bolt, or another part, changes it.
    pub fn is_turned(self) -> bool {
        use Mark as M;
        [M::feet, M::cranks, M::height, M::rails, M::bars, M::turned]
            .into_iter()
            .any(|mark| self.is(mark))
    }

    /// Whether it is a length to the hands: a contact point, not a part.
    pub fn is_of_the_hand(self) -> bool {
        matches!(
            self,
            Self::Drop | Self::BbToHand | Self::BbToHandUp | Self::SaddleToHand | Self::GripLength
        )
    }

    /// Whether it is read of fork or shock: of the bike, and of no part that places the rider.
    pub fn is_of_the_springs(self) -> bool {
        self.is(Mark::springs)
    }

    /// Whether it is taken to, or from, a point of the saddle.
    pub fn goes_to_the_saddle(self) -> bool {
        matches!(
            self,
            Self::SaddleHeight | Self::Setback | Self::SaddleToHand
        )
    }

    /// Whether a value is taken seriously.
    pub fn takes(self, value: f64) -> bool {
        let spec = self.spec();
        value >= spec.min && value <= spec.max
    }

    /// A refusal if `value` is outside what is taken seriously, pointing at `pointer`.
    pub fn refuse(self, value: f64, pointer: &str) -> Option<Refusal> {
        if self.takes(value) {
            return None;
        }
        let spec = self.spec();
        // A length typed in centimetres is the commonest slip.
        let slip =
            |holds: f64| spec.unit == Unit::Mm && (spec.min..=spec.max).contains(&(value * holds));
        // As it was typed: to the thousandth, a metre needs them.
        let typed = ((value * 1000.0).round() / 1000.0)
            .to_string()
            .replace('-', "−");
        let or = if slip(10.0) {
            format!(", or write {typed} cm")
        } else if slip(1000.0) {
            format!(", or write {typed} m")
        } else {
            String::new()
        };
        Some(Refusal::new(
            pointer,
            format!(
                "{} of {typed}{} is outside what can be right: {}{or}",
                spec.label,
                spec.unit.suffix(),
                self.give(),
            ),
        ))
    }

    /// What is taken seriously: "give 350 to 1050 mm".
    fn give(self) -> String {
        let spec = self.spec();
        let (low, high) = (written(spec.min), written(spec.max));
        format!("give {low} to {high}{}", spec.unit.suffix())
    }

    /// Reads what was typed into a field of this quantity. What is wrong says how to type it and what can be right.
    pub fn typed(self, text: &str) -> Result<f64, String> {
        let value = super::typed(text, self.spec().unit)
            .map_err(|words| format!("{words}; {}", self.give()))?;
        self.refuse(value, "")
            .map_or(Ok(value), |refusal| Err(refusal.detail))
    }
}

/// A refusal of a value that is not in the catalogue, outside `low` to `high`.
pub fn within(
    pointer: impl Into<String>,
    value: f64,
    low: f64,
    high: f64,
    what: &str,
) -> Option<Refusal> {
    (!(low..=high).contains(&value)).then(|| {
        Refusal::new(
            pointer,
            format!("{what} is {} to {}", written(low), written(high)),
        )
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_row_of_the_catalogue_makes_sense() {
        for quantity in Quantity::ALL {
            let spec = quantity.spec();
            assert!(spec.min < spec.max, "{quantity:?}");
            assert!(
                spec.fine_step > 0.0 && spec.fine_step <= spec.step,
                "{quantity:?}"
            );
            let unit_in_key = match spec.unit {
                Unit::Mm => "_mm",
                Unit::Deg => "_deg",
                Unit::Kg => "_kg",
                Unit::W => "_w",
                Unit::Rpm => "_rpm",
                Unit::N => "_n",
                Unit::Nm => "_nm",
                Unit::Percent => "_percent",
                Unit::Hours => "_h",
                Unit::Size => "_eu",
                Unit::Bar => "_bar",
                Unit::Clicks => "_clicks",
                Unit::SquareMetres => "_m2",
                Unit::KgPerCubicMetre => "_kg_m3",
                Unit::MetresPerSecond => "_m_s",
            };
            assert!(quantity.key().ends_with(unit_in_key), "{quantity:?}");
            let json = serde_json::to_string(quantity).unwrap();
            assert_eq!(json, format!("\"{}\"", quantity.key()));
        }
    }

    #[test]
    fn a_refusal_says_what_would_be_right() {
        let refusal = Quantity::Stature.refuse(178.0, "/stature_mm").unwrap();
        assert_eq!(refusal.pointer, "/stature_mm");
        assert_eq!(
            refusal.detail,
            "Stature of 178 mm is outside what can be right: give 1200 to 2300 mm, or write 178 cm"
        );
        assert!(Quantity::Stature.refuse(f64::NAN, "").is_some());
        assert!(Quantity::Stature.refuse(1200.0, "").is_none());
    }

    #[test]
    fn only_what_the_body_or_bike_has_twice_is_per_side() {
        assert!(Quantity::CleatSetback.spec().per_side);
        assert!(!Quantity::SaddleHeight.spec().per_side);
    }
}
