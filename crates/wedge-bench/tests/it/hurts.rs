//! Where it hurts, asked again in trials: on the trial's card, before the judge, on the hand-out.

use crate::{bench, rider};
use serde_json::json;
use wedge_bench::{Bench, Handout, HurtThen, JudgeView, Versions};
use wedge_core::judge::Axis;
use wedge_files::{Entry, EntryBody};

/// What is answered in a trial: of which, from 0; how bad.
type Answer = (usize, &'static str, Option<&'static str>, f64);

/// Maren, who came with the right knee, behind, 4 of 10 and hands at 2; three of her trials were kept, the last was put back.
fn asked(answers: &[Answer]) -> Bench {
    let mut maren = bench(rider("maren"));
    for (trial, place, side, how_bad) in answers {
        let body = json!({ "hurts": { "place": place, "side": side, "how_bad": how_bad } });
        let entries = &mut maren.session.trials[*trial].entries;
        let last = entries.last().unwrap().clone();
        entries.push(Entry {
            body: serde_json::from_value::<EntryBody>(body).unwrap(),
            ..last
        });
    }
    maren
}

fn told(all: &[HurtThen]) -> Vec<(&str, Option<&str>, Option<f64>)> {
    (all.iter()
        .map(|of| (of.label.as_str(), of.was.as_deref(), of.now)))
    .collect()
}

const KNEE: &str = "Behind the knee, right";

#[test]
fn each_trial_asks_of_what_was_told_before_it() {
    let maren = asked(&[
        (1, "knee_behind", Some("right"), 3.0),
        (1, "knee_behind", Some("right"), 2.0),
        (1, "neck", None, 1.0),
        (2, "knee_behind", Some("right"), 0.0),
    ]);
    let read = Versions {
        session: 1,
        rider: 1,
        bike: 1,
    };
    let view = maren.view(read, None).unwrap();
    let cards: Vec<_> = view.trials.iter().map(|trial| told(&trial.hurts)).collect();
    let hand = ("Hand", Some("2 of 10 as found"), None);
    assert_eq!(cards[0], [(KNEE, Some("4 of 10 as found"), None), hand]);
    // The last answer of a trial counts; what is new stands below.
    assert_eq!(
        cards[1],
        [
            (KNEE, Some("4 of 10 as found"), Some(2.0)),
            hand,
            ("Neck", None, Some(1.0))
        ]
    );
    let neck = ("Neck", Some("1 of 10 in trial 2"), None);
    assert_eq!(
        cards[2],
        [(KNEE, Some("2 of 10 in trial 2"), Some(0.0)), hand, neck]
    );
    assert_eq!(
        cards[3],
        [(KNEE, Some("gone in trial 3"), None), hand, neck]
    );
}

#[test]
fn the_hand_out_tells_what_became_of_it_where_that_was_kept() {
    let told = |answers: &[Answer]| -> Handout { asked(answers).handout().unwrap() };
    let gone = told(&[
        (1, "knee_behind", Some("right"), 2.0),
        (2, "knee_behind", Some("right"), 0.0),
        (3, "hand", None, 7.0),
    ]);
    // What was said of a trial that was put back is not where the rider sits.
    assert_eq!(
        gone.asked_again,
        ["Behind the knee, right: 4 of 10 as found, 2 of 10 in trial 2, gone in trial 3"]
    );
    let feel = gone.for_rider.feel.join(" ");
    assert!(
        feel.contains("gone in trial 3. Tell us if it comes back."),
        "{feel}"
    );
    assert!(feel.contains("Hand"), "{feel}");
    let left = told(&[(2, "knee_behind", Some("right"), 2.0)]);
    let feel = left.for_rider.feel.join(" ");
    assert!(
        feel.contains("2 of 10 in trial 3. It should grow quieter"),
        "{feel}"
    );
    assert!(told(&[]).asked_again.is_empty());
}

/// He came without it: it is told as his to watch, unless it went again or the trial was put back.
#[test]
fn the_hand_out_names_what_hurts_since() {
    let feel = |answers: &[Answer]| asked(answers).handout().unwrap().for_rider.feel;
    let new = "Neck: 3 of 10 in trial 3, new in this fit. Tell us if it stays.";
    assert_eq!(
        feel(&[(2, "neck", None, 3.0)]).last().map(String::as_str),
        Some(new)
    );
    for answers in [
        &[(1, "neck", None, 3.0), (2, "neck", None, 0.0)][..],
        &[(3, "neck", None, 3.0)],
        &[(2, "knee_behind", Some("right"), 3.0)],
    ] {
        let feel = feel(answers).join(" ");
        assert!(!feel.contains("new in this fit"), "{feel}");
    }
}

#[test]
fn the_judge_hears_it_where_the_bike_stood_and_says_so() {
    let height = |judged: &JudgeView| {
        let of = judged
            .axes
            .iter()
            .find(|line| line.axis == Axis::Height)
            .unwrap();
        of.fine
    };
    let [before, gone, still] = [
        &[][..],
        &[(2, "knee_behind", Some("right"), 0.0)],
        &[(2, "knee_behind", Some("right"), 6.0)],
    ]
    .map(|answers| height(&asked(answers).judged().unwrap()));
    assert!(gone > before && before > still, "{gone} {before} {still}");
}
