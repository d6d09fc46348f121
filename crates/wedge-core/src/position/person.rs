//! A rider as the linkage knows one: lengths, habits, and what calibration fitted to what was seen.

use crate::measure::{Refusal, Unit};
use crate::rider::{self, Leg, LegLengths, Length, Lengths, Rider, Source, Upper};
use crate::units::{Degrees, Side, Sides};
use serde::{Deserialize, Serialize};

/// Standard deviations of a rider's habits until they are seen, and of what a fitter's eye adds.
pub(crate) mod spread {
    crate::rule::rules! {
        rules "Spread until calibrated";
        /// Hip joint ahead of the sit reference.
        pub(crate) const HIP_FORWARD_MM: f64 = 20.0, " mm", House;
        /// The pelvis' share of the lean.
        pub(crate) const PELVIS_SHARE: f64 = 0.15, "", House;
        /// Elbow at rest.
        pub(crate) const ELBOW_DEG: f64 = 5.0, "°", House;
        /// Mean foot pitch.
        pub(crate) const PITCH_MEAN_DEG: f64 = 5.0, "°", House;
        /// Half the foot's swing.
        pub(crate) const PITCH_AMP_DEG: f64 = 4.0, "°", House;
        /// Where the heel is highest.
        pub(crate) const PITCH_PEAK_DEG: f64 = 15.0, "°", House;
        /// Answer of the foot to a longer way.
        pub(crate) const PITCH_RESPONSE: f64 = 0.1, "° per mm", House;
        /// Knee as seen against the linkage.
        pub(crate) const KNEE_BIAS_DEG: f64 = 2.0, "°", House;
        /// Hip as seen.
        pub(crate) const HIP_BIAS_DEG: f64 = 3.0, "°", House;
        /// Ankle as seen.
        pub(crate) const ANKLE_BIAS_DEG: f64 = 3.0, "°", House;
        /// Torso as seen.
        pub(crate) const TORSO_BIAS_DEG: f64 = 1.5, "°", House;
        /// Shoulder as seen.
        pub(crate) const SHOULDER_BIAS_DEG: f64 = 3.0, "°", House;
        /// Foot pitch as seen.
        pub(crate) const FOOT_BIAS_DEG: f64 = 2.0, "°", House;
        /// The centre of mass against where limbs of standard shares have it. They take half the body in the middle of a
        /// straight line from hip to shoulder; a rounded back carries it further back, so a front wheel's share that no
        /// scales were read for stands up to five hundredths heavy.
        pub(crate) const MASS_FORWARD_MM: f64 = 40.0, " mm", House;
    }
}

/// By how much angles are seen larger than the linkage has them: landmarks on skin are not joints.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub(crate) struct Biases {
    knee: f64,
    hip: f64,
    ankle: f64,
    torso: f64,
    shoulder: f64,
    foot: f64,
}

impl Biases {
    /// A leg's angles as they are seen.
    pub(crate) fn see_leg(&self, leg: &mut Leg) {
        let knee = &mut leg.knee;
        for angle in [
            &mut knee.smallest_deg,
            &mut knee.largest_deg,
            &mut knee.at_0_deg,
            &mut knee.at_90_deg,
            &mut knee.at_180_deg,
            &mut knee.in_line_deg,
        ] {
            angle.0 += self.knee;
        }
        leg.hip_closed_deg.0 += self.hip;
        leg.hip_open_deg.0 += self.hip;
        leg.ankle_smallest_deg.0 += self.ankle;
        leg.ankle_largest_deg.0 += self.ankle;
        let foot = &mut leg.foot;
        for angle in [
            &mut foot.top_deg,
            &mut foot.forward_deg,
            &mut foot.bottom_deg,
            &mut foot.rising_deg,
        ] {
            angle.0 += self.foot;
        }
    }

    /// Torso and shoulder as they are, from how they are seen.
    pub(crate) fn unseen(&self, torso: Degrees, shoulder: Degrees) -> (Degrees, Degrees) {
        (
            torso - Degrees(self.torso),
            shoulder - Degrees(self.shoulder),
        )
    }

    /// The upper body's angles as they are seen.
    pub(crate) fn see_upper(&self, upper: &mut Upper) {
        upper.torso_deg.0 += self.torso;
        upper.shoulder_deg.0 += self.shoulder;
        upper.shoulder_to_wrist_deg.0 += self.shoulder;
    }
}

