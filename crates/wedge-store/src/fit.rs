//! A fit as every write to it meets it: where it belongs, whether it is open, at which version, what is on its bench.

use crate::many::{Grouped, Packed, unpacked};
use crate::{StoreError, json};
use serde::Deserialize;
use sqlx::{Sqlite, SqliteConnection, Transaction};
use uuid::Uuid;
use wedge_files::SetupRecord;

/// Where a session belongs.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct SessionPlace {
    /// The bike.
    pub bike: Uuid,
    /// The rider.
    pub rider: Uuid,
}

/// How much of a fit is read.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Depth {
    /// Everything.
    Whole,
    /// Everything but the markers of takes: what a fit is looked at with.
    Bench,
    /// Without its trials, looks and the setups between the first and the last: what a position follows from, years of
    /// them at once.
    Years,
    /// The same around a fit that is read whole beside it: its readings, of which there may be thousands, are left out.
    Around(Uuid),
}

pub(crate) async fn place(
    connection: &mut SqliteConnection,
    id: Uuid,
) -> Result<SessionPlace, StoreError> {
    let key = id.to_string();
    let row = sqlx::query!(
        "SELECT s.bike_id, b.rider_id FROM sessions s JOIN bikes b ON b.id = s.bike_id WHERE s.id = ?1",
        key
    )
    .fetch_optional(connection)
    .await?
    .ok_or(StoreError::NotFound("session"))?;
    Ok(SessionPlace {
        bike: json::id(&row.bike_id)?,
        rider: json::id(&row.rider_id)?,
    })
}

pub(crate) async fn version_of(
    connection: &mut SqliteConnection,
    id: Uuid,
) -> Result<i64, StoreError> {
    let key = id.to_string();
    sqlx::query_scalar!("SELECT version FROM sessions WHERE id = ?1", key)
        .fetch_optional(connection)
        .await?
        .ok_or(StoreError::NotFound("session"))
}

/// The version of an open session; a finished one is a conflict.
pub(crate) async fn is_open(
    tx: &mut Transaction<'static, Sqlite>,
    id: Uuid,
) -> Result<i64, StoreError> {
    let key = id.to_string();
    let row = sqlx::query!("SELECT version, state FROM sessions WHERE id = ?1", key)
        .fetch_optional(&mut **tx)
        .await?
        .ok_or(StoreError::NotFound("session"))?;
    if row.state != "open" {
        return Err(StoreError::Conflict(
            "this fit is finished: start the next one instead".to_owned(),
        ));
    }
    Ok(row.version)
}

/// Bumps an open session's version; with `at`, only from that version.
pub(crate) async fn touch(
    tx: &mut Transaction<'static, Sqlite>,
    id: Uuid,
    at: Option<i64>,
) -> Result<i64, StoreError> {
    let version = is_open(tx, id).await?;
    bump(tx, id, (version, at)).await
}

/// The version after what belongs to no day of the fit was written, whether that is finished or not; from the version it was
/// read at where that matters.
pub(crate) async fn touch_after(
    tx: &mut Transaction<'static, Sqlite>,
    id: Uuid,
    at: Option<i64>,
) -> Result<i64, StoreError> {
    let version = version_of(tx, id).await?;
    bump(tx, id, (version, at)).await
}

/// The version after this one, where it is the one that was read.
async fn bump(
    tx: &mut Transaction<'static, Sqlite>,
    id: Uuid,
    (version, at): (i64, Option<i64>),
) -> Result<i64, StoreError> {
    if at.is_some_and(|at| at != version) {
        return Err(StoreError::Stale { current: version });
    }
    let (key, next) = (id.to_string(), version + 1);
    sqlx::query!("UPDATE sessions SET version = ?2 WHERE id = ?1", key, next)
        .execute(&mut **tx)
        .await?;
    Ok(next)
}

/// The version after something was appended to a session, from the version it was read at where that matters; as it stands where
/// it was there already.
pub(crate) async fn appended(
    tx: &mut Transaction<'static, Sqlite>,
    session: Uuid,
    is_new: bool,
    at: Option<i64>,
) -> Result<i64, StoreError> {
    if is_new {
        touch(tx, session, at).await
    } else {
        version_of(tx, session).await
    }
}

pub(crate) async fn insert_setup(
    tx: &mut Transaction<'static, Sqlite>,
    session: Uuid,
    record: &SetupRecord,
) -> Result<(), StoreError> {
    let (id, session) = (record.id.to_string(), session.to_string());
    let (at, setup) = (
        record.recorded_at.to_string(),
        json::write("setup", &record.setup)?,
    );
    sqlx::query!(
        "INSERT INTO setups (id, session_id, recorded_at, setup) VALUES (?1, ?2, ?3, ?4)",
        id,
        session,
        at,
        setup
    )
    .execute(&mut **tx)
    .await?;
    Ok(())
}

pub(crate) async fn put_on_bench(
    tx: &mut Transaction<'static, Sqlite>,
    session: Uuid,
    setup: Uuid,
) -> Result<(), StoreError> {
    let (session, setup) = (session.to_string(), setup.to_string());
    sqlx::query!("UPDATE sessions SET now = ?2 WHERE id = ?1", session, setup)
        .execute(&mut **tx)
        .await?;
    Ok(())
}

/// A setup as its row holds it.
#[derive(Deserialize)]
struct SetupRow {
    id: String,
    recorded_at: String,
    setup: String,
}

pub(crate) async fn setups_of(
    connection: &mut SqliteConnection,
    sessions: &str,
    depth: Depth,
) -> Result<Grouped<Packed>, StoreError> {
    let all = matches!(depth, Depth::Whole | Depth::Bench);
    let rows = sqlx::query_as!(
        Packed,
        "SELECT u.session_id AS of,
         json_group_array(json_object('id', u.id, 'recorded_at', u.recorded_at, 'setup', u.setup) ORDER BY u.seq)
            AS \"rows!: String\"
         FROM setups u
         WHERE u.session_id IN (SELECT value FROM json_each(?1)) AND (?2
            OR u.seq = (SELECT min(seq) FROM setups WHERE session_id = u.session_id)
            OR u.seq = (SELECT max(seq) FROM setups WHERE session_id = u.session_id)
            OR u.id = (SELECT now FROM sessions WHERE id = u.session_id))
         GROUP BY u.session_id",
        sessions,
        all
    )
    .fetch_all(connection)
    .await?;
    Ok(Grouped::by(rows, |row| &row.of))
}

pub(crate) fn setups(packed: &[Packed]) -> Result<Vec<SetupRecord>, StoreError> {
    unpacked("setup", packed)?
        .into_iter()
        .map(|row: SetupRow| {
            Ok(SetupRecord {
                id: json::id(&row.id)?,
                recorded_at: json::instant(&row.recorded_at)?,
                setup: json::read("setup", &row.setup)?,
            })
        })
        .collect()
}
