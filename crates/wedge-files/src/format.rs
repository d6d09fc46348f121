//! What every file has in common: JSON with a `format` line, read with the path of what is wrong.

use crate::sane::{Budget, Sane};
use crate::upgrade::upgraded;
use serde::Serialize;
use serde::de::{DeserializeOwned, DeserializeSeed};
use serde_json::Value;
use thiserror::Error;

/// Why a file is refused, with the path of what is wrong. Nothing of a refused file is kept.
#[derive(Debug, Error, PartialEq, Eq)]
#[error("{path}: {message}")]
pub struct FileError {
    /// Path inside the file, as `rider.bikes[0].frame`; `.` for the file as a whole.
    pub path: String,
    /// What is wrong there.
    pub message: String,
}

impl FileError {
    pub(crate) fn new(path: impl Into<String>, message: impl Into<String>) -> Self {
        Self {
            path: path.into(),
            message: message.into(),
        }
    }
}

/// A file's JSON, brought up to the current formats, and its `format` line.
///
/// A byte order mark before it is no part of it; a key given twice would lose one of its values and is refused.
pub(crate) fn parse(text: &str) -> Result<(String, Value), FileError> {
    let text = text.strip_prefix(BYTE_ORDER_MARK).unwrap_or(text);
    let broken = |error: serde_json::Error| FileError::new(".", error.to_string());
    let mut json = serde_json::Deserializer::from_str(text);
    let sane = Sane::at(&Budget::full(), 0).deserialize(&mut json);
    sane.and_then(|()| json.end()).map_err(broken)?;
    let value: Value = serde_json::from_str(text).map_err(broken)?;
    let format = value
        .get("format")
        .and_then(Value::as_str)
        .ok_or_else(|| FileError::new("format", "a file of Wedge says its format here"))?
        .to_owned();
    Ok(upgraded(format, value))
}

/// JSON on one line.
pub(crate) fn line<T: Serialize>(value: &T) -> Result<String, FileError> {
    serde_json::to_string(value).map_err(|error| FileError::new(".", error.to_string()))
}

/// The typed file out of its JSON; a value that does not fit is named by its path.
pub(crate) fn typed<T: DeserializeOwned>(
    wanted: &str,
    (format, value): (String, Value),
) -> Result<T, FileError> {
    if format != wanted {
        return Err(FileError::new(
            "format",
            format!("this is `{format}`, not `{wanted}`"),
        ));
    }
    serde_path_to_error::deserialize(value).map_err(|error| {
        FileError::new(error.path().to_string(), plain(&error.inner().to_string()))
    })
}

/// What a reader of JSON says is wrong, without the list of everything that would have been right when that is long.
pub fn plain(message: &str) -> String {
    const LONG: usize = 160;
    match message.split_once(", expected one of ") {
        Some((wrong, rest)) if rest.len() > LONG => {
            format!("{wrong}, which is none of the names known here")
        }
        _ => message.to_owned(),
    }
}

/// A file's text, indented, with a newline at the end.
pub(crate) fn write<T: Serialize>(file: &T) -> Result<String, FileError> {
    serde_json::to_string_pretty(file)
        .map(|text| text + "\n")
        .map_err(|error| FileError::new(".", error.to_string()))
}

/// What some programs write before a text.
pub const BYTE_ORDER_MARK: &str = "\u{feff}";
