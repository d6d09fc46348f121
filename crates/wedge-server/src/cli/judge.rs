//! `wedge judge`: the evidence of a case or of a rider's open fit, and what the judge makes of it.

use super::{say, text_of};
use anyhow::{Context, bail};
use clap::Args;
use serde::Serialize;
use std::fmt::Write;
use std::path::PathBuf;
use wedge_bench::Bench;
use wedge_core::judge::{Case, Judgement, check, explain, judge};
use wedge_files::{CaseFile, House, RiderFile, Session, SessionState};

#[derive(Args)]
pub(super) struct Arguments {
    /// A wedge.case/1 file, one case or a list of them, or a wedge.rider file, whose open fit is judged; - is standard input
    file: PathBuf,
    /// In words instead of JSON
    #[arg(long)]
    explain: bool,
    /// Whether each case's `expect` is met, with a last line "37 of 40"
    #[arg(long)]
    check: bool,
}

#[derive(Serialize)]
struct Judged {
    id: String,
    title: String,
    #[serde(flatten)]
    judgement: Judgement,
}

pub(super) fn run(arguments: &Arguments) -> anyhow::Result<()> {
    let text = text_of(&arguments.file)?;
    let refused = || format!("{} is refused", arguments.file.display());
    let all = if is_rider(&text) {
        if arguments.check {
            bail!("a rider's file expects nothing: --check is for cases");
        }
        vec![open_fit(&text).with_context(refused)?]
    } else {
        let file = CaseFile::read(&text).with_context(refused)?;
        let judged: Vec<(Case, Judgement)> = (file.cases.into_iter())
            .map(|case| {
                let judgement = judge(&case);
                (case, judgement)
            })
            .collect();
        if arguments.check {
            return checked(&judged, arguments.explain);
        }
        let told = |(case, judgement): (Case, Judgement)| Judged {
            id: case.id,
            title: case.title,
            judgement,
        };
        judged.into_iter().map(told).collect()
    };
    if arguments.explain {
        let mut text = String::new();
        for judged in &all {
            writeln!(text, "{} {}", judged.id, judged.title)?;
            for line in explain(&judged.judgement) {
                writeln!(text, "  {line}")?;
            }
        }
        return say(&text);
    }
    say(&(serde_json::to_string_pretty(&all)? + "\n"))
}

/// Whether a file says it is a rider's.
fn is_rider(text: &str) -> bool {
    let value = serde_json::from_str::<serde_json::Value>(text).unwrap_or_default();
    (value["format"].as_str()).is_some_and(|format| format.starts_with("wedge.rider/"))
}

/// The open fit of a rider's file judged, as a house that chose nothing judges: the latest where several are open.
fn open_fit(text: &str) -> anyhow::Result<Judged> {
    let rider = RiderFile::read(text)?.rider;
    let name = rider.name.clone();
    let sessions = rider.bikes.iter().flat_map(|bike| &bike.sessions);
    let is_open = |session: &&Session| session.state == SessionState::Open && session.now.is_some();
    let open = sessions.filter(is_open).max_by_key(|session| session.day);
    let session = open
        .cloned()
        .context("it has no open fit whose bike as found is closed")?;
    let title = format!("fit {} of {}", session.number, session.day);
    let bench = Bench::of(rider, session, House::default())?;
    Ok(Judged {
        id: name,
        title,
        judgement: bench.judgement()?,
    })
}

/// Case by case, and how many are as expected; fails when one is not.
fn checked(judged: &[(Case, Judgement)], explained: bool) -> anyhow::Result<()> {
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
