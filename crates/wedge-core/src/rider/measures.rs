//! The body as a fitter reads it: every measure taken or estimated, what is doubtful, what the proportions ask for.

use super::body::spread;
use super::{ArmBody, Body, LegBody, Length, Lengths, Source};
use crate::measure::{Quantity, Reading, Repeated};
use crate::rule::{Rule, rules};
use crate::units::{Side, Sides};
use crate::words::written;
use serde::{Deserialize, Serialize};

rules! {
    own_rules "Body";
    /// A measure further from what stature suggests, in standard deviations, is asked about.
    const DOUBTFUL_SD: f64 = 3.0, "", House;
    /// Left and right further apart than this are asked about.
    const SIDES_APART_MM: f64 = 15.0, " mm", House;
}

/// Readings of one measure taken together.
#[derive(Debug, Clone, PartialEq)]
pub struct Taken {
    /// What was measured.
    pub quantity: Quantity,
    /// On which side, for what the body has twice; both when none.
    pub side: Option<Side>,
    /// Each reading, in the order they were taken.
    pub values: Vec<f64>,
}

impl Taken {
    /// What the readings say together; `None` without any.
    pub fn repeated(&self) -> Option<Repeated> {
        Repeated::of(&self.values, &self.quantity.spec())
    }

    /// Their mean as one reading.
    pub fn reading(&self) -> Option<Reading> {
        Some(Reading {
            side: self.side,
            ..Reading::new(self.quantity, self.repeated()?.mean)
        })
    }
}

/// One measure of the body.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BodyMeasure {
    /// What it is.
    pub quantity: Quantity,
    /// Which side, where the body has two.
    pub side: Option<Side>,
    /// The mean of the readings.
    pub measured: Option<f64>,
    /// What is estimated without them, where anything can be.
    pub estimate: Option<f64>,
    /// One standard deviation of the estimate.
    pub estimate_spread: Option<f64>,
    /// What the readings say together.
    pub repeated: Option<Repeated>,
    /// What is doubtful, to be measured again or kept.
    pub questions: Vec<String>,
}

/// What was measured of a body.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Measured {
    /// Both sides together.
    pub body: Body,
    /// Each leg.
    pub legs: Sides<LegBody>,
    /// Each arm.
    pub arms: Sides<ArmBody>,
}

impl Measured {
    fn lengths(&self) -> Lengths {
        Lengths::of(&self.body, &self.legs, &self.arms)
    }

    fn get(&self, quantity: Quantity, side: Side) -> Option<f64> {
        (self.body.get(quantity))
            .or_else(|| self.legs.of(side).get(quantity))
            .or_else(|| self.arms.of(side).get(quantity))
    }

    /// The same without one measure.
    fn without(&self, quantity: Quantity, side: Option<Side>) -> Self {
        let mut rest = *self;
        rest.body.clear(quantity);
        for side in Side::BOTH
            .into_iter()
            .filter(|s| side.is_none_or(|side| side == *s))
        {
            rest.legs.of_mut(side).clear(quantity);
            rest.arms.of_mut(side).clear(quantity);
        }
        rest
    }

    /// What is estimated of a measure, and its spread.
    fn estimate(&self, quantity: Quantity, side: Option<Side>) -> Option<(f64, f64)> {
        let lengths = self.without(quantity, side).lengths();
        let stature = self.body.stature_mm.0;
        let of = |length: Length| Some((length.value_mm.0, length.spread_mm.0));
        let leg = lengths.legs.of(side.unwrap_or(Side::Right));
        match quantity {
            Quantity::Inseam => of(lengths.inseam),
            Quantity::Trunk => of(lengths.trunk),
            Quantity::ShoulderBreadth => of(lengths.shoulder_breadth),
            Quantity::UpperArm => of(lengths.upper_arm),
            Quantity::Forearm => of(lengths.forearm),
            Quantity::Thigh => of(leg.thigh),
            Quantity::Shank => of(leg.shank),
            Quantity::AnkleHeight => of(leg.ankle_height),
            Quantity::FootLength => of(leg.foot_length),
            Quantity::Arm => Some((lengths.arm().0, spread::ARM_AND_TRUNK)),
            // Shoes add 25 mm or so; spans are a little over the stature (house choices, to doubt by only).
            Quantity::InseamShod => {
                Some((lengths.inseam.value_mm.0 + 25.0, lengths.inseam.spread_mm.0))
            }
            Quantity::ArmSpan => Some((1.01 * stature, 0.03 * stature)),
            _ => None,
        }
    }
}

