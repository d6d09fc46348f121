//! Strokes cut at each side's own top, every marker brought to whole degrees of crank.

use super::crank::Cranks;
use super::frame::Body;
use super::names::BodyPoint;
use super::spline::{Curve, Spline};
use super::stat::middle;
use crate::rule::rules;
use crate::units::Side;

rules! {
    rules "Markers";
    /// A stroke this near to an end of the take does not count.
    const NEAR_END_S: f64 = 0.1, " s", House;
    /// A stroke that takes longer or shorter than the median by more than this share does not count.
    const OFF_TIME: f64 = 0.15, "", House;
}

/// One turn of a side's crank.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) struct Stroke {
    /// Begins at this side's top, s from the first frame.
    pub(crate) start: f64,
    /// Ends at the next top.
    pub(crate) end: f64,
    /// Unwound crank angle at its start, °.
    from: f64,
}

/// A marker over one turn: its place at crank 0, 1, … 360.
pub(crate) type Turn = Vec<[f64; 3]>;

/// The strokes of one side that count.
pub(crate) fn strokes(body: &Body, cranks: &Cranks, side: Side) -> Vec<Stroke> {
    let turned = cranks.turned.of(side);
    let rate = body.clock.rate_hz;
    let mut tops: Vec<(f64, f64)> = Vec::new();
    for (frame, pair) in turned.windows(2).enumerate() {
        let (Some(before), Some(after)) = (pair[0], pair[1]) else {
            continue;
        };
        let top = (before / 360.0).floor() * 360.0 + 360.0;
        if before < top && top <= after && after - before < 90.0 {
            let at = crossing(turned, frame, top);
            tops.push((at / rate, top));
        }
    }
    let all: Vec<Stroke> = tops
        .windows(2)
        .filter(|pair| pair[1].1 - pair[0].1 < 361.0)
        .map(|pair| Stroke {
            start: pair[0].0,
            end: pair[1].0,
            from: pair[0].1,
        })
        .collect();
    let whole = (body.clock.frames - 1) as f64 / rate;
    let mut all = regular(all, |stroke| stroke.end - stroke.start);
    all.retain(|stroke| stroke.start >= NEAR_END_S && stroke.end <= whole - NEAR_END_S);
    all
}

/// Those strokes that take about as long as most do.
pub(crate) fn regular<S>(mut all: Vec<S>, takes: impl Fn(&S) -> f64) -> Vec<S> {
    if let Some(median) = middle(all.iter().map(&takes)) {
        all.retain(|stroke| (takes(stroke) / median - 1.0).abs() <= OFF_TIME);
    }
    all
}

/// The fraction of a frame at which the crank was at `top`: a cubic through four frames where there are four.
fn crossing(turned: &[Option<f64>], frame: usize, top: f64) -> f64 {
    let first = frame.saturating_sub(1);
    let known: Option<Vec<f64>> = turned
        .get(first..first + 4)
        .and_then(|four| four.iter().copied().collect());
    if let Some(known) = known
        && let Some(spline) = Spline::through(
            known,
            (first..first + 4).map(|frame| frame as f64).collect(),
        )
    {
        return spline.at(top);
    }
    let (before, after) = (
        turned[frame].unwrap_or(top),
        turned[frame + 1].unwrap_or(top),
    );
    frame as f64 + (top - before) / (after - before)
}

/// A marker over one stroke of `by`'s crank, if it was seen all through.
pub(crate) fn turn(
    body: &Body,
    cranks: &Cranks,
    by: Side,
    stroke: &Stroke,
    side: Side,
    part: BodyPoint,
) -> Option<Turn> {
    let places = body.of(side, part)?;
    let turned = cranks.turned.of(by);
    let rate = body.clock.rate_hz;
    let first = (stroke.start * rate).floor() as usize;
    let last = ((stroke.end * rate).ceil() as usize).min(places.len() - 1);
    let known = |frame: usize| Some((turned[frame]?, places[frame]?));
    let whole: Option<Vec<_>> = (first..=last).map(known).collect();
    let mut whole = whole?;
    // A few frames on either side carry the spline over its ends.
    for frame in (first.saturating_sub(4)..first).rev() {
        let Some(more) = known(frame) else { break };
        whole.insert(0, more);
    }
    for frame in last + 1..(last + 5).min(places.len()) {
        let Some(more) = known(frame) else { break };
        whole.push(more);
    }
    let (x, places): (Vec<f64>, Vec<[f64; 3]>) = (whole.into_iter())
        .map(|(turned, place)| (turned - stroke.from, place))
        .unzip();
    degrees(&x, &places)
}

/// A path through places at these cranks, at crank 0, 1, … 360.
pub(crate) fn degrees<const N: usize>(x: &[f64], places: &[[f64; N]]) -> Option<Vec<[f64; N]>> {
    let curve = Curve::through(x, places)?;
    Some(
        (0..=360)
            .map(|degree| curve.at(f64::from(degree)))
            .collect(),
    )
}

/// The pedal axle over one stroke.
pub(crate) fn axle_turn(
    body: &Body,
    cranks: &Cranks,
    side: Side,
    stroke: &Stroke,
) -> Option<Vec<[f64; 2]>> {
    let turned = cranks.turned.of(side);
    let axle = cranks.axle.of(side);
    let rate = body.clock.rate_hz;
    let first = (stroke.start * rate).floor() as usize;
    let last = ((stroke.end * rate).ceil() as usize).min(axle.len() - 1);
    let known: Option<Vec<(f64, [f64; 2])>> = (first..=last)
        .map(|frame| {
            let at = axle[frame]?;
            Some((turned[frame]? - stroke.from, [at.x, at.y]))
        })
        .collect();
    let (x, places): (Vec<f64>, Vec<[f64; 2]>) = known?.into_iter().unzip();
    degrees(&x, &places)
}

/// Crank speed over one stroke at every whole degree, ° a second.
pub(crate) fn speed(body: &Body, cranks: &Cranks, side: Side, stroke: &Stroke) -> Option<Vec<f64>> {
    let turned = cranks.turned.of(side);
    let rate = body.clock.rate_hz;
    let first = ((stroke.start * rate).floor() as usize).max(1);
    let last = ((stroke.end * rate).ceil() as usize).min(turned.len().checked_sub(2)?);
    let known: Option<Vec<(f64, f64)>> = (first..=last)
        .map(|frame| {
            let (before, here, after) = (turned[frame - 1]?, turned[frame]?, turned[frame + 1]?);
            Some((here - stroke.from, (after - before) * rate / 2.0))
        })
        .collect();
    let (x, y) = known?.into_iter().unzip();
    let spline = Spline::through(x, y)?;
    Some(
        (0..360)
            .map(|degree| spline.at(f64::from(degree)))
            .collect(),
    )
}
