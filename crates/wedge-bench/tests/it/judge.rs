//! The judge on the demo's riders: what each half-way fit is told to do next, and what its claims come to.

use crate::{bench, rider};
use serde_json::{Value, json};
use wedge_bench::{AxisLine, Bench, JudgeView, Where, claims, follow_up, scores};
use wedge_core::intake::{Goal, Visit};
use wedge_core::judge::Axis;
use wedge_files::{House, RiderFile, StudioFile};

/// The demo studio, with its box of parts.
fn house() -> House {
    let studio = StudioFile::read(include_str!("../../../../demo/studio.wedge.json")).unwrap();
    studio.house.unwrap()
}

/// The open fit of a demo rider.
fn open(name: &str) -> Bench {
    let mut rider = rider(name);
    let fits = &mut rider.bikes[0].sessions;
    let last = fits.pop().unwrap();
    fits.push(last.clone());
    Bench::of(rider, last, house()).unwrap()
}

#[test]
fn every_half_way_rider_is_told_something_believable() {
    for (name, act, title) in [
        ("maren", "test", "Creep up"),
        ("hedda", "move", "Saddle down 12"),
        ("ilse", "test", "Compare cranks"),
        ("pell", "done", "Nothing: done"),
        // His back stands over the range of a town bike: worth a look before anything.
        ("osric", "test", "Look at elbows and shoulders"),
    ] {
        let told = open(name).judged().unwrap();
        assert_eq!(
            (told.next.act.as_str(), told.next.title.as_str()),
            (act, title),
            "{name}"
        );
    }
}

#[test]
fn the_next_fit_shows_what_was_claimed_of_the_bike_as_it_was_left() {
    let next = open("hedda");
    // The same fit before its creep-up: as a fit that left the bike as it was found.
    let mut left = next.clone();
    left.session.runs.clear();
    let shown = follow_up(&left, &next).unwrap();
    let height = shown
        .iter()
        .find(|claim| claim.axis == Axis::Height)
        .unwrap();
    assert_eq!(
        (height.was_fine, height.was_right),
        (Some(false), Some(true))
    );
    assert!(height.fine < 0.2 && height.way > 0.0, "{height:?}");
    // Without a protocol nothing was shown.
    assert!(follow_up(&next, &left).unwrap().is_empty());
    let counted = scores(&shown);
    assert_eq!(
        (counted[0].found, counted[0].was_fine, counted[0].right),
        (1, 0, 1)
    );
    assert!(counted[0].words.contains("0 of 1"), "{}", counted[0].words);
}

#[test]
fn claims_are_of_what_was_known_before() {
    let maren = claims(&open("maren")).unwrap();
    let of = |axis| maren.iter().filter(move |claim| claim.axis == axis);
    // Three called trials moved her saddle's height or setback by more than half a window.
    assert!(
        of(Axis::Height).count() + of(Axis::Setback).count() >= 2,
        "{maren:?}"
    );
    // Better after lower is a direction that was right only if lower was claimed.
    for claim in of(Axis::Height).filter(|claim| claim.was_right == Some(true)) {
        assert!(claim.way > 0.0, "{claim:?}");
    }
    assert!(
        claims(&bench(rider("tobin")))
            .unwrap()
            .iter()
            .all(|claim| claim.was_fine.is_none())
    );
}

/// What a mirror makes of a record: left and right change places.
fn mirrored(value: &Value) -> Value {
    let word = |word: &str| match word {
        "left" => "right".to_owned(),
        "right" => "left".to_owned(),
        other => other.to_owned(),
    };
    match value {
        Value::Array(all) => all.iter().map(mirrored).collect(),
        // A step has something left, which is no side.
        Value::Object(fields) if fields.contains_key("left") && !fields.contains_key("right") => {
            let fields = fields.iter();
            fields
                .map(|(key, value)| (key.clone(), mirrored(value)))
                .collect()
        }
        Value::Object(fields) => (fields.iter())
            .map(|(key, value)| (word(key), mirrored(value)))
            .collect(),
        Value::String(text) => Value::String(word(text)),
        other => other.clone(),
    }
}

/// A bench with something changed of its fit.
fn with(bench: &Bench, change: impl FnOnce(&mut wedge_files::Session)) -> Bench {
    let mut bench = bench.clone();
    change(&mut bench.session);
    bench
}

fn line(told: &JudgeView, axis: Axis) -> &AxisLine {
    told.axes.iter().find(|line| line.axis == axis).unwrap()
}

fn keys(told: &JudgeView) -> Vec<String> {
    let all = std::iter::once(&told.next).chain(&told.others);
    all.map(|of| of.key.clone()).collect()
}

