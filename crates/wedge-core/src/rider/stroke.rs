//! A stroke: one leg taken round on its pedal, and the extremes of its angles.

use super::LegPose;
use super::leg::{Shape, angle};
use crate::plane::Point;
use crate::units::{CrankAngle, Degrees, Millimetres};
use std::sync::LazyLock;

/// Steps of a stroke.
const STEPS: u32 = 360;
/// Degrees between the poses that are drawn.
const POSE_EVERY: usize = 5;

/// Degrees between the steps from which whole degrees are looked up.
const LOOKED_EVERY: usize = 10;
/// Degrees between the steps a mean is taken of in a turn that differs little from another.
const AGAIN_EVERY: usize = 45;

/// How finely a stroke is looked at.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Detail {
    /// Extremes to whole degrees of crank, with poses to draw.
    Fine,
    /// Extremes to whole degrees of crank.
    Plain,
    /// Extremes where they are, between whole degrees too. A stroke that differs a little has its extremes a little
    /// elsewhere, and to first order they are worth what it is worth at the same angles: there it is looked at
    /// ([`Turning::again`]), for the differences bands are made of.
    Coarse,
}

impl Detail {
    /// Degrees between the steps that are solved.
    fn every(self) -> usize {
        match self {
            Self::Fine => POSE_EVERY,
            Self::Plain => LOOKED_EVERY,
            Self::Coarse => 20,
        }
    }
}

/// Where the joints of a leg are on average over the stroke, for the centre of mass.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub(crate) struct MeanLeg {
    pub(crate) hip: Point,
    pub(crate) knee: Point,
    pub(crate) ankle: Point,
    pub(crate) ball: Point,
}

impl MeanLeg {
    /// One more step, the knee from the hip.
    fn add(&mut self, knee: Point, ankle: Point, ball: Point) {
        self.knee = self.knee + knee;
        self.ankle = self.ankle + ankle;
        self.ball = self.ball + ball;
    }

    /// The mean of so many steps, for a hip.
    fn of(self, hip: Point, part: f64) -> Self {
        Self {
            hip,
            knee: hip + self.knee * part,
            ankle: self.ankle * part,
            ball: self.ball * part,
        }
    }
}

/// A crank angle with its sine and cosine.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) struct Turned {
    pub(super) angle: CrankAngle,
    sin: f64,
    cos: f64,
}

impl Default for Turned {
    fn default() -> Self {
        Self::TOP
    }
}

impl Turned {
    pub(super) const TOP: Self = Self::quarter(CrankAngle::TOP, 0.0, 1.0);
    pub(super) const FORWARD: Self = Self::quarter(CrankAngle::FORWARD, 1.0, 0.0);
    pub(super) const BOTTOM: Self = Self::quarter(CrankAngle::BOTTOM, 0.0, -1.0);
    pub(super) const RISING: Self = Self::quarter(CrankAngle(270.0), -1.0, 0.0);

    const fn quarter(angle: CrankAngle, sin: f64, cos: f64) -> Self {
        Self { angle, sin, cos }
    }

    pub(super) fn at(angle: CrankAngle) -> Self {
        let (sin, cos) = Degrees(angle.0).sin_cos();
        Self { angle, sin, cos }
    }
}

/// The whole degrees of a turn: every stroke runs over them, so their sines are worked out once.
static TURN: LazyLock<Vec<Turned>> = LazyLock::new(|| {
    (0..STEPS)
        .map(|degree| Turned::at(CrankAngle(f64::from(degree))))
        .collect()
});

/// Pedal axle at a crank angle.
pub(super) fn axle_at(crank: Millimetres, turned: Turned) -> Point {
    Point::new(crank.0 * turned.sin, crank.0 * turned.cos)
}

