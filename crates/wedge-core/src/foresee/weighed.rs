//! Changes tried out on paper, without bands of their own: what solving and choosing between changes is made from.

use super::band::{Answer, Bands};
use super::{Change, Row, change, row};
use crate::bike::Placed;
use crate::measure::Output;
use crate::position::{Mark, Position, Ride, marks};
use crate::rider::{Detail, Lengths};
use crate::units::Side;
use std::cell::OnceCell;
use std::ops::Deref;

/// One change and what it does.
pub(crate) struct Weighing {
    pub(crate) title: String,
    /// Each bolt, in words.
    pub(crate) turns: Vec<String>,
    pub(crate) changes: Vec<Change>,
    pub(crate) after: Position,
    pub(crate) rows: Vec<Row>,
}

/// A ride asked again and again what changes would do: its position is solved once.
#[derive(Debug)]
pub struct Trying<'a> {
    ride: &'a Ride,
    /// The position as it stands.
    pub before: Position,
    /// What its outputs answer to every doubt, once somebody asked, and how far they may be off.
    pub(super) answers: OnceCell<Vec<(String, Answer)>>,
    pub(super) bands: OnceCell<Bands>,
}

impl Deref for Trying<'_> {
    type Target = Ride;

    fn deref(&self) -> &Ride {
        self.ride
    }
}

impl<'a> Trying<'a> {
    /// A ride ready to be asked.
    pub fn of(ride: &'a Ride) -> Self {
        Self {
            before: ride.position(),
            ride,
            answers: OnceCell::new(),
            bands: OnceCell::new(),
        }
    }

    /// The setup as it stands.
    pub fn before_setup(&self) -> &crate::bike::Setup {
        &self.setup
    }

    /// What is outside its range by more than it may be off.
    pub(crate) fn marks(&self) -> Vec<Mark> {
        let band = |output: Output, side: Side| self.bands().of(output, side).before;
        marks(&self.before, &self.ranges, band)
    }

    /// The setup after changes; `None` when they cannot be made.
    pub fn changed(&self, changes: &[Change]) -> Option<Placed> {
        change::apply(self, changes).ok()
    }

    /// The setup and position after changes; `None` when they cannot be made.
    pub(crate) fn with(&self, changes: &[Change]) -> Option<(Placed, Position)> {
        let setup = change::apply(self, changes).ok()?;
        let after = Position::of(&self.scene(Detail::Fine), &setup);
        Some((setup, after))
    }

    /// The position after changes, without marks or poses: what is solved with.
    pub(crate) fn plain(&self, changes: &[Change]) -> Option<Position> {
        Some(self.standing(&change::apply(self, changes).ok()?))
    }

    /// The position on a setup, without marks or poses.
    pub(crate) fn standing(&self, setup: &Placed) -> Position {
        Position::of(&self.scene(Detail::Plain), setup)
    }

    /// The lengths of the rider as fitted.
    pub(crate) fn lengths(&self) -> &Lengths {
        &self.person.lengths
    }

    /// What changes do, row by row; `None` when they cannot be made.
    pub(crate) fn weigh(&self, changes: Vec<Change>) -> Option<Weighing> {
        let (setup, after) = self.with(&changes)?;
        let turns = change::turns(self, &setup).into_iter();
        Some(Weighing {
            title: change::title(self, &changes, &setup),
            turns: turns.map(|turn| turn.words).collect(),
            rows: row::rows(&self.before, &after, &self.bands().standing(), &self.ranges),
            changes,
            after,
        })
    }
}
