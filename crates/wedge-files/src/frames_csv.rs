//! The frame library as CSV: a name, the kind of riding, and one column a quantity with its unit in the name.

use crate::{FileError, LibraryFrame};
use std::collections::HashSet;
use std::str::FromStr;
use uuid::Uuid;
use wedge_core::bike::{Frame, Kind};
use wedge_core::measure::Quantity;

/// The frames as CSV, a header and a line each.
pub fn write_frames(frames: &[LibraryFrame]) -> Result<String, FileError> {
    let failed = |error: csv::Error| FileError::new(".", error.to_string());
    let mut writer = csv::Writer::from_writer(Vec::new());
    let header = ["name", "kind"]
        .into_iter()
        .chain(columns().map(Quantity::key));
    writer.write_record(header).map_err(failed)?;
    for frame in frames {
        let values = columns().map(|quantity| {
            (frame.frame.get(quantity)).map_or_else(String::new, |value| value.to_string())
        });
        let record = [frame.name.clone(), word(frame.kind)]
            .into_iter()
            .chain(values);
        writer.write_record(record).map_err(failed)?;
    }
    let bytes = writer
        .into_inner()
        .map_err(|error| FileError::new(".", error.to_string()))?;
    String::from_utf8(bytes).map_err(|error| FileError::new(".", error.to_string()))
}

fn columns() -> impl Iterator<Item = Quantity> {
    Frame::QUANTITIES.iter().copied()
}

/// The kind's key, as in JSON.
fn word(kind: Kind) -> String {
    serde_json::to_value(kind)
        .ok()
        .and_then(|value| value.as_str().map(str::to_owned))
        .unwrap_or_default()
}

/// Reads frames: all of the file or nothing. What is wrong is named by line and column.
///
/// Columns stand in any order; those of quantities a frame can do without may be missing, others are refused by name.
/// A decimal comma is read as well, and a semicolon between columns where the header has one.
pub fn read_frames(
    text: &str,
    mut new_id: impl FnMut() -> Uuid,
) -> Result<Vec<LibraryFrame>, FileError> {
    let text = text.trim_start_matches('\u{feff}');
    let semicolons = text
        .lines()
        .next()
        .is_some_and(|header| header.contains(';'));
    let mut reader = csv::ReaderBuilder::new()
        .delimiter(if semicolons { b';' } else { b',' })
        .trim(csv::Trim::All)
        .from_reader(text.as_bytes());
    let header = reader
        .headers()
        .map_err(|error| FileError::new("line 1", error.to_string()))?
        .clone();
    let wanted: Vec<&str> = ["name", "kind"]
        .into_iter()
        .chain(columns().map(Quantity::key))
        .collect();
    for name in &header {
        if !wanted.contains(&name) {
            return Err(FileError::new(
                format!("line 1, {name}"),
                format!("no such column: there are {}", wanted.join(", ")),
            ));
        }
    }
    let mut frames = Vec::new();
    let mut names = HashSet::new();
    for record in reader.records() {
        let record = record.map_err(|error| {
            let line = error.position().map_or(0, csv::Position::line);
            FileError::new(
                format!("line {line}"),
                "as many values as the header has columns",
            )
        })?;
        let line = record.position().map_or(0, csv::Position::line);
        let at = |column: &str| format!("line {line}, {column}");
        let cell = |column: &str| {
            header
                .iter()
                .position(|name| name == column)
                .and_then(|place| record.get(place))
                .filter(|text| !text.is_empty())
        };
        let name = cell("name")
            .ok_or_else(|| FileError::new(at("name"), "a frame has a name"))?
            .to_owned();
        if !names.insert(name.to_lowercase()) {
            return Err(FileError::new(at("name"), format!("“{name}” stands twice")));
        }
        let kind = cell("kind").unwrap_or("road");
        let kind: Kind = serde_json::from_value(kind.into()).map_err(|_| {
            let kinds: Vec<String> = Kind::ALL.into_iter().map(word).collect();
            FileError::new(at("kind"), format!("one of {}", kinds.join(", ")))
        })?;
        frames.push(LibraryFrame {
            id: new_id(),
            name,
            kind,
            frame: frame(&at, &cell)?,
        });
    }
    if frames.is_empty() {
        return Err(FileError::new(".", "there is no frame in it"));
    }
    Ok(frames)
}

/// The geometry of one line.
fn frame<'a>(
    at: &dyn Fn(&str) -> String,
    cell: &dyn Fn(&str) -> Option<&'a str>,
) -> Result<Frame, FileError> {
    let mut values = serde_json::Map::new();
    for quantity in columns() {
        let key = quantity.key();
        let value = match cell(key) {
            None if quantity.spec().optional => continue,
            None => {
                return Err(FileError::new(
                    at(key),
                    format!("{} is missing", quantity.spec().label.to_lowercase()),
                ));
            }
            Some(text) => f64::from_str(&text.replace(',', "."))
                .map_err(|_| FileError::new(at(key), format!("“{text}” is not a number")))?,
        };
        if let Some(refusal) = quantity.refuse(value, "") {
            return Err(FileError::new(at(key), refusal.detail));
        }
        values.insert(key.to_owned(), value.into());
    }
    serde_json::from_value(values.into())
        .map_err(|error| FileError::new(at("name"), error.to_string()))
}
