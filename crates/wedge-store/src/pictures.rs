//! Pictures of riders, and whether they may be kept. A picture stays only as long as the last answer is yes and the studio's
//! number of days has not passed.

use crate::many::{Body, Grouped};
use crate::{Deleted, Store, StoreError, json};
use jiff::Timestamp;
use sqlx::{Sqlite, SqliteConnection, Transaction};
use uuid::Uuid;
use wedge_files::{Consent, Rider, in_pieces};

impl Store {
    /// Writes an answer down. Sent again, it is there already. A no takes every picture of the rider away for good.
    pub async fn add_consent(
        &self,
        rider: Uuid,
        consent: &Consent,
    ) -> Result<Option<Deleted>, StoreError> {
        let mut tx = self.write().await?;
        crate::readings::rider_version(&mut tx, rider).await?;
        insert_consent(&mut tx, rider, consent).await?;
        let mut gone = 0;
        if !consent.pictures {
            let key = rider.to_string();
            let done = sqlx::query!(
                "DELETE FROM pictures WHERE take_id IN (
                     SELECT t.id FROM takes t JOIN sessions s ON s.id = t.session_id
                     JOIN bikes b ON b.id = s.bike_id WHERE b.rider_id = ?1)",
                key
            )
            .execute(&mut *tx)
            .await?;
            gone = done.rows_affected();
        }
        tx.commit().await?;
        Ok(if gone > 0 {
            Some(self.forgotten().await?)
        } else {
            None
        })
    }

    /// Keeps one picture of a take, in place of an earlier one: with the rider's consent only.
    pub async fn keep_picture(
        &self,
        take: Uuid,
        jpeg: &[u8],
        now: Timestamp,
    ) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        let (take, at) = (take.to_string(), now.to_string());
        let rider = sqlx::query!(
            r#"SELECT r.born,
                   (SELECT c.body FROM consents c WHERE c.rider_id = r.id ORDER BY c.seq DESC LIMIT 1) AS "last?: String"
               FROM takes t JOIN sessions s ON s.id = t.session_id JOIN bikes b ON b.id = s.bike_id
               JOIN riders r ON r.id = b.rider_id WHERE t.id = ?1"#,
            take
        )
        .fetch_optional(&mut *tx)
        .await?
        .ok_or(StoreError::NotFound("take"))?;
        let born = rider.born.as_deref().map(json::day).transpose()?;
        let last = (rider.last)
            .map(|body| json::read::<Consent>("consent", &body))
            .transpose()?;
        if !last.is_some_and(|last| last.allows(born, now)) {
            return Err(StoreError::Conflict(
                "pictures are kept only with the rider's consent: ask first".to_owned(),
            ));
        }
        sqlx::query!(
            "INSERT INTO pictures (take_id, kept_at, jpeg) VALUES (?1, ?2, ?3)
             ON CONFLICT (take_id) DO UPDATE SET kept_at = excluded.kept_at, jpeg = excluded.jpeg",
            take,
            at,
            jpeg
        )
        .execute(&mut *tx)
        .await?;
        tx.commit().await?;
        Ok(())
    }

    /// A take's picture, if it was kept no earlier than `since`.
    pub async fn picture(&self, take: Uuid, since: Timestamp) -> Result<Vec<u8>, StoreError> {
        let (take, since) = (take.to_string(), since.to_string());
        sqlx::query_scalar!(
            "SELECT jpeg FROM pictures WHERE take_id = ?1 AND kept_at >= ?2",
            take,
            since
        )
        .fetch_optional(&self.pool())
        .await?
        .ok_or(StoreError::NotFound("picture"))
    }

    /// Takes one picture away for good.
    pub async fn delete_picture(&self, take: Uuid) -> Result<Deleted, StoreError> {
        let key = take.to_string();
        let mut tx = self.write().await?;
        let done = sqlx::query!("DELETE FROM pictures WHERE take_id = ?1", key)
            .execute(&mut *tx)
            .await?;
        if done.rows_affected() == 0 {
            return Err(StoreError::NotFound("picture"));
        }
        tx.commit().await?;
        self.forgotten().await
    }

    /// The takes of a fit that have a picture kept no earlier than `since`.
    pub async fn pictured(&self, session: Uuid, since: Timestamp) -> Result<Vec<Uuid>, StoreError> {
        let (session, since) = (session.to_string(), since.to_string());
        let ids = sqlx::query_scalar!(
            "SELECT p.take_id FROM pictures p JOIN takes t ON t.id = p.take_id
             WHERE t.session_id = ?1 AND p.kept_at >= ?2 ORDER BY t.seq",
            session,
            since
        )
        .fetch_all(&self.pool())
        .await?;
        ids.iter().map(|id| json::id(id)).collect()
    }

    /// Takes away for good what was kept before `since`; how many pictures that were.
    pub async fn forget_pictures(&self, since: Timestamp) -> Result<u64, StoreError> {
        let since = since.to_string();
        let due = sqlx::query_scalar!(
            r#"SELECT count(*) AS "due!: i64" FROM pictures WHERE kept_at < ?1"#,
            since
        )
        .fetch_one(&self.pool())
        .await?;
        if due == 0 {
            return Ok(0);
        }
        let mut tx = self.write().await?;
        let done = sqlx::query!("DELETE FROM pictures WHERE kept_at < ?1", since)
            .execute(&mut *tx)
            .await?;
        tx.commit().await?;
        self.forgotten().await?;
        Ok(done.rows_affected())
    }

    /// A rider's takes with their pictures, for a file that was asked to have them.
    pub async fn with_pictures(
        &self,
        rider: &mut Rider,
        since: Timestamp,
    ) -> Result<(), StoreError> {
        let takes = (rider.bikes.iter_mut())
            .flat_map(|bike| &mut bike.sessions)
            .flat_map(|session| &mut session.takes);
        for take in takes {
            match self.picture(take.id, since).await {
                Ok(jpeg) => take.picture = in_pieces(&jpeg),
                Err(StoreError::NotFound(_)) => {}
                Err(error) => return Err(error),
            }
        }
        Ok(())
    }
}

