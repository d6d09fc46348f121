//! From a file's markers to places on the bike's axes: named, in millimetres, `x` forward, `y` up, `z` to the rider's right.

use super::even::{self, Clock, Places};
use super::names::{BodyPoint, read_name};
use super::tracks::{MarkerUnit, Tracks};
use super::{Answers, AskKind, TakeAsk, Told, Unlooked};
use crate::rule::rules;
use crate::units::{Side, Sides};

rules! {
    rules "Markers";
    /// A thigh between the hip's and the knee's marker; outside of it the unit is asked about.
    const THIGH_MM: (f64, f64) = (300.0, 600.0), " mm", House;
    /// How far a segment between two markers may be from the tape before a marker is said to be off.
    const OFF_TAPE_MM: f64 = 15.0, " mm", House;
}

/// Every marker that could be named, even, bridged and filtered.
#[derive(Debug, Clone)]
pub(crate) struct Body {
    pub(crate) clock: Clock,
    sides: Sides<Vec<(BodyPoint, Places)>>,
    /// Whether there is no depth: no front view and no pelvis.
    pub(crate) planar: bool,
}

impl Body {
    /// One marker over all frames.
    pub(crate) fn of(&self, side: Side, part: BodyPoint) -> Option<&Places> {
        self.sides
            .of(side)
            .iter()
            .find(|(own, _)| *own == part)
            .map(|(_, places)| places)
    }

    fn all_mut(&mut self) -> impl Iterator<Item = &mut Places> {
        let Sides { left, right } = &mut self.sides;
        left.iter_mut().chain(right).map(|(_, places)| places)
    }

    /// The mean of what `pick` makes of two markers at every frame both were seen.
    fn mean(
        &self,
        side: Side,
        one: BodyPoint,
        other: BodyPoint,
        pick: impl Fn([f64; 3], [f64; 3]) -> f64,
    ) -> Option<f64> {
        let (one, other) = (self.of(side, one)?, self.of(side, other)?);
        mean(
            one.iter()
                .zip(other)
                .filter_map(|(one, other)| Some(pick((*one)?, (*other)?))),
        )
    }
}

pub(crate) fn mean(values: impl Iterator<Item = f64>) -> Option<f64> {
    let (mut sum, mut n) = (0.0, 0.0);
    for value in values {
        sum += value;
        n += 1.0;
    }
    (n > 0.0).then(|| sum / n)
}

/// Names, turns and smooths. What can be asked is asked; what cannot be gone on without is refused.
pub(crate) fn settle(
    tracks: &Tracks,
    told: &Told,
    answers: &Answers,
    asks: &mut Vec<TakeAsk>,
) -> Result<Body, Unlooked> {
    let body = settled(tracks, answers, false, asks)?;
    taped(&body, told, asks);
    Ok(body)
}

/// The same of a rider who stands still.
pub(crate) fn settle_standing(
    tracks: &Tracks,
    answers: &Answers,
    asks: &mut Vec<TakeAsk>,
) -> Result<Body, Unlooked> {
    settled(tracks, answers, true, asks)
}

fn settled(
    tracks: &Tracks,
    answers: &Answers,
    stands: bool,
    asks: &mut Vec<TakeAsk>,
) -> Result<Body, Unlooked> {
    if tracks.times.len() < 30 || tracks.markers.is_empty() {
        return Err(Unlooked::new("there are too few frames to see a stroke in"));
    }
    let (clock, even) = even::clock(&tracks.times, tracks.rate_hz);
    let mut body = named(tracks, answers, clock, asks)?;
    let scale = tracks.unit.unwrap_or(MarkerUnit::Millimetre).in_mm();
    for places in body.all_mut() {
        even::unjumped(&tracks.times, places);
        if !even {
            *places = even::evened(&tracks.times, places, &clock);
        }
        *places = even::smoothed(std::mem::take(places), &clock);
    }
    unit(&mut body, scale, tracks.unit, answers, asks);
    turned(&mut body, stands)?;
    swapped(&mut body, answers, asks);
    Ok(body)
}

