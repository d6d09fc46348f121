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