/// Every measure of the body in the order it is taken, with what is doubtful.
///
/// A reading far from what the rest of the body suggests is questioned; one that was taken twice, and agrees with
/// itself, is believed.
pub fn measures(measured: &Measured, taken: &[Taken]) -> Vec<BodyMeasure> {
    let ours = |quantity: &Quantity| {
        Body::QUANTITIES.contains(quantity)
            || LegBody::QUANTITIES.contains(quantity)
            || ArmBody::QUANTITIES.contains(quantity)
    };
    Quantity::ALL
        .iter()
        .copied()
        .filter(ours)
        .flat_map(|quantity| {
            let sides = Side::each(quantity.spec().per_side);
            sides.iter().map(move |side| (quantity, *side))
        })
        .map(|(quantity, side)| one(measured, taken, quantity, side))
        .collect()
}

fn one(
    measured: &Measured,
    taken: &[Taken],
    quantity: Quantity,
    side: Option<Side>,
) -> BodyMeasure {
    let estimate = measured.estimate(quantity, side);
    let repeated = taken
        .iter()
        .rev()
        .find(|t| t.quantity == quantity && (t.side == side || t.side.is_none()))
        .and_then(Taken::repeated);
    let value = measured.get(quantity, side.unwrap_or(Side::Right));
    let mut questions: Vec<String> = repeated.iter().filter_map(|r| r.question.clone()).collect();
    // Taken twice and agreeing with itself: it is the rider who is unusual.
    let confirmed = repeated
        .as_ref()
        .is_some_and(|r| r.spread.is_some() && r.far.is_empty());
    if let Some(value) = value
        && !confirmed
    {
        questions.extend(doubt(measured, quantity, value, estimate));
    }
    if let (Some(value), Some(side)) = (value, side) {
        questions.extend(apart(measured, quantity, side, value));
    }
    BodyMeasure {
        quantity,
        side,
        measured: value,
        estimate: estimate.map(|(value, _)| value),
        estimate_spread: estimate.map(|(_, spread)| spread),
        repeated,
        questions,
    }
}

/// Why a value is doubtful.
fn doubt(
    measured: &Measured,
    quantity: Quantity,
    value: f64,
    estimate: Option<(f64, f64)>,
) -> Option<String> {
    let unit = quantity.spec().unit.suffix();
    if quantity == Quantity::Mass {
        let height = measured.body.stature_mm.0 / 1000.0;
        let index = value / (height * height);
        return (!(15.0..=45.0).contains(&index)).then(|| {
            format!(
                "{} kg on {} mm of stature is unusual: weigh again, or keep it by entering it twice",
                written(value),
                written(measured.body.stature_mm.0)
            )
        });
    }
    let (expected, spread) = estimate?;
    ((value - expected).abs() > DOUBTFUL_SD * spread).then(|| {
        format!(
            "{}{unit} is {}{unit} {} what the rest of the body suggests ({} ± {}): measure again; a second reading \
             that agrees settles it",
            written(value),
            written((value - expected).abs()),
            if value > expected { "over" } else { "under" },
            written(expected),
            written(spread),
        )
    })
}

/// Left and right further apart than legs and arms usually are; said once, at the shorter.
fn apart(measured: &Measured, quantity: Quantity, side: Side, value: f64) -> Option<String> {
    let bone = matches!(
        quantity,
        Quantity::Thigh
            | Quantity::Shank
            | Quantity::Arm
            | Quantity::UpperArm
            | Quantity::Forearm
            | Quantity::FootLength
    );
    let other = measured.get(quantity, side.other()).filter(|_| bone)?;
    (other - value > SIDES_APART_MM).then(|| {
        format!(
            "{} mm shorter than the {}: measure both again before it counts as a difference",
            written(other - value),
            side.other().word()
        )
    })
}

