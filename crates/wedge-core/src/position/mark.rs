//! The wedge mark: which way to go, how far, and whether it is beyond the outer range.

use super::{Position, Range};
use crate::measure::Output;
use crate::rule::rules;
use crate::units::Side;
use crate::words::written;
use serde::{Deserialize, Serialize};

/// Which way a value should go.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Toward {
    /// The value should grow.
    More,
    /// The value should shrink.
    Less,
}

/// A value outside its range.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Mark {
    /// What is outside.
    pub output: Output,
    /// The side, when only one is outside or the two differ.
    pub side: Option<Side>,
    /// Which way to go.
    pub toward: Toward,
    /// How far to the range's nearer end.
    pub distance: f64,
    /// Beyond the outer range as well.
    pub outer: bool,
    /// "likely 4° short of 35–40°".
    pub words: String,
}

/// How sure it is that a value is outside its range, by how many of its bands it is: within one there is no mark.
fn how_sure(distance: f64, band: f64) -> &'static str {
    if band <= 0.0 {
        ""
    } else if distance < SURE_BANDS * band {
        "likely "
    } else {
        "surely "
    }
}

rules! {
    rules "Marks";
    /// Values closer than this to a range's end are in it: nobody reads half a tenth.
    const EDGE: f64 = 0.05, "", House;
    /// What is outside by this many bands is surely outside; by one to so many it is likely; within one there is no mark.
    const SURE_BANDS: f64 = 2.0, " bands", House;
}

impl Range {
    /// The mark of a value that may be off by a band, one standard deviation; `None` inside the range and within its doubt.
    pub fn mark(&self, value: f64, side: Option<Side>, band: f64) -> Option<Mark> {
        let (toward, distance, outer) = if value < self.low {
            (
                Toward::More,
                self.low - value,
                value < self.outer_low - EDGE,
            )
        } else {
            (
                Toward::Less,
                value - self.high,
                value > self.outer_high + EDGE,
            )
        };
        if distance <= band.max(EDGE) {
            return None;
        }
        let unit = self.output.spec().unit.suffix();
        let words = format!(
            "{}{}{unit} {} {}",
            how_sure(distance, band),
            written(distance),
            match toward {
                Toward::More => "short of",
                Toward::Less => "past",
            },
            self.words(),
        );
        Some(Mark {
            output: self.output,
            side,
            toward,
            distance,
            outer,
            words,
        })
    }
}

/// Every mark of a position whose outputs may be off by so much on a side. Sides that read the same to a tenth are marked
/// once.
pub(crate) fn marks(
    position: &Position,
    ranges: &[Range],
    band: impl Fn(Output, Side) -> f64,
) -> Vec<Mark> {
    let mut marks = Vec::new();
    for range in ranges {
        if range.hands.is_some_and(|place| place != position.hands) {
            continue;
        }
        for (side, value) in side_values(range.output, position) {
            let band = band(range.output, side.unwrap_or(Side::Right));
            marks.extend(range.mark(value, side, band));
        }
    }
    marks
}

/// The value of an output: once, or left and right where they differ as written; empty where there is none.
pub(crate) fn side_values(output: Output, position: &Position) -> Vec<(Option<Side>, f64)> {
    let [left, right] = Side::BOTH.map(|side| output.of(position, side));
    let Some((left, right)) = left.zip(right) else {
        return Vec::new();
    };
    if !output.spec().per_side || written(left) == written(right) {
        vec![(None, right)]
    } else {
        vec![(Some(Side::Left), left), (Some(Side::Right), right)]
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::bike::Kind;
    use crate::position::ranges;

    #[test]
    fn a_mark_knows_its_edges_and_doubles_beyond_the_outer_range() {
        let knee = ranges(Kind::Road)[0];
        for (value, expected) in [
            (35.0, None),
            (34.96, None),
            (34.9, Some((Toward::More, false, "0.1° short of 35–40°"))),
            (31.0, Some((Toward::More, false, "4° short of 35–40°"))),
            (29.9, Some((Toward::More, true, "5.1° short of 35–40°"))),
            (40.0, None),
            (42.0, Some((Toward::Less, false, "2° past 35–40°"))),
            (44.0, Some((Toward::Less, true, "4° past 35–40°"))),
        ] {
            let mark = knee.mark(value, None, 0.0);
            assert_eq!(
                mark.as_ref().map(|m| (m.toward, m.outer, m.words.as_str())),
                expected,
                "{value}"
            );
        }
    }

    #[test]
    fn within_its_doubt_nothing_is_marked_and_a_mark_says_how_sure_it_is() {
        let knee = ranges(Kind::Road)[0];
        for (value, band, words) in [
            (34.8, 9.0, None),
            (19.2, 28.9, None),
            (33.0, 2.1, None),
            (33.0, 1.9, Some("likely 2° short of 35–40°")),
            (33.0, 1.0, Some("surely 2° short of 35–40°")),
            (44.0, 3.0, Some("likely 4° past 35–40°")),
        ] {
            let mark = knee.mark(value, None, band);
            assert_eq!(
                mark.as_ref().map(|m| m.words.as_str()),
                words,
                "{value} ± {band}"
            );
        }
    }

    #[test]
    fn every_range_lies_inside_its_outer_range() {
        for range in Kind::ALL.into_iter().flat_map(ranges) {
            assert!(range.outer_low <= range.low && range.low < range.high);
            assert!(range.high <= range.outer_high, "{range:?}");
        }
    }
}
