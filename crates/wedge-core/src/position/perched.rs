//! Where the saddle's two numbers stand as post and rails travel, without a rider.

use super::Ride;
use crate::bike::Setup;
use crate::measure::Convention;
use crate::plane::{Point, root};

impl Ride {
    /// The sit reference after so much travel of the post, up positive, and along the rails, back positive.
    pub(crate) fn sit_moved(&self, post: f64, rails: f64) -> Point {
        self.setup.sit() + self.frame.post_axis() * post + self.setup.saddle.rails_back() * rails
    }

    /// Saddle height and setback of a sit reference on a setup's saddle, in the chosen conventions.
    pub(crate) fn read_saddle(&self, setup: &Setup, sit: Point) -> (f64, f64) {
        let with = setup.companions(&self.frame, self.conventions.sit_reference);
        // A ride's conventions are of the quantities they stand for.
        let known = |value: Option<f64>| value.unwrap_or(f64::NAN);
        (
            known(with.saddle_height(self.conventions.saddle_height, sit)),
            known(with.setback(self.conventions.setback, sit)),
        )
    }

    /// Saddle height in the chosen convention after so much travel of the post.
    pub(crate) fn height_at(&self, post: f64) -> f64 {
        self.read_saddle(&self.setup, self.sit_moved(post, 0.0)).0
    }

    /// Setback in the chosen convention after so much travel of post and rails.
    pub(crate) fn setback_at(&self, post: f64, rails: f64) -> f64 {
        self.read_saddle(&self.setup, self.sit_moved(post, rails)).1
    }

    /// The travel of the post that gives a saddle height in a convention; `None` when none does.
    pub(crate) fn post_to(&self, convention: Convention, wanted: f64) -> Option<f64> {
        let with = (self.setup).companions(&self.frame, self.conventions.sit_reference);
        let axis = self.frame.post_axis();
        let sit = self.setup.sit();
        // From just above the BB: below it a straight height would grow again.
        let lowest = 1.0 - sit.dot(axis);
        root(lowest, lowest + 1400.0, |travel| {
            with.saddle_height(convention, sit + axis * travel)
                .map_or(f64::NAN, |height| height - wanted)
        })
    }
}
