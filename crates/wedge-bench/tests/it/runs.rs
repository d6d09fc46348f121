//! Runs of protocols as they stand.

use crate::{bench, rider};
use jiff::Timestamp;
use uuid::Uuid;
use wedge_bench::{Bench, Declined, Running};
use wedge_core::measure::Quantity;
use wedge_core::trial::{Answer, Blind, Call, CreepUp, RunPlan, Says};
use wedge_files::{CallBody, CallRecord, RunRecord};

fn begun(plan: RunPlan) -> (Bench, RunRecord) {
    let bench = bench(rider("maren"));
    let at = "2026-11-23T10:00:00Z".parse().unwrap();
    let run = bench.begin_run(Uuid::now_v7(), at, plan).unwrap();
    (bench, run)
}

/// The run with these calls on record.
fn standing(bench: &Bench, run: &RunRecord, order: &[bool]) -> Running {
    let mut bench = bench.clone();
    bench.session.runs.push(run.clone());
    bench.running(run.id, order.to_vec()).unwrap()
}

fn record(call: &Call) -> CallRecord {
    CallRecord {
        id: Uuid::now_v7(),
        at: Timestamp::now(),
        body: CallBody::Called(call.clone()),
    }
}

#[test]
fn a_run_is_called_taken_back_and_ended() {
    let plan = RunPlan::CreepUp(CreepUp {
        from_mm: -10.0,
        step_mm: 5.0,
    });
    let (bench, mut run) = begun(plan);
    let mut running = standing(&bench, &run, &[]);
    assert!(matches!(running.take_back(), Err(Declined::NotNow(_))));
    let view = standing(&bench, &run, &[]).view();
    assert!(!view.over && view.last_call.is_none() && !view.hidden);
    let ask = view.screen.ask.unwrap();
    let key = ask.keys[0].label.clone();
    let other = Call {
        ask: "elsewhere".to_owned(),
        answer: Answer::Key(key.clone()),
    };
    assert!(
        running
            .call(&other)
            .unwrap_err()
            .to_string()
            .starts_with("Something else is asked")
    );
    let wrong = Call {
        ask: ask.id.clone(),
        answer: Answer::Key("no such key".to_owned()),
    };
    assert!(matches!(running.call(&wrong), Err(Declined::Refused(_))));
    let call = Call {
        ask: ask.id.clone(),
        answer: Answer::Key(ask.keys[0].key.clone()),
    };
    assert_eq!(running.call(&call).unwrap(), None);
    run.calls.push(record(&call));
    let running = standing(&bench, &run, &[]);
    assert!(running.knows(run.calls[0].id) && running.take_back().is_ok());
    assert_eq!(standing(&bench, &run, &[]).view().last_call, Some(ask.id));
    // Ended before its time, it is broken, and says so.
    assert_eq!(running.ended().unwrap().says, Says::Broken);
}

#[test]
fn a_blind_order_is_shown_setting_by_setting_and_never_before() {
    let plan = RunPlan::Blind(Blind {
        quantity: Quantity::SaddleHeight,
        by: -5.0,
        rounds: 6,
    });
    let (bench, run) = begun(plan);
    let lost = standing(&bench, &run, &[]);
    assert!(
        lost.setting()
            .unwrap_err()
            .to_string()
            .contains("did not travel")
    );
    let order = [true, false, false, true, true, false];
    let mut run = run;
    let mut settings = 0;
    for _ in 0..40 {
        let mut running = standing(&bench, &run, &order);
        let view = standing(&bench, &run, &order).view();
        let Some(ask) = view.screen.ask else { break };
        if view.hidden {
            let setting = running.setting().unwrap();
            assert!(
                setting.starts_with(if order[settings / 2] { "B" } else { "A" }),
                "{setting}"
            );
            settings += 1;
        }
        let call = Call {
            ask: ask.id,
            answer: Answer::Key(ask.keys[0].key.clone()),
        };
        let ended = running.call(&call).unwrap();
        run.calls.push(record(&call));
        if let Some(finding) = ended {
            assert!(finding.picks.is_some());
            return;
        }
    }
    unreachable!("six rounds end");
}

#[test]
fn a_plan_that_cannot_be_right_is_refused() {
    let bench = bench(rider("maren"));
    let plan = RunPlan::CreepUp(CreepUp {
        from_mm: -10.0,
        step_mm: 500.0,
    });
    let declined = bench.begin_run(Uuid::now_v7(), Timestamp::now(), plan);
    assert!(matches!(declined, Err(Declined::Refused(_))));
}