/// What calibration may fit.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Parameter {
    /// Thigh length.
    Thigh,
    /// Shank length.
    Shank,
    /// Hip joint over the sit reference.
    HipRise,
    /// Hip joint ahead of the sit reference.
    HipForward,
    /// Shoulder to hand, upper arm and forearm in proportion.
    Arm,
    /// Mean foot pitch.
    PitchMean,
    /// Half the foot's swing.
    PitchAmp,
    /// The crank angle of the highest heel.
    PitchPeak,
    /// Knee angles are seen larger by this.
    KneeBias,
    /// Hip angles are seen larger by this.
    HipBias,
    /// Ankle angles are seen larger by this.
    AnkleBias,
    /// The torso is seen steeper by this.
    TorsoBias,
    /// Shoulder angles are seen larger by this.
    ShoulderBias,
    /// The foot is seen steeper by this.
    FootBias,
    /// Elbow flexion at rest.
    Elbow,
    /// The centre of mass ahead of where the limbs put it.
    MassForward,
}

/// A parameter, of one leg where there are two.
pub(crate) type Place = (Parameter, Option<Side>);

/// Everything calibration fits, in the order of its numbers.
pub(crate) const FITTED: [Place; 21] = {
    use Parameter as P;
    const L: Option<Side> = Some(Side::Left);
    const R: Option<Side> = Some(Side::Right);
    [
        (P::Thigh, L),
        (P::Thigh, R),
        (P::Shank, L),
        (P::Shank, R),
        (P::HipRise, None),
        (P::HipForward, None),
        (P::Arm, None),
        (P::PitchMean, L),
        (P::PitchMean, R),
        (P::PitchAmp, L),
        (P::PitchAmp, R),
        (P::PitchPeak, L),
        (P::PitchPeak, R),
        (P::KneeBias, None),
        (P::HipBias, None),
        (P::AnkleBias, None),
        (P::TorsoBias, None),
        (P::ShoulderBias, None),
        (P::FootBias, None),
        // Later ones stand last: fits of before are read without them.
        (P::Elbow, None),
        (P::MassForward, None),
    ]
};

/// How many parameters a fit had before the elbow was one.
const BEFORE_THE_ELBOW: usize = 19;
/// Where fits began with the heel's highest place before they said so.
const PEAK_BEFORE: Sides<Degrees> = Sides {
    left: Degrees(270.0),
    right: Degrees(270.0),
};

fn peak_before() -> Sides<Degrees> {
    PEAK_BEFORE
}

impl Parameter {
    /// The fitter's words.
    pub fn label(self) -> &'static str {
        match self {
            Self::Thigh => "Thigh",
            Self::Shank => "Shank",
            Self::HipRise => "Hip over the saddle",
            Self::HipForward => "Hip ahead of the saddle",
            Self::Arm => "Arm, shoulder to hand",
            Self::PitchMean => "Foot pitch, mean",
            Self::PitchAmp => "Foot pitch, swing",
            Self::PitchPeak => "Foot pitch, crank at its highest",
            Self::KneeBias => "Knee seen larger by",
            Self::HipBias => "Hip seen larger by",
            Self::AnkleBias => "Ankle seen larger by",
            Self::TorsoBias => "Torso seen steeper by",
            Self::ShoulderBias => "Shoulder seen larger by",
            Self::FootBias => "Foot seen steeper by",
            Self::Elbow => "Elbow at rest",
            Self::MassForward => "Weight ahead of where limbs have it",
        }
    }

    /// Its unit.
    pub fn unit(self) -> Unit {
        match self {
            Self::Thigh
            | Self::Shank
            | Self::HipRise
            | Self::HipForward
            | Self::Arm
            | Self::MassForward => Unit::Mm,
            _ => Unit::Deg,
        }
    }

    /// Whether it only moves what is seen, not the rider.
    pub(crate) fn is_bias(self) -> bool {
        matches!(
            self,
            Self::KneeBias
                | Self::HipBias
                | Self::AnkleBias
                | Self::TorsoBias
                | Self::ShoulderBias
                | Self::FootBias
        )
    }

    /// Whether it is a length of the body, estimated anew when the body is.
    fn is_of_the_body(self) -> bool {
        matches!(self, Self::Thigh | Self::Shank | Self::HipRise | Self::Arm)
    }
}

crate::rule::rules! {
    rules "Calibration";
    /// The most that calibration ever shifts a parameter from its prior.
    pub(crate) const BOUND_SD: f64 = 2.5, " standard deviations", House;
}

/// What else was not exactly known when a rider was calibrated, and how the fit would have answered it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Held {
    /// The doubt.
    pub doubt: String,
    /// How each fitted parameter would have moved, had it been one standard deviation more.
    pub response: Vec<f64>,
}

