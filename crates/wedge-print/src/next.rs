//! The next bike on paper: one page for the rider, and a frame's sheet for its builder.

use crate::frame::{frame_svg, line_of};
use crate::page::{Block, Cell, Pages, Table, bold, plain, section};
use crate::{Fonts, NotPrinted, Paper};
use wedge_bench::NextSheet;
use wedge_core::measure::Unit;
use wedge_core::next::MadeFrom;
use wedge_core::words::written;
use wedge_core::work::CAUTIONS;

fn cell(text: impl Into<String>, bold: bool, right: bool) -> Cell {
    Cell {
        text: text.into(),
        bold,
        right,
    }
}

/// The contact points; where room is short, in the chosen conventions alone.
fn contacts(sheet: &NextSheet, size: f32, every: bool) -> Table {
    let rows = sheet.contacts.iter().filter(|one| every || !one.other);
    Table {
        shares: vec![0.3, 0.5, 0.2],
        head: vec![
            cell("What", true, false),
            cell("From where to where", true, false),
            cell("Value", true, true),
        ],
        rows: rows
            .map(|one| {
                let value = match one.unit {
                    Unit::Deg => format!("{:.1}°", one.value).replace('-', "−"),
                    unit => format!("{}{}", written(one.value), unit.suffix()),
                };
                vec![
                    cell(one.label.clone(), !one.other, false),
                    cell(one.convention.clone(), false, false),
                    cell(value, !one.other, true),
                ]
            })
            .collect(),
        size,
        room: 0.0,
    }
}

/// The rider's sheet as PDF, one page: what is carried, what to order, what was ridden, what to check.
pub fn next_pdf(sheet: &NextSheet, paper: Paper, fonts: &Fonts) -> Result<Vec<u8>, NotPrinted> {
    let mut pages = Pages::new(paper, fonts);
    for (size, every) in [
        (12.0, true),
        (11.0, true),
        (10.0, true),
        (9.5, false),
        (9.0, false),
        (8.0, false),
    ] {
        pages = Pages::new(paper, fonts);
        rider_page(&mut pages, sheet, size, every);
        if pages.is_one() {
            break;
        }
    }
    pages.written(&format!("Next bike, {}", sheet.rider), &foot(sheet))
}

fn foot(sheet: &NextSheet) -> String {
    let studio = if sheet.studio.is_empty() {
        String::new()
    } else {
        format!("{} · ", sheet.studio)
    };
    format!("{studio}{} · {} · {}", sheet.rider, sheet.bike, sheet.on)
}

fn rider_page(pages: &mut Pages, sheet: &NextSheet, size: f32, every: bool) {
    pages.add(Block::Heading(
        1,
        format!("{}: {}", sheet.rider, sheet.bike),
    ));
    pages.add(Block::Text(
        format!("{}. {} · {}", sheet.from, sheet.ridden, sheet.on),
        plain(size),
    ));
    pages.add(Block::Table(contacts(sheet, size - 1.0, every)));
    section(pages, "Built of", &sheet.built, size);
    section(pages, "To order", &sheet.to_order, size);
    section(pages, "What is not as it was", &sheet.off, size);
    section(pages, "Other than before", &sheet.compared, size);
    section(pages, "Frames that would do as well", &sheet.others, size);
    section(pages, "Check at delivery", &sheet.checks, size);
    pages.add(Block::Text(CAUTIONS[0].to_owned(), plain(size - 2.0)));
}

/// The builder's sheet as PDF: the drawing, every dimension with its tolerance, what was told and assumed.
pub fn frame_pdf(sheet: &NextSheet, paper: Paper, fonts: &Fonts) -> Result<Vec<u8>, NotPrinted> {
    let made = sheet
        .made
        .as_ref()
        .ok_or(NotPrinted("this frame was not made to measure"))?;
    let title = format!("Frame for {}", sheet.rider);
    let drawn = fonts.tree(&frame_svg(&title, &sheet.frame, &made.dimensions, false))?;
    let mut pages = Pages::new(paper, fonts);
    pages.add(Block::Heading(1, title.clone()));
    pages.add(Block::Text(
        format!(
            "{}, {}. {}. {}",
            sheet.bike, sheet.on, sheet.from, sheet.ridden
        ),
        plain(11.0),
    ));
    pages.add(Block::Figure(
        Box::new(drawn),
        1.0,
        format!("{title}: a side view with its dimensions"),
    ));
    pages.add(Block::Heading(2, "Dimensions".to_owned()));
    let rows = made.dimensions.iter().map(|dimension| {
        let (label, value) = line_of(dimension);
        let from = match dimension.from {
            MadeFrom::Wished => "as wished",
            MadeFrom::Chosen => "chosen",
            MadeFrom::Solved => "worked out",
        };
        vec![
            cell(label, false, false),
            cell(value, true, true),
            cell(from, false, true),
        ]
    });
    pages.add(Block::Table(Table {
        shares: vec![0.5, 0.3, 0.2],
        head: vec![
            cell("What", true, false),
            cell("Value", true, true),
            cell("From", true, true),
        ],
        rows: rows.collect(),
        size: 11.0,
        room: 0.0,
    }));
    section(&mut pages, "Told of it", &made.told, 11.0);
    section(&mut pages, "Assumed", &made.assumed, 11.0);
    pages.add(Block::Text(
        "Computed from contact points, not ridden. The builder’s own rules, the makers’ limits of fork, post and stem, and local law \
         come first."
            .to_owned(),
        bold(11.0),
    ));
    pages.written(&title, &foot(sheet))
}
