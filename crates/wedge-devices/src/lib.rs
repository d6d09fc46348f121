//! Stand-ins for what measures a rider, so that what reads it can be tried without a room, a rider or a camera.
//!
//! [`device`] has one trait a device, with a simulated form of each. [`Pedaller`] is a rider whose every joint is known at every crank angle; [`Scene`] is how a camera films that rider: noise, blur,
//! streaks, stray reflections, dots that are hidden. [`hidden::HiddenRider`] is a rider who answers, and [`hundred`] fits many of them.
#![allow(
    clippy::cast_precision_loss,
    clippy::cast_possible_truncation,
    clippy::cast_sign_loss,
    reason = "pixels are counted in thousands"
)]

pub mod body;
pub mod device;
mod dice;
pub mod foresight;
pub mod hidden;
pub mod hundred;
pub mod observer;
mod pedaller;
pub mod practice;
mod room;
mod scene;

pub use dice::Dice;
pub use pedaller::Pedaller;
pub use room::Room;
pub use scene::{Filmed, Frame, RANGES, Ranges, Scene};
