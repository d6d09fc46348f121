//! Foresight, without side effects.

use super::extract::Raw;
use crate::Problem;
use actix_web::http::header::{ContentEncoding, ContentType};
use actix_web::{HttpResponse, post};
use wedge_core::foresee::{ForeseeInput, Foresight};

/// Foresees what changes do to everything else. Writes nothing.
#[utoipa::path(
    context_path = "/api", tag = "foresee", request_body = ForeseeInput,
    responses((status = 200, body = Foresight), (status = 422, body = Problem))
)]
#[post("/foresee")]
pub(crate) async fn foresee(Raw(body): Raw) -> Result<HttpResponse, Problem> {
    let foresight = wedge_bench::foresee(&body)?;
    // It is asked for at every key, by the fitter's own screen: packing it takes longer than sending it.
    Ok(HttpResponse::Ok()
        .content_type(ContentType::json())
        .insert_header(ContentEncoding::Identity)
        .body(foresight))
}
