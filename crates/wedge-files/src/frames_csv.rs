//! The frame library as CSV: a name, the kind of riding, and one column a quantity with its unit in the name.

use crate::{FileError, LibraryFrame, table};
use serde::{Deserialize, Serialize};
use std::collections::{BTreeMap, HashSet};
use uuid::Uuid;
use wedge_core::bike::{Frame, Kind};
use wedge_core::measure::{Quantity, Unit};

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
/// What a column of somebody's table of frames is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum ColumnIs {
    /// The frame's name; where two columns are, both, in their order.
    Name,
    /// The kind of riding.
    Kind,
    /// A number of the frame.
    Number(Quantity),
    /// From axle to axle, level: the front centre follows from it.
    Wheelbase,
    /// Nothing that is read.
    Nothing,
}

/// What a table's lengths are in.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum ColumnUnit {
    /// Millimetres, degrees, kilograms.
    #[default]
    Mm,
    /// Centimetres.
    Cm,
    /// Inches.
    Inch,
}

impl ColumnUnit {
    /// How many millimetres one holds.
    fn holds(self) -> f64 {
        match self {
            Self::Mm => 1.0,
            Self::Cm => 10.0,
            Self::Inch => 25.4,
        }
    }
}

/// How a column is read.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct ReadColumn {
    /// As its header has it.
    pub column: String,
    /// What it is.
    pub is: ColumnIs,
    /// What its lengths are in.
    #[serde(default)]
    pub unit: ColumnUnit,
}

/// How somebody's table is read.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct FrameMap {
    /// Its columns, those that say something.
    pub columns: Vec<ReadColumn>,
    /// The kind of every frame in it, where no column has it.
    #[serde(default)]
    pub kind: Kind,
    /// What no column has, and is the same of every frame.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(value_type = BTreeMap<String, f64>))]
    pub same: BTreeMap<Quantity, f64>,
}

/// A value that cannot be read.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RefusedRow {
    /// "line 3, Reach (cm)".
    pub at: String,
    /// What is wrong.
    pub detail: String,
}

/// A table of frames as it is read: nothing of it is kept while anything is refused or missing.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FramesRead {
    /// How it was read: guessed from its header where nobody said.
    pub map: FrameMap,
    /// The frames of the rows that read.
    pub frames: Vec<LibraryFrame>,
    /// What does not.
    pub refused: Vec<RefusedRow>,
    /// What no column has, of what a frame cannot do without.
    pub missing: Vec<Quantity>,
}

impl FramesRead {
    /// Whether all is well.
    pub fn is_whole(&self) -> bool {
        self.refused.is_empty() && self.missing.is_empty() && !self.frames.is_empty()
    }
}

/// How headers call a number, letters and digits alone; its own key and label besides.
const CALLED: [(Quantity, &[&str]); 16] = [
    (Quantity::FrameReach, &["reach"]),
    (Quantity::FrameStack, &["stack"]),
    (
        Quantity::HeadAngle,
        &["headtubeangle", "headangle", "hta", "ha"],
    ),
    (Quantity::HeadTube, &["headtubelength", "headtube", "ht"]),
    (
        Quantity::SeatAngle,
        &["seattubeangle", "seatangle", "sta", "sa"],
    ),
    (Quantity::SeatTube, &["seattubelength", "seattube", "st"]),
    (
        Quantity::Chainstay,
        &[
            "chainstaylength",
            "chainstay",
            "chainstays",
            "rearcentre",
            "rearcenter",
            "cs",
        ],
    ),
    (Quantity::BbDrop, &["bbdrop", "bottombracketdrop", "drop"]),
    (Quantity::FrontCentre, &["frontcentre", "frontcenter", "fc"]),
    (Quantity::WheelRadius, &["wheelradius"]),
    (Quantity::LowerStack, &["lowerheadsetstack", "lowerstack"]),
    (Quantity::Steerer, &["steerer", "steererlength"]),
    (Quantity::Tyre, &["tyre", "tyrewidth", "tire", "tirewidth"]),
    (Quantity::Sag, &["sag", "bbsag"]),
    (Quantity::Standover, &["standover", "standoverheight"]),
    (Quantity::BikeMass, &["mass", "weight", "bikemass"]),
];

