//! Kinds of riding on the bench: the demo's pair on pads, and its warden off the road.

use crate::bench;
use wedge_bench::{Bench, Declined, sized};
use wedge_core::kinds::{Rotors, Spring};
use wedge_core::looking::EarSeen;
use wedge_core::measure::{Quantity, Reading};
use wedge_core::work::Station;
use wedge_files::{LookBody, ReadingRecord, Rider, RiderFile, StudioFile};

fn pair() -> Vec<Rider> {
    let text = include_str!("../../../../demo/time-trial-pair.wedge.json");
    StudioFile::read(text).unwrap().riders
}

fn warden() -> Rider {
    let text = include_str!("../../../../demo/wren-tallis.wedge.json");
    RiderFile::read(text).unwrap().rider
}

fn frames() -> Vec<wedge_files::LibraryFrame> {
    let studio = include_str!("../../../../demo/studio.wedge.json");
    StudioFile::read(studio).unwrap().frames
}

#[test]
fn a_turn_stands_beside_what_was_tried_and_what_it_costs_is_told() {
    let mut della = bench(pair().remove(0));
    let seen = |n, ahead_mm| {
        let body = LookBody::Ear(EarSeen { ahead_mm });
        let at = "2026-11-24T09:00:00Z".parse().unwrap();
        (uuid::Uuid::from_u128(n), at, None, (body, false))
    };
    for (n, ahead) in [(1, Some(500.0)), (2, Some(60.0)), (3, Some(30.0))] {
        let (id, at, hands, what) = seen(n, ahead);
        match della.looked(id, at, hands, what) {
            Ok(look) => della.session.looks.push(look),
            Err(refused) => assert!(n == 1, "{refused:?}"),
        }
    }
    let view = della.aero(1.0).unwrap();
    assert_eq!(view.ear_mm, Some(30.0));
    let names: Vec<&str> = view
        .candidates
        .iter()
        .map(|c| c.candidate.name.as_str())
        .collect();
    assert_eq!(names[..3], ["As found", "Now", "Turned 1°"]);
    assert!(names.len() <= 4);
    let of = |index: usize, label: &str| {
        let figures = &view.candidates[index].candidate.figures;
        figures
            .iter()
            .find(|f| f.label.starts_with(label))
            .unwrap()
            .clone()
    };
    // Lower, with less of a front, and the ear was seen on what is ridden now alone.
    assert!(of(2, "Drop").value > of(1, "Drop").value);
    assert!(of(2, "Frontal").value < of(1, "Frontal").value);
    assert!((of(0, "Frontal").value.unwrap() - 100.0).abs() < 1e-9);
    assert_eq!((of(1, "Ear").value, of(2, "Ear").value), (Some(30.0), None));
    assert!(of(1, "Against the wind").value.is_some());
    assert!(!view.candidates[2].costs.is_empty() && view.candidates[1].costs.is_empty());
    // 36 minutes, as typed at intake; the trial on the bench was held for twenty.
    assert!((view.event.minutes.unwrap() - 36.0).abs() < 1e-9);
    assert_eq!(of(1, "Held").words, "of 36 minutes");
    let by_day = view.candidates.iter().flat_map(|c| &c.broken);
    assert!(by_day.clone().all(|rule| rule.by.contains("2026-01-15")));
    assert!(della.aero(30.0).is_err());
    // Taken back, nobody saw it.
    let (id, at, hands, what) = seen(4, None);
    let back = della.looked(id, at, hands, what).unwrap();
    della.session.looks.push(back);
    assert_eq!(della.aero(1.0).unwrap().ear_mm, None);
}

#[test]
fn pads_are_asked_of_bikes_that_have_them() {
    let wren = bench(warden());
    let refused = wren.aero(0.0).unwrap_err();
    assert!(matches!(refused, Declined::NotNow(_)), "{refused:?}");
    for station in Station::OF_PADS {
        assert!(wren.may_stand_at(station).is_err());
        assert!(bench(pair().remove(0)).may_stand_at(station).is_ok());
    }
    let ear = LookBody::Ear(EarSeen {
        ahead_mm: Some(10.0),
    });
    let at = "2026-11-24T09:00:00Z".parse().unwrap();
    let refused = wren.looked(uuid::Uuid::from_u128(5), at, None, (ear, false));
    assert!(matches!(refused, Err(Declined::Refused(_))));
}

