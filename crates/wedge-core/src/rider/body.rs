//! Body lengths: measured wins, the rest is estimated from stature and says so.
//!
//! Proportions: Drillis & Contini, *Body Segment Parameters* (1966), as tabulated by D. A. Winter, *Biomechanics and
//! Motor Control of Human Movement*. Scaling by a measured inseam is a house choice: simple, and a little generous
//! to shoulder height.

use crate::measure::{Quantity, Refusal, measured, within};
use crate::units::{Degrees, Kilograms, Millimetres, Side, Sides, Size};
use serde::{Deserialize, Serialize};

mod share {
    crate::rule::rules! {
        rules "Share of stature";
        /// Thigh.
        pub(in crate::rider) const THIGH: f64 = 0.245, "", Published("Drillis & Contini, Body Segment Parameters (1966), as tabulated by D. A. Winter");
        /// Shank.
        pub(in crate::rider) const SHANK: f64 = 0.246, "", Published("Drillis & Contini, Body Segment Parameters (1966), as tabulated by D. A. Winter");
        /// Ankle height.
        pub(in crate::rider) const ANKLE_HEIGHT: f64 = 0.039, "", Published("Drillis & Contini, Body Segment Parameters (1966), as tabulated by D. A. Winter");
        /// Foot length.
        pub(in crate::rider) const FOOT_LENGTH: f64 = 0.152, "", Published("Drillis & Contini, Body Segment Parameters (1966), as tabulated by D. A. Winter");
        /// Hip to shoulder.
        pub(in crate::rider) const TRUNK: f64 = 0.288, "", Published("Drillis & Contini, Body Segment Parameters (1966), as tabulated by D. A. Winter");
        /// Upper arm.
        pub(in crate::rider) const UPPER_ARM: f64 = 0.186, "", Published("Drillis & Contini, Body Segment Parameters (1966), as tabulated by D. A. Winter");
        /// Forearm.
        pub(in crate::rider) const FOREARM: f64 = 0.146, "", Published("Drillis & Contini, Body Segment Parameters (1966), as tabulated by D. A. Winter");
        /// Hand.
        pub(in crate::rider) const HAND: f64 = 0.108, "", Published("Drillis & Contini, Body Segment Parameters (1966), as tabulated by D. A. Winter");
        /// Shoulder breadth.
        pub(in crate::rider) const SHOULDER_BREADTH: f64 = 0.23, "", House;
        /// Shoulder to the middle of the head.
        pub(in crate::rider) const HEAD_OUT: f64 = 0.112, "", House;
        /// Hip joint over the sit reference: an effective height that absorbs tissue and saddle squash.
        pub(in crate::rider) const HIP_RISE: f64 = 0.034, "", House;
        /// Typical inseam.
        pub(in crate::rider) const INSEAM: f64 = 0.475, "", House;
        /// Middle of the pelvis to each hip joint.
        pub(in crate::rider) const HIP_ASIDE: f64 = 0.05, "", House;
    }
}

/// Spreads (one standard deviation) of the lengths, the calibration's priors.
pub(crate) mod spread {
    crate::rule::rules! {
        rules "Spread of a body length";
        /// Thigh or shank, estimated.
        pub(super) const LEG_ESTIMATED: f64 = 12.0, " mm", House;
        /// Length of a leg, measured.
        pub(crate) const LEG_MEASURED: f64 = 5.0, " mm", House;
        /// Arm or trunk, estimated.
        pub(crate) const ARM_AND_TRUNK: f64 = 15.0, " mm", House;
        /// Other length, measured.
        pub(super) const MEASURED: f64 = 5.0, " mm", House;
        /// Ankle height, estimated.
        pub(super) const FOOT_HEIGHT: f64 = 6.0, " mm", House;
        /// Foot length, estimated.
        pub(super) const FOOT_LENGTH: f64 = 8.0, " mm", House;
        /// Inseam, estimated.
        pub(super) const INSEAM: f64 = 20.0, " mm", House;
        /// Shoulder breadth, estimated.
        pub(super) const BREADTH: f64 = 20.0, " mm", House;
        /// Segment of an arm of which only the whole was measured: the sum is known, the split is not.
        pub(super) const ARM_SPLIT: f64 = 6.0, " mm", House;
        /// Bone known from the other leg's and the difference between them.
        pub(super) const FROM_THE_OTHER: f64 = 6.0, " mm", House;
        /// Hip joint over the sit reference.
        pub(super) const HIP_RISE: f64 = 15.0, " mm", House;
    }
}

