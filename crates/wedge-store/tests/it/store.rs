//! The record on a real file.
use jiff::Timestamp;
use uuid::Uuid;
use wedge_core::measure::{Output, Quantity, Reading};
use wedge_files::{ReadingRecord, Rider, RiderFile, StudioFile};
use wedge_store::{RiderEdit, Store, StoreError};

const DEMO: &str = include_str!("../../../../demo/tobin-arkle.wedge.json");

pub(crate) async fn store() -> (tempfile::TempDir, Store) {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(&folder.path().join("wedge.sqlite"))
        .await
        .unwrap();
    (folder, store)
}

/// Every rider, all of whom must read.
pub(crate) async fn all_riders(store: &Store) -> Vec<Rider> {
    let ids = store.rider_ids().await.unwrap();
    let riders = store.riders_of(&ids).await.unwrap();
    riders.into_iter().map(Result::unwrap).collect()
}

fn named(name: &str) -> RiderEdit {
    RiderEdit {
        name: Some(name.to_owned()),
        ..RiderEdit::default()
    }
}

pub(crate) fn stature(value: f64) -> ReadingRecord {
    ReadingRecord::new(
        Uuid::now_v7(),
        Timestamp::now(),
        Reading::new(Quantity::Stature, value),
    )
}

#[tokio::test]
async fn readings_are_appended_in_order_and_once() {
    let (_folder, store) = store().await;
    let rider = Uuid::now_v7();
    let first = stature(1712.0);
    store
        .create_rider(
            &Rider::new(rider, "Ida", vec![first.clone()]),
            Timestamp::now(),
        )
        .await
        .unwrap();
    store
        .create_rider(
            &Rider::new(rider, "Ida", vec![stature(1.0)]),
            Timestamp::now(),
        )
        .await
        .unwrap();
    let second = stature(1709.0);
    let version = store.add_body_reading(rider, &second, 1).await.unwrap();
    // Sent again it is harmless, whatever version it was sent from.
    assert_eq!(
        store.add_body_reading(rider, &second, 1).await.unwrap(),
        version
    );
    assert!(matches!(
        store.add_body_reading(rider, &stature(1700.0), 1).await,
        Err(StoreError::Stale { current: 2 })
    ));
    let read = store.rider(rider).await.unwrap();
    assert_eq!(read.noun.readings, [first, second]);
    assert_eq!(read.version, version);
}

#[tokio::test]
async fn a_name_is_changed_only_from_the_version_it_was_read_at() {
    let (_folder, store) = store().await;
    let rider = Uuid::now_v7();
    store
        .create_rider(
            &Rider::new(rider, "Ida", vec![stature(1712.0)]),
            Timestamp::now(),
        )
        .await
        .unwrap();
    assert_eq!(
        store.edit_rider(rider, &named("Ida L."), 1).await.unwrap(),
        2
    );
    assert!(matches!(
        store.edit_rider(rider, &named("Ada"), 1).await,
        Err(StoreError::Stale { current: 2 })
    ));
    assert_eq!(store.rider(rider).await.unwrap().noun.name, "Ida L.");
    assert!(matches!(
        store.edit_rider(Uuid::now_v7(), &named("x"), 1).await,
        Err(StoreError::NotFound("rider"))
    ));
}

#[tokio::test]
async fn an_imported_rider_reads_back_as_it_was_and_a_second_import_writes_nothing() {
    let (_folder, store) = store().await;
    let rider = RiderFile::read(DEMO).unwrap().rider;
    store
        .import_studio(&StudioFile::new(vec![rider.clone()]), Timestamp::now())
        .await
        .unwrap();
    assert_eq!(store.rider(rider.id).await.unwrap().noun, rider);

    // The same rider under another id: the bikes are on record already, so none of it is taken.
    let mut copy = rider.clone();
    copy.id = Uuid::now_v7();
    copy.readings.clear();
    copy.readings.push(stature(1800.0));
    assert!(matches!(
        store
            .import_studio(&StudioFile::new(vec![copy.clone()]), Timestamp::now())
            .await,
        Err(StoreError::Conflict(_))
    ));
    assert_eq!(store.riders("", false, 10).await.unwrap().len(), 1);
}

