//! The evidence of a fit as plain data: `wedge.case/1`, for trying the judge out without a rider's record.

use crate::format::{BYTE_ORDER_MARK, FileError, plain};
use serde::{Deserialize, Serialize};
use serde_json::{Value, json};
use wedge_core::judge::Case;

/// The line that says what a file is.
const FORMAT: &str = "wedge.case/1";

/// Cases: what is known of a rider on a bike, in the order it came.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct CaseFile {
    /// `wedge.case/1`.
    pub format: String,
    /// The cases.
    pub cases: Vec<Case>,
}

impl CaseFile {
    /// Reads a file: with its format line, or a case or a list of cases alone.
    pub fn read(text: &str) -> Result<Self, FileError> {
        let text = text.strip_prefix(BYTE_ORDER_MARK).unwrap_or(text);
        let value: Value =
            serde_json::from_str(text).map_err(|error| FileError::new(".", error.to_string()))?;
        let whole = match value {
            Value::Array(cases) => json!({ "format": FORMAT, "cases": cases }),
            Value::Object(file) => match file.get("format") {
                None => json!({ "format": FORMAT, "cases": [file] }),
                Some(format) if format == FORMAT => Value::Object(file),
                Some(other) => {
                    let message = format!("this is {other}, not \"{FORMAT}\"");
                    return Err(FileError::new("format", message));
                }
            },
            other => other,
        };
        serde_path_to_error::deserialize(whole).map_err(|error| {
            FileError::new(error.path().to_string(), plain(&error.inner().to_string()))
        })
    }
}