/// The witnesses of an axis, by their words.
fn witnesses(bench: &Bench, axis: Axis) -> Vec<(String, f64)> {
    let asked = Where {
        axis,
        changes: Vec::new(),
    };
    let open = bench.right_place(&asked).unwrap();
    let all = open.ridges.into_iter();
    all.map(|ridge| (ridge.said.words, ridge.said.points))
        .collect()
}

#[test]
fn a_mirrored_rider_is_told_the_mirrored_thing() {
    let pairs = [
        (Axis::CleatL, Axis::CleatR),
        (Axis::TurnL, Axis::TurnR),
        (Axis::StanceL, Axis::StanceR),
    ];
    for name in ["hedda", "maren", "ilse", "osric"] {
        let file = serde_json::to_value(RiderFile::new(rider(name))).unwrap();
        let text = serde_json::to_string(&mirrored(&file)).unwrap();
        let other = RiderFile::read(&text).unwrap().rider;
        let fit = other.bikes[0].sessions.last().unwrap().clone();
        let here = open(name).judged().unwrap();
        let there = Bench::of(other, fit, house()).unwrap().judged().unwrap();
        for axis in Axis::ALL {
            let swapped = pairs.iter().find_map(|(l, r)| match axis {
                of if of == l => Some(*r),
                of if of == r => Some(*l),
                _ => None,
            });
            let (a, b) = (line(&here, *axis), line(&there, swapped.unwrap_or(*axis)));
            for (one, two) in [(a.plus, b.plus), (a.fine, b.fine), (a.minus, b.minus)] {
                // A school of the height reads the leg that is drawn: what a percent of belief hangs on.
                assert!((one - two).abs() < 0.01, "{name} {axis:?}: {one} {two}");
            }
        }
        let (one, two) = (&here.next, &there.next);
        assert_eq!(one.act, two.act, "{name}");
        assert!(
            (one.score - two.score).abs() < 0.02 * one.score.abs().max(1.0),
            "{name}"
        );
    }
}

#[test]
fn what_was_seen_counts_where_it_was_seen() {
    let maren = open("maren");
    let now = maren.session.now.unwrap();
    let there = with(&maren, |fit| {
        for look in &mut fit.looks {
            look.setup = now;
        }
    });
    // Her hips rocked on the bike as found, before the saddle came down: seen now they would say it is still too high.
    let before = line(&maren.judged().unwrap(), Axis::Height).plus;
    let after = line(&there.judged().unwrap(), Axis::Height).plus;
    assert!(after > before, "{before} {after}");
    let none = with(&maren, |fit| fit.looks.clear());
    assert!(line(&none.judged().unwrap(), Axis::Height).plus < before);
}

#[test]
fn who_was_not_asked_is_not_silent() {
    let pell = open("pell");
    let silent = |bench: &Bench| {
        let all = witnesses(bench, Axis::Height).into_iter();
        all.filter(|(words, _)| words.ends_with("does not hurt"))
            .count()
    };
    assert!(silent(&pell) > 5);
    let unasked = with(&pell, |fit| fit.intake.flags_asked = false);
    assert_eq!(silent(&unasked), 0);
    // Who named a place was asked for the others.
    let hedda = open("hedda");
    assert!(silent(&hedda) > 5);
    let words: Vec<String> = witnesses(&hedda, Axis::Height)
        .into_iter()
        .map(|w| w.0)
        .collect();
    assert!(
        words
            .iter()
            .all(|words| words != "Behind the knee does not hurt"),
        "{words:?}"
    );
}

#[test]
fn a_whole_fit_and_a_visit_for_what_hurts_are_two_ways() {
    let hedda = open("hedda");
    let visit = with(&hedda, |fit| fit.intake.visit = Some(Visit::Complaint));
    let (whole, short) = (hedda.judged().unwrap(), visit.judged().unwrap());
    assert!(whole.full_fit && !short.full_fit);
    // A whole bike comes with some of it out and the rest near right; who comes for what hurts comes with something out. Where
    // nothing speaks, that is all that differs.
    let silent = |axis: Axis| [Axis::Levers, Axis::SaddleWidth, Axis::StanceL].contains(&axis);
    for (a, b) in whole.axes.iter().zip(&short.axes) {
        assert!(!silent(a.axis) || a.fine > b.fine + 0.05, "{}", a.label);
    }
    assert!(whole.next.score > short.next.score);
    assert!(whole.others.len() > short.others.len());
}

#[test]
fn what_matters_to_the_rider_changes_the_ranking_and_says_so() {
    let hedda = open("hedda");
    let first = |goal: Goal| {
        with(&hedda, |fit| {
            fit.runs.clear();
            fit.intake.goals = serde_json::from_value(json!([[goal]])).unwrap();
        })
        .judged()
        .unwrap()
    };
    let score = |told: &JudgeView| told.next.score;
    let (injury, speed) = (first(Goal::Injury), first(Goal::Speed));
    // A saddle too high costs comfort, joints and power; the air does not care.
    assert!(
        score(&injury) > score(&speed),
        "{} {}",
        score(&injury),
        score(&speed)
    );
    for told in [&injury, &speed] {
        for said in told
            .says
            .iter()
            .filter(|said| said.contains("alike it would be"))
        {
            assert!(said.starts_with("With "), "{said}");
        }
    }
}

