//! Readings, of bodies and of bikes.

use crate::{StoreError, json};
use sqlx::{Sqlite, SqliteConnection, Transaction};
use uuid::Uuid;
use wedge_files::ReadingRecord;

pub(crate) async fn session_readings(
    connection: &mut SqliteConnection,
    session: &str,
) -> Result<Vec<ReadingRecord>, StoreError> {
    let rows = sqlx::query!(
        "SELECT id, taken_at, reading, set_aside_at FROM readings WHERE session_id = ?1 ORDER BY seq",
        session
    )
    .fetch_all(connection)
    .await?;
    rows.into_iter()
        .map(|row| {
            let aside = row.set_aside_at.as_deref();
            reading_record(&row.id, &row.taken_at, &row.reading, aside)
        })
        .collect()
}

fn reading_record(
    id: &str,
    taken_at: &str,
    reading: &str,
    set_aside_at: Option<&str>,
) -> Result<ReadingRecord, StoreError> {
    Ok(ReadingRecord {
        id: json::id(id)?,
        taken_at: json::instant(taken_at)?,
        reading: json::read("reading", reading)?,
        set_aside_at: set_aside_at.map(json::instant).transpose()?,
    })
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

/// Readings of a rider's body, in the order they were taken.
pub(crate) async fn body_readings(
    connection: &mut SqliteConnection,
    rider: Uuid,
) -> Result<Vec<ReadingRecord>, StoreError> {
    let key = rider.to_string();
    let rows = sqlx::query!(
        "SELECT id, taken_at, reading, set_aside_at FROM readings WHERE rider_id = ?1 AND session_id IS NULL
         ORDER BY seq",
        key
    )
    .fetch_all(connection)
    .await?;
    rows.into_iter()
        .map(|row| {
            let aside = row.set_aside_at.as_deref();
            reading_record(&row.id, &row.taken_at, &row.reading, aside)
        })
        .collect()
}
