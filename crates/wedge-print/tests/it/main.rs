//! The hand-out of every demo rider on paper, opened again by readers that are not ours.
#![allow(clippy::unwrap_used)]

use lopdf::{Document, Object};
use wedge_bench::{Bench, Handout};
use wedge_files::{House, RiderFile};
use wedge_print::{Fonts, Paper, card_html, card_pdf, pdf, png, svg};

/// The hand-outs of every fit of the demo whose bike as found is closed.
fn handouts() -> Vec<Handout> {
    let demo = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo");
    let mut files: Vec<_> = std::fs::read_dir(demo).unwrap().flatten().collect();
    files.sort_by_key(std::fs::DirEntry::path);
    let mut all = Vec::new();
    for file in files {
        let text = std::fs::read_to_string(file.path()).unwrap_or_default();
        let Ok(read) = RiderFile::read(&text) else {
            continue;
        };
        for bike in &read.rider.bikes {
            for session in &bike.sessions {
                let bench = Bench::of(read.rider.clone(), session.clone(), House::default());
                all.extend(bench.ok().and_then(|bench| bench.handout().ok()));
            }
        }
    }
    assert!(all.len() > 8, "{}", all.len());
    all
}

fn opened(handout: &Handout, paper: Paper, fonts: &Fonts) -> (Vec<u8>, Document) {
    let bytes = pdf(handout, paper, fonts).unwrap();
    let document = Document::load_mem(&bytes).unwrap();
    (bytes, document)
}

fn text(document: &Document, page: u32) -> String {
    let text = document.extract_text(&[page]).unwrap();
    text.split_whitespace().collect::<Vec<_>>().join(" ")
}

#[test]
fn page_one_is_the_riders_and_page_two_the_mechanics_on_both_papers() {
    let fonts = Fonts::default();
    for handout in handouts() {
        for (paper, width, height) in [(Paper::A4, 595.0, 842.0), (Paper::Letter, 612.0, 792.0)] {
            let (bytes, document) = opened(&handout, paper, &fonts);
            let who = format!("{} on {}", handout.rider, handout.bike);
            assert!(bytes.len() < 300_000, "{who}: {} bytes", bytes.len());
            let pages = document.get_pages();
            assert!(
                (3..=6).contains(&pages.len()),
                "{who}: {} pages",
                pages.len()
            );
            let first = document.get_dictionary(pages[&1]).unwrap();
            let frame = first.get(b"MediaBox").unwrap().as_array().unwrap();
            let side = |index: usize| frame[index].as_float().unwrap();
            assert!((side(2) - width).abs() < 1.0 && (side(3) - height).abs() < 1.0);
            let one = text(&document, 1);
            assert!(one.contains(&handout.rider), "{who}: {one}");
            for title in ["What changed", "When to stop"] {
                assert!(one.contains(title), "{who}: {one}");
            }
            assert!(one.contains("licensed clinician"), "{who}: {one}");
            assert!(text(&document, 2).starts_with("For the mechanic"), "{who}");
        }
    }
}

#[test]
fn fonts_are_inside_text_is_tagged_and_there_are_bookmarks() {
    let fonts = Fonts::default();
    let handout = &handouts()[0];
    let (bytes, document) = opened(handout, Paper::A4, &fonts);
    assert_eq!(
        bytes,
        pdf(handout, Paper::A4, &fonts).unwrap(),
        "the same bytes again"
    );
    let catalog = document.catalog().unwrap();
    for key in [
        b"StructTreeRoot".as_slice(),
        b"MarkInfo",
        b"Outlines",
        b"Lang",
    ] {
        assert!(catalog.has(key), "{}", String::from_utf8_lossy(key));
    }
    let descriptors: Vec<_> = (document.objects.values())
        .filter_map(|object| object.as_dict().ok())
        .filter(|dict| {
            dict.get(b"Type")
                .and_then(Object::as_name)
                .is_ok_and(|n| n == b"FontDescriptor")
        })
        .collect();
    assert!(descriptors.len() >= 2);
    for descriptor in descriptors {
        assert!(descriptor.has(b"FontFile2") || descriptor.has(b"FontFile3"));
    }
    let roles: Vec<Vec<u8>> = (document.objects.values())
        .filter_map(|object| {
            object
                .as_dict()
                .ok()?
                .get(b"S")
                .ok()?
                .as_name()
                .ok()
                .map(<[u8]>::to_vec)
        })
        .collect();
    for role in [
        "H1", "H2", "P", "L", "LI", "Table", "TR", "TH", "TD", "Figure",
    ] {
        assert!(roles.iter().any(|r| r == role.as_bytes()), "{role}");
    }
}

