//! Runs of guided protocols and their calls. Calls are append-only; a finding is written once.

use crate::many::{Grouped, keys};
use crate::{Store, StoreError, fit, json};
use jiff::Timestamp;
use sqlx::{Sqlite, SqliteConnection, Transaction};
use uuid::Uuid;
use wedge_core::trial::Finding;
use wedge_files::{CallRecord, RunRecord};

impl Store {
    /// Begins a run with its hidden order. Another one still going on in the fit is a conflict; sent again, it is there
    /// already, with the order it was begun with.
    pub async fn begin_run(
        &self,
        session: Uuid,
        run: &RunRecord,
        order: &[bool],
    ) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        let key = session.to_string();
        let earlier = runs_of(&mut tx, &keys([&key])).await?.of(&key)?;
        if earlier.iter().any(|r| r.id == run.id) {
            return Ok(());
        }
        fit::touch(&mut tx, session, None).await?;
        if let Some(open) = earlier.iter().find(|r| r.finding.is_none()) {
            return Err(StoreError::Conflict(format!(
                "a protocol is going on ({}): go on with it, or end it first",
                open.plan.protocol().label().to_lowercase()
            )));
        }
        insert_run(&mut tx, session, run, order).await?;
        tx.commit().await?;
        Ok(())
    }

    /// Which session a run belongs to.
    pub async fn session_of_run(&self, run: Uuid) -> Result<Uuid, StoreError> {
        let key = run.to_string();
        let session = sqlx::query_scalar!("SELECT session_id FROM runs WHERE id = ?1", key)
            .fetch_optional(&self.pool())
            .await?
            .ok_or(StoreError::NotFound("run"))?;
        json::id(&session)
    }

    /// The hidden order of a run: for the comparison itself, never for a reader.
    pub async fn order_of_run(&self, run: Uuid) -> Result<Vec<bool>, StoreError> {
        let key = run.to_string();
        let hidden = sqlx::query_scalar!("SELECT hidden FROM runs WHERE id = ?1", key)
            .fetch_optional(&self.pool())
            .await?
            .ok_or(StoreError::NotFound("run"))?;
        json::read("order", &hidden)
    }

    /// Writes a call down behind the `known` ones, with the finding when it was the last. Calls that came in between are
    /// a conflict; sent again, it is there already.
    pub async fn add_call(
        &self,
        run: Uuid,
        call: &CallRecord,
        known: usize,
        finding: Option<&Finding>,
    ) -> Result<(), StoreError> {
        let session = self.session_of_run(run).await?;
        let mut tx = self.write().await?;
        let key = run.to_string();
        let calls = calls_of(&mut tx, &key).await?;
        if calls.iter().any(|c| c.id == call.id) {
            return Ok(());
        }
        going_on(&mut tx, session, &key).await?;
        if calls.len() != known {
            return Err(StoreError::Conflict(
                "another window called in between: look at what is asked now".to_owned(),
            ));
        }
        insert_call(&mut tx, run, call).await?;
        if let Some(finding) = finding {
            end(&mut tx, session, &key, finding, call.at).await?;
        }
        tx.commit().await?;
        Ok(())
    }

    /// Ends a run with what it found, from the `known` calls. One that is over already stays as it is.
    pub async fn end_run(
        &self,
        run: Uuid,
        finding: &Finding,
        known: usize,
        now: Timestamp,
    ) -> Result<(), StoreError> {
        let session = self.session_of_run(run).await?;
        let mut tx = self.write().await?;
        let key = run.to_string();
        if is_over(&mut tx, &key).await? {
            return Ok(());
        }
        if calls_of(&mut tx, &key).await?.len() != known {
            return Err(StoreError::Conflict(
                "another window called in between: look at what is asked now".to_owned(),
            ));
        }
        end(&mut tx, session, &key, finding, now).await?;
        tx.commit().await?;
        Ok(())
    }
}

/// A conflict when the run is over, or its fit finished.
async fn going_on(
    tx: &mut Transaction<'static, Sqlite>,
    session: Uuid,
    run: &str,
) -> Result<(), StoreError> {
    fit::is_open(tx, session).await?;
    if is_over(tx, run).await? {
        return Err(StoreError::Conflict(
            "this run is over: begin another one".to_owned(),
        ));
    }
    Ok(())
}

/// Whether a run's finding is on record.
async fn is_over(tx: &mut Transaction<'static, Sqlite>, run: &str) -> Result<bool, StoreError> {
    let over = sqlx::query_scalar!(
        "SELECT 1 AS one FROM runs WHERE id = ?1 AND finding IS NOT NULL",
        run
    )
    .fetch_optional(&mut **tx)
    .await?;
    Ok(over.is_some())
}

async fn end(
    tx: &mut Transaction<'static, Sqlite>,
    session: Uuid,
    run: &str,
    finding: &Finding,
    now: Timestamp,
) -> Result<(), StoreError> {
    fit::touch(tx, session, None).await?;
    let (now, finding) = (now.to_string(), json::write("finding", finding)?);
    sqlx::query!(
        "UPDATE runs SET ended_at = ?2, finding = ?3 WHERE id = ?1",
        run,
        now,
        finding
    )
    .execute(&mut **tx)
    .await?;
    Ok(())
}

