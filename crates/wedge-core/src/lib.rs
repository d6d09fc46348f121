//! The craft of bike fitting as pure functions.
//!
//! Nothing here knows of a screen, a database, a clock or a random source. The same input always gives the same
//! answer. Inside: millimetres, degrees, kilograms. The side view looks from the drive side of a level bike that
//! faces right; the origin is the bottom-bracket (BB) centre, `x` forward, `y` up.
//!
//! The rooms are the steps of one ladder; no room knows of one above it:
//!
//! - [`units`], [`plane`], [`words`], [`rule`]: units and sides, points and bracketed roots, words as data, where a number
//!   comes from;
//! - [`measure`]: what can be measured and what a position answers, limits and steps, the conventions a length can be
//!   taken in;
//! - [`intake`], [`looking`], [`work`]: what the rider comes with, what is seen that is no number, the stations of a fit;
//! - [`bike`]: frame, cockpit, saddle and pedalling gear, and where their points stand;
//! - [`rider`]: body proportions and the planar linkage that sits on those points;
//! - [`capture`]: markers over time, from a room's axes to the figures of a fit;
//! - [`film`]: pictures squared by the wheels, dots found and named, angles with their spread;
//! - [`position`]: a checked rider on a bike, everything that follows from it, and what is out of range;
//! - [`mod@foresee`]: what changes do, with bands; the rider fitted to what was seen; proposals cut at the rider's limits;
//! - [`solve`]: what must move so that something stays;
//! - [`limit`]: limits against demand, gross errors, growth;
//! - [`trial`]: trials that can be compared, guided protocols, how far foresight is off;
//! - [`school`]: one decision a file, every school of it side by side;
//! - [`judge`]: from a complaint to what may cause it;
//! - [`handout`], [`example`], [`rulebook`]: the table the next mechanic reads, complete examples, every rule in one table.
//!
//! A change foreseen before a bolt is turned:
//!
//! ```
//! use wedge_core::{example, foresee};
//!
//! let mut input = example::road();
//! input.changes.push(wedge_core::foresee::Change::by(
//!     wedge_core::measure::Quantity::SaddleHeight,
//!     -6.0,
//! ));
//! let foreseen = foresee::foresee(&input).expect("the example is in range");
//! assert_eq!(foreseen.title, "Saddle down 6");
//! let knee = |p: &wedge_core::position::Position| p.legs.right.knee.smallest_deg.0;
//! assert!(knee(&foreseen.after) > knee(&foreseen.before));
//! ```
//!
//! The other rooms' first pages teach the same way: a saddle height converted ([`measure`]), a position read
//! ([`position`]), the model fitted to angles ([`mod@foresee`]), the schools asked ([`school`]), a protocol run ([`trial`]).

pub mod between;
pub mod bike;
pub mod capture;
pub mod example;
pub mod film;
pub mod foresee;
pub mod handout;
pub mod intake;
pub mod judge;
pub mod kinds;
pub mod limit;
pub mod looking;
pub mod measure;
pub mod next;
pub mod plane;
pub mod position;
pub mod rider;
pub mod rule;
pub mod rulebook;
pub mod school;
pub mod solve;
pub mod trial;
pub mod units;
pub mod words;
pub mod work;

/// The core's version, stored beside every value it foresaw.
pub const VERSION: &str = env!("CARGO_PKG_VERSION");
