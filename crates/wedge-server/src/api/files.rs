//! A rider as a file, out and in.

use crate::Problem;
use actix_web::http::header;
use actix_web::{HttpResponse, get, post, web};
use jiff::Timestamp;
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use wedge_files::RiderFile;
use wedge_store::Store;

/// The largest file taken in.
pub(crate) const MOST_BYTES: usize = 16 * 1024 * 1024;

/// A rider with everything on record, as a file.
#[utoipa::path(context_path = "/api", tag = "files", responses((status = 200, body = RiderFile), (status = 404, body = Problem)))]
#[get("/riders/{id}/file")]
pub(crate) async fn export(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<HttpResponse, Problem> {
    let rider = store.rider(*id).await?.noun;
    let text = RiderFile::new(rider).write()?;
    Ok(HttpResponse::Ok()
        .content_type("application/json")
        .insert_header((
            header::CONTENT_DISPOSITION,
            "attachment; filename=\"rider.wedge.json\"",
        ))
        .insert_header((header::CACHE_CONTROL, "no-store"))
        .body(text))
}

/// The rider a file brought in.
#[derive(Serialize, ToSchema)]
pub(crate) struct Imported {
    rider_id: Uuid,
}

/// Takes a rider in from a file: all of it or nothing. A broken file names the path of what is wrong.
#[utoipa::path(
    context_path = "/api", tag = "files", request_body = RiderFile,
    responses((status = 200, body = Imported), (status = 409, body = Problem), (status = 422, body = Problem))
)]
#[post("/import")]
pub(crate) async fn import(
    store: web::Data<Store>,
    payload: web::Payload,
) -> Result<web::Json<Imported>, Problem> {
    let too_long = || {
        Problem::new(
            actix_web::http::StatusCode::PAYLOAD_TOO_LARGE,
            "A rider's file is under 16 MB",
        )
    };
    let bytes = payload
        .to_bytes_limited(MOST_BYTES)
        .await
        .map_err(|_| too_long())?
        .map_err(|_| too_long())?;
    let text = std::str::from_utf8(&bytes)
        .map_err(|_| Problem::field(".", "Nothing was imported: the file is not text in UTF-8"))?;
    let file = RiderFile::read(text)?;
    store.import_rider(&file.rider, Timestamp::now()).await?;
    Ok(web::Json(Imported {
        rider_id: file.rider.id,
    }))
}
