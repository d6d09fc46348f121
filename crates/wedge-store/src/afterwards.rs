//! What happened between visits. Append-only.

use crate::many::{Body, Grouped};
use crate::{Store, StoreError, fit, json};
use jiff::civil::Date;
use sqlx::{Sqlite, SqliteConnection, Transaction};
use uuid::Uuid;
use wedge_files::AfterEntry;

/// A visit that was promised.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Visit {
    /// The fit it follows up.
    pub session: Uuid,
    /// The version of that.
    pub version: i64,
    /// When.
    pub day: Date,
    /// On what.
    pub bike: String,
    /// Who.
    pub rider_id: Uuid,
    /// By name.
    pub rider: String,
}

impl Store {
    /// Writes entries down, all or none. Sent again, they are there already.
    pub async fn add_afterwards(
        &self,
        session: Uuid,
        entries: &[AfterEntry],
    ) -> Result<i64, StoreError> {
        let mut tx = self.write().await?;
        let mut is_new = false;
        for entry in entries {
            is_new |= insert_afterwards(&mut tx, session, entry).await?;
        }
        let version = if is_new {
            fit::touch_after(&mut tx, session, None).await?
        } else {
            fit::version_of(&mut tx, session).await?
        };
        tx.commit().await?;
        Ok(version)
    }

    /// Another day for the next visit, or none, from the version that was read; the fit may be finished.
    pub async fn reschedule(
        &self,
        session: Uuid,
        at: i64,
        day: Option<Date>,
    ) -> Result<i64, StoreError> {
        let mut tx = self.write().await?;
        let version = fit::touch_after(&mut tx, session, Some(at)).await?;
        let (id, day) = (session.to_string(), day.map(|day| day.to_string()));
        sqlx::query!("UPDATE sessions SET follow_up = ?2 WHERE id = ?1", id, day)
            .execute(&mut *tx)
            .await?;
        tx.commit().await?;
        Ok(version)
    }

    /// Every visit that was promised and has not come yet, the earliest first: of the last fit of each bike, once finished.
    pub async fn visits(&self) -> Result<Vec<Visit>, StoreError> {
        let rows = sqlx::query!(
            r#"
            SELECT s.id, s.version, s.follow_up AS "day!: String", b.name AS bike, r.id AS rider_id, r.name AS rider
            FROM sessions s JOIN bikes b ON b.id = s.bike_id JOIN riders r ON r.id = b.rider_id
            WHERE s.follow_up IS NOT NULL AND s.state = 'finished' AND r.archived_at IS NULL
                AND s.number = (SELECT max(l.number) FROM sessions l WHERE l.bike_id = b.id)
            ORDER BY s.follow_up, r.name, s.id
            "#
        )
        .fetch_all(&self.pool())
        .await?;
        rows.into_iter()
            .map(|row| {
                Ok(Visit {
                    session: json::id(&row.id)?,
                    version: row.version,
                    day: json::day(&row.day)?,
                    bike: row.bike,
                    rider_id: json::id(&row.rider_id)?,
                    rider: row.rider,
                })
            })
            .collect()
    }
}

/// `false` when it is there already.
pub(crate) async fn insert_afterwards(
    tx: &mut Transaction<'static, Sqlite>,
    session: Uuid,
    entry: &AfterEntry,
) -> Result<bool, StoreError> {
    let (id, session) = (entry.id.to_string(), session.to_string());
    let body = json::write("entry between visits", entry)?;
    let done = sqlx::query!(
        "INSERT INTO afterwards (id, session_id, body) VALUES (?1, ?2, ?3) ON CONFLICT (id) DO NOTHING",
        id,
        session,
        body
    )
    .execute(&mut **tx)
    .await?;
    Ok(done.rows_affected() > 0)
}

pub(crate) async fn afterwards_of(
    connection: &mut SqliteConnection,
    sessions: &str,
) -> Result<Grouped<Body>, StoreError> {
    let rows = sqlx::query_as!(
        Body,
        "SELECT session_id AS of, body FROM afterwards WHERE session_id IN (SELECT value FROM json_each(?1)) ORDER BY seq",
        sessions
    )
    .fetch_all(connection)
    .await?;
    Ok(Grouped::by(rows, |row| &row.of))
}
