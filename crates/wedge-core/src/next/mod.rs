//! The next bike: a position is where it holds the rider up, and another bike is asked to put those points there.
//!
//! ```
//! use wedge_core::example;
//! use wedge_core::foresee::Trying;
//! use wedge_core::next::carry;
//!
//! let (road, gravel) = (example::road(), example::gravel());
//! let ride = road.check().expect("the example is in range");
//! let carried = carry(&Trying::of(&ride), &gravel, &[]).expect("the other bike is in range");
//! // The saddle goes where it was; what remains off is said.
//! assert!(carried.saddle_off.length() < 0.5);
//! ```

mod carry;

pub(crate) use carry::rules;
pub use carry::{Carried, Compared, carry};