#[test]
fn the_wardens_springs_are_a_log_and_what_follows_from_them() {
    let wren = bench(warden());
    let view = wren.off_road().unwrap();
    let fork = view
        .cards
        .iter()
        .find(|card| card.spring == Spring::Fork)
        .unwrap();
    assert_eq!(fork.log.len(), 2);
    assert_eq!((fork.log[0].readings, fork.log[0].percent), (3, 20.0));
    assert!(fork.try_words.as_deref().unwrap().contains("this spring"));
    let sprung = view.sprung.unwrap();
    // 36 mm of fork and 28 % of 130 mm behind: the BB comes down by about as much.
    assert!(
        (30.0..42.0).contains(&(sprung.bb_mm - sprung.bb_sag_mm)),
        "{sprung:?}"
    );
    assert!(view.nose_down.unwrap().words.contains("11 %"));
    let cockpits = view.cockpits.unwrap();
    assert!((cockpits.knuckle_mm - 752.0).abs() < 1e-9);
    assert!(
        cockpits.answers[0].grips_off_mm.abs() < 5.0,
        "{:?}",
        cockpits.answers
    );
    assert!(view.waits_for.is_empty());
    assert!(view.cranks_mm.is_some() && view.rotors_mm.is_some());
}

#[test]
fn a_leverage_that_falls_sinks_the_wheel_further_for_the_same_ring() {
    let mut wren = bench(warden());
    let bb = |wren: &Bench| wren.off_road().unwrap().sprung.unwrap().bb_sag_mm;
    let even = bb(&wren);
    let at = "2026-11-24T09:00:00Z".parse().unwrap();
    let typed = Reading::new(Quantity::ShockProgression, 25.0);
    let record = ReadingRecord::new(uuid::Uuid::from_u128(7), at, typed);
    wren.session.readings.push(record);
    let told = even - bb(&wren);
    // 28 % of the stroke is 30.9 % of 130 mm: some 3.7 mm more of the wheel, two fifths of it at the BB.
    assert!((0.8..3.0).contains(&told), "{told}");
}

#[test]
fn a_studios_own_rotors_are_told() {
    let mut wren = bench(warden());
    wren.house.rotors = vec![Rotors {
        over_kg: 0.0,
        front_mm: 190.0,
        rear_mm: 170.0,
        steep_front_mm: 200.0,
        steep_rear_mm: 190.0,
    }];
    assert_eq!(wren.off_road().unwrap().rotors_mm, Some((190.0, 170.0)));
    wren.house.rotors.clear();
    assert_eq!(wren.off_road().unwrap().rotors_mm, None);
}

#[test]
fn a_springs_reading_is_written_down_and_moves_no_setup() {
    let wren: Bench = bench(warden());
    let reading = |quantity, value| {
        let at = "2026-11-24T09:00:00Z".parse().unwrap();
        ReadingRecord::new(uuid::Uuid::from_u128(9), at, Reading::new(quantity, value))
    };
    let (_, settled) = wren.read_off(reading(Quantity::ForkRing, 33.0)).unwrap();
    assert!(settled.is_none());
    assert!(wren.read_off(reading(Quantity::ForkRing, 9999.0)).is_err());
    assert!(
        wren.read_off(reading(Quantity::BarDrop, 120.0)).is_err(),
        "no drop bar here"
    );
}

#[test]
fn a_size_is_told_from_the_library_before_there_is_a_bike() {
    let rider = warden();
    let sizes = sized(&rider.measured().unwrap(), &frames());
    let first = sizes.sizes.iter().find(|size| size.first).unwrap();
    assert_eq!(first.name, "Culvert S");
    assert!((sizes.reach_mm - 405.45).abs() < 0.01);
}

#[test]
fn a_grade_is_felt_on_any_bike() {
    let up = bench(warden()).graded(10.0).unwrap();
    assert!(up.felt_setback_mm > up.setback_mm + 50.0);
    assert_eq!(up.places.len(), 3);
    assert!(matches!(
        bench(warden()).graded(60.0),
        Err(Declined::Refused(_))
    ));
}
