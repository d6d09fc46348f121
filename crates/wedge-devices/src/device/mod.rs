//! What measures a rider on a bike: one trait a device, written so that a real one can be put in its place, and its
//! simulated form. What a real one sends, in which unit, how often, by whose clock and what is missing of it, is said at its
//! trait and told on the page of devices.
//!
//! Simulated time is what is asked for: a take of ten seconds is there at once, the same rider, setup and question give the
//! same one, and nothing waits. What goes wrong is planted ([`Mishap`]) and said ([`Failure`]): what came until then is handed
//! over whole, and whoever asked keeps or drops it.

mod camera;
mod film;
mod scales;
mod stand;
mod trainer;

pub use camera::{Camera, RATE_HZ, SECONDS, SimulatedCamera, nothing_of_the_body};
pub use film::{Film, Picture, SimulatedFilm};
pub use scales::{Scales, SimulatedScales, Wheels};
pub use stand::{FitStand, Moved, SimulatedStand, Slide, Target};
pub use trainer::{PushStroke, Ridden, SimulatedTrainer, Trainer};

use crate::dice::Dice;
use crate::hidden::{Asked, HiddenRider, Moving};
use serde::{Deserialize, Serialize};
use wedge_core::bike::{BikePoints, Setup};
use wedge_core::rider::Effort;

/// A kind of device.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum DeviceKind {
    /// Follows markers.
    Camera,
    /// Films from the side.
    Film,
    /// Holds a power and tells what the pedals get.
    Trainer,
    /// One under each wheel.
    Scales,
    /// A bike without a frame that moves under the rider.
    Stand,
}

impl DeviceKind {
    /// Every one.
    pub const ALL: [Self; 5] = [
        Self::Camera,
        Self::Film,
        Self::Trainer,
        Self::Scales,
        Self::Stand,
    ];

    /// As it is told.
    pub fn label(self) -> &'static str {
        match self {
            Self::Camera => "Camera",
            Self::Film => "Film",
            Self::Trainer => "Trainer",
            Self::Scales => "Scales",
            Self::Stand => "Fit stand",
        }
    }

    /// As it is named in files and addresses.
    pub fn key(self) -> &'static str {
        match self {
            Self::Camera => "camera",
            Self::Film => "film",
            Self::Trainer => "trainer",
            Self::Scales => "scales",
            Self::Stand => "stand",
        }
    }

    /// The kind of a name.
    pub fn named(name: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|kind| kind.key() == name)
    }

    /// What a real one sends: units, rate, clock, what is missing.
    pub fn sends(self) -> &'static str {
        match self {
            Self::Camera => {
                "Where each marker is, mm, 100 times a second, by the camera's own clock from the take's start; a marker that is \
                 hidden has no place. Axes and names are the room's: they are turned onto the bike and named once. Comes as TRC \
                 or C3D."
            }
            Self::Film => {
                "Pictures, 60 a second, by the film's own clock; no sizes: those come from the wheels. Comes as a clip, or as \
                 pictures in a row."
            }
            Self::Trainer => {
                "Power in W and cadence in turns a minute about once a second, as the Fitness Machine service has them; torque \
                 by angle and the half-turn split a stroke where a meter has the Cycling Power service's vectors. Takes a target \
                 power. By the sender's clock, a second late. Most send no angle: then there is no torque by sector."
            }
            Self::Scales => {
                "Mass under each wheel, kg, to 0.1, when it stands still; no clock. Two scales of one height, level: one alone \
                 reads wrong."
            }
            Self::Stand => {
                "Where its saddle and its bar stand, mm, to 1, as often as asked; takes where they are to go and moves at 5 mm a \
                 second. It knows its own points, not the rider's: the sit reference is told to it once a saddle."
            }
        }
    }
}

/// What may go wrong with a device: planted, so that what to do then can be tried.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Mishap {
    /// Its plug is pulled in the middle.
    Unplugged,
    /// It sends nothing.
    Silent,
    /// It answers late.
    Late,
    /// What it measures is beyond what it can.
    OutOfRange,
}

impl Mishap {
    /// Every one.
    pub const ALL: [Self; 4] = [Self::Unplugged, Self::Silent, Self::Late, Self::OutOfRange];

    /// As it is told.
    pub fn label(self) -> &'static str {
        match self {
            Self::Unplugged => "Unplugged in the middle",
            Self::Silent => "Silent",
            Self::Late => "Late",
            Self::OutOfRange => "Out of range",
        }
    }

    /// As it is named in files and addresses.
    pub fn key(self) -> &'static str {
        match self {
            Self::Unplugged => "unplugged",
            Self::Silent => "silent",
            Self::Late => "late",
            Self::OutOfRange => "out_of_range",
        }
    }

    /// The fault of a name.
    pub fn named(name: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|fault| fault.key() == name)
    }
}

/// What went wrong.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Failure {
    /// What.
    pub fault: Mishap,
    /// In words: what happened, what is there, what to do.
    pub words: String,
}

/// What a device gave: all of it, or what came until something went wrong; nothing where nothing came.
#[derive(Debug, Clone, PartialEq)]
pub struct Taken<T> {
    /// What came.
    pub got: Option<T>,
    /// What went wrong.
    pub trouble: Option<Failure>,
}

impl<T> Taken<T> {
    /// All of it.
    pub fn whole(got: T) -> Self {
        Self {
            got: Some(got),
            trouble: None,
        }
    }

    fn troubled(got: Option<T>, fault: Mishap, words: impl Into<String>) -> Self {
        Self {
            got,
            trouble: Some(Failure {
                fault,
                words: words.into(),
            }),
        }
    }
}

/// A rider in front of the devices: sat on a setup, pedalling.
#[derive(Debug, Clone)]
pub struct Seat<'a> {
    /// Who.
    pub rider: &'a HiddenRider,
    /// The bike's points.
    pub bike: BikePoints,
    /// Its bolts and parts.
    pub setup: Setup,
    /// Where it stands on every axis, from the bike as found.
    pub places: Vec<f64>,
    /// How hard.
    pub effort: Effort,
    /// What rider and bike weigh, kg.
    pub mass_kg: (f64, f64),
    /// The how-manieth question it is.
    pub asked: Asked,
}

impl Seat<'_> {
    /// The rider going round; `None` where a limb does not simply reach.
    pub fn moving(&self) -> Option<Moving> {
        self.rider.moving(&self.bike, &self.setup, &self.places)
    }

    fn dice(&self, kind: DeviceKind) -> Dice {
        self.rider.read_by(kind as u64, self.asked)
    }
}

/// Nobody can pedal there.
fn beyond_reach<T>() -> Taken<T> {
    Taken::troubled(
        None,
        Mishap::OutOfRange,
        "The rider does not reach the pedals or the bar on this setup: nothing was taken.",
    )
}
