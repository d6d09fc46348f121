//! Honest statistics of a few noisy ratings: a slope no single ride can turn, and medians held against their scatter.

use crate::measure::CONSISTENT;
use crate::rule::rules;

rules! {
    rules "Ledger";
    /// The normal deviate of a 95 % interval
    const Z95: f64 = 1.959_963_984_540_054, "", Published ("the standard normal distribution");
    /// The standard error of a median, in standard errors of a mean
    const MEDIAN_ERROR: f64 = 1.253, "", Published ("√(π/2), of a normal distribution");
    /// A rating is no surer than
    const ROUNDED: f64 = 0.5, "", House;
    /// Settings, and days, are told apart from so many rides on
    pub(super) const FEWEST: usize = 3, " rides", House;
    /// A slope is told from so many rides on
    const FEWEST_OF_SLOPE: usize = 5, " rides", House;
    /// A change is worth telling from
    const WORTH: f64 = 1.0, " of a rating", House;
    /// Medians differ when they are apart by more standard errors than
    const ERRORS_APART: f64 = 2.0, "", House;
}

/// The middle one of some values, half way between the two of an even number; none of none.
pub(super) fn median(values: impl IntoIterator<Item = f64>) -> Option<f64> {
    let mut values: Vec<f64> = values.into_iter().collect();
    values.sort_by(f64::total_cmp);
    let upper = values.get(values.len() / 2)?;
    let lower = values.get((values.len() - 1) / 2)?;
    Some(f64::midpoint(*lower, *upper))
}

/// A line through noisy points: the median of the slopes between all pairs of them.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct TheilSen {
    /// The slope.
    pub slope: f64,
    /// The lower end of its 95 % interval.
    pub low: f64,
    /// The upper end.
    pub high: f64,
    /// Where the line crosses zero.
    pub intercept: f64,
}

/// The Theil–Sen line of points, with Sen's interval by Kendall's variance with ties (P. K. Sen, *J. Am. Stat. Assoc.* 63
/// (1968) 1379); none of fewer than two places.
pub fn theil_sen(points: &[(f64, f64)]) -> Option<TheilSen> {
    let mut slopes: Vec<f64> = Vec::new();
    for (n, (x, y)) in points.iter().enumerate() {
        for (x0, y0) in &points[..n] {
            if (x - x0).abs() > 1e-12 {
                slopes.push((y - y0) / (x - x0));
            }
        }
    }
    slopes.sort_by(f64::total_cmp);
    let slope = median(slopes.iter().copied())?;
    let (x, y) = (
        median(points.iter().map(|p| p.0))?,
        median(points.iter().map(|p| p.1))?,
    );
    let pairs = count(slopes.len());
    let sigma = kendall_variance(points).max(0.0).sqrt();
    let rank = |of: f64| (of / 2.0).round_ties_even();
    let low = (rank(pairs - Z95 * sigma) - 1.0).max(0.0);
    let high = rank(pairs + Z95 * sigma).min(pairs - 1.0);
    Some(TheilSen {
        slope,
        low: at(&slopes, low)?,
        high: at(&slopes, high)?,
        intercept: y - slope * x,
    })
}

#[expect(clippy::cast_precision_loss, reason = "some hundred rides")]
fn count(of: usize) -> f64 {
    of as f64
}

#[expect(
    clippy::cast_possible_truncation,
    clippy::cast_sign_loss,
    reason = "a rank within the slopes"
)]
fn at(slopes: &[f64], rank: f64) -> Option<f64> {
    slopes.get(rank as usize).copied()
}

fn kendall_variance(points: &[(f64, f64)]) -> f64 {
    let term = |n: f64| n * (n - 1.0) * (2.0 * n + 5.0);
    let ties = |of: fn(&(f64, f64)) -> f64| -> f64 {
        let mut values: Vec<f64> = points.iter().map(of).collect();
        values.sort_by(f64::total_cmp);
        let alike = values.chunk_by(|a, b| (a - b).abs() < 1e-12);
        alike.map(|same| term(count(same.len()))).sum()
    };
    (term(count(points.len())) - ties(|p| p.0) - ties(|p| p.1)) / 18.0
}

/// A slope of ratings by day that is more than their noise.
pub(super) fn real_slope(points: &[(f64, f64)]) -> Option<TheilSen> {
    let line = theil_sen(points).filter(|_| points.len() >= FEWEST_OF_SLOPE)?;
    let days = points.iter().map(|p| p.0);
    let span = days.clone().fold(f64::MIN, f64::max) - days.fold(f64::MAX, f64::min);
    let is_one_way = line.low * line.high > 0.0;
    (is_one_way && (line.slope * span).abs() >= WORTH).then_some(line)
}

/// The standard error of the median of ratings.
fn median_error(values: &[f64], middle: f64) -> Option<f64> {
    let off = median(values.iter().map(|value| (value - middle).abs()))?;
    Some(MEDIAN_ERROR * (off / CONSISTENT).max(ROUNDED) / count(values.len()).sqrt())
}

