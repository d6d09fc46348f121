//! The studio: how it works, chosen once, and its frame library.

use super::extract::{Body, IfMatch, accept, versioned};
use super::files::{attached, text_of};
use crate::Problem;
use actix_web::{HttpResponse, delete, get, post, put, web};
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use wedge_core::bike::{ComputedFrame, Part, TapedFrame};
use wedge_core::units::Degrees;
use wedge_files::{House, LibraryFrame, read_frames, read_parts, write_frames, write_parts};
use wedge_store::Store;

/// What a table is.
pub(super) const CSV: &str = "text/csv; charset=utf-8";

/// The studio.
#[derive(Serialize, ToSchema)]
pub(crate) struct StudioView {
    version: i64,
    house: House,
    frames: Vec<LibraryFrame>,
}

/// How the studio works, and its frames.
#[utoipa::path(context_path = "/api", tag = "studio", responses((status = 200, body = StudioView)))]
#[get("/studio")]
pub(crate) async fn read(store: web::Data<Store>) -> Result<HttpResponse, Problem> {
    view(&store).await
}

async fn view(store: &Store) -> Result<HttpResponse, Problem> {
    let house = store.house().await?;
    Ok(versioned(
        &StudioView {
            version: house.version,
            house: house.noun,
            frames: store.frames().await?,
        },
        house.version,
    ))
}

/// Chooses how the studio works. Fits that are going on keep their conventions.
#[utoipa::path(
    context_path = "/api", tag = "studio", request_body = House,
    params(("If-Match" = String, Header, description = "The version it was read at")),
    responses((status = 200, body = StudioView), (status = 412, body = Problem), (status = 422, body = Problem))
)]
#[put("/studio")]
pub(crate) async fn save(
    store: web::Data<Store>,
    IfMatch(at): IfMatch,
    Body(house): Body<House>,
) -> Result<HttpResponse, Problem> {
    accept(house.refusals())?;
    store.save_house(&house, at).await?;
    view(&store).await
}

/// The frame library as CSV.
#[utoipa::path(context_path = "/api", tag = "studio", responses((status = 200, body = String, content_type = "text/csv")))]
#[get("/frames/file")]
pub(crate) async fn export_frames(store: web::Data<Store>) -> Result<HttpResponse, Problem> {
    Ok(attached("frames.csv", CSV).body(write_frames(&store.frames().await?)?))
}

/// Takes frames in from CSV: all of the file or nothing. What is wrong is named by line and column; a name that is in
/// the library already is a conflict.
#[utoipa::path(
    context_path = "/api", tag = "studio", request_body(content = String, content_type = "text/csv"),
    responses((status = 200, body = StudioView), (status = 409, body = Problem), (status = 422, body = Problem))
)]
#[post("/frames/import")]
pub(crate) async fn import_frames(
    store: web::Data<Store>,
    payload: web::Payload,
) -> Result<HttpResponse, Problem> {
    let text = text_of(payload).await?;
    let frames = read_frames(&text, Uuid::now_v7)?;
    store.add_frames(&frames, Timestamp::now()).await?;
    view(&store).await
}

/// The parts box as CSV, `wedge.parts/1`.
#[utoipa::path(context_path = "/api", tag = "studio", responses((status = 200, body = String, content_type = "text/csv")))]
#[get("/parts/file")]
pub(crate) async fn export_parts(store: web::Data<Store>) -> Result<HttpResponse, Problem> {
    Ok(attached("parts.csv", CSV).body(write_parts(&store.house().await?.noun.parts)?))
}

/// Reads a parts box from CSV, without keeping it: every bad line is named with its column.
#[utoipa::path(
    context_path = "/api", tag = "studio", request_body(content = String, content_type = "text/csv"),
    responses((status = 200, body = Vec<Part>), (status = 422, body = Problem))
)]
#[post("/parts/read")]
pub(crate) async fn read_box(payload: web::Payload) -> Result<web::Json<Vec<Part>>, Problem> {
    Ok(web::Json(read_parts(&text_of(payload).await?)?))
}

/// Takes a frame out of the library. Bikes written down with it keep theirs.
#[utoipa::path(context_path = "/api", tag = "studio", responses((status = 200, body = StudioView), (status = 404, body = Problem)))]
#[delete("/frames/{id}")]
pub(crate) async fn delete_frame(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<HttpResponse, Problem> {
    store.delete_frame(*id).await?;
    view(&store).await
}

/// A frame on no chart, as far as the tape reaches.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct FrameOnTape {
    seat_angle_deg: Degrees,
    taped: TapedFrame,
}

/// Computes frame reach and stack from the tape, with their spread.
#[utoipa::path(
    context_path = "/api", tag = "studio", request_body = FrameOnTape,
    responses((status = 200, body = ComputedFrame), (status = 422, body = Problem))
)]
#[post("/frames/compute")]
pub(crate) async fn compute_frame(
    Body(frame): Body<FrameOnTape>,
) -> Result<web::Json<ComputedFrame>, Problem> {
    let angle = wedge_core::measure::Quantity::SeatAngle;
    accept(Vec::from_iter(
        angle.refuse(frame.seat_angle_deg.0, "/seat_angle_deg"),
    ))?;
    Ok(web::Json(frame.taped.compute(frame.seat_angle_deg)?))
}
