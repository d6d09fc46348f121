//! Trials: a change on the bench, what was seen and said of it, and what became of it.

use super::extract::{Body, IfMatch, words};
use super::sessions::view;
use super::view::{Bench, SessionView};
use crate::Problem;
use actix_web::http::StatusCode;
use actix_web::{HttpResponse, post, web};
use jiff::Timestamp;
use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;
use wedge_core::foresee::{self as core, Change};
use wedge_files::{Entry, EntryBody, SetupRecord, TrialForesight};
use wedge_store::{NewTrial, Store};

/// A trial to begin.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct TrialStart {
    /// UUIDv7, made by the client: sending it again is harmless.
    id: Uuid,
    changes: Vec<Change>,
}

/// Begins a trial on the bench. What is foreseen is worked out here and stored for good.
#[utoipa::path(
    context_path = "/api", tag = "trials", request_body = TrialStart,
    params(("If-Match" = String, Header, description = "The version it was read at")),
    responses(
        (status = 200, body = SessionView), (status = 409, body = Problem), (status = 412, body = Problem),
        (status = 422, body = Problem)
    )
)]
#[post("/sessions/{id}/trials")]
pub(crate) async fn begin(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    IfMatch(at): IfMatch,
    Body(start): Body<TrialStart>,
) -> Result<HttpResponse, Problem> {
    let bench = Bench::read(&store, *id).await?;
    bench.go_on()?;
    if bench.session.trials.iter().any(|t| t.id == start.id) {
        return view(&store, *id).await;
    }
    let Some(before) = bench.session.now else {
        return Err(Problem::new(
            StatusCode::CONFLICT,
            "Close the bike as found before the first trial",
        ));
    };
    let mut input = bench.input(bench.now()?)?;
    input.changes.clone_from(&start.changes);
    let foresight = core::foresee(&input)?;
    if foresight.turns.is_empty() {
        return Err(Problem::field("/changes", "Nothing to try: no bolt moves"));
    }
    let trial = NewTrial {
        id: start.id,
        changes: start.changes,
        effort: bench.session.effort,
        foreseen: TrialForesight::from(&foresight),
        before,
        after: SetupRecord {
            id: Uuid::now_v7(),
            recorded_at: Timestamp::now(),
            setup: foresight.setup,
        },
    };
    store.begin_trial(*id, &trial, at).await?;
    view(&store, *id).await
}

/// Something to write down about a trial.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewEntry {
    /// UUIDv7, made by the client: sending it again is harmless.
    id: Uuid,
    body: EntryBody,
}

/// Writes down what was seen, said or decided of a trial.
#[utoipa::path(
    context_path = "/api", tag = "trials", request_body = NewEntry,
    responses((status = 200, body = SessionView), (status = 409, body = Problem), (status = 422, body = Problem))
)]
#[post("/trials/{id}/entries")]
pub(crate) async fn add_entry(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    Body(new): Body<NewEntry>,
) -> Result<HttpResponse, Problem> {
    match &new.body {
        EntryBody::Words(said) => words(said, "/body/words")?,
        EntryBody::Seen(seen) => {
            let refusal = (seen.value).and_then(|v| seen.output.refuse_seen(v, "/body/seen/value"));
            if let Some(refusal) = refusal {
                return Err(vec![refusal].into());
            }
        }
        _ => {}
    }
    let entry = Entry {
        id: new.id,
        at: Timestamp::now(),
        body: new.body,
    };
    store.add_entry(*id, &entry).await?;
    view(&store, store.session_of_trial(*id).await?).await
}