measured! {
    /// What was measured of a body, both sides together.
    pub struct Body {
        /// Barefoot stature.
        stature_mm: Millimetres = Stature,
        /// Body mass.
        mass_kg: Option<Kilograms> = Mass,
        /// Barefoot inseam.
        inseam_mm: Option<Millimetres> = Inseam,
        /// Hip joint to shoulder joint.
        trunk_mm: Option<Millimetres> = Trunk,
        /// Between the bony points of the shoulders.
        shoulder_breadth_mm: Option<Millimetres> = ShoulderBreadth,
        /// Shoulder joint to elbow.
        upper_arm_mm: Option<Millimetres> = UpperArm,
        /// Elbow to wrist.
        forearm_mm: Option<Millimetres> = Forearm,
        /// Inseam in riding shoes.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        inseam_shod_mm: Option<Millimetres> = InseamShod,
        /// Finger tip to finger tip.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        arm_span_mm: Option<Millimetres> = ArmSpan,
        /// Floor to the knuckles, shod, standing tall.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        knuckle_height_mm: Option<Millimetres> = KnuckleHeight,
        /// How far the face turns up from looking level.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        neck_extension_deg: Option<Degrees> = NeckExtension,
        /// Relaxed fists held out at bar width, each turned back from square to the bar.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        fist_angle_deg: Option<Degrees> = FistAngle,
        /// Across the widest of the hips.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        hip_breadth_mm: Option<Millimetres> = HipBreadth,
        /// Between the sit bones.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        sit_bones_mm: Option<Millimetres> = SitBones,
        /// The lowest torso the back holds without rounding.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        back_limit_deg: Option<Degrees> = BackLimit,
    }
}

impl Body {
    /// A body of which only stature is known.
    pub fn new(stature_mm: Millimetres) -> Self {
        Self {
            stature_mm,
            mass_kg: None,
            inseam_mm: None,
            trunk_mm: None,
            shoulder_breadth_mm: None,
            upper_arm_mm: None,
            forearm_mm: None,
            inseam_shod_mm: None,
            arm_span_mm: None,
            knuckle_height_mm: None,
            neck_extension_deg: None,
            fist_angle_deg: None,
            hip_breadth_mm: None,
            sit_bones_mm: None,
            back_limit_deg: None,
        }
    }
}

measured! {
    /// What was measured of one arm; what a body gives for both together counts where neither arm was measured.
    #[derive(Default)]
    pub struct ArmBody {
        /// Shoulder joint to the middle of a rod held in the hand.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        arm_mm: Option<Millimetres> = Arm,
        /// Shoulder joint to elbow.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        upper_arm_mm: Option<Millimetres> = UpperArm,
        /// Elbow to wrist.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        forearm_mm: Option<Millimetres> = Forearm,
        /// How far the arm is raised forward with quiet ribs.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        shoulder_limit_deg: Option<Degrees> = ShoulderLimit,
    }
}

measured! {
    /// What was measured of one leg.
    #[derive(Default)]
    pub struct LegBody {
        /// Hip joint to knee joint.
        thigh_mm: Option<Millimetres> = Thigh,
        /// Knee joint to ankle joint.
        shank_mm: Option<Millimetres> = Shank,
        /// Floor to ankle joint.
        ankle_height_mm: Option<Millimetres> = AnkleHeight,
        /// Heel to longest toe.
        foot_length_mm: Option<Millimetres> = FootLength,
        /// How far the hip folds on the table, against the pelvis.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        hip_limit_deg: Option<Degrees> = HipLimit,
        /// How far the straight leg is raised on the table.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        straight_leg_raise_deg: Option<Degrees> = StraightLegRaise,
        /// How far the knee folds on the table.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        knee_limit_deg: Option<Degrees> = KneeLimit,
        /// How far the foot is drawn up from square, knee bent.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        ankle_limit_deg: Option<Degrees> = AnkleLimit,
        /// Across the ball of the foot.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        foot_width_mm: Option<Millimetres> = FootWidth,
        /// Fifth metatarsal joint behind the first, along the foot.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        fifth_joint_mm: Option<Millimetres> = FifthJoint,
        /// European shoe size.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        shoe_size_eu: Option<Size> = ShoeSize,
        /// Floor to the bump on the inner side of the foot.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        arch_height_mm: Option<Millimetres> = ArchHeight,
        /// Tilt of the forefoot, inner edge up.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        forefoot_tilt_deg: Option<Degrees> = ForefootTilt,
        /// Shorter than the other leg in the thigh.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        thigh_shorter_mm: Option<Millimetres> = ThighShorter,
        /// Shorter than the other leg in the shank.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        shank_shorter_mm: Option<Millimetres> = ShankShorter,
        /// Lower than the other leg in the foot.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        foot_lower_mm: Option<Millimetres> = FootLower,
        /// Looks shorter though the bones are alike.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        looks_shorter_mm: Option<Millimetres> = LooksShorter,
    }
}