fn named(
    tracks: &Tracks,
    answers: &Answers,
    clock: Clock,
    asks: &mut Vec<TakeAsk>,
) -> Result<Body, Unlooked> {
    let mut sides: Sides<Vec<(BodyPoint, Places)>> = Sides::both(Vec::new());
    let (mut doubtful, mut twice) = (Vec::new(), Vec::new());
    for track in &tracks.markers {
        if answers.nothing.contains(&track.name) {
            continue;
        }
        let (part, side) = if let Some(told) = answers.names.get(&track.name) {
            (told.part, told.side)
        } else {
            let read = read_name(&track.name);
            let (Some(part), Some(side), true) = (read.part, read.side, read.sure) else {
                doubtful.push(track.name.clone());
                continue;
            };
            (part, side)
        };
        let own = sides.of_mut(side);
        if own.iter().any(|(known, _)| *known == part) {
            twice.push(track.name.clone());
        } else {
            own.push((part, track.places.clone()));
        }
    }
    if !doubtful.is_empty() {
        let words = format!(
            "What is {}? It is left out until that is said.",
            doubtful.join(", ")
        );
        asks.push(TakeAsk {
            kind: AskKind::Names,
            words,
            markers: doubtful,
        });
    }
    if !twice.is_empty() {
        let words = format!(
            "{} names a place that has a marker already: the first one counts.",
            twice.join(", ")
        );
        asks.push(TakeAsk {
            kind: AskKind::Names,
            words,
            markers: twice,
        });
    }
    if sides.left.is_empty() && sides.right.is_empty() {
        return Err(
            Unlooked::new("no marker here has a name of the body: say which is which").asking(asks),
        );
    }
    let planar = (0..3).any(|axis| {
        let mut all = sides
            .left
            .iter()
            .chain(&sides.right)
            .flat_map(|(_, places)| places.iter().flatten());
        let first = all.next().map(|place| place[axis]);
        first.is_some_and(|first| all.all(|place| (place[axis] - first).abs() < 1e-9))
    });
    Ok(Body {
        clock,
        sides,
        planar,
    })
}

/// Into millimetres; a thigh no rider has asks which unit it is.
fn unit(
    body: &mut Body,
    scale: f64,
    named: Option<MarkerUnit>,
    answers: &Answers,
    asks: &mut Vec<TakeAsk>,
) {
    let length =
        |a: [f64; 3], b: [f64; 3]| (0..3).map(|i| (a[i] - b[i]).powi(2)).sum::<f64>().sqrt();
    let thigh = Side::BOTH
        .into_iter()
        .find_map(|side| body.mean(side, BodyPoint::Hip, BodyPoint::Knee, length));
    let mut scale = answers.unit.map_or(scale, MarkerUnit::in_mm);
    if let (Some(thigh), None) = (thigh, answers.unit) {
        let fits = |scale: f64| (THIGH_MM.0..=THIGH_MM.1).contains(&(thigh * scale));
        if !fits(scale) {
            let likely = MarkerUnit::ALL
                .iter()
                .copied()
                .find(|unit| fits(unit.in_mm()));
            let said = named.map_or("no unit is named", MarkerUnit::label);
            let words = match likely {
                Some(unit) => format!(
                    "The thigh would be {:.0} mm ({said}): taken as {}. Which unit is it?",
                    thigh * scale,
                    unit.label()
                ),
                None => format!(
                    "The thigh would be {:.0} mm ({said}). Are the names right?",
                    thigh * scale
                ),
            };
            asks.push(TakeAsk::new(AskKind::Unit, words));
            scale = likely.map_or(scale, MarkerUnit::in_mm);
        }
    }
    if (scale - 1.0).abs() > 1e-12 {
        for places in body.all_mut() {
            for place in places.iter_mut().flatten() {
                *place = place.map(|value| value * scale);
            }
        }
    }
}

/// Onto the bike's axes: up is where the shoulder is over the toe, forward where the toes go to and fro, toward the hands; of a
/// rider who stands, where the feet point.
fn turned(body: &mut Body, stands: bool) -> Result<(), Unlooked> {
    let (up_axis, up_sign) = upward(body)?;
    let (p, q) = match up_axis {
        0 => (1, 2),
        1 => (0, 2),
        _ => (0, 1),
    };
    let level = if stands {
        pointing(body, p, q).ok_or_else(|| {
            Unlooked::new("a zero needs both of an ankle and a toe: the feet say what is ahead")
        })?
    } else {
        pedalling(body, p, q)
    };
    let mut ahead = [0.0; 3];
    (ahead[p], ahead[q]) = level;
    let mut up = [0.0; 3];
    up[up_axis] = up_sign;
    let right = [
        ahead[1] * up[2] - ahead[2] * up[1],
        ahead[2] * up[0] - ahead[0] * up[2],
        ahead[0] * up[1] - ahead[1] * up[0],
    ];
    let dot = |a: [f64; 3], b: [f64; 3]| a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
    for places in body.all_mut() {
        for place in places.iter_mut().flatten() {
            *place = [dot(*place, ahead), dot(*place, up), dot(*place, right)];
        }
    }
    Ok(())
}

