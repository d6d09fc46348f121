//! What a kind of riding adds to a fit: time trial and aero, off-road, and the grade every bike is ridden on.
//!
//! A position turned about the BB, and how far the parts go with it:
//!
//! ```
//! use wedge_core::example;
//! use wedge_core::foresee::Trying;
//! use wedge_core::kinds::{Budget, Room, turned};
//! use wedge_core::units::Degrees;
//!
//! let found = example::time_trial();
//! let room = Room::of(&Budget::default(), &found.setup.bar);
//! let ride = found.check().expect("the example is in range");
//! let turned = turned(&Trying::of(&ride), &room, Degrees(1.0)).expect("it has pads");
//! assert!(turned.drop_share_after > turned.drop_share_before + 1.0, "about 1.5 points a degree");
//! ```

mod body;
mod candidate;
mod drag;
mod dropper;
mod grade;
mod hip_room;
mod rotors;
mod saddle_places;
mod sag;
mod shorter;
mod size;
mod sprung;
mod turned;

pub use body::{Body, Broken, ExtensionByStature, invented};
pub use candidate::{Candidate, Event, Figure, Outline, candidate};
pub use drag::{Drag, Watts, frontal_index, watts};
pub use dropper::{Dropper, droppers};
pub use grade::{Graded, graded, level_on_climb};
pub use hip_room::{RoomAt, hip_room};
pub use rotors::{Rotors, refuse_rotors, rotors};
pub use saddle_places::{SaddlePlace, SaddlePlaceRow, saddle_places};
pub use sag::{Card, Filled, Spring, card, wheel_share};
pub use shorter::{Instead, shorter_or_higher};
pub use size::{Sized, Sizing, sizing};
pub use sprung::{Sprung, sprung};
pub use turned::{Budget, Follows, Room, TurnedPart, TurnedPosition, turned};

use crate::rule::Rule;

/// The room's lines of the table of rules.
pub(crate) fn rules() -> Vec<Rule> {
    [
        turned::rules(),
        candidate::rules(),
        drag::rules(),
        shorter::rules(),
        size::rules(),
        saddle_places::rules(),
        sag::rules(),
        rotors::rules(),
        dropper::rules(),
        grade::rules(),
    ]
    .concat()
}
