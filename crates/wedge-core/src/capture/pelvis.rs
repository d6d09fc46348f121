//! The pelvis through the right crank's stroke: roll, twist, dips, and the creep of the hips along the saddle.

use super::figure::Figure;
use super::leg::{least, most};
use super::smooth::{at, harmonics};
use super::stroke::Turn;
use crate::rule::rules;

rules! {
    rules "Markers";
    /// Right crank over which a dip to the right is looked for; to the left, the left crank over the same.
    const DIP: (f64, f64) = (30.0, 210.0), "°", House;
    /// Harmonics of a turn that are kept of the pelvis.
    const KEPT: usize = 2, "", House;
}

/// One stroke of the pelvis.
pub(crate) struct Turned {
    /// Right hip up, ° at every whole degree of the right crank.
    pub(crate) roll: Vec<f64>,
    /// Right hip ahead.
    pub(crate) twist: Vec<f64>,
}

impl Turned {
    /// The pelvis between the two hips' markers over one stroke of the right crank.
    pub(crate) fn between(left: &Turn, right: &Turn) -> Self {
        let smooth = |angle: fn([f64; 3], [f64; 3]) -> f64| -> Vec<f64> {
            let raw: Vec<f64> = left[..360]
                .iter()
                .zip(right)
                .map(|(left, right)| angle(*left, *right))
                .collect();
            let kept = harmonics(&raw, KEPT);
            (0..360).map(|degree| at(&kept, 0, degree)).collect()
        };
        Self {
            roll: smooth(|left, right| (right[1] - left[1]).atan2(right[2] - left[2]).to_degrees()),
            twist: smooth(|left, right| {
                (right[0] - left[0]).atan2(right[2] - left[2]).to_degrees()
            }),
        }
    }

    /// The figures of this stroke.
    pub(crate) fn figures(&self) -> [(Figure, f64); 5] {
        let (from, to) = (DIP.0 as usize, DIP.1 as usize);
        let right = -least(&self.roll[from..=to]);
        // The left crank is half a turn on.
        let on_left: Vec<f64> = (from..=to)
            .map(|degree| self.roll[(degree + 180) % 360])
            .collect();
        let left = most(&on_left);
        let mean = |values: &[f64]| values.iter().sum::<f64>() / 360.0;
        [
            (Figure::DipRight, right),
            (Figure::DipLeft, left),
            (Figure::Rock, f64::midpoint(right, left)),
            (Figure::Lean, mean(&self.roll)),
            (Figure::Twist, mean(&self.twist)),
        ]
    }
}

/// How far the hips go forward in ten seconds: the slope through their mean `x` a stroke, with its standard error.
pub(crate) fn creep(times: &[f64], x: &[f64]) -> Option<(f64, f64)> {
    let n = times.len() as f64;
    if times.len() < 3 {
        return None;
    }
    let (mt, mx) = (times.iter().sum::<f64>() / n, x.iter().sum::<f64>() / n);
    let tt: f64 = times.iter().map(|t| (t - mt).powi(2)).sum();
    let slope = times
        .iter()
        .zip(x)
        .map(|(t, x)| (t - mt) * (x - mx))
        .sum::<f64>()
        / tt;
    let left: f64 = times
        .iter()
        .zip(x)
        .map(|(t, x)| (x - mx - slope * (t - mt)).powi(2))
        .sum();
    Some((10.0 * slope, 10.0 * (left / (n - 2.0) / tt).sqrt()))
}
