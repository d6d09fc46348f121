//! The bike: forward geometry from frame and parts to the points a rider touches.

mod frame;
mod ordinary;
mod points;
mod setup;
mod steerer;

pub use frame::{Frame, Kind};
pub use ordinary::{OrdinaryBike, ordinary_bikes};
pub use points::BikePoints;
pub(crate) use points::{saddle_clamp, sit_over};
pub use setup::{Cockpit, Pedalling, Residual, Saddle, Setup};
pub use steerer::{Steerer, SteererState};
