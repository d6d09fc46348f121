//! Means over strokes, and what is real between two of them.

use crate::rule::rules;
use serde::{Deserialize, Serialize};

rules! {
    rules "Markers";
    /// Fewer strokes have no figures.
    pub(crate) const STROKES_FOR_FIGURES: usize = 4, "", House;
    /// Below this many strokes on either side nothing is called real.
    pub(crate) const STROKES_FOR_REAL: usize = 8, "", House;
    /// How far one stroke's error may go over into the next.
    const MOST_ALIKE: f64 = 0.8, "", House;
}

/// What is said where strokes are too few for figures.
pub(crate) fn no_figures(strokes: usize) -> Option<String> {
    (strokes < STROKES_FOR_FIGURES).then(|| {
        format!(
            "{strokes} whole strokes: figures need {STROKES_FOR_FIGURES}, ten seconds give thirteen"
        )
    })
}

/// What is said where strokes are too few for a difference to be real.
pub(crate) fn nothing_real(strokes: usize) -> Option<String> {
    (strokes < STROKES_FOR_REAL).then(|| {
        format!("{strokes} strokes: under {STROKES_FOR_REAL} no difference is called real.")
    })
}

/// The middle one of some values, the upper of two; none of none.
pub(crate) fn middle(values: impl IntoIterator<Item = f64>) -> Option<f64> {
    let mut values: Vec<f64> = values.into_iter().collect();
    values.sort_by(f64::total_cmp);
    values.get(values.len() / 2).copied()
}

/// A figure over the strokes of a take.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Stat {
    /// Mean.
    pub mean: f64,
    /// Standard deviation between strokes.
    pub sd: f64,
    /// Strokes.
    pub n: usize,
    /// Standard error of the mean, wider where strokes follow one another.
    pub se: f64,
}

impl Stat {
    /// Over the strokes in their order; fewer than four are none.
    pub fn over(values: &[f64]) -> Option<Self> {
        let n = values.len();
        if n < STROKES_FOR_FIGURES {
            return None;
        }
        let count = n as f64;
        let mean = values.iter().sum::<f64>() / count;
        let squares: f64 = values.iter().map(|value| (value - mean).powi(2)).sum();
        let sd = (squares / (count - 1.0)).sqrt();
        let products: f64 = values
            .windows(2)
            .map(|pair| (pair[0] - mean) * (pair[1] - mean))
            .sum();
        let seen = if squares > 0.0 {
            products / squares
        } else {
            0.0
        };
        // A short series tells too small a correlation; this is what it lacks on average.
        let alike = (seen + (1.0 + 4.0 * seen) / count).clamp(0.0, MOST_ALIKE);
        let effective = count * (1.0 - alike) / (1.0 + alike);
        Some(Self {
            mean,
            sd,
            n,
            se: sd / effective.sqrt(),
        })
    }
}

/// What lies between two means.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Difference {
    /// Later less earlier.
    pub change: f64,
    /// Within this it is no difference, about 95 %.
    pub within: f64,
    /// Whether it is more than that, with eight strokes or more on either side.
    pub real: bool,
}

impl Difference {
    /// `U = 2 √(SE₁² + SE₂² + 2e²)`, with `e` what one take differs from another with nothing changed.
    pub fn between(before: &Stat, after: &Stat, e: f64) -> Self {
        let change = after.mean - before.mean;
        let within = 2.0 * (before.se.powi(2) + after.se.powi(2) + 2.0 * e * e).sqrt();
        let enough = before.n.min(after.n) >= STROKES_FOR_REAL;
        Self {
            change,
            within,
            real: enough && change.abs() > within,
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn strokes_that_follow_one_another_tell_less() {
        // By hand: 1 2 3 4 5 6 7 8, mean 4.5, squares 42, sd √6; lag products 26.25, r = 0.625, + (1 + 2.5)/8 = 1.06 → 0.8;
        // effective 8 · 0.2 / 1.8 = 0.889, se = 2.449 / 0.943.
        let drift: Vec<f64> = (1..=8).map(f64::from).collect();
        let stat = Stat::over(&drift).unwrap();
        assert!((stat.sd - 6.0_f64.sqrt()).abs() < 1e-12);
        assert!((stat.se - 6.0_f64.sqrt() / (8.0_f64 * 0.2 / 1.8).sqrt()).abs() < 1e-12);
        // Strokes that alternate are no surer than independent ones.
        let to_and_fro = [1.0, 2.0, 1.0, 2.0, 1.0, 2.0, 1.0, 2.0];
        let stat = Stat::over(&to_and_fro).unwrap();
        assert!((stat.se - stat.sd / 8.0_f64.sqrt()).abs() < 1e-12);
        assert!(Stat::over(&[1.0, 2.0, 3.0]).is_none());
    }

    #[test]
    fn a_difference_is_real_beyond_its_doubt_and_with_eight_strokes() {
        let of = |mean, n| Stat {
            mean,
            sd: 0.5,
            n,
            se: 0.2,
        };
        // By hand: 2 √(0.04 + 0.04 + 2 · 0.16) = 2 √0.4 = 1.265.
        let one = Difference::between(&of(36.0, 12), &of(37.2, 12), 0.4);
        assert!((one.within - 1.264_911).abs() < 1e-6 && !one.real);
        assert!(Difference::between(&of(36.0, 12), &of(37.3, 12), 0.4).real);
        assert!(!Difference::between(&of(36.0, 7), &of(39.0, 12), 0.4).real);
    }
}
