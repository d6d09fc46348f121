//! Markers, TRC and C3D, and torque: taken or refused; what was taken is read to figures or refused, and written again.
#![no_main]

use libfuzzer_sys::fuzz_target;
use wedge_core::capture::{Answers, Known, look};
use wedge_files::{read_markers, read_torque, read_trc, write_torque, write_trc};

fuzz_target!(|bytes: &[u8]| {
    if let Ok(tracks) = read_markers(bytes) {
        assert!(tracks.markers.iter().all(|marker| marker.places.len() == tracks.times.len()));
        let _ = look(&tracks, &Known::default().told(), &Answers::default());
        if bytes.get(1) != Some(&0x50) {
            let written = write_trc(&tracks, "again");
            let again = read_trc(&written).map(|again| again.markers.len());
            assert!(again.is_err() || again == Ok(tracks.markers.len()));
        }
    }
    if let Ok(text) = std::str::from_utf8(bytes)
        && let Ok(torque) = read_torque(text)
    {
        assert_eq!(read_torque(&write_torque(&torque).expect("it was read")), Ok(torque));
    }
});
