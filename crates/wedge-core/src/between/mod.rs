//! What happens between visits: a position reached in safe steps, what the rider keeps of his rides and may do alone, and who
//! is asked where a fit cannot mend.

mod ledger;
mod moves;
mod plan;
mod statistics;

pub use ledger::{
    FELT, LedgerRead, QUIET, Rated, Rating, Ridden, Series, Standing, Warning, rated, read,
};
pub use moves::{IfThen, RideSign, RoadTest, SelfMove, if_then, own_moves, road_tests};
pub use plan::{HOLD_DAYS, PlanStep, Planned, Target, moves_the_knee, plan, planned_with};
pub use statistics::{TheilSen, theil_sen};

/// The room's lines of the table of rules.
pub(crate) fn rules() -> Vec<crate::rule::Rule> {
    [
        plan::rules(),
        ledger::rules(),
        moves::rules(),
        statistics::rules(),
    ]
    .concat()
}

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
