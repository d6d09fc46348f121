//! A standing zero: what the markers of both hips are out of level and out of square while the pelvis is neither.

use super::figure::Figure;
use super::frame::{mean, settle_standing};
use super::names::BodyPoint;
use super::sample::{PelvisTake, Sample};
use super::tracks::Tracks;
use super::{Answers, Unlooked};
use crate::rule::rules;
use crate::units::Side;
use serde::{Deserialize, Serialize};

rules! {
    rules "Markers";
    /// A zero is stood still for so long at the least; two seconds are asked for.
    const LEAST_S: f64 = 1.5, " s", House;
    /// Hips and feet that move about by more than this do not stand still, 1 SD.
    const STILL_MM: f64 = 15.0, " mm", House;
    /// Markers farther out of level or square than this are misplaced: a zero does not make them good.
    const MOST_DEG: f64 = 8.0, "°", House;
}

/// What is taken off lean and twist of the takes with the same placing of the markers.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StandingZero {
    /// The right hip's marker above the left one, °.
    pub lean_deg: f64,
    /// The right hip's marker ahead of the left one, °.
    pub twist_deg: f64,
    /// How long was stood, s.
    pub seconds: f64,
}

/// Reads a zero off markers of a rider who stands still and straight, feet side by side.
pub fn standing(tracks: &Tracks, answers: &Answers) -> Result<StandingZero, Unlooked> {
    let mut asks = Vec::new();
    let body = settle_standing(tracks, answers, &mut asks)?;
    let no = |words: &str| Err(Unlooked::new(words).asking(&asks));
    if body.planar {
        return no("all markers lie in one plane: there is no pelvis to zero");
    }
    let (Some(left), Some(right)) = (
        body.of(Side::Left, BodyPoint::Hip),
        body.of(Side::Right, BodyPoint::Hip),
    ) else {
        return no("a zero is of both hips' markers");
    };
    let both: Vec<([f64; 3], [f64; 3])> = left
        .iter()
        .zip(right)
        .filter_map(|(left, right)| Some(((*left)?, (*right)?)))
        .collect();
    let seconds = both.len() as f64 / body.clock.rate_hz;
    if seconds < LEAST_S {
        return no("too short: stand still for two seconds");
    }
    let moves = |side: Side, part: BodyPoint| {
        let Some(places) = body.of(side, part) else {
            return false;
        };
        let spread = |axis: usize| {
            let all = || places.iter().flatten().map(|place| place[axis]);
            let middle = mean(all()).unwrap_or_default();
            mean(all().map(|value| (value - middle).powi(2))).unwrap_or_default()
        };
        (0..3).map(spread).sum::<f64>().sqrt() > STILL_MM
    };
    let parts = [BodyPoint::Hip, BodyPoint::Toe, BodyPoint::Ankle];
    if Side::BOTH
        .into_iter()
        .any(|side| parts.iter().any(|part| moves(side, *part)))
    {
        return no("the rider moves: a zero is stood still");
    }
    let angle = |axis: usize| {
        let up = mean(both.iter().map(|(left, right)| right[axis] - left[axis]));
        let across = mean(both.iter().map(|(left, right)| right[2] - left[2]));
        let (up, across) = (up.unwrap_or_default(), across.unwrap_or_default());
        up.atan2(across).to_degrees()
    };
    let (lean_deg, twist_deg) = (angle(1), angle(0));
    if lean_deg.abs().max(twist_deg.abs()) > MOST_DEG {
        let words = format!(
            "the hips' markers are {lean_deg:.0}° out of level and {twist_deg:.0}° out of square while standing: put them on anew"
        );
        return Err(Unlooked::new(words).asking(&asks));
    }
    Ok(StandingZero {
        lean_deg,
        twist_deg,
        seconds,
    })
}

impl Sample {
    /// With a zero taken off: lean, twist, and what dips to either side; rock is the same either way.
    #[must_use]
    pub fn zeroed(mut self, zero: StandingZero, hip_spacing_mm: f64) -> Self {
        let Some(pelvis) = &mut self.pelvis else {
            return self;
        };
        for one in &mut pelvis.figures {
            one.stat.mean -= match one.figure {
                Figure::Lean | Figure::DipLeft => zero.lean_deg,
                Figure::DipRight => -zero.lean_deg,
                Figure::Twist => zero.twist_deg,
                _ => 0.0,
            };
        }
        pelvis.dip_mm = PelvisTake::dips(&pelvis.figures, hip_spacing_mm);
        let shift = |values: &mut Vec<f64>, by: f64| values.iter_mut().for_each(|v| *v -= by);
        shift(&mut pelvis.roll_deg, zero.lean_deg);
        shift(&mut pelvis.twist_deg, zero.twist_deg);
        pelvis.zero = Some(zero);
        self
    }
}
