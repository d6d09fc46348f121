//! Riders and the readings of their bodies.

use crate::bikes::bikes_of;
use crate::fit::Depth;
use crate::many::keys;
use crate::pictures::consents_of;
use crate::readings::{body_readings, insert_reading, readings, rider_version};
use crate::{Store, StoreError, Unreadable, Versioned, json};
use jiff::Timestamp;
use jiff::civil::Date;
use sqlx::{Connection, Sqlite, SqliteConnection, Transaction};
use std::time::Duration;
use uuid::Uuid;
use wedge_core::work::Station;
use wedge_files::{ReadingRecord, Rider};

/// A rider as the room shows one.
#[derive(Debug, Clone, PartialEq)]
pub struct RiderSummary {
    /// The rider.
    pub id: Uuid,
    /// As the rider is called.
    pub name: String,
    /// How many bikes.
    pub bikes: i64,
    /// The last fit's day, if there was any.
    pub last_day: Option<String>,
    /// The fit that is going on, the latest if several.
    pub open: Option<OpenFit>,
    /// The day the rider is to come back: of the last fit of a bike, until the next one is begun.
    pub follow_up: Option<Date>,
    /// Whether the rider was put away.
    pub archived: bool,
    /// Whether it is a stand-in's.
    pub simulated: bool,
}

/// What may change of a rider besides readings.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct RiderEdit {
    /// Another name.
    pub name: Option<String>,
    /// Another day of birth; none takes it away.
    pub born: Option<Option<Date>>,
    /// Put away since; none brings the rider back.
    pub archived_at: Option<Option<Timestamp>>,
}

/// What became of what was deleted.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Deleted {
    /// Whether the log holds nothing of it any more.
    pub log_emptied: bool,
    /// How many copies of days are kept, which may still hold it.
    pub copies: usize,
}

/// A fit that is going on.
#[derive(Debug, Clone, PartialEq)]
pub struct OpenFit {
    /// The session.
    pub session_id: Uuid,
    /// The bike's name.
    pub bike: String,
    /// Where on the way it stands.
    pub station: Station,
    /// The how-manieth fit of the bike.
    pub number: i64,
}

impl Store {
    /// Riders whose name holds `find` (all when empty): open fits first, then who is to come back soonest, then by the
    /// last fit's day, then by name. Those put away are among them only when asked for.
    pub async fn riders(
        &self,
        find: &str,
        archived: bool,
        most: i64,
    ) -> Result<Vec<RiderSummary>, StoreError> {
        let pattern = format!(
            "%{}%",
            find.replace('\\', "\\\\")
                .replace('%', "\\%")
                .replace('_', "\\_")
        );
        let rows = sqlx::query!(
            r#"
            SELECT r.id, r.name,
                (SELECT count(*) FROM bikes b WHERE b.rider_id = r.id) AS "bikes!: i64",
                (SELECT max(s.day) FROM sessions s JOIN bikes b ON b.id = s.bike_id WHERE b.rider_id = r.id)
                    AS "last_day?: String",
                o.id AS "open_id?: String", ob.name AS "open_bike?: String", o.station AS "open_station?: String",
                o.number AS "open_number?: i64",
                (SELECT min(s.follow_up) FROM sessions s JOIN bikes b ON b.id = s.bike_id
                    WHERE b.rider_id = r.id AND s.state = 'finished' AND s.number = (
                        SELECT max(l.number) FROM sessions l WHERE l.bike_id = b.id)) AS "follow_up?: String",
                r.archived_at IS NOT NULL AS "archived!: bool",
                r.simulated IS NOT NULL AS "simulated!: bool"
            FROM riders r
            LEFT JOIN sessions o ON o.id = (
                SELECT s.id FROM sessions s JOIN bikes b ON b.id = s.bike_id
                WHERE b.rider_id = r.id AND s.state = 'open' ORDER BY s.rowid DESC LIMIT 1)
            LEFT JOIN bikes ob ON ob.id = o.bike_id
            WHERE r.arriving IS NULL AND NOT EXISTS (SELECT 1 FROM practices p WHERE p.rider_id = r.id)
                AND r.name LIKE ?1 ESCAPE '\' AND (?3 OR r.archived_at IS NULL)
            ORDER BY o.id IS NULL, 9 NULLS LAST, 4 DESC, r.name COLLATE NOCASE
            LIMIT ?2
            "#,
            pattern,
            most,
            archived
        )
        .fetch_all(&self.pool())
        .await?;
        rows.into_iter()
            .map(|row| {
                let open = match (
                    row.open_id,
                    row.open_bike,
                    row.open_station,
                    row.open_number,
                ) {
                    // What does not read is said on the rider's own page, and never empties the room.
                    (Some(id), Some(bike), Some(station), Some(number)) => json::id(&id)
                        .and_then(|id| Ok((id, json::read_word("station", &station)?)))
                        .map(|(session_id, station)| OpenFit {
                            session_id,
                            bike,
                            station,
                            number,
                        })
                        .ok(),
                    _ => None,
                };
                Ok(RiderSummary {
                    id: json::id(&row.id)?,
                    name: row.name,
                    bikes: row.bikes,
                    last_day: row.last_day,
                    open,
                    follow_up: row.follow_up.as_deref().and_then(|day| json::day(day).ok()),
                    archived: row.archived,
                    simulated: row.simulated,
                })
            })
            .collect()
    }

