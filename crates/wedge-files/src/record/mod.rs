//! The nouns of the record, one a file: a rider has readings and bikes, a bike fits, a fit looks, trials and runs. What a
//! noun must hold to stands on it, as `refusals`, for whatever brings one in: a request or a file.

mod afterwards;
mod bike;
mod consent;
mod dispute;
mod house;
mod ledger;
mod look;
mod reading;
mod rider;
mod run;
mod session;
mod simulated;
mod take;
mod trial;

pub use afterwards::{AfterBody, AfterEntry, Answered, Plan, PlannedStep, Referral};
pub use bike::{Bike, CarriedFrom, MadeTo, SetupRecord};
pub use consent::{Consent, OF_AGE_YEARS, SaidBy, is_minor};
pub use dispute::{Dispute, Disputed, standing};
pub use house::{House, KindRange, LibraryFrame};
pub use ledger::{LedgerRide, RideTakenOut};
pub use look::{CalibrationRecord, ForeseenThen, LookBody, LookEntry, LookSeen};
pub use reading::{ReadingRecord, body_of, body_refusals, in_one_visit, taken};
pub use rider::Rider;
pub use run::{CallBody, CallRecord, RunRecord};
pub use session::{Session, SessionState};
pub use simulated::Simulated;
pub use take::{Take, TakeBody, in_pieces, of_pieces, pack, unpack, unpacked_text};
pub use trial::{
    Checked, Entry, EntryBody, Outcome, Seen, StepDone, Trial, TrialForesight, Undone, Verdict,
};

use wedge_core::measure::Refusal;
use wedge_core::rider::Effort;

/// The most letters of a name.
const MOST_LETTERS: usize = 120;
/// The longest words kept of a trial or a look.
const MOST_WORDS: usize = 2000;

/// What is wrong with a name: it has something in it, and is no novel.
pub fn refuse_name(name: &str, at: &str) -> Option<Refusal> {
    let letters = name.trim().chars().count();
    if !(1..=MOST_LETTERS).contains(&letters) {
        let words = format!("A name has 1 to {MOST_LETTERS} characters");
        return Some(Refusal::new(at, words));
    }
    (name.chars().any(char::is_control))
        .then(|| Refusal::new(at, "A name is of letters, on one line"))
}

/// The most fits of a bike, and trials of a fit.
const MOST_NUMBERED: i64 = 100_000;

/// What is wrong with the how-manieth something is.
fn refuse_number(number: i64, at: &str) -> Option<Refusal> {
    (!(1..=MOST_NUMBERED).contains(&number))
        .then(|| Refusal::new(at, format!("A number is 1 to {MOST_NUMBERED}")))
}

/// What is wrong with words written down: they are no novel.
pub fn refuse_words(said: &str, at: &str) -> Option<Refusal> {
    (said.chars().count() > MOST_WORDS)
        .then(|| Refusal::new(at, format!("Keep it under {MOST_WORDS} characters")))
}

/// What is wrong with an effort that stands below `at`, where there is one.
fn refuse_effort(effort: Option<Effort>, at: &str) -> Vec<Refusal> {
    effort.map_or_else(Vec::new, |effort| effort.refusals(&format!("{at}/effort")))
}