/// By how much the median of the later ratings is above that of the earlier ones, where that is more than their scatter;
/// nothing is told of fewer than three.
pub(super) fn apart(earlier: &[f64], later: &[f64]) -> Option<f64> {
    if earlier.len().min(later.len()) < FEWEST {
        return None;
    }
    let (a, b) = (
        median(earlier.iter().copied())?,
        median(later.iter().copied())?,
    );
    let error = median_error(earlier, a)?.hypot(median_error(later, b)?);
    let by = b - a;
    (by.abs() >= WORTH && by.abs() > ERRORS_APART * error).then_some(by)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn points(x: &[f64], y: &[f64]) -> Vec<(f64, f64)> {
        x.iter().copied().zip(y.iter().copied()).collect()
    }

    /// Slope, low, high and intercept as `scipy.stats.theilslopes` 1.x gives them for the same points.
    #[test]
    fn lines_agree_with_another_program() {
        let cases: [(&[f64], &[f64], [f64; 4]); 4] = [
            (
                &[0.0, 3.0, 5.0, 8.0, 10.0, 14.0, 17.0, 20.0, 22.0, 27.0],
                &[6.0, 5.0, 6.0, 5.0, 4.0, 4.0, 3.0, 3.0, 2.0, 2.0],
                [
                    -0.157_894_736_842_105_25,
                    -0.214_285_714_285_714_27,
                    -0.125,
                    5.894_736_842_105_263,
                ],
            ),
            (
                &[0.0, 1.0, 2.0, 3.0, 4.0, 5.0, 6.0],
                &[3.0, 5.0, 2.0, 4.0, 3.0, 5.0, 4.0],
                [0.166_666_666_666_666_66, -0.666_666_666_666_666_6, 1.0, 3.5],
            ),
            (
                &[0.0, 2.0, 2.0, 4.0, 9.0, 9.0, 11.0, 16.0],
                &[1.0, 2.0, 3.0, 3.0, 5.0, 4.0, 6.0, 7.0],
                [
                    0.3875,
                    0.285_714_285_714_285_7,
                    0.5,
                    0.981_249_999_999_999_7,
                ],
            ),
            (
                &[0.0, 7.0, 14.0],
                &[4.0, 3.0, 1.0],
                [
                    -0.214_285_714_285_714_27,
                    -0.285_714_285_714_285_7,
                    -0.142_857_142_857_142_85,
                    4.5,
                ],
            ),
        ];
        for (x, y, wanted) in cases {
            let line = theil_sen(&points(x, y)).unwrap();
            let got = [line.slope, line.low, line.high, line.intercept];
            for (got, wanted) in got.iter().zip(wanted) {
                assert!((got - wanted).abs() < 1e-12, "{got} for {wanted} of {x:?}");
            }
        }
    }

    #[test]
    fn a_long_series_with_many_ties_agrees_too() {
        let y = [
            5, 5, 6, 4, 6, 3, 6, 3, 6, 3, 5, 4, 4, 4, 3, 5, 2, 5, 2, 5, 2, 4, 2, 4, 3, 3, 4, 2, 4,
            1, 4, 1, 4, 1, 3, 2, 2, 2, 1, 3,
        ];
        let points: Vec<(f64, f64)> = (0..40)
            .map(|n| f64::from(n) * 2.0)
            .zip(y.map(f64::from))
            .collect();
        let line = theil_sen(&points).unwrap();
        for (got, wanted) in [
            (line.slope, -0.041_666_666_666_666_664),
            (line.low, -0.055_555_555_555_555_55),
            (line.high, -0.022_727_272_727_272_728),
            (line.intercept, 5.125),
        ] {
            assert!((got - wanted).abs() < 1e-12, "{got} for {wanted}");
        }
    }

    #[test]
    fn few_rides_and_noise_tell_nothing() {
        assert_eq!(theil_sen(&[(1.0, 2.0)]), None);
        assert_eq!(theil_sen(&[(1.0, 2.0), (1.0, 3.0)]), None);
        assert!(real_slope(&[(0.0, 6.0), (7.0, 4.0), (14.0, 2.0)]).is_none());
        assert_eq!(apart(&[6.0, 6.0], &[2.0, 2.0, 2.0]), None);
        assert_eq!(apart(&[6.0, 2.0, 5.0], &[4.0, 1.0, 6.0]), None);
        assert_eq!(apart(&[5.0, 6.0, 5.0], &[2.0, 3.0, 2.0]), Some(-3.0));
        // A whole point of difference, and no more scatter than rounding gives: just told.
        assert_eq!(apart(&[4.0; 3], &[3.0; 3]), None);
        assert_eq!(apart(&[4.0; 6], &[3.0; 6]), Some(-1.0));
    }

    proptest! {
        /// One ride as wrong as can be does not turn a steady slope.
        #[test]
        fn one_wild_ride_turns_nothing(at in 0..12_usize, wild in 0.0..10.0_f64) {
            let steady: Vec<(f64, f64)> = (0..12).map(|n| (f64::from(n) * 3.0, 8.0 - f64::from(n) * 0.5)).collect();
            let mut points = steady.clone();
            points[at].1 = wild;
            let line = real_slope(&points).unwrap();
            prop_assert!((line.slope + 1.0 / 6.0).abs() < 0.06, "{}", line.slope);
        }
    }
}
