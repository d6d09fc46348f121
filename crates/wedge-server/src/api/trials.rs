//! Trials: a change on the bench, what was seen and said of it, and what became of it.

use super::extract::{Body, IfMatch, accept, words};
use super::load::bench;
use super::sessions::view;
use crate::Problem;
use actix_web::{HttpResponse, post, web};
use jiff::Timestamp;
use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;
use wedge_bench::SessionView;
use wedge_core::foresee::Change;
use wedge_files::{Entry, EntryBody, SetupRecord};
use wedge_store::{NewTrial, Store};

/// A trial to begin.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct TrialStart {
    /// UUIDv7, made by the client: sending it again is harmless.
    id: Uuid,
    changes: Vec<Change>,
    /// Why it is tried.
    #[serde(default)]
    why: String,
    /// The fitter insists on what the trade does not do in one trial.
    #[serde(default)]
    insist: bool,
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
    words(&start.why, "/why")?;
    let bench = bench(&store, *id).await?;
    bench.go_on()?;
    if bench.session.trials.iter().any(|t| t.id == start.id) {
        return view(&store, *id).await;
    }
    let before = bench.on_the_bench("the first trial")?;
    let tried = bench.tried_out(&start.changes, start.insist)?;
    let now = bench.session.no_earlier(Timestamp::now());
    let why = start.why.trim();
    let entries = (!why.is_empty()).then(|| Entry {
        id: Uuid::now_v7(),
        at: now,
        body: EntryBody::Why(why.to_owned()),
    });
    let trial = NewTrial {
        id: start.id,
        changes: tried.changes,
        effort: bench.session.effort,
        foreseen: tried.foreseen,
        before,
        after: SetupRecord {
            id: Uuid::now_v7(),
            recorded_at: now,
            setup: tried.setup,
        },
        entries: entries.into_iter().collect(),
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
    accept(new.body.refusals("/body"))?;
    let entry = Entry {
        id: new.id,
        at: Timestamp::now(),
        body: new.body,
    };
    store.add_entry(*id, &entry).await?;
    view(&store, store.session_of_trial(*id).await?).await
}
