//! Files and the record's nouns, as a user of the crate meets them.
#![allow(clippy::unwrap_used)]

mod film;
mod frames_csv;
mod ledger;
mod markers;
mod parts_csv;
mod ride_file;
mod rider_file;
mod runs;
mod visits;
mod years;
