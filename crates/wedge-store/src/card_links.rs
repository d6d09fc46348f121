//! Links to a fit's card: a token's hash, the fit it opens, and until when. A fit has one at a time.

use crate::{Store, StoreError, fit, json};
use jiff::Timestamp;
use uuid::Uuid;

impl Store {
    /// A link in place of the one before; those that have run out go.
    pub async fn link_card(
        &self,
        session: Uuid,
        hash: &str,
        (now, until): (Timestamp, Timestamp),
    ) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        fit::place(&mut tx, session).await?;
        let (session, now, until) = (session.to_string(), now.to_string(), until.to_string());
        sqlx::query!(
            "DELETE FROM card_links WHERE session_id = ?1 OR until <= ?2",
            session,
            now
        )
        .execute(&mut *tx)
        .await?;
        sqlx::query!(
            "INSERT INTO card_links (hash, session_id, until) VALUES (?1, ?2, ?3)",
            hash,
            session,
            until
        )
        .execute(&mut *tx)
        .await?;
        tx.commit().await?;
        Ok(())
    }

    /// Takes a fit's link back; `false` when there is none.
    pub async fn unlink_card(&self, session: Uuid) -> Result<bool, StoreError> {
        let mut tx = self.write().await?;
        let session = session.to_string();
        let done = sqlx::query!("DELETE FROM card_links WHERE session_id = ?1", session)
            .execute(&mut *tx)
            .await?;
        tx.commit().await?;
        Ok(done.rows_affected() > 0)
    }

    /// The fit a token opens now.
    pub async fn linked(&self, hash: &str, now: Timestamp) -> Result<Option<Uuid>, StoreError> {
        let found = sqlx::query!(
            "SELECT session_id, until FROM card_links WHERE hash = ?1",
            hash
        )
        .fetch_optional(&self.pool())
        .await?;
        let Some(row) = found else { return Ok(None) };
        let holds = json::instant(&row.until)? > now;
        holds.then(|| json::id(&row.session_id)).transpose()
    }

    /// Until when a fit's link holds.
    pub async fn card_link(
        &self,
        session: Uuid,
        now: Timestamp,
    ) -> Result<Option<Timestamp>, StoreError> {
        let session = session.to_string();
        let until = sqlx::query_scalar!(
            "SELECT until FROM card_links WHERE session_id = ?1",
            session
        )
        .fetch_optional(&self.pool())
        .await?;
        let until = until.as_deref().map(json::instant).transpose()?;
        Ok(until.filter(|until| *until > now))
    }
}
