//! From what is felt and seen to what may cause it, and to the next move: one table of links; a complaint's causes as it tells
//! them, unweighed; and the judge, who believes for every axis where the middle of this rider's window lies.
//!
//! ```
//! use wedge_core::judge::{Case, judge};
//!
//! let case: Case = serde_json::from_str(
//!     r#"{ "evidence": [
//!         { "kind": "angle", "output": "knee", "value": 28 },
//!         { "kind": "complaint", "place": "knee_behind", "how_bad": 5, "stroke": "bottom" },
//!         { "kind": "seen", "what": "hips_rock" }
//!     ] }"#,
//! )
//! .expect("a case");
//! let judged = judge(&case);
//! assert_eq!(judged.faults[0].fault, "height:high");
//! ```

mod axis;
mod case;
mod cause;
mod check;
mod craft;
mod decide;
mod fault;
mod linkage;
mod links;
mod net;
mod reading;
mod steps;
mod tables;
mod telling;
mod wishes;

pub use axis::{About, Axis, AxisSpec, Hidden, Suspect};
pub use case::{
    Bolt, Case, CaseBike, CaseRider, End, Evidence, Expected, Limited, Names, Ranged, Wanted,
    Weights,
};
pub use cause::{CauseFacts, ComplaintCauses, HowOften, Link, Told, causes};
pub use check::{check, explain};
pub use craft::{
    Craft, HouseHalf, HouseLink, HouseLinks, OwnHalf, OwnJudging, OwnLink, Tells, house_halves,
    house_links,
};
pub use decide::{Asking, AxisBelief, Candidate, Charged, Judgement, Witness, judge, judge_by};
pub use fault::Fault;
pub use linkage::{Linkage, Stand, turned};
pub use links::{Causes, Strength, dip_is_across, felt, seen};
pub use net::Felt;
pub use steps::{step, undoing};
pub use tables::look;
pub use telling::{Called, called, fault_of, fault_words, percent, wrong_if};
pub use wishes::{Wish, Wishing, wishes};

/// The room's lines of the table of rules: its constants, and every link.
pub(crate) fn rules() -> Vec<crate::rule::Rule> {
    [cause::rules(), links::rules(), steps::rules()].concat()
}
