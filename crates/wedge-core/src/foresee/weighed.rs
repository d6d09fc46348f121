//! Changes tried out on paper, without bands: what solving and choosing between changes is made from.

use super::band::Bands;
use super::position::Scene;
use super::{Change, ForeseeInput, Model, Position, Row, change, row};
use crate::bike::Setup;
use crate::judge::Range;
use crate::rider::{Detail, Lengths};
use crate::units::Degrees;

/// One change and what it does.
pub(crate) struct Weighing {
    pub(crate) title: String,
    /// Each bolt, in words.
    pub(crate) turns: Vec<String>,
    pub(crate) changes: Vec<Change>,
    pub(crate) after: Position,
    pub(crate) rows: Vec<Row>,
}

/// A rider on a setup, asked again and again what changes would do.
pub(crate) struct Trying<'a> {
    input: &'a ForeseeInput,
    model: Model,
    ranges: Vec<Range>,
    pub(crate) before: Position,
}

impl<'a> Trying<'a> {
    /// `None` when the rider cannot be put on this setup.
    pub(crate) fn of(input: &'a ForeseeInput) -> Option<Self> {
        let model = Model::of(input).ok()?;
        let before = Position::of(&model.scene(input, Degrees(0.0)), &input.setup)?;
        Some(Self {
            input,
            model,
            ranges: input.ranges(),
            before,
        })
    }

    /// The setup and position after changes; `None` when they cannot be made.
    pub(crate) fn with(&self, changes: &[Change]) -> Option<(Setup, Position)> {
        let mut changed = self.input.clone();
        changed.changes = changes.to_vec();
        let setup = change::apply(&changed).ok()?;
        let after = Position::of(&self.model.scene(self.input, Degrees(0.0)), &setup)?;
        Some((setup, after))
    }

    /// The position after changes, without marks or poses: what is solved with.
    pub(crate) fn plain(&self, changes: &[Change]) -> Option<Position> {
        let mut changed = self.input.clone();
        changed.changes = changes.to_vec();
        let setup = change::apply(&changed).ok()?;
        self.on(&setup)
    }

    /// The position on a setup, without marks or poses.
    pub(crate) fn on(&self, setup: &Setup) -> Option<Position> {
        let scene = Scene {
            detail: Detail::Plain,
            ..self.model.scene(self.input, Degrees(0.0))
        };
        Position::of(&scene, setup)
    }

    /// The lengths of the rider as fitted.
    pub(crate) fn lengths(&self) -> &Lengths {
        &self.model.person.lengths
    }

    /// What changes do, row by row; `None` when they cannot be made.
    pub(crate) fn weigh(&self, changes: Vec<Change>) -> Option<Weighing> {
        let (setup, after) = self.with(&changes)?;
        let mut changed = self.input.clone();
        changed.changes = changes;
        Some(Weighing {
            title: change::title(&changed, &setup),
            turns: change::turns(&changed, &setup)
                .into_iter()
                .map(|turn| turn.words)
                .collect(),
            changes: changed.changes,
            rows: row::rows(&self.before, &after, &Bands::none(), &self.ranges),
            after,
        })
    }
}

/// What each trial of changes does to a position, those that cannot be made left out.
pub(crate) fn weigh(input: &ForeseeInput, changes: Vec<Vec<Change>>) -> Vec<Weighing> {
    Trying::of(input).map_or_else(Vec::new, |trying| {
        changes
            .into_iter()
            .filter_map(|changes| trying.weigh(changes))
            .collect()
    })
}
