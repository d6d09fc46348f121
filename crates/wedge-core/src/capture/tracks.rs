//! Markers over time, as a file or a camera gives them.

use crate::words::words;
use serde::{Deserialize, Serialize};

words! {
    /// The unit a file's coordinates are in.
    pub enum MarkerUnit {
        Millimetre "mm" "mm",
        Centimetre "cm" "cm",
        Metre "m" "m",
    }
}

impl MarkerUnit {
    /// Millimetres in one of it.
    pub const fn in_mm(self) -> f64 {
        match self {
            Self::Millimetre => 1.0,
            Self::Centimetre => 10.0,
            Self::Metre => 1000.0,
        }
    }
}

/// One marker: where it was at every frame, in the room's own axes and the file's unit; `None` where it was not seen.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Track {
    /// As the file calls it.
    pub name: String,
    /// A place a frame.
    pub places: Vec<Option<[f64; 3]>>,
}

/// Everything a file of markers says.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Tracks {
    /// Frames a second.
    pub rate_hz: f64,
    /// When each frame was, s. They need not be even.
    pub times: Vec<f64>,
    /// The unit, where the file names it.
    pub unit: Option<MarkerUnit>,
    /// The markers.
    pub markers: Vec<Track>,
}

impl Tracks {
    /// How long it lasts, s.
    pub fn seconds(&self) -> f64 {
        match (self.times.first(), self.times.last()) {
            (Some(first), Some(last)) => last - first,
            _ => 0.0,
        }
    }
}
