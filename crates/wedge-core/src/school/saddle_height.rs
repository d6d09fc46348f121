//! Saddle height: multiples of the inseam, the straight leg on the heel, the knee's angle moving and still, and the
//! result of creeping up, on one scale.
//!
//! What follows from the linkage is solved with the rider as calibrated; before that it is as uncertain as the rider's
//! lengths, and says so. Everything is found as travel of the post and read in the chosen convention.

use super::decision::{self, Decision, Scale, Wish};
use crate::bike::Pedalling;
use crate::foresee::{Bound, Change, Step, Trying, post_travel};
use crate::measure::{Convention, Output, Quantity, half_mm};
use crate::position::{INSEAM_MULTIPLE, Position, Range, Ride, range_of};
use crate::rider::{FootPitch, LegLengths};
use crate::rule::rules;
use crate::solve::heel_travel;
use crate::trial::{BACK_OFF_MM, Crept};
use crate::units::{Degrees, Millimetres, Side, Sides};
use crate::words::{lower, words, written};

words! {
    /// A school of saddle height.
    pub enum HeightSchool {
        KneeMoving "knee_moving" "Knee angle, moving",
        KneeStill "knee_still" "Knee angle, still",
        CreepUp "creep_up" "Creep up",
        Heel "heel" "Straight leg on the heel",
        Inseam "inseam" "Inseam, BB to top",
        InseamAxle "inseam_axle" "Inseam, axle to top",
        FirstRide "first_ride" "Inseam, a safe first ride",
    }
}

rules! {
    rules "Saddle height";
    /// Variants of that multiple.
    const INSEAM_VARIANTS: (f64, f64) = (0.88, 0.885), " × inseam", Workshop;
    /// Pedal axle at its farthest to saddle top, as a multiple of the barefoot inseam.
    const INSEAM_AXLE: f64 = 1.09, " × inseam", Workshop;
    /// Pedal axle at its farthest to saddle top on a new rider's first ride: low, and safe.
    const FIRST_RIDE: f64 = 1.0, " × inseam", Workshop;
    /// The knee of a rider who stands still, with a goniometer.
    const STILL_DEG: (f64, f64) = (25.0, 35.0), "°", Workshop;
    /// Still, the heel settles and the knee reads this much straighter than moving.
    const STILL_LESS_DEG: f64 = 5.0, "°", House;
    /// Schools further apart than this are explained.
    const APART_MM: f64 = 15.0, " mm", Workshop;
    /// A reason is told when it makes up this share of the difference.
    const WORTH_TELLING: f64 = 0.2, "", House;
    /// Legs that ask for heights closer than this ask for the same.
    const LEGS_ALIKE_MM: f64 = 2.0, " mm", House;
    /// A saddle this close to what a school wants is there.
    const THERE_MM: f64 = 1.0, " mm", House;
    /// Ordinary pedal, sole and what else lies between axle and foot, together.
    const STACK_MM: f64 = 22.0, " mm", House;
    /// An ordinary crank, as a share of the inseam.
    const CRANK_SHARE: f64 = 0.208, " of the inseam", House;
    /// An ordinary cleat behind the joint.
    const CLEAT_MM: f64 = 12.0, " mm", House;
}

/// Saddle height, as travel of the post from where the saddle stands.
struct Height<'a> {
    trying: &'a Trying<'a>,
    knee: Range,
    crept: Option<Crept>,
    /// How far a height the linkage gives may be off.
    band: Option<f64>,
    /// The most the saddle moves in one trial.
    at_once: f64,
}

impl<'a> Height<'a> {
    /// `None` where a kind of riding has no range for the knee.
    fn of(trying: &'a Trying<'a>, crept: Option<Crept>) -> Option<Self> {
        let hands = trying.before.hands;
        Some(Self {
            knee: range_of(&trying.ranges, Output::KneeAtFullReach, hands)?,
            trying,
            crept,
            band: None,
            at_once: 0.0,
        })
    }

