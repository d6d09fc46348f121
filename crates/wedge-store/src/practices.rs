//! Fits of practice: each a rider of its own who is not there, apart from riders' records.

use crate::import::write_all;
use crate::{Store, StoreError, json};
use jiff::Timestamp;
use uuid::Uuid;
use wedge_files::Rider;

/// A fit of practice.
#[derive(Debug, Clone, PartialEq)]
pub struct Practice {
    /// The rider who is not there.
    pub rider: Uuid,
    /// The fit.
    pub session: Uuid,
    /// Who practises: a name, nothing else.
    pub apprentice: String,
    /// How hard it is, by its key.
    pub level: String,
    /// Whether the judge helps.
    pub judge: bool,
    /// When it was begun.
    pub begun: Timestamp,
    /// What came of it, as JSON; none while it is going on.
    pub ended: Option<String>,
}

impl Store {
    /// Begins a fit of practice: the rider, the bike and the fit at once. Sent again, it is there already.
    pub async fn begin_practice(
        &self,
        practice: &Practice,
        rider: &Rider,
    ) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        let now = practice.begun;
        let key = practice.rider.to_string();
        let known = sqlx::query_scalar!("SELECT 1 AS one FROM practices WHERE rider_id = ?1", key)
            .fetch_optional(&mut *tx)
            .await?;
        if known.is_none() {
            write_all(&mut tx, rider, None, now).await?;
            let (rider, session, begun) = (
                practice.rider.to_string(),
                practice.session.to_string(),
                now.to_string(),
            );
            sqlx::query!(
                "INSERT INTO practices (rider_id, session_id, apprentice, level, judge, begun_at)
                 VALUES (?1, ?2, ?3, ?4, ?5, ?6)",
                rider,
                session,
                practice.apprentice,
                practice.level,
                practice.judge,
                begun
            )
            .execute(&mut *tx)
            .await?;
        }
        tx.commit().await?;
        Ok(())
    }

    /// Every fit of practice, the last first.
    pub async fn practices(&self) -> Result<Vec<Practice>, StoreError> {
        let rows = sqlx::query!(
            r#"SELECT rider_id AS "rider_id!", session_id, apprentice, level, judge, begun_at, ended
               FROM practices ORDER BY rowid DESC"#
        )
        .fetch_all(&self.pool())
        .await?;
        rows.into_iter()
            .map(|row| {
                Ok(Practice {
                    rider: json::id(&row.rider_id)?,
                    session: json::id(&row.session_id)?,
                    apprentice: row.apprentice,
                    level: row.level,
                    judge: row.judge != 0,
                    begun: json::instant(&row.begun_at)?,
                    ended: row.ended,
                })
            })
            .collect()
    }

    /// The fit of practice of a rider, where it is one.
    pub async fn practice(&self, rider: Uuid) -> Result<Option<Practice>, StoreError> {
        let all = self.practices().await?;
        Ok(all.into_iter().find(|practice| practice.rider == rider))
    }

    /// Ends one with what came of it: once.
    pub async fn end_practice(&self, rider: Uuid, ended: &str) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        let key = rider.to_string();
        sqlx::query!(
            "UPDATE practices SET ended = coalesce(ended, ?2) WHERE rider_id = ?1",
            key,
            ended
        )
        .execute(&mut *tx)
        .await?;
        tx.commit().await?;
        Ok(())
    }
}
