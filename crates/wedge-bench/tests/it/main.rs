//! Fits on the bench, made of the demo's own files: no store, no server.
#![allow(clippy::unwrap_used)]

mod asked;
mod fit;
mod hurts;
mod judge;
mod kinds;
mod ledger;
mod next;
mod opening;
mod runs;

use wedge_bench::Bench;
use wedge_files::{House, Rider, RiderFile};

/// A demo rider by the file's name.
pub(crate) fn rider(name: &str) -> Rider {
    let text = match name {
        "ilse" => include_str!("../../../../demo/ilse-marrow.wedge.json"),
        "finn" => include_str!("../../../../demo/finn-hatherly.wedge.json"),
        "hedda" => include_str!("../../../../demo/hedda-solum.wedge.json"),
        "pell" => include_str!("../../../../demo/pell-corrie.wedge.json"),
        "osric" => include_str!("../../../../demo/osric-vane.wedge.json"),
        "maren" => include_str!("../../../../demo/maren-ostby.wedge.json"),
        _ => include_str!("../../../../demo/tobin-arkle.wedge.json"),
    };
    RiderFile::read(text).unwrap().rider
}

/// The last fit of a rider's first bike, on the bench.
pub(crate) fn bench(rider: Rider) -> Bench {
    let session = rider.bikes[0].sessions.last().unwrap().clone();
    Bench::of(rider, session, House::default()).unwrap()
}
