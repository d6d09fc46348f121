//! The hand-out: the sheet for the rider and the next mechanic.

use super::load::bench;
use crate::Problem;
use actix_web::{get, web};
use uuid::Uuid;
use wedge_bench::Handout;
use wedge_store::Store;

/// The hand-out of a session.
#[utoipa::path(context_path = "/api", tag = "handout", responses((status = 200, body = Handout), (status = 409, body = Problem)))]
#[get("/sessions/{id}/handout")]
pub(crate) async fn read(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<Handout>, Problem> {
    Ok(web::Json(bench(&store, *id).await?.handout()?))
}
