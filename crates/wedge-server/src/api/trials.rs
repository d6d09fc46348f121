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
    words(&start.why, "/why")?;
    if let Some(reason) = foresight.insist.first().filter(|_| !start.insist) {
        return Err(Problem::field("/insist", reason));
    }
    let now = Timestamp::now();
    let why = start.why.trim();
    let entries = (!why.is_empty()).then(|| Entry {
        id: Uuid::now_v7(),
        at: now,
        body: EntryBody::Why(why.to_owned()),
    });
    let trial = NewTrial {
        id: start.id,
        changes: start.changes,
        effort: bench.session.effort,
        foreseen: TrialForesight::from(&foresight),
        before,
        after: SetupRecord {
            id: Uuid::now_v7(),
            recorded_at: now,
            setup: foresight.setup,
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
    match &new.body {
        EntryBody::Words(said) => words(said, "/body/words")?,
        EntryBody::Why(why) => words(why, "/body/why")?,
        EntryBody::Effort(effort) => {
            let refusals = effort.refusals("/body/effort");
            if !refusals.is_empty() {
                return Err(refusals.into());
            }
        }
        EntryBody::Felt(felt) => {
            if let Some(wrong) = felt
                .iter()
                .position(|f| f.side.is_some() && !f.place.per_side())
            {
                return Err(Problem::field(
                    &format!("/body/felt/{wrong}/side"),
                    "That has no left and right",
                ));
            }
        }
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
