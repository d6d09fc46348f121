//! Readings, of bodies and of bikes.

use crate::many::{Grouped, Packed, unpacked};
use crate::{Store, StoreError, json};
use jiff::{SignedDuration, Timestamp};
use serde::Deserialize;
use sqlx::{Sqlite, SqliteConnection, Transaction};
use uuid::Uuid;
use wedge_files::ReadingRecord;

impl Store {
    /// When the last reading was taken that lies after `now`, if one does: a clock was wrong.
    pub async fn dated_after(&self, now: Timestamp) -> Result<Option<Timestamp>, StoreError> {
        // A few seconds between two programs are no wrong clock.
        let now = (now + SignedDuration::from_mins(1)).to_string();
        let last = sqlx::query_scalar!(
            "SELECT max(taken_at) AS \"at: String\" FROM readings WHERE taken_at > ?1",
            now
        )
        .fetch_one(&self.pool())
        .await?;
        last.as_deref().map(json::instant).transpose()
    }
}

/// A reading as its row holds it.
#[derive(Deserialize)]
struct ReadingRow {
    id: String,
    taken_at: String,
    reading: String,
    set_aside_at: Option<String>,
}

/// Readings of the bike in sessions.
pub(crate) async fn session_readings(
    connection: &mut SqliteConnection,
    sessions: &str,
) -> Result<Grouped<Packed>, StoreError> {
    let rows = sqlx::query_as!(
        Packed,
        "SELECT session_id AS \"of!: String\",
         json_group_array(json_object('id', id, 'taken_at', taken_at, 'reading', reading, 'set_aside_at', set_aside_at)
            ORDER BY seq) AS \"rows!: String\"
         FROM readings WHERE session_id IN (SELECT value FROM json_each(?1)) GROUP BY session_id",
        sessions
    )
    .fetch_all(connection)
    .await?;
    Ok(Grouped::by(rows, |row| &row.of))
}

/// Readings of riders' bodies.
pub(crate) async fn body_readings(
    connection: &mut SqliteConnection,
    riders: &str,
) -> Result<Grouped<Packed>, StoreError> {
    let rows = sqlx::query_as!(
        Packed,
        "SELECT rider_id AS of,
         json_group_array(json_object('id', id, 'taken_at', taken_at, 'reading', reading, 'set_aside_at', set_aside_at)
            ORDER BY seq) AS \"rows!: String\"
         FROM readings WHERE rider_id IN (SELECT value FROM json_each(?1)) AND session_id IS NULL GROUP BY rider_id",
        riders
    )
    .fetch_all(connection)
    .await?;
    Ok(Grouped::by(rows, |row| &row.of))
}

/// Readings in the order they were taken down.
pub(crate) fn readings(packed: &[Packed]) -> Result<Vec<ReadingRecord>, StoreError> {
    unpacked("reading", packed)?
        .into_iter()
        .map(|row: ReadingRow| {
            Ok(ReadingRecord {
                id: json::id(&row.id)?,
                taken_at: json::instant(&row.taken_at)?,
                reading: json::read("reading", &row.reading)?,
                set_aside_at: row.set_aside_at.as_deref().map(json::instant).transpose()?,
            })
        })
        .collect()
}

pub(crate) async fn rider_version(tx: &mut SqliteConnection, id: Uuid) -> Result<i64, StoreError> {
    let key = id.to_string();
    sqlx::query_scalar!("SELECT version FROM riders WHERE id = ?1", key)
        .fetch_optional(tx)
        .await?
        .ok_or(StoreError::NotFound("rider"))
}

/// `false` when the reading is there already.
pub(crate) async fn insert_reading(
    tx: &mut Transaction<'static, Sqlite>,
    rider: Uuid,
    session: Option<Uuid>,
    record: &ReadingRecord,
) -> Result<bool, StoreError> {
    rider_version(tx, rider).await?;
    let (id, rider) = (record.id.to_string(), rider.to_string());
    let (session, taken_at) = (session.map(|s| s.to_string()), record.taken_at.to_string());
    let reading = json::write("reading", &record.reading)?;
    let aside = record.set_aside_at.map(|at| at.to_string());
    let done = sqlx::query!(
        "INSERT INTO readings (id, rider_id, session_id, taken_at, reading, set_aside_at)
         VALUES (?1, ?2, ?3, ?4, ?5, ?6) ON CONFLICT (id) DO NOTHING",
        id,
        rider,
        session,
        taken_at,
        reading,
        aside
    )
    .execute(&mut **tx)
    .await?;
    Ok(done.rows_affected() > 0)
}
