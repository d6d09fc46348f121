//! Cranks: the schools of their length, what is known to go wrong, limits with remedies, and another crank by intent.

use super::view::Bench;
use crate::Problem;
use actix_web::{get, web};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;
use wedge_core::foresee::position;
use wedge_core::limit::{LimitRow, limits};
use wedge_core::measure::Quantity;
use wedge_core::school::{FrameLabel, Longest, Scale, alarms, crank_scale, longest, signs};
use wedge_core::solve::{Plan, intents};
use wedge_store::Store;

/// Which crank to plan for.
#[derive(Deserialize, IntoParams)]
pub(crate) struct Wanted {
    /// Its length; the leading school's next step when left out.
    #[serde(default)]
    to: Option<f64>,
}

/// What there is to say and to try at the cranks.
#[derive(Serialize, ToSchema)]
pub(crate) struct CranksView {
    /// The schools of crank length.
    scale: Scale,
    /// The size the frame is labelled with.
    label: Option<FrameLabel>,
    /// What hip and knee allow; none while neither was tested.
    longest: Option<Longest>,
    /// What is known to go wrong with this crank under this rider.
    alarms: Vec<String>,
    /// What the rider says and what was seen.
    signs: Vec<String>,
    /// Limits against demand, with what would open a short one.
    limits: Vec<LimitRow>,
    /// The crank the plans are for.
    to: f64,
    /// Another crank, by what it is for.
    plans: Vec<Plan>,
}

/// The cranks on the bench.
#[utoipa::path(
    context_path = "/api", tag = "sessions", params(Wanted),
    responses((status = 200, body = CranksView), (status = 404, body = Problem), (status = 422, body = Problem))
)]
#[get("/sessions/{id}/cranks")]
pub(crate) async fn read(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    wanted: web::Query<Wanted>,
) -> Result<web::Json<CranksView>, Problem> {
    if let Some(refusal) = wanted.to.and_then(|to| Quantity::Crank.refuse(to, "/to")) {
        return Err(vec![refusal].into());
    }
    let bench = Bench::read(&store, *id).await?;
    let input = bench.input(bench.now()?)?;
    let label = bench.bike.noun.label;
    let scale = crank_scale(&input, label, bench.house.leads.crank);
    let next = || {
        let steps = scale.schools.iter().filter_map(|s| s.trial.as_ref());
        steps.flat_map(|step| &step.changes).find_map(|c| c.to)
    };
    let to = (wanted.to).or_else(next).unwrap_or(scale.now - 2.5);
    Ok(web::Json(CranksView {
        longest: longest(&input),
        alarms: alarms(&input, label),
        signs: signs(&bench.session.intake, bench.pelvis()),
        limits: limits(&input, &position(&input)?),
        plans: intents(&input, to),
        label,
        to,
        scale,
    }))
}
