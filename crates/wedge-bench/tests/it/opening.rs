//! A bike as it is typed in, a fit as it opens, and years of them.

use crate::rider;
use jiff::civil::date;
use serde_json::json;
use uuid::Uuid;
use wedge_bench::{Declined, FollowUp, NewBike, bikes, opened, years};
use wedge_files::{House, SessionState};

/// A bike typed in from the parts of another.
fn typed(name: &str) -> serde_json::Value {
    let setup = serde_json::to_value(rider("tobin").bikes[0].setup).unwrap();
    let mut saddle = setup["saddle"].clone();
    for placed in ["saddle_height_mm", "setback_mm"] {
        saddle.as_object_mut().unwrap().remove(placed);
    }
    json!({
        "id": Uuid::now_v7(), "name": name, "kind": "road", "frame": rider("tobin").bikes[0].frame,
        "cockpit": setup["cockpit"], "bar": setup["bar"], "saddle": saddle, "post": setup["post"],
        "pedalling": setup["pedalling"],
    })
}

#[test]
fn a_typed_bike_has_its_saddle_where_it_would_be_drawn() {
    let new: NewBike = serde_json::from_value(typed(" The blue one ")).unwrap();
    let bike = new.of(&rider("tobin")).unwrap();
    assert_eq!(bike.name, "The blue one");
    assert!(bike.setup.saddle.saddle_height_mm.0 > 500.0);
}

#[test]
fn everything_wrong_with_a_typed_bike_is_said_at_once() {
    let mut wrong = typed("  ");
    wrong["frame"]["head_angle_deg"] = json!(7.2);
    wrong["pedalling"]["left"]["crank_mm"] = json!(17.0);
    let new: NewBike = serde_json::from_value(wrong).unwrap();
    let Err(Declined::Refused(refusals)) = new.of(&rider("tobin")) else {
        unreachable!("a crank of 17 mm")
    };
    let at: Vec<_> = refusals.iter().map(|r| r.pointer.as_str()).collect();
    assert_eq!(
        at,
        ["/name", "/frame/head_angle_deg", "/pedalling/left/crank_mm"]
    );
}

#[test]
fn a_fit_opens_from_where_the_last_one_left_the_bike() {
    let finn = rider("finn");
    let bike = &finn.bikes[0];
    let last = bike.sessions.last().unwrap();
    let fit = opened(
        Uuid::now_v7(),
        date(2026, 11, 27),
        &finn,
        bike,
        &House::default(),
    );
    assert_eq!(fit.number, last.number + 1);
    assert_eq!(fit.base, *last.now().unwrap());
    assert_eq!(fit.state, SessionState::Open);
    assert!(
        fit.intake.flags.is_empty() && !fit.intake.flags_asked,
        "flags are asked anew"
    );
    assert!(fit.readings.is_empty() && fit.setups.is_empty());
}

#[test]
fn years_are_read_in_the_last_fits_conventions_and_growth_is_noticed() {
    let finn = rider("finn");
    let now = "2026-11-27T10:00:00[UTC]".parse().unwrap();
    let all = years(&finn, &House::default(), &now);
    assert_eq!(
        all.fits.len(),
        finn.bikes.iter().map(|b| b.sessions.len()).sum::<usize>()
    );
    let hows: Vec<_> = all.fits.iter().map(|fit| &fit.measures[0].how).collect();
    assert!(hows.iter().all(|how| *how == hows[0]));
    assert!(all.newest.is_some());
    assert_eq!(
        bikes(&finn, &House::default())[0].sessions.len(),
        finn.bikes[0].sessions.len()
    );
    // A boy measured a year ago is to be measured again, whatever else holds.
    let later = "2027-11-27T10:00:00[UTC]".parse().unwrap();
    assert!(
        years(&finn, &House::default(), &later)
            .measure_again
            .is_some()
    );
}

#[test]
fn a_visit_says_when_it_is_due() {
    let today = date(2026, 11, 27);
    let said = |day| FollowUp::of(day, today).words;
    assert_eq!(said(date(2026, 11, 27)), "due today");
    assert_eq!(said(date(2026, 11, 28)), "due in 1 day");
    assert_eq!(said(date(2026, 12, 2)), "due in 5 days");
    assert_eq!(said(date(2026, 11, 25)), "2 days overdue");
    assert!(FollowUp::of(today, today).due && !FollowUp::of(date(2026, 12, 2), today).due);
}
