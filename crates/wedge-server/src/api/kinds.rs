//! What a kind of riding adds to a fit: pads, off-road, grades, and sizes before there is a bike.

use super::load::bench;
use crate::Problem;
use actix_web::{get, web};
use serde::Deserialize;
use utoipa::IntoParams;
use uuid::Uuid;
use wedge_bench::{AeroView, OffRoadView, sized};
use wedge_core::kinds::{Graded, Sizing};
use wedge_store::Store;

/// What a position on pads is asked with.
#[derive(Deserialize, IntoParams)]
pub(crate) struct Asked {
    /// How far the whole position is turned, degrees, front down positive.
    #[serde(default)]
    by: f64,
}

/// The position on pads, turned as one piece, with what the parts do for it, and up to four positions side by side.
#[utoipa::path(
    context_path = "/api", tag = "kinds", params(Asked),
    responses(
        (status = 200, body = AeroView), (status = 404, body = Problem), (status = 409, body = Problem),
        (status = 422, body = Problem)
    )
)]
#[get("/sessions/{id}/aero")]
pub(crate) async fn aero(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    asked: web::Query<Asked>,
) -> Result<web::Json<AeroView>, Problem> {
    Ok(web::Json(bench(&store, *id).await?.aero(asked.by)?))
}

/// The bike off the road: cockpit, cranks, springs, geometry under sag, dropper and rotors.
#[utoipa::path(
    context_path = "/api", tag = "kinds",
    responses((status = 200, body = OffRoadView), (status = 404, body = Problem))
)]
#[get("/sessions/{id}/off-road")]
pub(crate) async fn off_road(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<OffRoadView>, Problem> {
    Ok(web::Json(bench(&store, *id).await?.off_road()?))
}

/// A grade.
#[derive(Deserialize, IntoParams)]
pub(crate) struct Grade {
    /// In hundredths, uphill positive.
    percent: f64,
}

/// What the rider feels of setback, tilt and weight on a grade.
#[utoipa::path(
    context_path = "/api", tag = "kinds", params(Grade),
    responses((status = 200, body = Graded), (status = 404, body = Problem), (status = 422, body = Problem))
)]
#[get("/sessions/{id}/grade")]
pub(crate) async fn grade(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    grade: web::Query<Grade>,
) -> Result<web::Json<Graded>, Problem> {
    Ok(web::Json(bench(&store, *id).await?.graded(grade.percent)?))
}

/// The off-road sizes of the frame library for a rider, before there is a bike.
#[utoipa::path(
    context_path = "/api", tag = "kinds",
    responses((status = 200, body = Sizing), (status = 404, body = Problem), (status = 422, body = Problem))
)]
#[get("/riders/{id}/sizing")]
pub(crate) async fn sizing(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<Sizing>, Problem> {
    let rider = store.rider(*id).await?.noun;
    let measured = rider
        .measured()
        .ok_or_else(|| Problem::field("/stature_mm", "The rider needs a stature first"))?;
    Ok(web::Json(sized(&measured, &store.frames().await?)))
}
