//! Bikes: typed in once, corrected later.

use super::extract::{Body, IfMatch, accept, name, versioned};
use crate::Problem;
use actix_web::{HttpResponse, patch, post, web};
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use wedge_bench::{NewBike, fit_stand_of};
use wedge_core::bike::{Frame, Kind, TapedFrame};
use wedge_core::school::FrameLabel;
use wedge_files::Bike;
use wedge_store::{BikeEdit, Store};

/// A bike with its version.
#[derive(Serialize, ToSchema)]
pub(crate) struct BikeView {
    version: i64,
    bike: Bike,
}

/// Writes down a new bike of a rider.
#[utoipa::path(
    context_path = "/api", tag = "bikes", request_body = NewBike,
    responses((status = 200, body = BikeView), (status = 422, body = Problem))
)]
#[post("/riders/{id}/bikes")]
pub(crate) async fn create(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    Body(new): Body<NewBike>,
) -> Result<HttpResponse, Problem> {
    let rider = store.rider(*id).await?.noun;
    let bike = new.of(&rider)?;
    store.create_bike(rider.id, &bike, Timestamp::now()).await?;
    view(&store, bike.id).await
}

/// A fit stand to write down.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewStand {
    /// UUIDv7, made by the client: sending it again is harmless.
    id: Uuid,
}

/// Writes down a fit stand for a rider: a bike without a frame, whose saddle and front slide. Its numbers are usual ones.
#[utoipa::path(
    context_path = "/api", tag = "bikes", request_body = NewStand,
    responses((status = 200, body = BikeView), (status = 422, body = Problem))
)]
#[post("/riders/{id}/stands")]
pub(crate) async fn create_stand(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    Body(new): Body<NewStand>,
) -> Result<HttpResponse, Problem> {
    let rider = store.rider(*id).await?.noun;
    let bike = fit_stand_of(new.id, &rider)?;
    store.create_bike(rider.id, &bike, Timestamp::now()).await?;
    view(&store, bike.id).await
}

/// What to correct of a bike.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct BikeCorrection {
    #[serde(default)]
    name: Option<String>,
    #[serde(default)]
    frame: Option<Frame>,
    /// With a frame: what its reach and stack were computed from. Left out, what they were computed from stands while they
    /// stay; changed, they are off a chart.
    #[serde(default)]
    taped: Option<TapedFrame>,
    #[serde(default)]
    kind: Option<Kind>,
    #[serde(default)]
    label: Option<FrameLabel>,
}

/// Corrects a bike's name, kind or frame; what was foreseen of earlier trials stays as it was stored.
#[utoipa::path(
    context_path = "/api", tag = "bikes", request_body = BikeCorrection,
    params(("If-Match" = String, Header, description = "The version it was read at")),
    responses((status = 200, body = BikeView), (status = 412, body = Problem), (status = 422, body = Problem))
)]
#[patch("/bikes/{id}")]
pub(crate) async fn edit(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    IfMatch(at): IfMatch,
    Body(correction): Body<BikeCorrection>,
) -> Result<HttpResponse, Problem> {
    accept(
        (correction.frame.iter())
            .flat_map(|frame| frame.refusals("/frame"))
            .collect(),
    )?;
    let frame = match (correction.frame, correction.taped) {
        (Some(frame), None) => {
            let bike = store.bike(*id).await?.noun;
            let of = |frame: &Frame| (frame.frame_reach_mm, frame.frame_stack_mm);
            let stays = of(&frame) == of(&bike.frame);
            Some((frame, bike.taped.filter(|_| stays)))
        }
        (frame, taped) => frame.map(|frame| (frame, taped)),
    };
    let edit = BikeEdit {
        name: correction.name.as_deref().map(name).transpose()?,
        frame,
        kind: correction.kind,
        label: correction.label,
    };
    store.edit_bike(*id, &edit, at).await?;
    view(&store, *id).await
}

pub(super) async fn view(store: &Store, id: Uuid) -> Result<HttpResponse, Problem> {
    let bike = store.bike(id).await?;
    Ok(versioned(
        &BikeView {
            version: bike.version,
            bike: bike.noun,
        },
        bike.version,
    ))
}
