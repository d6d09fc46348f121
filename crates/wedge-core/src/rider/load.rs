//! Loads: where the mass is, what the front wheel and the hands carry. Estimates, always called so; changes are worth
//! more than the values.
//!
//! Mass shares and centres: D. A. Winter, *Biomechanics and Motor Control of Human Movement*, after Dempster (1955).

use super::stroke::MeanLeg;
use super::{Leg, UpperPoints};
use crate::bike::{BikePoints, Frame};
use crate::measure::Refusal;
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
    /// And above it.
    const BIKE_Y_MM: f64 = 150.0, " mm", House;
    /// Share of the rider's weight that rests on the pedals without any torque.
    const RESTING_ON_PEDALS: f64 = 0.16, "", House;
}

/// Its lines of the table of rules.
pub(super) fn rules() -> Vec<crate::rule::Rule> {
    [own_rules(), scale_rules(), segment::rules()].concat()
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
    /// Rise of the road over its length level, uphill positive.
    pub(crate) slope: f64,
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
        // On a grade what stands h above the ground weighs as if it stood h × slope further back.
        let ground = input.bike.ground_mm.0;
        let back = |height: f64| (height - ground) * input.slope;
        let share = share(
            (rider, centre.x - back(centre.y)),
            (bike, BIKE_X_MM - back(BIKE_Y_MM)),
            (rear, front),
        );
        Self {
            centre,
            front_share_percent: 100.0 * share,
            hand_load_n: input.effort.and_then(|effort| {
                // The weight leans by the grade: so much of it is square to the bike, and so much further back.
                let from_sit = centre - input.sit;
                hand_load(
                    rider / input.slope.hypot(1.0),
                    input.sit.x + from_sit.x - from_sit.y * input.slope,
                    input.sit.x,
                    input.hand.x,
                    input.crank,
                    effort,
                )
            }),
        }
    }

    /// The front wheel's share, percent, with the same rider in the same place on another frame that stands level.
    pub(crate) fn front_share_on(&self, rider: Kilograms, frame: &Frame) -> f64 {
        let bike = frame.bike_mass_kg.map_or(BIKE_KG, |mass| mass.0);
        let axles = (frame.rear_axle().x, frame.front_axle().x);
        100.0 * share((rider.0, self.centre.x), (bike, BIKE_X_MM), axles)
    }
}

/// The front wheel's share of rider and bike, each a mass and where it stands, between the axles.
fn share((rider, at): (f64, f64), (bike, bike_at): (f64, f64), (rear, front): (f64, f64)) -> f64 {
    (rider * (at - rear) + bike * (bike_at - rear)) / ((rider + bike) * (front - rear))
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

crate::rule::rules! {
    scale_rules "Scales";
    /// How far one of two floor scales is off, one standard deviation.
    const SCALE_KG: f64 = 0.3, " kg", House;
    /// What a scale under a wheel reads at the most, with a rider and a bike on two of them.
    const MOST_KG: f64 = 200.0, " kg", House;
    /// A common aim for the front wheel's share on a road bike.
    const AIM_PERCENT: f64 = 40.0, " %", Workshop;
    /// Rider and bike on the scales may differ from what they were weighed at by this before it is asked about.
    const OFF_KG: f64 = 4.0, " kg", House;
}

/// What two scales read, one under each wheel.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Weighed {
    /// Under the front wheel, kg.
    pub front_kg: f64,
    /// Under the rear wheel, kg.
    pub rear_kg: f64,
    /// What the front carries of both, %.
    pub front_percent: f64,
    /// One standard deviation of that, from what scales are off by.
    pub spread: f64,
}

impl Weighed {
    /// `100 F / (F + R)`; its spread, first order, is `100 σ √(F² + R²) / (F + R)²`.
    ///
    /// # Errors
    ///
    /// What no scale under a wheel reads, each beside its field.
    pub fn of(front_kg: f64, rear_kg: f64) -> Result<Self, Vec<Refusal>> {
        let read = |kg: f64, at: &str| {
            let is_read = kg.is_finite() && kg > 0.0 && kg <= MOST_KG;
            (!is_read).then(|| Refusal::new(at, format!("Above 0 and up to {MOST_KG} kg")))
        };
        let refused: Vec<Refusal> = [read(front_kg, "/front_kg"), read(rear_kg, "/rear_kg")]
            .into_iter()
            .flatten()
            .collect();
        if !refused.is_empty() {
            return Err(refused);
        }
        let sum = front_kg + rear_kg;
        Ok(Self {
            front_kg,
            rear_kg,
            front_percent: 100.0 * front_kg / sum,
            spread: 100.0 * SCALE_KG * front_kg.hypot(rear_kg) / (sum * sum),
        })
    }
}