/// Sine and cosine of an angle under a radian, in radians, by their series: to 1e-13, in a third of the time.
fn small_sin_cos(angle: f64) -> (f64, f64) {
    /// One over 2·3, 4·5 … and 1·2, 3·4 …: each term of the series from the one before.
    const SINE: [f64; 8] = [
        1.0 / 6.0,
        1.0 / 20.0,
        1.0 / 42.0,
        1.0 / 72.0,
        1.0 / 110.0,
        1.0 / 156.0,
        1.0 / 210.0,
        1.0 / 272.0,
    ];
    const COSINE: [f64; 8] = [
        1.0 / 2.0,
        1.0 / 12.0,
        1.0 / 30.0,
        1.0 / 56.0,
        1.0 / 90.0,
        1.0 / 132.0,
        1.0 / 182.0,
        1.0 / 240.0,
    ];
    let square = angle * angle;
    let series = |terms: &[f64; 8]| {
        terms
            .iter()
            .rev()
            .fold(1.0, |sum, term| 1.0 - square * term * sum)
    };
    (angle * series(&SINE), series(&COSINE))
}

/// The foot on its pedal: a rigid shape turned by the pitch.
pub(super) struct Foot {
    pub(super) crank: Millimetres,
    pub(super) mean_deg: Degrees,
    amp_deg: Degrees,
    /// Sine and cosine of the pitch's peak.
    peak: (f64, f64),
    /// And of its mean.
    mean: (f64, f64),
    /// Ankle behind and above the axle, foot level.
    ankle: Point,
    /// Heel, first metatarsal joint and toe at the sole, foot level.
    heel: Point,
    ball: Point,
    pub(super) toe: Point,
}

impl Foot {
    /// At a mean pitch.
    pub(super) fn of(shape: &Shape, mean: Degrees) -> Self {
        let behind = shape.ankle_to_ball - shape.cleat;
        let sole = shape.stack;
        // The ankle joint stands a quarter of the foot ahead of the heel (drawing only).
        let heel = -behind - shape.foot_length / 4.0;
        Self {
            crank: Millimetres(shape.crank),
            mean_deg: mean,
            amp_deg: Degrees(shape.amp),
            peak: Degrees(shape.peak).sin_cos(),
            mean: mean.sin_cos(),
            ankle: Point::new(-behind, sole + shape.ankle_height),
            heel: Point::new(heel, sole),
            ball: Point::new(shape.cleat, sole),
            toe: Point::new(heel + shape.foot_length, sole),
        }
    }

    /// By how much its pitch is over the mean where the crank stands.
    fn swing_at(&self, turned: Turned) -> Degrees {
        self.amp_deg * (turned.cos * self.peak.1 + turned.sin * self.peak.0)
    }

    /// Its pitch where the crank stands.
    pub(super) fn pitch_at(&self, turned: Turned) -> Degrees {
        self.mean_deg + self.swing_at(turned)
    }

    /// The foot where the crank stands.
    fn at(&self, turned: Turned) -> FootAt {
        let (swing_sin, swing_cos) = small_sin_cos(self.swing_at(turned).radians());
        let (sin, cos) = self.mean;
        FootAt {
            axle: axle_at(self.crank, turned),
            sin: sin * swing_cos + cos * swing_sin,
            cos: cos * swing_cos - sin * swing_sin,
        }
    }

    pub(super) fn ankle_at(&self, turned: Turned) -> Point {
        self.at(turned).place(self.ankle)
    }
}

/// A foot on its pedal at one crank angle.
#[derive(Clone, Copy)]
struct FootAt {
    axle: Point,
    /// Sine and cosine of the pitch, heel up.
    sin: f64,
    cos: f64,
}

impl FootAt {
    /// A point of the level foot, turned heel up about the axle.
    fn place(&self, level: Point) -> Point {
        self.axle
            + Point::new(
                level.x * self.cos + level.y * self.sin,
                level.y * self.cos - level.x * self.sin,
            )
    }

    /// Unit vector along the sole toward the toe.
    fn sole(&self) -> Point {
        Point::new(self.cos, -self.sin)
    }
}

/// Thigh and shank between a hip and an ankle.
pub(super) struct Chain {
    pub(super) hip: Point,
    pub(super) thigh: f64,
    pub(super) shank: f64,
    /// Whether it is continued past straight where it does not reach.
    pub(super) continued: bool,
}

/// Cosine of the flexion below which every degree of a stroke is looked at: 15°.
const ALL_BUT_STRAIGHT: f64 = 0.965_925_826_289_068_3;