/// A header's letters and digits, without its unit.
fn plain_header(header: &str) -> (String, ColumnUnit) {
    let lower = header.to_lowercase();
    let words: Vec<&str> = lower
        .split(|c: char| !c.is_alphanumeric())
        .filter(|word| !word.is_empty())
        .collect();
    let unit = words.iter().find_map(|word| match *word {
        "cm" => Some(ColumnUnit::Cm),
        "in" | "inch" | "inches" => Some(ColumnUnit::Inch),
        _ => None,
    });
    let is_unit = |word: &str| {
        matches!(
            word,
            "mm" | "cm" | "in" | "inch" | "inches" | "deg" | "degrees" | "kg"
        )
    };
    let named = words.into_iter().filter(|word| !is_unit(word));
    (named.collect::<String>(), unit.unwrap_or_default())
}

/// What a column is by its header.
fn guessed(header: &str) -> ReadColumn {
    let (plain, unit) = plain_header(header);
    let called = |(quantity, names): &(Quantity, &[&str])| {
        let own = [quantity.key(), quantity.spec().label].map(|name| plain_header(name).0);
        (names.contains(&plain.as_str()) || own.contains(&plain)).then_some(*quantity)
    };
    let is = match plain.as_str() {
        "name" | "model" | "frame" | "bike" | "size" => ColumnIs::Name,
        "kind" | "type" | "category" | "riding" => ColumnIs::Kind,
        "wheelbase" | "wb" => ColumnIs::Wheelbase,
        _ => CALLED
            .iter()
            .find_map(called)
            .map_or(ColumnIs::Nothing, ColumnIs::Number),
    };
    ReadColumn {
        column: header.to_owned(),
        is,
        unit,
    }
}

/// Reads somebody's table of frames: as told, else as its header is guessed. Every row that does not read is named by line and
/// column; the others are there to look at.
pub fn read_frames_by(
    text: &str,
    map: Option<&FrameMap>,
    mut new_id: impl FnMut() -> Uuid,
) -> Result<FramesRead, FileError> {
    let (header, lines) = table::lines(text)?;
    let map = map.cloned().unwrap_or_else(|| FrameMap {
        columns: header.iter().map(guessed).collect(),
        ..FrameMap::default()
    });
    if let Some(none) = map
        .columns
        .iter()
        .find(|of| !header.iter().any(|name| name == of.column))
    {
        return Err(FileError::new(
            "line 1",
            format!("there is no column “{}”", none.column),
        ));
    }
    let has = |quantity: &Quantity| {
        let by_wheelbase = *quantity == Quantity::FrontCentre;
        map.same.contains_key(quantity)
            || map.columns.iter().any(|of| {
                of.is == ColumnIs::Number(*quantity) || by_wheelbase && of.is == ColumnIs::Wheelbase
            })
    };
    let missing: Vec<Quantity> = columns()
        .filter(|of| !of.spec().optional && !has(of))
        .collect();
    let mut read = FramesRead {
        frames: Vec::new(),
        refused: Vec::new(),
        missing,
        map,
    };
    let mut names = HashSet::new();
    for line in lines {
        let frame = line
            .and_then(|line| {
                // What is missing is asked for once, not of every row.
                if read.missing.is_empty() {
                    frame_by(&read.map, &line).map(Some)
                } else {
                    Ok(None)
                }
            })
            .and_then(|frame| match frame {
                Some((at, name, ..)) if !names.insert(name.to_lowercase()) => {
                    Err(FileError::new(at, format!("“{name}” stands twice")))
                }
                frame => Ok(frame),
            });
        match frame {
            Ok(None) => {}
            Ok(Some((_, name, kind, frame))) => read.frames.push(LibraryFrame {
                id: new_id(),
                name,
                kind,
                frame,
            }),
            Err(error) => read.refused.push(RefusedRow {
                at: error.path,
                detail: error.message,
            }),
        }
    }
    if read.frames.is_empty() && read.refused.is_empty() && read.missing.is_empty() {
        return Err(FileError::new(".", "there is no frame in it"));
    }
    Ok(read)
}

