//! A record that can be trusted: strangers, damage, later versions, copies, restores, arrivals, clocks.
use crate::store::{all_riders, stature, store};
use jiff::{Timestamp, ToSpan, Zoned};
use sqlx::{Connection, SqliteConnection};
use std::fs;
use std::path::Path;
use uuid::Uuid;
use wedge_core::measure::Quantity;
use wedge_files::{House, LookBody, LookEntry, Rider, RiderFile, StudioFile};
use wedge_store::{Store, StoreError};

const HALF_WAY: &str = include_str!("../../../../demo/maren-ostby.wedge.json");
const DEMO: &str = include_str!("../../../../demo/tobin-arkle.wedge.json");

fn rider(name: &str) -> Rider {
    Rider::new(Uuid::now_v7(), name, vec![stature(1712.0)])
}

async fn on_record(store: &Store, name: &str) -> Uuid {
    let rider = rider(name);
    store.create_rider(&rider, Timestamp::now()).await.unwrap();
    rider.id
}

/// A statement of a stranger's hand.
async fn behind_its_back(file: &Path, statement: &'static str) {
    let url = format!("sqlite://{}", file.display());
    let mut connection = SqliteConnection::connect(&url).await.unwrap();
    sqlx::raw_sql(statement)
        .execute(&mut connection)
        .await
        .unwrap();
    connection.close().await.unwrap();
}

#[tokio::test]
async fn a_strangers_file_is_left_as_it_is() {
    use std::os::unix::fs::PermissionsExt;
    let folder = tempfile::tempdir().unwrap();
    let text = folder.path().join("notes.txt");
    fs::write(
        &text,
        "a letter, not a record of anything, and long enough to have a header of its own. "
            .repeat(3),
    )
    .unwrap();
    let other = folder.path().join("other.sqlite");
    fs::write(&other, "").unwrap();
    behind_its_back(
        &other,
        "CREATE TABLE songs (title TEXT); INSERT INTO songs VALUES ('x')",
    )
    .await;
    for file in [&text, &other] {
        fs::set_permissions(file, fs::Permissions::from_mode(0o644)).unwrap();
        let before = fs::read(file).unwrap();
        let refused = Store::open(file).await.unwrap_err();
        assert!(matches!(refused, StoreError::Foreign(_)), "{refused}");
        assert_eq!(fs::read(file).unwrap(), before);
        assert_eq!(
            fs::metadata(file).unwrap().permissions().mode() & 0o777,
            0o644
        );
    }
    let beside: Vec<_> = fs::read_dir(folder.path()).unwrap().collect();
    assert_eq!(beside.len(), 2, "nothing was made beside them");
}

#[tokio::test]
async fn damage_and_a_later_version_are_said_in_plain_words() {
    let (folder, store) = store().await;
    let file = folder.path().join("wedge.sqlite");
    store
        .import_studio(
            &StudioFile::new(vec![RiderFile::read(DEMO).unwrap().rider]),
            Timestamp::now(),
        )
        .await
        .unwrap();
    store.close().await;
    let sound = fs::read(&file).unwrap();
    let mut damaged = sound.clone();
    // Every page but the first.
    for byte in damaged.iter_mut().skip(4096).step_by(7) {
        *byte ^= 0x5a;
    }
    fs::write(&file, &damaged).unwrap();
    let refused = Store::open(&file).await.unwrap_err();
    assert!(matches!(refused, StoreError::Damaged(_)), "{refused}");
    assert!(refused.to_string().contains("wedge restore"));
    assert_eq!(fs::read(&file).unwrap(), damaged, "it was left as it was");

    fs::write(&file, &sound).unwrap();
    behind_its_back(
        &file,
        "INSERT INTO _sqlx_migrations (version, description, success, checksum, execution_time) VALUES (9999, 'later', 1, x'00', 0);
         UPDATE written_by SET version = '7.0.0'",
    )
    .await;
    let refused = Store::open(&file).await.unwrap_err();
    assert!(
        refused
            .to_string()
            .contains("written by Wedge 7.0.0; this is "),
        "{refused}"
    );
}

