//! Markers over time as TRC: tab-separated text, a place a marker a frame.

use crate::FileError;
use std::fmt::Write as _;
use wedge_core::capture::{MarkerUnit, Track, Tracks};

/// The most frames a take may have: ten minutes at 200 a second.
pub(crate) const MOST_FRAMES: usize = 120_000;
/// The most markers.
pub(crate) const MOST_MARKERS: usize = 200;

/// Reads a file of markers, TRC or C3D, by what it begins with.
pub fn read_markers(bytes: &[u8]) -> Result<Tracks, FileError> {
    if bytes.is_empty() {
        return Err(FileError::new(".", "the file is empty"));
    }
    if bytes.starts_with(b"%PDF") {
        return Err(FileError::new(
            ".",
            "this is a PDF, neither a TRC nor a C3D file",
        ));
    }
    if bytes.get(1) == Some(&0x50) && !bytes.starts_with(b"PathFileType") {
        return crate::read_c3d(bytes);
    }
    match std::str::from_utf8(bytes) {
        Ok(text) => read_trc(text),
        Err(_) => Err(FileError::new(".", "this is neither a TRC nor a C3D file")),
    }
}

/// Reads a TRC file: all of it or nothing. What is wrong is named by row and column.
///
/// Lines may end in LF or CRLF and in more tabs than they need; time may begin anywhere. An empty cell, `NaN` and `0 0 0` are
/// a marker that was not seen.
pub fn read_trc(text: &str) -> Result<Tracks, FileError> {
    let text = text.trim_start_matches('\u{feff}');
    let rows: Vec<&str> = text
        .split('\n')
        .map(|row| row.trim_end_matches('\r'))
        .collect();
    if !rows
        .first()
        .is_some_and(|row| row.starts_with("PathFileType"))
    {
        return Err(FileError::new(
            "row 1",
            "a TRC file begins with PathFileType",
        ));
    }
    let head = Head::read(&rows)?;
    let names = names(&rows, head.markers)?;
    let mut markers: Vec<Track> = names
        .into_iter()
        .map(|name| Track {
            name,
            places: Vec::with_capacity(head.frames),
        })
        .collect();
    let mut times: Vec<f64> = Vec::with_capacity(head.frames);
    for (index, row) in rows.iter().enumerate().skip(5) {
        let cells: Vec<&str> = row.split('\t').map(str::trim).collect();
        if cells.iter().all(|cell| cell.is_empty()) {
            continue;
        }
        let row = index + 1;
        let wanted = 2 + 3 * markers.len();
        if cells.iter().skip(wanted).any(|cell| !cell.is_empty()) {
            return Err(FileError::new(
                format!("row {row}"),
                format!("more than {wanted} columns"),
            ));
        }
        let time = number(cells.get(1).copied().unwrap_or_default(), row, 2)?
            .ok_or_else(|| FileError::new(format!("row {row}, column 2"), "a time is missing"))?;
        if times.last().is_some_and(|last| time <= *last) {
            return Err(FileError::new(
                format!("row {row}, column 2"),
                "time does not go on",
            ));
        }
        if times.len() == MOST_FRAMES {
            return Err(FileError::new(
                format!("row {row}"),
                format!("more than {MOST_FRAMES} frames"),
            ));
        }
        times.push(time);
        // The last row of a file that was cut off ends early.
        if cells.len() < wanted && index + 1 == rows.len() && cells.len() > 2 {
            let words = format!("the file is cut off: {} of {wanted} columns", cells.len());
            return Err(FileError::new(format!("row {row}"), words));
        }
        for (at, marker) in markers.iter_mut().enumerate() {
            let mut place = [0.0; 3];
            let mut seen = true;
            for (axis, value) in place.iter_mut().enumerate() {
                let column = 2 + 3 * at + axis;
                match number(
                    cells.get(column).copied().unwrap_or_default(),
                    row,
                    column + 1,
                )? {
                    Some(read) => *value = read,
                    None => seen = false,
                }
            }
            let nowhere = place.iter().all(|value| value.abs() < 1e-12);
            marker.places.push((seen && !nowhere).then_some(place));
        }
    }
    if times.is_empty() {
        return Err(FileError::new("row 6", "there is no frame in it"));
    }
    if times.len() < head.frames {
        let words = format!(
            "the file is cut off: {} of {} frames",
            times.len(),
            head.frames
        );
        return Err(FileError::new(format!("row {}", rows.len()), words));
    }
    Ok(Tracks {
        rate_hz: head.rate_hz,
        times,
        unit: head.unit,
        markers,
    })
}

/// A cell's number; none where nothing was seen.
fn number(cell: &str, row: usize, column: usize) -> Result<Option<f64>, FileError> {
    if cell.is_empty() || cell.eq_ignore_ascii_case("nan") {
        return Ok(None);
    }
    let at = || format!("row {row}, column {column}");
    match cell.parse::<f64>() {
        Ok(value) if value.is_finite() && value.abs() < 1e7 => Ok(Some(value)),
        Ok(_) => Err(FileError::new(at(), format!("“{cell}” is no place"))),
        Err(_) if cell.contains(',') => Err(FileError::new(
            at(),
            format!("“{cell}”: a TRC file has decimal points, not commas"),
        )),
        Err(_) => Err(FileError::new(
            at(),
            format!("“{}” is not a number", short(cell)),
        )),
    }
}

