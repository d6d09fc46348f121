//! What a fit shows: what is taped, what stops the way, which fit of the model counts, what the hand-out carries.

use crate::{bench, rider};
use uuid::Uuid;
use wedge_bench::{Bench, Declined, TriedOut, Versions, finishes};
use wedge_core::foresee::Change;
use wedge_core::intake::{Flag, GoOn};
use wedge_core::measure::{Quantity, Reading};
use wedge_core::work::Station;
use wedge_files::{House, LookBody, Outcome, ReadingRecord, Rider, Session};

const AT: Versions = Versions {
    session: 3,
    rider: 2,
    bike: 1,
};

fn words<T: std::fmt::Debug>(declined: Result<T, Declined>) -> String {
    declined.unwrap_err().to_string()
}

/// The first fit of a rider's first bike as it was before anything was taped.
fn untaped() -> Bench {
    let mut rider = rider("tobin");
    let fit = &mut rider.bikes[0].sessions[0];
    *fit = Session {
        readings: Vec::new(),
        setups: Vec::new(),
        now: None,
        looks: Vec::new(),
        calibrations: Vec::new(),
        trials: Vec::new(),
        runs: Vec::new(),
        disputes: Vec::new(),
        ..fit.clone()
    };
    rider.bikes[0].sessions.truncate(1);
    bench(rider)
}

#[test]
fn a_saddle_nobody_taped_is_drawn_from_an_estimate_and_nothing_is_said_of_it() {
    let blank = untaped();
    assert_eq!(blank.unknown(), [Quantity::SaddleHeight, Quantity::Setback]);
    assert_eq!(
        words(blank.closed()),
        "Tape the saddle height and the setback first"
    );
    assert_eq!(
        words(blank.on_the_bench("the first look")),
        "Close the bike as found before the first look"
    );
    let view = blank.clone().view(AT, None).unwrap();
    assert!(view.limits.is_empty() && view.gross.errors.is_empty() && view.found.is_none());

    // Taped, it may be closed; the convention is written down with the reading.
    let mut taped = blank;
    for (quantity, value) in [(Quantity::SaddleHeight, 742.0), (Quantity::Setback, 210.0)] {
        let reading = ReadingRecord::new(
            Uuid::now_v7(),
            "2026-11-14T09:00:00Z".parse().unwrap(),
            Reading::new(quantity, value),
        );
        let (record, settled) = taped.read_off(reading).unwrap();
        assert!(record.reading.convention.is_some() && record.reading.sit_reference.is_some());
        assert_eq!(settled, None);
        taped.session.readings.push(record);
    }
    let found = taped.closed().unwrap();
    assert!((found.saddle.setback_mm.0 - 210.0).abs() < 1e-9);
}

#[test]
fn nonsense_off_the_tape_is_refused() {
    let blank = untaped();
    let read = |quantity, value| {
        blank.read_off(ReadingRecord::new(
            Uuid::now_v7(),
            "2026-11-14T09:00:00Z".parse().unwrap(),
            Reading::new(quantity, value),
        ))
    };
    assert!(words(read(Quantity::SaddleHeight, 74.2)).contains("or write 74.2 cm"));
    assert_eq!(
        words(read(Quantity::PadSpacers, 20.0)),
        "That is not measured on this bike"
    );
}

#[test]
fn a_red_flag_stops_the_way_until_a_reason_stands_there() {
    let mut stopped = bench(rider("maren"));
    assert!(stopped.go_on().is_ok());
    stopped.session.intake.flags = vec![Flag::ALL[0]];
    let why = words(stopped.go_on());
    assert!(why.starts_with("Stopped by a red flag"), "{why}");
    assert!(stopped.may_stand_at(Station::Intake).is_ok());
    assert!(stopped.may_stand_at(Station::Bars).is_err());
    assert!(
        words(stopped.tried_out(&[Change::by(Quantity::SaddleHeight, -5.0)], false))
            .starts_with("Stopped")
    );
    let view = stopped.clone().view(AT, None).unwrap();
    assert!(view.stopped && view.stops.len() == 1);
    stopped.session.intake.go_on = Some(GoOn {
        reason: "Cleared in writing".to_owned(),
        flags: vec![Flag::ALL[0]],
    });
    assert!(stopped.go_on().is_ok());
}

#[test]
fn a_trial_is_foreseen_and_what_the_trade_does_not_do_is_insisted_on() {
    let fit = bench(rider("maren"));
    let TriedOut {
        foreseen, setup, ..
    } = fit
        .tried_out(&[Change::by(Quantity::SaddleHeight, -6.0)], false)
        .unwrap();
    assert_eq!(foreseen.title, "Saddle down 6");
    let was = fit.now().unwrap().saddle.saddle_height_mm.0;
    assert!((was - setup.saddle.saddle_height_mm.0 - 6.0).abs() < 0.1);
    let crank = [Change::to(
        Quantity::Crank,
        fit.now().unwrap().pedalling.right.crank_mm.0 - 10.0,
    )];
    assert!(words(fit.tried_out(&crank, false)).contains("at once"));
    assert!(fit.tried_out(&crank, true).is_ok());
    let still = [Change::by(Quantity::SaddleHeight, 0.0)];
    assert_eq!(
        words(fit.tried_out(&still, false)),
        "Nothing to try: no bolt moves"
    );
}

