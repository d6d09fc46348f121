//! A rider on a bike: contact points, joint angles, what is out of range, and what the body's limits leave.
//!
//! A [`Ride`] is checked once and gives its [`Position`] whenever it is asked.
//!
//! ```
//! use wedge_core::example;
//! use wedge_core::measure::{Convention, Output};
//! use wedge_core::units::Side;
//!
//! let ride = example::road().check().expect("the example is in range");
//! let position = ride.position();
//! let along_tube = position.dimensions.get(Convention::SaddleHeightSeatTube).expect("any saddle has one");
//! let straight = position.dimensions.get(Convention::SaddleHeightStraight).expect("any saddle has one");
//! assert!((along_tube - straight).abs() < 1.0);
//! let knee = Output::KneeAtFullReach.of(&position, Side::Left).expect("any rider has knees");
//! assert!((knee - 33.0).abs() < 1.5);
//! ```

mod dimensions;
mod found;
mod landmark;
mod margin;
mod mark;
mod output;
mod perched;
mod person;
mod range;
mod ride;
mod seat;
mod whole;

pub(crate) use dimensions::setback_on_grade;
pub use dimensions::{Dimensions, fitted};
pub(crate) use found::INSEAM_MULTIPLE;
pub use found::{settle, unmeasured_saddle};
pub use landmark::Landmark;
pub use margin::AIM_DEG;
pub(crate) use margin::{TESTS, Test, wall};
pub(crate) use mark::marks;
pub use mark::{Mark, Toward};
pub(crate) use person::{BOUND_SD, FITTED, Person, Place, spread};
pub use person::{Fit, Held, Parameter};
pub(crate) use range::DROP_SHARE;
pub use range::{OwnRange, Range, ranges, ranges_with};
pub(crate) use ride::range_of;
pub use ride::{Facts, Observations, Ride};
pub(crate) use seat::Seated;
pub(crate) use whole::Scene;
pub use whole::{Clearances, Position};

/// The room's lines of the table of rules.
pub(crate) fn rules() -> Vec<crate::rule::Rule> {
    [
        person::spread::rules(),
        person::rules(),
        mark::rules(),
        margin::rules(),
        found::rules(),
    ]
    .concat()
}
