//! Where each crank stands at every frame: from a marker on the pedal axle, or from the axle found within the shoe.

use super::even::Places;
use super::frame::{Body, mean};
use super::names::BodyPoint;
use super::{AskKind, TakeAsk, Told, Unlooked};
use crate::plane::Point;
use crate::rule::rules;
use crate::units::{Side, Sides};
use levenberg_marquardt::{LeastSquaresProblem, LevenbergMarquardt};
use nalgebra::storage::Owned;
use nalgebra::{DMatrix, DVector, Dyn};

rules! {
    rules "Markers";
    /// How well the axle's place in the shoe is known before it is found by its circle.
    const IN_SHOE_MM: f64 = 15.0, " mm", House;
    /// A crank of which nothing is known.
    pub(crate) const USUAL_CRANK_MM: f64 = 172.5, " mm", House;
    /// How well a crank's length is known that was told.
    const CRANK_TOLD_MM: f64 = 0.3, " mm", House;
    /// How well a crank's length is known that was not.
    const CRANK_UNTOLD_MM: f64 = 3.5, " mm", House;
    /// How far an axle's place may be off its circle: noise left by the filter, and skin on the shoe.
    const OFF_CIRCLE_MM: f64 = 3.0, " mm", House;
    /// Left and right crank stand this far apart.
    const APART_DEG: f64 = 180.0, "°", Workshop;
    /// By how much they may fail to.
    const APART_OFF_DEG: f64 = 3.0, "°", House;
    /// How high the toe's marker sits above the sole unless it is told.
    pub(crate) const TOE_MARKER_MM: f64 = 20.0, " mm", House;
}

/// The cranks over time.
#[derive(Debug, Clone)]
pub(crate) struct Cranks {
    /// Bottom bracket.
    pub(crate) bb: Point,
    /// The pedal axle a frame.
    pub(crate) axle: Sides<Vec<Option<Point>>>,
    /// Crank angle from that side's own top, unwound, ° a frame.
    pub(crate) turned: Sides<Vec<Option<f64>>>,
    /// As told, or as found.
    pub(crate) length_mm: f64,
}

/// How much the line from ankle to toe falls on a level sole, °.
pub(crate) fn level_fall(told: &Told) -> f64 {
    (told.ankle_height_mm - told.toe_marker_mm)
        .atan2(told.ankle_to_ball_mm)
        .to_degrees()
}

fn flat(place: [f64; 3]) -> Point {
    Point::new(place[0], place[1])
}

/// The foot's frame at one instant: along ankle to toe, and square to it upward.
#[derive(Debug, Clone, Copy)]
struct Foot {
    toe: Point,
    along: Point,
    square: Point,
}

impl Foot {
    fn between(ankle: Point, toe: Point) -> Option<Self> {
        let along = toe - ankle;
        let length = along.length();
        (length > 1.0).then(|| {
            let along = along * (1.0 / length);
            Self {
                toe,
                along,
                square: Point::new(-along.y, along.x),
            }
        })
    }

    fn at(&self, along: f64, square: f64) -> Point {
        self.toe + self.along * along + self.square * square
    }
}

pub(crate) fn cranks(
    body: &Body,
    told: &Told,
    asks: &mut Vec<TakeAsk>,
) -> Result<Cranks, Unlooked> {
    let pedals = Sides::from_fn(|side| body.of(side, BodyPoint::Pedal));
    let (bb, axle, length_mm) = if pedals.left.is_some() || pedals.right.is_some() {
        on_pedals(&pedals)?
    } else {
        in_shoes(body, told)?
    };
    if told
        .crank_mm
        .is_some_and(|told| (told - length_mm).abs() > 4.0)
    {
        let words = format!("The circle says a crank of {length_mm:.1} mm: is its length right?");
        asks.push(TakeAsk::new(AskKind::Marker, words));
    }
    let turned = Sides::from_fn(|side| unwound(axle.of(side), bb));
    let apart = turned
        .left
        .iter()
        .zip(&turned.right)
        .filter_map(|(left, right)| {
            let apart = ((*left)? - (*right)? - APART_DEG).rem_euclid(360.0);
            Some(if apart > 180.0 { apart - 360.0 } else { apart })
        });
    if let Some(off) = mean(apart)
        && off.abs() > APART_OFF_DEG
    {
        let words = format!(
            "The cranks seem {:.0}° apart, not 180: is a marker on the shoe off?",
            APART_DEG + off
        );
        asks.push(TakeAsk::new(AskKind::Marker, words));
    }
    Ok(Cranks {
        bb,
        axle,
        turned,
        length_mm,
    })
}