/// Cosine of the flexion from which a continued knee goes on straight: 4°.
const NEARLY_STRAIGHT: f64 = 0.997_564_050_259_824_2;

/// The flexion of a cosine; past straight it goes on as fast as it came, below nothing, and past folded above 180°, so
/// that it answers to every length that is too short.
fn continued(cosine: f64) -> Degrees {
    if cosine.abs() <= NEARLY_STRAIGHT {
        return angle(cosine);
    }
    let edge = NEARLY_STRAIGHT.copysign(cosine);
    let slope = -1.0 / (1.0 - edge * edge).sqrt();
    Degrees::from_radians(edge.acos() + slope * (cosine - edge))
}

impl Chain {
    /// The longest and the shortest it can be.
    pub(super) fn straight(&self) -> f64 {
        self.thigh + self.shank
    }

    pub(super) fn folded(&self) -> f64 {
        (self.thigh - self.shank).abs()
    }

    /// Cosine of knee flexion at a square of the distance from hip to ankle; over one where the leg does not reach.
    fn cosine(&self, square: f64) -> f64 {
        (square - self.thigh * self.thigh - self.shank * self.shank)
            / (2.0 * self.thigh * self.shank)
    }

    /// Knee flexion at a square of the distance from hip to ankle: straight where the leg does not reach, or continued.
    pub(super) fn flexion(&self, square: f64) -> Degrees {
        let cosine = self.cosine(square);
        if self.continued {
            continued(cosine)
        } else {
            angle(cosine)
        }
    }

    /// The same for an ankle.
    pub(super) fn flexion_to(&self, ankle: Point) -> Degrees {
        let line = ankle - self.hip;
        self.flexion(line.dot(line))
    }

    /// The knee from the hip: forward of the line from hip to ankle, which is so long.
    fn knee_from_hip(&self, line: Point, distance: f64) -> Point {
        let share = 1.0 / distance.max(1e-9);
        let along = line * share;
        let apart = self.thigh * self.thigh - self.shank * self.shank;
        // As far as the leg gets towards the ankle.
        let down = if distance > self.straight() {
            self.thigh
        } else if distance < self.folded() {
            self.thigh.copysign(apart)
        } else {
            0.5 * (apart * share + distance)
        };
        let forward = (self.thigh * self.thigh - down * down).max(0.0).sqrt();
        along * down + Point::new(-along.y, along.x) * forward
    }

    /// The knee.
    pub(super) fn knee(&self, ankle: Point) -> Point {
        let line = ankle - self.hip;
        self.hip + self.knee_from_hip(line, line.length())
    }
}

/// The leg at one crank angle: what the extremes of a stroke are taken of. Angles are kept as cosines and lengths as
/// squares, so that each costs its arc cosine or root once, at the end.
#[derive(Clone, Copy)]
struct Leaning {
    /// Square of the distance from hip to ankle.
    square: f64,
    /// Cosine of shoulder–hip–knee.
    hip: f64,
    /// Sine of the thigh above level.
    thigh_up: f64,
    /// Cosine of shank to sole.
    ankle: f64,
    /// Squares of the distances of the knee to the elbow and to the line of the trunk.
    to_elbow: f64,
    to_trunk: f64,
}

/// Something about each extreme of a stroke.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub(crate) struct Extremes<T> {
    /// The ankle furthest from the hip: the straightest knee.
    pub(super) farthest: T,
    /// And nearest.
    pub(super) nearest: T,
    pub(super) hip_closed: T,
    pub(super) hip_open: T,
    pub(super) thigh_up: T,
    pub(super) ankle_closed: T,
    pub(super) ankle_open: T,
    pub(super) to_elbow: T,
    pub(super) to_trunk: T,
}

impl<T> Extremes<T> {
    /// Does something for each: with what is looked at, and the way it is largest.
    fn each<U>(self, mut make: impl FnMut(T, Of, f64) -> U) -> Extremes<U> {
        let (most, least) = (1.0, -1.0);
        Extremes {
            farthest: make(self.farthest, |at| at.square, most),
            nearest: make(self.nearest, |at| at.square, least),
            hip_closed: make(self.hip_closed, |at| at.hip, most),
            hip_open: make(self.hip_open, |at| at.hip, least),
            thigh_up: make(self.thigh_up, |at| at.thigh_up, most),
            ankle_closed: make(self.ankle_closed, |at| at.ankle, most),
            ankle_open: make(self.ankle_open, |at| at.ankle, least),
            to_elbow: make(self.to_elbow, |at| at.to_elbow, least),
            to_trunk: make(self.to_trunk, |at| at.to_trunk, least),
        }
    }
}

