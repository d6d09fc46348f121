//! A JPEG's segments before its picture.

/// The markers of the segments before the picture (ITU-T T.81, annex B), and where the picture begins; none where the bytes are no
/// JPEG or end before it.
pub fn jpeg_head(bytes: &[u8]) -> Option<(Vec<u8>, usize)> {
    if !bytes.starts_with(&[0xff, 0xd8]) {
        return None;
    }
    let (mut markers, mut at) = (Vec::new(), 2);
    while let Some([0xff, marker, high, low]) = bytes.get(at..at + 4) {
        if *marker == 0xda {
            return Some((markers, at));
        }
        markers.push(*marker);
        at += 2 + usize::from(u16::from_be_bytes([*high, *low]));
    }
    None
}
