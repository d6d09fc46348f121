//! Loads: where the mass is, what the front wheel and the hands carry. Estimates, always called so; changes are worth
//! more than the values.
//!
//! Mass shares and centres: D. A. Winter, *Biomechanics and Motor Control of Human Movement*, after Dempster (1955).

use super::stroke::MeanLeg;
use super::{Leg, UpperPoints};
use crate::bike::BikePoints;
use crate::plane::Point;
use crate::units::{Kilograms, Millimetres, Sides};
use serde::{Deserialize, Serialize};

/// Share of the body's mass, and the centre from the proximal end as a share of the segment's length.
mod segment {
    crate::rule::rules! {
        rules "Mass share, and centre from the near end";
        /// Trunk.
        pub(super) const TRUNK: (f64, f64) = (0.497, 0.5), "", Published("D. A. Winter, Biomechanics and Motor Control of Human Movement, after Dempster (1955)");
        /// Head and neck.
        pub(super) const HEAD: f64 = 0.081, "", Published("D. A. Winter, Biomechanics and Motor Control of Human Movement, after Dempster (1955)");
        /// Upper arm, each.
        pub(super) const UPPER_ARM: (f64, f64) = (0.028, 0.436), "", Published("D. A. Winter, Biomechanics and Motor Control of Human Movement, after Dempster (1955)");
        /// Forearm, each.
        pub(super) const FOREARM: (f64, f64) = (0.016, 0.430), "", Published("D. A. Winter, Biomechanics and Motor Control of Human Movement, after Dempster (1955)");
        /// Hand, each.
        pub(super) const HAND: f64 = 0.006, "", Published("D. A. Winter, Biomechanics and Motor Control of Human Movement, after Dempster (1955)");
        /// Thigh, each.
        pub(super) const THIGH: (f64, f64) = (0.100, 0.433), "", Published("D. A. Winter, Biomechanics and Motor Control of Human Movement, after Dempster (1955)");
        /// Shank, each.
        pub(super) const SHANK: (f64, f64) = (0.0465, 0.433), "", Published("D. A. Winter, Biomechanics and Motor Control of Human Movement, after Dempster (1955)");
        /// Foot, each.
        pub(super) const FOOT: (f64, f64) = (0.0145, 0.5), "", Published("D. A. Winter, Biomechanics and Motor Control of Human Movement, after Dempster (1955)");
    }
}

crate::rule::rules! {
    own_rules "Loads";
    /// Standard gravity.
    const GRAVITY: f64 = 9.80665, " m/s²", Published("3rd General Conference on Weights and Measures, 1901");
    /// A bike's mass until it is weighed.
    const BIKE_KG: f64 = 9.0, " kg", House;
    /// A bike's centre of mass ahead of the BB.
    const BIKE_X_MM: f64 = 100.0, " mm", House;
    /// Share of the rider's weight that rests on the pedals without any torque.
    const RESTING_ON_PEDALS: f64 = 0.16, "", House;
}

/// Its lines of the table of rules.
pub(super) fn rules() -> Vec<crate::rule::Rule> {
    [own_rules(), segment::rules()].concat()
}

/// What the loads are worked out from.
pub(crate) struct LoadInput<'a> {
    pub(crate) mass: Kilograms,
    pub(crate) bike_mass: Option<Kilograms>,
    pub(crate) bike: &'a BikePoints,
    pub(crate) upper: &'a UpperPoints,
    pub(crate) legs: &'a Sides<Leg>,
    /// Where the rider sits and what the arms rest on.
    pub(crate) sit: Point,
    pub(crate) hand: Point,
    pub(crate) crank: Millimetres,
    /// The centre of mass ahead of where limbs of standard shares have it, mm: none until scales were read.
    pub(crate) mass_forward: f64,
    /// Power in watts and cadence in turns a minute.
    pub(crate) effort: Option<(f64, f64)>,
}

/// Loads of a position over a full stroke.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Loads {
    /// The rider's centre of mass.
    pub centre: Point,
    /// Share of rider and bike on the front wheel. Two floor scales measure the truth; around 40 is a common road aim.
    pub front_share_percent: f64,
    /// What both hands together carry, up on the rider positive, when an effort is known; on pads, the pads.
    pub hand_load_n: Option<f64>,
}