    /// A rider with everything on record.
    pub async fn rider(&self, id: Uuid) -> Result<Versioned<Rider>, StoreError> {
        let mut connection = self.pool().begin().await?;
        rider(&mut connection, id, Depth::Whole).await
    }

    /// A rider with every position of every fit, without the trials and looks that led there.
    pub async fn rider_in_years(&self, id: Uuid) -> Result<Versioned<Rider>, StoreError> {
        let mut connection = self.pool().begin().await?;
        rider(&mut connection, id, Depth::Years).await
    }

    /// The same around one fit, which is read whole by itself: without its readings.
    pub async fn rider_around(&self, id: Uuid, fit: Uuid) -> Result<Versioned<Rider>, StoreError> {
        let mut connection = self.pool().begin().await?;
        rider(&mut connection, id, Depth::Around(fit)).await
    }

    /// How many riders are read at once when all of them are.
    pub const AT_ONCE: usize = 64;

    /// Every rider's id, in the order they were written down; those of practice are not among them.
    pub async fn rider_ids(&self) -> Result<Vec<String>, StoreError> {
        let ids = sqlx::query_scalar!(
            "SELECT id FROM riders WHERE arriving IS NULL AND id NOT IN (SELECT rider_id FROM practices) ORDER BY rowid"
        )
        .fetch_all(&self.pool())
        .await?;
        Ok(ids)
    }

    /// The riders of these ids with everything on record, each read or said why not. Whoever was deleted meanwhile is
    /// not among them.
    pub async fn riders_of(
        &self,
        ids: &[String],
    ) -> Result<Vec<Result<Rider, Unreadable>>, StoreError> {
        let mut connection = self.pool().begin().await?;
        let read = riders_with(&mut connection, ids, Depth::Whole).await?;
        Ok(read.into_iter().map(|(_, rider)| rider).collect())
    }

