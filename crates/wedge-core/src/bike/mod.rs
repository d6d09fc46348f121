//! The bike: forward geometry from frame and parts to the points a rider touches.

mod bar;
mod checks;
mod clearance;
mod frame;
mod ordinary;
mod parts_box;
mod perch;
mod placed;
mod points;
mod setup;
mod steerer;
mod taped_frame;

pub use bar::{AeroBar, Bar, BarKind, DropBar, FlatBar, HandPlace};
pub use checks::{Check, checks};
pub use frame::{Frame, Kind};
pub use ordinary::{OrdinaryBike, fit_stand, ordinary_bikes};
pub use parts_box::{Part, PartKind, ordinary_parts};
pub use perch::Perch;
pub use placed::Placed;
pub use points::BikePoints;
pub use setup::{Cockpit, Lever, Pedalling, Post, Residual, Saddle, Setup, Torques};
pub use steerer::{OnSteerer, StackPart, Steerer, SteererState, front_stack};
pub use taped_frame::{ComputedFrame, TapedFrame};

pub(crate) use clearance::{axle_to_ground, pedal_lean, standover, toe};
pub(crate) use parts_box::{SPACERS_MM, STEM_ANGLES_DEG, STEMS_MM};
pub(crate) use perch::{clamp_at, rail_middle, sit_after};

/// The room's lines of the table of rules.
pub(crate) fn rules() -> Vec<crate::rule::Rule> {
    [
        bar::rules(),
        checks::rules(),
        clearance::rules(),
        parts_box::rules(),
        points::rules(),
        taped_frame::rules(),
    ]
    .concat()
}
