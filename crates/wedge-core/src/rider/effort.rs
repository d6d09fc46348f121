//! The effort of a test.

use crate::measure::{Quantity, Refusal};
use serde::{Deserialize, Serialize};

/// Power and cadence held during a test.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Effort {
    /// Power.
    pub power_w: f64,
    /// Cadence.
    pub cadence_rpm: f64,
}

impl Effort {
    /// What is wrong with it, pointing below `at`.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        [
            (Quantity::Power, self.power_w),
            (Quantity::Cadence, self.cadence_rpm),
        ]
        .into_iter()
        .filter_map(|(quantity, value)| quantity.refuse(value, &format!("{at}/{}", quantity.key())))
        .collect()
    }
}
