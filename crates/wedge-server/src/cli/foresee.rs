//! `wedge foresee`: what changes do, for scripts as JSON and for people as a table.

use super::{say, text_of};
use anyhow::{Context, bail};
use clap::{Args, ValueEnum};
use serde::Serialize;
use std::fmt::Write;
use std::path::PathBuf;
use wedge_core::bike::Steerer;
use wedge_core::example;
use wedge_core::foresee::{Change, ForeseeInput, Foresight, Offer, Row, Turn, foresee, rotate};
use wedge_core::measure::{Quantity, Refusal};
use wedge_core::units::{Degrees, Side};
use wedge_files::PositionFile;

#[derive(Args)]
#[command(after_help = "\
Changes are NAME=NUMBER, with the name of a quantity as in the file, with or without its unit:
  --change saddle_height=-6      down 6 (a sign means by so much)
  --change crank=170             to 170 (no sign means to this value)
  --change stem_angle=to:-17     to -17
  --change shim.left=3           on one side only

Examples:
  wedge foresee --example > position.json
  wedge foresee position.json --change saddle_height=-6 --table
  wedge foresee --example time-trial | wedge foresee - --change pad_spacers=+10")]
pub(super) struct Arguments {
    /// A wedge.position/1 file; - reads standard input
    #[arg(required_unless_present = "example", conflicts_with = "example")]
    file: Option<PathBuf>,
    /// A change to foresee; may be given several times
    #[arg(long, short, value_name = "NAME=NUMBER", allow_hyphen_values = true)]
    change: Vec<String>,
    /// Turn the whole position about the BB, forward (front down) positive
    #[arg(
        long,
        value_name = "DEGREES",
        allow_negative_numbers = true,
        conflicts_with = "example"
    )]
    rotate: Option<f64>,
    /// For people: a table instead of JSON
    #[arg(long)]
    table: bool,
    /// Print a complete example that is accepted back, and nothing else
    #[arg(long, value_enum, value_name = "KIND", num_args = 0..=1, default_missing_value = "road",
          conflicts_with_all = ["change", "table"])]
    example: Option<Example>,
}

#[derive(Clone, Copy, ValueEnum)]
enum Example {
    Road,
    TimeTrial,
    FlatBar,
    Gravel,
}

/// The answer for scripts: every output with its band, without what only a drawing needs.
#[derive(Serialize)]
struct Answer<'a> {
    core_version: &'a str,
    title: &'a str,
    turns: &'a [Turn],
    notes: &'a [String],
    insist: &'a [String],
    offers: &'a [Offer],
    rows: &'a [Row],
    steerer: &'a Option<Steerer>,
}

pub(super) fn run(arguments: &Arguments) -> anyhow::Result<()> {
    if let Some(example) = arguments.example {
        let input = match example {
            Example::Road => example::road(),
            Example::TimeTrial => example::time_trial(),
            Example::FlatBar => example::flat_bar(),
            Example::Gravel => example::gravel(),
        };
        return say(&PositionFile::new(input).write()?);
    }
    let Some(file) = &arguments.file else {
        bail!("name a file, or - for standard input");
    };
    let name = file.display();
    let mut input = PositionFile::read(&text_of(file)?)
        .with_context(|| format!("{name} is refused"))?
        .position;
    let changes = arguments.change.iter().map(|text| change(text));
    input
        .changes
        .extend(changes.collect::<anyhow::Result<Vec<_>>>()?);
    if let Some(by) = arguments.rotate {
        return rotated(&input, Degrees(by));
    }
    let foresight = foresee(&input).map_err(|refusals| refused(&input, arguments, &refusals))?;
    if arguments.table {
        return say(&table(&foresight));
    }
    let answer = Answer {
        core_version: &foresight.core_version,
        title: &foresight.title,
        turns: &foresight.turns,
        notes: &foresight.notes,
        insist: &foresight.insist,
        offers: &foresight.offers,
        rows: &foresight.rows,
        steerer: &foresight.steerer,
    };
    say(&(serde_json::to_string_pretty(&answer)? + "\n"))
}

fn rotated(input: &ForeseeInput, by: Degrees) -> anyhow::Result<()> {
    let rotation = rotate(input, by).map_err(|refusals| anyhow::anyhow!(list(&refusals)))?;
    say(&(serde_json::to_string_pretty(&rotation)? + "\n"))
}

