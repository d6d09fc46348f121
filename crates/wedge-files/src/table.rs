//! What every CSV has in common: a header whose columns are known, a line a record, every value named by line and column.

use crate::FileError;
use csv::{ReaderBuilder, StringRecord, Trim, Writer};

/// A table as CSV, its header first.
pub(crate) fn write(
    header: &[&str],
    records: impl IntoIterator<Item = Vec<String>>,
) -> Result<String, FileError> {
    let failed = |error: csv::Error| FileError::new(".", error.to_string());
    let mut writer = Writer::from_writer(Vec::new());
    writer.write_record(header).map_err(failed)?;
    for record in records {
        let record = record.into_iter().map(as_text);
        writer.write_record(record).map_err(failed)?;
    }
    let bytes = writer
        .into_inner()
        .map_err(|error| FileError::new(".", error.to_string()))?;
    String::from_utf8(bytes).map_err(|error| FileError::new(".", error.to_string()))
}

/// What spreadsheets take for a formula when a cell begins with it, and the mark that says it is text.
const RUN: [char; 7] = ['=', '+', '-', '@', '\t', '\r', '\''];

/// A cell no spreadsheet runs: one that is not a number and would be has an apostrophe before it, as typed there by hand.
fn as_text(cell: String) -> String {
    if cell.starts_with(RUN) && number(&cell).is_none() {
        format!("'{cell}")
    } else {
        cell
    }
}

/// A cell as it was before.
fn as_written(cell: &str) -> &str {
    match cell.strip_prefix('\'') {
        Some(text) if text.starts_with(RUN) => text,
        _ => cell,
    }
}

/// A line of a table that was read.
pub(crate) struct Line {
    header: StringRecord,
    record: StringRecord,
}

impl Line {
    /// A value; none where the column is missing or the value left out.
    pub(crate) fn cell(&self, column: &str) -> Option<&str> {
        (self.header.iter().position(|name| name == column))
            .and_then(|place| self.record.get(place))
            .map(as_written)
            .filter(|text| !text.is_empty())
    }

    /// Where a value stands: "line 3, name".
    pub(crate) fn at(&self, column: &str) -> String {
        let line = self.record.position().map_or(0, csv::Position::line);
        format!("line {line}, {column}")
    }
}

/// Reads a table of which only these columns are known, line by line. A line that cannot be read is an error of its own.
///
/// Columns stand in any order; a byte order mark before the header is no part of it, and a semicolon stands between
/// columns where the header has one.
pub(crate) fn read(
    text: &str,
    columns: &[&str],
) -> Result<Vec<Result<Line, FileError>>, FileError> {
    let (header, lines) = lines(text)?;
    match header.iter().find(|name| !columns.contains(name)) {
        None => Ok(lines),
        Some(name) => Err(FileError::new(
            format!("line 1, {name}"),
            format!("no such column: there are {}", columns.join(", ")),
        )),
    }
}

/// The same of any columns, with the header they stand in.
pub(crate) fn lines(text: &str) -> Result<(StringRecord, Vec<Result<Line, FileError>>), FileError> {
    let text = text.trim_start_matches('\u{feff}');
    let semicolons = text
        .lines()
        .next()
        .is_some_and(|header| header.contains(';'));
    let mut reader = ReaderBuilder::new()
        .delimiter(if semicolons { b';' } else { b',' })
        .trim(Trim::All)
        .from_reader(text.as_bytes());
    let header = reader
        .headers()
        .map_err(|error| FileError::new("line 1", error.to_string()))?
        .clone();
    let line = |record: Result<StringRecord, csv::Error>| match record {
        Ok(record) => Ok(Line {
            header: header.clone(),
            record,
        }),
        Err(error) => {
            let line = error.position().map_or(0, csv::Position::line);
            Err(FileError::new(
                format!("line {line}"),
                "as many values as the header has columns",
            ))
        }
    };
    let lines = reader.records().map(line).collect();
    Ok((header, lines))
}

/// A number, with a decimal point or comma.
pub(crate) fn number(text: &str) -> Option<f64> {
    text.replace(',', ".").parse().ok()
}