type Found = (Point, Sides<Vec<Option<Point>>>, f64);

/// Both pedals' markers on one circle.
fn on_pedals(pedals: &Sides<Option<&Places>>) -> Result<Found, Unlooked> {
    let axle = Sides::from_fn(|side| match pedals.of(side) {
        Some(places) => places.iter().map(|place| place.map(flat)).collect(),
        None => Vec::new(),
    });
    let all: Vec<Point> = axle
        .left
        .iter()
        .chain(&axle.right)
        .flatten()
        .copied()
        .collect();
    let (bb, radius) = circle(&all).ok_or_else(not_pedalling)?;
    // One pedal marked: the other foot is half a turn on.
    let other =
        |own: &Vec<Option<Point>>| own.iter().map(|at| at.map(|at| bb + (bb - at))).collect();
    let axle = match (axle.left.is_empty(), axle.right.is_empty()) {
        (true, false) => Sides {
            left: other(&axle.right),
            right: axle.right,
        },
        (false, true) => Sides {
            right: other(&axle.left),
            left: axle.left,
        },
        _ => axle,
    };
    Ok((bb, axle, radius))
}

fn not_pedalling() -> Unlooked {
    Unlooked::new("nobody pedals here: the feet go round in no circle")
}

/// The circle through points (Kåsa's least squares).
pub(crate) fn circle(points: &[Point]) -> Option<(Point, f64)> {
    let n = points.len() as f64;
    if n < 3.0 {
        return None;
    }
    let middle = points
        .iter()
        .fold(Point::default(), |sum, point| sum + *point)
        * (1.0 / n);
    let (mut xx, mut xy, mut yy, mut xr, mut yr) = (0.0, 0.0, 0.0, 0.0, 0.0);
    let mut rr = 0.0;
    for point in points {
        let at = *point - middle;
        let r = at.dot(at);
        xx += at.x * at.x;
        xy += at.x * at.y;
        yy += at.y * at.y;
        xr += at.x * r;
        yr += at.y * r;
        rr += r;
    }
    let det = xx * yy - xy * xy;
    if det < 1e-6 * xx * xx {
        return None;
    }
    let centre = Point::new(
        (xr * yy - yr * xy) / (2.0 * det),
        (yr * xx - xr * xy) / (2.0 * det),
    );
    let radius = (rr / n + centre.dot(centre)).sqrt();
    Some((middle + centre, radius))
}

/// In each foot's frame one fixed point whose path is a circle of the crank's length about one BB: the axle.
fn in_shoes(body: &Body, told: &Told) -> Result<Found, Unlooked> {
    let feet = Sides::from_fn(|side| -> Vec<Option<Foot>> {
        match (
            body.of(side, BodyPoint::Ankle),
            body.of(side, BodyPoint::Toe),
        ) {
            (Some(ankle), Some(toe)) => ankle
                .iter()
                .zip(toe)
                .map(|(ankle, toe)| Foot::between(flat((*ankle)?), flat((*toe)?)))
                .collect(),
            _ => Vec::new(),
        }
    });
    // On a level sole the axle is behind and below the toe's marker; in the foot's frame, which falls, that is turned.
    let (sin, cos) = level_fall(told).to_radians().sin_cos();
    let (ahead, above) = (
        -told.cleat_setback_mm,
        -(told.pedal_stack_mm + told.sole_mm + told.toe_marker_mm),
    );
    let start = (ahead * cos - above * sin, ahead * sin + above * cos);
    let thin = |side| {
        let known: Vec<Foot> = feet.of(side).iter().flatten().copied().collect();
        let every = known.len().div_ceil(300).max(1);
        known.into_iter().step_by(every).collect::<Vec<_>>()
    };
    let thin: Sides<Vec<Foot>> = Sides::from_fn(thin);
    let begun: Vec<Point> = thin
        .left
        .iter()
        .chain(&thin.right)
        .map(|foot| foot.at(start.0, start.1))
        .collect();
    let (bb, radius) = circle(&begun).ok_or_else(not_pedalling)?;
    if !(100.0..=260.0).contains(&radius) {
        return Err(not_pedalling());
    }
    let doubt = if told.crank_mm.is_some() {
        CRANK_TOLD_MM
    } else {
        CRANK_UNTOLD_MM
    };
    let length = told.crank_or_usual();
    let prior = DVector::from_vec(vec![start.0, start.1, start.0, start.1, bb.x, bb.y, length]);
    let sd = [
        IN_SHOE_MM, IN_SHOE_MM, IN_SHOE_MM, IN_SHOE_MM, 100.0, 100.0, doubt,
    ];
    let (problem, _) = LevenbergMarquardt::new().minimize(Shoes {
        feet: &thin,
        at: prior.clone(),
        prior,
        sd,
    });
    let at = problem.at;
    let axle = Sides::from_fn(|side| {
        let (along, square) = match side {
            Side::Left => (at[0], at[1]),
            Side::Right => (at[2], at[3]),
        };
        feet.of(side)
            .iter()
            .map(|foot| foot.map(|foot| foot.at(along, square)))
            .collect()
    });
    Ok((Point::new(at[4], at[5]), axle, at[6]))
}

