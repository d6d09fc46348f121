//! `wedge judge`: the evidence of a case, and what the judge makes of it.

use super::{say, text_of};
use anyhow::{Context, bail};
use clap::Args;
use serde::Serialize;
use serde_json::Value;
use std::fmt::Write;
use std::path::PathBuf;
use wedge_core::judge::{Case, Judgement, check, explain, judge};

#[derive(Args)]
pub(super) struct Arguments {
    /// A wedge.case/1 file: one case, a list of them, or an object with a format line and `cases`; - is standard input
    file: PathBuf,
    /// In words instead of JSON
    #[arg(long)]
    explain: bool,
    /// Whether each case's `expect` is met, with a last line "37 of 40"
    #[arg(long)]
    check: bool,
}

#[derive(Serialize)]
struct Judged<'a> {
    id: &'a str,
    title: &'a str,
    #[serde(flatten)]
    judgement: Judgement,
}

pub(super) fn run(arguments: &Arguments) -> anyhow::Result<()> {
    let cases = cases(&text_of(&arguments.file)?)
        .with_context(|| format!("{} is refused", arguments.file.display()))?;
    let judged: Vec<(&Case, Judgement)> = cases.iter().map(|case| (case, judge(case))).collect();
    if arguments.check {
        return checked(&judged, arguments.explain);
    }
    if arguments.explain {
        let mut text = String::new();
        for (case, judgement) in &judged {
            writeln!(text, "{} {}", case.id, case.title)?;
            for line in explain(judgement) {
                writeln!(text, "  {line}")?;
            }
        }
        return say(&text);
    }
    let all: Vec<Judged> = (judged.into_iter())
        .map(|(case, judgement)| Judged {
            id: &case.id,
            title: &case.title,
            judgement,
        })
        .collect();
    say(&(serde_json::to_string_pretty(&all)? + "\n"))
}

/// Case by case, and how many are as expected; fails when one is not.
fn checked(judged: &[(&Case, Judgement)], explained: bool) -> anyhow::Result<()> {
    let mut text = String::new();
    let mut met = 0;
    for (case, judgement) in judged {
        let bad = check(case, judgement);
        met += usize::from(bad.is_empty());
        let word = if bad.is_empty() { "ok  " } else { "FAIL" };
        writeln!(text, "{word} {} {} {}", case.id, case.title, bad.join("; "))?;
        if explained {
            for line in explain(judgement) {
                writeln!(text, "     {line}")?;
            }
        }
    }
    writeln!(text, "{met} of {}", judged.len())?;
    say(&text)?;
    if met < judged.len() {
        bail!("not every case is judged as it expects");
    }
    Ok(())
}

/// The cases of a file, each refused with its place.
fn cases(text: &str) -> anyhow::Result<Vec<Case>> {
    let value: Value = serde_json::from_str(text)?;
    let all = match value {
        Value::Array(all) => all,
        Value::Object(mut file) if file.get("format").is_some_and(|f| f == "wedge.case/1") => {
            match file.remove("cases") {
                Some(Value::Array(all)) => all,
                _ => bail!("cases: a wedge.case/1 file has a list of them"),
            }
        }
        Value::Object(file) if !file.contains_key("format") => vec![Value::Object(file)],
        _ => bail!("not a wedge.case/1 file: a case, a list of cases, or format and cases"),
    };
    (all.into_iter().enumerate())
        .map(|(index, case)| {
            serde_json::from_value(case).with_context(|| format!("case {}", index + 1))
        })
        .collect()
}
