//! Ranges, and the marks that say a value is outside one.

mod mark;
mod output;
mod range;

pub use mark::{Mark, Toward, marks};
pub use output::{Output, OutputSpec};
pub use range::{Range, ranges};
