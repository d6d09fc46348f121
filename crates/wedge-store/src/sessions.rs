//! Sessions, the readings of the bike in them, and the setups that stood on the bench.

use crate::{Store, StoreError, Versioned, json, looks, riders, runs, trials};
use jiff::Timestamp;
use jiff::civil::Date;
use sqlx::{Sqlite, SqliteConnection, Transaction};
use uuid::Uuid;
use wedge_core::bike::HandPlace;
use wedge_core::intake::Intake;
use wedge_core::measure::Conventions;
use wedge_core::rider::Effort;
use wedge_core::school::{SaddleNotes, Shoe};
use wedge_core::units::Sides;
use wedge_core::work::Station;
use wedge_files::{ReadingRecord, Session, SessionState, SetupRecord};

/// Where a session belongs.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct SessionPlace {
    /// The bike.
    pub bike: Uuid,
    /// The rider.
    pub rider: Uuid,
}

/// What may change of an open session besides readings and trials.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct SessionEdit {
    /// Another station.
    pub station: Option<Station>,
    /// Other conventions.
    pub conventions: Option<Conventions>,
    /// Another effort.
    pub effort: Option<Effort>,
    /// Another place of the hands.
    pub hands: Option<HandPlace>,
    /// Another day to come back; none takes it away.
    pub follow_up: Option<Option<Date>>,
}

/// How much of a fit is read.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Depth {
    /// Everything.
    Whole,
    /// Without its trials, looks and the setups between the first and the last: what a position follows from, years of
    /// them at once.
    Years,
}