#[test]
fn any_name_is_set_and_none_of_it_is_markup() {
    let fonts = Fonts::default();
    let mut handout = handouts().swap_remove(0);
    let name = "Łucja <script>alert(1)</script> & Ωμέγα Жанна \u{7}𝔘👻 مرحبا";
    handout.rider = name.to_owned();
    handout.bike = "x".repeat(400);
    handout.table[0].convention = "]]><image href=\"http://nobody.invalid/\"/>".to_owned();
    let (_, document) = opened(&handout, Paper::Letter, &fonts);
    let one = text(&document, 1);
    // Where the font changes within a word, a reader may see a space.
    let close = |text: &str| text.split_whitespace().collect::<String>();
    let part = close("Łucja <script>alert(1)</script> & Ωμέγα Жанна ??");
    assert!(close(&one).contains(&part), "{one}");
    let drawn = svg(&handout);
    let read = roxmltree::Document::parse(&drawn).unwrap();
    let names = ["svg", "title", "g", "path", "text"];
    assert!(
        read.descendants()
            .filter(roxmltree::Node::is_element)
            .all(|n| names.contains(&n.tag_name().name()))
    );
}

#[test]
fn the_drawing_opens_elsewhere_and_carries_its_numbers() {
    let fonts = Fonts::default();
    for handout in handouts() {
        let drawn = svg(&handout);
        let read = roxmltree::Document::parse(&drawn).unwrap();
        let told: Vec<&str> = (read.descendants())
            .filter(|node| node.has_tag_name("text"))
            .filter_map(|node| node.text())
            .collect();
        let height = handout.table.iter().find(|l| l.drawn.is_some()).unwrap();
        let wanted = format!(
            "{}{}",
            wedge_core::words::written(height.left),
            height.unit.suffix()
        );
        assert!(
            told.iter().any(|t| t.contains(&wanted)),
            "{wanted}: {told:?}"
        );
        let picture = png(&handout, 2.0, &fonts).unwrap();
        assert!(picture.starts_with(b"\x89PNG"));
    }
}

#[test]
fn a_card_on_paper_has_its_rules_room_for_rides_and_its_tests() {
    let fonts = Fonts::default();
    let demo = include_str!("../../../../demo/tobin-arkle.wedge.json");
    let rider = RiderFile::read(demo).unwrap().rider;
    let fit = rider.bikes[0].sessions[0].clone();
    let bench = Bench::of(rider, fit, House::default()).unwrap();
    let card = bench.card(&jiff::tz::TimeZone::UTC);
    for paper in [Paper::A4, Paper::Letter] {
        let bytes = card_pdf(&card, paper, &fonts).unwrap();
        assert_eq!(
            bytes,
            card_pdf(&card, paper, &fonts).unwrap(),
            "the same bytes again"
        );
        assert!(bytes.len() < 300_000, "{} bytes", bytes.len());
        let document = Document::load_mem(&bytes).unwrap();
        let pages = document.get_pages().len();
        assert_eq!(pages, 2);
        let all = text(&document, 1) + " " + &text(&document, 2);
        for said in [
            "Ride card, Tobin Arkle",
            "From 21 Nov 2026: Saddle forward 3",
            "Pain behind the knee: Saddle 5 mm down, once.",
            "Light fingers",
            "20 minutes steady",
            "licensed clinician",
        ] {
            assert!(all.contains(said), "{said}: {all}");
        }
    }
    // As one file: everything in it, nothing from anywhere, and the same again.
    let page = card_html(&card).unwrap();
    assert_eq!(page, card_html(&card).unwrap());
    assert!(page.len() < 60_000, "{} bytes", page.len());
    for from_elsewhere in ["http://", "https://", "src=", "@import", "url("] {
        assert!(!page.contains(from_elsewhere), "{from_elsewhere}");
    }
}

/// A frame made to measure for a demo rider, with its sheets.
fn made() -> (wedge_bench::NextSheet, wedge_files::Bike) {
    use wedge_bench::{NewNext, NextAsked, NextBike, NextFrom, NextSheet};
    let text = include_str!("../../../../demo/corwin-ashe.wedge.json");
    let rider = RiderFile::read(text).unwrap().rider;
    let mut fits = rider.bikes.iter().flat_map(|bike| &bike.sessions);
    let fit = fits.rfind(|fit| fit.now().is_some()).unwrap().id;
    let next = NextBike {
        rider,
        house: House::default(),
        frames: Vec::new(),
        today: "2026-11-29".parse().unwrap(),
    };
    let bike = next
        .new_bike(&NewNext {
            id: uuid::Uuid::from_u128(7),
            name: "Ferry <Runner> & \"Co\"".to_owned(),
            of: NextAsked {
                from: NextFrom::Fit(fit),
                onto: None,
                crank: None,
                wishes: None,
            },
        })
        .unwrap();
    (
        NextSheet::of(&next.rider, &next.house, &bike).unwrap(),
        bike,
    )
}

