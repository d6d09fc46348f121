//! One leg and arm over its strokes: the figures of the side view, the knee from the front, the path of the ankle.

use super::figure::Figure;
use super::frame::mean;
use super::names::BodyPoint;
use super::stroke::Turn;
use super::{Told, crank};
use crate::looking::KneePath;
use crate::plane::Point;
use crate::rule::rules;
use crate::units::Side;

rules! {
    rules "Markers";
    /// How far outside their joints' centres the markers of toe, knee and hip sit.
    pub(crate) const OUTSIDE_MM: [f64; 3] = [45.0, 55.0, 75.0], " mm", House;
    /// A knee within this of the line from toe to hip is on it.
    const ON_LINE_MM: f64 = 10.0, " mm", House;
    /// A knee path within this of a border between two shapes is near it.
    pub(crate) const NEAR_BORDER_MM: f64 = 6.0, " mm", House;
    /// Crank over which a leg pushes.
    const PUSH: (f64, f64) = (30.0, 150.0), "°", House;
    /// Crank over which it rises.
    const RISE: (f64, f64) = (210.0, 330.0), "°", House;
    /// Crank over which a dropped heel is looked for.
    const HEEL: (f64, f64) = (30.0, 180.0), "°", House;
}

/// The shape of a knee's path, none where it is of no one shape; mm off the line from toe to hip, outward positive.
pub(crate) fn shape(push: f64, rise: f64) -> Option<KneePath> {
    let t = ON_LINE_MM;
    if push < -t && rise < -t {
        Some(KneePath::SweptIn)
    } else if push > t && rise > t {
        Some(KneePath::SweptOut)
    } else if push.abs() <= t && rise.abs() <= t {
        Some(KneePath::Straight)
    } else if push < -t && -push >= rise {
        Some(KneePath::InPushing)
    } else if rise > t && rise > -push {
        Some(KneePath::OutRising)
    } else {
        None
    }
}

/// Whether so many millimetres more or less would make another shape of it.
pub(crate) fn near_border(push: f64, rise: f64, d: f64) -> bool {
    let own = shape(push, rise);
    [(d, 0.0), (-d, 0.0), (0.0, d), (0.0, -d)]
        .into_iter()
        .any(|(p, r)| shape(push + p, rise + r) != own)
}

/// How far a knee is off the line from toe to hip at its height, outward positive; each point up and to the right.
pub(crate) fn off_line(side: Side, toe: [f64; 2], knee: [f64; 2], hip: [f64; 2]) -> f64 {
    let share = (knee[0] - toe[0]) / (hip[0] - toe[0]);
    side.outward() * (knee[1] - toe[1] - (hip[1] - toe[1]) * share)
}

/// How far a heel leans toward the bike, °; each point up and to the right.
pub(crate) fn lean(side: Side, lower: [f64; 2], upper: [f64; 2]) -> f64 {
    let toward_bike = -side.outward() * (upper[1] - lower[1]);
    toward_bike.atan2(upper[0] - lower[0]).to_degrees()
}

/// The mean over pushing, and over rising.
pub(crate) fn phases(values: &[f64]) -> (f64, f64) {
    let mean_over = |range| mean(over(values, range).iter().copied()).unwrap_or_default();
    (mean_over(PUSH), mean_over(RISE))
}

/// The markers of one side over one stroke of its own crank.
pub(crate) struct Limb {
    pub(crate) side: Side,
    /// By [`BodyPoint`], in the order of [`BodyPoint::ALL`].
    pub(crate) parts: Vec<Option<Turn>>,
    pub(crate) axle: Option<Vec<[f64; 2]>>,
}

/// The angle at `b` between `a` and `c`, °.
pub(crate) fn angle(a: Point, b: Point, c: Point) -> f64 {
    let (one, other) = (a - b, c - b);
    (one.x * other.y - one.y * other.x)
        .abs()
        .atan2(one.dot(other))
        .to_degrees()
}

