//! The first look: what was seen of the rider, and the rider fitted to it.

use super::extract::{Body, IfMatch, words};
use super::sessions::view;
use super::view::{Bench, SessionView};
use crate::Problem;
use actix_web::http::StatusCode;
use actix_web::{HttpResponse, post, web};
use jiff::Timestamp;
use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;
use wedge_core::bike::HandPlace;
use wedge_core::foresee::{self as core, ForeseeInput};
use wedge_core::units::Side;
use wedge_files::{CalibrationRecord, ForeseenThen, LookBody, LookEntry, LookSeen};
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
    let bench = Bench::read(&store, *id).await?;
    bench.go_on()?;
    let Some(setup) = bench.session.now else {
        return Err(Problem::new(
            StatusCode::CONFLICT,
            "Close the bike as found before the first look",
        ));
    };
    let mut input = bench.input(bench.now()?)?;
    input.hands = new.hands.or(input.hands);
    if let Some(refusal) =
        (new.hands).and_then(|place| input.setup.bar.refuse_place(place, "/hands"))
    {
        return Err(vec![refusal].into());
    }
    let foreseen = match &new.body {
        LookBody::Seen(seen) => foreseen_of(&input, seen)?,
        LookBody::Words(said) => {
            words(said, "/body/words")?;
            None
        }
        _ => None,
    };
    let look = LookEntry {
        id: new.id,
        at: Timestamp::now(),
        setup,
        hands: input.hands,
        effort: bench.session.effort,
        body: new.body,
        foreseen,
    };
    store.add_look(*id, &look).await?;
    view(&store, *id).await
}

/// What is foreseen of something seen; refused when it cannot have been seen on this bike.
fn foreseen_of(input: &ForeseeInput, seen: &LookSeen) -> Result<Option<ForeseenThen>, Problem> {
    let spec = seen.output.spec();
    if seen.side.is_some() && !spec.per_side {
        return Err(Problem::field(
            "/body/seen/side",
            format!("{} has no left and right", spec.label),
        ));
    }
    let Some(value) = seen.value else {
        return Ok(None);
    };
    if let Some(refusal) = seen.output.refuse_seen(value, "/body/seen/value") {
        return Err(vec![refusal].into());
    }
    let foresight = core::foresee(input)?;
    let side = seen.side.unwrap_or(Side::Right);
    let value = seen.output.of(&foresight.after, side).ok_or_else(|| {
        Problem::field(
            "/body/seen/output",
            format!("{} is not known of this bike", spec.label),
        )
    })?;
    let row = foresight
        .rows
        .iter()
        .find(|row| row.output == seen.output && row.side.is_none_or(|s| s == side));
    Ok(row
        .and_then(|row| row.band)
        .map(|band| ForeseenThen { value, band }))
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
    let bench = Bench::read(&store, *id).await?;
    let calibration = if new.on {
        bench.go_on()?;
        let Some(found) = bench.session.found() else {
            return Err(Problem::new(
                StatusCode::CONFLICT,
                "Close the bike as found before the first look",
            ));
        };
        Some(core::calibrate(
            &bench.unfitted(*found),
            &bench.session.looks(),
        )?)
    } else {
        None
    };
    let record = CalibrationRecord {
        id: new.id,
        at: Timestamp::now(),
        calibration,
    };
    store.add_calibration(*id, &record, at).await?;
    view(&store, *id).await
}
