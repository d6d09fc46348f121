//! What a ride computer recorded: TCX, GPX with power, and CSV, read for minutes, power and cadence.

use crate::FileError;
use crate::table::{self, number};
use jiff::Timestamp;
use jiff::civil::{Date, DateTime};
use jiff::tz::TimeZone;
use roxmltree::{Document, Node};

/// A ride as it was recorded.
#[derive(Debug, Clone, PartialEq)]
pub struct Recorded {
    /// The day it began.
    pub on: Date,
    /// How long the wheels turned: from point to point, without stops.
    pub minutes: f64,
    /// Mean power over that time, coasting and all, W.
    pub power_w: Option<f64>,
    /// Mean cadence while pedalling, rpm.
    pub cadence_rpm: Option<f64>,
    /// How many readings were out of any range, and were left out.
    pub left_out: usize,
}

/// Points further apart than this, in seconds, have a stop between them.
const STOP_S: f64 = 60.0;
/// The most power and cadence anybody has.
const MOST_W: f64 = 2500.0;
const MOST_RPM: f64 = 250.0;

/// A point of a recording.
#[derive(Debug, Clone, Copy)]
struct Point {
    /// Seconds from any moment.
    at: f64,
    power: Option<f64>,
    cadence: Option<f64>,
}

/// Reads a file by what it is: every ride in it. A day is told where the studio's clock hangs; `day` is that of a CSV that
/// counts only seconds.
pub fn read_recorded(
    text: &str,
    zone: &TimeZone,
    day: Option<Date>,
) -> Result<Vec<Recorded>, FileError> {
    let text = text.trim_start_matches('\u{feff}');
    if !text.trim_start().starts_with('<') {
        return Ok(vec![csv(text, zone, day)?]);
    }
    let document = Document::parse(text)
        .map_err(|error| FileError::new(format!("line {}", error.pos().row), error.to_string()))?;
    let root = document.root_element();
    let (ride, point) = match root.tag_name().name() {
        "TrainingCenterDatabase" => ("Activity", "Trackpoint"),
        "gpx" => ("trk", "trkpt"),
        other => {
            let words = format!("neither TCX nor GPX, but {other}");
            return Err(FileError::new("line 1", words));
        }
    };
    let mut all = Vec::new();
    for ride in named(root, ride) {
        let points: Vec<Point> = named(ride, point)
            .filter_map(|node| xml_point(node, &document).transpose())
            .collect::<Result<_, _>>()?;
        let first = points.first().ok_or_else(|| {
            FileError::new(
                line(ride, &document),
                "a ride without a point that has a time",
            )
        })?;
        let on = day_of(first.at, zone).unwrap_or_default();
        all.push(recorded(on, &points));
    }
    if all.is_empty() {
        return Err(FileError::new(".", "there is no ride in it"));
    }
    Ok(all)
}

fn named<'a, 'i: 'a>(
    within: Node<'a, 'i>,
    name: &'static str,
) -> impl Iterator<Item = Node<'a, 'i>> {
    within
        .descendants()
        .filter(move |node| node.tag_name().name() == name)
}

fn line(node: Node, document: &Document) -> String {
    format!("line {}", document.text_pos_at(node.range().start).row)
}

/// A point with its time; none of one that has no time.
fn xml_point(node: Node, document: &Document) -> Result<Option<Point>, FileError> {
    let value = |names: &[&str]| -> Result<Option<f64>, FileError> {
        let found = node.descendants().find(|inner| {
            inner.is_element() && names.iter().any(|name| inner.tag_name().name() == *name)
        });
        let Some(found) = found else { return Ok(None) };
        // TCX wraps its cadence once more in some places.
        let text = found.text().unwrap_or_default().trim();
        let value: Option<f64> = text.parse().ok().filter(|value: &f64| value.is_finite());
        let refused = || FileError::new(line(found, document), format!("“{text}” is no number"));
        value.map(Some).ok_or_else(refused)
    };
    let time = node
        .descendants()
        .find(|inner| ["Time", "time"].contains(&inner.tag_name().name()));
    let Some(time) = time else { return Ok(None) };
    let text = time.text().unwrap_or_default().trim();
    let at = instant(text)
        .ok_or_else(|| FileError::new(line(time, document), format!("“{text}” is no time")))?;
    Ok(Some(Point {
        at,
        power: value(&["Watts", "power", "PowerInWatts", "watts"])?,
        cadence: value(&["Cadence", "cad", "cadence"])?,
    }))
}

