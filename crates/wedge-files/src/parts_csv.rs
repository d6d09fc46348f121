//! The parts box as CSV, `wedge.parts/1`: a line a part, and one column a size with its unit in the name.
//!
//! Columns: `kind` (stem, spacer, bar, `pad_spacer`, post, saddle, crank), `name`, `on_hand` (how many; 0 can be ordered),
//! `flips` (yes, no: a stem mounted either way up), `torque_nm` (as printed), and the sizes by their keys
//! (`stem_mm`, `stem_angle_deg`, `spacer_mm`, `bar_reach_mm` and so on). What a kind has no use for stays empty.

use crate::FileError;
use crate::table::{self, Line};
use std::collections::BTreeMap;
use wedge_core::bike::{Part, PartKind};
use wedge_core::measure::Quantity;

const PLAIN: [&str; 5] = ["kind", "name", "on_hand", "flips", "torque_nm"];

/// The sizes a part can have, each once.
fn sizes() -> Vec<Quantity> {
    let mut all = Vec::new();
    for kind in PartKind::ALL {
        let (needed, known) = kind.sizes();
        for quantity in needed.iter().chain(known) {
            if !all.contains(quantity) {
                all.push(*quantity);
            }
        }
    }
    all
}

/// The parts as CSV, a header and a line each.
pub fn write_parts(parts: &[Part]) -> Result<String, FileError> {
    let record = |part: &Part| {
        let value = |number: Option<f64>| number.map_or_else(String::new, |n| n.to_string());
        let plain = [
            part.kind.key().to_owned(),
            part.name.clone(),
            part.on_hand.to_string(),
            if part.flips { "yes" } else { "no" }.to_owned(),
            value(part.torque_nm),
        ];
        plain
            .into_iter()
            .chain(sizes().into_iter().map(|q| value(part.size(q))))
            .collect()
    };
    table::write(&header(), parts.iter().map(record))
}

/// The columns by name.
fn header() -> Vec<&'static str> {
    PLAIN
        .into_iter()
        .chain(sizes().into_iter().map(Quantity::key))
        .collect()
}

/// Reads parts: all of the file or nothing. Every bad line is named with its column.
///
/// Columns stand in any order and may be missing where no part has them; a decimal comma is read as well, and a semicolon
/// between columns where the header has one.
pub fn read_parts(text: &str) -> Result<Vec<Part>, FileError> {
    let mut parts = Vec::new();
    let mut wrong: Vec<FileError> = Vec::new();
    for line in table::read(text, &header())? {
        match line
            .map_err(|error| vec![error])
            .and_then(|line| part(&line))
        {
            Ok(part) => parts.push(part),
            Err(errors) => wrong.extend(errors),
        }
    }
    match wrong.split_first() {
        None if parts.is_empty() => Err(FileError::new(".", "there is no part in it")),
        None => Ok(parts),
        Some((first, others)) => Err(FileError::new(
            first.path.clone(),
            (others.iter()).fold(first.message.clone(), |said, error| {
                format!("{said}; {}: {}", error.path, error.message)
            }),
        )),
    }
}

/// One line's part, or everything wrong with it.
fn part(line: &Line) -> Result<Part, Vec<FileError>> {
    let at = |column: &str| line.at(column);
    let cell = |column: &str| line.cell(column);
    let mut wrong = Vec::new();
    let kind = cell("kind").unwrap_or_default();
    let Some(kind) = PartKind::ALL.iter().find(|known| known.key() == kind) else {
        let kinds: Vec<&str> = PartKind::ALL.iter().map(|kind| kind.key()).collect();
        return Err(vec![FileError::new(
            at("kind"),
            format!("one of {}", kinds.join(", ")),
        )]);
    };
    let number = |column: &str, wrong: &mut Vec<FileError>| {
        let text = cell(column)?;
        let read = table::number(text);
        if read.is_none() {
            wrong.push(FileError::new(
                at(column),
                format!("“{text}” is not a number"),
            ));
        }
        read
    };
    let on_hand = match cell("on_hand").map(str::parse::<u32>) {
        None => 0,
        Some(Ok(count)) => count,
        Some(Err(_)) => {
            wrong.push(FileError::new(
                at("on_hand"),
                "a whole number, 0 where it can be ordered",
            ));
            0
        }
    };
    let flips = match cell("flips").map(str::to_lowercase).as_deref() {
        None => *kind == PartKind::Stem,
        Some("yes" | "true" | "1") => true,
        Some("no" | "false" | "0") => false,
        Some(_) => {
            wrong.push(FileError::new(at("flips"), "yes or no"));
            false
        }
    };
    let mut found = BTreeMap::new();
    for quantity in sizes() {
        if let Some(value) = number(quantity.key(), &mut wrong) {
            found.insert(quantity, value);
        }
    }
    let part = Part {
        kind: *kind,
        name: cell("name").unwrap_or_default().to_owned(),
        on_hand,
        sizes: found,
        flips,
        torque_nm: number("torque_nm", &mut wrong),
    };
    if wrong.is_empty() {
        let column = |pointer: &str| pointer.rsplit('/').next().unwrap_or_default().to_owned();
        wrong.extend(
            (part.refusals("").into_iter())
                .map(|refusal| FileError::new(at(&column(&refusal.pointer)), refusal.detail)),
        );
    }
    if wrong.is_empty() {
        Ok(part)
    } else {
        Err(wrong)
    }
}
