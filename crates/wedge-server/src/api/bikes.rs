//! Bikes: typed in once, corrected later.

use super::extract::{Body, IfMatch, name, versioned};
use crate::Problem;
use actix_web::{HttpResponse, patch, post, web};
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use wedge_core::bike::{
    Bar, Cockpit, Frame, Kind, Pedalling, Post, Residual, Saddle, Setup, TapedFrame,
};
use wedge_core::measure::Refusal;
use wedge_core::plane::Point;
use wedge_core::position::unmeasured_saddle;
use wedge_core::school::FrameLabel;
use wedge_core::units::{Degrees, Millimetres, Sides};
use wedge_files::Bike;
use wedge_store::{BikeEdit, Store};

/// A bike as typed in: the saddle's place is not among it, since that is measured.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewBike {
    /// UUIDv7, made by the client: sending it again is harmless.
    id: Uuid,
    name: String,
    #[serde(default)]
    kind: Kind,
    frame: Frame,
    /// What frame reach and stack were computed from, when they are on no chart.
    #[serde(default)]
    taped: Option<TapedFrame>,
    cockpit: Cockpit,
    bar: Bar,
    saddle: NewSaddle,
    #[serde(default)]
    post: Post,
    pedalling: Sides<Pedalling>,
}

/// A saddle without its place.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewSaddle {
    tilt_deg: Degrees,
    saddle_length_mm: Millimetres,
    nose_to_sit_mm: Millimetres,
    #[serde(default)]
    nose_to_mark_mm: Option<Millimetres>,
    #[serde(default)]
    saddle_stack_mm: Option<Millimetres>,
    #[serde(default)]
    saddle_top_mm: Option<Millimetres>,
    #[serde(default)]
    rail_middle_mm: Option<Millimetres>,
    #[serde(default)]
    rail_mm: Option<Millimetres>,
}

impl NewSaddle {
    /// The saddle at a place to draw it from.
    fn at(&self, sit: Point) -> Saddle {
        let mut saddle = Saddle::new(self.tilt_deg, self.saddle_length_mm, self.nose_to_sit_mm);
        saddle.nose_to_mark_mm = self.nose_to_mark_mm;
        saddle.rail_mm = self.rail_mm;
        for (typed, field) in [
            (self.saddle_stack_mm, &mut saddle.saddle_stack_mm),
            (self.saddle_top_mm, &mut saddle.saddle_top_mm),
            (self.rail_middle_mm, &mut saddle.rail_middle_mm),
        ] {
            *field = typed.unwrap_or(*field);
        }
        saddle.place(sit);
        saddle
    }
}

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
    let measured = rider
        .measured()
        .ok_or_else(|| Problem::field("/stature_mm", "The rider needs a stature first"))?;
    let mut errors: Vec<Refusal> = name(&new.name)
        .err()
        .into_iter()
        .flat_map(|p| p.errors)
        .collect();
    errors.extend(new.frame.refusals("/frame"));
    errors.extend(new.taped.iter().flat_map(|taped| taped.refusals("/taped")));
    let lengths = measured.lengths();
    let setup = Setup {
        cockpit: new.cockpit,
        bar: new.bar,
        saddle: new.saddle.at(unmeasured_saddle(&new.frame, &lengths)),
        post: new.post,
        pedalling: new.pedalling,
        residual: Residual::default(),
    };
    errors.extend(setup.refusals("").into_iter().filter(|r| {
        // The drawn place of the saddle follows from the seat angle: that is the field to point at, and it is.
        !r.pointer.ends_with("/saddle_height_mm") && !r.pointer.ends_with("/setback_mm")
    }));
    if !errors.is_empty() {
        return Err(Problem::refused(errors));
    }
    let bike = Bike {
        id: new.id,
        name: new.name.trim().to_owned(),
        kind: new.kind,
        frame: new.frame,
        label: None,
        setup,
        taped: new.taped,
        sessions: Vec::new(),
    };
    store.create_bike(rider.id, &bike, Timestamp::now()).await?;
    view(&store, new.id).await
}

/// What to correct of a bike.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct BikeCorrection {
    #[serde(default)]
    name: Option<String>,
    #[serde(default)]
    frame: Option<Frame>,
    /// With a frame: what its reach and stack were computed from; left out, they are off a chart.
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
    if let Some(frame) = &correction.frame {
        let errors = frame.refusals("/frame");
        if !errors.is_empty() {
            return Err(Problem::refused(errors));
        }
    }
    let edit = BikeEdit {
        name: correction.name.as_deref().map(name).transpose()?,
        frame: correction.frame.map(|frame| (frame, correction.taped)),
        kind: correction.kind,
        label: correction.label,
    };
    store.edit_bike(*id, &edit, at).await?;
    view(&store, *id).await
}

async fn view(store: &Store, id: Uuid) -> Result<HttpResponse, Problem> {
    let bike = store.bike(id).await?;
    Ok(versioned(
        &BikeView {
            version: bike.version,
            bike: bike.noun,
        },
        bike.version,
    ))
}
