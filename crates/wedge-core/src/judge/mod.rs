//! From what is felt and seen to what may cause it: one table of links, and a complaint's causes as it tells them, unweighed.

mod cause;
mod fault;
mod links;

pub use cause::{CauseFacts, ComplaintCauses, HowOften, Link, Told, causes};
pub use fault::Fault;
pub use links::{Causes, Strength, dip_is_across, felt, seen};

/// The room's lines of the table of rules: its constants, and every link.
pub(crate) fn rules() -> Vec<crate::rule::Rule> {
    [cause::rules(), links::rules()].concat()
}
