//! Where the saddle's two numbers stand as post and rails travel, without a rider.

use super::ForeseeInput;
use crate::bike::Setup;
use crate::measure::Convention;
use crate::plane::Point;

/// The sit reference after so much travel of the post, up positive, and along the rails, back positive. `None` when
/// the saddle has no place.
pub(crate) fn sit_moved(input: &ForeseeInput, post: f64, rails: f64) -> Option<Point> {
    let saddle = &input.setup.saddle;
    Some(saddle.sit()? + input.frame.post_axis() * post + saddle.rails_back() * rails)
}

/// Saddle height and setback of a sit reference, in the chosen conventions.
pub(crate) fn read_saddle(input: &ForeseeInput, setup: &Setup, sit: Point) -> Option<(f64, f64)> {
    let with = setup.companions(&input.frame, input.conventions.sit_reference);
    Some((
        with.saddle_height(input.conventions.saddle_height, sit)?,
        with.setback(input.conventions.setback, sit)?,
    ))
}

/// Saddle height in the chosen convention after so much travel of the post.
pub(crate) fn height_at(input: &ForeseeInput, post: f64) -> Option<f64> {
    Some(read_saddle(input, &input.setup, sit_moved(input, post, 0.0)?)?.0)
}

/// Setback in the chosen convention after so much travel of rails and post.
pub(crate) fn setback_at(input: &ForeseeInput, post: f64, rails: f64) -> Option<f64> {
    Some(read_saddle(input, &input.setup, sit_moved(input, post, rails)?)?.1)
}

/// The travel of the post that gives a saddle height in a convention; `None` when none does.
pub(crate) fn post_to(input: &ForeseeInput, convention: Convention, wanted: f64) -> Option<f64> {
    let with = input
        .setup
        .companions(&input.frame, input.conventions.sit_reference);
    let axis = input.frame.post_axis();
    let sit = input.setup.saddle.sit()?;
    // From just above the BB: below it a straight height would grow again.
    let lowest = 1.0 - sit.dot(axis);
    crate::plane::root(lowest, lowest + 1400.0, |travel| {
        with.saddle_height(convention, sit + axis * travel)
            .map_or(f64::NAN, |height| height - wanted)
    })
}
