//! The one mutable row of a fit: what is being typed. Its body is the interface's own.

use crate::{Store, StoreError};
use jiff::Timestamp;
use uuid::Uuid;

impl Store {
    /// The draft of a session.
    pub async fn draft(&self, session: Uuid) -> Result<Option<String>, StoreError> {
        let key = session.to_string();
        Ok(
            sqlx::query_scalar!("SELECT body FROM drafts WHERE session_id = ?1", key)
                .fetch_optional(&self.pool())
                .await?,
        )
    }

    /// Replaces the draft of a session.
    pub async fn save_draft(
        &self,
        session: Uuid,
        body: &str,
        now: Timestamp,
    ) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        let (key, now) = (session.to_string(), now.to_string());
        let done = sqlx::query!(
            "INSERT INTO drafts (session_id, body, saved_at)
             SELECT id, ?2, ?3 FROM sessions WHERE id = ?1 AND state = 'open'
             ON CONFLICT (session_id) DO UPDATE SET body = excluded.body, saved_at = excluded.saved_at",
            key,
            body,
            now
        )
        .execute(&mut *tx)
        .await?;
        if done.rows_affected() == 0 {
            return Err(StoreError::NotFound("open session"));
        }
        tx.commit().await?;
        Ok(())
    }
}
