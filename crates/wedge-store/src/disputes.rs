//! Where the fitter disagreed with the judge. Append-only.

use crate::many::{Body, Grouped};
use crate::{Store, StoreError, fit, json};
use sqlx::{Sqlite, SqliteConnection, Transaction};
use uuid::Uuid;
use wedge_files::Dispute;

impl Store {
    /// Writes a disagreement down. Sent again, it is there already.
    pub async fn add_dispute(&self, session: Uuid, dispute: &Dispute) -> Result<i64, StoreError> {
        let mut tx = self.write().await?;
        let is_new = insert_dispute(&mut tx, session, dispute).await?;
        let version = fit::appended(&mut tx, session, is_new, None).await?;
        tx.commit().await?;
        Ok(version)
    }
}

/// `false` when it is there already.
pub(crate) async fn insert_dispute(
    tx: &mut Transaction<'static, Sqlite>,
    session: Uuid,
    dispute: &Dispute,
) -> Result<bool, StoreError> {
    let (id, session) = (dispute.id.to_string(), session.to_string());
    let body = json::write("dispute", dispute)?;
    let done = sqlx::query!(
        "INSERT INTO disputes (id, session_id, body) VALUES (?1, ?2, ?3) ON CONFLICT (id) DO NOTHING",
        id,
        session,
        body
    )
    .execute(&mut **tx)
    .await?;
    Ok(done.rows_affected() > 0)
}

pub(crate) async fn disputes_of(
    connection: &mut SqliteConnection,
    sessions: &str,
) -> Result<Grouped<Body>, StoreError> {
    let rows = sqlx::query_as!(
        Body,
        "SELECT session_id AS of, body FROM disputes WHERE session_id IN (SELECT value FROM json_each(?1)) ORDER BY seq",
        sessions
    )
    .fetch_all(connection)
    .await?;
    Ok(Grouped::by(rows, |row| &row.of))
}
