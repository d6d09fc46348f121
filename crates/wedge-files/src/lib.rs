//! Wedge's record as plain nouns, and the open files it is written to.
//!
//! The same nouns travel through files, the store and the API: [`Rider`], [`Bike`], [`Session`], [`Trial`]. A file is
//! JSON with a `format` line: [`RiderFile`], [`StudioFile`], [`PositionFile`]. What is written reads back without loss,
//! files of earlier formats are read, and a bad file names the path of what is wrong.

mod c3d;
mod case_file;
mod check;
mod format;
mod frames_csv;
mod jpeg;
mod ledger_file;
mod parts_csv;
mod position_file;
mod record;
mod ride_file;
mod rider_file;
mod sample_file;
mod sane;
mod stream;
mod table;
mod torque_csv;
mod trc;
mod upgrade;
mod years;

pub use c3d::{read_c3d, write_c3d};
pub use case_file::CaseFile;
pub use format::{BYTE_ORDER_MARK, FileError, plain};
pub use frames_csv::{
    ColumnIs, ColumnUnit, FrameMap, FramesRead, ReadColumn, RefusedRow, read_frames,
    read_frames_by, write_frames,
};
pub use jpeg::jpeg_head;
pub use ledger_file::LedgerFile;
pub use parts_csv::{read_parts, write_parts};
pub use position_file::PositionFile;
pub use record::{
    AfterBody, AfterEntry, Answered, Bike, CalibrationRecord, CallBody, CallRecord, CarriedFrom,
    Checked, Consent, Dispute, Disputed, Entry, EntryBody, ForeseenThen, House, KindRange,
    LedgerRide, LibraryFrame, LookBody, LookEntry, LookSeen, MadeTo, OF_AGE_YEARS, Outcome, Plan,
    PlannedStep, ReadingRecord, Referral, RideTakenOut, Rider, RunRecord, SaidBy, Seen, Session,
    SessionState, SetupRecord, Simulated, StepDone, Take, TakeBody, Trial, TrialForesight, Undone,
    Verdict, body_of, body_refusals, in_one_visit, in_pieces, is_minor, of_pieces, pack,
    refuse_name, refuse_words, standing, taken, unpack, unpacked_text,
};
pub use ride_file::{Recorded, read_recorded};
pub use rider_file::{RiderFile, StudioFile, UnreadableRider, read_studio};
pub use sample_file::sample_json;
pub use stream::{Around, StudioWriter, read_each};
pub use torque_csv::{read_torque, write_torque};
pub use trc::{read_markers, read_trc, write_trc};
pub use years::{ComplaintSpan, complaint_spans};
