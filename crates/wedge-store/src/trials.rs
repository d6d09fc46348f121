//! Trials and what is written down about them. Append-only.

use crate::many::{Grouped, keys};
use crate::{Store, StoreError, fit, json};
use sqlx::{Sqlite, SqliteConnection, Transaction};
use uuid::Uuid;
use wedge_core::foresee::Change;
use wedge_core::rider::Effort;
use wedge_files::{Entry, EntryBody, Outcome, SetupRecord, Trial, TrialForesight, Undone};

/// A trial to begin.
#[derive(Debug, Clone, PartialEq)]
pub struct NewTrial {
    /// Made by the client.
    pub id: Uuid,
    /// What was asked for.
    pub changes: Vec<Change>,
    /// The effort it is ridden at.
    pub effort: Option<Effort>,
    /// What is foreseen.
    pub foreseen: TrialForesight,
    /// The setup on the bench before.
    pub before: Uuid,
    /// The setup tried.
    pub after: SetupRecord,
    /// What is written down from the start: why.
    pub entries: Vec<Entry>,
}

impl Store {
    /// Begins a trial: its setup comes on the bench. One still undecided is a conflict.
    pub async fn begin_trial(
        &self,
        session: Uuid,
        trial: &NewTrial,
        at: i64,
    ) -> Result<i64, StoreError> {
        let mut tx = self.write().await?;
        let key = session.to_string();
        let earlier = trials_of(&mut tx, &keys([&key])).await?.of(&key)?;
        if earlier.iter().any(|t| t.id == trial.id) {
            return fit::version_of(&mut tx, session).await;
        }
        let version = fit::touch(&mut tx, session, Some(at)).await?;
        if earlier.iter().any(|t| t.outcome().is_none()) {
            return Err(StoreError::Conflict(
                "a trial is on the bench: keep it or put it back first".to_owned(),
            ));
        }
        let number = earlier.last().map_or(1, |t| t.number + 1);
        fit::insert_setup(&mut tx, session, &trial.after).await?;
        insert_trial(
            &mut tx,
            session,
            &Trial {
                id: trial.id,
                number,
                tried_at: trial.after.recorded_at,
                changes: trial.changes.clone(),
                effort: trial.effort,
                foreseen: trial.foreseen.clone(),
                before: trial.before,
                after: trial.after.id,
                entries: Vec::new(),
            },
        )
        .await?;
        for entry in &trial.entries {
            insert_entry(&mut tx, trial.id, entry).await?;
        }
        fit::put_on_bench(&mut tx, session, trial.after.id).await?;
        tx.commit().await?;
        Ok(version)
    }

    /// Which session a trial belongs to.
    pub async fn session_of_trial(&self, trial: Uuid) -> Result<Uuid, StoreError> {
        let key = trial.to_string();
        let session = sqlx::query_scalar!("SELECT session_id FROM trials WHERE id = ?1", key)
            .fetch_optional(&self.pool())
            .await?
            .ok_or(StoreError::NotFound("trial"))?;
        json::id(&session)
    }

    /// Writes something down about a trial. An outcome settles it: put back, the setup before is on the bench again.
    /// After the outcome only words, the work, how long it was held and the checks it made due may follow, or its undoing while nothing was tried since: the trial is on the bench again.
    pub async fn add_entry(&self, trial: Uuid, entry: &Entry) -> Result<i64, StoreError> {
        let session = self.session_of_trial(trial).await?;
        let mut tx = self.write().await?;
        let key = session.to_string();
        let trials = trials_of(&mut tx, &keys([&key])).await?.of(&key)?;
        let on_record =
            (trials.iter().find(|t| t.id == trial)).ok_or(StoreError::NotFound("trial"))?;
        let is_last = trials.last().is_some_and(|last| last.id == trial);
        if on_record.entries.iter().any(|e| e.id == entry.id) {
            return fit::version_of(&mut tx, session).await;
        }
        let version = fit::touch(&mut tx, session, None).await?;
        let undoing = entry.body == EntryBody::Undone(Undone::Outcome);
        let refused = match (on_record.outcome().is_some(), &entry.body) {
            (
                true,
                EntryBody::Words(_)
                | EntryBody::Done(_)
                | EntryBody::Checked(_)
                | EntryBody::Held(_),
            ) => None,
            (true, _) if undoing && is_last => None,
            (true, _) if undoing => Some("something was tried since: put that back first"),
            (true, _) => Some("this trial is settled: begin another one"),
            (false, _) if undoing => Some("this trial is on the bench: there is nothing to undo"),
            (false, EntryBody::Undone(_)) if on_record.verdict().is_none() => {
                Some("nobody gave a verdict: there is nothing to undo")
            }
            (false, _) => None,
        };
        if let Some(why) = refused {
            return Err(StoreError::Conflict(why.to_owned()));
        }
        insert_entry(&mut tx, trial, entry).await?;
        if entry.body == EntryBody::Outcome(Outcome::PutBack) {
            fit::put_on_bench(&mut tx, session, on_record.before).await?;
        } else if undoing {
            fit::put_on_bench(&mut tx, session, on_record.after).await?;
        }
        tx.commit().await?;
        Ok(version)
    }
}