impl Store {
    /// Opens a fit of a bike. One that is going on already is a conflict.
    pub async fn open_session(
        &self,
        bike: Uuid,
        session: &Session,
        now: Timestamp,
    ) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        let key = session.id.to_string();
        let known = sqlx::query_scalar!("SELECT 1 AS one FROM sessions WHERE id = ?1", key)
            .fetch_optional(&mut *tx)
            .await?;
        if known.is_none() {
            let bike_key = bike.to_string();
            let open = sqlx::query_scalar!(
                "SELECT id FROM sessions WHERE bike_id = ?1 AND state = 'open'",
                bike_key
            )
            .fetch_optional(&mut *tx)
            .await?;
            if open.is_some() {
                return Err(StoreError::Conflict(
                    "a fit of this bike is going on already: finish it first".to_owned(),
                ));
            }
            insert_session(&mut tx, bike, session, now).await?;
        }
        tx.commit().await?;
        Ok(())
    }

    /// A session with everything in it.
    pub async fn session(&self, id: Uuid) -> Result<Versioned<Session>, StoreError> {
        let mut connection = self.pool.begin().await?;
        session(&mut connection, id, Depth::Whole).await
    }

    /// Where a session belongs.
    pub async fn place_of_session(&self, id: Uuid) -> Result<SessionPlace, StoreError> {
        let mut connection = self.pool.acquire().await?;
        place(&mut connection, id).await
    }

    /// Moves along the way, or changes how things are read.
    pub async fn edit_session(
        &self,
        id: Uuid,
        edit: &SessionEdit,
        at: i64,
    ) -> Result<i64, StoreError> {
        let mut tx = self.write().await?;
        let version = touch(&mut tx, id, Some(at)).await?;
        let key = id.to_string();
        let station = edit
            .station
            .map(|s| json::write_word("station", &s))
            .transpose()?;
        let conventions = edit
            .conventions
            .map(|c| json::write("conventions", &c))
            .transpose()?;
        let effort = edit.effort.map(|e| json::write("effort", &e)).transpose()?;
        let hands = edit
            .hands
            .map(|h| json::write_word("hands", &h))
            .transpose()?;
        let dated = edit.follow_up.is_some();
        let follow_up = edit.follow_up.flatten().map(|day| day.to_string());
        sqlx::query!(
            "UPDATE sessions SET station = coalesce(?2, station), conventions = coalesce(?3, conventions),
             effort = coalesce(?4, effort), hands = coalesce(?5, hands), follow_up = iif(?6, ?7, follow_up)
             WHERE id = ?1",
            key,
            station,
            conventions,
            effort,
            hands,
            dated,
            follow_up
        )
        .execute(&mut *tx)
        .await?;
        tx.commit().await?;
        Ok(version)
    }

    /// Writes down what the rider came with, from the version the session was read at.
    pub async fn save_intake(&self, id: Uuid, intake: &Intake, at: i64) -> Result<i64, StoreError> {
        let mut tx = self.write().await?;
        let version = touch(&mut tx, id, Some(at)).await?;
        let (key, intake) = (id.to_string(), json::write("intake", intake)?);
        sqlx::query!("UPDATE sessions SET intake = ?2 WHERE id = ?1", key, intake)
            .execute(&mut *tx)
            .await?;
        tx.commit().await?;
        Ok(version)
    }

    /// Writes down what there is to say of the shoes, from the version the session was read at.
    pub async fn save_shoes(
        &self,
        id: Uuid,
        shoes: &Sides<Shoe>,
        at: i64,
    ) -> Result<i64, StoreError> {
        let mut tx = self.write().await?;
        let version = touch(&mut tx, id, Some(at)).await?;
        let (key, shoes) = (id.to_string(), json::write("shoes", shoes)?);
        sqlx::query!("UPDATE sessions SET shoes = ?2 WHERE id = ?1", key, shoes)
            .execute(&mut *tx)
            .await?;
        tx.commit().await?;
        Ok(version)
    }

    /// Writes down what there is to say of the saddle, from the version the session was read at.
    pub async fn save_saddle(
        &self,
        id: Uuid,
        saddle: &SaddleNotes,
        at: i64,
    ) -> Result<i64, StoreError> {
        let mut tx = self.write().await?;
        let version = touch(&mut tx, id, Some(at)).await?;
        let (key, saddle) = (id.to_string(), json::write("saddle", saddle)?);
        sqlx::query!("UPDATE sessions SET saddle = ?2 WHERE id = ?1", key, saddle)
            .execute(&mut *tx)
            .await?;
        tx.commit().await?;
        Ok(version)
    }

    /// Appends a reading of the bike; with `setup`, the setup it makes comes on the bench.
    pub async fn add_session_reading(
        &self,
        id: Uuid,
        record: &ReadingRecord,
        setup: Option<&SetupRecord>,
        at: i64,
    ) -> Result<i64, StoreError> {
        let mut tx = self.write().await?;
        let rider = place(&mut tx, id).await?.rider;
        let version = if riders::insert_reading(&mut tx, rider, Some(id), record).await? {
            let version = touch(&mut tx, id, Some(at)).await?;
            if let Some(setup) = setup {
                insert_setup(&mut tx, id, setup).await?;
                put_on_bench(&mut tx, id, setup.id).await?;
            }
            version
        } else {
            version_of(&mut tx, id).await?
        };
        tx.commit().await?;
        Ok(version)
    }

    /// Closes the bike as found: its setup is recorded and comes on the bench.
    pub async fn close_found(
        &self,
        id: Uuid,
        found: &SetupRecord,
        station: Station,
        at: i64,
    ) -> Result<i64, StoreError> {
        let mut tx = self.write().await?;
        let version = touch(&mut tx, id, Some(at)).await?;
        let key = id.to_string();
        let station = json::write_word("station", &station)?;
        insert_setup(&mut tx, id, found).await?;
        put_on_bench(&mut tx, id, found.id).await?;
        sqlx::query!(
            "UPDATE sessions SET station = ?2 WHERE id = ?1",
            key,
            station
        )
        .execute(&mut *tx)
        .await?;
        tx.commit().await?;
        Ok(version)
    }

    /// Finishes a session for good. Its draft goes.
    pub async fn finish_session(&self, id: Uuid, at: i64) -> Result<i64, StoreError> {
        let mut tx = self.write().await?;
        let version = touch(&mut tx, id, Some(at)).await?;
        let key = id.to_string();
        sqlx::query!("UPDATE sessions SET state = 'finished' WHERE id = ?1", key)
            .execute(&mut *tx)
            .await?;
        sqlx::query!("DELETE FROM drafts WHERE session_id = ?1", key)
            .execute(&mut *tx)
            .await?;
        tx.commit().await?;
        Ok(version)
    }
}

pub(crate) async fn place(
    connection: &mut SqliteConnection,
    id: Uuid,
) -> Result<SessionPlace, StoreError> {
    let key = id.to_string();
    let row = sqlx::query!(
        "SELECT s.bike_id, b.rider_id FROM sessions s JOIN bikes b ON b.id = s.bike_id WHERE s.id = ?1",
        key
    )
    .fetch_optional(connection)
    .await?
    .ok_or(StoreError::NotFound("session"))?;
    Ok(SessionPlace {
        bike: json::id(&row.bike_id)?,
        rider: json::id(&row.rider_id)?,
    })
}