#[tokio::test]
async fn the_file_is_for_its_owner_and_opens_again() {
    let (folder, store) = store().await;
    let rider = Uuid::now_v7();
    store
        .create_rider(
            &Rider::new(rider, "Ida", vec![stature(1712.0)]),
            Timestamp::now(),
        )
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
    let text = include_str!("../../../../demo/maren-ostby.wedge.json");
    let rider = RiderFile::read(text).unwrap().rider;
    store
        .import_studio(&StudioFile::new(vec![rider.clone()]), Timestamp::now())
        .await
        .unwrap();
    let session = rider.bikes[0].sessions[0].clone();
    (rider, session)
}

/// The session as the bench reads it: what was seen in a take, without the tracks it was seen in.
fn without_tracks(mut session: wedge_files::Session) -> wedge_files::Session {
    for take in &mut session.takes {
        take.tracks.clear();
    }
    session
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
        entries: Vec::new(),
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
    use wedge_files::{EntryBody, Outcome, Undone, Verdict};
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
        without_tracks(session.clone()),
        "nothing is half-written"
    );

    let version = store
        .begin_trial(session.id, &trial, version)
        .await
        .unwrap();
    let on_bench = store.session(session.id).await.unwrap();
    assert_eq!(on_bench.noun.now, Some(trial.after.id));
    let before = i64::try_from(session.trials.len()).unwrap();
    assert_eq!(on_bench.noun.undecided().unwrap().number, before + 1);
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

    // Put back by mistake: an entry undoes it, the trial is on the bench again, and everything stays on record.
    let undo = || entry(EntryBody::Undone(Undone::Outcome));
    store.add_entry(trial.id, &undo()).await.unwrap();
    let again = store.session(session.id).await.unwrap().noun;
    assert_eq!(again.trials.last().unwrap().outcome(), None);
    assert_eq!(again.now, Some(trial.after.id));
    assert!(matches!(
        store.add_entry(trial.id, &undo()).await,
        Err(StoreError::Conflict(_))
    ));
    // So is a verdict: the one before counts again.
    for (body, stands) in [
        (EntryBody::Verdict(Verdict::Better), Some(Verdict::Better)),
        (EntryBody::Verdict(Verdict::Worse), Some(Verdict::Worse)),
        (EntryBody::Undone(Undone::Verdict), Some(Verdict::Better)),
        (EntryBody::Undone(Undone::Verdict), None),
    ] {
        store.add_entry(trial.id, &entry(body)).await.unwrap();
        let now = store.session(session.id).await.unwrap().noun;
        assert_eq!(now.trials.last().unwrap().verdict(), stands);
    }
    let nothing = entry(EntryBody::Undone(Undone::Verdict));
    assert!(matches!(
        store.add_entry(trial.id, &nothing).await,
        Err(StoreError::Conflict(_))
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
        store.riders("", false, 10).await.unwrap()[0]
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
        frame: Some((frame, None)),
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

#[tokio::test]
async fn riders_come_in_together_or_not_at_all() {
    let (_folder, store) = store().await;
    let first = RiderFile::read(DEMO).unwrap().rider;
    let mut second = first.clone().copied(Uuid::now_v7);
    second.name = "Oda Weir".to_owned();
    // The second brings an id of the first with it.
    second.bikes[0].id = first.bikes[0].id;
    let refused = store
        .import_studio(
            &StudioFile::new(vec![first.clone(), second]),
            Timestamp::now(),
        )
        .await
        .unwrap_err();
    let StoreError::Conflict(why) = refused else {
        panic!("{refused}");
    };
    assert!(why.starts_with("Oda Weir: the bike"), "{why}");
    assert!(all_riders(&store).await.is_empty());

    let copy = first.clone().copied(Uuid::now_v7);
    let both = [first, copy];
    store
        .import_studio(&StudioFile::new(both.to_vec()), Timestamp::now())
        .await
        .unwrap();
    let mut all = all_riders(&store).await;
    all.sort_by_key(|r| r.id != both[0].id);
    assert_eq!(all, both);
}

#[tokio::test]
async fn a_backup_is_the_record_as_it_was_and_never_replaces_a_file() {
    let (folder, store) = store().await;
    let rider = RiderFile::read(DEMO).unwrap().rider;
    store
        .import_studio(&StudioFile::new(vec![rider.clone()]), Timestamp::now())
        .await
        .unwrap();
    let file = folder.path().join("copy.sqlite");
    store.backup(&file).await.unwrap();
    store
        .create_rider(
            &Rider::new(Uuid::now_v7(), "After it", vec![stature(1700.0)]),
            Timestamp::now(),
        )
        .await
        .unwrap();
    let copy = Store::open(&file).await.unwrap();
    assert_eq!(all_riders(&copy).await, [rider]);
    assert!(matches!(
        store.backup(&file).await,
        Err(StoreError::Conflict(_))
    ));
    #[cfg(unix)]
    {
        use std::os::unix::fs::PermissionsExt;
        let mode = std::fs::metadata(&file).unwrap().permissions().mode();
        assert_eq!(mode & 0o777, 0o600);
    }
}

/// A record as the first version of Wedge left it: the bar's parts in the cockpit, lengths to the hood.
#[tokio::test]
async fn a_record_of_the_first_version_is_brought_up_to_date() {
    let folder = tempfile::tempdir().unwrap();
    let migrations = folder.path().join("migrations");
    std::fs::create_dir(&migrations).unwrap();
    std::fs::copy(
        "migrations/0001_first.sql",
        migrations.join("0001_first.sql"),
    )
    .unwrap();
    let file = folder.path().join("old.sqlite");
    let options = sqlx::sqlite::SqliteConnectOptions::new()
        .filename(&file)
        .create_if_missing(true);
    let old = sqlx::SqlitePool::connect_with(options).await.unwrap();
    sqlx::migrate::Migrator::new(migrations)
        .await
        .unwrap()
        .run(&old)
        .await
        .unwrap();
    let setup = r#"{"cockpit":{"cover_mm":15.0,"spacers_below_mm":20.0,"spacers_above_mm":0.0,"stem_clamp_mm":40.0,
        "stem_mm":100.0,"stem_angle_deg":-6.0,"bar_width_mm":420.0,"bar_reach_mm":80.5,"bar_drop_mm":125.0,
        "bar_roll_deg":0.0,"hood_forward_mm":25.0,"hood_rise_mm":15.0},
        "saddle":{"saddle_height_mm":727.0,"setback_mm":205.0,"tilt_deg":0.0,"saddle_length_mm":272.0,
        "nose_to_sit_mm":150.0},
        "pedalling":{"left":{"crank_mm":172.5,"cleat_setback_mm":12.0,"pedal_stack_mm":14.0,"sole_mm":8.0,"shim_mm":0.0},
        "right":{"crank_mm":172.5,"cleat_setback_mm":12.0,"pedal_stack_mm":14.0,"sole_mm":8.0,"shim_mm":0.0}},
        "residual":{"hand_forward_mm":1.5,"hand_up_mm":-2.0}}"#;
    let frame = r#"{"frame_reach_mm":384.0,"frame_stack_mm":556.0,"head_angle_deg":72.5,"head_tube_mm":145.0,
        "seat_angle_deg":73.5,"seat_tube_mm":510.0,"chainstay_mm":412.0,"bb_drop_mm":72.0,"front_centre_mm":588.0,
        "wheel_radius_mm":340.0,"lower_stack_mm":5.0,"steerer_mm":null}"#;
    let conventions =
        r#"{"saddle_height":"saddle_height_straight","setback":"setback_sit","drop":"drop_hood"}"#;
    let foreseen = r#"{"core_version":"0.1.0","title":"Stem 90","turns":[],"notes":[],"rows":[{"output":"bb_to_hood_mm",
        "side":null,"label":"BB to hood","convention":"horizontal","unit":"mm","before":570.5,"after":560.0,
        "change":-10.5,"spread":2.0,"moved":true,"mark":null}]}"#
        .replace("\n        ", "");
    let [rider, bike, session, setup_id, trial, one, two, three] =
        [(); 8].map(|()| Uuid::now_v7().to_string());
    let when = "2026-11-20T10:00:00Z";
    let body = r#"{"seen":{"output":"saddle_to_hood_mm","side":null,"value":771.0}}"#;
    for (statement, values) in [
        ("INSERT INTO riders (id, name, created_at) VALUES (?1, 'Ida Lockwood', ?2)", vec![&*rider, when]),
        (
            "INSERT INTO bikes (id, rider_id, name, kind, frame, setup, created_at) VALUES (?1, ?2, 'Ferry', 'road', ?3, ?4, ?5)",
            vec![&*bike, &*rider, frame, setup, when],
        ),
        (
            "INSERT INTO sessions (id, bike_id, number, day, state, station, conventions, base, created_at)
             VALUES (?1, ?2, 1, '2026-11-20', 'open', 'bars', ?3, ?4, ?5)",
            vec![&*session, &*bike, conventions, setup, when],
        ),
        (
            "INSERT INTO setups (id, session_id, recorded_at, setup) VALUES (?1, ?2, ?4, ?3)",
            vec![&*setup_id, &*session, setup, when],
        ),
        ("UPDATE sessions SET now = ?2 WHERE id = ?1", vec![&*session, &*setup_id]),
        (
            "INSERT INTO readings (id, rider_id, session_id, taken_at, reading) VALUES (?1, ?2, ?3, ?4,
             '{\"quantity\":\"bb_to_hood_mm\",\"value\":572.0,\"method\":\"tape\"}')",
            vec![&*one, &*rider, &*session, when],
        ),
        (
            "INSERT INTO readings (id, rider_id, taken_at, reading) VALUES (?1, ?2, ?3,
             '{\"quantity\":\"stature_mm\",\"value\":1712.0,\"method\":\"tape\"}')",
            vec![&*two, &*rider, when],
        ),
        (
            "INSERT INTO trials (id, session_id, number, tried_at, changes, foreseen, before, after)
             VALUES (?1, ?2, 1, ?3, '[]', ?4, ?5, ?5)",
            vec![&*trial, &*session, when, &*foreseen, &*setup_id],
        ),
        (
            "INSERT INTO entries (id, trial_id, at, body) VALUES (?1, ?2, ?3, ?4)",
            vec![&*three, &*trial, when, body],
        ),
    ] {
        values
            .into_iter()
            .fold(sqlx::query(statement), sqlx::query::Query::bind)
            .execute(&old)
            .await
            .unwrap_or_else(|error| panic!("{statement}: {error}"));
    }
    old.close().await;

    let store = Store::open(&file).await.unwrap();
    let read = all_riders(&store).await.remove(0);
    let session = &read.bikes[0].sessions[0];
    for setup in [
        &read.bikes[0].setup,
        &session.base,
        &session.setups[0].setup,
    ] {
        assert_eq!(setup.get(Quantity::BarReach, None), Some(80.5));
        assert_eq!(setup.get(Quantity::HoodRise, None), Some(15.0));
        assert_eq!(setup.residual.hand_up_mm.0, -2.0);
    }
    assert_eq!(session.readings[0].reading.quantity, Quantity::BbToHand);
    assert_eq!(session.trials[0].foreseen.rows[0].output, Output::BbToHand);
    assert_eq!(session.trials[0].seen()[0].output, Output::SaddleToHand);
    assert_eq!(session.hands, None);
}

