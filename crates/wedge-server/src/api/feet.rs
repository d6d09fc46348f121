//! Feet: the schools of the cleat, stance, the ladder, shims and shoes.

use super::extract::{Body, IfMatch, accept};
use super::load::bench;
use super::sessions::view;
use crate::Problem;
use actix_web::{HttpResponse, get, put, web};
use uuid::Uuid;
use wedge_bench::{FeetView, SessionView};
use wedge_core::school::Shoe;
use wedge_core::units::{Side, Sides};
use wedge_store::Store;

/// The feet on the bench.
#[utoipa::path(
    context_path = "/api", tag = "sessions",
    responses((status = 200, body = FeetView), (status = 404, body = Problem), (status = 422, body = Problem))
)]
#[get("/sessions/{id}/feet")]
pub(crate) async fn read(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<FeetView>, Problem> {
    Ok(web::Json(bench(&store, *id).await?.feet()?))
}

/// Writes down what there is to say of the shoes.
#[utoipa::path(
    context_path = "/api", tag = "sessions", request_body = Sides<Shoe>,
    params(("If-Match" = String, Header, description = "The version it was read at")),
    responses((status = 200, body = SessionView), (status = 412, body = Problem), (status = 422, body = Problem))
)]
#[put("/sessions/{id}/shoes")]
pub(crate) async fn save_shoes(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    IfMatch(at): IfMatch,
    Body(shoes): Body<Sides<Shoe>>,
) -> Result<HttpResponse, Problem> {
    let refusals = |side: Side| shoes.of(side).refusals(&format!("/{}", side.word()));
    accept(Side::BOTH.into_iter().flat_map(refusals).collect())?;
    store.save_shoes(*id, &shoes, at).await?;
    view(&store, *id).await
}
