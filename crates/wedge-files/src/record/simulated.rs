//! That a rider is a stand-in's.

use serde::{Deserialize, Serialize};

/// A rider who is not there: thrown anew from a seed and the version of the laws whenever he is asked. Everything of his record
/// is simulated, for ever.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Simulated {
    /// What he is thrown from.
    pub seed: u32,
    /// By which laws.
    pub laws: u32,
}
