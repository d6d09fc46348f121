//! Guided protocols: begun, called, taken back, ended. What a run shows follows from its calls alone.

use super::extract::Body;
use super::load::bench;
use crate::Problem;
use actix_web::{get, post, web};
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use wedge_bench::{RunView, Running};
use wedge_core::trial::{Call, RunPlan};
use wedge_files::{CallBody, CallRecord};
use wedge_store::Store;

/// A run to begin.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewRun {
    /// UUIDv7, made by the client: sending it again is harmless.
    id: Uuid,
    plan: RunPlan,
}

/// Something to call.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewCall {
    /// UUIDv7, made by the client: sending it again is harmless.
    id: Uuid,
    call: Call,
}

/// A call to take back.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct TakeBack {
    /// UUIDv7, made by the client: sending it again is harmless.
    id: Uuid,
}

/// The setting of a blind comparison to make now.
#[derive(Serialize, ToSchema)]
pub(crate) struct HiddenSetting {
    /// "B: Saddle down 5".
    setting: String,
}

/// A run out of the record.
async fn running(store: &Store, id: Uuid) -> Result<Running, Problem> {
    let bench = bench(store, store.session_of_run(id).await?).await?;
    Ok(bench.running(id, store.order_of_run(id).await?)?)
}

/// Begins a run from the setup on the bench. The order of a blind comparison is thrown here and stays on record alone.
#[utoipa::path(
    context_path = "/api", tag = "runs", request_body = NewRun,
    responses((status = 200, body = RunView), (status = 409, body = Problem), (status = 422, body = Problem))
)]
#[post("/sessions/{id}/runs")]
pub(crate) async fn begin(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    Body(new): Body<NewRun>,
) -> Result<web::Json<RunView>, Problem> {
    let bench = bench(&store, *id).await?;
    let now = bench.session.no_earlier(Timestamp::now());
    let run = bench.begin_run(new.id, now, new.plan)?;
    let order: Vec<bool> = (0..run.plan.hides()).map(|_| rand::random()).collect();
    store.begin_run(*id, &run, &order).await?;
    read_view(&store, new.id).await
}

/// A run as it stands.
#[utoipa::path(context_path = "/api", tag = "runs", responses((status = 200, body = RunView), (status = 404, body = Problem)))]
#[get("/runs/{id}")]
pub(crate) async fn read(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<RunView>, Problem> {
    read_view(&store, *id).await
}

async fn read_view(store: &Store, id: Uuid) -> Result<web::Json<RunView>, Problem> {
    Ok(web::Json(running(store, id).await?.view()))
}

/// Calls what is asked. The last call of a blind comparison ends it: then the order is known.
#[utoipa::path(
    context_path = "/api", tag = "runs", request_body = NewCall,
    responses((status = 200, body = RunView), (status = 409, body = Problem), (status = 422, body = Problem))
)]
#[post("/runs/{id}/calls")]
pub(crate) async fn add_call(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    Body(new): Body<NewCall>,
) -> Result<web::Json<RunView>, Problem> {
    let mut running = running(&store, *id).await?;
    if running.knows(new.id) {
        return Ok(web::Json(running.view()));
    }
    let known = running.run.calls.len();
    let finding = running.call(&new.call)?;
    let record = CallRecord {
        id: new.id,
        at: Timestamp::now(),
        body: CallBody::Called(new.call),
    };
    store
        .add_call(*id, &record, known, finding.as_ref())
        .await?;
    read_view(&store, *id).await
}

/// Takes the last call back. It stays on record and counts no more.
#[utoipa::path(
    context_path = "/api", tag = "runs", request_body = TakeBack,
    responses((status = 200, body = RunView), (status = 409, body = Problem))
)]
#[post("/runs/{id}/back")]
pub(crate) async fn take_back(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    Body(back): Body<TakeBack>,
) -> Result<web::Json<RunView>, Problem> {
    let running = running(&store, *id).await?;
    if running.knows(back.id) {
        return Ok(web::Json(running.view()));
    }
    running.take_back()?;
    let record = CallRecord {
        id: back.id,
        at: Timestamp::now(),
        body: CallBody::TakenBack,
    };
    store
        .add_call(*id, &record, running.run.calls.len(), None)
        .await?;
    read_view(&store, *id).await
}

/// Ends a run and keeps what it found as evidence, whether it came to its end or not.
#[utoipa::path(context_path = "/api", tag = "runs", responses((status = 200, body = RunView), (status = 409, body = Problem)))]
#[post("/runs/{id}/end")]
pub(crate) async fn end(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<RunView>, Problem> {
    let running = running(&store, *id).await?;
    let finding = running.ended()?;
    store
        .end_run(*id, &finding, running.run.calls.len(), Timestamp::now())
        .await?;
    read_view(&store, *id).await
}

/// The setting of a blind comparison to make now, and no other.
#[utoipa::path(context_path = "/api", tag = "runs", responses((status = 200, body = HiddenSetting), (status = 409, body = Problem)))]
#[get("/runs/{id}/setting")]
pub(crate) async fn setting(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<HiddenSetting>, Problem> {
    let setting = running(&store, *id).await?.setting()?;
    Ok(web::Json(HiddenSetting { setting }))
}