/// An extreme, and the crank angle it is reached at.
#[derive(Clone, Copy)]
pub(super) struct Extreme {
    pub(super) value: f64,
    pub(super) at: Turned,
}

/// One turn.
pub(super) struct Round {
    pub(super) extremes: Extremes<Extreme>,
    pub(super) mean: MeanLeg,
    pub(super) poses: Vec<LegPose>,
}

impl Round {
    /// Where the crank stands at each extreme.
    pub(super) fn where_extreme(&self) -> Extremes<Turned> {
        self.extremes.each(|extreme, _, _| extreme.at)
    }
}

/// A leg and its foot with what they lean against, to be taken round.
pub(super) struct Turning<'a> {
    chain: &'a Chain,
    foot: &'a Foot,
    elbow: Point,
    /// Hip to shoulder, its unit vector, and one over the square of its length.
    trunk: Point,
    trunk_unit: Point,
    trunk_share: f64,
    thigh_share: f64,
    shank_share: f64,
}

/// What a value is looked at for.
type Of = fn(&Leaning) -> f64;

impl<'a> Turning<'a> {
    pub(super) fn of(shape: &Shape, chain: &'a Chain, foot: &'a Foot) -> Self {
        let trunk = shape.shoulder - shape.hip;
        let square = trunk.dot(trunk).max(1e-18);
        Self {
            chain,
            foot,
            elbow: shape.elbow - shape.hip,
            trunk,
            trunk_unit: trunk * (1.0 / square.sqrt()),
            trunk_share: 1.0 / square,
            thigh_share: 1.0 / chain.thigh,
            shank_share: 1.0 / chain.shank,
        }
    }

    /// The leg where the crank stands, with its knee from the hip and its ankle.
    #[inline]
    fn lean(&self, at: &FootAt) -> (Leaning, Point, Point) {
        let chain = self.chain;
        let ankle = at.place(self.foot.ankle);
        let line = ankle - chain.hip;
        let square = line.dot(line);
        let distance = square.sqrt();
        let knee = chain.knee_from_hip(line, distance);
        let shank = knee - line;
        // Where the leg reaches, the shank is as long as it is.
        let shank_share = if distance <= chain.straight() && distance >= chain.folded() {
            self.shank_share
        } else {
            1.0 / shank.length().max(1e-9)
        };
        let to_elbow = knee - self.elbow;
        let along = (knee.dot(self.trunk) * self.trunk_share).clamp(0.0, 1.0);
        let to_trunk = knee - self.trunk * along;
        let leaning = Leaning {
            square,
            hip: knee.dot(self.trunk_unit) * self.thigh_share,
            thigh_up: knee.y * self.thigh_share,
            ankle: shank.dot(at.sole()) * shank_share,
            to_elbow: to_elbow.dot(to_elbow),
            to_trunk: to_trunk.dot(to_trunk),
        };
        (leaning, knee, ankle)
    }

    fn leaning(&self, turned: Turned) -> Leaning {
        self.lean(&self.foot.at(turned)).0
    }

    /// A turn that differs little from one whose extremes are known.
    pub(super) fn again(&self, extremes: Extremes<Turned>) -> Round {
        let mut mean = MeanLeg::default();
        let steps = TURN.iter().step_by(AGAIN_EVERY);
        let part = every_part(AGAIN_EVERY);
        for turned in steps {
            let at = self.foot.at(*turned);
            let (_, knee, ankle) = self.lean(&at);
            mean.add(knee, ankle, at.place(self.foot.ball));
        }
        Round {
            extremes: extremes.each(|turned, of, _| Extreme {
                value: of(&self.leaning(turned)),
                at: turned,
            }),
            mean: mean.of(self.chain.hip, part),
            poses: Vec::new(),
        }
    }

