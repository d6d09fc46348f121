//! Sessions, the readings of the bike in them, and the setups that stood on the bench.

use crate::fit::{
    Depth, SessionPlace, insert_setup, place, put_on_bench, setups, setups_of, touch, version_of,
};
use crate::many::{Body, Grouped, Packed, keys};
use crate::readings::{insert_reading, readings, session_readings};
use crate::runs::Runs;
use crate::takes::PackedTake;
use crate::trials::Trials;
use crate::{Store, StoreError, Versioned, afterwards, disputes, json, looks, runs, takes, trials};
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
        let known = sqlx::query_scalar!("SELECT bike_id FROM sessions WHERE id = ?1", key)
            .fetch_optional(&mut *tx)
            .await?;
        let bike_key = bike.to_string();
        if known.as_ref().is_some_and(|of| *of != bike_key) {
            return Err(StoreError::Conflict(
                "this id is on record already, of another bike".to_owned(),
            ));
        }
        if known.is_none() {
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
        let mut connection = self.pool().begin().await?;
        session(&mut connection, id, Depth::Bench).await
    }

    /// Where a session belongs.
    pub async fn place_of_session(&self, id: Uuid) -> Result<SessionPlace, StoreError> {
        let mut connection = self.pool().acquire().await?;
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
        let version = if insert_reading(&mut tx, rider, Some(id), record).await? {
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

/// A session as its row holds it.
struct SessionRow {
    bike_id: String,
    id: String,
    number: i64,
    day: String,
    state: String,
    station: String,
    conventions: String,
    effort: Option<String>,
    hands: Option<String>,
    intake: String,
    shoes: String,
    saddle: String,
    follow_up: Option<String>,
    base: String,
    now: Option<String>,
    version: i64,
}

/// What belongs to sessions, of all of them at once.
struct Within {
    readings: Grouped<Packed>,
    setups: Grouped<Packed>,
    looks: Grouped<Body>,
    calibrations: Grouped<Body>,
    trials: Trials,
    runs: Runs,
    disputes: Grouped<Body>,
    afterwards: Grouped<Body>,
    takes: Grouped<PackedTake>,
}

impl Within {
    async fn of(
        connection: &mut SqliteConnection,
        sessions: &[SessionRow],
        depth: Depth,
    ) -> Result<Self, StoreError> {
        let ids = keys(sessions.iter().map(|row| &row.id));
        // Of years, neither trials nor looks.
        let whole = match depth {
            Depth::Whole | Depth::Bench => ids.clone(),
            Depth::Years | Depth::Around(_) => keys([""; 0]),
        };
        let read = match depth {
            Depth::Around(fit) => {
                let fit = fit.to_string();
                keys(sessions.iter().map(|row| &row.id).filter(|id| **id != fit))
            }
            Depth::Whole | Depth::Bench | Depth::Years => ids.clone(),
        };
        Ok(Self {
            readings: session_readings(connection, &read).await?,
            setups: setups_of(connection, &ids, depth).await?,
            looks: looks::looks_of(connection, &whole).await?,
            calibrations: looks::calibrations_of(connection, &ids).await?,
            trials: trials::trials_of(connection, &whole).await?,
            runs: runs::runs_of(connection, &ids).await?,
            disputes: disputes::disputes_of(connection, &ids).await?,
            takes: takes::takes_of(connection, &whole, depth).await?,
            afterwards: afterwards::afterwards_of(connection, &ids).await?,
        })
    }

    /// A session with what belongs to it.
    fn session(&mut self, row: &SessionRow) -> Result<Session, StoreError> {
        Ok(Session {
            id: json::id(&row.id)?,
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
            readings: readings(&self.readings.take(&row.id))?,
            setups: setups(&self.setups.take(&row.id))?,
            now: row.now.as_deref().map(json::id).transpose()?,
            looks: self.looks.read("look", &row.id)?,
            calibrations: self.calibrations.read("calibration", &row.id)?,
            trials: self.trials.of(&row.id)?,
            runs: self.runs.of(&row.id)?,
            disputes: self.disputes.read("dispute", &row.id)?,
            takes: takes::read(self.takes.take(&row.id))?,
            afterwards: self.afterwards.read("entry between visits", &row.id)?,
        })
    }
}

async fn session(
    connection: &mut SqliteConnection,
    id: Uuid,
    depth: Depth,
) -> Result<Versioned<Session>, StoreError> {
    let key = id.to_string();
    let row = sqlx::query_as!(
        SessionRow,
        "SELECT bike_id, id, number, day, state, station, conventions, effort, hands, intake, shoes, saddle, follow_up,
         base, now, version FROM sessions WHERE id = ?1",
        key
    )
    .fetch_optional(&mut *connection)
    .await?
    .ok_or(StoreError::NotFound("session"))?;
    let rows = [row];
    let mut within = Within::of(connection, &rows, depth).await?;
    Ok(Versioned {
        noun: within.session(&rows[0])?,
        version: rows[0].version,
    })
}

/// The fits of bikes, of all of them at once.
pub(crate) struct Sessions {
    rows: Grouped<SessionRow>,
    within: Within,
}

impl Sessions {
    /// A bike's fits, the first one first.
    pub(crate) fn of(&mut self, bike: &str) -> Result<Vec<Session>, StoreError> {
        let rows = self.rows.take(bike);
        rows.iter().map(|row| self.within.session(row)).collect()
    }
}

pub(crate) async fn sessions_of(
    connection: &mut SqliteConnection,
    bikes: &str,
    depth: Depth,
) -> Result<Sessions, StoreError> {
    let rows = sqlx::query_as!(
        SessionRow,
        "SELECT bike_id, id, number, day, state, station, conventions, effort, hands, intake, shoes, saddle, follow_up,
         base, now, version FROM sessions WHERE bike_id IN (SELECT value FROM json_each(?1)) ORDER BY number",
        bikes
    )
    .fetch_all(&mut *connection)
    .await?;
    Ok(Sessions {
        within: Within::of(connection, &rows, depth).await?,
        rows: Grouped::by(rows, |row| &row.bike_id),
    })
}
