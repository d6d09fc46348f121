//! Where a number is from: it travels with it, from entry to hand-out.

use super::Method;
use crate::words::words;

words! {
    /// Where a number is from.
    pub enum Origin {
        Taped "taped" "taped",
        Typed "typed" "typed from the part",
        Usual "usual" "usual for such a bike",
        Derived "derived" "worked out",
        Estimated "estimated" "estimated",
        Simulated "simulated" "simulated",
        NotRecorded "not_recorded" "origin not recorded",
    }
}

impl From<Method> for Origin {
    /// What was told, or copied from an old record, says nothing of how it was measured.
    fn from(method: Method) -> Self {
        match method {
            Method::Tape
            | Method::Calliper
            | Method::Goniometer
            | Method::Film
            | Method::Camera
            | Method::Scales => Self::Taped,
            Method::Printed => Self::Typed,
            Method::OldRecord | Method::Told => Self::NotRecorded,
        }
    }
}