    /// The whole turn.
    pub(super) fn round(&self, detail: Detail) -> Round {
        let round = self.round_by(detail, detail.every(), LOOKED_EVERY);
        // A leg that is all but straight turns corners sharper than the steps are wide.
        if self.chain.cosine(round.extremes.farthest.value) > ALL_BUT_STRAIGHT {
            self.round_by(detail, 1, 1)
        } else {
            round
        }
    }

    /// The whole turn in steps of so many degrees, its extremes looked up from every so many.
    fn round_by(&self, detail: Detail, every: usize, looked_every: usize) -> Round {
        let mut all: Vec<Leaning> = Vec::with_capacity(TURN.len() / every.max(looked_every));
        let mut poses = Vec::new();
        let mut mean = MeanLeg::default();
        for (degree, turned) in TURN.iter().enumerate().step_by(every) {
            let at = self.foot.at(*turned);
            let (leaning, knee, ankle) = self.lean(&at);
            mean.add(knee, ankle, at.place(self.foot.ball));
            if detail == Detail::Fine && degree.is_multiple_of(POSE_EVERY) {
                poses.push(LegPose {
                    knee: self.chain.hip + knee,
                    ankle,
                    axle: at.axle,
                    heel: at.place(self.foot.heel),
                    toe: at.place(self.foot.toe),
                });
            }
            if degree.is_multiple_of(looked_every) {
                all.push(leaning);
            }
        }
        Round {
            extremes: Extremes::<()>::default().each(|(), of, way| {
                let extreme = self.extreme(&all, detail, |at| way * of(at));
                Extreme {
                    value: way * extreme.value,
                    ..extreme
                }
            }),
            // The mean of a smooth round is that of its steps, far beyond what anybody could tell.
            mean: mean.of(self.chain.hip, every_part(every)),
            poses,
        }
    }

    /// The largest of some value on a round of steps: looked up from every step that is no smaller than its neighbours,
    /// where the parabola through the three has its top.
    fn extreme(&self, all: &[Leaning], detail: Detail, of: impl Fn(&Leaning) -> f64) -> Extreme {
        let many = all.len();
        let mut best = Extreme {
            value: f64::NEG_INFINITY,
            at: Turned::default(),
        };
        let mut before = all.last().map_or(0.0, &of);
        let mut here = all.first().map_or(0.0, &of);
        for index in 0..many {
            let after = all.get((index + 1) % many).map_or(here, &of);
            if here >= before && here >= after {
                let bend = before - 2.0 * here + after;
                let aside = if bend < 0.0 {
                    0.5 * (before - after) / bend
                } else {
                    0.0
                };
                let top = (count(index) + aside) * f64::from(STEPS) / count(many);
                let found = match detail {
                    Detail::Coarse => {
                        let at = Turned::at(CrankAngle(top));
                        let value = of(&self.leaning(at));
                        Extreme { value, at }
                    }
                    Detail::Fine | Detail::Plain => self.whole_degree(top, &of),
                };
                if found.value > best.value {
                    best = found;
                }
            }
            (before, here) = (here, after);
        }
        best
    }

    /// The whole degree around which some value is largest, climbing from one near it.
    fn whole_degree(&self, near: f64, of: impl Fn(&Leaning) -> f64) -> Extreme {
        #[expect(
            clippy::cast_possible_truncation,
            clippy::cast_sign_loss,
            reason = "a turn has few degrees, and the next turn's are the same"
        )]
        let near = (near + f64::from(STEPS)).round() as usize;
        let value = |at: usize| {
            let at = TURN[at % TURN.len()];
            let value = of(&self.leaning(at));
            Extreme { value, at }
        };
        let climbed = |from: (usize, Extreme), step: usize| {
            std::iter::successors(Some(from), |(at, here)| {
                let next = value(at + step);
                (next.value > here.value).then_some((at + step, next))
            })
            .last()
            .unwrap_or(from)
        };
        // A step back is a turn less a step forward.
        climbed(climbed((near, value(near)), 1), TURN.len() - 1).1
    }
}

/// The part of a turn a step of so many degrees is.
fn every_part(every: usize) -> f64 {
    count(every) / f64::from(STEPS)
}

