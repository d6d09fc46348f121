//! What goes over the wire: JSON in, with the place of what does not read, and JSON out.
//!
//! What is asked for at every key press is read and written here as a whole, in functions that are not generic: this
//! crate is optimised in every profile, so that the server need not be and builds soon.

use crate::{Declined, SessionView};
use serde::Serialize;
use serde::de::DeserializeOwned;
use wedge_core::foresee::ForeseeInput;
use wedge_files::BYTE_ORDER_MARK;

/// Reads a body; what does not read points at its field.
///
/// ```
/// use wedge_bench::{Declined, read};
/// use wedge_core::rider::Effort;
///
/// let Err(Declined::Refused(wrong)) = read::<Effort>(br#"{"power_w": "much", "cadence_rpm": 90}"#) else { panic!() };
/// assert_eq!(wrong[0].pointer, "/power_w");
/// ```
pub fn read<T: DeserializeOwned>(body: &[u8]) -> Result<T, Declined> {
    let mark = BYTE_ORDER_MARK.as_bytes();
    let body = body.strip_prefix(mark).unwrap_or(body);
    let mut json = serde_json::Deserializer::from_slice(body);
    serde_path_to_error::deserialize(&mut json).map_err(|error| {
        let path = error.path().to_string();
        let pointer = format!("/{}", path.replace(['.', '['], "/").replace(']', ""));
        let words = wedge_files::plain(&error.inner().to_string());
        Declined::field(pointer.trim_end_matches('/'), words)
    })
}

fn written<T: Serialize>(answer: &T) -> Result<Vec<u8>, Declined> {
    serde_json::to_vec(answer).map_err(|error| Declined::not_now(error.to_string()))
}

/// Foresees, from the JSON of a [`ForeseeInput`] to that of its foresight.
pub fn foresee(body: &[u8]) -> Result<Vec<u8>, Declined> {
    let input: ForeseeInput = read(body)?;
    written(&wedge_core::foresee::foresee(&input)?)
}

impl SessionView {
    /// The view as JSON.
    pub fn to_json(&self) -> Result<Vec<u8>, Declined> {
        written(self)
    }
}
