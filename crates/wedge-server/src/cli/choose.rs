//! `wedge choose`: frames for a position, the best first.

use super::{say, text_of};
use anyhow::{Context, bail};
use clap::Args;
use serde::Serialize;
use std::fmt::Write;
use std::path::PathBuf;
use uuid::Uuid;
use wedge_core::foresee::Trying;
use wedge_core::next::{Choice, OnOffer, PartLimits, choose};
use wedge_core::words::written;
use wedge_files::{FramesRead, PositionFile, read_frames_by, read_parts};

#[derive(Args)]
#[command(after_help = "\
The list is a CSV of frames, one a line. Its columns are known by their headers; what no column has and is the same of every
frame is said with --same, as its key and value in millimetres or degrees.

Examples:
  wedge foresee --example > road.json
  wedge choose frames.csv --position road.json
  wedge choose catalogue.csv --position road.json --same wheel_radius_mm=340 --same lower_stack_mm=5 --longest-stem 110 --json")]
pub(super) struct Arguments {
    /// The frames: a CSV
    frames: PathBuf,
    /// The position: a wedge.position/1 file; - reads standard input
    #[arg(long, value_name = "FILE")]
    position: PathBuf,
    /// What is the same of every frame: KEY=VALUE
    #[arg(long, value_name = "KEY=VALUE")]
    same: Vec<String>,
    /// What there is to build with: a CSV of parts (docs/wedge.parts.md); ordinary ones can be ordered anyway
    #[arg(long, value_name = "CSV")]
    parts: Option<PathBuf>,
    /// The shortest stem, mm
    #[arg(long, value_name = "MM")]
    shortest_stem: Option<f64>,
    /// The longest stem, mm
    #[arg(long, value_name = "MM")]
    longest_stem: Option<f64>,
    /// The most spacers below a stem, mm
    #[arg(long, value_name = "MM")]
    most_spacers: Option<f64>,
    /// For scripts: everything, as JSON
    #[arg(long)]
    json: bool,
}

/// Everything, as JSON.
#[derive(Serialize)]
struct Chosen<'a> {
    /// As the frames were on offer.
    frames: Vec<&'a str>,
    #[serde(flatten)]
    choice: Choice,
}

pub(super) fn run(arguments: &Arguments) -> anyhow::Result<()> {
    let named = |file: &PathBuf| format!("{} is refused", file.display());
    let file = PositionFile::read(&text_of(&arguments.position)?)
        .with_context(|| named(&arguments.position))?;
    let read = frames(arguments)?;
    let parts = match &arguments.parts {
        None => Vec::new(),
        Some(file) => read_parts(&text_of(file)?).with_context(|| named(file))?,
    };
    let ordinary = PartLimits::default();
    let limits = PartLimits {
        shortest_stem_mm: arguments.shortest_stem.unwrap_or(ordinary.shortest_stem_mm),
        longest_stem_mm: arguments.longest_stem.unwrap_or(ordinary.longest_stem_mm),
        most_spacers_mm: arguments.most_spacers.unwrap_or(ordinary.most_spacers_mm),
        ..ordinary
    };
    let refused = limits.refusals("");
    if let Some(refusal) = refused.first() {
        bail!("{}", refusal.detail);
    }
    let ride = file.position.check().map_err(super::refused)?;
    let trying = Trying::of(&ride);
    let offers: Vec<OnOffer> = (read.frames.iter())
        .map(|of| OnOffer {
            name: &of.name,
            kind: of.kind,
            frame: &of.frame,
        })
        .collect();
    let choice = choose(&trying, trying.before_setup(), &offers, &limits, &parts);
    if arguments.json {
        let chosen = Chosen {
            frames: offers.iter().map(|offer| offer.name).collect(),
            choice,
        };
        return say(&(serde_json::to_string_pretty(&chosen)? + "\n"));
    }
    say(&told(&choice))
}

/// The list, every row of it well.
fn frames(arguments: &Arguments) -> anyhow::Result<FramesRead> {
    let text = text_of(&arguments.frames)?;
    let refused = || format!("{} is refused", arguments.frames.display());
    let mut read = read_frames_by(&text, None, Uuid::now_v7).with_context(refused)?;
    if !arguments.same.is_empty() {
        for one in &arguments.same {
            let both = one.split_once('=').and_then(|(key, value)| {
                let quantity = serde_json::from_value(key.trim().into()).ok()?;
                Some((quantity, value.trim().parse().ok()?))
            });
            let Some((quantity, value)) = both else {
                bail!("--same {one}: a key and a number, as wheel_radius_mm=340");
            };
            read.map.same.insert(quantity, value);
        }
        read = read_frames_by(&text, Some(&read.map), Uuid::now_v7).with_context(refused)?;
    }
    if !read.missing.is_empty() {
        let keys: Vec<&str> = read.missing.iter().map(|of| of.key()).collect();
        bail!(
            "{}: no column has {}; say it with --same",
            arguments.frames.display(),
            keys.join(", ")
        );
    }
    if !read.refused.is_empty() {
        let lines = read
            .refused
            .iter()
            .map(|row| format!("{}: {}", row.at, row.detail));
        bail!("{}:\n{}", refused(), lines.collect::<Vec<_>>().join("\n"));
    }
    Ok(read)
}

/// For people.
fn told(choice: &Choice) -> String {
    let mut text = String::new();
    for (place, one) in choice.ranked.iter().enumerate() {
        let off = if one.reached {
            format!("{} points", written(one.points))
        } else {
            format!(
                "not reached: saddle {} mm, hands {} mm off",
                written(one.saddle_off_mm),
                written(one.hand_off_mm)
            )
        };
        let _ = writeln!(
            text,
            "{:>3}  {}: {off}. {}",
            place + 1,
            one.name,
            one.parts()
        );
        for mark in &one.marked_down {
            let _ = writeln!(text, "       {} ({})", mark.words, written(mark.points));
        }
        for line in &one.told {
            let _ = writeln!(text, "       {line}");
        }
    }
    text + "Computed, not ridden.\n"
}