/// Seconds of a time with its offset; of one without, as if it were UTC.
fn instant(text: &str) -> Option<f64> {
    let at: Timestamp = text.parse().ok().or_else(|| {
        let plain: DateTime = text.parse().ok()?;
        plain.to_zoned(TimeZone::UTC).ok().map(|z| z.timestamp())
    })?;
    Some(at.as_duration().as_secs_f64())
}

fn day_of(at: f64, zone: &TimeZone) -> Option<Date> {
    #[expect(clippy::cast_possible_truncation, reason = "a second of some year")]
    let at = Timestamp::from_second(at.floor() as i64).ok()?;
    Some(at.to_zoned(zone.clone()).date())
}

/// CSV with a header that has `time` or `seconds`, and `power` or `watts`, `cadence` or `rpm` where they were recorded.
fn csv(text: &str, zone: &TimeZone, day: Option<Date>) -> Result<Recorded, FileError> {
    let (header, lines) = table::lines(text)?;
    let column = |names: &[&str]| {
        let is = |name: &&str| names.iter().any(|known| name.eq_ignore_ascii_case(known));
        header.iter().find(is)
    };
    let time = column(&["time", "timestamp", "seconds", "secs"])
        .ok_or_else(|| FileError::new("line 1", "a column `time` or `seconds` is wanted"))?;
    let (power, cadence) = (
        column(&["power", "watts", "power_w"]),
        column(&["cadence", "rpm", "cadence_rpm"]),
    );
    if power.is_none() && cadence.is_none() {
        return Err(FileError::new(
            "line 1",
            "a column `power` or `cadence` is wanted",
        ));
    }
    let mut points = Vec::new();
    let mut dated = None;
    for line in lines {
        let line = line?;
        let refused = |column: &str| {
            let cell = line.cell(column).unwrap_or_default();
            FileError::new(line.at(column), format!("“{cell}” is no value for it"))
        };
        let value = |column: Option<&str>| {
            let Some((column, cell)) = column.and_then(|name| Some((name, line.cell(name)?)))
            else {
                return Ok(None);
            };
            let value = number(cell).filter(|value| value.is_finite());
            value.map(Some).ok_or_else(|| refused(column))
        };
        let cell = line.cell(time).unwrap_or_default();
        let seconds = number(cell).filter(|at| at.is_finite() && *at >= 0.0);
        let at = if let Some(seconds) = seconds {
            seconds
        } else {
            let at = instant(cell).ok_or_else(|| refused(time))?;
            dated = dated.or_else(|| day_of(at, zone));
            at
        };
        points.push(Point {
            at,
            power: value(power)?,
            cadence: value(cadence)?,
        });
    }
    let on = dated
        .or(day)
        .ok_or_else(|| FileError::new("time", "it counts seconds only: say which day it was"))?;
    if points.len() < 2 {
        return Err(FileError::new(".", "there is no ride in it"));
    }
    Ok(recorded(on, &points))
}

/// Means over the time between points, each standing for the time until the next one.
fn recorded(on: Date, points: &[Point]) -> Recorded {
    let (mut riding, mut left_out) = (0.0, 0);
    let (mut power, mut cadence) = ((0.0, 0.0), (0.0, 0.0));
    let mut kept = |value: Option<f64>, most: f64| {
        let known = value.filter(|value| (0.0..=most).contains(value));
        left_out += usize::from(value.is_some() && known.is_none());
        known
    };
    for (point, next) in points.iter().zip(points.iter().skip(1)) {
        let lasts = next.at - point.at;
        if !(lasts > 0.0 && lasts <= STOP_S) {
            continue;
        }
        riding += lasts;
        if let Some(watts) = kept(point.power, MOST_W) {
            power = (power.0 + watts * lasts, power.1 + lasts);
        }
        if let Some(rpm) = kept(point.cadence, MOST_RPM).filter(|rpm| *rpm > 0.0) {
            cadence = (cadence.0 + rpm * lasts, cadence.1 + lasts);
        }
    }
    let mean = |(sum, over): (f64, f64)| (over > 0.0).then(|| (sum / over).round());
    Recorded {
        on,
        minutes: (riding / 60.0).round().max(1.0),
        power_w: mean(power),
        cadence_rpm: mean(cadence),
        left_out,
    }
}
