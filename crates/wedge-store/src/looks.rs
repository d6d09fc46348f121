//! What was seen of a rider, and the rider fitted to it. Append-only.

use crate::many::{Body, Grouped};
use crate::{Store, StoreError, fit, json};
use sqlx::{Sqlite, SqliteConnection, Transaction};
use uuid::Uuid;
use wedge_files::{CalibrationRecord, LookEntry};

impl Store {
    /// Writes down something seen. Sent again, it is there already.
    pub async fn add_look(&self, session: Uuid, look: &LookEntry) -> Result<i64, StoreError> {
        self.add_looks(session, std::slice::from_ref(look)).await
    }

    /// Writes down several things seen, all of them or none. Sent again, they are there already.
    pub async fn add_looks(&self, session: Uuid, looks: &[LookEntry]) -> Result<i64, StoreError> {
        let mut tx = self.write().await?;
        let mut is_new = false;
        for look in looks {
            is_new |= insert_look(&mut tx, session, look).await?;
        }
        let version = fit::appended(&mut tx, session, is_new, None).await?;
        tx.commit().await?;
        Ok(version)
    }

    /// Writes down a fit of the rider to what was seen, from the version the session was read at.
    pub async fn add_calibration(
        &self,
        session: Uuid,
        record: &CalibrationRecord,
        at: i64,
    ) -> Result<i64, StoreError> {
        let mut tx = self.write().await?;
        let is_new = insert_calibration(&mut tx, session, record).await?;
        let version = fit::appended(&mut tx, session, is_new, Some(at)).await?;
        tx.commit().await?;
        Ok(version)
    }
}

/// `false` when it is there already.
pub(crate) async fn insert_look(
    tx: &mut Transaction<'static, Sqlite>,
    session: Uuid,
    look: &LookEntry,
) -> Result<bool, StoreError> {
    let (id, session) = (look.id.to_string(), session.to_string());
    let body = json::write("look", look)?;
    let done = sqlx::query!(
        "INSERT INTO looks (id, session_id, body) VALUES (?1, ?2, ?3) ON CONFLICT (id) DO NOTHING",
        id,
        session,
        body
    )
    .execute(&mut **tx)
    .await?;
    Ok(done.rows_affected() > 0)
}

/// `false` when it is there already.
pub(crate) async fn insert_calibration(
    tx: &mut Transaction<'static, Sqlite>,
    session: Uuid,
    record: &CalibrationRecord,
) -> Result<bool, StoreError> {
    let (id, session) = (record.id.to_string(), session.to_string());
    let body = json::write("calibration", record)?;
    let done = sqlx::query!(
        "INSERT INTO calibrations (id, session_id, body) VALUES (?1, ?2, ?3) ON CONFLICT (id) DO NOTHING",
        id,
        session,
        body
    )
    .execute(&mut **tx)
    .await?;
    Ok(done.rows_affected() > 0)
}

pub(crate) async fn looks_of(
    connection: &mut SqliteConnection,
    sessions: &str,
) -> Result<Grouped<Body>, StoreError> {
    let rows = sqlx::query_as!(
        Body,
        "SELECT session_id AS of, body FROM looks WHERE session_id IN (SELECT value FROM json_each(?1)) ORDER BY seq",
        sessions
    )
    .fetch_all(connection)
    .await?;
    Ok(Grouped::by(rows, |row| &row.of))
}

pub(crate) async fn calibrations_of(
    connection: &mut SqliteConnection,
    sessions: &str,
) -> Result<Grouped<Body>, StoreError> {
    let rows = sqlx::query_as!(
        Body,
        "SELECT session_id AS of, body FROM calibrations WHERE session_id IN (SELECT value FROM json_each(?1))
         ORDER BY seq",
        sessions
    )
    .fetch_all(connection)
    .await?;
    Ok(Grouped::by(rows, |row| &row.of))
}
