//! The server over real HTTP on a real file, its command line, and the interface in a real browser.
#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::panic,
    clippy::float_cmp
)]

mod api;
mod bars;
mod between;
mod browser;
mod cli;
mod first_look;
mod judge;
mod kill;
mod kinds;
mod lan;
mod ledger;
mod next;
mod nonsense;
mod pictures;
mod saddle;
mod stand_ins;
mod support;
mod takes;
mod trust;
mod years;