    fn after(&self, travel: f64) -> Option<Position> {
        self.trying
            .plain(&[Change::by(Quantity::SaddleHeight, travel)])
    }

    /// The travel at which a leg's smallest flexion is `wanted`.
    fn for_knee(&self, side: Side, wanted: f64) -> Option<f64> {
        let error = |p: &Position| p.legs.of(side).knee.smallest_deg.0 - wanted;
        post_travel(error(&self.trying.before), |travel| {
            self.after(travel).map(|p| error(&p))
        })
    }

    /// Whether the two legs are alike, so that one answers for both.
    fn alike(&self) -> bool {
        let knee = |side| self.trying.before.legs.of(side).knee.smallest_deg.0;
        (knee(Side::Left) - knee(Side::Right)).abs() < 1e-9
    }

    /// What each leg wants of `solve`.
    fn each(&self, solve: impl Fn(Side) -> Option<f64>) -> Option<Sides<f64>> {
        let right = solve(Side::Right)?;
        let left = if self.alike() {
            right
        } else {
            solve(Side::Left)?
        };
        Some(Sides { left, right })
    }

    /// How far a height the linkage gives may be off: the knee's band over what a mm of saddle does to it.
    fn linkage_band(&self) -> Option<f64> {
        let band = self.trying.band(Output::KneeAtFullReach);
        let knee = |travel: f64| self.after(travel).map(|p| p.knee_at_full_reach());
        let slope = (knee(2.0)? - knee(-2.0)?) / 4.0;
        (slope.abs() > 0.05).then(|| band / slope.abs())
    }

    fn range(&self, school: HeightSchool) -> (f64, f64) {
        match school {
            // Read still, the knee is straighter than the linkage's moving one.
            HeightSchool::KneeStill => (STILL_DEG.0 + STILL_LESS_DEG, STILL_DEG.1 + STILL_LESS_DEG),
            _ => (self.knee.low, self.knee.high),
        }
    }

    /// The middle of what a school wants, nothing else.
    fn middle(&self, school: HeightSchool) -> Option<f64> {
        let sides = match school {
            HeightSchool::KneeMoving | HeightSchool::KneeStill => {
                let (low, high) = self.range(school);
                self.each(|side| self.for_knee(side, f64::midpoint(low, high)))?
            }
            HeightSchool::Heel => self.each(|side| heel_travel(self.trying, side))?,
            HeightSchool::Inseam => Sides::both(self.multiple(school, INSEAM_MULTIPLE)?),
            HeightSchool::InseamAxle => Sides::both(self.multiple(school, INSEAM_AXLE)?),
            HeightSchool::FirstRide => Sides::both(self.multiple(school, FIRST_RIDE)?),
            HeightSchool::CreepUp => Sides::both(self.crept_to(&self.crept?)?.0),
        };
        Some(f64::midpoint(sides.left, sides.right))
    }

    /// The travel at which the knee is as it was where creeping up ended, and how much of it is due to what was changed
    /// below and beside the saddle since.
    fn crept_to(&self, crept: &Crept) -> Option<(f64, f64)> {
        let there = (self.trying).post_to(Convention::SaddleHeightStraight, crept.straight_mm)?;
        let error = |carried: f64| {
            let after = self.after(there + carried)?;
            Some(after.knee_at_full_reach() - crept.knee_deg)
        };
        let carried = post_travel(error(0.0)?, error)?;
        Some((there + carried, carried))
    }

    /// Low and safe: whoever is new to it begins there, or higher.
    fn first_ride(&self) -> Option<Wish> {
        let inseam = self.trying.lengths().inseam;
        let place = self.multiple(HeightSchool::FirstRide, FIRST_RIDE)?;
        Some(Wish {
            band: Some(FIRST_RIDE * inseam.spread_mm.0),
            bound: Some(Bound::AtLeast),
            estimated: self.trying.rider.body.inseam_mm.is_none(),
            words: format!(
                "pedal to saddle as long as the {} mm inseam: safe for a rider new to it, who then creeps up",
                written(inseam.value_mm.0)
            ),
            ..Wish::around(place, 0.0)
        })
    }