pub(crate) async fn version_of(
    connection: &mut SqliteConnection,
    id: Uuid,
) -> Result<i64, StoreError> {
    let key = id.to_string();
    sqlx::query_scalar!("SELECT version FROM sessions WHERE id = ?1", key)
        .fetch_optional(connection)
        .await?
        .ok_or(StoreError::NotFound("session"))
}

/// The version of an open session; a finished one is a conflict.
pub(crate) async fn is_open(
    tx: &mut Transaction<'static, Sqlite>,
    id: Uuid,
) -> Result<i64, StoreError> {
    let key = id.to_string();
    let row = sqlx::query!("SELECT version, state FROM sessions WHERE id = ?1", key)
        .fetch_optional(&mut **tx)
        .await?
        .ok_or(StoreError::NotFound("session"))?;
    if row.state != "open" {
        return Err(StoreError::Conflict(
            "this fit is finished: start the next one instead".to_owned(),
        ));
    }
    Ok(row.version)
}

/// Bumps an open session's version; with `at`, only from that version.
pub(crate) async fn touch(
    tx: &mut Transaction<'static, Sqlite>,
    id: Uuid,
    at: Option<i64>,
) -> Result<i64, StoreError> {
    let key = id.to_string();
    let version = is_open(tx, id).await?;
    if at.is_some_and(|at| at != version) {
        return Err(StoreError::Stale { current: version });
    }
    let next = version + 1;
    sqlx::query!("UPDATE sessions SET version = ?2 WHERE id = ?1", key, next)
        .execute(&mut **tx)
        .await?;
    Ok(next)
}

pub(crate) async fn insert_session(
    tx: &mut Transaction<'static, Sqlite>,
    bike: Uuid,
    session: &Session,
    now: Timestamp,
) -> Result<(), StoreError> {
    let (id, bike) = (session.id.to_string(), bike.to_string());
    let state = json::write_word("state", &session.state)?;
    let station = json::write_word("station", &session.station)?;
    let conventions = json::write("conventions", &session.conventions)?;
    let effort = session
        .effort
        .map(|e| json::write("effort", &e))
        .transpose()?;
    let hands = session
        .hands
        .map(|h| json::write_word("hands", &h))
        .transpose()?;
    let base = json::write("setup", &session.base)?;
    let intake = json::write("intake", &session.intake)?;
    let shoes = json::write("shoes", &session.shoes)?;
    let saddle = json::write("saddle", &session.saddle)?;
    let follow_up = session.follow_up.map(|day| day.to_string());
    let (day, bench) = (session.day.to_string(), session.now.map(|n| n.to_string()));
    let now = now.to_string();
    sqlx::query!(
        "INSERT INTO sessions (id, bike_id, number, day, state, station, conventions, effort, base, now, created_at,
         hands, intake, shoes, follow_up, saddle)
         VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9, ?10, ?11, ?12, ?13, ?14, ?15, ?16)",
        id,
        bike,
        session.number,
        day,
        state,
        station,
        conventions,
        effort,
        base,
        bench,
        now,
        hands,
        intake,
        shoes,
        follow_up,
        saddle
    )
    .execute(&mut **tx)
    .await?;
    Ok(())
}

pub(crate) async fn insert_setup(
    tx: &mut Transaction<'static, Sqlite>,
    session: Uuid,
    record: &SetupRecord,
) -> Result<(), StoreError> {
    let (id, session) = (record.id.to_string(), session.to_string());
    let (at, setup) = (
        record.recorded_at.to_string(),
        json::write("setup", &record.setup)?,
    );
    sqlx::query!(
        "INSERT INTO setups (id, session_id, recorded_at, setup) VALUES (?1, ?2, ?3, ?4)",
        id,
        session,
        at,
        setup
    )
    .execute(&mut **tx)
    .await?;
    Ok(())
}

pub(crate) async fn put_on_bench(
    tx: &mut Transaction<'static, Sqlite>,
    session: Uuid,
    setup: Uuid,
) -> Result<(), StoreError> {
    let (session, setup) = (session.to_string(), setup.to_string());
    sqlx::query!("UPDATE sessions SET now = ?2 WHERE id = ?1", session, setup)
        .execute(&mut **tx)
        .await?;
    Ok(())
}