#[tokio::test]
async fn a_bad_row_costs_its_own_rider_and_nobody_else() {
    let (folder, store) = store().await;
    let file = folder.path().join("wedge.sqlite");
    let demo = RiderFile::read(DEMO).unwrap().rider;
    store
        .import_studio(&StudioFile::new(vec![demo.clone()]), Timestamp::now())
        .await
        .unwrap();
    let well = on_record(&store, "Ida").await;
    let latin = on_record(&store, "Not even text").await;
    behind_its_back(&file, "UPDATE setups SET setup = '{\"cockpit\": 3}'").await;
    let bytes: &'static str = Box::leak(
        format!("UPDATE readings SET reading = CAST(x'ff41' AS TEXT) WHERE rider_id = '{latin}'")
            .into_boxed_str(),
    );
    behind_its_back(&file, bytes).await;

    let room = store.riders("", true, 100).await.unwrap();
    assert_eq!(room.len(), 3);
    let read = store
        .riders_of(&store.rider_ids().await.unwrap())
        .await
        .unwrap();
    assert_eq!(read.iter().filter(|r| r.is_ok()).count(), 1);
    assert_eq!(store.rider(well).await.unwrap().noun.name, "Ida");
    let unreadable = store.unreadable().await.unwrap();
    let names: Vec<&str> = unreadable.iter().map(|u| u.name.as_str()).collect();
    assert_eq!(names, [demo.name.as_str(), "Not even text"]);
    assert!(unreadable[0].why.contains("setup"), "{}", unreadable[0].why);
    let raw = store.raw_rider(&demo.id.to_string()).await.unwrap();
    assert_eq!(raw["riders"][0]["name"], demo.name);
    assert!(
        raw["setups"]
            .as_array()
            .unwrap()
            .iter()
            .all(|s| s["setup"] == "{\"cockpit\": 3}")
    );
    assert!(!raw["trials"].as_array().unwrap().is_empty());
    assert!(matches!(
        store.rider(demo.id).await,
        Err(StoreError::Body { .. })
    ));

    // What the studio itself chose, likewise: the house's way stands in, and it is named.
    store
        .save_house(
            &House {
                name: "Slate".into(),
                ..House::default()
            },
            0,
        )
        .await
        .unwrap();
    behind_its_back(&file, "UPDATE studio SET house = 'no'").await;
    assert_eq!(store.house().await.unwrap().noun, House::default());
    assert_eq!(
        store.unreadable().await.unwrap()[0].name,
        "How the studio works"
    );
}

#[tokio::test]
async fn a_copy_is_put_back_and_the_old_record_kept() {
    let (folder, store) = store().await;
    let file = folder.path().join("wedge.sqlite");
    on_record(&store, "Ida").await;
    let copy = folder.path().join("copy.sqlite");
    store.backup(&copy).await.unwrap();
    on_record(&store, "Ada").await;

    // While it is open elsewhere it is not replaced, closed or not.
    let other = Store::open(&file).await.unwrap();
    for refused in [
        store.restore(&copy).await,
        Store::restore_closed(&copy, &file).await,
    ] {
        let refused = refused.unwrap_err().to_string();
        assert!(refused.contains("another Wedge holds"), "{refused}");
    }
    assert_eq!(all_riders(&store).await.len(), 2);
    other.close().await;
    drop(other);

    // In the open record.
    let kept = store.restore(&copy).await.unwrap().unwrap();
    let names = |riders: Vec<Rider>| riders.into_iter().map(|r| r.name).collect::<Vec<_>>();
    assert_eq!(names(all_riders(&store).await), ["Ida"]);
    on_record(&store, "After it").await;
    let old = Store::open(&kept).await.unwrap();
    assert_eq!(names(all_riders(&old).await), ["Ida", "Ada"]);
    store.close().await;
    drop(store);

    // And while nobody holds it, over one that is damaged to the first page.
    fs::write(&file, vec![7; 9000]).unwrap();
    let kept = Store::restore_closed(&copy, &file).await.unwrap().unwrap();
    assert_eq!(fs::read(kept).unwrap(), vec![7; 9000]);
    let store = Store::open(&file).await.unwrap();
    assert_eq!(names(all_riders(&store).await), ["Ida"]);

    // A copy that is none is refused and changes nothing.
    let bad = folder.path().join("bad.sqlite");
    fs::write(&bad, "nothing").unwrap();
    assert!(matches!(
        store.restore(&bad).await,
        Err(StoreError::Foreign(_))
    ));
    let mut half = fs::read(&copy).unwrap();
    half.truncate(half.len() / 2);
    fs::write(&bad, half).unwrap();
    assert!(store.restore(&bad).await.is_err());
    assert_eq!(names(all_riders(&store).await), ["Ida"]);
    let left: Vec<String> = fs::read_dir(folder.path())
        .unwrap()
        .map(|f| f.unwrap().file_name().into_string().unwrap())
        .filter(|name| name.contains("unfinished"))
        .collect();
    assert!(left.is_empty(), "{left:?}");
}