impl LegBody {
    /// By how much its bones are shorter than the other leg's: thigh, shank and foot.
    pub(crate) fn shorter(&self) -> [f64; 3] {
        [
            self.thigh_shorter_mm,
            self.shank_shorter_mm,
            self.foot_lower_mm,
        ]
        .map(|by| by.unwrap_or_default().0)
    }
}

/// Foot pitch over the stroke, heel up: `mean + amp cos(crank − peak)`.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct FootPitch {
    /// Mean over the stroke.
    pub mean_deg: Degrees,
    /// Half the swing.
    pub amp_deg: Degrees,
    /// The crank angle where the heel is highest.
    pub peak_deg: Degrees,
}

impl Default for FootPitch {
    /// 20°, 12°, 290° (house), until the rider's own is seen: the ankle then swings by about 28° over the stroke. Riders
    /// were measured at about 24° (M. O. Ericson, R. Nisell, G. Németh, *Joint Motions of the Lower Limb during Ergometer
    /// Cycling*, 1988); with the heel highest at 270° it would be 35°, later than 290° the leg would reach too far.
    fn default() -> Self {
        Self {
            mean_deg: Degrees(20.0),
            amp_deg: Degrees(12.0),
            peak_deg: Degrees(290.0),
        }
    }
}

impl FootPitch {
    /// What is wrong with it, pointing below `at`.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        [
            ("mean_deg", self.mean_deg, -30.0, 40.0, "Mean foot pitch"),
            ("amp_deg", self.amp_deg, 0.0, 40.0, "Swing of the foot"),
            (
                "peak_deg",
                self.peak_deg,
                -360.0,
                720.0,
                "Peak of the foot pitch",
            ),
        ]
        .into_iter()
        .filter(|(_, value, low, high, _)| !(*low..=*high).contains(&value.0))
        .map(|(key, _, low, high, what)| {
            Refusal::new(format!("{at}/{key}"), format!("{what} is {low} to {high}°"))
        })
        .collect()
    }
}

/// How a pelvis sits and leans, the house's until it is seen.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields, default)]
pub struct Pelvis {
    /// Forward pitch at an upright torso.
    pub zero_deg: Degrees,
    /// How much of the torso's lean the pelvis takes.
    pub share: f64,
    /// Roll, right hip up positive.
    pub roll_deg: Degrees,
    /// Yaw, right hip forward positive.
    pub yaw_deg: Degrees,
    /// Hip joint over the sit reference, square to the pelvis; from stature when left out.
    pub rise_mm: Option<Millimetres>,
    /// Hip joint ahead of the sit reference, along the pelvis.
    pub forward_mm: Millimetres,
    /// How far ahead of the sit reference the rider sits, along the saddle: riding on the nose.
    pub sits_forward_mm: Millimetres,
}

impl Default for Pelvis {
    fn default() -> Self {
        Self {
            zero_deg: Degrees(0.0),
            share: 0.5,
            roll_deg: Degrees(0.0),
            yaw_deg: Degrees(0.0),
            rise_mm: None,
            forward_mm: Millimetres(0.0),
            sits_forward_mm: Millimetres(0.0),
        }
    }
}

impl Pelvis {
    /// Everything that is outside what is allowed, each with its JSON pointer below `at`.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        [
            (
                "zero_deg",
                self.zero_deg.0,
                -40.0,
                60.0,
                "Pelvis pitch, upright, in degrees,",
            ),
            (
                "share",
                self.share,
                0.0,
                1.0,
                "The pelvis' share of the lean",
            ),
            (
                "roll_deg",
                self.roll_deg.0,
                -15.0,
                15.0,
                "Pelvis roll, in degrees,",
            ),
            (
                "yaw_deg",
                self.yaw_deg.0,
                -20.0,
                20.0,
                "Pelvis yaw, in degrees,",
            ),
            (
                "rise_mm",
                self.rise_mm.unwrap_or_default().0,
                0.0,
                160.0,
                "The hip over the saddle, in mm,",
            ),
            (
                "forward_mm",
                self.forward_mm.0,
                -80.0,
                80.0,
                "The hip ahead of the sit reference, in mm,",
            ),
            (
                "sits_forward_mm",
                self.sits_forward_mm.0,
                -100.0,
                200.0,
                "Sitting ahead of the sit reference, in mm,",
            ),
        ]
        .into_iter()
        .filter_map(|(key, value, low, high, what)| {
            within(format!("{at}/{key}"), value, low, high, what)
        })
        .collect()
    }
}

