//! Cranks: the schools of their length, what is known to go wrong, limits with remedies, and another crank by intent.

use super::load::bench;
use crate::Problem;
use actix_web::{get, web};
use serde::Deserialize;
use utoipa::IntoParams;
use uuid::Uuid;
use wedge_bench::CranksView;
use wedge_store::Store;

/// Which crank to plan for.
#[derive(Deserialize, IntoParams)]
pub(crate) struct Wanted {
    /// Its length; the leading school's next step when left out.
    #[serde(default)]
    to: Option<f64>,
}

/// The cranks on the bench.
#[utoipa::path(
    context_path = "/api", tag = "sessions", params(Wanted),
    responses((status = 200, body = CranksView), (status = 404, body = Problem), (status = 422, body = Problem))
)]
#[get("/sessions/{id}/cranks")]
pub(crate) async fn read(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    wanted: web::Query<Wanted>,
) -> Result<web::Json<CranksView>, Problem> {
    Ok(web::Json(bench(&store, *id).await?.cranks(wanted.to)?))
}
