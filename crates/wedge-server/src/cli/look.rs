//! `wedge look` and `wedge film`: takes of markers and pictures from the side, as JSON.

use super::say;
use anyhow::{Context, bail};
use clap::Args;
use serde_json::{Map, Value, json};
use std::collections::BTreeMap;
use std::fmt::Write;
use std::path::{Path, PathBuf};
use wedge_bench::{FilmAsked, FilmRead};
use wedge_core::capture::{Answers, BodyPoint, Figure, Known, MarkerUnit, Sample, look};
use wedge_core::film::{FilmMark, JOINTS, Pixel, Shot, View, WheelSeen};
use wedge_core::units::Side;
use wedge_files::{read_markers, sample_json};
use wedge_server::picture;

#[derive(Args)]
pub(super) struct Look {
    /// A TRC or C3D file
    file: PathBuf,
    /// What is known of rider and bike, as JSON; what is missing is estimated and said
    #[arg(long, value_name = "FILE")]
    rider: Option<PathBuf>,
    /// As a table instead of JSON
    #[arg(long)]
    table: bool,
    /// The unit of the file, where it names a wrong one or none
    #[arg(long, value_parser = unit)]
    unit: Option<MarkerUnit>,
    /// Whether left and right are to be swapped
    #[arg(long)]
    swap: bool,
}

fn unit(text: &str) -> Result<MarkerUnit, String> {
    let known = MarkerUnit::ALL
        .iter()
        .copied()
        .find(|unit| unit.key() == text);
    known.ok_or_else(|| "one of mm, cm, m".to_owned())
}

fn bytes_of(file: &Path) -> anyhow::Result<Vec<u8>> {
    std::fs::read(file).with_context(|| format!("cannot read {}", file.display()))
}

pub(super) fn run(arguments: &Look) -> anyhow::Result<()> {
    let bytes = bytes_of(&arguments.file)?;
    let refused = || format!("{} is refused", arguments.file.display());
    let tracks = read_markers(&bytes).with_context(refused)?;
    let known = match &arguments.rider {
        None => Known::default(),
        Some(file) => {
            let value: Value = serde_json::from_slice(&bytes_of(file)?)
                .with_context(|| format!("{} is no JSON", file.display()))?;
            known(&value).with_context(|| format!("{} is refused", file.display()))?
        }
    };
    let answers = Answers {
        unit: arguments.unit,
        swap: arguments.swap.then_some(true),
        ..Answers::default()
    };
    let sample = look(&tracks, &known.told(), &answers).map_err(|error| {
        let asks: Vec<&str> = error.asks.iter().map(|ask| ask.words.as_str()).collect();
        let asks = asks.join(
            "
  ",
        );
        anyhow::anyhow!("{error}\n  {asks}")
    });
    let sample = sample.with_context(refused)?;
    if arguments.table {
        return say(&table(&sample)?);
    }
    say(&(serde_json::to_string_pretty(&sample_json(&sample))? + "\n"))
}

/// Lengths of rider and bike: beside other keys, below `given`, or alone.
fn known(value: &Value) -> anyhow::Result<Known> {
    let given = value.get("given").unwrap_or(value);
    let known: Known = serde_json::from_value(given.clone())?;
    if let Some((key, number)) = given.as_object().into_iter().flatten().find(|(_, value)| {
        value
            .as_f64()
            .is_some_and(|number| !(-100.0..=3000.0).contains(&number))
    }) {
        bail!("{key}: {number} can not be right");
    }
    Ok(known)
}

fn table(sample: &Sample) -> anyhow::Result<String> {
    let mut text = String::new();
    writeln!(text, "{:<34}{:>22}{:>22}", "", "left", "right")?;
    for figure in Figure::ALL {
        let spec = figure.spec();
        let decimals = usize::from(spec.decimals);
        let cell = |side: Side| {
            sample.stat(side, *figure).map_or_else(String::new, |stat| {
                format!(
                    "{:.decimals$} ± {:.decimals$} ({})",
                    stat.mean, stat.sd, stat.n
                )
            })
        };
        let (left, right) = (cell(Side::Left), cell(Side::Right));
        if !(left.is_empty() && right.is_empty()) {
            let label = if spec.unit.is_empty() {
                spec.label.to_owned()
            } else {
                format!("{}, {}", spec.label, spec.unit)
            };
            writeln!(text, "{label:<34}{left:>22}{right:>22}")?;
        }
    }
    for side in Side::BOTH {
        if let Some(limbs) = sample.sides.of(side) {
            let rough = limbs
                .bottom_roughness_deg
                .map_or_else(String::new, |deg| format!(", bottom roughness {deg:.2}°"));
            let path = limbs.front.map_or("not seen", |front| {
                front.path.map_or("of no one shape", |path| path.label())
            });
            let near = if limbs.front.is_some_and(|front| front.near_border) {
                " (near another)"
            } else {
                ""
            };
            writeln!(text, "{}: knee path {path}{near}{rough}", side.word())?;
        }
    }
    writeln!(
        text,
        "{:.1} rpm over {:.1} s at {:.0} Hz",
        sample.cadence_rpm, sample.seconds, sample.rate_hz
    )?;
    for words in sample
        .asks
        .iter()
        .map(|ask| &ask.words)
        .chain(&sample.messages)
    {
        writeln!(text, "{words}")?;
    }
    Ok(text)
}

