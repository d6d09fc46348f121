//! How smoothly a leg goes through the bottom of the stroke, beside the fitter's eye.

use crate::plane::Point;
use crate::rule::rules;

rules! {
    rules "Markers";
    /// Crank around the bottom over which a knee's roughness is told.
    const BOTTOM: (f64, f64) = (135.0, 225.0), "°", House;
    /// The harmonics of a turn that are roughness.
    const ROUGH: (usize, usize) = (4, 10), "", House;
    /// The harmonics the smooth leg's hip and ankle keep.
    const SMOOTH: usize = 2, "", House;
    /// The harmonics of crank speed that are its ripple.
    const RIPPLE: usize = 6, "", House;
    /// Below this rate a camera does not see roughness.
    pub(crate) const LEAST_RATE_HZ: f64 = 60.0, " Hz", House;
    /// From here on a bottom is choppy.
    pub const CHOPPY_DEG: f64 = 0.4, "°", House;
    /// Two readings of roughness differ when one is more than this many times the other.
    pub const ROUGHER: f64 = 1.45, "", House;
}

impl crate::rule::Shown for (usize, usize) {
    fn shown(&self, unit: &str) -> String {
        format!("{} to {}{unit}", self.0, self.1)
    }
}

/// A turn's harmonics: (cosine, sine) of each from 0 up to `most`; 360 values.
pub(crate) fn harmonics(values: &[f64], most: usize) -> Vec<(f64, f64)> {
    let n = values.len() as f64;
    (0..=most)
        .map(|order| {
            let (mut cosine, mut sine) = (0.0, 0.0);
            for (degree, value) in values.iter().enumerate() {
                let (s, c) = TURN[(order * degree) % 360];
                cosine += value * c;
                sine += value * s;
            }
            let share = if order == 0 { 1.0 / n } else { 2.0 / n };
            (share * cosine, share * sine)
        })
        .collect()
}

/// Sines and cosines of the whole degrees.
static TURN: std::sync::LazyLock<[(f64, f64); 360]> = std::sync::LazyLock::new(|| {
    std::array::from_fn(|degree| (degree as f64).to_radians().sin_cos())
});

/// The value of harmonics `from..` at a whole degree.
pub(crate) fn at(harmonics: &[(f64, f64)], from: usize, degree: usize) -> f64 {
    harmonics
        .iter()
        .enumerate()
        .skip(from)
        .map(|(order, (cosine, sine))| {
            let (s, c) = TURN[(order * degree) % 360];
            cosine * c + sine * s
        })
        .sum()
}

/// A knee over the stroke, the knee of the leg that goes round smoothly, and what lies between.
#[derive(Debug, Clone, PartialEq)]
pub(crate) struct Smooth {
    /// Knee flexion of the smooth leg at every whole degree.
    pub(crate) knee: Vec<f64>,
    /// RMS of what is left of the knee around the bottom, °.
    pub(crate) roughness: f64,
}

/// Hip, knee, ankle of each stroke in side view, 360 places each.
pub(crate) fn smooth(strokes: &[[Vec<Point>; 3]], knees: &[Vec<f64>]) -> Option<Smooth> {
    let count = strokes.len() as f64;
    if strokes.is_empty() {
        return None;
    }
    let gentle = |part: usize, of: fn(Point) -> f64| -> Vec<f64> {
        let mean: Vec<f64> = (0..360)
            .map(|degree| {
                strokes
                    .iter()
                    .map(|stroke| of(stroke[part][degree]))
                    .sum::<f64>()
                    / count
            })
            .collect();
        let kept = harmonics(&mean, SMOOTH);
        (0..360).map(|degree| at(&kept, 0, degree)).collect()
    };
    let (hip_x, hip_y) = (gentle(0, |p| p.x), gentle(0, |p| p.y));
    let (ankle_x, ankle_y) = (gentle(2, |p| p.x), gentle(2, |p| p.y));
    let length = |upper: usize, lower: usize| {
        let all = strokes
            .iter()
            .flat_map(|stroke| stroke[upper].iter().zip(&stroke[lower]));
        all.map(|(a, b)| a.distance(*b)).sum::<f64>() / (360.0 * count)
    };
    let (thigh, shank) = (length(0, 1), length(1, 2));
    let knee: Vec<f64> = (0..360)
        .map(|degree| {
            let apart = (hip_x[degree] - ankle_x[degree]).hypot(hip_y[degree] - ankle_y[degree]);
            let cosine = (thigh * thigh + shank * shank - apart * apart) / (2.0 * thigh * shank);
            180.0 - cosine.clamp(-1.0, 1.0).acos().to_degrees()
        })
        .collect();
    let (mut squares, mut n) = (0.0, 0.0);
    for own in knees {
        let off: Vec<f64> = own[..360]
            .iter()
            .zip(&knee)
            .map(|(own, smooth)| own - smooth)
            .collect();
        let all = harmonics(&off, ROUGH.1);
        for degree in BOTTOM.0 as usize..=BOTTOM.1 as usize {
            squares += at(&all, ROUGH.0, degree).powi(2);
            n += 1.0;
        }
    }
    Some(Smooth {
        knee,
        roughness: (squares / n).sqrt(),
    })
}

/// SD of crank speed within a turn over its mean, harmonics 1–6: 360 values of speed.
pub(crate) fn ripple(speed: &[f64]) -> f64 {
    let all = harmonics(speed, RIPPLE);
    let power: f64 = all[1..]
        .iter()
        .map(|(cosine, sine)| f64::midpoint(cosine * cosine, sine * sine))
        .sum();
    power.sqrt() / all[0].0
}
