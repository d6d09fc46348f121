//! The saddle: schools of height and setback, the gate, the perch, the saddle itself, the map, and what hurts.

use super::extract::{Body, IfMatch, accept};
use super::load::bench;
use super::sessions::view;
use crate::Problem;
use actix_web::{HttpResponse, get, post, put, web};
use serde::Deserialize;
use utoipa::IntoParams;
use uuid::Uuid;
use wedge_bench::{CausesView, MapView, SaddleView, SessionView};
use wedge_core::foresee::Step;
use wedge_core::school::SaddleNotes;
use wedge_core::solve::{OtherSaddle, SetbackParts};
use wedge_store::Store;

/// The saddle on the bench.
#[utoipa::path(
    context_path = "/api", tag = "saddle",
    responses((status = 200, body = SaddleView), (status = 404, body = Problem), (status = 422, body = Problem))
)]
#[get("/sessions/{id}/saddle")]
pub(crate) async fn read(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<SaddleView>, Problem> {
    Ok(web::Json(bench(&store, *id).await?.saddle()?))
}

/// Writes down what there is to say of the saddle.
#[utoipa::path(
    context_path = "/api", tag = "saddle", request_body = SaddleNotes,
    params(("If-Match" = String, Header, description = "The version it was read at")),
    responses((status = 200, body = SessionView), (status = 412, body = Problem), (status = 422, body = Problem))
)]
#[put("/sessions/{id}/saddle")]
pub(crate) async fn save(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    IfMatch(at): IfMatch,
    Body(notes): Body<SaddleNotes>,
) -> Result<HttpResponse, Problem> {
    accept(notes.refusals(""))?;
    store.save_saddle(*id, &notes, at).await?;
    view(&store, *id).await
}

/// The map around the saddle on the bench.
#[utoipa::path(context_path = "/api", tag = "saddle", responses((status = 200, body = MapView), (status = 404, body = Problem)))]
#[get("/sessions/{id}/saddle/map")]
pub(crate) async fn map(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<MapView>, Problem> {
    Ok(web::Json(bench(&store, *id).await?.map()?))
}

/// A setback wished for.
#[derive(Deserialize, IntoParams)]
pub(crate) struct WishedSetback {
    /// In the chosen convention.
    setback: f64,
}

/// Which part would give a wished setback, and by how much.
#[utoipa::path(
    context_path = "/api", tag = "saddle", params(WishedSetback),
    responses((status = 200, body = SetbackParts), (status = 404, body = Problem), (status = 422, body = Problem))
)]
#[get("/sessions/{id}/saddle/parts")]
pub(crate) async fn parts(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    wished: web::Query<WishedSetback>,
) -> Result<web::Json<SetbackParts>, Problem> {
    let parts = bench(&store, *id).await?.setback_parts(wished.setback)?;
    Ok(web::Json(parts))
}

/// Another saddle in the place of this one, the rider left where they sit: one linked trial, nothing written.
#[utoipa::path(
    context_path = "/api", tag = "saddle", request_body = OtherSaddle,
    responses((status = 200, body = Step), (status = 404, body = Problem), (status = 422, body = Problem))
)]
#[post("/sessions/{id}/saddle/swap")]
pub(crate) async fn swapped(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    Body(new): Body<OtherSaddle>,
) -> Result<web::Json<Step>, Problem> {
    Ok(web::Json(bench(&store, *id).await?.swapped(&new)?))
}

/// What may cause each complaint, as far as saddle, cleats and cranks go.
#[utoipa::path(context_path = "/api", tag = "saddle", responses((status = 200, body = CausesView), (status = 404, body = Problem)))]
#[get("/sessions/{id}/causes")]
pub(crate) async fn why(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<CausesView>, Problem> {
    Ok(web::Json(bench(&store, *id).await?.causes()?))
}