/// A small count as a number.
fn count(n: usize) -> f64 {
    f64::from(u32::try_from(n).unwrap_or(STEPS))
}

/// The most any ankle of the stroke lies beyond the straight leg, and where, in whole degrees.
pub(super) fn worst(chain: &Chain, foot: &Foot) -> (f64, CrankAngle) {
    TURN.iter()
        .map(|turned| {
            let line = foot.ankle_at(*turned) - chain.hip;
            (line.dot(line), turned.angle)
        })
        .reduce(|a, b| if b.0 > a.0 { b } else { a })
        .map_or((0.0, CrankAngle::TOP), |(square, angle)| {
            (square.sqrt() - chain.straight(), angle)
        })
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    #[test]
    fn golden_right_angled_leg() {
        // Hip (0, 500), ankle (0, 0), thigh 300, shank 400: a 3-4-5 triangle, right-angled at the knee, so flexion is
        // 90°. The knee lies 300 × 400 / 500 = 240 forward of the line and 300² / 500 = 180 down it: (240, 320).
        let chain = Chain {
            hip: Point::new(0.0, 500.0),
            thigh: 300.0,
            shank: 400.0,
            continued: false,
        };
        let ankle = Point::new(0.0, 0.0);
        assert!((chain.flexion_to(ankle).0 - 90.0).abs() < 1e-9);
        assert!(chain.knee(ankle).distance(Point::new(240.0, 320.0)) < 1e-9);
        assert!((chain.straight() - 700.0).abs() < 1e-9 && (chain.folded() - 100.0).abs() < 1e-9);
    }

    proptest! {
        /// What is looked up from a few steps is what every whole degree of the turn would find, for legs of any build on
        /// any crank; and the means are those of all of them.
        #[test]
        fn extremes_are_those_of_every_degree(
            thigh in 330.0..520.0_f64, shank in 330.0..520.0_f64, hip in (-330.0..-60.0_f64, 520.0..880.0_f64),
            crank in 140.0..185.0_f64, pitch in (-5.0..35.0_f64, 0.0..25.0_f64, 200.0..340.0_f64),
            shoulder in (0.0..420.0_f64, 20.0..480.0_f64), fine in any::<bool>(),
        ) {
            let chain = Chain { hip: Point::new(hip.0, hip.1), thigh, shank, continued: false };
            let foot = Foot {
                crank: Millimetres(crank),
                mean_deg: Degrees(pitch.0),
                amp_deg: Degrees(pitch.1),
                peak: Degrees(pitch.2).sin_cos(),
                mean: Degrees(pitch.0).sin_cos(),
                ankle: Point::new(-120.0, 90.0),
                heel: Point::new(-185.0, 22.0),
                ball: Point::new(12.0, 22.0),
                toe: Point::new(85.0, 22.0),
            };
            let turning = Turning {
                chain: &chain,
                foot: &foot,
                elbow: Point::new(shoulder.0 + 120.0, shoulder.1 - 230.0),
                trunk: Point::new(shoulder.0, shoulder.1),
                trunk_unit: Point::new(shoulder.0, shoulder.1) * (1.0 / Point::new(shoulder.0, shoulder.1).length()),
                trunk_share: 1.0 / Point::new(shoulder.0, shoulder.1).dot(Point::new(shoulder.0, shoulder.1)),
                thigh_share: 1.0 / thigh,
                shank_share: 1.0 / shank,
            };
            let all: Vec<_> = TURN.iter().map(|turned| turning.lean(&foot.at(*turned))).collect();
            let most = |of: Of| all.iter().map(|(at, ..)| of(at)).fold(f64::NEG_INFINITY, f64::max);
            let least = |of: Of| all.iter().map(|(at, ..)| of(at)).fold(f64::INFINITY, f64::min);
            let reaches = most(|at| at.square).sqrt() <= chain.straight()
                && least(|at| at.square).sqrt() >= chain.folded();
            // Nobody's thigh lies along the trunk, nobody's sole along the shank, and no knee comes within 20 mm of
            // the trunk's middle or the elbow.
            prop_assume!(reaches && most(|at| at.hip) < 0.98 && most(|at| at.ankle) < 0.98);
            prop_assume!(least(|at| at.to_trunk).min(least(|at| at.to_elbow)) > 20.0_f64.powi(2));
            let round = turning.round(if fine { Detail::Fine } else { Detail::Plain });
            for (found, wanted) in [
                (round.extremes.farthest.value, most(|at| at.square)),
                (round.extremes.nearest.value, least(|at| at.square)),
                (round.extremes.hip_closed.value, most(|at| at.hip)),
                (round.extremes.hip_open.value, least(|at| at.hip)),
                (round.extremes.thigh_up.value, most(|at| at.thigh_up)),
                (round.extremes.ankle_closed.value, most(|at| at.ankle)),
                (round.extremes.ankle_open.value, least(|at| at.ankle)),
            ] {
                prop_assert!((found - wanted).abs() <= 1e-9 * wanted.abs().max(1.0), "{found} against {wanted}");
            }
            // How near the knee comes has corners where the trunk ends.
            for (found, wanted) in [
                (round.extremes.to_elbow.value, least(|at| at.to_elbow)),
                (round.extremes.to_trunk.value, least(|at| at.to_trunk)),
            ] {
                prop_assert!((found.sqrt() - wanted.sqrt()).abs() < 0.01, "{found} against {wanted}");
            }
            let mean = all.iter().fold(Point::default(), |sum, (_, knee, _)| sum + *knee) * (1.0 / 360.0);
            // A leg that is all but straight turns a sharp corner there.
            let bent = chain.cosine(round.extremes.farthest.value) < ALL_BUT_STRAIGHT;
            let off = (round.mean.knee - chain.hip).distance(mean);
            prop_assert!(off < if bent { 1e-4 } else { 0.1 }, "{off} mm, bent {bent}");
        }
    }

    #[test]
    fn a_continued_knee_goes_on_as_it_came() {
        let chain = |continued| Chain {
            hip: Point::new(0.0, 860.0),
            thigh: 430.0,
            shank: 430.0,
            continued,
        };
        let at = |continued, away: f64| {
            let to = Point::new(0.0, 860.0 - away);
            chain(continued).flexion_to(to).0
        };
        // Where it bends enough it is the same knee; past straight it goes on below nothing, and ever on.
        assert!((at(true, 850.0) - at(false, 850.0)).abs() < 1e-12);
        assert!(at(false, 880.0).abs() < 1e-12);
        let mut last = at(true, 850.0);
        for away in 851..900 {
            let here = at(true, f64::from(away));
            assert!(
                here < last && last - here < 4.0,
                "{away}: {last} then {here}"
            );
            last = here;
        }
        assert!(last < -20.0, "{last}");
    }

    #[test]
    fn the_series_is_the_sine_and_the_cosine() {
        for angle in [-1.0_f64, -0.7, -0.21, 0.0, 1e-9, 0.3, 0.698, 1.0] {
            let (sin, cos) = small_sin_cos(angle);
            assert!((sin - angle.sin()).abs() < 1e-13, "{angle}");
            assert!((cos - angle.cos()).abs() < 1e-13, "{angle}");
        }
    }

    #[test]
    fn golden_crank_angles() {
        let crank = Millimetres(170.0);
        for (angle, x, y) in [(0.0, 0.0, 170.0), (90.0, 170.0, 0.0), (180.0, 0.0, -170.0)] {
            assert!(
                axle_at(crank, Turned::at(CrankAngle(angle))).distance(Point::new(x, y)) < 1e-9
            );
        }
    }

    #[test]
    fn heel_up_raises_the_ankle() {
        // Ankle 100 behind and 100 above the axle; heel up 90° turns it to 100 ahead and 100 above.
        let foot_at = |pitch: f64| {
            let (sin, cos) = Degrees(pitch).sin_cos();
            FootAt {
                axle: Point::default(),
                sin,
                cos,
            }
        };
        let ankle = Point::new(-100.0, 100.0);
        assert!(
            foot_at(90.0)
                .place(ankle)
                .distance(Point::new(100.0, 100.0))
                < 1e-9
        );
        assert!(foot_at(10.0).place(ankle).y > 100.0);
        assert!(foot_at(90.0).sole().distance(Point::new(0.0, -1.0)) < 1e-9);
    }
}
