//! Bikes: a frame and its parts as typed in.

use crate::fit::Depth;
use crate::many::{Grouped, keys};
use crate::sessions::{Sessions, sessions_of};
use crate::{Store, StoreError, Versioned, json};
use jiff::Timestamp;
use sqlx::{Sqlite, SqliteConnection, Transaction};
use uuid::Uuid;
use wedge_core::bike::{Frame, Kind, TapedFrame};
use wedge_core::school::FrameLabel;
use wedge_files::Bike;

/// What may change of a bike.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct BikeEdit {
    /// Another name.
    pub name: Option<String>,
    /// Corrected frame geometry, and what its reach and stack were computed from, if they were.
    pub frame: Option<(Frame, Option<TapedFrame>)>,
    /// Another kind of riding.
    pub kind: Option<Kind>,
    /// The size the frame is labelled with.
    pub label: Option<FrameLabel>,
}

impl Store {
    /// Writes a new bike of a rider. Its sessions are not written.
    pub async fn create_bike(
        &self,
        rider: Uuid,
        bike: &Bike,
        now: Timestamp,
    ) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        insert_bike(&mut tx, rider, bike, now).await?;
        tx.commit().await?;
        Ok(())
    }

    /// A bike with its fits.
    pub async fn bike(&self, id: Uuid) -> Result<Versioned<Bike>, StoreError> {
        let mut connection = self.pool().begin().await?;
        let rider = rider_of(&mut connection, id).await?;
        let key = id.to_string();
        let version = sqlx::query_scalar!("SELECT version FROM bikes WHERE id = ?1", key)
            .fetch_one(&mut *connection)
            .await?;
        let rider = rider.to_string();
        let noun = bikes_of(&mut connection, &keys([&rider]), Depth::Bench)
            .await?
            .of(&rider)?
            .into_iter()
            .find(|bike| bike.id == id)
            .ok_or(StoreError::NotFound("bike"))?;
        Ok(Versioned { noun, version })
    }

    /// The version a bike is at.
    pub async fn bike_version(&self, id: Uuid) -> Result<i64, StoreError> {
        let key = id.to_string();
        sqlx::query_scalar!("SELECT version FROM bikes WHERE id = ?1", key)
            .fetch_optional(&self.pool())
            .await?
            .ok_or(StoreError::NotFound("bike"))
    }

    /// Whose bike it is.
    pub async fn rider_of_bike(&self, id: Uuid) -> Result<Uuid, StoreError> {
        let mut connection = self.pool().acquire().await?;
        rider_of(&mut connection, id).await
    }

    /// Corrects a bike.
    pub async fn edit_bike(&self, id: Uuid, edit: &BikeEdit, at: i64) -> Result<i64, StoreError> {
        let mut tx = self.write().await?;
        let key = id.to_string();
        let current = sqlx::query_scalar!("SELECT version FROM bikes WHERE id = ?1", key)
            .fetch_optional(&mut *tx)
            .await?
            .ok_or(StoreError::NotFound("bike"))?;
        if current != at {
            return Err(StoreError::Stale { current });
        }
        let next = current + 1;
        let frame = edit
            .frame
            .map(|(frame, _)| json::write("frame", &frame))
            .transpose()?;
        let taped = match &edit.frame {
            Some((_, Some(taped))) => Some(json::write("taped frame", taped)?),
            _ => None,
        };
        let kind = edit
            .kind
            .map(|k| json::write_word("kind", &k))
            .transpose()?;
        let label = edit
            .label
            .map(|l| json::write_word("label", &l))
            .transpose()?;
        sqlx::query!(
            "UPDATE bikes SET name = coalesce(?2, name), taped = iif(?3 IS NULL, taped, ?6),
             frame = coalesce(?3, frame), kind = coalesce(?4, kind), version = ?5, label = coalesce(?7, label)
             WHERE id = ?1",
            key,
            edit.name,
            frame,
            kind,
            next,
            taped,
            label
        )
        .execute(&mut *tx)
        .await?;
        tx.commit().await?;
        Ok(next)
    }
}

async fn rider_of(connection: &mut SqliteConnection, bike: Uuid) -> Result<Uuid, StoreError> {
    let key = bike.to_string();
    let rider = sqlx::query_scalar!("SELECT rider_id FROM bikes WHERE id = ?1", key)
        .fetch_optional(connection)
        .await?
        .ok_or(StoreError::NotFound("bike"))?;
    json::id(&rider)
}

