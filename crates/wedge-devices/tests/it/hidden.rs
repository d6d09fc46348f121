//! What hidden riders say, show and are.

use std::sync::LazyLock;
use wedge_core::example;
use wedge_core::foresee::foresee;
use wedge_core::intake::Place;
use wedge_core::judge::{Axis, Felt};
use wedge_core::looking::Sign;
use wedge_core::measure::Output;
use wedge_core::units::Side;
use wedge_devices::body::Body;
use wedge_devices::foresight::{foreseen, value};
use wedge_devices::hidden::{Asked, Character, HiddenRider, Trouble, Troubled};
use wedge_devices::hundred::Stranger;

/// Sixty riders, thrown once.
static RIDERS: LazyLock<Vec<HiddenRider>> =
    LazyLock::new(|| (1..61).map(|seed| Stranger::of(seed).hidden).collect());

/// So many riders who have nothing but what a test gives them.
fn plain(count: usize) -> Vec<HiddenRider> {
    let riders = RIDERS.iter().take(count).cloned();
    riders.map(|rider| rider.troubled_by(Vec::new())).collect()
}

fn right(rider: &HiddenRider) -> Vec<f64> {
    Axis::ALL
        .iter()
        .map(|axis| rider.window(*axis).centre)
        .collect()
}

/// Where he belongs but for one axis, so many halves of its window beyond the middle.
fn off(rider: &HiddenRider, axis: Axis, halves: f64) -> Vec<f64> {
    let mut places = right(rider);
    places[axis as usize] += halves * rider.window(axis).half;
    places
}

#[test]
fn a_seed_is_a_rider() {
    for seed in [1, 7, 4_294_967_299] {
        let (one, other) = (Stranger::of(seed), Stranger::of(seed));
        assert_eq!(one.known, other.known);
        let places = vec![3.0; Axis::ALL.len()];
        assert_eq!(
            one.hidden.aches(&places, Asked(4)),
            other.hidden.aches(&places, Asked(4))
        );
        assert_eq!(right(&one.hidden), right(&other.hidden));
    }
    assert_ne!(
        right(&Stranger::of(1).hidden),
        right(&Stranger::of(2).hidden)
    );
    // The same measures with another seed are another rider behind them.
    let known = example::road();
    let behind = |seed| right(&HiddenRider::behind(seed, &known).unwrap());
    assert_eq!(behind(5), behind(5));
    assert_ne!(behind(5), behind(6));
}

#[test]
fn who_sits_right_hurts_nowhere_but_for_a_false_alarm() {
    let riders = plain(40);
    let told: usize = (riders.iter())
        .map(|rider| rider.aches(&right(rider), Asked(0)).len())
        .sum();
    // 21 places of 40 riders, at about one in eighty: ten, and three spreads of a binomial above it twenty.
    assert!(told <= 20, "{told}");
    let shown = (riders.iter())
        .filter(|rider| rider.shows(&right(rider), Sign::HipsRock, None, Asked(0)))
        .count();
    assert!(shown <= 6, "{shown}");
}

#[test]
fn the_further_out_the_more_it_hurts_and_shows() {
    let riders = plain(60);
    let bad = |halves: f64| -> u32 {
        (riders.iter())
            .flat_map(|rider| rider.aches(&off(rider, Axis::Height, halves), Asked(0)))
            .filter(|of| of.place == Place::KneeBehind)
            .map(|of| u32::from(of.how_bad.unwrap()))
            .sum()
    };
    assert!(
        bad(1.0) < bad(2.0) && bad(2.0) < bad(3.5),
        "{} {} {}",
        bad(1.0),
        bad(2.0),
        bad(3.5)
    );
    let chops = |halves: f64| {
        (riders.iter())
            .filter(|r| {
                r.shows(
                    &off(r, Axis::Height, halves),
                    Sign::BottomChoppy,
                    None,
                    Asked(0),
                )
            })
            .count()
    };
    assert!(chops(0.5) <= 8, "{}", chops(0.5));
    assert!(chops(3.5) >= 50, "{}", chops(3.5));
    // Too low is no chop.
    assert!(chops(-3.5) <= 8);
}

#[test]
fn a_cleat_hurts_on_its_own_side() {
    let riders = plain(60);
    let (mut left, mut other) = (0, 0);
    for rider in &riders {
        for of in rider.aches(&off(rider, Axis::CleatL, -3.0), Asked(0)) {
            if of.place == Place::FootBall {
                if of.side == Some(Side::Left) {
                    left += 1;
                } else {
                    other += 1;
                }
            }
        }
    }
    assert!(left >= 40 && other <= 3, "{left} {other}");
}

