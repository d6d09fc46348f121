//! Where in the torso's range a rider belongs: what the fit is for, hours seated, stiff hips or hamstrings, long rides, and
//! racing. It shifts what the bars' schools wish, with its reasons; a limit or a finding still beats it.

use crate::intake::{Experience, Goal, Intake};
use crate::position::Range;
use crate::rider::Rider;
use crate::rule::rules;
use crate::units::Side;
use crate::words::{lower, written};
use serde::Serialize;

rules! {
    rules "Lean";
    /// What the order of goals shifts at the most: comfort and freedom from injury up, speed down.
    const GOALS: f64 = 0.6, " of half the range", House;
    /// What each of the others does.
    const EACH: f64 = 0.25, " of half the range", House;
    /// Hours seated a day from here on stiffen.
    const SEATED_H: f64 = 8.0, " h", House;
    /// A straight leg raised no higher is stiff.
    const LEG_RAISE_DEG: f64 = 70.0, "°", House;
    /// A hip that bends no further is stiff.
    const HIP_DEG: f64 = 110.0, "°", House;
    /// Rides from this length on are long.
    const LONG_H: f64 = 5.0, " h", House;
    /// From this age on a racer is at the end of it.
    const END_OF_RACING: f64 = 50.0, " years", House;
    /// An arm span over this share of the stature is long: its rider wants the hands low.
    const LONG_ARMS: f64 = 1.05, " of the stature", House;
    /// An inseam under this share leaves a long trunk: so does its rider.
    const SHORT_LEGS: f64 = 0.455, " of the stature", House;
    /// Less than this shifts nothing.
    const WORTH: f64 = 0.2, " of half the range", House;
}

/// Where in a range of the torso a rider belongs.
#[derive(Debug, Clone, PartialEq, Default, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Lean {
    /// From −1, the low end, to 1, the upright one; 0 is the whole range.
    pub share: f64,
    /// Why, each in a few words.
    pub reasons: Vec<String>,
}

impl Lean {
    /// What intake and the table say of it; `age` in years, where it is known.
    pub fn of(intake: &Intake, rider: &Rider, age: Option<f64>) -> Self {
        let mut lean = Self::default();
        let mut add = |share: f64, reason: String| {
            lean.share += share;
            lean.reasons.push(reason);
        };
        if let Some(first) = intake.goals.0.first().and_then(|rank| rank.first()) {
            let weight = |goal| intake.goals.weight(goal);
            let upright = f64::midpoint(weight(Goal::Comfort), weight(Goal::Injury));
            let share = GOALS * (upright - weight(Goal::Speed)) / 6.0;
            add(share, format!("{} first", lower(first.label())));
        }
        if let Some(hours) = intake.seated_h.filter(|hours| *hours >= SEATED_H) {
            add(EACH, format!("{} h seated a day", written(hours)));
        }
        let least = |of: fn(&crate::rider::LegBody) -> Option<f64>| {
            let both = Side::BOTH.map(|side| of(rider.legs.of(side)));
            both.into_iter().flatten().min_by(f64::total_cmp)
        };
        let raise = least(|leg| leg.straight_leg_raise_deg.map(|angle| angle.0));
        if let Some(raise) = raise.filter(|raise| *raise < LEG_RAISE_DEG) {
            add(
                EACH,
                format!("stiff hamstrings, leg raised to {}°", written(raise)),
            );
        }
        let hip = least(|leg| leg.hip_limit_deg.map(|angle| angle.0));
        if let Some(hip) = hip.filter(|hip| *hip < HIP_DEG) {
            add(EACH, format!("a stiff hip, {}°", written(hip)));
        }
        let share = |mm: Option<crate::units::Millimetres>| Some(mm?.0 / rider.body.stature_mm.0);
        if share(rider.body.arm_span_mm).is_some_and(|share| share > LONG_ARMS) {
            add(-EACH, "long arms".to_owned());
        }
        if share(rider.body.inseam_mm).is_some_and(|share| share < SHORT_LEGS) {
            add(-EACH, "a long trunk over short legs".to_owned());
        }
        if let Some(hours) = intake.longest_ride_h.filter(|hours| *hours >= LONG_H) {
            add(EACH / 2.0, format!("rides of {} h", written(hours)));
        }
        if intake.experience == Some(Experience::Racing) {
            match age.filter(|age| *age >= END_OF_RACING) {
                Some(age) => add(EACH / 2.0, format!("racing at {}", written(age.floor()))),
                None => add(-EACH, "races".to_owned()),
            }
        }
        lean.share = lean.share.clamp(-1.0, 1.0);
        lean
    }