/// How far the joint at `b` is bent, 0 = straight, °.
pub(crate) fn flexion(a: Point, b: Point, c: Point) -> f64 {
    180.0 - angle(a, b, c)
}

/// The foot's pitch, heel up: how the line from ankle to toe falls beyond what it does on a level sole, °.
pub(crate) fn pitch(ankle: Point, toe: Point, level_fall: f64) -> f64 {
    (ankle.y - toe.y).atan2(toe.x - ankle.x).to_degrees() - level_fall
}

impl Limb {
    fn turn(&self, part: BodyPoint) -> Option<&Turn> {
        let index = BodyPoint::ALL.iter().position(|own| *own == part)?;
        self.parts[index].as_ref()
    }

    /// What `of` makes of three markers in side view, at every whole degree.
    fn three(
        &self,
        parts: [BodyPoint; 3],
        of: impl Fn(Point, Point, Point) -> f64,
    ) -> Option<Vec<f64>> {
        let [a, b, c] = [
            self.turn(parts[0])?,
            self.turn(parts[1])?,
            self.turn(parts[2])?,
        ];
        let flat = |place: &[f64; 3]| Point::new(place[0], place[1]);
        Some(
            a.iter()
                .zip(b)
                .zip(c)
                .map(|((a, b), c)| of(flat(a), flat(b), flat(c)))
                .collect(),
        )
    }

    /// Knee flexion over the stroke.
    pub(crate) fn knee(&self) -> Option<Vec<f64>> {
        self.three([BodyPoint::Hip, BodyPoint::Knee, BodyPoint::Ankle], flexion)
    }

    fn foot(&self, told: &Told) -> Option<Vec<f64>> {
        let level = crank::level_fall(told);
        self.three(
            [BodyPoint::Ankle, BodyPoint::Toe, BodyPoint::Toe],
            |ankle, toe, _| pitch(ankle, toe, level),
        )
    }

    /// The knee's centre off the line from toe to hip at its height, outward positive.
    pub(crate) fn knee_off_line(&self) -> Option<Vec<f64>> {
        let outward = self.side.outward();
        let centre = |part, outside: f64| -> Option<Vec<[f64; 2]>> {
            let inward = |place: &[f64; 3]| [place[1], place[2] - outward * outside];
            Some(self.turn(part)?.iter().map(inward).collect())
        };
        let toe = centre(BodyPoint::Toe, OUTSIDE_MM[0])?;
        let knee = centre(BodyPoint::Knee, OUTSIDE_MM[1])?;
        let hip = centre(BodyPoint::Hip, OUTSIDE_MM[2])?;
        let all = toe.into_iter().zip(knee).zip(hip);
        Some(
            all.map(|((toe, knee), hip)| off_line(self.side, toe, knee, hip))
                .collect(),
        )
    }

    /// The knee's centre from the front: outward from the middle of the bike, and up.
    pub(crate) fn knee_front(&self) -> Option<Vec<[f64; 2]>> {
        let outward = self.side.outward();
        Some(
            self.turn(BodyPoint::Knee)?
                .iter()
                .map(|place| [outward * place[2] - OUTSIDE_MM[1], place[1]])
                .collect(),
        )
    }

    /// The ankle's path in side view.
    pub(crate) fn ankle_path(&self) -> Option<Vec<[f64; 2]>> {
        Some(
            self.turn(BodyPoint::Ankle)?
                .iter()
                .map(|place| [place[0], place[1]])
                .collect(),
        )
    }

    fn heel_lean(&self) -> Option<Vec<f64>> {
        let (upper, lower) = (
            self.turn(BodyPoint::HeelUpper)?,
            self.turn(BodyPoint::HeelLower)?,
        );
        let across = |place: &[f64; 3]| [place[1], place[2]];
        let all = lower.iter().map(across).zip(upper.iter().map(across));
        Some(
            all.map(|(lower, upper)| lean(self.side, lower, upper))
                .collect(),
        )
    }