#[test]
fn a_dip_is_seen_where_it_is_and_felt_in_the_other_knee() {
    let dip = Troubled {
        trouble: Trouble::Dip,
        side: Some(Side::Right),
        level: 1.3,
    };
    let riders: Vec<HiddenRider> = plain(60)
        .into_iter()
        .map(|r| r.troubled_by(vec![dip]))
        .collect();
    let shows = |side| {
        (riders.iter())
            .filter(|rider| rider.shows(&right(rider), Sign::Dips, Some(side), Asked(0)))
            .count()
    };
    assert!(shows(Side::Right) >= 48 && shows(Side::Left) <= 8);
    let knees: Vec<Option<Side>> = (riders.iter())
        .flat_map(|rider| rider.aches(&right(rider), Asked(0)))
        .filter(|of| of.place == Place::KneeOutside)
        .map(|of| of.side)
        .collect();
    let across = knees
        .iter()
        .filter(|side| **side == Some(Side::Left))
        .count();
    assert!(across >= 20 && across * 10 >= knees.len() * 9, "{knees:?}");
}

#[test]
fn nearer_is_better_and_who_is_contrary_says_so_one_time_in_ten() {
    let mut calls = [[0_u32; 3]; 2];
    for rider in plain(60) {
        let kind = usize::from(rider.character() == Character::Contrary);
        if rider.character() == Character::Vague {
            continue;
        }
        for asked in 0..12 {
            let (far, near) = (
                off(&rider, Axis::Height, 3.0),
                off(&rider, Axis::Height, 0.3),
            );
            let felt = rider.compare(&far, &near, true, Asked(asked)).felt;
            calls[kind][match felt {
                Felt::Better => 0,
                Felt::Same => 1,
                Felt::Worse => 2,
            }] += 1;
        }
    }
    let [plain, contrary] = calls.map(|all| f64::from(all[2]) / f64::from(all.iter().sum::<u32>()));
    assert!(plain < 0.01, "{calls:?}");
    assert!((0.03..0.2).contains(&contrary), "{calls:?}");
    assert!(calls[0][0] > 20 * calls[0][2]);
}

#[test]
fn a_protocol_finds_the_window_as_well_as_it_says() {
    let offs: Vec<f64> = (plain(40).iter())
        .flat_map(|rider| {
            (0..5).map(|asked| {
                let (at, spread) = rider.finds(Axis::Setback, Asked(asked));
                (at - rider.window(Axis::Setback).centre) / spread
            })
        })
        .collect();
    let within = offs.iter().filter(|off| off.abs() < 1.0).count();
    assert!((115..=158).contains(&within), "{within} of 200");
}

/// The independent body with the core's own lengths is the core's linkage.
#[test]
fn a_body_without_secrets_is_what_the_core_foresees() {
    let known = example::road();
    let lengths =
        wedge_core::rider::Lengths::of(&known.rider.body, &known.rider.legs, &known.rider.arms);
    let leg = lengths.legs.left;
    let pitch = known.rider.pitch.left;
    let both = |value: f64| [value, value];
    let body = Body {
        thigh: both(leg.thigh.value_mm.0),
        shank: both(leg.shank.value_mm.0),
        ankle_height: both(leg.ankle_height.value_mm.0),
        foot_length: both(leg.foot_length.value_mm.0),
        trunk: lengths.trunk.value_mm.0,
        upper_arm: lengths.upper_arm.value_mm.0,
        forearm: lengths.forearm.value_mm.0,
        hand: lengths.hand_mm.0,
        shoulder_breadth: lengths.shoulder_breadth.value_mm.0,
        hip_rise: lengths.hip_rise_mm.0,
        hip_forward: 0.0,
        pelvis_share: 0.5,
        elbow: 20.0,
        pitch_mean: both(pitch.mean_deg.0),
        pitch_swing: both(pitch.amp_deg.0),
        pitch_peak: both(pitch.peak_deg.0),
        pitch_response: 0.15,
        slide: 0.0,
        bend: 0.0,
    };
    let foresight = foresee(&known).unwrap();
    let sight = body
        .on(&foresight.before.bike, &known.setup, 420.0, None)
        .unwrap();
    for output in [
        Output::KneeAtFullReach,
        Output::KneeMostBent,
        Output::HipClosed,
        Output::Torso,
        Output::Shoulder,
    ] {
        let (core, ..) = foreseen(&foresight, output, Side::Left).unwrap();
        let own = value(&sight, output, Some(Side::Left)).unwrap();
        assert!((core - own).abs() < 0.3, "{output:?}: {core} {own}");
    }
    // On the nose everything comes forward with the pelvis, and a bent back leans otherwise.
    let slid = Body {
        slide: 20.0,
        ..body.clone()
    };
    let slid = slid
        .on(&foresight.before.bike, &known.setup, 420.0, None)
        .unwrap();
    assert!(slid.knee_over_axle[0] > sight.knee_over_axle[0] + 10.0);
    let bent = Body { bend: 0.03, ..body };
    let bent = bent
        .on(&foresight.before.bike, &known.setup, 420.0, None)
        .unwrap();
    assert!((bent.torso - sight.torso).abs() > 0.2);
}