/// `false` when it is there already.
pub(crate) async fn insert_consent(
    tx: &mut Transaction<'static, Sqlite>,
    rider: Uuid,
    consent: &Consent,
) -> Result<bool, StoreError> {
    let (id, rider) = (consent.id.to_string(), rider.to_string());
    let body = json::write("consent", consent)?;
    let done = sqlx::query!(
        "INSERT INTO consents (id, rider_id, body) VALUES (?1, ?2, ?3) ON CONFLICT (id) DO NOTHING",
        id,
        rider,
        body
    )
    .execute(&mut **tx)
    .await?;
    Ok(done.rows_affected() > 0)
}

/// A picture that came with a file.
pub(crate) async fn insert_picture(
    tx: &mut Transaction<'static, Sqlite>,
    take: Uuid,
    jpeg: &[u8],
    now: Timestamp,
) -> Result<(), StoreError> {
    let (take, at) = (take.to_string(), now.to_string());
    sqlx::query!(
        "INSERT INTO pictures (take_id, kept_at, jpeg) VALUES (?1, ?2, ?3)",
        take,
        at,
        jpeg
    )
    .execute(&mut **tx)
    .await?;
    Ok(())
}

pub(crate) async fn consents_of(
    connection: &mut SqliteConnection,
    riders: &str,
) -> Result<Grouped<Body>, StoreError> {
    let rows = sqlx::query_as!(
        Body,
        "SELECT rider_id AS of, body FROM consents WHERE rider_id IN (SELECT value FROM json_each(?1)) ORDER BY seq",
        riders
    )
    .fetch_all(connection)
    .await?;
    Ok(Grouped::by(rows, |row| &row.of))
}
