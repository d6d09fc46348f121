//! Frames, parts and ledgers: taken or refused, and what was taken is written and taken again as the same. What a ride
//! computer recorded: taken or refused.
#![no_main]

use libfuzzer_sys::fuzz_target;
use uuid::Uuid;
use wedge_files::{LedgerFile, read_frames, read_parts, read_recorded, write_frames, write_parts};

fuzz_target!(|text: &str| {
    if let Ok(parts) = read_parts(text) {
        let written = write_parts(&parts).expect("they were read");
        assert_eq!(read_parts(&written), Ok(parts));
    }
    if let Ok(frames) = read_frames(text, Uuid::nil) {
        let written = write_frames(&frames).expect("they were read");
        assert_eq!(read_frames(&written, Uuid::nil), Ok(frames));
    }
    if let Ok(ledger) = LedgerFile::read(text) {
        let written = ledger.write().expect("it was read");
        assert_eq!(LedgerFile::read(&written), Ok(ledger));
    }
    let _ = read_recorded(text, &jiff::tz::TimeZone::UTC, None);
});
