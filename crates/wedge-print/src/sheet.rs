//! The hand-out on paper: page one for the rider, page two for the next mechanic, the plan where there is one, then what the next
//! fitter asks for.

use crate::drawing::svg;
use crate::page::{Block, Cell, Pages, Table, bold, plain, section};
use crate::{Fonts, NotPrinted, Paper};
use resvg::usvg;
use std::fmt::Write as _;
use wedge_bench::{Handout, TrialLine, day_words};
use wedge_core::bike::{OnSteerer, StackPart};
use wedge_core::handout::{Line, SetAt};
use wedge_core::words::{lower, written};

/// A hand-out as PDF: tagged, with bookmarks, its fonts inside, black on white.
pub fn pdf(handout: &Handout, paper: Paper, fonts: &Fonts) -> Result<Vec<u8>, NotPrinted> {
    let mut pages = page_one(handout, paper, fonts)?;
    pages.add(Block::Break);
    for_mechanic(&mut pages, handout, fonts)?;
    if !handout.plan.is_empty() {
        pages.add(Block::Break);
        pages.add(Block::Heading(1, "Your plan".to_owned()));
        pages.add(Block::Text(handout.plan_note.to_owned(), plain(12.0)));
        pages.add(Block::Items(handout.plan.clone(), plain(12.0)));
    }
    pages.add(Block::Break);
    for_fitter(&mut pages, handout);
    let title = format!("Hand-out, {}", handout.rider);
    let studio = if handout.studio.is_empty() {
        String::new()
    } else {
        format!("{} · ", handout.studio)
    };
    let foot = format!(
        "{studio}{} · {} · fit {} · {}",
        handout.rider,
        handout.bike,
        handout.number,
        day_words(handout.day)
    );
    pages.written(&title, &foot)
}

/// Page one, as large as it may be and still be one page: its type and the share of the width its drawing takes.
fn page_one(handout: &Handout, paper: Paper, fonts: &Fonts) -> Result<Pages, NotPrinted> {
    let drawn = fonts.tree(&svg(handout))?;
    let mut pages = Pages::new(paper, fonts);
    for looks in [
        (13.0, 1.0),
        (12.0, 0.94),
        (11.0, 0.88),
        (10.0, 0.8),
        (9.0, 0.7),
    ] {
        pages = Pages::new(paper, fonts);
        for_rider(&mut pages, handout, drawn.clone(), looks);
        if pages.is_one() {
            break;
        }
    }
    Ok(pages)
}

fn for_rider(pages: &mut Pages, handout: &Handout, drawn: usvg::Tree, (size, share): (f32, f32)) {
    pages.add(Block::Heading(1, handout.rider.clone()));
    let effort = handout.effort.map(|effort| {
        format!(
            " · {} W at {} rpm",
            written(effort.power_w),
            written(effort.cadence_rpm)
        )
    });
    pages.add(Block::Text(
        format!(
            "{} · fit {} · {}{}",
            handout.bike,
            handout.number,
            day_words(handout.day),
            effort.unwrap_or_default()
        ),
        plain(11.0),
    ));
    for warning in &handout.warnings {
        pages.add(Block::Text((*warning).to_owned(), bold(11.0)));
    }
    pages.add(Block::Figure(
        Box::new(drawn),
        share,
        handout.described.clone(),
    ));
    let rider = &handout.for_rider;
    section(pages, "What changed", &rider.changed, size);
    section(pages, "What to feel for", &rider.feel, size);
    section(pages, "When to stop", &rider.stop, size);
    if let Some(back) = handout.follow_up {
        pages.add(Block::Text(
            format!("Come back on {}.", day_words(back)),
            bold(size),
        ));
    }
}

fn cell(text: impl Into<String>) -> Cell {
    Cell {
        text: text.into(),
        bold: false,
        right: false,
    }
}

fn number(value: f64, line: &Line, strong: bool) -> Cell {
    Cell {
        text: format!("{}{}", written(value), line.unit.suffix()),
        bold: strong,
        right: true,
    }
}

/// The lines of a place, each once: what was is told only where it is another number.
fn set_at(lines: &[Line]) -> Table {
    let head = |text: &str, right| Cell {
        text: text.to_owned(),
        bold: true,
        right,
    };
    Table {
        room: 0.0,
        shares: vec![0.2, 0.36, 0.12, 0.12, 0.2],
        head: vec![
            head("Measure", false),
            head("From where to where", false),
            head("Set to", true),
            head("Was", true),
            head("The number is", false),
        ],
        rows: lines
            .iter()
            .map(|line| {
                vec![
                    cell(line.label.clone()),
                    cell(line.convention.clone()),
                    number(line.left, line, true),
                    if line.changed {
                        number(line.found, line, false)
                    } else {
                        cell("")
                    },
                    cell(line.from.clone()),
                ]
            })
            .collect(),
        size: 9.0,
    }
}