/// Whether a length was measured.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Source {
    /// Measured on this rider.
    Measured,
    /// Estimated from stature, and from inseam where that is measured.
    Estimated,
}

/// A body length the linkage uses.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Length {
    /// What it is.
    pub quantity: Quantity,
    /// The length.
    pub value_mm: Millimetres,
    /// One standard deviation.
    pub spread_mm: Millimetres,
    /// Where it comes from.
    pub source: Source,
}

impl Length {
    fn new(
        quantity: Quantity,
        measured: Option<Millimetres>,
        measured_spread: f64,
        estimate: f64,
        estimate_spread: f64,
    ) -> Self {
        let (value_mm, spread, source) = match measured {
            Some(value) => (value, measured_spread, Source::Measured),
            None => (Millimetres(estimate), estimate_spread, Source::Estimated),
        };
        Self {
            quantity,
            value_mm,
            spread_mm: Millimetres(spread),
            source,
        }
    }
}

/// Lengths of one leg.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LegLengths {
    /// Hip joint to knee joint.
    pub thigh: Length,
    /// Knee joint to ankle joint.
    pub shank: Length,
    /// Floor to ankle joint.
    pub ankle_height: Length,
    /// Heel to longest toe.
    pub foot_length: Length,
}

crate::rule::rules! {
    own_rules "Rider";
    /// Share of the hand from wrist to grip.
    pub(crate) const GRIP_IN_HAND: f64 = 0.36, "", House;
    /// Share of foot length from ankle joint to first metatarsal joint.
    const ANKLE_TO_BALL: f64 = 0.48, "", House;
    /// The least share of the stature anybody's inseam is.
    const LEAST_LEGS: f64 = 1.0 / 3.0, "", House;
    /// The largest share of the stature anybody's inseam is.
    const MOST_LEGS: f64 = 0.6, "", House;
}

/// Its lines of the table of rules.
pub(super) fn rules() -> Vec<crate::rule::Rule> {
    [own_rules(), share::rules(), spread::rules()].concat()
}

impl LegLengths {
    /// Ankle joint to first metatarsal joint, along the foot.
    pub fn ankle_to_ball(&self) -> f64 {
        ANKLE_TO_BALL * self.foot_length.value_mm.0
    }
}

/// Every length the linkage uses, measured or estimated.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Lengths {
    /// Barefoot inseam.
    pub inseam: Length,
    /// Hip joint to shoulder joint.
    pub trunk: Length,
    /// Between the bony points of the shoulders.
    pub shoulder_breadth: Length,
    /// Shoulder joint to elbow.
    pub upper_arm: Length,
    /// Elbow to wrist.
    pub forearm: Length,
    /// Left and right leg.
    pub legs: Sides<LegLengths>,
    /// Wrist to finger tip.
    pub hand_mm: Millimetres,
    /// Shoulder joint to the middle of the head.
    pub head_out_mm: Millimetres,
    /// Hip joint over the sit reference, and its spread.
    pub hip_rise_mm: Millimetres,
    /// One standard deviation of the hip's rise.
    pub hip_rise_spread_mm: Millimetres,
    /// Middle of the pelvis to each hip joint.
    pub hip_aside_mm: Millimetres,
}

impl Lengths {
    /// Shoulder joint to the middle of the grip, straight.
    pub fn arm(&self) -> Millimetres {
        self.upper_arm.value_mm + self.forearm.value_mm + self.hand_mm * GRIP_IN_HAND
    }

