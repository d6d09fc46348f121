//! The film bench: points of a picture to angles, and dots found in it. Nothing of a picture is kept here.

use super::extract::Body;
use super::files::bytes_of;
use super::load::{bench, worked_out};
use crate::{Problem, picture};
use actix_web::{post, web};
use serde::Deserialize;
use utoipa::IntoParams;
use uuid::Uuid;
use wedge_bench::{
    AcrossAsked, AcrossFollowed, AcrossFound, ClipAsked, ClipFollowed, FilmAsked, FilmRead,
    find_across,
};
use wedge_core::film::{AcrossShot, Blob, Learnt, Shot};
use wedge_store::Store;

/// Reads a picture by its points: squared by the wheels, angles with their spread. What is known of rider and bike is the fit's where
/// it is left out.
#[utoipa::path(
    context_path = "/api", tag = "film", request_body = Shot,
    responses((status = 200, body = FilmRead), (status = 422, body = Problem))
)]
#[post("/sessions/{id}/film/read")]
pub(crate) async fn read(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    Body(shot): Body<Shot>,
) -> Result<web::Json<FilmRead>, Problem> {
    let shot = filled(&store, *id, shot).await?;
    Ok(web::Json(read_shot(&shot, None)?))
}

/// The points known so far.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
#[serde(deny_unknown_fields)]
pub(crate) struct Found {
    /// The shot as JSON, with at least one dot.
    shot: String,
}

/// Finds the dots of a picture like the one that is among the marks, and names them.
#[utoipa::path(
    context_path = "/api", tag = "film", params(Found),
    request_body(content = Vec<u8>, content_type = "application/octet-stream"),
    responses((status = 200, body = FilmRead), (status = 422, body = Problem))
)]
#[post("/sessions/{id}/film/find")]
pub(crate) async fn find(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    found: web::Query<Found>,
    payload: web::Payload,
) -> Result<web::Json<FilmRead>, Problem> {
    let shot: Shot = wedge_bench::read(found.shot.as_bytes())?;
    let bytes = bytes_of(payload, picture::MOST_BYTES, "A picture").await?;
    let shot = filled(&store, *id, shot).await?;
    let found = move || {
        let picture = picture::decode(&bytes).map_err(|words| Problem::field("/picture", words))?;
        read_shot(&shot, Some(&picture))
    };
    Ok(web::Json(worked_out(found).await?))
}

/// The shot with what the fit knows.
async fn filled(store: &Store, id: Uuid, mut shot: Shot) -> Result<Shot, Problem> {
    if shot.known.stature_mm.is_none() {
        shot.known = bench(store, id).await?.known()?;
    }
    Ok(shot)
}

fn read_shot(shot: &Shot, picture: Option<&picture::Picture>) -> Result<FilmRead, Problem> {
    let image = picture.and_then(picture::Picture::image);
    FilmAsked(shot)
        .read(image.as_ref())
        .map_err(|words| Problem::field("/view", words))
}

/// What a dot looks like.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
#[serde(deny_unknown_fields)]
pub(crate) struct Looked {
    /// What was learnt in another frame, as JSON.
    learnt: String,
}

/// Everything in one frame of a clip that looks like the learnt dot.
#[utoipa::path(
    context_path = "/api", tag = "film", params(Looked),
    request_body(content = Vec<u8>, content_type = "application/octet-stream"),
    responses((status = 200, body = Vec<Blob>), (status = 422, body = Problem))
)]
#[post("/film/dots")]
pub(crate) async fn dots(
    looked: web::Query<Looked>,
    payload: web::Payload,
) -> Result<web::Json<Vec<Blob>>, Problem> {
    let learnt: Learnt = wedge_bench::read(looked.learnt.as_bytes())?;
    let bytes = bytes_of(payload, picture::MOST_BYTES, "A frame").await?;
    let found = move || {
        let picture = picture::decode(&bytes).map_err(|words| Problem::field("/picture", words))?;
        let mut blobs = picture
            .image()
            .map(|image| wedge_core::film::find(&image, &learnt))
            .unwrap_or_default();
        blobs.truncate(MOST_DOTS);
        Ok(blobs)
    };
    Ok(web::Json(worked_out(found).await?))
}

/// The most dots a frame is told to have, the best ones.
const MOST_DOTS: usize = 40;
/// The most bytes the dots of a clip take.
const MOST_CLIP_BYTES: usize = 16 << 20;

/// Finds the dots that were clicked in a picture from ahead or behind.
#[utoipa::path(
    context_path = "/api", tag = "film", params(Found),
    request_body(content = Vec<u8>, content_type = "application/octet-stream"),
    responses((status = 200, body = AcrossFound), (status = 422, body = Problem))
)]
#[post("/film/across")]
pub(crate) async fn find_dots(
    found: web::Query<Found>,
    payload: web::Payload,
) -> Result<web::Json<AcrossFound>, Problem> {
    let shot: AcrossShot = wedge_bench::read(found.shot.as_bytes())?;
    let bytes = bytes_of(payload, picture::MOST_BYTES, "A picture").await?;
    let found = move || {
        let picture = picture::decode(&bytes).map_err(|words| Problem::field("/picture", words))?;
        let image = picture.image();
        let image = image.ok_or_else(|| Problem::field("/picture", "The picture is empty"))?;
        find_across(&shot, &image).map_err(|words| Problem::field("/marks", words))
    };
    Ok(web::Json(worked_out(found).await?))
}

/// Follows dots through a clip from ahead or behind and reads knees, heels and hips. What is known of rider and bike is the fit's
/// where it is left out.
#[utoipa::path(
    context_path = "/api", tag = "film", request_body = AcrossAsked,
    responses((status = 200, body = AcrossFollowed), (status = 422, body = Problem))
)]
#[post("/sessions/{id}/film/across")]
pub(crate) async fn across(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    payload: web::Payload,
) -> Result<web::Json<AcrossFollowed>, Problem> {
    let bytes = bytes_of(payload, MOST_CLIP_BYTES, "A clip").await?;
    let mut asked: AcrossAsked = wedge_bench::read(&bytes)?;
    let shot = &mut asked.shot;
    if shot.known.stature_mm.is_none() || shot.tyre_mm.is_none() {
        let bench = bench(&store, *id).await?;
        if shot.known.stature_mm.is_none() {
            shot.known = bench.known()?;
        }
        shot.tyre_mm = shot.tyre_mm.or(Some(bench.tyre_mm(shot.from)?));
    }
    let followed = move || {
        asked
            .follow()
            .map_err(|words| Problem::field("/clip", words))
    };
    Ok(web::Json(worked_out(followed).await?))
}

/// Follows dots through a clip and reads the stroke. What is known of rider and bike is the fit's where it is left out.
#[utoipa::path(
    context_path = "/api", tag = "film", request_body = ClipAsked,
    responses((status = 200, body = ClipFollowed), (status = 422, body = Problem))
)]
#[post("/sessions/{id}/film/clip")]
pub(crate) async fn clip(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    payload: web::Payload,
) -> Result<web::Json<ClipFollowed>, Problem> {
    let bytes = bytes_of(payload, MOST_CLIP_BYTES, "A clip").await?;
    let mut asked: ClipAsked = wedge_bench::read(&bytes)?;
    asked.shot = filled(&store, *id, asked.shot).await?;
    let followed = move || {
        asked
            .follow()
            .map_err(|words| Problem::field("/clip", words))
    };
    Ok(web::Json(worked_out(followed).await?))
}
