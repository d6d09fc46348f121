//! From a complaint to what may cause it, unweighed.

mod cause;

pub use cause::{CauseFacts, ComplaintCauses, Fault, HowOften, Link, causes};
