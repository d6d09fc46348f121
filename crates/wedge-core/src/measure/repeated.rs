//! Repeated readings of one measure: mean, spread, and one that is far from its siblings.

use super::Spec;
use crate::rule::rules;
use crate::words::written;
use serde::{Deserialize, Serialize};

rules! {
    rules "Repeated readings";
    /// Beyond this modified z-score a reading is questioned.
    const FAR: f64 = 3.5, "", Published("B. Iglewicz and D. Hoaglin, How to Detect and Handle Outliers (1993)");
    /// What makes the median absolute deviation of a normal distribution one standard deviation.
    pub(crate) const CONSISTENT: f64 = 0.6745, "", Published("the same");
    /// Readings of one measure this close in time belong together: a visit.
    const VISIT_HOURS: f64 = 12.0, " h", House;
}

/// Whether readings of one measure taken so far apart belong together.
pub fn of_one_visit(hours_apart: f64) -> bool {
    hours_apart <= VISIT_HOURS
}

/// Readings of one measure taken together.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Repeated {
    /// Their mean.
    pub mean: f64,
    /// The standard deviation of the readings; none of a single one.
    pub spread: Option<f64>,
    /// Which readings are far from their siblings, by their place.
    pub far: Vec<usize>,
    /// What to ask about them.
    pub question: Option<String>,
}

impl Repeated {
    /// Readings in the order they were taken; `None` without any.
    ///
    /// A reading is questioned by the modified z-score of Iglewicz and Hoaglin (*How to Detect and Handle Outliers*,
    /// 1993): `0.6745 (x − median) / MAD` beyond 3.5. The scale is never finer than one reading's own uncertainty:
    /// three readings that happen to agree make no fourth one wrong. Of two, nobody can tell which is off.
    pub fn of(values: &[f64], spec: &Spec) -> Option<Self> {
        let mean = mean(values)?;
        let far = match values {
            [a, b] if (a - b).abs() > FAR * 2.0_f64.sqrt() * spec.uncertainty => vec![0, 1],
            [_, _] => Vec::new(),
            _ => far(values, spec.uncertainty),
        };
        Some(Self {
            mean,
            spread: spread(values, mean),
            question: question(values, &far, spec),
            far,
        })
    }
}

/// How many, as a number to divide by.
pub(crate) fn count(values: &[f64]) -> f64 {
    values.iter().map(|_| 1.0).sum()
}

/// The mean of some values; none of none.
pub(crate) fn mean(values: &[f64]) -> Option<f64> {
    (!values.is_empty()).then(|| values.iter().sum::<f64>() / count(values))
}

/// One standard deviation of some values around their mean; none of one.
pub(crate) fn spread(values: &[f64], mean: f64) -> Option<f64> {
    (values.len() > 1).then(|| {
        let squares: f64 = values.iter().map(|v| (v - mean).powi(2)).sum();
        (squares / (count(values) - 1.0)).sqrt()
    })
}

fn median(mut values: Vec<f64>) -> f64 {
    values.sort_by(f64::total_cmp);
    let middle = values.len() / 2;
    match (values.len() % 2, values.get(middle)) {
        (0, Some(upper)) if middle > 0 => f64::midpoint(values[middle - 1], *upper),
        (_, Some(value)) => *value,
        (_, None) => 0.0,
    }
}

/// The modified z-scores, on a scale of at least `least` (one standard deviation of a single reading).
fn scores(values: &[f64], least: f64) -> Vec<f64> {
    let middle = median(values.to_vec());
    let deviation = median(values.iter().map(|v| (v - middle).abs()).collect());
    let scale = deviation.max(CONSISTENT * least);
    values
        .iter()
        .map(|v| {
            if scale > 0.0 {
                CONSISTENT * (v - middle) / scale
            } else {
                0.0
            }
        })
        .collect()
}

fn far(values: &[f64], least: f64) -> Vec<usize> {
    scores(values, least)
        .into_iter()
        .enumerate()
        .filter(|(_, score)| score.abs() > FAR)
        .map(|(index, _)| index)
        .collect()
}

fn question(values: &[f64], far: &[usize], spec: &Spec) -> Option<String> {
    let unit = spec.unit.suffix();
    match (values, far) {
        (_, []) => None,
        ([a, b], _) => Some(format!(
            "The two are {}{unit} apart: take a third",
            written((a - b).abs())
        )),
        (_, far) => {
            let siblings: Vec<f64> = values
                .iter()
                .enumerate()
                .filter(|(index, _)| !far.contains(index))
                .map(|(_, value)| *value)
                .collect();
            let around = mean(&siblings)?;
            let each: Vec<String> = far
                .iter()
                .filter_map(|index| values.get(*index))
                .map(|value| format!("{}{unit}", written(*value)))
                .collect();
            Some(format!(
                "{} is far from the others around {}{unit}: take it again, or set it aside",
                each.join(" and "),
                written(around)
            ))
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::measure::Quantity;

    fn inseam(values: &[f64]) -> Repeated {
        Repeated::of(values, &Quantity::Inseam.spec()).unwrap()
    }

    #[test]
    fn golden_ten_values_of_the_published_example() {
        // Iglewicz and Hoaglin's ten values: the two large ones mask each other from plain z-scores (both under 2), and
        // stand out by the modified ones. Median 2.45; deviations .05 .05 .15 .15 .15 .15 .35 .35 5.75 5.85, so MAD
        // .15; .6745 × 5.75/.15 = 25.86, .6745 × 5.85/.15 = 26.31, .6745 × −.35/.15 = −1.57.
        let values = [2.1, 2.6, 2.4, 2.5, 2.3, 2.1, 2.3, 2.6, 8.2, 8.3];
        let scores = scores(&values, 0.0);
        for (index, score) in [(0, -1.574), (1, 0.674), (8, 25.856), (9, 26.306)] {
            assert!((scores[index] - score).abs() < 1e-3, "{}", scores[index]);
        }
        assert_eq!(far(&values, 0.0), [8, 9]);
        let mean = mean(&values).unwrap();
        let sd = spread(&values, mean).unwrap();
        assert!(values.iter().all(|v| ((v - mean) / sd).abs() < 2.1));
    }

    #[test]
    fn three_readings_have_a_mean_and_a_spread() {
        // 844, 846, 848: mean 846, deviations −2, 0, 2, spread √(8/2) = 2.
        let three = inseam(&[844.0, 848.0, 846.0]);
        assert!((three.mean - 846.0).abs() < 1e-9);
        assert!((three.spread.unwrap() - 2.0).abs() < 1e-9);
        assert_eq!(three.question, None);
        assert_eq!(inseam(&[845.0]).spread, None);
        assert!(Repeated::of(&[], &Quantity::Inseam.spec()).is_none());
    }

    #[test]
    fn one_far_from_its_siblings_is_questioned_and_one_within_the_tape_is_not() {
        for (values, far) in [
            (&[845.0, 846.0, 885.0][..], &[2][..]),
            (&[845.0, 845.0, 845.0, 849.0], &[]),
            (&[845.0, 854.0, 846.0], &[]),
            (&[845.0, 885.0], &[0, 1]),
            (&[845.0, 855.0], &[]),
            (&[805.0, 845.0, 846.0, 847.0], &[0]),
        ] {
            assert_eq!(inseam(values).far, far, "{values:?}");
        }
        assert_eq!(
            inseam(&[845.0, 847.0, 885.0]).question.unwrap(),
            "885 mm is far from the others around 846 mm: take it again, or set it aside"
        );
        assert_eq!(
            inseam(&[845.0, 885.0]).question.unwrap(),
            "The two are 40 mm apart: take a third"
        );
    }
}