#[test]
fn nothing_is_proposed_beyond_a_limit_of_the_table() {
    let ilse = open("ilse");
    let told = ilse.judged().unwrap();
    assert!(
        told.says.iter().any(|said| said.contains("Hip, left: 0.7")),
        "{:?}",
        told.says
    );
    for key in keys(&told) {
        for never in ["move:bars:-", "move:crank:+", "move:reach:+"] {
            assert!(!key.starts_with(never), "{key}");
        }
    }
    // Every step proposed leaves the hip at least what it had.
    let steps = std::iter::once(&told.next).chain(&told.others);
    for step in steps.filter_map(|of| of.step.as_ref()) {
        let tried = ilse.tried_out(&step.changes, true).unwrap();
        assert!(!tried.foreseen.title.is_empty());
    }
}

#[test]
fn a_finding_is_heard_where_it_was_found_and_not_asked_for_again() {
    let hedda = open("hedda");
    let found = witnesses(&hedda, Axis::Height);
    assert_eq!(found[0].0, "Creep up: saddle to 712.6 mm");
    assert!(found[0].1 > 15.0);
    let told = hedda.judged().unwrap();
    assert!(
        keys(&told)
            .iter()
            .all(|key| !key.starts_with("test:creep_up"))
    );
    // Twelve millimetres are more than one step, but a protocol ends where it found.
    assert_eq!(told.next.title, "Saddle down 12");
    assert!(told.next.lands.unwrap() > 0.8);
    // Broken off, it says nothing, and is worth making.
    let broken = with(&hedda, |fit| {
        for run in &mut fit.runs {
            run.finding = None;
        }
    });
    let told = broken.judged().unwrap();
    assert!(
        keys(&told)
            .iter()
            .any(|key| key.starts_with("test:creep_up"))
    );
    assert!(
        witnesses(&broken, Axis::Height)
            .iter()
            .all(|(words, _)| !words.starts_with("Creep up"))
    );
}

/// Some have a comma in their name, and "BB" is no word.
#[test]
fn schools_that_speak_are_named_as_they_are() {
    let said = witnesses(&open("hedda"), Axis::Height);
    let schools = said
        .iter()
        .find_map(|(words, _)| words.strip_prefix("Schools: "))
        .unwrap();
    let named: Vec<&str> = schools.split(" · ").collect();
    assert!(named.contains(&"inseam, BB to top"), "{schools}");
    assert!(named.contains(&"knee angle, still"), "{schools}");
}

#[test]
fn every_proposal_is_whole_and_reads_the_same_twice() {
    for name in ["hedda", "maren", "ilse", "pell", "osric"] {
        let bench = open(name);
        let told = bench.judged().unwrap();
        assert_eq!(told, bench.judged().unwrap(), "{name}: no clock, no chance");
        for of in std::iter::once(&told.next).chain(&told.others) {
            assert!(
                !of.title.is_empty() && of.blocked.is_empty(),
                "{name} {}",
                of.key
            );
            assert!(
                !of.because.is_empty() || !of.how.is_empty(),
                "{name} {}",
                of.key
            );
            for text in [&of.title, &of.because, &of.how] {
                for broken in ["NaN", "inf", "..", "  ", "_"] {
                    assert!(!text.contains(broken), "{name}: {text}");
                }
            }
            if let Some(step) = &of.step {
                assert!(
                    bench.tried_out(&step.changes, true).is_ok(),
                    "{name} {}",
                    of.title
                );
            }
            if matches!(of.act.as_str(), "move" | "linked") {
                assert!(
                    of.step.is_some() || of.axis == Some(Axis::SaddleWidth),
                    "{name} {}",
                    of.key
                );
            }
        }
        for line in &told.axes {
            assert!((line.plus + line.fine + line.minus - 1.0).abs() < 1e-9);
        }
        let ranked: Vec<f64> = told.others.iter().map(|of| of.score).collect();
        assert!(ranked.is_sorted_by(|a, b| a >= b), "{name}: {ranked:?}");
    }
}

#[test]
fn nothing_is_judged_before_the_bike_as_found_is_closed() {
    let open = with(&open("hedda"), |fit| fit.now = None);
    let declined = open.judged().unwrap_err().to_string();
    assert!(declined.contains("Close the bike as found"), "{declined}");
    assert!(claims(&open).unwrap().is_empty());
}