fn for_mechanic(pages: &mut Pages, handout: &Handout, fonts: &Fonts) -> Result<(), NotPrinted> {
    let mechanic = &handout.for_mechanic;
    pages.add(Block::Heading(1, "For the mechanic".to_owned()));
    pages.add(Block::Text(mechanic.note.clone(), plain(9.5)));
    if let Some(disagreement) = &handout.disagreement {
        pages.add(Block::Text(disagreement.clone(), bold(9.5)));
    }
    for place in &mechanic.places {
        pages.add(Block::Heading(2, place.label.to_owned()));
        pages.add(Block::Table(set_at(&place.lines)));
        if let Some(as_found) = &place.as_found {
            pages.add(Block::Text(as_found.clone(), plain(9.5)));
        }
        if place.at == SetAt::Saddle {
            pages.add(Block::Items(mechanic.rails.clone(), plain(9.5)));
        }
        if place.at == SetAt::Front && !mechanic.stack.is_empty() {
            let tree = fonts.tree(&stack_svg(&mechanic.stack))?;
            pages.add(Block::Figure(
                Box::new(tree),
                0.5,
                stack_words(&mechanic.stack),
            ));
        }
    }
    section(
        pages,
        "Bolts that were turned: torque them",
        &mechanic.bolts,
        9.5,
    );
    if let Some(work) = &handout.front_work {
        pages.add(Block::Heading(2, "Front-end work".to_owned()));
        let to_do: Vec<String> = (work.steps.iter())
            .filter(|step| !step.done)
            .map(|step| lower(step.label))
            .collect();
        let told = if to_do.is_empty() {
            "All of it is done.".to_owned()
        } else {
            format!("Still to do: {}.", to_do.join("; "))
        };
        pages.add(Block::Text(told, plain(9.5)));
    }
    pages.add(Block::Items(
        handout.cautions[1..3]
            .iter()
            .map(ToString::to_string)
            .collect(),
        plain(9.5),
    ));
    Ok(())
}

/// "Cover 15 mm; spacers 25 mm, were 15 mm; …", from the head tube up.
pub(crate) fn stack_words(stack: &[StackPart]) -> String {
    let told = stack.iter().filter_map(|part| {
        let after = part.after_mm?;
        let was = part.before_mm.filter(|was| written(*was) != written(after));
        Some(match was {
            Some(was) => format!(
                "{} {} mm, was {} mm",
                part.label,
                written(after),
                written(was)
            ),
            None => format!("{} {} mm", part.label, written(after)),
        })
    });
    format!(
        "On the steerer from the head tube up: {}.",
        told.collect::<Vec<_>>().join("; ")
    )
}

/// The steerer's stack to scale, from the head tube up.
pub(crate) fn stack_svg(stack: &[StackPart]) -> String {
    let tall: f64 = stack.iter().filter_map(|part| part.after_mm).sum();
    let (scale, width) = (1.3, 360.0);
    let height = tall * scale + 28.0;
    let mut svg = format!(
        r#"<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width} {height:.1}" width="{width}" height="{height:.1}" font-family="Atkinson Hyperlegible Next, sans-serif" font-size="13">"#
    );
    let mut y = height - 20.0;
    let _ = write!(
        svg,
        r##"<path d="M20 {y:.1}L100 {y:.1}" stroke="#20303a" stroke-width="3"/><text x="112" y="{:.1}" fill="#4d5c64">head tube</text>"##,
        y + 13.0
    );
    for part in stack {
        let Some(after) = part.after_mm.filter(|mm| *mm > 0.0) else {
            continue;
        };
        let high = after * scale;
        y -= high;
        let (fill, edge) = match part.part {
            OnSteerer::Stem => ("#20303a", "#20303a"),
            OnSteerer::Gap => ("#ffffff", "#9aa5a9"),
            _ => ("#c9cec8", "#20303a"),
        };
        let was = part.before_mm.filter(|was| written(*was) != written(after));
        let was = was.map_or_else(String::new, |was| format!(", was {} mm", written(was)));
        let _ = write!(
            svg,
            r##"<rect x="30" y="{y:.1}" width="60" height="{high:.1}" fill="{fill}" stroke="{edge}"/><text x="112" y="{:.1}" fill="#20303a">{} · {} mm{was}</text>"##,
            y + high / 2.0 + 4.5,
            crate::drawing::escaped(&part.label),
            written(after)
        );
    }
    svg.push_str("</svg>");
    svg
}

fn for_fitter(pages: &mut Pages, handout: &Handout) {
    pages.add(Block::Heading(1, "For the next fitter".to_owned()));
    pages.add(Block::Text(
        "The file of this rider holds everything: every reading, look and trial, as data."
            .to_owned(),
        plain(9.5),
    ));
    section(pages, "What the rider came with", &handout.intake, 9.5);
    section(
        pages,
        "Asked again where it hurts",
        &handout.asked_again,
        9.5,
    );
    let told = |lines: &[TrialLine]| lines.iter().map(trial).collect::<Vec<_>>();
    section(pages, "Changed and kept", &told(&handout.kept), 9.5);
    section(pages, "Tried and not kept", &told(&handout.not_kept), 9.5);
    let tested: Vec<String> = handout
        .evidence
        .iter()
        .cloned()
        .chain(handout.model_error.clone())
        .collect();
    section(pages, "Tested, and foreseen against seen", &tested, 9.5);
    if !handout.fine.is_empty() {
        pages.add(Block::Heading(2, "Looked at and fine".to_owned()));
        pages.add(Block::Text(
            format!("Looked for and not there: {}.", handout.fine.join("; ")),
            plain(9.5),
        ));
    }
    section(pages, "What remains likely", &handout.judged.remains, 9.5);
    section(pages, "To ask a clinician", &handout.judged.refer, 9.5);
    section(pages, "Asked elsewhere", &handout.referred, 9.5);
    section(pages, "For the next bike", &handout.next_bike, 9.5);
    if let Some(estimated) = &handout.estimated_words {
        pages.add(Block::Heading(2, "Estimated, not measured".to_owned()));
        pages.add(Block::Text(estimated.clone(), plain(9.5)));
    }
    let caution = handout.cautions.last().map(ToString::to_string);
    pages.add(Block::Text(caution.unwrap_or_default(), plain(9.5)));
}

/// A trial in one line, with why it was kept.
fn trial(trial: &TrialLine) -> String {
    let words = trial.words.as_ref().map(|words| format!("“{words}”"));
    let after = words.into_iter().chain(trial.why.iter().cloned());
    let told = [format!("{}: {}", trial.title, trial.told)];
    told.into_iter().chain(after).collect::<Vec<_>>().join(" ")
}
