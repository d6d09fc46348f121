//! Bodies, ids and instants as the columns hold them.

use crate::StoreError;
use jiff::Timestamp;
use jiff::civil::Date;
use serde::Serialize;
use serde::de::DeserializeOwned;
use uuid::Uuid;

/// A body as a column holds it.
pub(crate) fn write<T: Serialize>(what: &'static str, body: &T) -> Result<String, StoreError> {
    serde_json::to_string(body).map_err(|source| body_error(what, source))
}

/// A body as a column held it.
pub(crate) fn read<T: DeserializeOwned>(what: &'static str, text: &str) -> Result<T, StoreError> {
    serde_json::from_str(text).map_err(|source| body_error(what, source))
}

/// A plain word, as an enum without fields is held.
pub(crate) fn write_word<T: Serialize>(what: &'static str, word: &T) -> Result<String, StoreError> {
    write(what, word).map(|text| text.trim_matches('"').to_owned())
}

/// A plain word back into its enum.
pub(crate) fn read_word<T: DeserializeOwned>(
    what: &'static str,
    word: &str,
) -> Result<T, StoreError> {
    serde_json::from_value(serde_json::Value::String(word.to_owned()))
        .map_err(|source| body_error(what, source))
}

pub(crate) fn id(text: &str) -> Result<Uuid, StoreError> {
    text.parse().map_err(|source| body_error("id", source))
}

pub(crate) fn instant(text: &str) -> Result<Timestamp, StoreError> {
    text.parse().map_err(|source| body_error("instant", source))
}

pub(crate) fn day(text: &str) -> Result<Date, StoreError> {
    text.parse().map_err(|source| body_error("day", source))
}

pub(crate) fn body_error(
    what: &'static str,
    source: impl std::error::Error + Send + Sync + 'static,
) -> StoreError {
    StoreError::Body {
        what,
        source: Box::new(source),
    }
}