#[test]
fn the_fit_of_the_model_counts_until_the_body_is_measured_again() {
    let mut ilse: Rider = rider("tobin");
    let mut fit = bench(ilse.clone());
    if fit
        .session
        .looks
        .iter()
        .all(|look| !matches!(look.body, LookBody::Seen(_)))
    {
        fit = bench(rider("maren"));
        ilse = rider("maren");
    }
    let at = "2030-01-01T10:00:00Z".parse().unwrap();
    fit.session.trials.clear();
    let calibration = fit.fitted().unwrap();
    let record = |calibration| wedge_files::CalibrationRecord {
        id: Uuid::now_v7(),
        at,
        calibration,
    };
    let with = |calibration, stature: Option<f64>| {
        let mut rider = ilse.clone();
        rider.bikes[0]
            .sessions
            .last_mut()
            .unwrap()
            .calibrations
            .push(record(calibration));
        rider.bikes[0].sessions.last_mut().unwrap().state = wedge_files::SessionState::Open;
        if let Some(stature) = stature {
            rider.readings.push(ReadingRecord::new(
                Uuid::now_v7(),
                at,
                Reading::new(Quantity::Stature, stature),
            ));
        }
        bench(rider)
    };
    let used = |bench: &Bench| bench.input(bench.now().unwrap()).unwrap().fit.is_some();
    let on = with(Some(calibration.clone()), None);
    assert!(used(&on));
    let shown = on.view(AT, None).unwrap().calibration.unwrap();
    assert!(shown.on && shown.words.is_none());
    assert!(!used(&with(None, None)), "switched off");
    let stale = with(Some(calibration), Some(1900.0));
    assert!(!used(&stale), "the body was measured again");
    assert!(
        stale
            .view(AT, None)
            .unwrap()
            .calibration
            .unwrap()
            .words
            .unwrap()
            .contains("measured again")
    );
}

#[test]
fn a_view_gives_everything_once_and_says_what_was_seen_beside_what_was_foreseen() {
    let fit = bench(rider("maren"));
    let trials = fit.session.trials.len();
    let view = fit
        .view(AT, Some(serde_json::json!({"station": "bars"})))
        .unwrap();
    assert_eq!(
        (view.version, view.rider.version, view.bike.version),
        (3, 2, 1)
    );
    assert_eq!(view.trials.len(), trials);
    assert!(
        view.session.trials.is_empty()
            && view.session.looks.is_empty()
            && view.session.runs.is_empty()
    );
    assert!(view.seen.iter().any(|row| {
        row.foreseen
            .as_deref()
            .is_some_and(|words| words.contains('±'))
    }));
    assert!(
        view.certainty
            .iter()
            .all(|sure| sure.band <= sure.with_stature_alone + 1e-9)
    );
    assert!(
        view.trials
            .iter()
            .filter(|t| t.outcome == Some(Outcome::Kept))
            .all(|t| t.turned_out.is_some())
    );
    assert_eq!(view.draft.unwrap()["station"], "bars");
}

#[test]
fn the_hand_out_carries_found_and_left_and_what_was_estimated_once() {
    let sheet = bench(rider("tobin")).handout().unwrap();
    let first = &sheet.table[0];
    assert!((first.left - first.found - first.difference).abs() < 1e-9);
    let mut estimated: Vec<_> = sheet
        .estimated
        .iter()
        .map(|length| length.quantity)
        .collect();
    let all = estimated.len();
    estimated.dedup();
    assert_eq!(estimated.len(), all);
    assert!(words(untaped().handout()).starts_with("Nothing to hand out yet"));
}

#[test]
fn a_fit_is_finished_only_when_nothing_is_left_open() {
    let mut session = bench(rider("tobin")).session;
    assert_eq!(finishes(&session), Ok(()));
    if let Some(trial) = session.trials.last_mut() {
        trial
            .entries
            .retain(|e| !matches!(e.body, wedge_files::EntryBody::Outcome(_)));
    }
    assert!(words(finishes(&session)).starts_with("A trial is on the bench"));
    session.setups.clear();
    assert!(words(finishes(&session)).starts_with("The bike as found is not closed"));
}

#[test]
fn a_fit_without_its_bike_or_a_rider_without_stature_is_declined() {
    let whole = rider("tobin");
    let session = whole.bikes[0].sessions[0].clone();
    let mut without = whole.clone();
    without.readings.clear();
    let declined = Bench::of(without, session.clone(), House::default());
    assert_eq!(words(declined), "The rider needs a stature first");
    let mut without = whole;
    without.bikes.clear();
    assert_eq!(
        words(Bench::of(without, session, House::default())),
        "There is no such bike"
    );
}
