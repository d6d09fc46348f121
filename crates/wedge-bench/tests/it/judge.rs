//! The judge on the demo's riders: what each half-way fit is told to do next, and what its claims come to.

use crate::{bench, rider};
use wedge_bench::{Bench, claims, follow_up, scores};
use wedge_core::judge::Axis;
use wedge_files::{House, StudioFile};

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
        ("osric", "refer", "Refer"),
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
