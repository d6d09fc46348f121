//! The frame library as CSV, out and in.
use uuid::Uuid;
use wedge_core::bike::Kind;
use wedge_core::example;
use wedge_core::measure::Quantity;
use wedge_files::{
    ColumnIs, ColumnUnit, FrameMap, LibraryFrame, ReadColumn, read_frames, read_frames_by,
    write_frames,
};

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

/// A table as a maker might print it: odd headers, centimetres, a wheelbase and no front centre, no wheel and no kind.
const ODD: &str = "\
Model;Size;Reach (cm);Stack (cm);Head tube angle;HT [mm];STA;Seat tube (c-t);CS;BB drop;Wheelbase;Colour
Mill Race;54;38,5;56,5;73;150;73,5;520;412;70;993.9;teal
Mill Race;56;39;58.2;73;168;73.2;540;412;70;1003;teal
";

fn alike() -> [(Quantity, f64); 3] {
    [
        (Quantity::WheelRadius, 340.0),
        (Quantity::LowerStack, 5.0),
        (Quantity::SeatTube, 520.0),
    ]
}

#[test]
fn an_odd_table_is_guessed_and_what_it_lacks_is_asked_for() {
    let read = read_frames_by(ODD, None, Uuid::now_v7).unwrap();
    let is = |column: &str| {
        let of = read
            .map
            .columns
            .iter()
            .find(|of| of.column == column)
            .unwrap();
        (of.is, of.unit)
    };
    assert_eq!(
        is("Reach (cm)"),
        (ColumnIs::Number(Quantity::FrameReach), ColumnUnit::Cm)
    );
    assert_eq!(
        is("Head tube angle").0,
        ColumnIs::Number(Quantity::HeadAngle)
    );
    assert_eq!(is("Wheelbase").0, ColumnIs::Wheelbase);
    assert_eq!(is("Colour").0, ColumnIs::Nothing);
    assert_eq!(
        read.missing,
        [
            Quantity::SeatTube,
            Quantity::WheelRadius,
            Quantity::LowerStack
        ]
    );
    assert!(read.frames.is_empty() && !read.is_whole());
}

#[test]
fn mapped_a_table_reads_whole_with_its_units_and_its_front_centre() {
    let mut map = read_frames_by(ODD, None, Uuid::now_v7).unwrap().map;
    map.same = alike().into_iter().collect();
    map.kind = Kind::Gravel;
    for of in &mut map.columns {
        if of.column == "Seat tube (c-t)" {
            of.is = ColumnIs::Number(Quantity::SeatTube);
        }
    }
    let read = read_frames_by(ODD, Some(&map), Uuid::now_v7).unwrap();
    assert!(read.is_whole(), "{read:?}");
    let names: Vec<&str> = read
        .frames
        .iter()
        .map(|frame| frame.name.as_str())
        .collect();
    assert_eq!(names, ["Mill Race 54", "Mill Race 56"]);
    let frame = &read.frames[0].frame;
    assert_eq!(read.frames[0].kind, Kind::Gravel);
    assert!((frame.frame_reach_mm.0 - 385.0).abs() < 1e-9);
    assert!((frame.seat_angle_deg.0 - 73.5).abs() < 1e-9);
    // A column wins over what is the same of every frame.
    assert!((read.frames[1].frame.seat_tube_mm.0 - 540.0).abs() < 1e-9);
    // Rear √(412² − 70²) = 406.01; ahead 993.9 − 406.01 = 587.89; front centre √(587.89² + 70²) = 592.0.
    assert!(
        (frame.front_centre_mm.0 - 592.0).abs() < 0.11,
        "{}",
        frame.front_centre_mm.0
    );
}

#[test]
fn every_row_that_does_not_read_is_named_and_the_rest_wait() {
    let mut map = read_frames_by(ODD, None, Uuid::now_v7).unwrap().map;
    map.same = alike().into_iter().collect();
    let text = format!(
        "{ODD}Mill Race;54;38;56;73;150;73;520;412;70;994;teal\nWeir;60;forty;60;73;200;73;570;412;70;1010;teal\n\
         Weir;62;;60;73;200;73;570;412;70;1010;teal\n;;40;60;73;200;73;570;412;70;1010;teal\nWeir;64;400;60;73;200;73;570;412;70;1010;teal\n"
    );
    let read = read_frames_by(&text, Some(&map), Uuid::now_v7).unwrap();
    assert_eq!(read.frames.len(), 2);
    assert!(!read.is_whole());
    let refused: Vec<String> = (read.refused.iter())
        .map(|row| format!("{}: {}", row.at, row.detail))
        .collect();
    for (row, words) in refused.iter().zip([
        "line 4, Model: “Mill Race 54” stands twice",
        "line 5, Reach (cm): “forty” is not a number",
        "line 6, Frame reach: frame reach is missing",
        "line 7, Model: a frame has a name",
        "line 8, Reach (cm): ",
    ]) {
        assert!(row.starts_with(words), "{row}");
    }
    assert_eq!(refused.len(), 5, "{refused:?}");
    let none = FrameMap {
        columns: vec![ReadColumn {
            column: "Nowhere".to_owned(),
            is: ColumnIs::Name,
            unit: ColumnUnit::Mm,
        }],
        ..FrameMap::default()
    };
    assert!(read_frames_by(&text, Some(&none), Uuid::now_v7).is_err());
}

#[test]
fn a_table_as_wedge_writes_it_needs_no_map() {
    let frames = library();
    let read = read_frames_by(&write_frames(&frames).unwrap(), None, Uuid::now_v7).unwrap();
    assert!(read.is_whole(), "{read:?}");
    for (read, frame) in read.frames.iter().zip(&frames) {
        assert_eq!(
            (&read.name, read.kind, &read.frame),
            (&frame.name, frame.kind, &frame.frame)
        );
    }
}