    /// The travel at which the saddle stands a multiple of the inseam away.
    fn multiple(&self, school: HeightSchool, times: f64) -> Option<f64> {
        let inseam = self.trying.lengths().inseam.value_mm.0;
        let convention = match school {
            HeightSchool::InseamAxle | HeightSchool::FirstRide => Convention::SaddleHeightFromAxle,
            _ => Convention::SaddleHeightSeatTube,
        };
        self.trying.post_to(convention, times * inseam)
    }
}

/// What the legs want, where they want different things.
fn apart_enough(sides: Sides<f64>) -> Option<Sides<f64>> {
    ((sides.left - sides.right).abs() >= LEGS_ALIKE_MM).then_some(sides)
}

/// Saddle height as every school wants it. `None` where a kind of riding has no range for the knee.
///
/// `crept` is what the last creep-up found, `at_once` the most the saddle moves in one trial.
pub fn scale(
    trying: &Trying,
    crept: Option<Crept>,
    lead: HeightSchool,
    at_once: f64,
) -> Option<Scale> {
    let height = Height::of(trying, crept)?;
    let height = Height {
        band: height.linkage_band(),
        at_once,
        ..height
    };
    Some(decision::scale(&height, lead))
}

/// Where on the setup of a ride the knee is as it was where creeping up ended, in words, when that is another height by
/// now.
pub fn crept_by_now(trying: &Trying, crept: &Crept) -> Option<String> {
    let (travel, carried) = Height::of(trying, Some(*crept))?.crept_to(crept)?;
    (carried.abs() >= THERE_MM).then(|| {
        format!(
            "Creep up: what is under the leg or the setback changed since; by now that height is {} mm.",
            written(trying.height_at(travel))
        )
    })
}

