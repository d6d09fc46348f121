//! Runs of protocols in files: read back without loss, refused where they cannot be, and a blind order that stays behind.

use serde_json::{Value, json};
use uuid::Uuid;
use wedge_core::trial::{Answer, Protocol, RunPlan, Says};
use wedge_files::{CallBody, RiderFile, Session};

const CLIMBER: &str = include_str!("../../../../demo/pell-corrie.wedge.json");

fn climber() -> Session {
    RiderFile::read(CLIMBER).unwrap().rider.bikes[0].sessions[0].clone()
}

#[test]
fn a_file_of_the_fourth_format_is_read_and_its_fits_have_no_runs() {
    let old = include_str!("../files/rider-4.json");
    let before: Value = serde_json::from_str(old).unwrap();
    assert_eq!(before["format"], "wedge.rider/4");
    let file = RiderFile::read(old).unwrap();
    assert_eq!(file.format, "wedge.rider/17");
    let session = &file.rider.bikes[0].sessions[0];
    assert_eq!((session.runs.len(), session.run()), (0, None));
    assert_eq!(session.saddle, wedge_core::school::SaddleNotes::default());
    let words =
        before["rider"]["bikes"][0]["sessions"][0]["trials"][0]["foreseen"]["title"].as_str();
    assert_eq!(Some(session.trials[0].foreseen.title.as_str()), words);
    assert_eq!(RiderFile::read(&file.write().unwrap()).unwrap(), file);
}

#[test]
fn what_was_tested_reads_back_call_by_call() {
    let file = RiderFile::read(CLIMBER).unwrap();
    assert_eq!(RiderFile::read(&file.write().unwrap()).unwrap(), file);
    let session = climber();
    let found: Vec<(Protocol, Says)> = session.findings().map(|f| (f.protocol, f.says)).collect();
    assert_eq!(
        found,
        [
            (Protocol::Balance, Says::Nothing),
            (Protocol::RailSweep, Says::Found),
            (Protocol::Blind, Says::Found),
        ]
    );
    let blind = &session.runs[2];
    assert!(matches!(blind.plan, RunPlan::Blind(_)));
    assert_eq!(blind.order.len(), 8);
    // The picks on record are what the calls and the order say.
    let calls = blind.standing();
    let picks = calls.iter().filter(|c| c.ask.ends_with("pick"));
    let right = picks
        .zip(&blind.order)
        .filter(|(call, b)| (call.answer == Answer::Key("b".to_owned())) == **b)
        .count();
    let on_record = blind.finding.as_ref().unwrap().picks.unwrap();
    assert_eq!(Ok(on_record.right), u32::try_from(right));
}

#[test]
fn a_call_taken_back_is_on_record_and_does_not_stand() {
    let mut run = climber().runs[0].clone();
    let all = run.standing();
    let at = run.calls.last().unwrap().at;
    run.calls.push(wedge_files::CallRecord {
        id: Uuid::now_v7(),
        at,
        body: CallBody::TakenBack,
    });
    assert_eq!(run.standing(), all[..all.len() - 1]);
    assert_eq!(run.clock_from(), at);
    run.calls.clear();
    assert_eq!(run.clock_from(), run.started_at);
}

#[test]
fn a_run_that_cannot_be_is_refused_by_its_path() {
    let broken = |pointer: &str, value: Value| {
        let mut file: Value = serde_json::from_str(CLIMBER).unwrap();
        *file
            .pointer_mut(&format!("/rider/bikes/0/sessions/0{pointer}"))
            .unwrap() = value;
        RiderFile::read(&file.to_string()).unwrap_err()
    };
    let at = "rider.bikes[0].sessions[0]";
    let error = broken("/runs/1/plan/rail_sweep/step_mm", json!(90));
    assert_eq!(error.path, format!("{at}.runs[1].plan.rail_sweep.step_mm"));
    let error = broken("/runs/1/setup", json!(Uuid::now_v7()));
    assert_eq!(error.path, format!("{at}.runs[1].setup"));
    let error = broken("/runs/0/plan", json!({ "dowsing": {} }));
    assert!(
        error.path.starts_with(&format!("{at}.runs[0].plan")),
        "{}",
        error.path
    );
    let twice: Value = serde_json::from_str(CLIMBER).unwrap();
    let id = twice["rider"]["bikes"][0]["sessions"][0]["runs"][0]["calls"][0]["id"].clone();
    assert!(
        broken("/runs/0/calls/1/id", id)
            .message
            .contains("stands twice")
    );
    let mut notes = serde_json::to_value(climber().saddle).unwrap();
    notes["sits_ahead_mm"] = json!(500);
    assert_eq!(
        broken("/saddle", notes).path,
        format!("{at}.saddle.sits_ahead_mm")
    );
}

#[test]
fn a_copy_of_a_rider_has_runs_of_its_own_on_its_own_setups() {
    let one = RiderFile::read(CLIMBER).unwrap().rider;
    let copy = one.clone().copied(Uuid::now_v7);
    let (was, is) = (&one.bikes[0].sessions[0], &copy.bikes[0].sessions[0]);
    for (a, b) in was.runs.iter().zip(&is.runs) {
        assert_ne!(a.id, b.id);
        let place = |session: &Session, id| session.setups.iter().position(|s| s.id == id).unwrap();
        assert_eq!(place(was, a.setup), place(is, b.setup));
        assert_eq!(a.standing(), b.standing());
        assert!(a.calls.iter().zip(&b.calls).all(|(a, b)| a.id != b.id));
        assert_eq!(a.finding, b.finding);
    }
}