#[test]
fn the_next_bike_is_one_page_and_its_frame_a_builders_sheet() {
    let fonts = Fonts::default();
    let (sheet, _) = made();
    for paper in [Paper::A4, Paper::Letter] {
        let bytes = wedge_print::next_pdf(&sheet, paper, &fonts).unwrap();
        assert_eq!(bytes, wedge_print::next_pdf(&sheet, paper, &fonts).unwrap());
        let document = Document::load_mem(&bytes).unwrap();
        assert_eq!(document.get_pages().len(), 1);
        let one = text(&document, 1);
        for words in [
            "Saddle height",
            "nobody has ridden it",
            "Check at delivery",
            "made to measure",
        ] {
            assert!(one.contains(words), "{words}: {one}");
        }
        let bytes = wedge_print::frame_pdf(&sheet, paper, &fonts).unwrap();
        let document = Document::load_mem(&bytes).unwrap();
        assert!(document.get_pages().len() <= 3 && bytes.len() < 300_000);
        let all: String = document
            .get_pages()
            .keys()
            .map(|page| text(&document, *page))
            .collect();
        for words in ["Head angle", "Effective top tube", "± 1 mm", "Assumed"] {
            assert!(all.contains(words), "{words}: {all}");
        }
    }
}

#[test]
fn a_frame_reads_as_svg_with_every_dimension() {
    let (sheet, bike) = made();
    let dimensions = &sheet.made.as_ref().unwrap().dimensions;
    let svg = wedge_print::frame_svg(&bike.name, &sheet.frame, dimensions, true);
    let document = roxmltree::Document::parse(&svg).unwrap();
    let texts: Vec<&str> = document
        .descendants()
        .filter_map(|node| node.text())
        .collect();
    for dimension in dimensions {
        assert!(
            texts.contains(&dimension.label.as_str()),
            "{}",
            dimension.label
        );
    }
    assert!(texts.iter().any(|text| *text == bike.name));
    let circles = document
        .descendants()
        .filter(|node| node.has_tag_name("circle"))
        .count();
    assert_eq!(circles, 5);
}

#[test]
fn a_frame_reads_as_dxf_to_scale() {
    use dxf::entities::EntityType;
    let (sheet, _) = made();
    let dimensions = &sheet.made.as_ref().unwrap().dimensions;
    let text = wedge_print::frame_dxf("Frame for Corwin Ashe", &sheet.frame, dimensions);
    let drawing = dxf::Drawing::load(&mut text.as_bytes()).unwrap();
    let layers: Vec<&str> = drawing.layers().map(|layer| layer.name.as_str()).collect();
    assert!(
        ["FRAME", "WHEELS", "AXES", "DIMENSIONS"]
            .iter()
            .all(|name| layers.contains(name)),
        "{layers:?}"
    );
    // The wheels stand on their axles, in millimetres.
    let wheels: Vec<(f64, f64, f64)> = (drawing.entities())
        .filter(|entity| entity.common.layer == "WHEELS")
        .filter_map(|entity| match &entity.specific {
            EntityType::Circle(circle) => Some((circle.center.x, circle.center.y, circle.radius)),
            _ => None,
        })
        .collect();
    let frame = &sheet.frame;
    for (axle, (x, y, radius)) in [frame.rear_axle(), frame.front_axle()].iter().zip(&wheels) {
        assert!((axle.x - x).abs() < 0.001 && (axle.y - y).abs() < 0.001);
        assert!((radius - frame.wheel_radius_mm.0).abs() < 0.001);
    }
    // The head tube is as long as it says, and every dimension is told.
    let lengths: Vec<f64> = (drawing.entities())
        .filter(|entity| entity.common.layer == "FRAME")
        .filter_map(|entity| match &entity.specific {
            EntityType::Line(line) => Some((line.p1.x - line.p2.x).hypot(line.p1.y - line.p2.y)),
            _ => None,
        })
        .collect();
    assert!(
        lengths
            .iter()
            .any(|length| (length - frame.head_tube_mm.0).abs() < 0.001),
        "{lengths:?}"
    );
    let told: Vec<&str> = (drawing.entities())
        .filter_map(|entity| match &entity.specific {
            EntityType::Text(text) => Some(text.value.as_str()),
            _ => None,
        })
        .collect();
    for dimension in dimensions {
        let plain = dimension.label.replace('’', "'");
        assert!(
            told.iter().any(|text| text.starts_with(&plain)),
            "{plain}: {told:?}"
        );
    }
    assert_eq!(drawing.header.version, dxf::enums::AcadVersion::R12);
}
