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
    /// "4° short of 35–40°".
    pub words: String,
}

rules! {
    rules "Marks";
    /// Values closer than this to a range's end are in it: nobody reads half a tenth.
    const EDGE: f64 = 0.05, "", House;
}

impl Range {
    /// The mark of a value, `None` inside the range.
    pub fn mark(&self, value: f64, side: Option<Side>) -> Option<Mark> {
        let (toward, distance, outer) = if value < self.low - EDGE {
            (
                Toward::More,
                self.low - value,
                value < self.outer_low - EDGE,
            )
        } else if value > self.high + EDGE {
            (
                Toward::Less,
                value - self.high,
                value > self.outer_high + EDGE,
            )
        } else {
            return None;
        };
        let unit = self.output.spec().unit.suffix();
        let words = format!(
            "{}{unit} {} {}–{}{unit}",
            written(distance),
            match toward {
                Toward::More => "short of",
                Toward::Less => "past",
            },
            written(self.low),
            written(self.high),
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

/// Every mark of a position. Sides that read the same to a tenth are marked once.
pub fn marks(position: &Position, ranges: &[Range]) -> Vec<Mark> {
    let mut marks = Vec::new();
    for range in ranges {
        if range.hands.is_some_and(|place| place != position.hands) {
            continue;
        }
        for (side, value) in side_values(range.output, position) {
            marks.extend(range.mark(value, side));
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
            let mark = knee.mark(value, None);
            assert_eq!(
                mark.as_ref().map(|m| (m.toward, m.outer, m.words.as_str())),
                expected,
                "{value}"
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