impl Decision for Height<'_> {
    type School = HeightSchool;

    const ROOM: f64 = 4.0;
    const QUANTITY: Quantity = Quantity::SaddleHeight;

    fn on(&self) -> &Trying<'_> {
        self.trying
    }

    fn now(&self) -> f64 {
        0.0
    }

    fn wish(&self, school: HeightSchool) -> Result<Wish, String> {
        const NOWHERE: &str = "No height of this post gets there";
        let inseam = self.trying.lengths().inseam;
        let of_inseam = |times: f64| format!("{times} × {} mm inseam", written(inseam.value_mm.0));
        match school {
            HeightSchool::Inseam | HeightSchool::InseamAxle => {
                let (times, (low, high)) = if school == HeightSchool::Inseam {
                    (INSEAM_MULTIPLE, INSEAM_VARIANTS)
                } else {
                    (INSEAM_AXLE, (INSEAM_AXLE, INSEAM_AXLE))
                };
                let travel = |times: f64| self.multiple(school, times).ok_or(NOWHERE);
                Ok(Wish {
                    place: travel(times)?,
                    low: travel(low)?,
                    high: travel(high)?,
                    band: Some(times * inseam.spread_mm.0),
                    estimated: self.trying.rider.body.inseam_mm.is_none(),
                    words: of_inseam(times),
                    ..Wish::default()
                })
            }
            HeightSchool::FirstRide => self.first_ride().ok_or_else(|| NOWHERE.to_owned()),
            HeightSchool::Heel => {
                let sides = self
                    .each(|side| heel_travel(self.trying, side))
                    .ok_or(NOWHERE)?;
                let middle = f64::midpoint(sides.left, sides.right);
                Ok(Wish {
                    sides: apart_enough(sides),
                    band: self.band,
                    estimated: self.trying.fit.is_none(),
                    words: "heel on the pedal, knee straight, hips level".to_owned(),
                    ..Wish::around(middle, 0.0)
                })
            }
            HeightSchool::KneeMoving | HeightSchool::KneeStill => {
                let (bent, straight) = self.range(school);
                let at = |wanted: f64| self.each(|side| self.for_knee(side, wanted)).ok_or(NOWHERE);
                let middle = at(f64::midpoint(bent, straight))?;
                let between = |sides: Sides<f64>| f64::midpoint(sides.left, sides.right);
                Ok(Wish {
                    place: between(middle),
                    // The straighter knee is the higher saddle.
                    low: between(at(straight)?),
                    high: between(at(bent)?),
                    sides: apart_enough(middle),
                    band: self.band,
                    bound: None,
                    estimated: self.trying.fit.is_none(),
                    words: if school == HeightSchool::KneeStill {
                        format!(
                            "{}–{}° with a goniometer, taken as {}° less than moving",
                            written(STILL_DEG.0),
                            written(STILL_DEG.1),
                            written(STILL_LESS_DEG)
                        )
                    } else {
                        format!(
                            "{}–{}°, smallest of the stroke",
                            written(bent),
                            written(straight)
                        )
                    },
                })
            }
            HeightSchool::CreepUp => {
                let crept = self
                    .crept
                    .ok_or("Creep up first: it takes about a quarter of an hour")?;
                let (travel, carried) = self.crept_to(&crept).ok_or(NOWHERE)?;
                let since = if carried.abs() < THERE_MM {
                    String::new()
                } else {
                    format!(
                        "; {} mm {} since what is under the leg or the setback changed",
                        written(carried.abs()),
                        if carried > 0.0 { "higher" } else { "lower" }
                    )
                };
                Ok(Wish {
                    place: travel,
                    low: travel + crept.window_mm.0,
                    high: travel + crept.window_mm.1,
                    sides: None,
                    band: crept.spread_mm,
                    bound: crept.bound,
                    estimated: false,
                    words: format!(
                        "where it turned choppy, less {} to {} mm{since}",
                        written(BACK_OFF_MM.0),
                        written(BACK_OFF_MM.1)
                    ),
                })
            }
        }
    }

    fn read(&self, travel: f64) -> f64 {
        self.trying.height_at(travel)
    }

    fn way(&self, travel: f64) -> Vec<Change> {
        vec![Change::by(Quantity::SaddleHeight, travel)]
    }

    fn step(&self, wish: &Wish) -> (Option<Step>, Option<String>) {
        let travel = wish.place;
        if travel.abs() < THERE_MM {
            return (None, None);
        }
        let by = half_mm(travel.clamp(-self.at_once, self.at_once));
        let left = if (travel - by).abs() < THERE_MM {
            String::new()
        } else {
            let to = self.read(travel);
            // A tenth of an estimate says more than is known.
            let to = if wish.estimated { to.round() } else { to };
            format!("then on to {} mm", written(to))
        };
        Step::as_far_as_it_goes(self.trying, self.way(by), left)
    }

    fn between(&self) -> &'static str {
        "between them is the compromise, a shim for half of it at most"
    }

    fn apart(&self, known: &[(HeightSchool, Wish)]) -> Option<String> {
        apart(self, known)
    }

    fn note(&self) -> Option<String> {
        self.trying.fit.is_none().then(|| {
            "≈: from the rider's lengths; the first look makes it the rider's own, and narrower"
                .to_owned()
        })
    }
}

/// Something of this rider or bike that is not ordinary, and the same with it ordinary.
struct Trait {
    words: String,
    without: Ride,
}