#[tokio::test]
async fn the_days_copies_are_made_once_a_day_and_so_many_are_kept() {
    let (_folder, store) = store().await;
    on_record(&store, "Ida").await;
    let today = Zoned::now();
    // The clock was two years ahead once.
    for days in [731, -9, -8, -7, -6, -5, -4, -3, -2, -1, 0] {
        let day = today.checked_add(days.days()).unwrap();
        store.daily_copy(&day, 7).await.unwrap();
        store.daily_copy(&day, 7).await.unwrap();
    }
    let copies = store.copies();
    let dates: Vec<_> = copies.iter().map(|c| c.made.date()).collect();
    let wanted: Vec<_> = (0..7)
        .map(|d| today.date().checked_sub(d.days()).unwrap())
        .collect();
    assert_eq!(dates, wanted);
    let copy = Store::open(&copies[0].file).await.unwrap();
    assert_eq!(all_riders(&copy).await.len(), 1);
    store.daily_copy(&today, 0).await.unwrap();
    assert!(store.copies().is_empty());
}

#[tokio::test]
async fn nobody_sees_an_arrival_before_it_lands_and_a_stopped_one_is_forgotten() {
    let (folder, store) = store().await;
    let arrival = store.arrival(Timestamp::now());
    let coming: Vec<Rider> = (0..40).map(|n| rider(&format!("Rider {n}"))).collect();
    arrival.take(&coming[..20]).await.unwrap();
    assert!(all_riders(&store).await.is_empty());
    assert!(store.riders("", true, 100).await.unwrap().is_empty());
    assert!(matches!(
        store.rider(coming[0].id).await,
        Err(StoreError::NotFound(_))
    ));
    arrival.take(&coming[20..]).await.unwrap();
    arrival.land(None, &[]).await.unwrap();
    assert_eq!(all_riders(&store).await, coming);
    drop(arrival);

    // One of them once more: a conflict by name, and of the others nobody stays.
    let again = [rider("New"), coming[3].clone()];
    let refused = store
        .import_studio(&StudioFile::new(again.to_vec()), Timestamp::now())
        .await
        .unwrap_err();
    assert!(refused.to_string().starts_with("Rider 3: "), "{refused}");
    assert_eq!(all_riders(&store).await.len(), 40);

    // Stopped in the middle.
    store
        .arrival(Timestamp::now())
        .take(&[rider("Half-way")])
        .await
        .unwrap();
    store.close().await;
    drop(store);
    let file = folder.path().join("wedge.sqlite");
    let store = Store::open(&file).await.unwrap();
    assert_eq!(all_riders(&store).await.len(), 40);
    store.close().await;
    drop(store);
    let url = format!("sqlite://{}", file.display());
    let mut connection = SqliteConnection::connect(&url).await.unwrap();
    let rows: i64 = sqlx::query_scalar("SELECT count(*) FROM riders")
        .fetch_one(&mut connection)
        .await
        .unwrap();
    assert_eq!(rows, 40, "nothing of it is left in the file either");
}

#[tokio::test]
async fn a_house_chosen_meanwhile_outlives_an_import() {
    let (_folder, store) = store().await;
    let arrival = store.arrival(Timestamp::now());
    arrival.take(&[rider("Ida")]).await.unwrap();
    // Chosen after the import began and before it ended.
    let chosen = House {
        name: "Slate Ferry".into(),
        ..House::default()
    };
    store.save_house(&chosen, 0).await.unwrap();
    arrival
        .land(
            Some(&House {
                name: "Another".into(),
                ..House::default()
            }),
            &[],
        )
        .await
        .unwrap();
    let house = store.house().await.unwrap();
    assert_eq!(
        (house.noun.name.as_str(), house.version),
        ("Slate Ferry", 1)
    );
}

#[tokio::test]
async fn an_id_from_elsewhere_is_a_conflict_and_not_a_success() {
    let (_folder, store) = store().await;
    let one = on_record(&store, "Ida").await;
    let other = on_record(&store, "Ada").await;
    let reading = stature(1709.0);
    store.add_body_reading(one, &reading, 1).await.unwrap();
    let refused = store
        .add_body_reading(other, &reading, 1)
        .await
        .unwrap_err();
    assert!(matches!(refused, StoreError::Conflict(_)), "{refused}");
    assert_eq!(store.rider(other).await.unwrap().noun.readings.len(), 1);
    let demo = RiderFile::read(HALF_WAY)
        .unwrap()
        .rider
        .copied(Uuid::now_v7);
    store
        .import_studio(&StudioFile::new(vec![demo.clone()]), Timestamp::now())
        .await
        .unwrap();
    let bike = &demo.bikes[0];
    assert!(matches!(
        store.create_bike(one, bike, Timestamp::now()).await,
        Err(StoreError::Conflict(_))
    ));
    let session = bike.sessions.last().unwrap();
    let look = LookEntry {
        id: Uuid::now_v7(),
        at: Timestamp::now(),
        setup: session.setups[0].id,
        hands: None,
        effort: None,
        body: LookBody::Words("fine".into()),
        foreseen: None,
        doubtful: false,
    };
    store.add_look(session.id, &look).await.unwrap();
    store.add_look(session.id, &look).await.unwrap();
    let second = RiderFile::read(HALF_WAY)
        .unwrap()
        .rider
        .copied(Uuid::now_v7);
    store
        .import_studio(&StudioFile::new(vec![second.clone()]), Timestamp::now())
        .await
        .unwrap();
    let elsewhere = second.bikes[0].sessions.last().unwrap();
    let refused = store.add_look(elsewhere.id, &look).await.unwrap_err();
    assert!(matches!(refused, StoreError::Conflict(_)), "{refused}");
}