/// Where its name stands, its name, its kind and its numbers.
type NamedFrame = (String, String, Kind, Frame);

/// A row by a map.
fn frame_by(map: &FrameMap, line: &table::Line) -> Result<NamedFrame, FileError> {
    let of = |is: ColumnIs| map.columns.iter().filter(move |of| of.is == is);
    let named: Vec<&str> = of(ColumnIs::Name)
        .filter_map(|of| line.cell(&of.column))
        .collect();
    let first = of(ColumnIs::Name)
        .next()
        .map_or("name", |of| of.column.as_str());
    let at = line.at(first);
    let name = named.join(" ");
    if name.is_empty() {
        return Err(FileError::new(at, "a frame has a name"));
    }
    let kind = match of(ColumnIs::Kind).next() {
        None => map.kind,
        Some(of) => line.cell(&of.column).map_or(Ok(map.kind), |text| {
            let known = Kind::ALL.into_iter().find(|kind| {
                word(*kind).eq_ignore_ascii_case(text) || kind.word().eq_ignore_ascii_case(text)
            });
            let kinds: Vec<String> = Kind::ALL.into_iter().map(word).collect();
            known.ok_or_else(|| {
                FileError::new(line.at(&of.column), format!("one of {}", kinds.join(", ")))
            })
        })?,
    };
    let number = |of: &ReadColumn| -> Result<Option<f64>, FileError> {
        let Some(text) = line.cell(&of.column) else {
            return Ok(None);
        };
        let value = table::number(text);
        value
            .map(Some)
            .ok_or_else(|| FileError::new(line.at(&of.column), format!("“{text}” is not a number")))
    };
    let mut values: BTreeMap<Quantity, f64> = map.same.clone();
    let mut stand: BTreeMap<Quantity, String> = BTreeMap::new();
    for column in &map.columns {
        let ColumnIs::Number(quantity) = column.is else {
            continue;
        };
        if let Some(value) = number(column)? {
            let scale = if quantity.spec().unit == Unit::Mm {
                column.unit.holds()
            } else {
                1.0
            };
            let scaled = (value * scale * 1000.0).round() / 1000.0;
            values.insert(quantity, scaled);
            stand.insert(quantity, column.column.clone());
        }
    }
    if let Some(column) = of(ColumnIs::Wheelbase).next()
        && !values.contains_key(&Quantity::FrontCentre)
        && let Some(base) = number(column)?
        && let Some((stay, drop)) = values
            .get(&Quantity::Chainstay)
            .zip(values.get(&Quantity::BbDrop))
    {
        // Level between the axles, less the rear axle's place behind the BB.
        let rear = (stay * stay - drop * drop).max(0.0).sqrt();
        let ahead = base * column.unit.holds() - rear;
        values.insert(
            Quantity::FrontCentre,
            (ahead.hypot(*drop) * 10.0).round() / 10.0,
        );
        stand.insert(Quantity::FrontCentre, column.column.clone());
    }
    let at_of = |quantity: Quantity| {
        let column = stand
            .get(&quantity)
            .map_or(quantity.spec().label, String::as_str);
        line.at(column)
    };
    let mut json = serde_json::Map::new();
    for quantity in columns() {
        match values.get(&quantity) {
            None if quantity.spec().optional => {}
            None => {
                let label = quantity.spec().label.to_lowercase();
                return Err(FileError::new(
                    at_of(quantity),
                    format!("{label} is missing"),
                ));
            }
            Some(value) => {
                if let Some(refusal) = quantity.refuse(*value, "") {
                    return Err(FileError::new(at_of(quantity), refusal.detail));
                }
                json.insert(quantity.key().to_owned(), (*value).into());
            }
        }
    }
    let frame = serde_json::from_value(json.into())
        .map_err(|error| FileError::new(at.clone(), error.to_string()))?;
    Ok((at, name, kind, frame))
}