    /// Fills in what was not measured.
    ///
    /// If inseam is measured and the segments are not, thigh, shank and ankle height scale by
    /// `inseam / (.475 H)` and the trunk by `(H − inseam) / (.525 H)`; a measured segment keeps its own value.
    ///
    /// A leg found shorter than the other is so by half of the difference, the other longer by half, since an inseam
    /// is taken standing on both; where the other leg's bone is measured, that less the difference. Of an arm measured
    /// as a whole, upper arm and forearm keep their proportion.
    pub fn of(body: &Body, legs: &Sides<LegBody>, arms: &Sides<ArmBody>) -> Self {
        use Quantity as Q;
        let stature = body.stature_mm.0;
        let inseam = Length::new(
            Q::Inseam,
            body.inseam_mm,
            spread::MEASURED,
            share::INSEAM * stature,
            spread::INSEAM,
        );
        let leg_scale = inseam.value_mm.0 / share::INSEAM;
        let trunk_scale = (stature - inseam.value_mm.0) / (1.0 - share::INSEAM);
        let leg = |side: Side| {
            let (leg, other) = (legs.of(side), legs.of(side.other()));
            let shorter = leg.shorter();
            let longer = other.shorter();
            let bone = |quantity: Quantity, measured, share: f64, estimated_spread| {
                let place = match quantity {
                    Q::Thigh => 0,
                    Q::Shank => 1,
                    _ => 2,
                };
                let by = longer[place] - shorter[place];
                let from_the_other = other.get(quantity).filter(|_| by != 0.0);
                let (estimate, estimated_spread) = from_the_other
                    .map_or((share * leg_scale + by / 2.0, estimated_spread), |other| {
                        (other + by, spread::FROM_THE_OTHER)
                    });
                Length::new(
                    quantity,
                    measured,
                    spread::LEG_MEASURED,
                    estimate,
                    estimated_spread,
                )
            };
            LegLengths {
                thigh: bone(Q::Thigh, leg.thigh_mm, share::THIGH, spread::LEG_ESTIMATED),
                shank: bone(Q::Shank, leg.shank_mm, share::SHANK, spread::LEG_ESTIMATED),
                ankle_height: bone(
                    Q::AnkleHeight,
                    leg.ankle_height_mm,
                    share::ANKLE_HEIGHT,
                    spread::FOOT_HEIGHT,
                ),
                foot_length: Length::new(
                    Q::FootLength,
                    leg.foot_length_mm,
                    spread::LEG_MEASURED,
                    share::FOOT_LENGTH * stature,
                    spread::FOOT_LENGTH,
                ),
            }
        };
        let (upper_arm, forearm) = arm_bones(body, arms);
        Self {
            inseam,
            trunk: Length::new(
                Q::Trunk,
                body.trunk_mm,
                spread::MEASURED,
                share::TRUNK * trunk_scale,
                spread::ARM_AND_TRUNK,
            ),
            shoulder_breadth: Length::new(
                Q::ShoulderBreadth,
                body.shoulder_breadth_mm,
                spread::MEASURED,
                share::SHOULDER_BREADTH * stature,
                spread::BREADTH,
            ),
            upper_arm,
            forearm,
            legs: Sides::from_fn(leg),
            hand_mm: Millimetres(share::HAND * stature),
            head_out_mm: Millimetres(share::HEAD_OUT * stature),
            hip_rise_mm: Millimetres(share::HIP_RISE * stature),
            hip_rise_spread_mm: Millimetres(spread::HIP_RISE),
            hip_aside_mm: Millimetres(share::HIP_ASIDE * stature),
        }
    }
}

/// Upper arm and forearm: as measured, of each arm or of both together, or from the whole arm, or from stature.
fn arm_bones(body: &Body, arms: &Sides<ArmBody>) -> (Length, Length) {
    let both = |of: fn(&ArmBody) -> Option<Millimetres>| mean(of(&arms.left), of(&arms.right));
    let stature = body.stature_mm.0;
    let grip = GRIP_IN_HAND * share::HAND * stature;
    let (scale, spread) = both(|arm| arm.arm_mm).map_or((stature, spread::ARM_AND_TRUNK), |arm| {
        let bones = share::UPPER_ARM + share::FOREARM;
        ((arm.0 - grip) / bones, spread::ARM_SPLIT)
    });
    let bone = |quantity, measured, share: f64| {
        Length::new(quantity, measured, spread::MEASURED, share * scale, spread)
    };
    (
        bone(
            Quantity::UpperArm,
            both(|arm| arm.upper_arm_mm).or(body.upper_arm_mm),
            share::UPPER_ARM,
        ),
        bone(
            Quantity::Forearm,
            both(|arm| arm.forearm_mm).or(body.forearm_mm),
            share::FOREARM,
        ),
    )
}

