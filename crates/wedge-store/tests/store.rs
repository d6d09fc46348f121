//! The record on a real file.
#![allow(clippy::unwrap_used)]

use jiff::Timestamp;
use uuid::Uuid;
use wedge_core::measure::{Quantity, Reading};
use wedge_files::{ReadingRecord, RiderFile};
use wedge_store::{Store, StoreError};

const DEMO: &str = include_str!("../../../demo/tobin-arkle.wedge.json");

async fn store() -> (tempfile::TempDir, Store) {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(&folder.path().join("wedge.sqlite"))
        .await
        .unwrap();
    (folder, store)
}

fn stature(value: f64) -> ReadingRecord {
    ReadingRecord {
        id: Uuid::now_v7(),
        taken_at: Timestamp::now(),
        reading: Reading::new(Quantity::Stature, value),
    }
}

#[tokio::test]
async fn readings_are_appended_in_order_and_once() {
    let (_folder, store) = store().await;
    let rider = Uuid::now_v7();
    let first = stature(1712.0);
    store
        .create_rider(rider, "Ida", std::slice::from_ref(&first), Timestamp::now())
        .await
        .unwrap();
    store
        .create_rider(rider, "Ida", &[stature(1.0)], Timestamp::now())
        .await
        .unwrap();
    let second = stature(1709.0);
    let version = store.add_body_reading(rider, &second).await.unwrap();
    assert_eq!(
        store.add_body_reading(rider, &second).await.unwrap(),
        version
    );
    let read = store.rider(rider).await.unwrap();
    assert_eq!(read.noun.readings, [first, second]);
    assert_eq!(read.version, version);
}

#[tokio::test]
async fn a_name_is_changed_only_from_the_version_it_was_read_at() {
    let (_folder, store) = store().await;
    let rider = Uuid::now_v7();
    store
        .create_rider(rider, "Ida", &[stature(1712.0)], Timestamp::now())
        .await
        .unwrap();
    assert_eq!(store.rename_rider(rider, "Ida L.", 1).await.unwrap(), 2);
    assert!(matches!(
        store.rename_rider(rider, "Ada", 1).await,
        Err(StoreError::Stale { current: 2 })
    ));
    assert_eq!(store.rider(rider).await.unwrap().noun.name, "Ida L.");
    assert!(matches!(
        store.rename_rider(Uuid::now_v7(), "x", 1).await,
        Err(StoreError::NotFound("rider"))
    ));
}

#[tokio::test]
async fn an_imported_rider_reads_back_as_it_was_and_a_second_import_writes_nothing() {
    let (_folder, store) = store().await;
    let rider = RiderFile::read(DEMO).unwrap().rider;
    store.import_rider(&rider, Timestamp::now()).await.unwrap();
    assert_eq!(store.rider(rider.id).await.unwrap().noun, rider);

    // The same rider under another id: the bikes are on record already, so none of it is taken.
    let mut copy = rider.clone();
    copy.id = Uuid::now_v7();
    copy.readings.clear();
    copy.readings.push(stature(1800.0));
    assert!(matches!(
        store.import_rider(&copy, Timestamp::now()).await,
        Err(StoreError::Conflict(_))
    ));
    assert_eq!(store.riders("", 10).await.unwrap().len(), 1);
}

#[tokio::test]
async fn the_file_is_for_its_owner_and_opens_again() {
    let (folder, store) = store().await;
    let rider = Uuid::now_v7();
    store
        .create_rider(rider, "Ida", &[stature(1712.0)], Timestamp::now())
        .await
        .unwrap();
    store.close().await;
    let file = folder.path().join("wedge.sqlite");
    #[cfg(unix)]
    {
        use std::os::unix::fs::PermissionsExt;
        let mode = std::fs::metadata(&file).unwrap().permissions().mode();
        assert_eq!(mode & 0o777, 0o600);
    }
    let again = Store::open(&file).await.unwrap();
    assert_eq!(again.rider(rider).await.unwrap().noun.name, "Ida");
    assert!(
        Store::open(&folder.path().join("no/such/folder.sqlite"))
            .await
            .is_err()
    );
}

/// The half-way rider of the demo studio, and her open session.
async fn half_way(store: &Store) -> (wedge_files::Rider, wedge_files::Session) {
    let text = include_str!("../../../demo/maren-ostby.wedge.json");
    let rider = RiderFile::read(text).unwrap().rider;
    store.import_rider(&rider, Timestamp::now()).await.unwrap();
    let session = rider.bikes[0].sessions[0].clone();
    (rider, session)
}

fn trial_of(session: &wedge_files::Session) -> wedge_store::NewTrial {
    let last = session.trials.last().unwrap();
    wedge_store::NewTrial {
        id: Uuid::now_v7(),
        changes: last.changes.clone(),
        effort: None,
        foreseen: last.foreseen.clone(),
        before: session.now.unwrap(),
        after: wedge_files::SetupRecord {
            id: Uuid::now_v7(),
            recorded_at: Timestamp::now(),
            setup: *session.now().unwrap(),
        },
    }
}