/// `false` when the bike is there already.
pub(crate) async fn insert_bike(
    tx: &mut Transaction<'static, Sqlite>,
    rider: Uuid,
    bike: &Bike,
    now: Timestamp,
) -> Result<bool, StoreError> {
    let rider_key = rider.to_string();
    let known = sqlx::query_scalar!("SELECT 1 AS one FROM riders WHERE id = ?1", rider_key)
        .fetch_optional(&mut **tx)
        .await?;
    if known.is_none() {
        return Err(StoreError::NotFound("rider"));
    }
    let (id, now) = (bike.id.to_string(), now.to_string());
    let kind = json::write_word("kind", &bike.kind)?;
    let frame = json::write("frame", &bike.frame)?;
    let setup = json::write("setup", &bike.setup)?;
    let taped = bike
        .taped
        .map(|t| json::write("taped frame", &t))
        .transpose()?;
    let label = bike
        .label
        .map(|l| json::write_word("label", &l))
        .transpose()?;
    let usual = (bike.usual.as_ref())
        .map(|usual| json::write("usual numbers", usual))
        .transpose()?;
    let carried = (bike.carried.as_ref())
        .map(|carried| json::write("carried position", carried))
        .transpose()?;
    let done = sqlx::query!(
        "INSERT INTO bikes (id, rider_id, name, kind, frame, setup, created_at, taped, label, usual, stand, carried)
         VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9, ?10, ?11, ?12) ON CONFLICT (id) DO NOTHING",
        id,
        rider_key,
        bike.name,
        kind,
        frame,
        setup,
        now,
        taped,
        label,
        usual,
        bike.stand,
        carried
    )
    .execute(&mut **tx)
    .await?;
    Ok(done.rows_affected() > 0)
}

/// A bike as its row holds it.
struct BikeRow {
    rider_id: String,
    id: String,
    name: String,
    kind: String,
    frame: String,
    setup: String,
    taped: Option<String>,
    label: Option<String>,
    usual: Option<String>,
    stand: i64,
    carried: Option<String>,
}

/// The bikes of riders, of all of them at once.
pub(crate) struct Bikes {
    rows: Grouped<BikeRow>,
    sessions: Sessions,
}

impl Bikes {
    /// A rider's bikes with their fits, the oldest first.
    pub(crate) fn of(&mut self, rider: &str) -> Result<Vec<Bike>, StoreError> {
        let rows = self.rows.take(rider).into_iter();
        rows.map(|row| {
            Ok(Bike {
                id: json::id(&row.id)?,
                name: row.name,
                kind: json::read_word("kind", &row.kind)?,
                frame: json::read("frame", &row.frame)?,
                setup: json::read("setup", &row.setup)?,
                label: row
                    .label
                    .as_deref()
                    .map(|l| json::read_word("label", l))
                    .transpose()?,
                taped: row
                    .taped
                    .as_deref()
                    .map(|t| json::read("taped frame", t))
                    .transpose()?,
                usual: row
                    .usual
                    .as_deref()
                    .map(|u| json::read("usual numbers", u))
                    .transpose()?,
                stand: row.stand != 0,
                carried: row
                    .carried
                    .as_deref()
                    .map(|c| json::read("carried position", c))
                    .transpose()?,
                sessions: self.sessions.of(&row.id)?,
            })
        })
        .collect()
    }
}

pub(crate) async fn bikes_of(
    connection: &mut SqliteConnection,
    riders: &str,
    depth: Depth,
) -> Result<Bikes, StoreError> {
    let rows = sqlx::query_as!(
        BikeRow,
        "SELECT rider_id, id, name, kind, frame, setup, taped, label, usual, stand, carried FROM bikes
         WHERE rider_id IN (SELECT value FROM json_each(?1)) ORDER BY rowid",
        riders
    )
    .fetch_all(&mut *connection)
    .await?;
    let ids = keys(rows.iter().map(|row| &row.id));
    Ok(Bikes {
        rows: Grouped::by(rows, |row| &row.rider_id),
        sessions: sessions_of(connection, &ids, depth).await?,
    })
}