    /// Writes a new rider with the first readings. Bikes are not written.
    pub async fn create_rider(&self, rider: &Rider, now: Timestamp) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        if insert_rider(&mut tx, rider, None, now).await? {
            for record in &rider.readings {
                insert_reading(&mut tx, rider.id, None, record).await?;
            }
        }
        tx.commit().await?;
        Ok(())
    }

    /// Corrects a rider.
    pub async fn edit_rider(&self, id: Uuid, edit: &RiderEdit, at: i64) -> Result<i64, StoreError> {
        let mut tx = self.write().await?;
        let version = touch_rider(&mut tx, id, at).await?;
        let key = id.to_string();
        let (dated, put_away) = (edit.born.is_some(), edit.archived_at.is_some());
        let born = edit.born.flatten().map(|day| day.to_string());
        let archived_at = edit.archived_at.flatten().map(|at| at.to_string());
        sqlx::query!(
            "UPDATE riders SET name = coalesce(?2, name), born = iif(?3, ?4, born),
             archived_at = iif(?5, ?6, archived_at) WHERE id = ?1",
            key,
            edit.name,
            dated,
            born,
            put_away,
            archived_at
        )
        .execute(&mut *tx)
        .await?;
        tx.commit().await?;
        Ok(version)
    }

    /// Deletes a rider with every bike, fit, reading, trial and draft, for good: the one exception to append-only. What
    /// was written is overwritten in the file, and the log is emptied unless somebody keeps on reading it.
    pub async fn delete_rider(&self, id: Uuid, at: i64) -> Result<Deleted, StoreError> {
        let mut tx = self.write().await?;
        touch_rider(&mut tx, id, at).await?;
        let key = id.to_string();
        sqlx::query!("DELETE FROM riders WHERE id = ?1", key)
            .execute(&mut *tx)
            .await?;
        tx.commit().await?;
        self.forgotten().await
    }

    /// Sees to it that what was deleted stands in the log no more, and says where it may still stand.
    pub(crate) async fn forgotten(&self) -> Result<Deleted, StoreError> {
        Ok(Deleted {
            log_emptied: self.empty_log().await?,
            copies: self.copies().len(),
        })
    }

    /// Writes everything in the log back into the record and empties the log; `false` when somebody still reads it after
    /// a while.
    async fn empty_log(&self) -> Result<bool, StoreError> {
        const TRIES: u32 = 10;
        const PATIENCE_MS: u64 = 200;
        let mut connection = self.pool().acquire().await?.detach();
        // A connection of its own: the wait is the loop's, not the five seconds of a write.
        sqlx::query("PRAGMA busy_timeout = 0")
            .execute(&mut connection)
            .await?;
        let mut emptied = false;
        for _ in 0..TRIES {
            let busy: i64 = sqlx::query_scalar("PRAGMA wal_checkpoint(TRUNCATE)")
                .fetch_one(&mut connection)
                .await?;
            emptied = busy == 0;
            if emptied {
                break;
            }
            tokio::time::sleep(Duration::from_millis(PATIENCE_MS)).await;
        }
        connection.close().await?;
        Ok(emptied)
    }

    /// Appends a reading of the body, from the version the rider was read at.
    pub async fn add_body_reading(
        &self,
        rider: Uuid,
        record: &ReadingRecord,
        at: i64,
    ) -> Result<i64, StoreError> {
        let mut tx = self.write().await?;
        let version = if insert_reading(&mut tx, rider, None, record).await? {
            touch_rider(&mut tx, rider, at).await?
        } else {
            rider_version(&mut tx, rider).await?
        };
        tx.commit().await?;
        Ok(version)
    }
}

impl Store {
    /// Sets a reading of the body aside: it stays on record and counts no more.
    pub async fn set_body_reading_aside(
        &self,
        rider: Uuid,
        reading: Uuid,
        now: Timestamp,
        at: i64,
    ) -> Result<i64, StoreError> {
        let mut tx = self.write().await?;
        let version = touch_rider(&mut tx, rider, at).await?;
        set_aside(&mut tx, rider, reading, now).await?;
        tx.commit().await?;
        Ok(version)
    }
}

async fn set_aside(
    tx: &mut Transaction<'static, Sqlite>,
    rider: Uuid,
    reading: Uuid,
    now: Timestamp,
) -> Result<(), StoreError> {
    let (rider, reading, now) = (rider.to_string(), reading.to_string(), now.to_string());
    let done = sqlx::query!(
        "UPDATE readings SET set_aside_at = coalesce(set_aside_at, ?3)
         WHERE id = ?1 AND rider_id = ?2 AND session_id IS NULL",
        reading,
        rider,
        now
    )
    .execute(&mut **tx)
    .await?;
    if done.rows_affected() == 0 {
        return Err(StoreError::NotFound("reading"));
    }
    Ok(())
}

/// A rider as its row holds it.
struct RiderRow {
    id: String,
    name: String,
    born: Option<String>,
    archived_at: Option<String>,
    simulated: Option<String>,
    version: i64,
}

/// Riders of these ids as they stand, in the order they were written down, each with its version.
async fn read_together(
    connection: &mut SqliteConnection,
    ids: &str,
    depth: Depth,
) -> Result<Vec<(RiderRow, Result<Rider, StoreError>)>, StoreError> {
    let rows = sqlx::query_as!(
        RiderRow,
        "SELECT id, name, born, archived_at, simulated, version FROM riders
         WHERE id IN (SELECT value FROM json_each(?1)) AND arriving IS NULL ORDER BY rowid",
        ids
    )
    .fetch_all(&mut *connection)
    .await?;
    let mut consents = consents_of(connection, ids).await?;
    let mut bodies = body_readings(connection, ids).await?;
    let mut bikes = bikes_of(connection, ids, depth).await?;
    let mut read = |row: &RiderRow| {
        Ok(Rider {
            id: json::id(&row.id)?,
            name: row.name.clone(),
            born: row.born.as_deref().map(json::day).transpose()?,
            archived_at: row.archived_at.as_deref().map(json::instant).transpose()?,
            simulated: (row.simulated.as_deref())
                .map(|simulated| json::read("simulated", simulated))
                .transpose()?,
            consents: consents.read("consent", &row.id)?,
            readings: readings(&bodies.take(&row.id))?,
            bikes: bikes.of(&row.id)?,
        })
    };
    Ok(rows
        .into_iter()
        .map(|row| {
            let rider = read(&row);
            (row, rider)
        })
        .collect())
}