/// A proportion outside the usual, and what it usually asks for.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Proportion {
    /// What is unusual.
    pub words: String,
    /// What it usually asks for.
    pub asks_for: String,
}

/// Shares outside which a proportion is pointed out, around the typical ones.
mod usual {
    crate::rule::rules! {
        rules "Usual proportion";
        /// Inseam as a share of stature.
        pub(super) const LEGS: (f64, f64) = (0.455, 0.495), "", House;
        /// Arm span as a share of stature.
        pub(super) const SPAN: (f64, f64) = (0.97, 1.05), "", House;
        /// Thigh as a share of thigh and shank.
        pub(super) const THIGH_IN_LEG: (f64, f64) = (0.475, 0.525), "", House;
    }
}

/// Its lines of the table of rules.
pub(super) fn rules() -> Vec<Rule> {
    [own_rules(), usual::rules()].concat()
}

/// The rider's proportions outside the usual.
pub fn proportions(measured: &Measured) -> Vec<Proportion> {
    let stature = measured.body.stature_mm.0;
    let lengths = measured.lengths();
    let mut all = Vec::new();
    let mut point_out =
        |value: f64, (low, high): (f64, f64), below: [&str; 2], above: [&str; 2]| {
            let [words, asks_for] = if value < low {
                below
            } else if value > high {
                above
            } else {
                return;
            };
            all.push(Proportion {
                words: format!("{words} ({} %)", written(100.0 * value)),
                asks_for: asks_for.to_owned(),
            });
        };
    if let Some(inseam) = measured.body.inseam_mm {
        point_out(
            inseam.0 / stature,
            usual::LEGS,
            [
                "Short legs with a long trunk: inseam by stature",
                "Low bars and a steep or longer stem; watch the crank, it is long for this leg sooner than the frame says",
            ],
            [
                "Long legs with a short trunk: inseam by stature",
                "High bars close by, so a tall frame with a short reach; a saddle far up and back; cranks by function, not by frame",
            ],
        );
    }
    if let Some(span) = measured.body.arm_span_mm {
        point_out(
            span.0 / stature,
            usual::SPAN,
            [
                "Short arms: span by stature",
                "Shorter reach before higher bars: arm length decides drop more than suppleness",
            ],
            [
                "Long arms: span by stature",
                "Lower bars are within reach without closing the hip more",
            ],
        );
    }
    let leg = lengths.legs.right;
    if leg.thigh.source == Source::Measured && leg.shank.source == Source::Measured {
        point_out(
            leg.thigh.value_mm.0 / (leg.thigh.value_mm.0 + leg.shank.value_mm.0),
            usual::THIGH_IN_LEG,
            [
                "Short thighs: thigh by leg",
                "The knee comes out behind the axle sooner: look at setback before height",
            ],
            [
                "Long thighs: thigh by leg",
                "The knee comes out ahead of the axle: more setback, and room at the top of the stroke",
            ],
        );
    }
    all
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::Millimetres;

    fn measured(stature: f64, inseam: Option<f64>) -> Measured {
        Measured {
            body: Body {
                inseam_mm: inseam.map(Millimetres),
                ..Body::new(Millimetres(stature))
            },
            legs: Sides::default(),
            arms: Sides::default(),
        }
    }

    fn taken(quantity: Quantity, values: &[f64]) -> Taken {
        Taken {
            quantity,
            side: None,
            values: values.to_vec(),
        }
    }

    fn of(all: &[BodyMeasure], quantity: Quantity, side: Option<Side>) -> &BodyMeasure {
        all.iter()
            .find(|m| m.quantity == quantity && m.side == side)
            .unwrap()
    }

    #[test]
    fn an_inseam_of_700_on_a_rider_of_1900_is_questioned_until_it_is_taken_again() {
        // .475 × 1900 = 902.5, 202.5 over; three spreads are 60.
        let rider = measured(1900.0, Some(700.0));
        assert!(rider.body.proportion_refusal("").is_none());
        let once = measures(&rider, &[taken(Quantity::Inseam, &[700.0])]);
        let question = &of(&once, Quantity::Inseam, None).questions[0];
        assert!(
            question.starts_with("700 mm is 202.5 mm under what"),
            "{question}"
        );
        let twice = measures(&rider, &[taken(Quantity::Inseam, &[700.0, 702.0])]);
        assert!(of(&twice, Quantity::Inseam, None).questions.is_empty());
    }

    #[test]
    fn a_usual_body_raises_no_question_and_every_length_has_an_estimate() {
        let rider = measured(1780.0, Some(845.0));
        let all = measures(&rider, &[]);
        assert!(all.iter().all(|m| m.questions.is_empty()));
        for side in Side::BOTH {
            let thigh = of(&all, Quantity::Thigh, Some(side));
            assert_eq!(thigh.measured, None);
            assert!(thigh.estimate_spread.unwrap() > 10.0);
        }
        assert!(proportions(&rider).is_empty());
    }

    #[test]
    fn a_leg_much_shorter_than_the_other_is_questioned_at_the_shorter() {
        let mut rider = measured(1780.0, None);
        rider.legs.left.thigh_mm = Some(Millimetres(415.0));
        rider.legs.right.thigh_mm = Some(Millimetres(440.0));
        let all = measures(&rider, &[]);
        let at = |side| of(&all, Quantity::Thigh, Some(side)).questions.len();
        assert_eq!((at(Side::Left), at(Side::Right)), (1, 0));
    }

    #[test]
    fn proportions_outside_the_usual_say_what_they_ask_for() {
        let long_legs = proportions(&measured(1780.0, Some(900.0)));
        assert_eq!(
            long_legs[0].words,
            "Long legs with a short trunk: inseam by stature (50.6 %)"
        );
        let mut long_arms = measured(1780.0, Some(800.0));
        long_arms.body.arm_span_mm = Some(Millimetres(1890.0));
        let both = proportions(&long_arms);
        assert_eq!(both.len(), 2);
        assert!(both[0].asks_for.contains("steep"));
    }

    #[test]
    fn a_known_difference_moves_the_estimates_and_follows_the_measured_bone() {
        let mut rider = measured(1780.0, Some(845.5));
        let even = rider.lengths().legs.left.shank.value_mm.0;
        rider.legs.left.shank_shorter_mm = Some(Millimetres(12.0));
        let legs = rider.lengths().legs;
        assert!((legs.left.shank.value_mm.0 - (even - 6.0)).abs() < 1e-9);
        assert!((legs.right.shank.value_mm.0 - (even + 6.0)).abs() < 1e-9);
        rider.legs.right.shank_mm = Some(Millimetres(440.0));
        let legs = rider.lengths().legs;
        assert!((legs.left.shank.value_mm.0 - 428.0).abs() < 1e-9);
        assert!(legs.left.shank.spread_mm.0 < 12.0);
    }

    #[test]
    fn an_arm_measured_as_a_whole_keeps_its_proportion() {
        // 1800: 334.8 + 262.8 + .36 × 194.4 = 667.6 without; measured 700 adds 32.4 in proportion.
        let mut rider = measured(1800.0, None);
        assert!((rider.lengths().arm().0 - 667.584).abs() < 1e-6);
        for side in Side::BOTH {
            rider.arms.of_mut(side).arm_mm = Some(Millimetres(700.0));
        }
        let lengths = rider.lengths();
        assert!((lengths.arm().0 - 700.0).abs() < 1e-9);
        let share = lengths.upper_arm.value_mm.0 / lengths.forearm.value_mm.0;
        assert!((share - 186.0 / 146.0).abs() < 1e-9);
    }
}
