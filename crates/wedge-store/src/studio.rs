//! How the studio works, and its frame library.

use crate::{Store, StoreError, Unreadable, Versioned, json};
use jiff::Timestamp;
use sqlx::{Sqlite, Transaction};
use uuid::Uuid;
use wedge_files::{House, LibraryFrame};

impl Store {
    /// How the studio works; the house's way, at version 0, until it was chosen.
    pub async fn house(&self) -> Result<Versioned<House>, StoreError> {
        let row = sqlx::query!("SELECT house, version FROM studio WHERE only = 1")
            .fetch_optional(&self.pool())
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
                    // What does not read is named among what is unreadable; fits go on in the house's way.
                    noun: json::read("house", &row.house).unwrap_or_default(),
                    version: row.version,
                })
            },
        )
    }

    /// What of the studio's own does not read: how it works, or a frame of its library.
    pub(crate) async fn unreadable_of_studio(&self) -> Result<Vec<Unreadable>, StoreError> {
        let mut all = Vec::new();
        let house = sqlx::query_scalar!("SELECT house FROM studio WHERE only = 1")
            .fetch_optional(&self.pool())
            .await?;
        if let Some(Err(error)) = house.map(|house| json::read::<House>("house", &house)) {
            all.push(Unreadable {
                id: String::new(),
                name: "How the studio works".to_owned(),
                why: error.to_string(),
            });
        }
        for row in self.frame_rows().await? {
            if let Err(error) = row.read() {
                all.push(Unreadable {
                    id: String::new(),
                    name: format!("The frame {}", row.name),
                    why: error.to_string(),
                });
            }
        }
        Ok(all)
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
        let rows = self.frame_rows().await?;
        Ok(rows.iter().filter_map(|row| row.read().ok()).collect())
    }

    async fn frame_rows(&self) -> Result<Vec<FrameRow>, StoreError> {
        Ok(sqlx::query_as!(
            FrameRow,
            "SELECT id, name, kind, frame FROM frames ORDER BY name COLLATE NOCASE"
        )
        .fetch_all(&self.pool())
        .await?)
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

/// A frame of the library as its row holds it.
struct FrameRow {
    id: String,
    name: String,
    kind: String,
    frame: String,
}

impl FrameRow {
    fn read(&self) -> Result<LibraryFrame, StoreError> {
        Ok(LibraryFrame {
            id: json::id(&self.id)?,
            name: self.name.clone(),
            kind: json::read_word("kind", &self.kind)?,
            frame: json::read("frame", &self.frame)?,
        })
    }
}

/// Whether the studio's way was chosen here.
pub(crate) async fn is_chosen(tx: &mut Transaction<'static, Sqlite>) -> Result<bool, StoreError> {
    let chosen = sqlx::query_scalar!("SELECT 1 AS one FROM studio WHERE only = 1")
        .fetch_optional(&mut **tx)
        .await?;
    Ok(chosen.is_some())
}

/// The ids and names of the library's frames.
pub(crate) async fn frame_names(
    tx: &mut Transaction<'static, Sqlite>,
) -> Result<Vec<(String, String)>, StoreError> {
    let rows = sqlx::query!("SELECT id, name FROM frames")
        .fetch_all(&mut **tx)
        .await?;
    Ok(rows.into_iter().map(|row| (row.id, row.name)).collect())
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
