//! The rider: body lengths, and the planar linkage that sits on the bike's contact points.

mod body;
mod leg;
mod load;
mod measures;
mod reach;
mod upper;

pub use body::{ArmBody, Body, FootPitch, LegBody, LegLengths, Length, Lengths, Pelvis, Source};
pub use leg::{Clearance, Knee, KneeOverAxle, Leg, LegPose, PitchSeen};
pub use load::Loads;
pub use measures::{BodyMeasure, Measured, Proportion, Taken, measures, proportions};
pub use reach::{Gap, Reach};
pub use upper::{Upper, UpperPoints};

pub(crate) use leg::{Detail, LegInput, hip_to_axle, leg};
pub(crate) use load::LoadInput;
pub(crate) use upper::{Contact, UpperInput, contact_for, upper};

/// The room's lines of the table of rules.
pub(crate) fn rules() -> Vec<crate::rule::Rule> {
    [
        body::rules(),
        measures::rules(),
        upper::rules(),
        leg::rules(),
        load::rules(),
    ]
    .concat()
}