struct Shoes<'a> {
    feet: &'a Sides<Vec<Foot>>,
    at: DVector<f64>,
    prior: DVector<f64>,
    sd: [f64; 7],
}

impl Shoes<'_> {
    fn each(&self) -> impl Iterator<Item = (usize, Foot)> {
        let left = self.feet.left.iter().map(|foot| (0, *foot));
        left.chain(self.feet.right.iter().map(|foot| (2, *foot)))
    }

    fn rows(&self) -> usize {
        self.feet.left.len() + self.feet.right.len()
    }
}

impl LeastSquaresProblem<f64, Dyn, Dyn> for Shoes<'_> {
    type ResidualStorage = Owned<f64, Dyn>;
    type JacobianStorage = Owned<f64, Dyn, Dyn>;
    type ParameterStorage = Owned<f64, Dyn>;

    fn set_params(&mut self, at: &DVector<f64>) {
        self.at.copy_from(at);
    }

    fn params(&self) -> DVector<f64> {
        self.at.clone()
    }

    fn residuals(&self) -> Option<DVector<f64>> {
        let (bb, length) = (Point::new(self.at[4], self.at[5]), self.at[6]);
        let off = self.each().map(|(own, foot)| {
            ((foot.at(self.at[own], self.at[own + 1]) - bb).length() - length) / OFF_CIRCLE_MM
        });
        let known = (0..7).map(|i| (self.at[i] - self.prior[i]) / self.sd[i]);
        Some(DVector::from_iterator(self.rows() + 7, off.chain(known)))
    }

    fn jacobian(&self) -> Option<DMatrix<f64>> {
        let mut slopes = DMatrix::zeros(self.rows() + 7, 7);
        let bb = Point::new(self.at[4], self.at[5]);
        for (row, (own, foot)) in self.each().enumerate() {
            let away = foot.at(self.at[own], self.at[own + 1]) - bb;
            let away = away * (1.0 / (away.length().max(1e-6) * OFF_CIRCLE_MM));
            slopes[(row, own)] = away.dot(foot.along);
            slopes[(row, own + 1)] = away.dot(foot.square);
            slopes[(row, 4)] = -away.x;
            slopes[(row, 5)] = -away.y;
            slopes[(row, 6)] = -1.0 / OFF_CIRCLE_MM;
        }
        for i in 0..7 {
            slopes[(self.rows() + i, i)] = 1.0 / self.sd[i];
        }
        Some(slopes)
    }
}

/// Crank angles without a jump at the top: each is the one nearest to where the last two were going.
fn unwound(axle: &[Option<Point>], bb: Point) -> Vec<Option<f64>> {
    let mut last: Option<(usize, f64)> = None;
    let mut speed = 0.0;
    axle.iter()
        .enumerate()
        .map(|(frame, at)| {
            let at = (*at)? - bb;
            let angle = at.x.atan2(at.y).to_degrees();
            let angle = match last {
                None => angle,
                Some((before, was)) => {
                    let since = (frame - before) as f64;
                    let expected = was + speed * since;
                    let angle = angle + 360.0 * ((expected - angle) / 360.0).round();
                    speed += 0.2 * ((angle - was) / since - speed);
                    angle
                }
            };
            last = Some((frame, angle));
            Some(angle)
        })
        .collect()
}
