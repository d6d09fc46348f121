//! The frame library as CSV: a name, the kind of riding, and one column a quantity with its unit in the name.

use crate::{FileError, LibraryFrame, table};
use std::collections::HashSet;
use uuid::Uuid;
use wedge_core::bike::{Frame, Kind};
use wedge_core::measure::Quantity;

/// The frames as CSV, a header and a line each.
pub fn write_frames(frames: &[LibraryFrame]) -> Result<String, FileError> {
    let header: Vec<&str> = header();
    let record = |frame: &LibraryFrame| {
        let values = columns().map(|quantity| {
            (frame.frame.get(quantity)).map_or_else(String::new, |value| value.to_string())
        });
        [frame.name.clone(), word(frame.kind)]
            .into_iter()
            .chain(values)
            .collect()
    };
    table::write(&header, frames.iter().map(record))
}

/// The columns by name.
fn header() -> Vec<&'static str> {
    ["name", "kind"]
        .into_iter()
        .chain(columns().map(Quantity::key))
        .collect()
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
    let mut frames = Vec::new();
    let mut names = HashSet::new();
    for line in table::read(text, &header())? {
        let line = line?;
        let at = |column: &str| line.at(column);
        let cell = |column: &str| line.cell(column);
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
            Some(text) => table::number(text)
                .ok_or_else(|| FileError::new(at(key), format!("“{text}” is not a number")))?,
        };
        if let Some(refusal) = quantity.refuse(value, "") {
            return Err(FileError::new(at(key), refusal.detail));
        }
        values.insert(key.to_owned(), value.into());
    }
    serde_json::from_value(values.into())
        .map_err(|error| FileError::new(at("name"), error.to_string()))
}
