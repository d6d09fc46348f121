//! What happens between visits: a position reached in safe steps, and who is asked where a fit cannot mend.

mod plan;

pub(crate) use plan::rules;
pub use plan::{HOLD_DAYS, PlanStep, Planned, Target, plan, planned_with};

use crate::words::words;

words! {
    /// Who is asked.
    pub enum Specialist {
        Physician "physician" "Physician",
        Physiotherapist "physiotherapist" "Physiotherapist",
        Podiatrist "podiatrist" "Podiatrist",
        Saddle "saddle_specialist" "Saddle specialist",
        Shoe "shoe_specialist" "Shoe specialist",
    }
}
