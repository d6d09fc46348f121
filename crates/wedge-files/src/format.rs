//! What every file has in common: JSON with a `format` line, read with the path of what is wrong.

use crate::upgrade::upgraded;
use serde::de::{DeserializeOwned, Error as _, MapAccess, SeqAccess, Visitor};
use serde::{Deserialize, Deserializer, Serialize};
use serde_json::Value;
use std::collections::HashSet;
use std::fmt;
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
    serde_json::from_str::<KeysOnce>(text).map_err(broken)?;
    let value: Value = serde_json::from_str(text).map_err(broken)?;
    let format = value
        .get("format")
        .and_then(Value::as_str)
        .ok_or_else(|| FileError::new("format", "a file of Wedge says its format here"))?
        .to_owned();
    Ok(upgraded(format, value))
}

/// A file's JSON brought up to the current formats.
pub(crate) fn upgraded_file(format: &str, value: Value) -> (String, Value) {
    upgraded(format.to_owned(), value)
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

/// Any JSON in which no object has a key twice.
struct KeysOnce;

impl<'de> Deserialize<'de> for KeysOnce {
    fn deserialize<D: Deserializer<'de>>(json: D) -> Result<Self, D::Error> {
        json.deserialize_any(Self)
    }
}

impl<'de> Visitor<'de> for KeysOnce {
    type Value = Self;

    fn expecting(&self, f: &mut fmt::Formatter) -> fmt::Result {
        f.write_str("JSON")
    }

    fn visit_map<A: MapAccess<'de>>(self, mut map: A) -> Result<Self, A::Error> {
        let mut keys = HashSet::new();
        while let Some(key) = map.next_key::<String>()? {
            map.next_value::<Self>()?;
            if keys.contains(&key) {
                return Err(A::Error::custom(format!("`{key}` is given twice")));
            }
            keys.insert(key);
        }
        Ok(self)
    }

    fn visit_seq<A: SeqAccess<'de>>(self, mut seq: A) -> Result<Self, A::Error> {
        while seq.next_element::<Self>()?.is_some() {}
        Ok(self)
    }

    fn visit_bool<E>(self, _: bool) -> Result<Self, E> {
        Ok(self)
    }

    fn visit_i64<E>(self, _: i64) -> Result<Self, E> {
        Ok(self)
    }

    fn visit_u64<E>(self, _: u64) -> Result<Self, E> {
        Ok(self)
    }

    fn visit_f64<E>(self, _: f64) -> Result<Self, E> {
        Ok(self)
    }

    fn visit_str<E>(self, _: &str) -> Result<Self, E> {
        Ok(self)
    }

    fn visit_unit<E>(self) -> Result<Self, E> {
        Ok(self)
    }
}