/// What scales tell, in sentences: beside the estimate and its band, the aim, what was read before, and what rider and bike were
/// weighed at apart.
pub fn front_share_words(
    weighed: &Weighed,
    estimated: Option<(f64, f64)>,
    before: Option<f64>,
    apart_kg: Option<f64>,
) -> Vec<String> {
    let percent = |value: f64| format!("{value:.1} %");
    let mut all = vec![format!(
        "The front wheel carries {} ± {:.1}, the rear {}.",
        percent(weighed.front_percent),
        weighed.spread,
        percent(100.0 - weighed.front_percent)
    )];
    if let Some((value, band)) = estimated {
        let off = weighed.front_percent - value;
        let doubt = band.hypot(weighed.spread);
        let how = if off.abs() <= doubt {
            "within its doubt"
        } else {
            "outside its doubt: the scales are right"
        };
        all.push(format!("Estimated {} ± {band:.1}: {how}.", percent(value)));
    }
    let off = weighed.front_percent - AIM_PERCENT;
    all.push(if off.abs() <= 2.0 * weighed.spread {
        "That is the common aim of 40 to 60.".to_owned()
    } else {
        format!(
            "The common aim on the road is 40 to 60: the front carries {} {}.",
            percent(off.abs()),
            if off > 0.0 { "more" } else { "less" }
        )
    });
    if let Some(before) = before {
        let by = weighed.front_percent - before;
        let real = by.abs() > 2.0 * weighed.spread * std::f64::consts::SQRT_2;
        all.push(format!(
            "Before it was {}: {}.",
            percent(before),
            if real {
                format!("{by:+.1} %")
            } else {
                "no difference the scales tell".to_owned()
            }
        ));
    }
    let sum = weighed.front_kg + weighed.rear_kg;
    if let Some(apart) = apart_kg.filter(|apart| (sum - apart).abs() > OFF_KG) {
        all.push(format!(
            "Rider and bike weigh {sum:.1} kg on the scales and {apart:.1} apart: are both scales level, and on hard floor?"
        ));
    }
    all
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

    #[test]
    fn two_scales_tell_the_share_and_its_spread() {
        // 33.2 of 83: 40 %; 100 · 0.3 · √(33.2² + 49.8²) / 83² = 0.26.
        let weighed = Weighed::of(33.2, 49.8).unwrap();
        assert!((weighed.front_percent - 40.0).abs() < 1e-9);
        assert!((weighed.spread - 0.2606).abs() < 1e-3, "{}", weighed.spread);
        let words = front_share_words(&weighed, Some((41.0, 1.5)), Some(42.0), Some(83.5));
        assert!(words[0].starts_with("The front wheel carries 40.0 % ± 0.3, the rear 60.0 %"));
        assert!(words[1].contains("within its doubt"));
        assert!(words[2].contains("common aim of 40 to 60"));
        assert_eq!(words[3], "Before it was 42.0 %: -2.0 %.");
        assert_eq!(words.len(), 4, "half a kilo is no reason to ask");
    }

    #[test]
    fn what_the_scales_cannot_have_read_is_refused_beside_its_field() {
        let refused = Weighed::of(-1.0, 900.0).unwrap_err();
        let pointers: Vec<&str> = refused.iter().map(|r| r.pointer.as_str()).collect();
        assert_eq!(pointers, ["/front_kg", "/rear_kg"]);
        assert!(Weighed::of(f64::NAN, 40.0).is_err());
        let words = front_share_words(
            &Weighed::of(40.0, 40.0).unwrap(),
            None,
            Some(50.1),
            Some(90.0),
        );
        assert!(words[1].contains("10.0 % more"));
        assert!(words[2].contains("no difference the scales tell"));
        assert!(words[3].contains("level"));
    }
}