fn short(text: &str) -> String {
    text.chars().take(24).collect()
}

struct Head {
    rate_hz: f64,
    frames: usize,
    markers: usize,
    unit: Option<MarkerUnit>,
}

impl Head {
    fn read(rows: &[&str]) -> Result<Self, FileError> {
        let keys: Vec<&str> = rows
            .get(1)
            .copied()
            .unwrap_or_default()
            .split('\t')
            .map(str::trim)
            .collect();
        let values: Vec<&str> = rows
            .get(2)
            .copied()
            .unwrap_or_default()
            .split('\t')
            .map(str::trim)
            .collect();
        let of = |key: &str| {
            let at = keys.iter().position(|own| own.eq_ignore_ascii_case(key));
            let value = at
                .and_then(|at| values.get(at))
                .copied()
                .filter(|value| !value.is_empty());
            value.ok_or_else(|| FileError::new("row 3", format!("{key} is missing")))
        };
        let count = |key: &str| {
            let text = of(key)?;
            // Some programs write whole numbers with decimals.
            let read = text
                .parse::<f64>()
                .ok()
                .filter(|value| (0.0..1e7).contains(value) && value.fract() == 0.0);
            #[expect(
                clippy::cast_possible_truncation,
                clippy::cast_sign_loss,
                reason = "whole, and within bounds"
            )]
            read.map(|value| value as usize).ok_or_else(|| {
                FileError::new(
                    format!("row 3, {key}"),
                    format!("“{}” is no number of them", short(text)),
                )
            })
        };
        let rate = of("DataRate")?;
        let rate_hz = rate
            .parse::<f64>()
            .ok()
            .filter(|rate| (1.0..=2000.0).contains(rate));
        let rate_hz = rate_hz.ok_or_else(|| {
            FileError::new(
                "row 3, DataRate",
                format!("“{}” is no rate: 1 to 2000 a second", short(rate)),
            )
        })?;
        let (frames, markers) = (count("NumFrames")?, count("NumMarkers")?);
        if markers == 0 || markers > MOST_MARKERS {
            return Err(FileError::new(
                "row 3, NumMarkers",
                format!("1 to {MOST_MARKERS} markers"),
            ));
        }
        if frames > MOST_FRAMES {
            return Err(FileError::new(
                "row 3, NumFrames",
                format!("at most {MOST_FRAMES} frames"),
            ));
        }
        let unit = of("Units").ok().and_then(|unit| {
            let unit = unit.to_ascii_lowercase();
            MarkerUnit::ALL
                .iter()
                .copied()
                .find(|own| own.label() == unit)
        });
        Ok(Self {
            rate_hz,
            frames,
            markers,
            unit,
        })
    }
}

/// The names of row 4, each over three columns.
fn names(rows: &[&str], wanted: usize) -> Result<Vec<String>, FileError> {
    let row = rows.get(3).copied().unwrap_or_default();
    let cells: Vec<&str> = row.split('\t').map(str::trim).collect();
    let read: Vec<String> = cells
        .iter()
        .skip(2)
        .step_by(3)
        .map(|name| (*name).to_owned())
        .take_while(|name| !name.is_empty())
        .collect();
    if read.len() != wanted {
        let words = format!(
            "{} names for {wanted} markers, each over three columns",
            read.len()
        );
        return Err(FileError::new("row 4", words));
    }
    for (at, name) in read.iter().enumerate() {
        if name.chars().count() > 100 {
            return Err(FileError::new(
                format!("row 4, column {}", 3 + 3 * at),
                "a name over 100 letters",
            ));
        }
        if read[..at].contains(name) {
            return Err(FileError::new(
                format!("row 4, column {}", 3 + 3 * at),
                format!("“{name}” stands twice"),
            ));
        }
    }
    Ok(read)
}

/// Markers as TRC, to a thousandth of their unit; what was not seen stays empty.
pub fn write_trc(tracks: &Tracks, name: &str) -> String {
    let unit = tracks.unit.map_or("mm", MarkerUnit::label);
    let (frames, rate) = (tracks.times.len(), tracks.rate_hz);
    let mut text = format!(
        "PathFileType\t4\t(X/Y/Z)\t{}\nDataRate\tCameraRate\tNumFrames\tNumMarkers\tUnits\tOrigDataRate\tOrigDataStartFrame\tOrigNumFrames\n\
         {rate:.3}\t{rate:.3}\t{frames}\t{}\t{unit}\t{rate:.3}\t1\t{frames}\nFrame#\tTime",
        name.replace(['\t', '\n', '\r'], " "),
        tracks.markers.len(),
    );
    for marker in &tracks.markers {
        let _ = write!(
            text,
            "\t{}\t\t",
            marker.name.replace(['\t', '\n', '\r'], " ")
        );
    }
    text.push_str("\n\t");
    for at in 1..=tracks.markers.len() {
        let _ = write!(text, "\tX{at}\tY{at}\tZ{at}");
    }
    text.push_str("\n\n");
    for (frame, time) in tracks.times.iter().enumerate() {
        let _ = write!(text, "{}\t{time:.6}", frame + 1);
        for marker in &tracks.markers {
            match marker.places[frame] {
                Some([x, y, z]) => {
                    let _ = write!(text, "\t{x:.4}\t{y:.4}\t{z:.4}");
                }
                None => text.push_str("\t\t\t"),
            }
        }
        text.push('\n');
    }
    text
}
