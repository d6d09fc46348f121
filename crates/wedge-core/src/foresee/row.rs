//! Every output before and after, ordered by how much it matters.

use super::band::Bands;
use crate::measure::{Output, Unit};
use crate::position::{Mark, Position, Range, range_of};
use crate::units::Side;
use crate::words::{sided, written};
use serde::{Deserialize, Serialize};

/// One output before and after.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Row {
    /// What it is.
    pub output: Output,
    /// The side, when the two read differently.
    pub side: Option<Side>,
    /// The fitter's word, with the side where there is one.
    pub label: String,
    /// The convention it is read in.
    pub convention: String,
    /// Its unit.
    pub unit: Unit,
    /// Before the changes.
    pub before: f64,
    /// After them.
    pub after: f64,
    /// One standard deviation of the value after; none in foresight stored before bands were worked out.
    #[serde(default)]
    pub band: Option<f64>,
    /// After minus before.
    pub change: f64,
    /// One standard deviation of the change, with the least difference worth telling.
    pub spread: f64,
    /// Whether the change is more than the spread; less is no difference.
    pub moved: bool,
    /// The mark after, when outside its range.
    pub mark: Option<Mark>,
}

impl Row {
    /// "torso 48° → 46.5°".
    pub fn moved_words(&self) -> String {
        let unit = self.unit.suffix();
        format!(
            "{} {}{unit} → {}{unit}",
            self.label.to_lowercase(),
            written(self.before),
            written(self.after)
        )
    }
}

/// Every output this bike and rider have, those that stand for themselves first, of these the largest change against
/// its spread; among equals what is out of range first, then in the order of a fit.
pub(crate) fn rows(
    before: &Position,
    after: &Position,
    bands: &Bands,
    ranges: &[Range],
) -> Vec<Row> {
    let mut rows: Vec<Row> = Output::ALL
        .iter()
        .flat_map(|output| output_rows(*output, before, after, bands, ranges))
        .collect();
    rows.sort_by(|a, b| {
        let weight = |row: &Row| (row.change / row.spread).abs();
        b.output
            .is_main()
            .cmp(&a.output.is_main())
            .then(weight(b).total_cmp(&weight(a)))
            .then(b.mark.is_some().cmp(&a.mark.is_some()))
    });
    rows
}

fn output_rows(
    output: Output,
    before: &Position,
    after: &Position,
    bands: &Bands,
    ranges: &[Range],
) -> Vec<Row> {
    let spec = output.spec();
    let at = |side| output.of(before, side).zip(output.of(after, side));
    let alike =
        |left: f64, right: f64| left.total_cmp(&right).is_eq() || written(left) == written(right);
    let sides = match (at(Side::Left), at(Side::Right)) {
        (_, Some(right)) if !spec.per_side => vec![(None, right)],
        (Some(left), Some(right)) if alike(left.0, right.0) && alike(left.1, right.1) => {
            vec![(None, right)]
        }
        // Of a leg that does not reach there is nothing to say; the other is told all the same.
        (left, right) => [(Side::Left, left), (Side::Right, right)]
            .into_iter()
            .filter_map(|(side, values)| Some((Some(side), values?)))
            .collect(),
    };
    sides
        .into_iter()
        .map(|(side, (before_value, after_value))| {
            let band = bands.of(output, side.unwrap_or(Side::Right));
            let change = after_value - before_value;
            let spread = band.change.hypot(spec.noise);
            Row {
                output,
                side,
                label: sided(spec.label, side),
                convention: output.convention(&after.conventions, after.hands),
                unit: output.unit(&after.conventions),
                before: before_value,
                after: after_value,
                band: Some(band.after),
                change,
                spread,
                moved: change.abs() >= spread,
                mark: range_of(ranges, output, after.hands)
                    .and_then(|range| range.mark(after_value, side, band.after)),
            }
        })
        .collect()
}
