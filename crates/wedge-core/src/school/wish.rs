//! What a school of the saddle wants, as travel of post or rails, and the opinion it becomes once it is read in the
//! chosen convention.

use super::{Bound, Opinion, Step};
use crate::measure::written;
use crate::units::Sides;

/// What a school wants, as travel from where the saddle stands, mm: the post up, the rails back.
pub(super) struct Wish {
    pub(super) travel: f64,
    pub(super) low: f64,
    pub(super) high: f64,
    /// What each leg wants, where they want different things.
    pub(super) sides: Option<Sides<f64>>,
    /// One standard deviation.
    pub(super) band: Option<f64>,
    pub(super) bound: Option<Bound>,
    pub(super) estimated: bool,
    pub(super) words: String,
}

impl Wish {
    /// Whether it asks for anything: an end does so only where the saddle is beyond it.
    fn asks(&self) -> bool {
        match self.bound {
            None => true,
            Some(Bound::AtLeast) => self.travel > 0.0,
            Some(Bound::AtMost) => self.travel < 0.0,
        }
    }

    /// Fills in an opinion. `read` is a place in the chosen convention, `between` what is said of legs that want
    /// different things, `step` the trial towards it.
    pub(super) fn opinion(
        self,
        school: Opinion,
        read: impl Fn(f64) -> Option<f64>,
        between: &str,
        step: impl FnOnce(&Self) -> Option<Step>,
    ) -> Opinion {
        let apart = self.sides.map_or_else(String::new, |sides| {
            let of = |travel: f64| read(travel).map_or_else(String::new, written);
            format!(
                "; left {}, right {}: {between}",
                of(sides.left),
                of(sides.right)
            )
        });
        let trial = if self.asks() { step(&self) } else { None };
        // As an angle, further back is less.
        let window = read(self.low)
            .zip(read(self.high))
            .map(|(a, b)| (a.min(b), a.max(b)));
        Opinion {
            value: read(self.travel),
            low: window.map(|w| w.0),
            high: window.map(|w| w.1),
            sides: self.sides.and_then(|sides| {
                Some(Sides {
                    left: read(sides.left)?,
                    right: read(sides.right)?,
                })
            }),
            band: self.band,
            bound: self.bound,
            estimated: self.estimated,
            words: format!("{}{apart}", self.words),
            trial,
            ..school
        }
    }
}
