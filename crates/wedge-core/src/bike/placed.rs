//! A setup whose saddle has a place.

use super::Setup;
use crate::measure::Refusal;
use crate::plane::Point;
use std::ops::Deref;

/// A setup whose saddle stands somewhere: its height and its setback go together. What is built on a setup is built on
/// this, so that nothing above has to ask again.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Placed {
    setup: Setup,
    sit: Point,
}

impl Placed {
    /// `None` when the setback is as long as the height.
    pub fn of(setup: Setup) -> Option<Self> {
        let sit = setup.saddle.sit()?;
        Some(Self { setup, sit })
    }

    /// The sit reference: the point of the saddle's centre line where it is 80 mm wide.
    pub fn sit(&self) -> Point {
        self.sit
    }

    /// The same bolts and parts with the saddle moved.
    #[must_use]
    pub(crate) fn moved(mut self, sit: Point) -> Self {
        self.setup.saddle.place(sit);
        self.sit = sit;
        self
    }

    /// The same with other parts; the saddle stays where it stands.
    #[must_use]
    pub(crate) fn with(mut self, parts: impl FnOnce(&mut Setup)) -> Self {
        let stood = self.setup.saddle;
        parts(&mut self.setup);
        let saddle = &mut self.setup.saddle;
        (saddle.saddle_height_mm, saddle.setback_mm) = (stood.saddle_height_mm, stood.setback_mm);
        self
    }

    /// What a refused setup lacks a place with.
    pub(crate) fn refusal(at: &str) -> Refusal {
        Refusal::new(
            format!("{at}/saddle/setback_mm"),
            "A setback as long as the saddle height has no saddle: check both",
        )
    }
}

impl Deref for Placed {
    type Target = Setup;

    fn deref(&self) -> &Setup {
        &self.setup
    }
}

impl From<Placed> for Setup {
    fn from(placed: Placed) -> Self {
        placed.setup
    }
}
