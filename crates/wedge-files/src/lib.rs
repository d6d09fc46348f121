//! Wedge's record as plain nouns, and the open files it is written to.
//!
//! The same nouns travel through files, the store and the API: [`Rider`], [`Bike`], [`Session`], [`Trial`]. A file is
//! JSON with a `format` line; what is written reads back without loss, and a bad file names the path of what is wrong.

mod record;
mod rider_file;

pub use record::{
    Bike, Entry, EntryBody, Outcome, ReadingRecord, Rider, Seen, Session, SessionState,
    SetupRecord, Trial, TrialForesight, Verdict,
};
pub use rider_file::{FileError, RiderFile};
