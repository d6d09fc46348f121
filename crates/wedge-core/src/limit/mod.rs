//! What the body allows and what is far out: limits against demand with what would open a short margin, gross errors and
//! the front's rough pass, growth, and the limits that intake calls for.

mod asked;
mod gross;
mod growth;
mod sheet;

pub use asked::{AskedLimit, asked_limits};
pub use gross::{FrontPass, Gross, GrossReport, gross};
pub(crate) use gross::{HEIGHT_ROUGH_MM, REACH_ROUGH_MM};
pub use growth::{Growth, growth, measure_again};
pub use sheet::{LimitRow, Remedy, limits};

/// The room's lines of the table of rules.
pub(crate) fn rules() -> Vec<crate::rule::Rule> {
    [
        sheet::rules(),
        sheet::remedy_rules(),
        gross::rules(),
        growth::rules(),
    ]
    .concat()
}