/// A fitted rider: how far each parameter is from its prior, and how far it may still be off.
///
/// The numbers stand in the order of the calibration's parameters and in their units.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Fit {
    /// Fitted minus prior.
    pub shifts: Vec<f64>,
    /// What the parameters may still be off by, together: the lower triangle of the covariance's root, row by row.
    pub spread: Vec<Vec<f64>>,
    /// What was held.
    pub held: Vec<Held>,
    /// Where the shifts of the heel's highest place begin; fits of before began at 270°.
    #[serde(default = "peak_before")]
    pub peak_from_deg: Sides<Degrees>,
}

impl Fit {
    /// What is wrong with it, pointing below `at`.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        let count = self.shifts.len();
        let whole = (BEFORE_THE_ELBOW..=FITTED.len()).contains(&count)
            && self.spread.len() == count
            && self
                .spread
                .iter()
                .enumerate()
                .all(|(row, line)| line.len() == row + 1)
            && self.held.iter().all(|held| held.response.len() == count);
        let numbers = (self.shifts.iter())
            .chain(self.spread.iter().flatten())
            .chain(self.held.iter().flat_map(|held| &held.response));
        if whole && numbers.into_iter().all(|n| n.abs() < 1000.0) {
            Vec::new()
        } else {
            vec![Refusal::new(
                at,
                format!(
                    "A calibration has {} parameters, a triangle of spreads and responses of that length",
                    FITTED.len()
                ),
            )]
        }
    }

    /// What it did not fit yet.
    pub(crate) fn left_out(&self) -> &'static [Place] {
        FITTED.get(self.shifts.len()..).unwrap_or_default()
    }

    /// The response to a doubt, none when it was not in doubt then.
    pub(crate) fn response(&self, doubt: &str) -> Option<&[f64]> {
        self.held
            .iter()
            .find(|held| held.doubt == doubt)
            .map(|held| held.response.as_slice())
    }
}

/// A rider as the linkage knows one.
#[derive(Debug, Clone, PartialEq)]
pub(crate) struct Person {
    pub(crate) rider: Rider,
    pub(crate) lengths: Lengths,
    pub(crate) biases: Biases,
    /// The centre of mass ahead of where the limbs put it, mm.
    pub(crate) mass_forward: f64,
    shifts: [f64; FITTED.len()],
}

impl Person {
    /// A rider with the fit's shifts, if there is one.
    pub(crate) fn of(rider: &Rider, fit: Option<&Fit>) -> Self {
        let person = Self {
            rider: *rider,
            lengths: rider.lengths(),
            biases: Biases::default(),
            mass_forward: 0.0,
            shifts: [0.0; FITTED.len()],
        };
        match fit {
            Some(fit) => {
                let mut person = person.fitted(fit.shifts.iter().copied());
                for side in Side::BOTH {
                    let from = *fit.peak_from_deg.of(side) - rider.pitch.of(side).peak_deg;
                    person.shift((Parameter::PitchPeak, Some(side)), from.0);
                }
                person
            }
            None => person,
        }
    }

    /// The same rider with every parameter shifted, in the order of the calibration's parameters.
    #[must_use]
    pub(crate) fn fitted(mut self, shifts: impl IntoIterator<Item = f64>) -> Self {
        for (index, (place, by)) in FITTED.into_iter().zip(shifts).enumerate() {
            self.shifts[index] += by;
            self.shift(place, by);
        }
        self
    }

    /// Moves one parameter.
    pub(crate) fn shift(&mut self, (parameter, side): Place, by: f64) {
        // A parameter of a leg names its side.
        let leg = side.unwrap_or(Side::Right);
        let lengths = &mut self.lengths;
        match parameter {
            Parameter::Thigh => lengths.legs.of_mut(leg).thigh.value_mm.0 += by,
            Parameter::Shank => lengths.legs.of_mut(leg).shank.value_mm.0 += by,
            Parameter::HipRise => {
                lengths.hip_rise_mm.0 += by;
                if let Some(rise) = &mut self.rider.pelvis.rise_mm {
                    rise.0 += by;
                }
            }
            Parameter::HipForward => self.rider.pelvis.forward_mm.0 += by,
            Parameter::Arm => {
                let upper = lengths.upper_arm.value_mm.0;
                let share = upper / lengths.arm().0;
                lengths.upper_arm.value_mm.0 += by * share;
                lengths.forearm.value_mm.0 += by * (1.0 - share);
            }
            Parameter::PitchMean => self.rider.pitch.of_mut(leg).mean_deg.0 += by,
            Parameter::PitchAmp => self.rider.pitch.of_mut(leg).amp_deg.0 += by,
            Parameter::PitchPeak => self.rider.pitch.of_mut(leg).peak_deg.0 += by,
            Parameter::KneeBias => self.biases.knee += by,
            Parameter::HipBias => self.biases.hip += by,
            Parameter::AnkleBias => self.biases.ankle += by,
            Parameter::TorsoBias => self.biases.torso += by,
            Parameter::ShoulderBias => self.biases.shoulder += by,
            Parameter::FootBias => self.biases.foot += by,
            Parameter::Elbow => self.rider.elbow_deg.0 += by,
            Parameter::MassForward => self.mass_forward += by,
        }
    }

