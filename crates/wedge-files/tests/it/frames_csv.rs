//! The frame library as CSV, out and in.
use uuid::Uuid;
use wedge_core::bike::Kind;
use wedge_core::example;
use wedge_files::{LibraryFrame, read_frames, write_frames};

const HEADER: &str = "name,kind,frame_reach_mm,frame_stack_mm,head_angle_deg,head_tube_mm,seat_angle_deg,seat_tube_mm,\
                      chainstay_mm,bb_drop_mm,front_centre_mm,wheel_radius_mm,lower_stack_mm";
const LINE: &str = "Mill Race 54,road,385,565,73,150,73.5,520,412,70,592,340,5";

fn library() -> Vec<LibraryFrame> {
    example::all()
        .into_iter()
        .enumerate()
        .map(|(index, input)| LibraryFrame {
            id: Uuid::from_u128(index as u128),
            name: format!("Sluice, “{index}”"),
            kind: input.kind,
            frame: input.frame,
        })
        .collect()
}

#[test]
fn what_is_written_reads_back_without_loss() {
    let frames = library();
    let text = write_frames(&frames).unwrap();
    let mut ids = frames.iter().map(|f| f.id);
    assert_eq!(read_frames(&text, || ids.next().unwrap()).unwrap(), frames);
}

#[test]
fn no_spreadsheet_runs_a_name_and_none_is_lost() {
    let names = [
        "=1+1",
        "+49 Ferry",
        "-17",
        "@hub",
        "'=x",
        "'Tis",
        "Plain ’n’ fine",
        "−17",
    ];
    let mut frames = library();
    frames.truncate(1);
    let frames: Vec<LibraryFrame> = (names.iter())
        .map(|name| LibraryFrame {
            id: Uuid::now_v7(),
            name: (*name).to_owned(),
            ..frames[0].clone()
        })
        .collect();
    let text = write_frames(&frames).unwrap();
    for line in text.lines().skip(1) {
        let first = line.trim_start_matches('"').chars().next().unwrap();
        let number = line
            .split(',')
            .next()
            .is_some_and(|cell| cell.parse::<f64>().is_ok());
        assert!(number || !"=+-@".contains(first), "{line}");
    }
    let mut ids = frames.iter().map(|frame| frame.id);
    assert_eq!(read_frames(&text, || ids.next().unwrap()).unwrap(), frames);
}

#[test]
fn columns_stand_in_any_order_with_commas_or_semicolons() {
    let frames = read_frames(&format!("{HEADER}\n{LINE}\n"), Uuid::now_v7).unwrap();
    let european = format!(
        "\u{feff}{}\n{}\n",
        HEADER.replace(',', ";"),
        LINE.replace(',', ";").replace('.', ",")
    );
    let same = read_frames(&european, Uuid::now_v7).unwrap();
    assert_eq!(same[0].frame, frames[0].frame);
    let turned: Vec<&str> = HEADER.split(',').rev().collect();
    let values: Vec<&str> = LINE.split(',').rev().collect();
    let text = format!("{}\n{}\n", turned.join(","), values.join(","));
    assert_eq!(
        read_frames(&text, Uuid::now_v7).unwrap()[0].frame,
        frames[0].frame
    );
    assert_eq!(frames[0].kind, Kind::Road);
}

#[test]
fn a_bad_file_names_line_and_column() {
    let one = |line: &str| format!("{HEADER}\n{LINE}\n{line}\n");
    for (text, path, message) in [
        (
            one(&LINE.replace("54,", "56,").replace("565", "thirty")),
            "line 3, frame_stack_mm",
            "“thirty” is not a number",
        ),
        (one(LINE), "line 3, name", "stands twice"),
        (
            one(&LINE.replace("54,road", "56,boat")),
            "line 3, kind",
            "one of road",
        ),
        (
            one(&LINE.replace("54,", "56,").replace(",565,", ",,")),
            "line 3, frame_stack_mm",
            "frame stack is missing",
        ),
        (
            one(&LINE.replace("54,", "56,").replace("565", "56")),
            "line 3, frame_stack_mm",
            "give 400 to 800 mm",
        ),
        (
            one("Mill Race 56,road"),
            "line 3",
            "as many values as the header has columns",
        ),
        (
            one(&LINE.replace("Mill Race 54", "")),
            "line 3, name",
            "a frame has a name",
        ),
        (
            format!("{HEADER},colour\n{LINE},red\n"),
            "line 1, colour",
            "no such column",
        ),
        (format!("{HEADER}\n"), ".", "there is no frame"),
        (String::new(), ".", "there is no frame"),
    ] {
        let error = read_frames(&text, Uuid::now_v7).unwrap_err();
        assert_eq!(error.path, path, "{error}");
        assert!(error.message.contains(message), "{error}");
    }
}