/// The mean of what is known of two.
fn mean(left: Option<Millimetres>, right: Option<Millimetres>) -> Option<Millimetres> {
    match (left, right) {
        (Some(left), Some(right)) => Some((left + right) * 0.5),
        (one, other) => one.or(other),
    }
}

impl Body {
    /// Whether inseam and stature can belong to one body: the legs of nobody are under a third or over six tenths
    /// of the stature (house choice). What is only unusual is questioned, not refused.
    pub fn proportion_refusal(&self, at: &str) -> Option<Refusal> {
        let inseam = self.inseam_mm?.0;
        let share = inseam / self.stature_mm.0;
        (!(LEAST_LEGS..=MOST_LEGS).contains(&share)).then(|| {
            Refusal::new(
                format!("{at}/inseam_mm"),
                format!(
                    "An inseam of {} mm on {} mm of stature cannot be right: look for {} to {} mm",
                    crate::words::written(inseam),
                    crate::words::written(self.stature_mm.0),
                    crate::words::written((LEAST_LEGS * self.stature_mm.0).ceil()),
                    crate::words::written((MOST_LEGS * self.stature_mm.0).floor()),
                ),
            )
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn body(stature: f64, inseam: Option<f64>) -> Body {
        Body {
            inseam_mm: inseam.map(Millimetres),
            ..Body::new(Millimetres(stature))
        }
    }

    #[test]
    fn golden_estimates_from_stature_alone() {
        // 1800 mm: thigh .245 → 441; shank .246 → 442.8; trunk .288 → 518.4; inseam .475 → 855.
        let lengths = Lengths::of(&body(1800.0, None), &Sides::default(), &Sides::default());
        let leg = lengths.legs.left;
        for (length, mm, spread) in [
            (leg.thigh, 441.0, 12.0),
            (leg.shank, 442.8, 12.0),
            (leg.ankle_height, 70.2, 6.0),
            (leg.foot_length, 273.6, 8.0),
            (lengths.trunk, 518.4, 15.0),
            (lengths.inseam, 855.0, 20.0),
        ] {
            assert!((length.value_mm.0 - mm).abs() < 1e-9, "{length:?}");
            assert!((length.spread_mm.0 - spread).abs() < 1e-9, "{length:?}");
            assert_eq!(length.source, Source::Estimated);
        }
    }

    #[test]
    fn golden_scaling_by_a_measured_inseam() {
        // 1800 mm with inseam 900: legs scale by 900/855, thigh 441 × 1.0526316 = 464.2105;
        // trunk by 900/945: 518.4 × .9523810 = 493.7143. The foot keeps its share of stature.
        let lengths = Lengths::of(
            &body(1800.0, Some(900.0)),
            &Sides::default(),
            &Sides::default(),
        );
        assert!((lengths.legs.right.thigh.value_mm.0 - 464.210_526).abs() < 1e-6);
        assert!((lengths.trunk.value_mm.0 - 493.714_286).abs() < 1e-6);
        assert!((lengths.legs.right.foot_length.value_mm.0 - 273.6).abs() < 1e-9);
        assert_eq!(lengths.inseam.source, Source::Measured);
    }

    #[test]
    fn a_measured_segment_keeps_its_own_value_on_its_own_side() {
        let mut legs = Sides::<LegBody>::default();
        legs.left.thigh_mm = Some(Millimetres(430.0));
        let lengths = Lengths::of(&body(1800.0, Some(900.0)), &legs, &Sides::default());
        assert!((lengths.legs.left.thigh.value_mm.0 - 430.0).abs() < 1e-9);
        assert_eq!(lengths.legs.left.thigh.source, Source::Measured);
        assert!((lengths.legs.left.thigh.spread_mm.0 - 5.0).abs() < 1e-9);
        assert_eq!(lengths.legs.right.thigh.source, Source::Estimated);
        assert_eq!(lengths.legs.left.shank.source, Source::Estimated);
    }

    #[test]
    fn legs_of_nobody_are_refused() {
        assert!(body(1800.0, Some(855.0)).proportion_refusal("").is_none());
        assert!(body(1800.0, None).proportion_refusal("").is_none());
        let refusal = body(1900.0, Some(560.0))
            .proportion_refusal("/body")
            .unwrap();
        assert_eq!(refusal.pointer, "/body/inseam_mm");
        assert!(
            refusal.detail.contains("634 to 1140 mm"),
            "{}",
            refusal.detail
        );
    }
}
