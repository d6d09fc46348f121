//! Riders as files: one rider, `wedge.rider/17`, or the whole studio, `wedge.studio/16`.

use crate::format::{FileError, parse, typed, write};
use crate::{House, LibraryFrame, Rider, check, read_each};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use std::io::Cursor;

/// The line that says what a file is.
pub(crate) const RIDER: &str = "wedge.rider/17";
/// The line that says what a file is.
pub(crate) const STUDIO: &str = "wedge.studio/16";

/// One rider with bikes, fits and trials.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct RiderFile {
    /// `wedge.rider/17`.
    pub format: String,
    /// The rider.
    pub rider: Rider,
}

/// A studio: how it works, its frames, every rider.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct StudioFile {
    /// `wedge.studio/16`.
    pub format: String,
    /// How the studio works.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub house: Option<House>,
    /// The frame library.
    #[serde(default)]
    pub frames: Vec<LibraryFrame>,
    /// The riders.
    pub riders: Vec<Rider>,
    /// Riders that did not read where the file was written: named and given out as stored, never taken in.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub unreadable: Vec<UnreadableRider>,
}

/// A rider whose record did not read any more.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct UnreadableRider {
    /// The rider's id, as stored.
    pub id: String,
    /// As the rider is called.
    pub name: String,
    /// What does not read.
    pub why: String,
    /// Every row of the rider's, table by table, as stored.
    #[cfg_attr(feature = "schema", schema(value_type = Object))]
    pub rows: Value,
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

    pub(crate) fn of(parsed: (String, Value)) -> Result<Self, FileError> {
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
    /// A file of these riders alone.
    pub fn new(riders: Vec<Rider>) -> Self {
        Self {
            format: STUDIO.to_owned(),
            house: None,
            frames: Vec::new(),
            riders,
            unreadable: Vec::new(),
        }
    }

    /// Reads a file and checks everything a record must hold to.
    pub fn read(text: &str) -> Result<Self, FileError> {
        Self::of(parse(text)?)
    }

    pub(crate) fn of(parsed: (String, Value)) -> Result<Self, FileError> {
        let file: Self = typed(STUDIO, parsed)?;
        for (index, rider) in file.riders.iter().enumerate() {
            check::rider(&format!("riders[{index}]"), rider)?;
        }
        check::ids(&file.riders)?;
        check::studio(file.house.as_ref(), &file.frames)?;
        Ok(file)
    }

    /// The file's text, indented, with a newline at the end.
    pub fn write(&self) -> Result<String, FileError> {
        write(self)
    }
}

/// What is in a file that holds one rider, or a studio of them.
pub fn read_studio(text: &str) -> Result<StudioFile, FileError> {
    let mut riders = Vec::new();
    let around = read_each(Cursor::new(text), |rider| {
        riders.push(rider);
        Ok::<_, FileError>(())
    })?;
    Ok(StudioFile {
        house: around.house,
        frames: around.frames,
        unreadable: around.unreadable,
        ..StudioFile::new(riders)
    })
}