#[derive(Args)]
pub(super) struct Film {
    /// A picture: JPEG, PNG or WebP
    picture: PathBuf,
    /// Points of bike and rider in it, as JSON: rear, front, bb, `rear_rim`, `front_rim`; toe, ankle, knee, hip, shoulder, elbow,
    /// wrist, axle, each [right, down] in pixels. Missing points of the rider are found by the dots of one that is named
    #[arg(long, value_name = "FILE")]
    points: PathBuf,
    /// What is known of rider and bike, as JSON
    #[arg(long, value_name = "FILE")]
    rider: Option<PathBuf>,
    /// Camera to bike as paced, m
    #[arg(long, value_name = "M")]
    distance: Option<f64>,
    /// The lens above the floor, mm
    #[arg(long, value_name = "MM")]
    lens: Option<f64>,
    /// The rider pedals while it is taken
    #[arg(long)]
    moving: bool,
}

pub(super) fn film(arguments: &Film) -> anyhow::Result<()> {
    let picture = picture::decode(&bytes_of(&arguments.picture)?).map_err(anyhow::Error::msg)?;
    let refused = || format!("{} is refused", arguments.points.display());
    let points: Value =
        serde_json::from_slice(&bytes_of(&arguments.points)?).with_context(refused)?;
    let mut asked = asked(&points, picture.size()).with_context(refused)?;
    if let Some(file) = &arguments.rider {
        asked.known = known(&serde_json::from_slice(&bytes_of(file)?)?)?;
    }
    asked.view.distance_m = arguments.distance.or(asked.view.distance_m);
    asked.view.lens_height_mm = arguments.lens.or(asked.view.lens_height_mm);
    asked.moving |= arguments.moving;
    let whole = JOINTS
        .iter()
        .all(|part| asked.marks.iter().any(|mark| mark.part == *part));
    let image = if whole { None } else { picture.image() };
    let read = FilmAsked(&asked)
        .read(image.as_ref())
        .map_err(anyhow::Error::msg)?;
    say(&(serde_json::to_string_pretty(&as_json(&read))? + "\n"))
}

/// What the points file says, flat or below `bike_px` and `dots_px`.
fn asked(points: &Value, size: [f64; 2]) -> anyhow::Result<Shot> {
    let get = |key: &str| {
        points
            .get(key)
            .or_else(|| points.get("bike_px")?.get(key))
            .or_else(|| points.get("dots_px")?.get(key))
    };
    let pixel = |key: &str| -> anyhow::Result<Option<Pixel>> {
        match get(key) {
            None | Some(Value::Null) => Ok(None),
            Some(value) => Ok(Some(
                serde_json::from_value(value.clone())
                    .with_context(|| format!("{key}: two numbers of pixels"))?,
            )),
        }
    };
    let rim = |key: &str| -> anyhow::Result<Vec<Pixel>> {
        get(key).map_or(Ok(Vec::new()), |value| {
            serde_json::from_value(value.clone())
                .with_context(|| format!("{key}: a list of points"))
        })
    };
    let number = |key: &str| points.get(key).and_then(Value::as_f64);
    let told = |key: &str| {
        points
            .get("camera")
            .and_then(|camera| camera.get(key))
            .and_then(Value::as_f64)
    };
    let (Some(rear), Some(front)) = (pixel("rear")?, pixel("front")?) else {
        bail!("rear and front: the two axles are needed");
    };
    let known = known(points)?;
    let mut marks = Vec::new();
    for part in BodyPoint::ALL {
        let key = if *part == BodyPoint::Pedal {
            "axle"
        } else {
            part.key()
        };
        if let Some(at) = pixel(key)? {
            marks.push(FilmMark {
                part: *part,
                at,
                dot: true,
            });
        }
    }
    Ok(Shot {
        view: View {
            size,
            faces_left: match points.get("side").and_then(Value::as_str) {
                Some(side) => side.eq_ignore_ascii_case("L"),
                None => front[0] < rear[0],
            },
            rear: WheelSeen {
                axle: rear,
                rim: rim("rear_rim")?,
            },
            front: WheelSeen {
                axle: front,
                rim: rim("front_rim")?,
            },
            wheel_diameter_mm: number("wheel_diameter_mm").unwrap_or(678.0),
            wheelbase_mm: number("wheelbase_mm"),
            distance_m: number("distance_m").or_else(|| told("distance_m")),
            lens_height_mm: number("lens_height_mm").or_else(|| told("lens_above_ground_mm")),
        },
        bb: pixel("bb")?,
        marks,
        known,
        moving: points
            .get("moving")
            .and_then(Value::as_bool)
            .unwrap_or_default(),
    })
}

/// Figures by their keys, their spreads beside them.
fn as_json(read: &FilmRead) -> Value {
    let round = |value: f64| (value * 100.0).round() / 100.0;
    let mut all = Map::new();
    if let Some(crank) = read.crank_deg {
        all.insert("crank_deg".to_owned(), json!(round(crank)));
    }
    let mut spread = Map::new();
    for one in &read.values {
        all.insert(one.figure.key().to_owned(), json!(round(one.value)));
        spread.insert(one.figure.key().to_owned(), json!(round(one.spread)));
    }
    all.insert("yaw_deg".to_owned(), json!(round(read.yaw_deg)));
    all.insert("pitch_deg".to_owned(), json!(round(read.pitch_deg)));
    all.insert("roll_deg".to_owned(), json!(round(read.roll_deg)));
    all.insert(
        "px_per_mm".to_owned(),
        json!((read.px_per_mm * 1e4).round() / 1e4),
    );
    all.insert("spread".to_owned(), Value::Object(spread));
    let points: BTreeMap<&str, Pixel> = read
        .marks
        .iter()
        .map(|mark| (mark.part.key(), mark.at.map(round)))
        .collect();
    all.insert("points_px".to_owned(), json!(points));
    all.insert("messages".to_owned(), json!(read.messages));
    Value::Object(all)
}