    /// Estimates the lengths anew after the body was moved; what was fitted stays fitted.
    pub(crate) fn estimate_anew(&mut self) {
        let rise = self.rider.pelvis.rise_mm;
        self.lengths = self.rider.lengths();
        for (place, by) in FITTED.into_iter().zip(self.shifts) {
            if place.0.is_of_the_body() {
                self.shift(place, by);
            }
        }
        self.rider.pelvis.rise_mm = rise;
    }

    /// The value of a parameter.
    pub(crate) fn value(&self, (parameter, side): Place) -> f64 {
        let side = side.unwrap_or(Side::Right);
        let leg = self.lengths.legs.of(side);
        let pitch = self.rider.pitch.of(side);
        match parameter {
            Parameter::Thigh => leg.thigh.value_mm.0,
            Parameter::Shank => leg.shank.value_mm.0,
            Parameter::HipRise => {
                self.rider
                    .pelvis
                    .rise_mm
                    .unwrap_or(self.lengths.hip_rise_mm)
                    .0
            }
            Parameter::HipForward => self.rider.pelvis.forward_mm.0,
            Parameter::Arm => self.lengths.arm().0,
            Parameter::PitchMean => pitch.mean_deg.0,
            Parameter::PitchAmp => pitch.amp_deg.0,
            Parameter::PitchPeak => pitch.peak_deg.0,
            Parameter::KneeBias => self.biases.knee,
            Parameter::HipBias => self.biases.hip,
            Parameter::AnkleBias => self.biases.ankle,
            Parameter::TorsoBias => self.biases.torso,
            Parameter::ShoulderBias => self.biases.shoulder,
            Parameter::FootBias => self.biases.foot,
            Parameter::Elbow => self.rider.elbow_deg.0,
            Parameter::MassForward => self.mass_forward,
        }
    }

    /// Whether its two sides are known to be much alike: both estimated, or both a habit. What was measured is off on each
    /// side by itself.
    pub(crate) fn is_alike(&self, parameter: Parameter) -> bool {
        let estimated = |length: &dyn Fn(&LegLengths) -> Length| {
            Side::BOTH
                .iter()
                .all(|side| length(self.lengths.legs.of(*side)).source == Source::Estimated)
        };
        match parameter {
            Parameter::Thigh => estimated(&|leg| leg.thigh),
            Parameter::Shank => estimated(&|leg| leg.shank),
            Parameter::PitchMean | Parameter::PitchAmp | Parameter::PitchPeak => true,
            _ => false,
        }
    }

    /// One standard deviation of a parameter before anything is seen (the craft's priors).
    pub(crate) fn prior_sd(&self, (parameter, side): Place) -> f64 {
        let leg = self.lengths.legs.of(side.unwrap_or(Side::Right));
        match parameter {
            Parameter::Thigh => leg.thigh.spread_mm.0,
            Parameter::Shank => leg.shank.spread_mm.0,
            Parameter::HipRise => self.lengths.hip_rise_spread_mm.0,
            Parameter::HipForward => spread::HIP_FORWARD_MM,
            Parameter::Arm => rider::spread::ARM_AND_TRUNK,
            Parameter::PitchMean => spread::PITCH_MEAN_DEG,
            Parameter::PitchAmp => spread::PITCH_AMP_DEG,
            Parameter::PitchPeak => spread::PITCH_PEAK_DEG,
            Parameter::KneeBias => spread::KNEE_BIAS_DEG,
            Parameter::HipBias => spread::HIP_BIAS_DEG,
            Parameter::AnkleBias => spread::ANKLE_BIAS_DEG,
            Parameter::TorsoBias => spread::TORSO_BIAS_DEG,
            Parameter::ShoulderBias => spread::SHOULDER_BIAS_DEG,
            Parameter::FootBias => spread::FOOT_BIAS_DEG,
            Parameter::Elbow => spread::ELBOW_DEG,
            Parameter::MassForward => spread::MASS_FORWARD_MM,
        }
    }
}