fn entry(body: wedge_files::EntryBody) -> wedge_files::Entry {
    wedge_files::Entry {
        id: Uuid::now_v7(),
        at: Timestamp::now(),
        body,
    }
}

#[tokio::test]
async fn a_trial_comes_on_the_bench_and_goes_when_it_is_put_back() {
    use wedge_files::{EntryBody, Outcome};
    let (_folder, store) = store().await;
    let (_, session) = half_way(&store).await;
    let version = store.session(session.id).await.unwrap().version;
    let trial = trial_of(&session);

    assert!(matches!(
        store.begin_trial(session.id, &trial, version + 7).await,
        Err(StoreError::Stale { .. })
    ));
    assert_eq!(
        store.session(session.id).await.unwrap().noun,
        session,
        "nothing is half-written"
    );

    let version = store
        .begin_trial(session.id, &trial, version)
        .await
        .unwrap();
    let on_bench = store.session(session.id).await.unwrap();
    assert_eq!(on_bench.noun.now, Some(trial.after.id));
    assert_eq!(on_bench.noun.undecided().unwrap().number, 4);
    assert!(matches!(
        store
            .begin_trial(session.id, &trial_of(&session), version)
            .await,
        Err(StoreError::Conflict(_))
    ));

    let back = entry(EntryBody::Outcome(Outcome::PutBack));
    let version = store.add_entry(trial.id, &back).await.unwrap();
    assert_eq!(
        store.add_entry(trial.id, &back).await.unwrap(),
        version,
        "sent again, it is the same"
    );
    let after = store.session(session.id).await.unwrap().noun;
    assert_eq!(after.now, session.now);
    assert_eq!(
        after.trials.last().unwrap().outcome(),
        Some(Outcome::PutBack)
    );

    // Words may still be added to a settled trial, nothing else.
    store
        .add_entry(trial.id, &entry(EntryBody::Words("later".to_owned())))
        .await
        .unwrap();
    assert!(matches!(
        store
            .add_entry(trial.id, &entry(EntryBody::Outcome(Outcome::Kept)))
            .await,
        Err(StoreError::Conflict(_))
    ));
    assert!(matches!(
        store.add_entry(Uuid::now_v7(), &back).await,
        Err(StoreError::NotFound("trial"))
    ));
}

#[tokio::test]
async fn one_fit_of_a_bike_is_open_and_a_finished_one_never_changes() {
    use wedge_store::SessionEdit;
    let (_folder, store) = store().await;
    let (rider, session) = half_way(&store).await;
    let bike = rider.bikes[0].id;
    let mut next = session.clone();
    next.id = Uuid::now_v7();
    next.number = 2;
    assert!(matches!(
        store.open_session(bike, &next, Timestamp::now()).await,
        Err(StoreError::Conflict(_))
    ));
    assert_eq!(
        store.riders("", 10).await.unwrap()[0]
            .open
            .as_ref()
            .unwrap()
            .session_id,
        session.id
    );

    store
        .save_draft(session.id, "{}", Timestamp::now())
        .await
        .unwrap();
    let version = store.session(session.id).await.unwrap().version;
    let version = store.finish_session(session.id, version).await.unwrap();
    assert_eq!(store.draft(session.id).await.unwrap(), None);
    assert!(matches!(
        store
            .edit_session(session.id, &SessionEdit::default(), version)
            .await,
        Err(StoreError::Conflict(_))
    ));
    assert!(matches!(
        store.save_draft(session.id, "{}", Timestamp::now()).await,
        Err(StoreError::NotFound(_))
    ));

    next.now = None;
    next.setups.clear();
    next.trials.clear();
    next.readings.clear();
    store
        .open_session(bike, &next, Timestamp::now())
        .await
        .unwrap();
    store
        .open_session(bike, &next, Timestamp::now())
        .await
        .unwrap();
    assert_eq!(store.bike(bike).await.unwrap().noun.sessions.len(), 2);
}

#[tokio::test]
async fn a_frame_is_corrected_only_from_the_version_it_was_read_at() {
    use wedge_store::BikeEdit;
    let (_folder, store) = store().await;
    let (rider, _) = half_way(&store).await;
    let bike = store.bike(rider.bikes[0].id).await.unwrap();
    let mut frame = bike.noun.frame;
    frame.frame_stack_mm.0 += 5.0;
    let edit = BikeEdit {
        frame: Some(frame),
        ..BikeEdit::default()
    };
    let version = store
        .edit_bike(bike.noun.id, &edit, bike.version)
        .await
        .unwrap();
    assert!(matches!(
        store.edit_bike(bike.noun.id, &edit, bike.version).await,
        Err(StoreError::Stale { current }) if current == version
    ));
    let corrected = store.bike(bike.noun.id).await.unwrap().noun;
    assert_eq!(corrected.frame, frame);
    assert_eq!(
        (corrected.name, corrected.setup),
        (bike.noun.name, bike.noun.setup)
    );
}
