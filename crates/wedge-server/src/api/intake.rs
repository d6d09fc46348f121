//! Intake: what the rider comes with, and what stops a fit.

use super::extract::{Body, IfMatch, accept};
use super::sessions::view;
use crate::Problem;
use actix_web::{HttpResponse, put, web};
use uuid::Uuid;
use wedge_bench::SessionView;
use wedge_core::intake::Intake;
use wedge_store::Store;

/// Writes down what the rider came with, as a whole. A red flag without a written reason stops the way from here on.
#[utoipa::path(
    context_path = "/api", tag = "sessions", request_body = Intake,
    params(("If-Match" = String, Header, description = "The version it was read at")),
    responses((status = 200, body = SessionView), (status = 412, body = Problem), (status = 422, body = Problem))
)]
#[put("/sessions/{id}/intake")]
pub(crate) async fn save(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    IfMatch(at): IfMatch,
    Body(intake): Body<Intake>,
) -> Result<HttpResponse, Problem> {
    accept(intake.refusals(""))?;
    store.save_intake(*id, &intake, at).await?;
    view(&store, *id).await
}
