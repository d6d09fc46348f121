//! Riders as files, out and in: one, or the whole studio.

use crate::{Problem, demo};
use actix_web::http::{StatusCode, header};
use actix_web::{HttpResponse, get, post, web};
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;
use wedge_files::{RiderFile, StudioFile, as_wanted, read_studio};
use wedge_store::Store;

/// The largest file taken in.
pub(crate) const MOST_BYTES: usize = 64 * 1024 * 1024;

/// A rider with everything on record, as a file.
#[utoipa::path(context_path = "/api", tag = "files", responses((status = 200, body = RiderFile), (status = 404, body = Problem)))]
#[get("/riders/{id}/file")]
pub(crate) async fn export(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<HttpResponse, Problem> {
    let rider = store.rider(*id).await?.noun;
    Ok(attachment(
        "rider.wedge.json",
        RiderFile::new(rider).write()?,
    ))
}

/// Every rider of the studio, as one file.
#[utoipa::path(context_path = "/api", tag = "files", responses((status = 200, body = StudioFile)))]
#[get("/studio/file")]
pub(crate) async fn export_studio(store: web::Data<Store>) -> Result<HttpResponse, Problem> {
    let house = store.house().await?;
    let chosen = (house.version > 0).then_some(house.noun);
    let studio = StudioFile {
        house: chosen,
        frames: store.frames().await?,
        ..StudioFile::new(store.all_riders().await?)
    };
    Ok(attachment("studio.wedge.json", studio.write()?))
}

fn attachment(name: &str, text: String) -> HttpResponse {
    HttpResponse::Ok()
        .content_type("application/json")
        .insert_header((
            header::CONTENT_DISPOSITION,
            format!("attachment; filename=\"{name}\""),
        ))
        .insert_header((header::CACHE_CONTROL, "no-store"))
        .body(text)
}

/// How to take a file in.
#[derive(Deserialize, IntoParams)]
pub(crate) struct How {
    /// Under new ids, beside what is on record already.
    #[serde(default)]
    as_copy: bool,
}

/// The riders a file brought in.
#[derive(Serialize, ToSchema)]
pub(crate) struct Imported {
    riders: Vec<ImportedRider>,
}

/// A rider a file brought in.
#[derive(Serialize, ToSchema)]
pub(crate) struct ImportedRider {
    id: Uuid,
    name: String,
}

/// Takes riders in from a file of one or of a studio: all of it or nothing. A broken file names the path of what is
/// wrong; an id on record already is a conflict that names whose, unless the file is taken in as a copy.
#[utoipa::path(
    context_path = "/api", tag = "files", request_body = RiderFile, params(How),
    responses((status = 200, body = Imported), (status = 409, body = Problem), (status = 422, body = Problem))
)]
#[post("/import")]
pub(crate) async fn import(
    store: web::Data<Store>,
    how: web::Query<How>,
    payload: web::Payload,
) -> Result<web::Json<Imported>, Problem> {
    let text = text_of(payload).await?;
    let mut studio = read_studio(&text)?;
    studio.riders = as_wanted(studio.riders, how.as_copy, Uuid::now_v7);
    taken_in(&store, studio).await
}

async fn taken_in(store: &Store, studio: StudioFile) -> Result<web::Json<Imported>, Problem> {
    store.import_studio(&studio, Timestamp::now()).await?;
    Ok(web::Json(Imported {
        riders: studio
            .riders
            .into_iter()
            .map(|rider| ImportedRider {
                id: rider.id,
                name: rider.name,
            })
            .collect(),
    }))
}

/// Takes in the invented riders of the demo, to look around: only where nobody is on record yet.
#[utoipa::path(
    context_path = "/api", tag = "files",
    responses((status = 200, body = Imported), (status = 409, body = Problem))
)]
#[post("/demo")]
pub(crate) async fn import_demo(store: web::Data<Store>) -> Result<web::Json<Imported>, Problem> {
    if !store.riders("", true, 1).await?.is_empty() {
        return Err(Problem::new(
            StatusCode::CONFLICT,
            "Somebody is on record here already: `wedge demo` shows the invented riders beside it",
        ));
    }
    let studio = demo::riders().map_err(|error| {
        tracing::error!("the demo: {error:#}");
        Problem::new(StatusCode::INTERNAL_SERVER_ERROR, "The demo cannot be read")
    })?;
    taken_in(&store, studio).await
}

/// A file's text.
pub(crate) async fn text_of(payload: web::Payload) -> Result<String, Problem> {
    let too_long = || {
        Problem::new(
            actix_web::http::StatusCode::PAYLOAD_TOO_LARGE,
            "A file is under 64 MB",
        )
    };
    let bytes = payload
        .to_bytes_limited(MOST_BYTES)
        .await
        .map_err(|_| too_long())?
        .map_err(|_| too_long())?;
    String::from_utf8(bytes.to_vec())
        .map_err(|_| Problem::field(".", "Nothing was imported: the file is not text in UTF-8"))
}
