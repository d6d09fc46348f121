//! The core's tests from outside, in one binary: golden cases, laws, protocols, and the ladder of its rooms.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)]

mod ask;
mod calibration;
mod calling;
mod changes;
mod faults;
mod first_look;
mod front;
mod judge;
mod kinds;
mod ladder;
mod laws;
mod protocols;
mod refusals;
mod riding;
mod saddle;
mod sanity;
mod synthetic;
mod words;