pub(crate) async fn insert_trial(
    tx: &mut Transaction<'static, Sqlite>,
    session: Uuid,
    trial: &Trial,
) -> Result<(), StoreError> {
    let (id, session) = (trial.id.to_string(), session.to_string());
    let tried_at = trial.tried_at.to_string();
    let changes = json::write("changes", &trial.changes)?;
    let effort = trial
        .effort
        .map(|e| json::write("effort", &e))
        .transpose()?;
    let foreseen = json::write("foresight", &trial.foreseen)?;
    let (before, after) = (trial.before.to_string(), trial.after.to_string());
    sqlx::query!(
        "INSERT INTO trials (id, session_id, number, tried_at, changes, effort, foreseen, before, after)
         VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9)",
        id,
        session,
        trial.number,
        tried_at,
        changes,
        effort,
        foreseen,
        before,
        after
    )
    .execute(&mut **tx)
    .await?;
    Ok(())
}

pub(crate) async fn insert_entry(
    tx: &mut Transaction<'static, Sqlite>,
    trial: Uuid,
    entry: &Entry,
) -> Result<(), StoreError> {
    let (id, trial) = (entry.id.to_string(), trial.to_string());
    let (at, body) = (entry.at.to_string(), json::write("entry", &entry.body)?);
    sqlx::query!(
        "INSERT INTO entries (id, trial_id, at, body) VALUES (?1, ?2, ?3, ?4)",
        id,
        trial,
        at,
        body
    )
    .execute(&mut **tx)
    .await?;
    Ok(())
}

/// A trial as its row holds it.
struct TrialRow {
    session_id: String,
    id: String,
    number: i64,
    tried_at: String,
    changes: String,
    effort: Option<String>,
    foreseen: String,
    before: String,
    after: String,
}

struct EntryRow {
    trial_id: String,
    id: String,
    at: String,
    body: String,
}

/// Trials of several sessions, and their entries.
pub(crate) struct Trials {
    rows: Grouped<TrialRow>,
    entries: Grouped<EntryRow>,
}

impl Trials {
    /// A session's trials in order, each with its entries.
    pub(crate) fn of(&mut self, session: &str) -> Result<Vec<Trial>, StoreError> {
        let rows = self.rows.take(session).into_iter();
        rows.map(|row| {
            let entries = self.entries.take(&row.id);
            Ok(Trial {
                id: json::id(&row.id)?,
                number: row.number,
                tried_at: json::instant(&row.tried_at)?,
                changes: json::read("changes", &row.changes)?,
                effort: row
                    .effort
                    .as_deref()
                    .map(|e| json::read("effort", e))
                    .transpose()?,
                foreseen: json::read("foresight", &row.foreseen)?,
                before: json::id(&row.before)?,
                after: json::id(&row.after)?,
                entries: entries.iter().map(entry).collect::<Result<_, _>>()?,
            })
        })
        .collect()
    }
}

fn entry(row: &EntryRow) -> Result<Entry, StoreError> {
    Ok(Entry {
        id: json::id(&row.id)?,
        at: json::instant(&row.at)?,
        body: json::read("entry", &row.body)?,
    })
}

pub(crate) async fn trials_of(
    connection: &mut SqliteConnection,
    sessions: &str,
) -> Result<Trials, StoreError> {
    let rows = sqlx::query_as!(
        TrialRow,
        "SELECT session_id, id, number, tried_at, changes, effort, foreseen, before, after FROM trials
         WHERE session_id IN (SELECT value FROM json_each(?1)) ORDER BY number",
        sessions
    )
    .fetch_all(&mut *connection)
    .await?;
    let ids = keys(rows.iter().map(|row| &row.id));
    let entries = sqlx::query_as!(
        EntryRow,
        "SELECT trial_id, id, at, body FROM entries WHERE trial_id IN (SELECT value FROM json_each(?1)) ORDER BY seq",
        ids
    )
    .fetch_all(connection)
    .await?;
    Ok(Trials {
        rows: Grouped::by(rows, |row| &row.session_id),
        entries: Grouped::by(entries, |row| &row.trial_id),
    })
}
