//! The parts box as CSV, out and in.
use wedge_core::bike::{Part, PartKind, ordinary_parts};
use wedge_core::measure::Quantity;
use wedge_files::{read_parts, write_parts};

#[test]
fn what_is_written_reads_back_without_loss() {
    let mut parts = ordinary_parts();
    parts.push(Part {
        name: "Long, “straight”".to_owned(),
        torque_nm: Some(5.0),
        ..Part::new(
            PartKind::Stem,
            2,
            &[(Quantity::Stem, 120.0), (Quantity::StemAngle, -17.0)],
        )
    });
    parts.push(Part::new(
        PartKind::Bar,
        1,
        &[
            (Quantity::BarWidth, 400.0),
            (Quantity::BarReach, 70.5),
            (Quantity::BarDrop, 125.0),
        ],
    ));
    assert_eq!(read_parts(&write_parts(&parts).unwrap()).unwrap(), parts);
}

#[test]
fn an_independent_reader_finds_the_columns_it_was_promised() {
    let text = write_parts(&ordinary_parts()).unwrap();
    let mut lines = text.lines();
    let header: Vec<&str> = lines.next().unwrap().split(',').collect();
    assert_eq!(
        &header[..5],
        ["kind", "name", "on_hand", "flips", "torque_nm"]
    );
    let stem = header.iter().position(|name| *name == "stem_mm").unwrap();
    let first: Vec<&str> = lines.next().unwrap().split(',').collect();
    assert_eq!(
        (first[0], first[2], first[3], first[stem]),
        ("stem", "0", "yes", "40")
    );
}

#[test]
fn columns_stand_in_any_order_with_commas_or_semicolons() {
    let plain = read_parts("stem_angle_deg,kind,stem_mm,on_hand\n-6,stem,92.5,1\n").unwrap();
    let european =
        read_parts("\u{feff}stem_angle_deg;kind;stem_mm;on_hand\n-6;stem;92,5;1\n").unwrap();
    assert_eq!(plain, european);
    assert!(plain[0].flips && plain[0].size(Quantity::Stem) == Some(92.5));
}

#[test]
fn every_bad_row_is_named_and_nothing_is_half_read() {
    let text = "kind,on_hand,stem_mm,stem_angle_deg,torque_nm\n\
                stem,1,90,-6,5\nstem,many,90,-6,\nsteem,1,90,-6,\nstem,1,900,-6,\nstem,1,90,,700\n";
    let error = read_parts(text).unwrap_err();
    assert_eq!(error.path, "line 3, on_hand");
    for named in [
        "line 4, kind",
        "line 5, stem_mm",
        "line 6, stem_angle_deg",
        "line 6, torque_nm",
    ] {
        assert!(error.message.contains(named), "{named}: {}", error.message);
    }
    assert_eq!(
        read_parts("kind,colour\n").unwrap_err().path,
        "line 1, colour"
    );
    assert_eq!(
        read_parts("kind\n").unwrap_err().message,
        "there is no part in it"
    );
}