#[tokio::test]
async fn a_clock_set_right_never_lets_an_older_reading_count() {
    let mut ahead = stature(1700.0);
    ahead.taken_at = Timestamp::now() + 40_000.hours();
    let rider = Rider::new(Uuid::now_v7(), "Ida", vec![ahead, stature(1720.0)]);
    let counted = wedge_files::taken(&rider.readings);
    assert_eq!(counted.len(), 1);
    // By the clock alone it would be the older one.
    assert_eq!(counted[0].0.quantity, Quantity::Stature);
    assert_eq!(counted[0].0.values, [1720.0]);
    let (_folder, store) = store().await;
    store.create_rider(&rider, Timestamp::now()).await.unwrap();
    assert!(store.dated_after(Timestamp::now()).await.unwrap().is_some());
    assert!(
        store
            .dated_after(Timestamp::now() + 50_000.hours())
            .await
            .unwrap()
            .is_none()
    );
}

#[tokio::test]
async fn deletion_says_when_a_reader_keeps_the_log() {
    let (folder, store) = store().await;
    let file = folder.path().join("wedge.sqlite");
    let gone = on_record(&store, "Gone Tomorrow-Lockwood").await;
    let url = format!("sqlite://{}", file.display());
    let mut reader = SqliteConnection::connect(&url).await.unwrap();
    let mut held = reader.begin().await.unwrap();
    sqlx::query("SELECT count(*) FROM riders")
        .fetch_one(&mut *held)
        .await
        .unwrap();
    let begun = std::time::Instant::now();
    let deleted = store.delete_rider(gone, 1).await.unwrap();
    assert!(!deleted.log_emptied);
    assert!(
        begun.elapsed() < std::time::Duration::from_secs(5),
        "it waits no longer than it must"
    );
    held.rollback().await.unwrap();
    let other = on_record(&store, "Another").await;
    assert!(store.delete_rider(other, 1).await.unwrap().log_emptied);
    let bytes = fs::read(&file).unwrap();
    assert!(
        !bytes.windows(8).any(|w| w == b"Tomorrow"),
        "nothing of the name is in the file"
    );
}

#[tokio::test]
async fn pictures_are_gone_after_their_days() {
    let (_folder, store) = store().await;
    let mut rider = RiderFile::read(HALF_WAY).unwrap().rider;
    let yes = wedge_files::Consent {
        id: Uuid::now_v7(),
        at: Timestamp::now(),
        pictures: true,
        by: wedge_files::SaidBy::Rider,
        name: String::new(),
    };
    rider.consents.push(yes);
    let takes = &rider.bikes[0].sessions[0].takes;
    let (session, one, other) = (rider.bikes[0].sessions[0].id, takes[0].id, takes[1].id);
    store
        .import_studio(&StudioFile::new(vec![rider]), Timestamp::now())
        .await
        .unwrap();
    let day = |days: i64| Timestamp::from_second(1_700_000_000 + 86_400 * days).unwrap();
    store.keep_picture(one, &[1, 2, 3], day(0)).await.unwrap();
    store.keep_picture(other, &[4], day(50)).await.unwrap();
    assert_eq!(store.pictured(session, day(0)).await.unwrap(), [one, other]);
    // Due, it is shown no more, even before it is deleted.
    assert_eq!(store.pictured(session, day(1)).await.unwrap(), [other]);
    assert!(matches!(
        store.picture(one, day(1)).await,
        Err(StoreError::NotFound("picture"))
    ));
    assert_eq!(store.forget_pictures(day(1)).await.unwrap(), 1);
    assert_eq!(store.forget_pictures(day(1)).await.unwrap(), 0);
    assert_eq!(store.picture(other, day(1)).await.unwrap(), [4]);
    assert_eq!(store.pictured(session, day(0)).await.unwrap(), [other]);
}
