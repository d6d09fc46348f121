//! Every output before and after, ordered by how much it matters.

use super::Position;
use crate::bike::Kind;
use crate::judge::{Mark, Output, ranges};
use crate::measure::{Conventions, Unit, written};
use crate::units::Side;
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
    /// After minus before.
    pub change: f64,
    /// The spread of the change.
    pub spread: f64,
    /// Whether the change is more than the spread; less is no difference.
    pub moved: bool,
    /// The mark after, when outside its range.
    pub mark: Option<Mark>,
}

/// Every output, the largest change against its spread first; among equals what is out of range first, then in the
/// order of a fit.
pub(crate) fn rows(
    before: &Position,
    after: &Position,
    kind: Kind,
    conventions: &Conventions,
) -> Vec<Row> {
    let mut rows: Vec<Row> = Output::ALL
        .iter()
        .flat_map(|output| output_rows(*output, before, after, kind, conventions))
        .collect();
    rows.sort_by(|a, b| {
        let weight = |row: &Row| (row.change / row.spread).abs();
        weight(b)
            .total_cmp(&weight(a))
            .then(b.mark.is_some().cmp(&a.mark.is_some()))
    });
    rows
}

fn output_rows(
    output: Output,
    before: &Position,
    after: &Position,
    kind: Kind,
    conventions: &Conventions,
) -> Vec<Row> {
    let spec = output.spec();
    let at = |side| {
        (
            output.of(before, side, conventions),
            output.of(after, side, conventions),
        )
    };
    let (left, right) = (at(Side::Left), at(Side::Right));
    let same = written(left.0) == written(right.0) && written(left.1) == written(right.1);
    let sides = if !spec.per_side || same {
        vec![(None, right)]
    } else {
        vec![(Some(Side::Left), left), (Some(Side::Right), right)]
    };
    sides
        .into_iter()
        .map(|(side, (before, after))| {
            let change = after - before;
            Row {
                output,
                side,
                label: side.map_or_else(
                    || spec.label.to_owned(),
                    |side| format!("{}, {}", spec.label, side.word()),
                ),
                convention: output.convention(conventions).to_owned(),
                unit: output.unit(conventions),
                before,
                after,
                change,
                spread: spec.noise,
                moved: change.abs() >= spec.noise,
                mark: ranges(kind)
                    .iter()
                    .find(|range| range.output == output)
                    .and_then(|range| range.mark(after, side)),
            }
        })
        .collect()
}
