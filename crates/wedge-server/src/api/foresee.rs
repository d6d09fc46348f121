//! Foresight, without side effects.

use super::extract::Body;
use crate::Problem;
use actix_web::{post, web};
use wedge_core::foresee::{self as core, ForeseeInput, Foresight};

/// Foresees what changes do to everything else. Writes nothing.
#[utoipa::path(
    context_path = "/api", tag = "foresee", request_body = ForeseeInput,
    responses((status = 200, body = Foresight), (status = 422, body = Problem))
)]
#[post("/foresee")]
pub(crate) async fn foresee(
    Body(input): Body<ForeseeInput>,
) -> Result<web::Json<Foresight>, Problem> {
    Ok(web::Json(core::foresee(&input)?))
}
