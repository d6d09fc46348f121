//! Files of riders and studios: taken or refused, and what was taken is written and taken again as the same.
#![no_main]

use libfuzzer_sys::fuzz_target;
use wedge_files::{StudioFile, read_studio};

fuzz_target!(|text: &str| {
    let Ok(read) = read_studio(text) else { return };
    let written = StudioFile { format: StudioFile::new(Vec::new()).format, ..read };
    let again = read_studio(&written.write().expect("it was read")).expect("it was taken before");
    assert_eq!(again, written);
});
