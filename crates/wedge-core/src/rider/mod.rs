//! The rider: body lengths, and the planar linkage that sits on the bike's contact points.

mod body;
mod effort;
mod leg;
mod load;
mod measured;
mod measures;
mod reach;
mod stroke;
mod upper;

pub use body::{ArmBody, Body, FootPitch, LegBody, LegLengths, Length, Lengths, Pelvis, Source};
pub use effort::Effort;
pub use leg::{Clearance, Knee, KneeOverAxle, Leg, LegPose, PitchSeen};
pub use load::{Loads, Weighed, front_share_words};
pub use measured::Rider;
pub use measures::{BodyMeasure, Measured, Proportion, Taken, measures, proportions};
pub use reach::{Gap, Reach};
pub use upper::{Upper, UpperPoints};

pub(crate) use body::spread;
pub(crate) use leg::{LegInput, both as both_legs, hip_to_axle, leg};
pub(crate) use load::LoadInput;
pub(crate) use stroke::Detail;
pub(crate) use upper::{Contact, UPRIGHT_DEG, UpperInput, contact_for, upper};

/// The room's lines of the table of rules.
pub(crate) fn rules() -> Vec<crate::rule::Rule> {
    [
        body::rules(),
        measured::rules(),
        measures::rules(),
        upper::rules(),
        leg::rules(),
        load::rules(),
    ]
    .concat()
}