    /// The part of a range a rider with this lean belongs in: a third of it, or all while nothing leans.
    pub(super) fn part_of(&self, range: &Range) -> (f64, f64) {
        self.part((range.low, range.high))
    }

    /// The part of a range, low and high, a rider with this lean belongs in.
    pub fn part(&self, (low, high): (f64, f64)) -> (f64, f64) {
        if self.share.abs() < WORTH {
            return (low, high);
        }
        let third = (high - low) / 3.0;
        let middle = f64::midpoint(low, high) + self.share * third;
        (middle - third / 2.0, middle + third / 2.0)
    }

    /// "upright part of it: comfort first, 9 h seated a day"; none while nothing leans.
    pub(super) fn words(&self) -> Option<String> {
        (self.share.abs() >= WORTH).then(|| {
            format!(
                "{} for {}",
                if self.share > 0.0 {
                    "more upright"
                } else {
                    "lower"
                },
                self.reasons.join(", ")
            )
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::example;
    use crate::intake::Goals;
    use crate::units::Degrees;
    use Goal::{Comfort, Injury, Power, Speed};

    fn order(goals: [Goal; 4]) -> Intake {
        Intake {
            goals: Goals(goals.map(|goal| vec![goal]).to_vec()),
            ..Intake::default()
        }
    }

    #[test]
    fn the_order_of_goals_shifts_and_nothing_said_does_not() {
        let rider = example::road().rider;
        let of = |intake: &Intake| Lean::of(intake, &rider, None);
        assert_eq!(of(&Intake::default()), Lean::default());
        // 8, 6, 4, 2: (7 − 2) / 6 · 0.6 = 0.5; turned round (3 − 8) / 6 · 0.6 = −0.5.
        let up = of(&order([Comfort, Injury, Power, Speed]));
        assert!((up.share - 0.5).abs() < 1e-12, "{up:?}");
        assert_eq!(up.reasons, ["comfort first"]);
        let down = of(&order([Speed, Power, Injury, Comfort]));
        assert!((down.share + 0.5).abs() < 1e-12, "{down:?}");
    }

    #[test]
    fn a_body_and_a_desk_shift_too_and_racing_ends() {
        let mut rider = example::road().rider;
        let mut intake = Intake {
            seated_h: Some(9.0),
            ..Intake::default()
        };
        rider.legs.left.straight_leg_raise_deg = Some(Degrees(61.0));
        let lean = Lean::of(&intake, &rider, None);
        assert!((lean.share - 0.5).abs() < 1e-12, "{lean:?}");
        assert_eq!(
            lean.reasons,
            ["9 h seated a day", "stiff hamstrings, leg raised to 61°"]
        );
        // Long arms or a long trunk want the hands low, whatever the age.
        let mut built = example::road().rider;
        built.body.arm_span_mm = Some(crate::units::Millimetres(1.07 * built.body.stature_mm.0));
        built.body.inseam_mm = Some(crate::units::Millimetres(0.44 * built.body.stature_mm.0));
        let low = Lean::of(&Intake::default(), &built, Some(70.0));
        assert!((low.share + 0.5).abs() < 1e-12, "{low:?}");
        intake = Intake {
            experience: Some(Experience::Racing),
            ..Intake::default()
        };
        let rider = example::road().rider;
        assert!(Lean::of(&intake, &rider, Some(24.0)).share < 0.0);
        assert!(Lean::of(&intake, &rider, Some(57.0)).share > 0.0);
    }

    #[test]
    fn golden_the_upright_third() {
        // Of 40–50, a third is 3.33; all the way up: 46.67–50, half way: 45–48.33.
        let ride = example::road().check().unwrap();
        let hands = ride.position().hands;
        let torso = crate::measure::Output::Torso;
        let range = crate::position::range_of(&ride.ranges, torso, hands).unwrap();
        let (low, high) = (range.low, range.high);
        let part = |share: f64| {
            Lean {
                share,
                reasons: Vec::new(),
            }
            .part_of(&range)
        };
        let close = |a: (f64, f64), b: (f64, f64)| (a.0 - b.0).abs() + (a.1 - b.1).abs() < 1e-9;
        let third = (high - low) / 3.0;
        assert!(close(part(0.0), (low, high)));
        assert!(close(part(1.0), (high - third, high)));
        assert!(close(part(-1.0), (low, low + third)));
        assert!(close(part(0.5), (low + third * 1.5, low + third * 2.5)));
    }
}