/// Riders of these ids, a bad row costing no more than its own rider: with the version, read or said why not.
pub(crate) async fn riders_with(
    connection: &mut SqliteConnection,
    ids: &[String],
    depth: Depth,
) -> Result<Vec<(i64, Result<Rider, Unreadable>)>, StoreError> {
    let named = |(row, rider): (RiderRow, Result<Rider, StoreError>)| {
        let unreadable = |error: StoreError| Unreadable {
            id: row.id.clone(),
            name: row.name.clone(),
            why: error.to_string(),
        };
        (row.version, rider.map_err(unreadable))
    };
    match read_together(connection, &keys(ids), depth).await {
        Ok(read) => return Ok(read.into_iter().map(named).collect()),
        Err(StoreError::Database(error)) if is_of_a_row(&error) => {}
        Err(error) => return Err(error),
    }
    // A cell that is not even text: whose, is found one by one.
    let mut all = Vec::with_capacity(ids.len());
    for id in ids {
        match read_together(connection, &keys([id]), depth).await {
            Ok(read) => all.extend(read.into_iter().map(named)),
            Err(StoreError::Database(error)) if is_of_a_row(&error) => {
                let unreadable = Unreadable {
                    id: id.clone(),
                    name: name_of(connection, id).await?,
                    why: error.to_string(),
                };
                all.push((0, Err(unreadable)));
            }
            Err(error) => return Err(error),
        }
    }
    Ok(all)
}

/// Whether a query failed on what one row holds, not on the record.
fn is_of_a_row(error: &sqlx::Error) -> bool {
    matches!(
        error,
        sqlx::Error::ColumnDecode { .. } | sqlx::Error::Decode(_)
    )
}

/// A rider's name as well as it can be read.
async fn name_of(connection: &mut SqliteConnection, id: &str) -> Result<String, StoreError> {
    let name: Option<Vec<u8>> =
        sqlx::query_scalar("SELECT CAST(name AS BLOB) FROM riders WHERE id = ?1")
            .bind(id)
            .fetch_optional(connection)
            .await?;
    Ok(name.map_or_else(String::new, |name| {
        String::from_utf8_lossy(&name).into_owned()
    }))
}

async fn rider(
    connection: &mut SqliteConnection,
    id: Uuid,
    depth: Depth,
) -> Result<Versioned<Rider>, StoreError> {
    let read = read_together(connection, &keys([id.to_string()]), depth).await?;
    let (row, noun) = (read.into_iter().next()).ok_or(StoreError::NotFound("rider"))?;
    Ok(Versioned {
        noun: noun?,
        version: row.version,
    })
}

/// Bumps a rider's version, only from `at`.
async fn touch_rider(
    tx: &mut Transaction<'static, Sqlite>,
    id: Uuid,
    at: i64,
) -> Result<i64, StoreError> {
    let current = rider_version(tx, id).await?;
    if at != current {
        return Err(StoreError::Stale { current });
    }
    let (key, next) = (id.to_string(), current + 1);
    sqlx::query!("UPDATE riders SET version = ?2 WHERE id = ?1", key, next)
        .execute(&mut **tx)
        .await?;
    Ok(next)
}

/// `false` when the rider is there already.
pub(crate) async fn insert_rider(
    tx: &mut Transaction<'static, Sqlite>,
    rider: &Rider,
    arriving: Option<&str>,
    now: Timestamp,
) -> Result<bool, StoreError> {
    let (id, now) = (rider.id.to_string(), now.to_string());
    let born = rider.born.map(|day| day.to_string());
    let archived_at = rider.archived_at.map(|at| at.to_string());
    let simulated = (rider.simulated)
        .map(|simulated| json::write("simulated", &simulated))
        .transpose()?;
    let done = sqlx::query!(
        "INSERT INTO riders (id, name, created_at, born, archived_at, arriving, simulated)
         VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7)
         ON CONFLICT (id) DO NOTHING",
        id,
        rider.name,
        now,
        born,
        archived_at,
        arriving,
        simulated
    )
    .execute(&mut **tx)
    .await?;
    Ok(done.rows_affected() > 0)
}
