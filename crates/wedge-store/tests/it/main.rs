//! The record on a real file.
#![allow(clippy::unwrap_used, clippy::panic, clippy::float_cmp)]

mod runs;
mod store;
mod trust;
