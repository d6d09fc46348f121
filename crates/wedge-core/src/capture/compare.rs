//! Takes beside one another: first, before, now, and what of the change is real.

use super::figure::Figure;
use super::sample::Sample;
use super::smooth::ROUGHER;
use super::stat::{Difference, Stat};
use crate::rule::rules;
use crate::units::Side;
use crate::words::written;
use serde::{Deserialize, Serialize};

rules! {
    rules "Markers";
    /// Takes compare when their power is this alike, in hundredths.
    const LIKE_POWER_PERCENT: f64 = 10.0, " %", House;
    /// And their cadence.
    const LIKE_CADENCE_RPM: f64 = 10.0, " rpm", House;
}

/// One take to be compared.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Column<'a> {
    /// The take.
    pub sample: &'a Sample,
    /// Its power, where it is known.
    pub power_w: Option<f64>,
    /// Which placing of the markers it was taken with: takes of one placing compare closer.
    pub placing: u32,
}

/// What lies between two, in words as well.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Beside {
    /// In numbers.
    #[serde(flatten)]
    pub difference: Difference,
    /// "+2.3 ± 1.1", or "no difference (± 1.1)".
    pub words: String,
}

/// One figure of one side over the takes.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TakeRow {
    /// The figure.
    pub figure: Figure,
    /// The side; of the pelvis none.
    pub side: Option<Side>,
    /// A value a take.
    pub takes: Vec<Option<Stat>>,
    /// The last against the one before it.
    pub change: Option<Beside>,
    /// Left less right in the last take, on the line of the left.
    pub left_less_right: Option<Beside>,
}

/// Takes beside one another.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TakesCompared {
    /// The lines, in the order figures are told.
    pub lines: Vec<TakeRow>,
    /// Why the last two do not compare: then nothing is called real.
    pub unlike: Option<String>,
    /// What is said of roughness at the bottom, a sentence a side.
    pub roughness: Vec<String>,
}

fn unlike(before: &Column, now: &Column) -> Option<String> {
    let mut apart = Vec::new();
    let (was_rpm, rpm) = (before.sample.cadence_rpm, now.sample.cadence_rpm);
    if let (Some(was), Some(is)) = (before.power_w, now.power_w)
        && (is - was).abs() * 100.0 > LIKE_POWER_PERCENT * was + 1e-9
    {
        apart.push(format!("{} W against {} W", written(is), written(was)));
    }
    if (rpm - was_rpm).abs() > LIKE_CADENCE_RPM + 1e-9 {
        apart.push(format!("{rpm:.0} rpm against {was_rpm:.0} rpm"));
    }
    (!apart.is_empty()).then(|| {
        format!(
            "Not at like effort: {}. Nothing is called real.",
            apart.join(", ")
        )
    })
}

/// What is said of a difference that is none.
const SAME: &str = "no difference";

fn told(difference: Difference, figure: Figure, what: &str) -> Beside {
    let spec = figure.spec();
    let decimals = usize::from(spec.decimals);
    let within = format!("{:.decimals$}", difference.within);
    let change = || {
        format!(
            "{}{:.decimals$} ± {within}{}",
            sign(difference.change),
            difference.change.abs(),
            unit(spec.unit)
        )
    };
    let words = if difference.real {
        change()
    } else if what == SAME && difference.change.abs() > difference.within {
        format!("{}, too few strokes", change())
    } else {
        format!("{what} (± {within}{})", unit(spec.unit))
    };
    Beside { difference, words }
}

fn sign(value: f64) -> &'static str {
    if value < 0.0 { "−" } else { "+" }
}

/// A unit as it stands behind a number.
fn unit(unit: &str) -> String {
    match unit {
        "" | "°" => unit.to_owned(),
        other => format!(" {other}"),
    }
}

/// Sets takes beside one another, oldest first.
pub fn beside(columns: &[Column]) -> TakesCompared {
    let pair = columns
        .len()
        .checked_sub(2)
        .map(|at| (&columns[at], &columns[at + 1]));
    let unlike = pair.and_then(|(before, now)| unlike(before, now));
    let compares = unlike.is_none();
    let mut lines = Vec::new();
    for figure in Figure::ALL {
        let spec = figure.spec();
        for side in Side::each(!figure.of_pelvis()) {
            let of = |column: &Column| {
                column
                    .sample
                    .stat(side.unwrap_or(Side::Right), *figure)
                    .copied()
            };
            let takes: Vec<Option<Stat>> = columns.iter().map(of).collect();
            if takes.iter().all(Option::is_none) {
                continue;
            }
            let change = pair.and_then(|(before, now)| {
                let e = if before.placing == now.placing {
                    spec.left_on
                } else {
                    spec.put_on
                };
                let mut difference = Difference::between(&of(before)?, &of(now)?, e);
                difference.real &= compares;
                let what = if compares { SAME } else { "not comparable" };
                Some(told(difference, *figure, what))
            });
            let left_less_right = columns
                .last()
                .filter(|_| *side == Some(Side::Left))
                .and_then(|now| {
                    let right = now.sample.stat(Side::Right, *figure)?;
                    let left = now.sample.stat(Side::Left, *figure)?;
                    Some(told(
                        Difference::between(right, left, spec.put_on),
                        *figure,
                        SAME,
                    ))
                });
            lines.push(TakeRow {
                figure: *figure,
                side: *side,
                takes,
                change,
                left_less_right,
            });
        }
    }
    let roughness = if compares {
        pair.map(roughness).unwrap_or_default()
    } else {
        Vec::new()
    };
    TakesCompared {
        lines,
        unlike,
        roughness,
    }
}

/// What changed at the bottom of the stroke: roughness is compared as a ratio.
fn roughness((before, now): (&Column, &Column)) -> Vec<String> {
    let of = |column: &Column, side: Side| {
        let limbs = column.sample.sides.of(side).as_ref();
        limbs.and_then(|limbs| limbs.bottom_roughness_deg)
    };
    let said = |side: Side| {
        let (was, is) = (of(before, side)?, of(now, side)?);
        let ratio = is / was.max(1e-6);
        let words = if ratio > ROUGHER {
            "rougher"
        } else if ratio < 1.0 / ROUGHER {
            "smoother"
        } else {
            return None;
        };
        Some(format!(
            "The {} bottom is {words}: {is:.2}° from {was:.2}°.",
            side.word()
        ))
    };
    Side::BOTH.into_iter().filter_map(said).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_difference_over_too_few_strokes_is_neither_real_nor_none() {
        let of = |mean, n| Stat {
            mean,
            sd: 0.5,
            n,
            se: 0.2,
        };
        let words = |n| {
            let difference = Difference::between(&of(24.0, n), &of(15.0, n), 1.0);
            told(difference, Figure::KneeSwing, SAME).words
        };
        assert_eq!(words(7), "−9 ± 3 mm, too few strokes");
        assert_eq!(words(12), "−9 ± 3 mm");
        let none = Difference::between(&of(24.0, 7), &of(23.0, 7), 1.0);
        assert_eq!(
            told(none, Figure::KneeSwing, SAME).words,
            "no difference (± 3 mm)"
        );
        let unlike = Difference::between(&of(24.0, 7), &of(15.0, 7), 1.0);
        assert_eq!(
            told(unlike, Figure::KneeSwing, "not comparable").words,
            "not comparable (± 3 mm)"
        );
    }
}
