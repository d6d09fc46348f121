//! Ranges, and the marks that say a value is outside one.

mod gross;
mod limit;
mod mark;
mod output;
mod range;

pub use gross::{FrontPass, Gross, GrossReport, gross};
pub use limit::{AIM_DEG, LimitRow, Remedy, limits};
pub use mark::{Mark, Toward, marks};
pub use output::{Output, OutputSpec};
pub use range::{Range, ranges};