/// Scores of before the goals stood in an order, as the seventh migration meets them.
#[tokio::test]
async fn what_was_scored_becomes_the_order_it_stood_for() {
    let (folder, store) = store().await;
    let rider = RiderFile::read(DEMO).unwrap().rider;
    store
        .import_studio(&StudioFile::new(vec![rider.clone()]), Timestamp::now())
        .await
        .unwrap();
    drop(store);
    let file = folder.path().join("wedge.sqlite");
    let said = [
        (
            r#"{"comfort":6,"injury":8,"power":6,"speed":0}"#,
            r#"[["injury"],["comfort","power"],["speed"]]"#,
        ),
        (
            r#"{"comfort":10,"injury":2,"power":9,"speed":1}"#,
            r#"[["comfort"],["power"],["injury"],["speed"]]"#,
        ),
        (
            r#"{"comfort":5,"injury":5,"power":5,"speed":5}"#,
            r#"[["comfort","injury","power","speed"]]"#,
        ),
        (r#"{"comfort":0,"injury":0,"power":0,"speed":0}"#, "[]"),
    ];
    for (scores, order) in said {
        let options = sqlx::sqlite::SqliteConnectOptions::new().filename(&file);
        let old = sqlx::SqlitePool::connect_with(options).await.unwrap();
        let scored = "UPDATE sessions SET intake = json_set(json_remove(intake, '$.goals'), '$.weights', json(?1))";
        sqlx::query(scored)
            .bind(scores)
            .execute(&old)
            .await
            .unwrap();
        let undone = "DELETE FROM _sqlx_migrations WHERE version = 7";
        sqlx::query(undone).execute(&old).await.unwrap();
        old.close().await;
        let store = Store::open(&file).await.unwrap();
        let read = all_riders(&store).await.remove(0);
        let wanted: wedge_core::intake::Goals = serde_json::from_str(order).unwrap();
        let mut intake = rider.bikes[0].sessions[0].intake.clone();
        intake.goals = wanted;
        assert_eq!(read.bikes[0].sessions[0].intake, intake, "{scores}");
    }
}

#[tokio::test]
async fn a_width_noted_before_moves_to_the_saddles_of_its_fit() {
    let (folder, store) = store().await;
    let rider = RiderFile::read(include_str!("../../../../demo/maren-ostby.wedge.json"))
        .unwrap()
        .rider;
    let studio = StudioFile::new(vec![rider]);
    store
        .import_studio(&studio, Timestamp::now())
        .await
        .unwrap();
    drop(store);
    let file = folder.path().join("wedge.sqlite");
    let options = sqlx::sqlite::SqliteConnectOptions::new().filename(&file);
    let old = sqlx::SqlitePool::connect_with(options).await.unwrap();
    for statement in [
        "UPDATE sessions SET saddle = json_set(saddle, '$.width_mm', 151.0)",
        "UPDATE looks SET body = json_set(body, '$.body', json('{\"shoulders\":\"locked\"}')) WHERE seq = (SELECT min(seq) FROM looks)",
        "DELETE FROM _sqlx_migrations WHERE version = 8",
    ] {
        sqlx::query(statement).execute(&old).await.unwrap();
    }
    old.close().await;
    let store = Store::open(&file).await.unwrap();
    let read = all_riders(&store).await.remove(0);
    let session = &read.bikes[0].sessions[0];
    let width = |setup: &wedge_core::bike::Setup| setup.saddle.saddle_width_mm.map(|mm| mm.0);
    assert_eq!(width(&session.base), Some(151.0));
    assert!(
        session
            .setups
            .iter()
            .all(|record| width(&record.setup) == Some(151.0))
    );
    assert!(
        matches!(session.looks[0].body, wedge_files::LookBody::Sign(_)),
        "{:?}",
        session.looks[0]
    );
}

#[tokio::test]
async fn disagreements_are_kept_in_order_once_and_not_after_the_end() {
    use wedge_files::{Dispute, Disputed, standing};
    let (_folder, store) = store().await;
    let (_, session) = half_way(&store).await;
    let of = |about, reason: &str| Dispute {
        id: Uuid::now_v7(),
        at: "2026-11-28T09:00:00Z".parse().unwrap(),
        about,
        told: "Saddle too high".to_owned(),
        reason: reason.to_owned(),
    };
    let fault = of(
        Disputed::Fault("height:high".to_owned()),
        "Ridden so for years",
    );
    let first = store.add_dispute(session.id, &fault).await.unwrap();
    // Sent again, it is there once, and nothing changed.
    assert_eq!(store.add_dispute(session.id, &fault).await.unwrap(), first);
    let back = of(Disputed::TakenBack(fault.id), "");
    store.add_dispute(session.id, &back).await.unwrap();
    let kept = store.session(session.id).await.unwrap();
    assert_eq!(kept.noun.disputes, [fault.clone(), back]);
    assert!(standing(&kept.noun.disputes).is_empty());
    let nowhere = store.add_dispute(Uuid::now_v7(), &fault).await;
    assert!(nowhere.is_err(), "{nowhere:?}");
    store
        .finish_session(session.id, kept.version)
        .await
        .unwrap();
    let late = of(
        Disputed::Witness("sign:hips_rock:".to_owned()),
        "The road was rough",
    );
    assert!(matches!(
        store.add_dispute(session.id, &late).await,
        Err(StoreError::Conflict(_))
    ));
    // A rider's file takes them along, also as a copy.
    let rider = all_riders(&store).await.remove(0);
    let file = RiderFile::read(&RiderFile::new(rider.clone()).write().unwrap()).unwrap();
    assert_eq!(file.rider.bikes[0].sessions[0].disputes, kept.noun.disputes);
    let copies = vec![file.rider.copied(Uuid::now_v7)];
    store
        .import_studio(&StudioFile::new(copies), Timestamp::now())
        .await
        .unwrap();
    let all = all_riders(&store).await;
    let copy = all.iter().find(|other| other.id != rider.id).unwrap();
    let copied = &copy.bikes[0].sessions[0].disputes;
    assert_eq!(copied.len(), 2);
    assert!(
        copied[0].id != fault.id && standing(copied).is_empty(),
        "{copied:?}"
    );
}

#[tokio::test]
async fn a_link_to_a_card_holds_until_its_time_and_one_at_a_time() {
    let (_folder, store) = store().await;
    let (_, session) = half_way(&store).await;
    let now = Timestamp::now();
    let until = now + jiff::SignedDuration::from_hours(168);
    let late = until + jiff::SignedDuration::from_secs(1);
    store
        .link_card(session.id, "one", (now, until))
        .await
        .unwrap();
    assert_eq!(store.linked("one", now).await.unwrap(), Some(session.id));
    assert_eq!(store.card_link(session.id, now).await.unwrap(), Some(until));
    // Run out, it opens nothing.
    assert_eq!(store.linked("one", until).await.unwrap(), None);
    assert_eq!(store.card_link(session.id, late).await.unwrap(), None);
    // Another takes its place; taken back, there is none.
    store
        .link_card(session.id, "two", (now, until))
        .await
        .unwrap();
    assert_eq!(store.linked("one", now).await.unwrap(), None);
    assert_eq!(store.linked("two", now).await.unwrap(), Some(session.id));
    assert!(store.unlink_card(session.id).await.unwrap());
    assert!(!store.unlink_card(session.id).await.unwrap());
    assert_eq!(store.linked("two", now).await.unwrap(), None);
    // A fit that is not there has no card.
    let nowhere = store.link_card(Uuid::now_v7(), "three", (now, until)).await;
    assert!(matches!(nowhere, Err(StoreError::NotFound(_))));
}
