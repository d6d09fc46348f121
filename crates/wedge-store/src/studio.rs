//! How the studio works, and its frame library.

use crate::{Store, StoreError, Versioned, json};
use jiff::Timestamp;
use sqlx::{Sqlite, Transaction};
use uuid::Uuid;
use wedge_files::{House, LibraryFrame};

impl Store {
    /// How the studio works; the house's way, at version 0, until it was chosen.
    pub async fn house(&self) -> Result<Versioned<House>, StoreError> {
        let row = sqlx::query!("SELECT house, version FROM studio WHERE only = 1")
            .fetch_optional(&self.pool)
            .await?;
        row.map_or_else(
            || {
                Ok(Versioned {
                    noun: House::default(),
                    version: 0,
                })
            },
            |row| {
                Ok(Versioned {
                    noun: json::read("house", &row.house)?,
                    version: row.version,
                })
            },
        )
    }

    /// Chooses how the studio works, from the version it was read at.
    pub async fn save_house(&self, house: &House, at: i64) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        let current = sqlx::query_scalar!("SELECT version FROM studio WHERE only = 1")
            .fetch_optional(&mut *tx)
            .await?
            .unwrap_or(0);
        if current != at {
            return Err(StoreError::Stale { current });
        }
        put_house(&mut tx, house, current + 1).await?;
        tx.commit().await?;
        Ok(())
    }

    /// The frame library, by name.
    pub async fn frames(&self) -> Result<Vec<LibraryFrame>, StoreError> {
        let rows =
            sqlx::query!("SELECT id, name, kind, frame FROM frames ORDER BY name COLLATE NOCASE")
                .fetch_all(&self.pool)
                .await?;
        rows.into_iter()
            .map(|row| {
                Ok(LibraryFrame {
                    id: json::id(&row.id)?,
                    name: row.name,
                    kind: json::read_word("kind", &row.kind)?,
                    frame: json::read("frame", &row.frame)?,
                })
            })
            .collect()
    }

    /// Takes frames into the library: all of them or none. A name that is there already is a conflict.
    pub async fn add_frames(
        &self,
        frames: &[LibraryFrame],
        now: Timestamp,
    ) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        insert_frames(&mut tx, frames, now).await?;
        tx.commit().await?;
        Ok(())
    }

    /// Takes a frame out of the library; bikes written down with it keep theirs.
    pub async fn delete_frame(&self, id: Uuid) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        let key = id.to_string();
        let done = sqlx::query!("DELETE FROM frames WHERE id = ?1", key)
            .execute(&mut *tx)
            .await?;
        tx.commit().await?;
        if done.rows_affected() == 0 {
            return Err(StoreError::NotFound("frame"));
        }
        Ok(())
    }
}

pub(crate) async fn put_house(
    tx: &mut Transaction<'static, Sqlite>,
    house: &House,
    version: i64,
) -> Result<(), StoreError> {
    let house = json::write("house", house)?;
    sqlx::query!(
        "INSERT INTO studio (only, house, version) VALUES (1, ?1, ?2)
         ON CONFLICT (only) DO UPDATE SET house = excluded.house, version = excluded.version",
        house,
        version
    )
    .execute(&mut **tx)
    .await?;
    Ok(())
}

pub(crate) async fn insert_frames(
    tx: &mut Transaction<'static, Sqlite>,
    frames: &[LibraryFrame],
    now: Timestamp,
) -> Result<(), StoreError> {
    let now = now.to_string();
    for frame in frames {
        let known = sqlx::query_scalar!(
            "SELECT 1 AS one FROM frames WHERE name = ?1 COLLATE NOCASE",
            frame.name
        )
        .fetch_optional(&mut **tx)
        .await?;
        if known.is_some() {
            return Err(StoreError::Conflict(format!(
                "a frame called “{}” is in the library already",
                frame.name
            )));
        }
        let (id, kind) = (frame.id.to_string(), json::write_word("kind", &frame.kind)?);
        let geometry = json::write("frame", &frame.frame)?;
        sqlx::query!(
            "INSERT INTO frames (id, name, kind, frame, created_at) VALUES (?1, ?2, ?3, ?4, ?5)",
            id,
            frame.name,
            kind,
            geometry,
            now
        )
        .execute(&mut **tx)
        .await?;
    }
    Ok(())
}
