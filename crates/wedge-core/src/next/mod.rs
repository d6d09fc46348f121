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
//! assert!(carried.told.saddle_off.length() < 0.5);
//! ```

mod carry;
mod choose;
mod made;

pub use carry::{Carried, Compared, Told, carry, carry_to_crank};
pub use choose::{Choice, MarkedDown, OnOffer, PartLimits, Ranked, beside, choose};
pub use made::{
    ANGLE_TOLERANCE_DEG, Conflict, Dimension, Freed, LENGTH_TOLERANCE_MM, Made, MadeFrom, Wish,
    WishPart, WishSpec, Wished, made, ordinary_wishes, top_tube, wish_refusals,
};

/// The room's lines of the table of rules.
pub(crate) fn rules() -> Vec<crate::rule::Rule> {
    [carry::rules(), choose::rules(), made::rules()].concat()
}
