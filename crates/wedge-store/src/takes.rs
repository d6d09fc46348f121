//! What cameras, film and trainers gave of a rider. Append-only.

use crate::fit::Depth;
use crate::many::Grouped;
use crate::{Store, StoreError, fit, json};
use sqlx::{Sqlite, SqliteConnection, Transaction};
use uuid::Uuid;
use wedge_files::Take;

/// A take's row.
pub(crate) struct PackedTake {
    of: String,
    body: String,
    tracks: String,
}

impl Store {
    /// Keeps a take. Sent again, it is there already.
    pub async fn add_take(&self, session: Uuid, take: &Take) -> Result<i64, StoreError> {
        let mut tx = self.write().await?;
        let is_new = insert_take(&mut tx, session, take).await?;
        let version = fit::appended(&mut tx, session, is_new, None).await?;
        tx.commit().await?;
        Ok(version)
    }

    /// The takes of a fit with their markers, in the order they were made.
    pub async fn takes(&self, session: Uuid) -> Result<Vec<Take>, StoreError> {
        let mut connection = self.pool().acquire().await?;
        let key = session.to_string();
        let mut all = takes_of(&mut connection, &crate::many::keys([&key]), Depth::Whole).await?;
        read(all.take(&key))
    }

    /// The fit a take belongs to.
    pub async fn session_of_take(&self, id: Uuid) -> Result<Uuid, StoreError> {
        let mut connection = self.pool().acquire().await?;
        let key = id.to_string();
        let session = sqlx::query_scalar!("SELECT session_id FROM takes WHERE id = ?1", key)
            .fetch_optional(&mut *connection)
            .await?
            .ok_or(StoreError::NotFound("take"))?;
        json::id(&session)
    }
}

/// `false` when it is there already.
pub(crate) async fn insert_take(
    tx: &mut Transaction<'static, Sqlite>,
    session: Uuid,
    take: &Take,
) -> Result<bool, StoreError> {
    let (id, session) = (take.id.to_string(), session.to_string());
    let mut alone = take.clone();
    let tracks = json::write("tracks", &std::mem::take(&mut alone.tracks))?;
    // A picture is kept beside it, or not at all.
    alone.picture.clear();
    let body = json::write("take", &alone)?;
    let done = sqlx::query!(
        "INSERT INTO takes (id, session_id, body, tracks) VALUES (?1, ?2, ?3, ?4) ON CONFLICT (id) DO NOTHING",
        id,
        session,
        body,
        tracks
    )
    .execute(&mut **tx)
    .await?;
    Ok(done.rows_affected() > 0)
}

/// The takes of fits; their markers only where everything is read.
pub(crate) async fn takes_of(
    connection: &mut SqliteConnection,
    sessions: &str,
    depth: Depth,
) -> Result<Grouped<PackedTake>, StoreError> {
    let with_tracks = depth == Depth::Whole;
    let rows = sqlx::query_as!(
        PackedTake,
        r#"SELECT session_id AS of, body, iif(?2, tracks, '[]') AS "tracks!: String" FROM takes
           WHERE session_id IN (SELECT value FROM json_each(?1)) ORDER BY seq"#,
        sessions,
        with_tracks
    )
    .fetch_all(connection)
    .await?;
    Ok(Grouped::by(rows, |row| &row.of))
}

pub(crate) fn read(rows: Vec<PackedTake>) -> Result<Vec<Take>, StoreError> {
    let one = |row: PackedTake| {
        let mut take: Take = json::read("take", &row.body)?;
        take.tracks = json::read("tracks", &row.tracks)?;
        Ok(take)
    };
    rows.into_iter().map(one).collect()
}
