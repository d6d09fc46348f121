//! Frames and parts as CSV: taken or refused, and what was taken is written and taken again as the same.
#![no_main]

use libfuzzer_sys::fuzz_target;
use uuid::Uuid;
use wedge_files::{read_frames, read_parts, write_frames, write_parts};

fuzz_target!(|text: &str| {
    if let Ok(parts) = read_parts(text) {
        let written = write_parts(&parts).expect("they were read");
        assert_eq!(read_parts(&written), Ok(parts));
    }
    if let Ok(frames) = read_frames(text, Uuid::nil) {
        let written = write_frames(&frames).expect("they were read");
        assert_eq!(read_frames(&written, Uuid::nil), Ok(frames));
    }
});
