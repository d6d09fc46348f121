//! Runs of protocols on a real file: one at a time, calls behind one another, an order nobody reads before the end.
use jiff::Timestamp;
use uuid::Uuid;
use wedge_core::measure::Quantity;
use wedge_core::trial::{Answer, Blind, Call, Finding, RunPlan};
use wedge_files::{CallBody, CallRecord, Rider, RiderFile, RunRecord, StudioFile};
use wedge_store::{Store, StoreError};

const DEMO: &str = include_str!("../../../../demo/hedda-solum.wedge.json");
const CLIMBER: &str = include_str!("../../../../demo/pell-corrie.wedge.json");

async fn store() -> (tempfile::TempDir, Store) {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(&folder.path().join("wedge.sqlite"))
        .await
        .unwrap();
    (folder, store)
}

async fn imported(store: &Store, text: &str) -> Rider {
    let rider = RiderFile::read(text).unwrap().rider;
    let studio = StudioFile::new(vec![rider.clone()]);
    store
        .import_studio(&studio, Timestamp::now())
        .await
        .unwrap();
    rider
}

fn run(setup: Uuid) -> RunRecord {
    RunRecord {
        id: Uuid::now_v7(),
        started_at: Timestamp::now(),
        setup,
        plan: RunPlan::Blind(Blind {
            quantity: Quantity::Setback,
            by: 5.0,
            rounds: 5,
        }),
        effort: None,
        calls: Vec::new(),
        order: Vec::new(),
        ended_at: None,
        finding: None,
    }
}

fn call(ask: &str) -> CallRecord {
    CallRecord {
        id: Uuid::now_v7(),
        at: Timestamp::now(),
        body: CallBody::Called(Call {
            ask: ask.to_owned(),
            answer: Answer::Key("Enter".to_owned()),
        }),
    }
}

/// A finding of somebody: the store keeps it as it is.
fn finding() -> Finding {
    let climber = RiderFile::read(CLIMBER).unwrap().rider;
    let session = &climber.bikes[0].sessions[0];
    session.runs[2].finding.clone().unwrap()
}

#[tokio::test]
async fn an_imported_run_reads_back_with_its_calls_and_order() {
    let (_folder, store) = store().await;
    let rider = imported(&store, CLIMBER).await;
    assert_eq!(store.rider(rider.id).await.unwrap().noun, rider);
    // Its years know what was found, without trials.
    let years = store.rider_in_years(rider.id).await.unwrap().noun;
    assert_eq!(years.bikes[0].sessions[0].findings().count(), 3);
}

#[tokio::test]
async fn runs_go_on_one_at_a_time_and_calls_stand_behind_one_another() {
    let (_folder, store) = store().await;
    let rider = imported(&store, DEMO).await;
    let session = rider.bikes[0].sessions[0].clone();
    let first = run(session.now.unwrap());
    let order = [true, false, true, true, false];
    let version = store.session(session.id).await.unwrap().version;
    store.begin_run(session.id, &first, &order).await.unwrap();
    // Sent again, the order thrown first stays.
    store
        .begin_run(session.id, &first, &[false; 5])
        .await
        .unwrap();
    assert_eq!(store.order_of_run(first.id).await.unwrap(), order);
    assert_eq!(
        store.session(session.id).await.unwrap().version,
        version + 1
    );
    let other = store.begin_run(session.id, &run(first.setup), &order).await;
    assert!(matches!(other, Err(StoreError::Conflict(why)) if why.contains("blind a/b")));

    let (a, b) = (call("a"), call("b"));
    store.add_call(first.id, &a, 0, None).await.unwrap();
    store.add_call(first.id, &a, 0, None).await.unwrap();
    let late = store.add_call(first.id, &b, 0, None).await;
    assert!(matches!(late, Err(StoreError::Conflict(why)) if why.contains("another window")));
    let early = store
        .end_run(first.id, &finding(), 0, Timestamp::now())
        .await;
    assert!(matches!(early, Err(StoreError::Conflict(_))));
    let read = |session: wedge_files::Session| {
        let run = session.runs.into_iter().find(|r| r.id == first.id).unwrap();
        (run.calls.len(), run.order, run.finding.is_some())
    };
    let now = store.session(session.id).await.unwrap().noun;
    assert_eq!(read(now), (1, Vec::new(), false), "the order stays hidden");
    store
        .add_call(first.id, &b, 1, Some(&finding()))
        .await
        .unwrap();
    let now = store.session(session.id).await.unwrap().noun;
    assert_eq!(read(now), (2, order.to_vec(), true));
    let over = store.add_call(first.id, &call("c"), 2, None).await;
    assert!(matches!(over, Err(StoreError::Conflict(why)) if why.contains("over")));
    // Ended again it stays as it was found.
    store
        .end_run(first.id, &finding(), 0, Timestamp::now())
        .await
        .unwrap();
    // And the next one may begin.
    store
        .begin_run(session.id, &run(first.setup), &order)
        .await
        .unwrap();
}

#[tokio::test]
async fn runs_go_with_their_rider_and_a_finished_fit_takes_no_calls() {
    let (folder, store) = store().await;
    let rider = imported(&store, DEMO).await;
    let session = rider.bikes[0].sessions[0].clone();
    let going = run(session.now.unwrap());
    store
        .begin_run(session.id, &going, &[true; 5])
        .await
        .unwrap();
    let version = store.session(session.id).await.unwrap().version;
    store.finish_session(session.id, version).await.unwrap();
    let late = store.add_call(going.id, &call("a"), 0, None).await;
    assert!(matches!(late, Err(StoreError::Conflict(why)) if why.contains("finished")));
    let version = store.rider(rider.id).await.unwrap().version;
    store.delete_rider(rider.id, version).await.unwrap();
    assert!(matches!(
        store.session_of_run(going.id).await,
        Err(StoreError::NotFound("run"))
    ));
    store.close().await;
    let left = std::fs::read(folder.path().join("wedge.sqlite")).unwrap();
    let id = going.id.to_string();
    let told = left.windows(id.len()).any(|bytes| bytes == id.as_bytes());
    assert!(!told, "no trace of the run stays");
}