    /// Every figure of this stroke.
    pub(crate) fn figures(&self, told: &Told, planar: bool) -> Vec<(Figure, f64)> {
        let mut all = Vec::new();
        self.leg(told, &mut all);
        self.upper(&mut all);
        self.path(&mut all);
        if !planar {
            self.front(&mut all);
        }
        all
    }

    fn leg(&self, told: &Told, all: &mut Vec<(Figure, f64)>) {
        if let Some(knee) = self.knee() {
            all.extend([
                (Figure::KneeSmallest, least(&knee)),
                (Figure::KneeLargest, most(&knee)),
                (Figure::Knee0, knee[0]),
                (Figure::Knee90, knee[90]),
                (Figure::Knee180, knee[180]),
            ]);
            if let Some(seat) = told.seat_tube_deg {
                all.push((Figure::KneeInLine, at_degree(&knee, 90.0 + seat)));
            }
        }
        if let Some(foot) = self.foot(told) {
            all.extend([
                (Figure::Foot0, foot[0]),
                (Figure::Foot90, foot[90]),
                (Figure::Foot180, foot[180]),
                (Figure::Foot270, foot[270]),
                (Figure::HeelDrop, -least(over(&foot, HEEL))),
            ]);
            if let (Some(knee), Some(ankle)) =
                (self.turn(BodyPoint::Knee), self.turn(BodyPoint::Ankle))
            {
                let between = |((knee, ankle), foot): ((&[f64; 3], &[f64; 3]), &f64)| {
                    let shank = (knee[1] - ankle[1]).atan2(knee[0] - ankle[0]).to_degrees();
                    shank + foot
                };
                let ankle: Vec<f64> = knee.iter().zip(ankle).zip(&foot).map(between).collect();
                all.extend([
                    (Figure::AnkleSmallest, least(&ankle)),
                    (Figure::AnkleLargest, most(&ankle)),
                ]);
            }
        }
        if let (Some(knee), Some(axle)) = (self.turn(BodyPoint::Knee), &self.axle) {
            all.push((Figure::KneeOverAxle, knee[90][0] - axle[90][0]));
        }
    }

    fn upper(&self, all: &mut Vec<(Figure, f64)>) {
        let average = |values: &Vec<f64>| mean(values[..360].iter().copied()).unwrap_or_default();
        if let Some(hip) = self.three(
            [BodyPoint::Shoulder, BodyPoint::Hip, BodyPoint::Knee],
            angle,
        ) {
            all.extend([
                (Figure::HipClosed, least(&hip)),
                (Figure::HipOpen, most(&hip)),
            ]);
        }
        if let Some(hip) = self.turn(BodyPoint::Hip) {
            let heights: Vec<f64> = hip.iter().map(|place| place[1]).collect();
            all.push((Figure::HipTravel, most(&heights) - least(&heights)));
        }
        let rise = |hip: Point, shoulder: Point, _: Point| (shoulder - hip).direction().0;
        let figures = [
            (
                Figure::Torso,
                self.three(
                    [BodyPoint::Hip, BodyPoint::Shoulder, BodyPoint::Shoulder],
                    rise,
                ),
            ),
            (
                Figure::Shoulder,
                self.three(
                    [BodyPoint::Hip, BodyPoint::Shoulder, BodyPoint::Elbow],
                    angle,
                ),
            ),
            (
                Figure::ShoulderToWrist,
                self.three(
                    [BodyPoint::Hip, BodyPoint::Shoulder, BodyPoint::Wrist],
                    angle,
                ),
            ),
            (
                Figure::Elbow,
                self.three(
                    [BodyPoint::Shoulder, BodyPoint::Elbow, BodyPoint::Wrist],
                    flexion,
                ),
            ),
        ];
        all.extend(
            figures
                .iter()
                .filter_map(|(figure, values)| Some((*figure, average(values.as_ref()?)))),
        );
    }