async fn session(
    connection: &mut SqliteConnection,
    id: Uuid,
    depth: Depth,
) -> Result<Versioned<Session>, StoreError> {
    let key = id.to_string();
    let row = sqlx::query!(
        "SELECT number, day, state, station, conventions, effort, hands, intake, shoes, saddle, follow_up, base, now, version FROM sessions
         WHERE id = ?1",
        key
    )
    .fetch_optional(&mut *connection)
    .await?
    .ok_or(StoreError::NotFound("session"))?;
    let noun = Session {
        id,
        number: row.number,
        day: json::day(&row.day)?,
        state: json::read_word::<SessionState>("state", &row.state)?,
        station: json::read_word("station", &row.station)?,
        conventions: json::read("conventions", &row.conventions)?,
        effort: row
            .effort
            .as_deref()
            .map(|e| json::read("effort", e))
            .transpose()?,
        hands: row
            .hands
            .as_deref()
            .map(|h| json::read_word("hands", h))
            .transpose()?,
        intake: json::read("intake", &row.intake)?,
        shoes: json::read("shoes", &row.shoes)?,
        saddle: json::read("saddle", &row.saddle)?,
        follow_up: row.follow_up.as_deref().map(json::day).transpose()?,
        base: json::read("setup", &row.base)?,
        readings: session_readings(connection, &key).await?,
        setups: setups_of(connection, &key, depth).await?,
        now: row.now.as_deref().map(json::id).transpose()?,
        looks: match depth {
            Depth::Whole => looks::looks_of(connection, &key).await?,
            Depth::Years => Vec::new(),
        },
        calibrations: looks::calibrations_of(connection, &key).await?,
        trials: match depth {
            Depth::Whole => trials::trials_of(connection, &key).await?,
            Depth::Years => Vec::new(),
        },
        runs: runs::runs_of(connection, &key).await?,
    };
    Ok(Versioned {
        noun,
        version: row.version,
    })
}

/// A bike's fits, the first one first.
pub(crate) async fn sessions_of(
    connection: &mut SqliteConnection,
    bike: Uuid,
    depth: Depth,
) -> Result<Vec<Session>, StoreError> {
    let key = bike.to_string();
    let ids = sqlx::query_scalar!(
        "SELECT id FROM sessions WHERE bike_id = ?1 ORDER BY number",
        key
    )
    .fetch_all(&mut *connection)
    .await?;
    let mut sessions = Vec::with_capacity(ids.len());
    for id in ids {
        sessions.push(session(connection, json::id(&id)?, depth).await?.noun);
    }
    Ok(sessions)
}

async fn session_readings(
    connection: &mut SqliteConnection,
    session: &str,
) -> Result<Vec<ReadingRecord>, StoreError> {
    let rows = sqlx::query!(
        "SELECT id, taken_at, reading, set_aside_at FROM readings WHERE session_id = ?1 ORDER BY seq",
        session
    )
    .fetch_all(connection)
    .await?;
    rows.into_iter()
        .map(|row| {
            let aside = row.set_aside_at.as_deref();
            reading_record(&row.id, &row.taken_at, &row.reading, aside)
        })
        .collect()
}

pub(crate) fn reading_record(
    id: &str,
    taken_at: &str,
    reading: &str,
    set_aside_at: Option<&str>,
) -> Result<ReadingRecord, StoreError> {
    Ok(ReadingRecord {
        id: json::id(id)?,
        taken_at: json::instant(taken_at)?,
        reading: json::read("reading", reading)?,
        set_aside_at: set_aside_at.map(json::instant).transpose()?,
    })
}

async fn setups_of(
    connection: &mut SqliteConnection,
    session: &str,
    depth: Depth,
) -> Result<Vec<SetupRecord>, StoreError> {
    let all = depth == Depth::Whole;
    let rows = sqlx::query!(
        "SELECT id, recorded_at, setup FROM setups WHERE session_id = ?1 AND (?2
            OR seq = (SELECT min(seq) FROM setups WHERE session_id = ?1)
            OR seq = (SELECT max(seq) FROM setups WHERE session_id = ?1)
            OR id = (SELECT now FROM sessions WHERE id = ?1))
         ORDER BY seq",
        session,
        all
    )
    .fetch_all(connection)
    .await?;
    rows.into_iter()
        .map(|row| {
            Ok(SetupRecord {
                id: json::id(&row.id)?,
                recorded_at: json::instant(&row.recorded_at)?,
                setup: json::read("setup", &row.setup)?,
            })
        })
        .collect()
}
