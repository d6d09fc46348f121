//! The craft of bike fitting as pure functions.
//!
//! Nothing here knows of a screen, a database, a clock or a random source. The same input always gives the same
//! answer. Inside: millimetres, degrees, kilograms. The side view looks from the drive side of a level bike that
//! faces right; the origin is the bottom-bracket (BB) centre, `x` forward, `y` up.
//!
//! The rooms:
//!
//! - [`units`], [`plane`]: the units, the two sides of a body, points and a bracketed root;
//! - [`measure`]: what can be measured, its limits and steps, and the conventions a length can be taken in;
//! - [`bike`]: frame, cockpit, saddle and pedalling gear, and where their points stand;
//! - [`rider`]: body proportions and the planar linkage that sits on those points;
//! - [`judge`]: ranges and the marks that say a value is outside one;
//! - [`school`]: one decision a file, every school of it side by side;
//! - [`solve`]: what must move so that something stays;
//! - [`trial`]: trials that can be compared, and how far foresight is off;
//! - [`rule`]: where every number comes from;
//! - [`mod@foresee`]: one pure function from a rider, a setup and changes to the position before and after;
//! - [`work`]: the stations of a fit in their order;
//! - [`handout`]: the table the next mechanic reads.
//!
//! ```
//! use wedge_core::{foresee, example};
//!
//! let mut input = example::road();
//! input.changes.push(wedge_core::foresee::Change::by(
//!     wedge_core::measure::Quantity::SaddleHeight,
//!     -6.0,
//! ));
//! let foreseen = foresee::foresee(&input).expect("the example is in range");
//! assert_eq!(foreseen.title, "Saddle down 6");
//! let knee = |p: &foresee::Position| p.legs.right.knee.smallest_deg.0;
//! assert!(knee(&foreseen.after) > knee(&foreseen.before));
//! ```

pub mod bike;
pub mod example;
pub mod foresee;
pub mod handout;
pub mod intake;
pub mod judge;
pub mod looking;
pub mod measure;
pub mod plane;
pub mod rider;
pub mod rule;
pub mod school;
pub mod solve;
pub mod trial;
pub mod units;
pub mod work;

/// The core's version, stored beside every value it foresaw.
pub const VERSION: &str = env!("CARGO_PKG_VERSION");
