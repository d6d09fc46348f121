//! The rider's ledger on the bench: what it says of a setting speaks to the judge, and the next fit hears it.

use crate::rider;
use jiff::civil::{Date, date};
use jiff::tz::TimeZone;
use uuid::Uuid;
use wedge_bench::{Bench, JudgeView, Where};
use wedge_core::between::{Rated, Rating, RideSign};
use wedge_core::judge::Axis;
use wedge_core::units::Side;
use wedge_files::{AfterBody, AfterEntry, House, LedgerRide};

/// Tobin's finished fit, in the middle of a plan, without the rides of the demo.
fn bare() -> Bench {
    let mut rider = rider("tobin-arkle");
    let fit = &mut rider.bikes[0].sessions[0];
    fit.afterwards
        .retain(|entry| !matches!(entry.body, AfterBody::Ride(_)));
    let fit = fit.clone();
    Bench::of(rider, fit, House::default()).unwrap()
}

fn ride(n: u8, on: Date, step: u32, rated: &[(Rating, u8)], signs: &[RideSign]) -> AfterEntry {
    let both = |(rating, value): &(Rating, u8)| {
        let sides = if rating.per_side() {
            vec![Some(Side::Left), Some(Side::Right)]
        } else {
            vec![None]
        };
        let rated = |side| Rated {
            rating: *rating,
            side,
            value: *value,
        };
        sides.into_iter().map(rated).collect::<Vec<_>>()
    };
    AfterEntry {
        id: Uuid::from_u128(0x100 + u128::from(n)),
        at: "2026-11-28T18:00:00Z".parse().unwrap(),
        body: AfterBody::Ride(LedgerRide {
            id: Uuid::from_u128(u128::from(n)),
            on,
            circuit: "Weir loop".to_owned(),
            minutes: Some(60.0),
            effort: Some(5),
            power_w: None,
            cadence_rpm: None,
            recorded: false,
            plan: 1,
            step,
            moved: Vec::new(),
            ratings: rated.iter().flat_map(both).collect(),
            signs: signs.to_vec(),
            words: String::new(),
        }),
    }
}

/// Three rides of a setting that hurt the hands.
fn heavy(bench: &mut Bench, step: u32) {
    for n in 0..3 {
        let on = date(2026, 11, 15 + i8::try_from(step).unwrap() * 7 + n);
        let number = u8::try_from(n).unwrap() + 10 * u8::try_from(step).unwrap();
        bench
            .session
            .afterwards
            .push(ride(number, on, step, &[(Rating::Hands, 7)], &[]));
    }
}

/// What speaks on any axis, in words.
fn witnesses(bench: &Bench) -> Vec<String> {
    let open = |axis: &Axis| {
        let asked = Where {
            axis: *axis,
            changes: Vec::new(),
        };
        bench.right_place(&asked).unwrap().ridges
    };
    let ridges = Axis::ALL.iter().flat_map(open);
    ridges.map(|ridge| ridge.said.words).collect()
}

fn reach_by_axis(view: &JudgeView) -> Vec<(f64, f64)> {
    view.axes
        .iter()
        .map(|line| (line.plus, line.minus))
        .collect()
}

#[test]
fn rides_of_a_setting_are_evidence_from_the_third_on() {
    let mut bench = bare();
    let silent = bench.judged().unwrap();
    bench
        .session
        .afterwards
        .push(ride(1, date(2026, 11, 15), 0, &[(Rating::Hands, 7)], &[]));
    bench
        .session
        .afterwards
        .push(ride(2, date(2026, 11, 16), 0, &[(Rating::Hands, 7)], &[]));
    let two = bench.judged().unwrap();
    assert_eq!(
        reach_by_axis(&two),
        reach_by_axis(&silent),
        "two rides say nothing"
    );
    bench
        .session
        .afterwards
        .push(ride(3, date(2026, 11, 17), 0, &[(Rating::Hands, 7)], &[]));
    let three = bench.judged().unwrap();
    assert_ne!(reach_by_axis(&three), reach_by_axis(&silent));
    let said = witnesses(&bench);
    assert!(
        said.iter()
            .any(|words| words == "3 rides as left: hand 7 of 10"),
        "{said:?}"
    );
}

#[test]
fn where_the_bike_stood_is_part_of_what_a_ride_says() {
    let (mut left, mut stepped) = (bare(), bare());
    heavy(&mut left, 0);
    heavy(&mut stepped, 1);
    let (left, stepped) = (left.judged().unwrap(), stepped.judged().unwrap());
    assert_ne!(reach_by_axis(&left), reach_by_axis(&stepped));
}

#[test]
fn the_next_fit_hears_the_rides_of_the_last() {
    let mut last = bare();
    heavy(&mut last, 0);
    let mut rider = rider("tobin-arkle");
    rider.bikes[0].sessions[0] = last.session.clone();
    let mut next = last.session.clone();
    next.id = Uuid::from_u128(99);
    next.number = 2;
    next.afterwards.clear();
    rider.bikes[0].sessions.push(next.clone());
    let heard = Bench::of(rider, next, House::default()).unwrap();
    let said = witnesses(&heard);
    assert!(
        said.iter()
            .any(|words| words.starts_with("3 rides as left: hand 7")),
        "{said:?}"
    );
}

#[test]
fn a_card_carries_the_plan_the_rules_and_the_tests() {
    let card = bare().card(&TimeZone::UTC);
    assert_eq!((card.plan, card.steps.len()), (1, 3));
    assert_eq!(
        card.steps[0].line,
        "From 21 Nov 2026: Saddle forward 3. Setback: 3 of 8 mm, to 199.2 mm. Pain in front of the knee, or heavy hands: \
         one step back."
    );
    let titles: Vec<&str> = card.tests.iter().map(|test| test.title.as_str()).collect();
    assert_eq!(titles, ["Light fingers", "Rail sweep"]);
    assert!(
        card.tests[1]
            .lines
            .iter()
            .any(|line| line.contains("20 minutes steady")),
        "{:?}",
        card.tests[1]
    );
    // No further than a rider alone may go: 10 mm back to 10 forward, and how it is ridden.
    assert_eq!(card.tests[1].lines.len(), 6, "{:?}", card.tests[1]);
    assert!(card.rules.iter().filter(|rule| rule.stops).count() == 4);
    assert!(card.paused.is_none());
}

#[test]
fn a_year_of_rides_reads_as_it_should() {
    let mut bench = bare();
    for n in 0..200_i32 {
        let on = date(2026, 1, 1)
            .checked_add(jiff::Span::new().days(n))
            .unwrap();
        let AfterEntry { id, at, body } = ride(0, on, 0, &[(Rating::Saddle, 3)], &[]);
        let AfterBody::Ride(mut ride) = body else {
            panic!("a ride")
        };
        ride.id = Uuid::from_u128(1000 + u128::from(n.unsigned_abs()));
        bench.session.afterwards.push(AfterEntry {
            id,
            at,
            body: AfterBody::Ride(ride),
        });
    }
    let view = bench.ledger(date(2026, 12, 1));
    assert_eq!((view.rides.len(), view.series.len()), (200, 1));
    assert_eq!(view.rides[199].day, 199);
    assert!(view.found.is_empty() && view.warnings.is_empty());
}