pub(crate) async fn insert_run(
    tx: &mut Transaction<'static, Sqlite>,
    session: Uuid,
    run: &RunRecord,
    order: &[bool],
) -> Result<(), StoreError> {
    let (id, session) = (run.id.to_string(), session.to_string());
    let (setup, started_at) = (run.setup.to_string(), run.started_at.to_string());
    let plan = json::write("plan", &run.plan)?;
    let effort = run
        .effort
        .map(|effort| json::write("effort", &effort))
        .transpose()?;
    let hidden = json::write("order", &order)?;
    let ended_at = run.ended_at.map(|at| at.to_string());
    let finding = run
        .finding
        .as_ref()
        .map(|finding| json::write("finding", finding))
        .transpose()?;
    sqlx::query!(
        "INSERT INTO runs (id, session_id, setup_id, started_at, plan, hidden, ended_at, finding, effort)
         VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9)",
        id,
        session,
        setup,
        started_at,
        plan,
        hidden,
        ended_at,
        finding,
        effort
    )
    .execute(&mut **tx)
    .await?;
    for call in &run.calls {
        insert_call(tx, run.id, call).await?;
    }
    Ok(())
}

async fn insert_call(
    tx: &mut Transaction<'static, Sqlite>,
    run: Uuid,
    call: &CallRecord,
) -> Result<(), StoreError> {
    let (id, run, at) = (call.id.to_string(), run.to_string(), call.at.to_string());
    let body = json::write("call", &call.body)?;
    sqlx::query!(
        "INSERT INTO calls (id, run_id, at, body) VALUES (?1, ?2, ?3, ?4)",
        id,
        run,
        at,
        body
    )
    .execute(&mut **tx)
    .await?;
    Ok(())
}

/// A run as its row holds it.
pub(crate) struct RunRow {
    session_id: String,
    id: String,
    setup_id: String,
    started_at: String,
    plan: String,
    effort: Option<String>,
    ended_at: Option<String>,
    finding: Option<String>,
    order: String,
}

/// Runs of several sessions, and their calls.
pub(crate) struct Runs {
    rows: Grouped<RunRow>,
    calls: Grouped<CallRow>,
}

impl Runs {
    /// A session's runs in their order.
    pub(crate) fn of(&mut self, session: &str) -> Result<Vec<RunRecord>, StoreError> {
        let rows = self.rows.take(session).into_iter();
        rows.map(|row| {
            Ok(RunRecord {
                id: json::id(&row.id)?,
                started_at: json::instant(&row.started_at)?,
                setup: json::id(&row.setup_id)?,
                plan: json::read("plan", &row.plan)?,
                effort: row
                    .effort
                    .as_deref()
                    .map(|effort| json::read("effort", effort))
                    .transpose()?,
                calls: calls(self.calls.take(&row.id))?,
                order: json::read("order", &row.order)?,
                ended_at: row.ended_at.as_deref().map(json::instant).transpose()?,
                finding: row
                    .finding
                    .as_deref()
                    .map(|finding| json::read("finding", finding))
                    .transpose()?,
            })
        })
        .collect()
    }
}

/// The runs of sessions. The hidden order is read only of those that are over.
pub(crate) async fn runs_of(
    connection: &mut SqliteConnection,
    sessions: &str,
) -> Result<Runs, StoreError> {
    let rows = sqlx::query_as!(
        RunRow,
        "SELECT session_id, id, setup_id, started_at, plan, effort, ended_at, finding,
         iif(finding IS NULL, '[]', hidden) AS \"order!: String\"
         FROM runs WHERE session_id IN (SELECT value FROM json_each(?1)) ORDER BY seq",
        sessions
    )
    .fetch_all(&mut *connection)
    .await?;
    let ids = keys(rows.iter().map(|row| &row.id));
    Ok(Runs {
        rows: Grouped::by(rows, |row| &row.session_id),
        calls: Grouped::by(call_rows(connection, &ids).await?, |row| &row.run_id),
    })
}

struct CallRow {
    run_id: String,
    id: String,
    at: String,
    body: String,
}

async fn call_rows(
    connection: &mut SqliteConnection,
    runs: &str,
) -> Result<Vec<CallRow>, StoreError> {
    Ok(sqlx::query_as!(
        CallRow,
        "SELECT run_id, id, at, body FROM calls WHERE run_id IN (SELECT value FROM json_each(?1)) ORDER BY seq",
        runs
    )
    .fetch_all(connection)
    .await?)
}

async fn calls_of(
    connection: &mut SqliteConnection,
    run: &str,
) -> Result<Vec<CallRecord>, StoreError> {
    calls(call_rows(connection, &keys([run])).await?)
}

fn calls(rows: Vec<CallRow>) -> Result<Vec<CallRecord>, StoreError> {
    rows.into_iter()
        .map(|row| {
            Ok(CallRecord {
                id: json::id(&row.id)?,
                at: json::instant(&row.at)?,
                body: json::read("call", &row.body)?,
            })
        })
        .collect()
}
