//! `wedge hundred`: whole fits of hidden riders without a screen, and how near each way of fitting comes.

use super::say;
use anyhow::bail;
use clap::Args;
use std::fmt::Write;
use wedge_devices::hundred::{Proof, Score, Share, Way, hundred};

#[derive(Args)]
pub(super) struct Arguments {
    /// How many riders
    #[arg(long, default_value_t = 100)]
    riders: u64,
    /// The seed of the first; the same seeds give the same table
    #[arg(long, default_value_t = 1)]
    seed: u64,
    /// One way alone: judge, fixed-order, protocols or bolts
    #[arg(long, value_parser = way)]
    way: Option<Way>,
    /// How much of the usual noise there is in what riders say, show and find
    #[arg(long, default_value_t = 1.0)]
    noise: f64,
    /// Every fit as JSON instead of a table
    #[arg(long)]
    json: bool,
    /// What the page "How good is Wedge?" shows, as JSON
    #[arg(long, conflicts_with_all = ["way", "json"])]
    proof: bool,
}

/// More than this would take a day.
const MOST: u64 = 100_000;

fn way(name: &str) -> Result<Way, String> {
    Way::named(name).ok_or_else(|| "one of judge, fixed-order, protocols, bolts".to_owned())
}

pub(super) fn run(arguments: &Arguments) -> anyhow::Result<()> {
    let (seed, riders) = (arguments.seed, arguments.riders);
    if riders == 0 || riders > MOST {
        bail!("--riders is from 1 to {MOST}");
    }
    if !(0.0..=10.0).contains(&arguments.noise) {
        bail!("--noise is from 0 to 10 times the usual");
    }
    if arguments.proof {
        let proof = Proof::made(seed, riders);
        return say(&(serde_json::to_string_pretty(&proof)? + "\n"));
    }
    let ways = arguments
        .way
        .map_or_else(|| Way::ALL.to_vec(), |way| vec![way]);
    let table = hundred(&ways, seed, riders, arguments.noise);
    if arguments.json {
        return say(&(serde_json::to_string_pretty(&table)? + "\n"));
    }
    let last = seed + riders - 1;
    let mut text = format!(
        "Hidden riders {seed} to {last}, laws {}; shares with what they may be on the whole, 95 %\n",
        table.laws
    );
    for score in &table.ways {
        told(&mut text, score)?;
    }
    text.push_str("\nA proof against these riders, not against people.\n");
    say(&text)
}

fn told(text: &mut String, score: &Score) -> std::fmt::Result {
    writeln!(text, "\n{}", score.label)?;
    let line = |of: &str, [six, ten, end]: [&str; 3]| format!("  {of:<38}{six:<18}{ten:<18}{end}");
    let of = |shares: &[Share; 3]| shares.clone().map(|share| share.words);
    for (what, shares) in [
        (
            "",
            ["in 6 trials", "in 10", "at the end"].map(str::to_owned),
        ),
        (
            "within a tape\u{2019}s error of all windows",
            of(&score.near),
        ),
        ("strictly inside all windows", of(&score.right)),
    ] {
        writeln!(text, "{}", line(what, [&shares[0], &shares[1], &shares[2]]))?;
    }
    writeln!(
        text,
        "  {:.0} trials, {:.0} min, worst axis {:.2} half-widths out (the middle rider)",
        score.trials, score.minutes, score.worst
    )?;
    writeln!(
        text,
        "  limits crossed {}; called done with an axis out {}; referred for nothing {}",
        score.crossed, score.false_done.words, score.false_refer.words
    )?;
    for of in &score.by_kind {
        writeln!(
            text,
            "    {:<40}{:>3} of {}",
            of.kind, of.near.count, of.near.of
        )?;
    }
    for claim in &score.reliability {
        writeln!(
            text,
            "    said fine {:>3.0} %: was so {:>3.0} % of {}",
            100.0 * claim.claimed,
            100.0 * claim.so,
            claim.of
        )?;
    }
    Ok(())
}
