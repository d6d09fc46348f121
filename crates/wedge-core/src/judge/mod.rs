//! Ranges, and the marks that say a value is outside one.

mod cause;
mod gross;
mod growth;
mod limit;
mod mark;
mod output;
mod range;

pub use cause::{CauseFacts, ComplaintCauses, Fault, HowOften, Link, causes};
pub(crate) use gross::parts_for;
pub use gross::{FrontPass, Gross, GrossReport, gross};
pub use growth::{Growth, growth, measure_again};
pub use limit::{AIM_DEG, LimitRow, Remedy, limits};
pub use mark::{Mark, Toward, marks};
pub use output::{Output, OutputSpec};
pub use range::{OwnRange, Range, ranges, ranges_with};

/// The room's lines of the table of rules.
pub(crate) fn rules() -> Vec<crate::rule::Rule> {
    [
        mark::rules(),
        limit::rules(),
        limit::remedy_rules(),
        gross::rules(),
        gross::part_rules(),
        growth::rules(),
    ]
    .concat()
}