    fn path(&self, all: &mut Vec<(Figure, f64)>) {
        let Some(path) = self.ankle_path() else {
            return;
        };
        let twice: f64 = path
            .windows(2)
            .map(|pair| pair[0][0] * pair[1][1] - pair[1][0] * pair[0][1])
            .sum();
        let of = |axis: usize| path.iter().map(|at| at[axis]).collect::<Vec<f64>>();
        let (x, y) = (of(0), of(1));
        let height = most(&y) - least(&y);
        all.extend([
            (Figure::PathArea, twice.abs() / 2.0),
            (Figure::PathHeight, height),
            (Figure::PathWidth, most(&x) - least(&x)),
            (
                Figure::PathLowShare,
                width_at(&path, least(&y) + height / 3.0) / height,
            ),
        ]);
    }

    fn front(&self, all: &mut Vec<(Figure, f64)>) {
        if let Some(off) = self.knee_off_line() {
            let (push, rise) = phases(&off);
            all.extend([
                (Figure::KneePush, push),
                (Figure::KneeRise, rise),
                (Figure::KneeSwing, rise - push),
            ]);
        }
        if let Some(lean) = self.heel_lean() {
            let (push, rise) = phases(&lean);
            all.extend([(Figure::FootTiltPush, push), (Figure::FootTiltRise, rise)]);
        }
    }
}

/// How wide a closed path is at one height.
fn width_at(path: &[[f64; 2]], height: f64) -> f64 {
    let crossings = path.windows(2).filter_map(|pair| {
        let [a, b] = [pair[0], pair[1]];
        ((a[1] - height) * (b[1] - height) <= 0.0 && (a[1] - b[1]).abs() > 1e-12)
            .then(|| a[0] + (b[0] - a[0]) * (height - a[1]) / (b[1] - a[1]))
    });
    let (mut low, mut high) = (f64::INFINITY, f64::NEG_INFINITY);
    for x in crossings {
        low = low.min(x);
        high = high.max(x);
    }
    (high - low).max(0.0)
}

pub(crate) fn least(values: &[f64]) -> f64 {
    values.iter().copied().fold(f64::INFINITY, f64::min)
}

pub(crate) fn most(values: &[f64]) -> f64 {
    values.iter().copied().fold(f64::NEG_INFINITY, f64::max)
}

/// The whole degrees from one crank angle to another, both counted.
pub(crate) fn over(values: &[f64], (from, to): (f64, f64)) -> &[f64] {
    &values[from as usize..=to as usize]
}

fn at_degree(values: &[f64], degree: f64) -> f64 {
    let before = (degree.floor() as usize).min(359);
    let share = degree - before as f64;
    values[before] * (1.0 - share) + values[before + 1] * share
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_knee_path_has_one_shape_and_says_when_it_is_near_another() {
        for (push, rise, wanted, near) in [
            (3.9, 6.8, Some(KneePath::Straight), true),
            (0.0, 0.0, Some(KneePath::Straight), false),
            (-2.7, 17.4, Some(KneePath::OutRising), false),
            (23.0, 27.0, Some(KneePath::SweptOut), false),
            (-19.6, -12.8, Some(KneePath::SweptIn), true),
            (-20.0, 4.0, Some(KneePath::InPushing), false),
            (25.0, -25.0, None, false),
        ] {
            assert_eq!(shape(push, rise), wanted, "{push} {rise}");
            assert_eq!(
                near_border(push, rise, NEAR_BORDER_MM),
                near,
                "{push} {rise}"
            );
        }
    }

    #[test]
    fn a_circle_is_as_wide_a_third_up_as_geometry_says() {
        let path: Vec<[f64; 2]> = (0..=360)
            .map(|d| f64::from(d).to_radians().sin_cos())
            .map(|(s, c)| [100.0 * s, 100.0 * c])
            .collect();
        // Height 200; at a third, 33.3 below the centre: 2 √(100² − 33.3²) = 188.6.
        assert!((width_at(&path, -100.0 / 3.0) - 188.56).abs() < 0.1);
    }
}
