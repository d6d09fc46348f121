//! The rider's ledger as a file: `wedge.ledger/1`, what a card gives back, also pasted out of a message.

use crate::check::refuse;
use crate::format::{FileError, parse, typed, write};
use crate::record::LedgerRide;
use serde::{Deserialize, Serialize};
use std::collections::BTreeSet;
use uuid::Uuid;

/// The line that says what a file is.
const FORMAT: &str = "wedge.ledger/1";
/// The most rides of a ledger.
const MOST_RIDES: usize = 3000;

/// Rides between visits.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct LedgerFile {
    /// `wedge.ledger/1`.
    pub format: String,
    /// The fit the card is of.
    pub fit: Uuid,
    /// Its rides.
    pub rides: Vec<LedgerRide>,
}

impl LedgerFile {
    /// A file of these rides.
    pub fn new(fit: Uuid, rides: Vec<LedgerRide>) -> Self {
        Self {
            format: FORMAT.to_owned(),
            fit,
            rides,
        }
    }

    /// Reads a file, or a message it was pasted out of, and checks that every value can be right. Nothing of a bad one is kept.
    pub fn read(text: &str) -> Result<Self, FileError> {
        let mut read = parse(text);
        if read.is_err()
            && let Some(unwrapped) = out_of_a_message(text)
        {
            read = parse(&unwrapped);
        }
        let file: Self = typed(FORMAT, read?)?;
        if file.rides.len() > MOST_RIDES {
            let words = format!("{MOST_RIDES} rides are the most");
            return Err(FileError::new("rides", words));
        }
        let mut known = BTreeSet::new();
        for (index, ride) in file.rides.iter().enumerate() {
            refuse(&format!("rides[{index}]"), ride.refusals(""))?;
            if !known.insert(ride.id) {
                let path = format!("rides[{index}].id");
                return Err(FileError::new(path, "this ride is there twice"));
            }
        }
        Ok(file)
    }

    /// The file's text, indented, with a newline at the end.
    pub fn write(&self) -> Result<String, FileError> {
        write(self)
    }
}

/// What stands between the first and the last brace of a message, as it was before programs of mail put marks of quotation
/// before its lines and bent its quotes; none where there are no braces.
fn out_of_a_message(text: &str) -> Option<String> {
    let lines: Vec<&str> = (text.lines())
        .map(|line| line.trim_start_matches(['>', ' ', '\t', '\u{a0}']))
        .collect();
    let text = lines.join("\n");
    let (from, to) = text.find('{').zip(text.rfind('}'))?;
    let inside = text.get(from..=to)?;
    // A message without a straight quote had all of them bent.
    let bent = |c: char| matches!(c, '“' | '”' | '„' | '«' | '»');
    Some(if inside.contains('"') {
        inside.replace('\u{a0}', " ")
    } else {
        inside.replace(bent, "\"").replace('\u{a0}', " ")
    })
}
