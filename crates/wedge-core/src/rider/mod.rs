//! The rider: body lengths, and the planar linkage that sits on the bike's contact points.

mod body;
mod leg;
mod reach;
mod upper;

pub use body::{Body, FootPitch, LegBody, LegLengths, Length, Lengths, Source};
pub use leg::{Clearance, Knee, KneeOverAxle, Leg, LegPose, PitchSeen};
pub use reach::Reach;
pub use upper::{Upper, UpperPoints};

pub(crate) use leg::{LegInput, hip_to_axle, leg};
pub(crate) use upper::{UpperInput, upper};
