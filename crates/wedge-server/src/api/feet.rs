//! Feet: the schools of the cleat, stance, the ladder, shims and shoes.

use super::extract::{Body, IfMatch};
use super::sessions::view;
use super::view::{Bench, SessionView};
use crate::Problem;
use actix_web::{HttpResponse, get, put, web};
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use wedge_core::measure::Refusal;
use wedge_core::school::{
    Comparison, Ladder, MEASURING, Scale, Shim, Shoe, Stance, cleat_scale, comparison, ladders,
    shims, shoe_advice, stance,
};
use wedge_core::units::{Side, Sides};
use wedge_store::Store;

/// What there is to say and to try at the feet.
#[derive(Serialize, ToSchema)]
pub(crate) struct FeetView {
    /// How the cleat is measured, step by step.
    measuring: &'static [&'static str],
    /// The schools of the cleat, foot by foot.
    scales: Sides<Scale>,
    /// Equal against staggered, for feet of different size.
    comparison: Option<Comparison>,
    /// The schools of the stance.
    stance: Vec<Stance>,
    /// Where they pull apart for this rider.
    stance_apart: Option<String>,
    /// A ladder for each knee that tracks in or out.
    ladders: Vec<Ladder>,
    /// Shims for a leg that is truly short.
    shims: Vec<Shim>,
    /// What was noted of the shoes.
    shoes: Sides<Shoe>,
    /// What there is to say about them.
    advice: Vec<String>,
}

/// The feet on the bench.
#[utoipa::path(
    context_path = "/api", tag = "sessions",
    responses((status = 200, body = FeetView), (status = 404, body = Problem), (status = 422, body = Problem))
)]
#[get("/sessions/{id}/feet")]
pub(crate) async fn read(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<FeetView>, Problem> {
    let bench = Bench::read(&store, *id).await?;
    let input = bench.input(bench.now()?)?;
    let lead = bench.house.leads.cleat;
    let paths = bench.knee_paths();
    let ladders = ladders(&input, &paths, &bench.tried());
    let (stance, stance_apart) = stance(&input, &paths);
    Ok(web::Json(FeetView {
        measuring: &MEASURING,
        scales: Sides::from_fn(|side| cleat_scale(&input, side, lead)),
        comparison: comparison(&input),
        stance,
        stance_apart,
        shims: shims(&input, &ladders),
        ladders,
        advice: shoe_advice(&input.rider.legs, &bench.session.shoes),
        shoes: bench.session.shoes,
    }))
}

/// Writes down what there is to say of the shoes.
#[utoipa::path(
    context_path = "/api", tag = "sessions", request_body = Sides<Shoe>,
    params(("If-Match" = String, Header, description = "The version it was read at")),
    responses((status = 200, body = SessionView), (status = 412, body = Problem), (status = 422, body = Problem))
)]
#[put("/sessions/{id}/shoes")]
pub(crate) async fn save_shoes(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    IfMatch(at): IfMatch,
    Body(shoes): Body<Sides<Shoe>>,
) -> Result<HttpResponse, Problem> {
    let refusals: Vec<Refusal> = Side::BOTH
        .into_iter()
        .flat_map(|side| shoes.of(side).refusals(&format!("/{}", side.word())))
        .collect();
    if !refusals.is_empty() {
        return Err(Problem::refused(refusals));
    }
    store.save_shoes(*id, &shoes, at).await?;
    view(&store, *id).await
}
