//! Riders as files: one rider, `wedge.rider/2`, or the whole studio, `wedge.studio/1`.

use crate::format::{FileError, parse, typed, write};
use crate::{Rider, check};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use uuid::Uuid;

/// The line that says what a file is.
const RIDER: &str = "wedge.rider/2";
/// The line that says what a file is.
const STUDIO: &str = "wedge.studio/1";

/// One rider with bikes, fits and trials.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct RiderFile {
    /// `wedge.rider/2`.
    pub format: String,
    /// The rider.
    pub rider: Rider,
}

/// Every rider of a studio.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct StudioFile {
    /// `wedge.studio/1`.
    pub format: String,
    /// The riders.
    pub riders: Vec<Rider>,
}

impl RiderFile {
    /// A file of this rider.
    pub fn new(rider: Rider) -> Self {
        Self {
            format: RIDER.to_owned(),
            rider,
        }
    }

    /// Reads a file and checks everything a record must hold to. Files of earlier formats are brought up to this one.
    pub fn read(text: &str) -> Result<Self, FileError> {
        Self::of(parse(text)?)
    }

    fn of(parsed: (String, Value)) -> Result<Self, FileError> {
        let file: Self = typed(RIDER, parsed)?;
        check::rider("rider", &file.rider)?;
        check::ids([&file.rider])?;
        Ok(file)
    }

    /// The file's text, indented, with a newline at the end.
    pub fn write(&self) -> Result<String, FileError> {
        write(self)
    }
}

impl StudioFile {
    /// A file of these riders.
    pub fn new(riders: Vec<Rider>) -> Self {
        Self {
            format: STUDIO.to_owned(),
            riders,
        }
    }

    /// Reads a file and checks everything a record must hold to.
    pub fn read(text: &str) -> Result<Self, FileError> {
        Self::of(parse(text)?)
    }

    fn of(parsed: (String, Value)) -> Result<Self, FileError> {
        let file: Self = typed(STUDIO, parsed)?;
        for (index, rider) in file.riders.iter().enumerate() {
            check::rider(&format!("riders[{index}]"), rider)?;
        }
        check::ids(&file.riders)?;
        Ok(file)
    }

    /// The file's text, indented, with a newline at the end.
    pub fn write(&self) -> Result<String, FileError> {
        write(self)
    }
}

/// The riders of a file that holds one, or a studio of them.
pub fn read_riders(text: &str) -> Result<Vec<Rider>, FileError> {
    let parsed = parse(text)?;
    match parsed.0.as_str() {
        RIDER => Ok(vec![RiderFile::of(parsed)?.rider]),
        STUDIO => Ok(StudioFile::of(parsed)?.riders),
        other => Err(FileError::new(
            "format",
            format!("this is `{other}`, not `{RIDER}` or `{STUDIO}`"),
        )),
    }
}

/// Riders to take in: as they are, or as copies under new ids.
pub fn as_wanted(
    riders: Vec<Rider>,
    as_copy: bool,
    mut new_id: impl FnMut() -> Uuid,
) -> Vec<Rider> {
    if as_copy {
        riders
            .into_iter()
            .map(|rider| rider.copied(&mut new_id))
            .collect()
    } else {
        riders
    }
}