impl Loads {
    pub(crate) fn of(input: &LoadInput) -> Self {
        let centre = centre_of_mass(input.upper, input.legs) + Point::new(input.mass_forward, 0.0);
        let (rear, front) = (input.bike.rear_axle.x, input.bike.front_axle.x);
        let (rider, bike) = (input.mass.0, input.bike_mass.map_or(BIKE_KG, |m| m.0));
        let share = (rider * (centre.x - rear) + bike * (BIKE_X_MM - rear))
            / ((rider + bike) * (front - rear));
        Self {
            centre,
            front_share_percent: 100.0 * share,
            hand_load_n: input.effort.and_then(|effort| {
                hand_load(
                    rider,
                    centre.x,
                    input.sit.x,
                    input.hand.x,
                    input.crank,
                    effort,
                )
            }),
        }
    }
}

/// `[W (x_com − x_sit) − F_v (x_bb − x_sit) − 1000 P/ω] / (x_hand − x_sit)`, `F_v = .16 W + P/(ω r)`, N; moments
/// about the sit reference in N·mm. `None` where the hands are over the saddle.
fn hand_load(
    mass: f64,
    x_com: f64,
    x_sit: f64,
    x_hand: f64,
    crank: Millimetres,
    (power, cadence): (f64, f64),
) -> Option<f64> {
    let weight = mass * GRAVITY;
    let turning = cadence * std::f64::consts::TAU / 60.0;
    let on_pedals = RESTING_ON_PEDALS * weight + power / (turning * crank.0 / 1000.0);
    let arm = x_hand - x_sit;
    (arm > 1.0 && turning > 0.0)
        .then(|| (weight * (x_com - x_sit) + on_pedals * x_sit - 1000.0 * power / turning) / arm)
}

/// The whole body's centre of mass, the legs over a full stroke.
fn centre_of_mass(upper: &UpperPoints, legs: &Sides<Leg>) -> Point {
    let between = |a: Point, b: Point, (mass, along): (f64, f64)| (a + (b - a) * along) * mass;
    let arm = between(upper.shoulder, upper.elbow, segment::UPPER_ARM)
        + between(upper.elbow, upper.wrist, segment::FOREARM)
        + upper.hand * segment::HAND;
    let leg = |mean: &MeanLeg| {
        between(mean.hip, mean.knee, segment::THIGH)
            + between(mean.knee, mean.ankle, segment::SHANK)
            + between(mean.ankle, mean.ball, segment::FOOT)
    };
    between(upper.hip, upper.shoulder, segment::TRUNK)
        + upper.head * segment::HEAD
        + arm * 2.0
        + leg(&legs.left.mean)
        + leg(&legs.right.mean)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_shares_are_a_whole_body() {
        let paired = segment::UPPER_ARM.0
            + segment::FOREARM.0
            + segment::HAND
            + segment::THIGH.0
            + segment::SHANK.0
            + segment::FOOT.0;
        let whole = segment::TRUNK.0 + segment::HEAD + 2.0 * paired;
        assert!((whole - 1.0).abs() < 1e-9);
    }

    #[test]
    fn golden_hand_load() {
        // 75 kg: W = 735.499 N. 200 W at 90 rpm: ω = 9.42478, P/ω = 21.2207 N·m, crank .17 m: P/(ω r) = 124.827 N.
        // F_v = .16 × 735.499 + 124.827 = 242.507. x_com 60, x_sit −200, x_hand 560:
        // (735.499 × 260 − 242.507 × 200 − 21220.7) / 760 = (191229.7 − 48501.4 − 21220.7) / 760 = 159.878 N.
        let load = hand_load(75.0, 60.0, -200.0, 560.0, Millimetres(170.0), (200.0, 90.0)).unwrap();
        assert!((load - 159.878).abs() < 0.01, "{load}");
        // Harder pedalling lifts the hands.
        let hard = hand_load(75.0, 60.0, -200.0, 560.0, Millimetres(170.0), (400.0, 90.0)).unwrap();
        assert!(hard < load);
        assert_eq!(
            hand_load(
                75.0,
                60.0,
                -200.0,
                -200.0,
                Millimetres(170.0),
                (200.0, 90.0)
            ),
            None
        );
    }

    #[test]
    fn golden_centre_of_a_body_in_one_point() {
        let here = Point::new(3.0, 7.0);
        let upper = UpperPoints {
            hip: here,
            shoulder: here,
            elbow: here,
            wrist: here,
            hand: here,
            head: here,
        };
        let mut leg = crate::foresee::foresee(&crate::example::road())
            .unwrap()
            .before
            .legs
            .right;
        leg.mean = MeanLeg {
            hip: here,
            knee: here,
            ankle: here,
            ball: here,
        };
        assert!(centre_of_mass(&upper, &Sides::both(leg)).distance(here) < 1e-9);
    }
}
