//! Files and the record's nouns, as a user of the crate meets them.
#![allow(clippy::unwrap_used)]

mod film;
mod frames_csv;
mod markers;
mod parts_csv;
mod rider_file;
mod runs;
mod visits;
mod years;