/// A change as typed: `saddle_height=-6`, `crank.left=170`, `stem_angle=to:-17`.
fn change(text: &str) -> anyhow::Result<Change> {
    let wrong = |why: String| anyhow::anyhow!("--change {text}: {why}");
    let (name, number) = text
        .split_once('=')
        .ok_or_else(|| wrong("write NAME=NUMBER, as saddle_height=-6".to_owned()))?;
    let (name, side) = match name.split_once('.') {
        None => (name, None),
        Some((name, "left")) => (name, Some(Side::Left)),
        Some((name, "right")) => (name, Some(Side::Right)),
        Some((_, other)) => return Err(wrong(format!("{other} is no side: left or right"))),
    };
    let quantity = quantity(name).ok_or_else(|| {
        wrong(format!(
            "there is no {name}: names are those of the file's keys"
        ))
    })?;
    // As Wedge prints it, the minus is a minus.
    let number = number.replace('−', "-");
    let number = number.as_str();
    let (absolute, digits) = match number.strip_prefix("to:") {
        Some(rest) => (true, rest),
        None => (!number.starts_with(['+', '-']), number),
    };
    let value: f64 = digits
        .parse()
        .ok()
        .filter(|value: &f64| value.is_finite())
        .ok_or_else(|| wrong(format!("{digits} is not a number")))?;
    let change = if absolute {
        Change::to(quantity, value)
    } else {
        Change::by(quantity, value)
    };
    Ok(Change { side, ..change })
}

/// A quantity by its key, with or without the unit.
fn quantity(name: &str) -> Option<Quantity> {
    Quantity::ALL.iter().copied().find(|quantity| {
        let key = quantity.key();
        key == name || key.rsplit_once('_').is_some_and(|(bare, _)| bare == name)
    })
}

/// What is refused, in the words of the command line: a change by what was typed, the rest by its path in the file.
fn refused(input: &ForeseeInput, arguments: &Arguments, refusals: &[Refusal]) -> anyhow::Error {
    let in_file = input.changes.len() - arguments.change.len();
    let lines: Vec<String> = refusals
        .iter()
        .map(|refusal| {
            let typed = refusal
                .pointer
                .strip_prefix("/changes/")
                .and_then(|rest| rest.split('/').next()?.parse::<usize>().ok())
                .and_then(|index| arguments.change.get(index.checked_sub(in_file)?));
            match typed {
                Some(typed) => format!("--change {typed}: {}", refusal.detail),
                None => line(refusal),
            }
        })
        .collect();
    anyhow::anyhow!(lines.join("\n"))
}

fn list(refusals: &[Refusal]) -> String {
    let lines: Vec<String> = refusals.iter().map(line).collect();
    lines.join("\n")
}

fn line(refusal: &Refusal) -> String {
    let path = refusal.pointer.replace('/', ".");
    format!("position{path}: {}", refusal.detail)
}

/// The table for people: one output a line, with its band and what is outside its range.
fn table(foresight: &Foresight) -> String {
    let mut text = String::new();
    let mut put = |line: &str| {
        text.push_str(line.trim_end());
        text.push('\n');
    };
    let changed = !foresight.title.is_empty();
    if changed {
        put(&foresight.title);
        for turn in &foresight.turns {
            put(&format!("  {}", turn.words));
        }
        put("");
    }
    for note in &foresight.notes {
        put(&format!("! {note}"));
    }
    for insisted in &foresight.insist {
        put(&format!("! {insisted}"));
    }
    for offer in &foresight.offers {
        put(&format!("? {} {}", offer.title, offer.reason));
    }
    let head = if changed {
        ["before", "after", "change"]
    } else {
        ["", "now", ""]
    };
    put(&format!(
        "{:<26}{:>10}{:>12}{:>10}  {:<10}",
        "", head[0], head[1], head[2], "± band"
    ));
    for row in &foresight.rows {
        let before = if changed {
            written(row.before)
        } else {
            String::new()
        };
        let change = if changed && row.moved {
            signed(row.change)
        } else {
            String::new()
        };
        let mut line = format!(
            "{:<26}{before:>10}{:>12}{change:>10}  {:<8}",
            row.label,
            format!("{}{}", written(row.after), row.unit.suffix()),
            row.band
                .map_or_else(String::new, |band| format!("± {}", written(band))),
        );
        let mark = row.mark.as_ref().map_or("", |mark| mark.words.as_str());
        let _ = write!(line, "  {mark:<24}  {}", row.convention);
        put(&line);
    }
    text
}

fn written(value: f64) -> String {
    format!("{:.1}", value + 0.0)
}

fn signed(value: f64) -> String {
    format!("{value:+.1}")
}