/// The room's axis that is up, and which way.
fn upward(body: &Body) -> Result<(usize, f64), Unlooked> {
    let rise = |axis: usize| {
        let rise = |upper, lower| {
            Side::BOTH
                .iter()
                .find_map(|side| body.mean(*side, upper, lower, |a, b| a[axis] - b[axis]))
        };
        rise(BodyPoint::Shoulder, BodyPoint::Toe)
            .or_else(|| rise(BodyPoint::Hip, BodyPoint::Toe))
            .or_else(|| rise(BodyPoint::Hip, BodyPoint::Ankle))
    };
    let rises: Vec<f64> = (0..3).filter_map(rise).collect();
    let [a, b, c] = rises[..] else {
        return Err(Unlooked::new(
            "there is no toe or ankle with a hip or shoulder above it",
        ));
    };
    let most = [(0, a), (1, b), (2, c)]
        .into_iter()
        .max_by(|a, b| a.1.abs().total_cmp(&b.1.abs()));
    let (axis, rise) = most.unwrap_or((1, 1.0));
    Ok((axis, rise.signum()))
}

/// Forward of one who stands: where both feet point, from ankle to toe.
fn pointing(body: &Body, p: usize, q: usize) -> Option<(f64, f64)> {
    let of = |side: Side| {
        let along = |axis: usize| {
            body.mean(side, BodyPoint::Toe, BodyPoint::Ankle, |toe, ankle| {
                toe[axis] - ankle[axis]
            })
        };
        let (x, y) = (along(p)?, along(q)?);
        let length = x.hypot(y);
        (length > 1.0).then_some((x / length, y / length))
    };
    let (left, right) = (of(Side::Left)?, of(Side::Right)?);
    let (x, y) = (left.0 + right.0, left.1 + right.1);
    let length = x.hypot(y);
    (length > 0.5).then_some((x / length, y / length))
}

/// Forward of one who pedals: the larger eigenvector of the feet's spread, toward the hands.
fn pedalling(body: &Body, p: usize, q: usize) -> (f64, f64) {
    let (mut pp, mut pq, mut qq) = (0.0, 0.0, 0.0);
    for side in Side::BOTH {
        let Some(foot) = body
            .of(side, BodyPoint::Toe)
            .or_else(|| body.of(side, BodyPoint::Ankle))
        else {
            continue;
        };
        let middle =
            |axis: usize| mean(foot.iter().flatten().map(|place| place[axis])).unwrap_or(0.0);
        let (mp, mq) = (middle(p), middle(q));
        for place in foot.iter().flatten() {
            let (dp, dq) = (place[p] - mp, place[q] - mq);
            pp += dp * dp;
            pq += dp * dq;
            qq += dq * dq;
        }
    }
    let angle = 0.5 * (2.0 * pq).atan2(pp - qq);
    let (sin, cos) = angle.sin_cos();
    let along = |place: [f64; 3]| place[p] * cos + place[q] * sin;
    let forward = Side::BOTH
        .iter()
        .find_map(|side| {
            [
                BodyPoint::Wrist,
                BodyPoint::Elbow,
                BodyPoint::Shoulder,
                BodyPoint::Knee,
            ]
            .into_iter()
            .find_map(|front| body.mean(*side, front, BodyPoint::Hip, |a, b| along(a) - along(b)))
        })
        .unwrap_or(1.0)
        .signum();
    (cos * forward, sin * forward)
}

fn swapped(body: &mut Body, answers: &Answers, asks: &mut Vec<TakeAsk>) {
    if body.planar {
        return;
    }
    let depth = |side, part| {
        body.of(side, part)
            .and_then(|places| mean(places.iter().flatten().map(|place| place[2])))
    };
    let crossed = [BodyPoint::Hip, BodyPoint::Toe, BodyPoint::Shoulder]
        .into_iter()
        .find_map(|part| Some(depth(Side::Right, part)? < depth(Side::Left, part)?))
        .unwrap_or(false);
    match answers.swap {
        Some(true) => std::mem::swap(&mut body.sides.left, &mut body.sides.right),
        None if crossed => asks.push(TakeAsk::new(
            AskKind::Swap,
            "Left and right seem swapped. Swap?",
        )),
        _ => {}
    }
}

fn taped(body: &Body, told: &Told, asks: &mut Vec<TakeAsk>) {
    let length = |a: [f64; 3], b: [f64; 3]| (a[0] - b[0]).hypot(a[1] - b[1]);
    for side in Side::BOTH {
        let word = side.word();
        let segments = [
            ("thigh", BodyPoint::Hip, BodyPoint::Knee, told.thigh_mm),
            (
                "shank",
                BodyPoint::Knee,
                BodyPoint::Ankle,
                *told.shank_mm.of(side),
            ),
        ];
        for (segment, upper, lower, taped) in segments {
            let (Some(seen), Some(taped)) = (body.mean(side, upper, lower, length), taped) else {
                continue;
            };
            if (seen - taped).abs() > OFF_TAPE_MM {
                let words = format!(
                    "The {word} {segment} is {seen:.0} mm between its markers and {taped:.0} by the tape: is a marker off?"
                );
                asks.push(TakeAsk::new(AskKind::Marker, words));
            }
        }
    }
}
