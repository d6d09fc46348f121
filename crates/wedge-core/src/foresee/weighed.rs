//! Several changes foreseen beside one another, without bands: what a choice between them is made from.

use super::band::Bands;
use super::{Change, ForeseeInput, Model, Position, Row, change, row};
use crate::units::Degrees;

/// One change and what it does.
pub(crate) struct Weighing {
    pub(crate) title: String,
    pub(crate) changes: Vec<Change>,
    pub(crate) after: Position,
    pub(crate) rows: Vec<Row>,
}

/// What each trial of changes does to a position, those that cannot be made left out.
pub(crate) fn weigh(input: &ForeseeInput, changes: Vec<Vec<Change>>) -> Vec<Weighing> {
    let Ok(model) = Model::of(input) else {
        return Vec::new();
    };
    let scene = model.scene(input, Degrees(0.0));
    let Some(before) = Position::of(&scene, &input.setup) else {
        return Vec::new();
    };
    let bands = Bands::none();
    changes
        .into_iter()
        .filter_map(|changes| {
            let mut changed = input.clone();
            changed.changes = changes;
            let setup = change::apply(&changed).ok()?;
            let after = Position::of(&scene, &setup)?;
            Some(Weighing {
                title: change::title(&changed, &setup),
                changes: changed.changes,
                rows: row::rows(&before, &after, &bands, input.kind),
                after,
            })
        })
        .collect()
}