/// Where the schools disagree, and what of this rider makes them: each thing that is not ordinary is taken away in
/// turn, and what brings the two furthest schools closer together by most is the reason.
fn apart(height: &Height, known: &[(HeightSchool, Wish)]) -> Option<String> {
    let mut known: Vec<(HeightSchool, f64)> = known
        .iter()
        .filter(|(_, wish)| wish.bound.is_none())
        .map(|(school, wish)| (*school, wish.place))
        .collect();
    known.sort_by(|a, b| a.1.total_cmp(&b.1));
    let ((lowest, low), (highest, high)) = (*known.first()?, *known.last()?);
    let by = high - low;
    if by <= APART_MM {
        return None;
    }
    let without = |other: &Trait| {
        let trying = Trying::of(&other.without);
        let other = Height::of(&trying, height.crept)?;
        Some((other.middle(highest)? - other.middle(lowest)?).abs())
    };
    let mut reasons: Vec<(f64, String)> = traits(height)
        .into_iter()
        .filter_map(|other| Some((by - without(&other)?, other.words)))
        .filter(|(gained, _)| *gained >= WORTH_TELLING * by)
        .collect();
    reasons.sort_by(|a, b| b.0.total_cmp(&a.0));
    let told: Vec<String> = reasons
        .iter()
        .take(2)
        .map(|(gained, words)| format!("{words} ({} mm of it)", written(*gained)))
        .collect();
    let why = if told.is_empty() {
        let angles = [HeightSchool::KneeMoving, HeightSchool::KneeStill];
        let linkage = |school| angles.contains(&school) || school == HeightSchool::Heel;
        match height.band.filter(|_| linkage(lowest) != linkage(highest)) {
            Some(band) if height.trying.fit.is_none() && band > by / 2.0 => format!(
                "nothing of this rider stands out: heights from the linkage are still ± {} mm; see the rider on the bike first",
                written(band)
            ),
            _ => "nothing of this rider stands out: they ask for different things".to_owned(),
        }
    } else {
        format!("here since {}", told.join(", and "))
    };
    Some(format!(
        "The schools are {} mm apart: {} says {} mm, {} {} mm, {why}.",
        written(by),
        lower(lowest.label()),
        written(height.read(low)),
        lower(highest.label()),
        written(height.read(high))
    ))
}

/// Both sides' mean.
fn mean(of: impl Fn(Side) -> f64) -> f64 {
    f64::midpoint(of(Side::Left), of(Side::Right))
}

/// Everything not ordinary about this rider's legs, feet, shoes and cranks.
fn traits(height: &Height) -> Vec<Trait> {
    let trying = height.trying;
    let mut all: Vec<Trait> = BONES
        .iter()
        .filter_map(|bone| bone_trait(trying, bone))
        .collect();
    all.extend(toes_trait(trying));
    let inseam = trying.lengths().inseam.value_mm.0;
    all.extend(gear_trait(
        trying,
        (|p| p.stack(), |p, by| p.pedal_stack_mm.0 -= by),
        (STACK_MM, 3.0),
        |more| {
            let way = if more > 0.0 { "thicker" } else { "thinner" };
            format!(
                "pedal, sole and footbed are {} mm {way} than usual",
                written(more.abs())
            )
        },
    ));
    all.extend(gear_trait(
        trying,
        (|p| p.crank_mm.0, |p, by| p.crank_mm.0 -= by),
        (CRANK_SHARE * inseam, 3.0),
        |more| {
            let way = if more > 0.0 { "long" } else { "short" };
            format!(
                "the cranks are {} mm {way} for this inseam",
                written(more.abs())
            )
        },
    ));
    all.extend(gear_trait(
        trying,
        (|p| p.cleat_setback_mm.0, |p, by| p.cleat_setback_mm.0 -= by),
        (CLEAT_MM, 4.0),
        |more| {
            let way = if more > 0.0 { "back" } else { "forward" };
            format!(
                "the cleats are {} mm further {way} than usual",
                written(more.abs())
            )
        },
    ));
    let ahead = trying.rider.pelvis.sits_forward_mm.0;
    if ahead.abs() >= 5.0 {
        all.push(Trait {
            words: format!("the rider sits {} mm ahead on the saddle", written(ahead)),
            without: trying.altered(|facts| facts.rider.pelvis.sits_forward_mm = Millimetres(0.0)),
        });
    }
    all
}

