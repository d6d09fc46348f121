//! `wedge carry`: a position on another bike.

use super::{say, text_of};
use anyhow::{Context, bail};
use clap::Args;
use std::fmt::Write;
use std::path::{Path, PathBuf};
use uuid::Uuid;
use wedge_core::bike::Part;
use wedge_core::foresee::{ForeseeInput, Trying};
use wedge_core::next::{Told, carry};
use wedge_core::words::written;
use wedge_files::{PositionFile, read_frames, read_parts};

#[derive(Args)]
#[command(after_help = "\
The other bike is a wedge.position/1 file, with the parts it comes with, or a CSV of frames as Wedge writes it, on which the
parts of the position are put.

Examples:
  wedge foresee --example > road.json; wedge foresee --example gravel > gravel.json
  wedge carry road.json --to gravel.json
  wedge carry road.json --to frames.csv --frame \"Weir 54\" --parts box.csv --json")]
pub(super) struct Arguments {
    /// The position: a wedge.position/1 file; - reads standard input
    position: PathBuf,
    /// The other bike: a wedge.position/1 file, or a CSV of frames
    #[arg(long, value_name = "FILE")]
    to: PathBuf,
    /// Which frame of a CSV of several
    #[arg(long, value_name = "NAME")]
    frame: Option<String>,
    /// What there is to build with: a CSV of parts (docs/wedge.parts.md); ordinary ones can be ordered anyway
    #[arg(long, value_name = "CSV")]
    parts: Option<PathBuf>,
    /// For scripts: everything, as JSON
    #[arg(long)]
    json: bool,
}

pub(super) fn run(arguments: &Arguments) -> anyhow::Result<()> {
    let position = read(&arguments.position)?;
    let onto = onto(arguments, &position)?;
    let parts: Vec<Part> = match &arguments.parts {
        None => Vec::new(),
        Some(file) => {
            read_parts(&text_of(file)?).with_context(|| format!("{} is refused", file.display()))?
        }
    };
    let ride = position.check().map_err(super::refused)?;
    let carried = carry(&Trying::of(&ride), &onto, &parts).map_err(super::refused)?;
    if arguments.json {
        return say(&(serde_json::to_string_pretty(&carried)? + "\n"));
    }
    say(&told(&carried.told))
}

fn read(file: &Path) -> anyhow::Result<ForeseeInput> {
    let read = PositionFile::read(&text_of(file)?);
    Ok(read
        .with_context(|| format!("{} is refused", file.display()))?
        .position)
}

/// The other bike, whole, or a frame with the position's own parts.
fn onto(arguments: &Arguments, position: &ForeseeInput) -> anyhow::Result<ForeseeInput> {
    let text = text_of(&arguments.to)?;
    if text.trim_start().starts_with('{') {
        return Ok(PositionFile::read(&text)
            .with_context(|| format!("{} is refused", arguments.to.display()))?
            .position);
    }
    let frames = read_frames(&text, Uuid::now_v7)
        .with_context(|| format!("{} is refused", arguments.to.display()))?;
    let names: Vec<&str> = frames.iter().map(|frame| frame.name.as_str()).collect();
    let found = match (&arguments.frame, &frames[..]) {
        (None, [one]) => Some(one),
        (None, _) => bail!("say which frame with --frame: {}", names.join(", ")),
        (Some(name), all) => all.iter().find(|frame| frame.name == *name),
    };
    let Some(frame) = found else {
        bail!("there is no such frame: {}", names.join(", "));
    };
    let mut onto = position.clone();
    onto.frame = frame.frame;
    onto.fit = None;
    onto.changes.clear();
    Ok(onto)
}

/// For people.
fn told(carried: &Told) -> String {
    let mut text = String::new();
    for line in &carried.built {
        let _ = writeln!(text, "{line}");
    }
    for (what, off) in [("saddle", carried.saddle_off), ("hands", carried.hand_off)] {
        let _ = if off.length() < 0.5 {
            writeln!(text, "{what}: where they were")
        } else {
            writeln!(
                text,
                "{what}: {} mm off, {} forward and {} up",
                written(off.length()),
                written(off.x),
                written(off.y)
            )
        };
    }
    for line in &carried.in_the_way {
        let _ = writeln!(text, "in the way: {line}");
    }
    for line in &carried.to_order {
        let _ = writeln!(text, "to order: {line}");
    }
    if let Some(cut) = carried.cut_mm {
        let _ = writeln!(
            text,
            "cut {} mm off the steerer: that cannot be undone",
            written(cut)
        );
    }
    for one in &carried.compared {
        let unit = one.unit.suffix();
        let _ = writeln!(
            text,
            "{}: {}{unit} → {}{unit}",
            one.label,
            written(one.before),
            written(one.after)
        );
    }
    for line in &carried.also {
        let _ = writeln!(text, "also: {line}");
    }
    for line in &carried.checks {
        let _ = writeln!(text, "look at: {line}");
    }
    text + "Computed, not ridden.\n"
}
