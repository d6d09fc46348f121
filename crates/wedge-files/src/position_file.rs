//! A rider on a bike as a file: `wedge.position/1`, what foresight is asked with.

use crate::check::refuse;
use crate::format::{FileError, parse, typed, write};
use serde::{Deserialize, Serialize};
use wedge_core::foresee::ForeseeInput;

/// The line that says what a file is.
const FORMAT: &str = "wedge.position/1";

/// Rider, frame, setup, feet, observations and effort: all that a position follows from.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct PositionFile {
    /// `wedge.position/1`.
    pub format: String,
    /// What the position follows from; its changes may be left out.
    pub position: ForeseeInput,
}

impl PositionFile {
    /// A file of this position.
    pub fn new(position: ForeseeInput) -> Self {
        Self {
            format: FORMAT.to_owned(),
            position,
        }
    }

    /// Reads a file and checks that every value can be right.
    pub fn read(text: &str) -> Result<Self, FileError> {
        let file: Self = typed(FORMAT, parse(text)?)?;
        refuse("position", file.position.check().err().unwrap_or_default())?;
        Ok(file)
    }

    /// The file's text, indented, with a newline at the end.
    pub fn write(&self) -> Result<String, FileError> {
        write(self)
    }
}