/// A leg's own bone against what the inseam, or a foot against what the stature, lets expect.
fn bone_trait(trying: &Trying, (quantity, long, short): &Bone) -> Option<Trait> {
    let measured = |side| trying.rider.legs.of(side).get(*quantity).is_some();
    if !Side::BOTH.into_iter().any(measured) {
        return None;
    }
    let without = trying.altered(|facts| {
        for side in Side::BOTH {
            facts.rider.legs.of_mut(side).clear(*quantity);
        }
    });
    let usual = without.rider.lengths();
    let own = trying.lengths();
    let more =
        mean(|side| bone(own.legs.of(side), *quantity) - bone(usual.legs.of(side), *quantity));
    (more.abs() >= 3.0).then(|| Trait {
        words: format!(
            "{} {} mm {}",
            if *quantity == Quantity::FootLength {
                "the feet are"
            } else {
                "the legs have a"
            },
            written(more.abs()),
            if more > 0.0 { long } else { short }
        ),
        without,
    })
}

/// Toes that point or heels that drop.
fn toes_trait(trying: &Trying) -> Option<Trait> {
    let pitch = mean(|side| trying.before.legs.of(side).pitch_mean_deg.0);
    let toes = pitch - FootPitch::default().mean_deg.0;
    if toes.abs() < 3.0 {
        return None;
    }
    let less = |pitch: &mut FootPitch| pitch.mean_deg = pitch.mean_deg - Degrees(toes);
    let without = trying.altered(|facts| {
        for side in Side::BOTH {
            less(facts.rider.pitch.of_mut(side));
            if let Some(seen) = &mut facts.observed.pitch {
                less(&mut seen.of_mut(side).pitch);
            }
        }
    });
    Some(Trait {
        words: if toes > 0.0 {
            format!("the toes point {}° further down than usual", written(toes))
        } else {
            format!("the heels drop {}° lower than usual", written(-toes))
        },
        without,
    })
}

/// How a part between crank and foot is read, and how some of it is taken away.
type Gear = (fn(&Pedalling) -> f64, fn(&mut Pedalling, f64));

/// A part that differs from the ordinary one by more than is worth a word.
fn gear_trait(
    trying: &Trying,
    (read, less): Gear,
    (ordinary, worth): (f64, f64),
    words: impl Fn(f64) -> String,
) -> Option<Trait> {
    let more = mean(|side| read(trying.setup.pedalling.of(side))) - ordinary;
    if more.abs() < worth {
        return None;
    }
    let without = trying.altered(|facts| {
        facts.setup = facts.setup.with(|setup| {
            for side in Side::BOTH {
                less(setup.pedalling.of_mut(side), more);
            }
        });
    });
    Some(Trait {
        words: words(more),
        without,
    })
}

/// A bone, and how it is told when longer and when shorter than expected.
type Bone = (Quantity, &'static str, &'static str);

/// The bones that are told, longer and shorter than expected.
const BONES: [Bone; 3] = [
    (
        Quantity::Shank,
        "longer shank than their inseam lets expect",
        "shorter shank than their inseam lets expect",
    ),
    (
        Quantity::Thigh,
        "longer thigh than their inseam lets expect",
        "shorter thigh than their inseam lets expect",
    ),
    (
        Quantity::FootLength,
        "longer than this stature's usual",
        "shorter than this stature's usual",
    ),
];

fn bone(leg: &LegLengths, quantity: Quantity) -> f64 {
    match quantity {
        Quantity::Shank => leg.shank.value_mm.0,
        Quantity::Thigh => leg.thigh.value_mm.0,
        _ => leg.foot_length.value_mm.0,
    }
}
