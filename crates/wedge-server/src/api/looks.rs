//! The first look: what was seen of the rider, and the rider fitted to it.

use super::extract::{Body, IfMatch};
use super::load::bench;
use super::sessions::view;
use crate::Problem;
use actix_web::{HttpResponse, post, web};
use jiff::Timestamp;
use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;
use wedge_bench::SessionView;
use wedge_core::bike::HandPlace;
use wedge_files::{CalibrationRecord, LookBody};
use wedge_store::Store;

/// Something seen.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewLook {
    /// UUIDv7, made by the client: sending it again is harmless.
    id: Uuid,
    /// Where the hands were; the place chosen for the fit when left out.
    #[serde(default)]
    hands: Option<HandPlace>,
    body: LookBody,
    /// Whether what measured it was in doubt.
    #[serde(default)]
    doubtful: bool,
}

/// Writes down something seen of the rider on the setup that is on the bench. What is foreseen of it is stored beside
/// it as it stands.
#[utoipa::path(
    context_path = "/api", tag = "looks", request_body = NewLook,
    responses((status = 200, body = SessionView), (status = 409, body = Problem), (status = 422, body = Problem))
)]
#[post("/sessions/{id}/looks")]
pub(crate) async fn add(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    Body(new): Body<NewLook>,
) -> Result<HttpResponse, Problem> {
    let bench = bench(&store, *id).await?;
    let now = bench.session.no_earlier(Timestamp::now());
    let look = bench.looked(new.id, now, new.hands, (new.body, new.doubtful))?;
    store.add_look(*id, &look).await?;
    view(&store, *id).await
}

/// A calibration to make.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewCalibration {
    /// UUIDv7, made by the client: sending it again is harmless.
    id: Uuid,
    /// Fits the rider anew to everything seen; `false` switches the fit off.
    on: bool,
}

/// Fits the rider to everything seen in this fit, or switches the fit off. Both are kept.
#[utoipa::path(
    context_path = "/api", tag = "looks", request_body = NewCalibration,
    params(("If-Match" = String, Header, description = "The version it was read at")),
    responses(
        (status = 200, body = SessionView), (status = 409, body = Problem), (status = 412, body = Problem),
        (status = 422, body = Problem)
    )
)]
#[post("/sessions/{id}/calibrations")]
pub(crate) async fn calibrate(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    IfMatch(at): IfMatch,
    Body(new): Body<NewCalibration>,
) -> Result<HttpResponse, Problem> {
    let bench = bench(&store, *id).await?;
    let record = CalibrationRecord {
        id: new.id,
        at: bench.session.no_earlier(Timestamp::now()),
        calibration: new.on.then(|| bench.fitted()).transpose()?,
    };
    store.add_calibration(*id, &record, at).await?;
    view(&store, *id).await
}

/// Several things seen.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewLooks {
    looks: Vec<NewLook>,
}

/// The most that is written down at once.
const MOST_LOOKS: usize = 100;

/// Writes down several things seen of the rider on the setup that is on the bench, all of them or none: what was kept of
/// a take or of film.
#[utoipa::path(
    context_path = "/api", tag = "looks", request_body = NewLooks,
    responses((status = 200, body = SessionView), (status = 409, body = Problem), (status = 422, body = Problem))
)]
#[post("/sessions/{id}/looks/many")]
pub(crate) async fn add_many(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    Body(new): Body<NewLooks>,
) -> Result<HttpResponse, Problem> {
    if new.looks.len() > MOST_LOOKS {
        return Err(Problem::field("/looks", "At most 100 at once"));
    }
    let bench = bench(&store, *id).await?;
    let now = bench.session.no_earlier(Timestamp::now());
    let looks = new
        .looks
        .into_iter()
        .map(|look| bench.looked(look.id, now, look.hands, (look.body, look.doubtful)));
    let looks = looks.collect::<Result<Vec<_>, _>>()?;
    store.add_looks(*id, &looks).await?;
    view(&store, *id).await
}
