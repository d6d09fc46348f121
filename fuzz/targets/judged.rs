//! Positions and cases: taken or refused, and what was taken is written and taken again as the same.
#![no_main]

use libfuzzer_sys::fuzz_target;
use wedge_files::{CaseFile, PositionFile};

fuzz_target!(|text: &str| {
    let _ = CaseFile::read(text);
    if let Ok(read) = PositionFile::read(text) {
        assert_eq!(PositionFile::read(&read.write().expect("it was read")), Ok(read));
    }
});
