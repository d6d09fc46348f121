//! The next bike: a position carried, a frame chosen, a frame made to measure, and what of them goes out.

use super::bikes;
use super::extract::{Body, accept};
use super::files::{attached, plain_name};
use super::handout::{FONTS, SheetAsked};
use super::load::worked_out;
use super::studio::CSV;
use crate::Problem;
use actix_web::{HttpResponse, get, post, web};
use jiff::{Timestamp, Zoned};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use wedge_bench::{
    CarriedView, ChoiceAsked, ChoiceView, Declined, MadeView, NewNext, NextAsked, NextBike,
    NextSheet, NextView,
};
use wedge_core::bike::Frame;
use wedge_core::measure::Refusal;
use wedge_core::next::Dimension;
use wedge_files::{FrameMap, FramesRead, LibraryFrame, read_frames_by, write_frames};
use wedge_print::{frame_dxf, frame_pdf, frame_svg, next_pdf};
use wedge_store::Store;

/// A rider with what every question of the next bike is asked with.
async fn next_bike(store: &Store, rider: Uuid) -> Result<NextBike, Problem> {
    Ok(NextBike {
        rider: store.rider(rider).await?.noun,
        house: store.house().await?.noun,
        frames: store.frames().await?,
        today: Zoned::now().date(),
    })
}

/// A position of the rider, from a fit, a stand or typed points, with all it can be asked.
#[utoipa::path(
    context_path = "/api", tag = "next", request_body = NextAsked,
    responses((status = 200, body = NextView), (status = 404, body = Problem), (status = 422, body = Problem))
)]
#[post("/riders/{id}/next")]
pub(crate) async fn position(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    Body(asked): Body<NextAsked>,
) -> Result<web::Json<NextView>, Problem> {
    Ok(web::Json(next_bike(&store, *id).await?.view(&asked.from)?))
}

/// The position on another bike: what it is built of, what remains off, what else is other.
#[utoipa::path(
    context_path = "/api", tag = "next", request_body = NextAsked,
    responses((status = 200, body = CarriedView), (status = 404, body = Problem), (status = 422, body = Problem))
)]
#[post("/riders/{id}/next/carry")]
pub(crate) async fn carried(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    Body(asked): Body<NextAsked>,
) -> Result<web::Json<CarriedView>, Problem> {
    let next = next_bike(&store, *id).await?;
    let view = worked_out(move || Ok(next.carried(&asked)?)).await?;
    Ok(web::Json(view))
}

/// The frames of the library for the position, the best first.
#[utoipa::path(
    context_path = "/api", tag = "next", request_body = ChoiceAsked,
    responses((status = 200, body = ChoiceView), (status = 404, body = Problem), (status = 422, body = Problem))
)]
#[post("/riders/{id}/next/choose")]
pub(crate) async fn choice(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    Body(asked): Body<ChoiceAsked>,
) -> Result<web::Json<ChoiceView>, Problem> {
    let next = next_bike(&store, *id).await?;
    let view = worked_out(move || Ok(next.choice(&asked)?)).await?;
    Ok(web::Json(view))
}

/// A frame made to measure, with the wishes that do not go together.
#[derive(Serialize, ToSchema)]
pub(crate) struct MadeDrawn {
    #[serde(flatten)]
    view: MadeView,
    /// The frame as SVG.
    svg: String,
}

/// A frame made to measure around the position.
#[utoipa::path(
    context_path = "/api", tag = "next", request_body = NextAsked,
    responses((status = 200, body = MadeDrawn), (status = 404, body = Problem), (status = 422, body = Problem))
)]
#[post("/riders/{id}/next/made")]
pub(crate) async fn made(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    Body(asked): Body<NextAsked>,
) -> Result<web::Json<MadeDrawn>, Problem> {
    let next = next_bike(&store, *id).await?;
    let view = next.made(&asked)?;
    let title = format!("Frame for {}", next.rider.name);
    let svg = frame_svg(&title, &view.made.frame, &view.made.dimensions, false);
    Ok(web::Json(MadeDrawn { view, svg }))
}

/// Writes a carried position down as a bike that was not ridden yet. Sent again, it is harmless.
#[utoipa::path(
    context_path = "/api", tag = "next", request_body = NewNext,
    responses((status = 200, body = bikes::BikeView), (status = 404, body = Problem), (status = 422, body = Problem))
)]
#[post("/riders/{id}/next/bikes")]
pub(crate) async fn keep(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    Body(new): Body<NewNext>,
) -> Result<HttpResponse, Problem> {
    let next = next_bike(&store, *id).await?;
    let bike = worked_out(move || Ok(next.new_bike(&new)?)).await?;
    store.create_bike(*id, &bike, Timestamp::now()).await?;
    bikes::view(&store, bike.id).await
}

/// The sheet of a bike a position was carried to.
async fn sheet_of(store: &Store, bike: Uuid) -> Result<NextSheet, Problem> {
    let rider = store.rider_of_bike(bike).await?;
    let rider = store.rider(rider).await?.noun;
    let house = store.house().await?.noun;
    let its = rider.bikes.iter().find(|one| one.id == bike);
    let its = its.ok_or(Declined::Unknown("bike"))?;
    Ok(NextSheet::of(&rider, &house, its)?)
}

/// A name a file may have anywhere.
fn file_name(sheet: &NextSheet, what: &str, end: &str) -> String {
    format!("{}-{what}.{end}", plain_name(&sheet.bike))
}

/// What the rider is given of a bike a position was carried to.
#[utoipa::path(context_path = "/api", tag = "next", responses((status = 200, body = NextSheet), (status = 404, body = Problem), (status = 409, body = Problem)))]
#[get("/bikes/{id}/next")]
pub(crate) async fn told(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<NextSheet>, Problem> {
    Ok(web::Json(sheet_of(&store, *id).await?))
}

/// The same as PDF, one page.
#[utoipa::path(
    context_path = "/api", tag = "next", params(SheetAsked),
    responses((status = 200, body = Vec<u8>, content_type = "application/pdf"), (status = 404, body = Problem), (status = 409, body = Problem))
)]
#[get("/bikes/{id}/next.pdf")]
pub(crate) async fn printed(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    asked: web::Query<SheetAsked>,
) -> Result<HttpResponse, Problem> {
    let sheet = sheet_of(&store, *id).await?;
    let paper = asked.paper();
    let name = file_name(&sheet, "next-bike", "pdf");
    let bytes = worked_out(move || Ok(next_pdf(&sheet, paper, &FONTS)?)).await?;
    Ok(attached(&name, "application/pdf").body(bytes))
}

/// What is not there of a frame that was chosen and not made.
fn not_made() -> Problem {
    Problem::new(
        actix_web::http::StatusCode::CONFLICT,
        "This frame was not made to measure".to_owned(),
    )
}

/// A frame made to measure, for its builder, as PDF.
#[utoipa::path(
    context_path = "/api", tag = "next", params(SheetAsked),
    responses((status = 200, body = Vec<u8>, content_type = "application/pdf"), (status = 404, body = Problem), (status = 409, body = Problem))
)]
#[get("/bikes/{id}/frame.pdf")]
pub(crate) async fn for_builder(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    asked: web::Query<SheetAsked>,
) -> Result<HttpResponse, Problem> {
    let sheet = sheet_of(&store, *id).await?;
    if sheet.made.is_none() {
        return Err(not_made());
    }
    let paper = asked.paper();
    let name = file_name(&sheet, "frame", "pdf");
    let bytes = worked_out(move || Ok(frame_pdf(&sheet, paper, &FONTS)?)).await?;
    Ok(attached(&name, "application/pdf").body(bytes))
}

/// A frame made to measure as a drawing of a kind.
async fn drawn(
    store: &Store,
    id: Uuid,
    (end, kind): (&str, &str),
    draw: impl Fn(&str, &Frame, &[Dimension]) -> String,
) -> Result<HttpResponse, Problem> {
    let sheet = sheet_of(store, id).await?;
    let builder = sheet.made.as_ref().ok_or_else(not_made)?;
    let title = format!("Frame for {}", sheet.rider);
    let text = draw(&title, &sheet.frame, &builder.dimensions);
    Ok(attached(&file_name(&sheet, "frame", end), kind).body(text))
}

/// The same as a drawing: SVG.
#[utoipa::path(
    context_path = "/api", tag = "next",
    responses((status = 200, body = String, content_type = "image/svg+xml"), (status = 404, body = Problem), (status = 409, body = Problem))
)]
#[get("/bikes/{id}/frame.svg")]
pub(crate) async fn drawing(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<HttpResponse, Problem> {
    drawn(&store, *id, ("svg", "image/svg+xml"), |title, frame, of| {
        frame_svg(title, frame, of, true)
    })
    .await
}

/// The same as DXF of release 12, to scale in millimetres.
#[utoipa::path(
    context_path = "/api", tag = "next",
    responses((status = 200, body = String, content_type = "image/vnd.dxf"), (status = 404, body = Problem), (status = 409, body = Problem))
)]
#[get("/bikes/{id}/frame.dxf")]
pub(crate) async fn dxf(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<HttpResponse, Problem> {
    drawn(&store, *id, ("dxf", "image/vnd.dxf"), frame_dxf).await
}

/// The frame of any bike as a line of the library's CSV, which it reads back.
#[utoipa::path(
    context_path = "/api", tag = "next",
    responses((status = 200, body = String, content_type = "text/csv"), (status = 404, body = Problem))
)]
#[get("/bikes/{id}/frame.csv")]
pub(crate) async fn line(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<HttpResponse, Problem> {
    let bike = store.bike(*id).await?.noun;
    let frame = LibraryFrame {
        id: bike.id,
        name: bike.name,
        kind: bike.kind,
        frame: bike.frame,
    };
    Ok(attached("frame.csv", CSV).body(write_frames(&[frame])?))
}

/// Somebody's table of frames.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct FrameTable {
    /// CSV as it is.
    text: String,
    /// How its columns are read; guessed from the header when left out.
    #[serde(default)]
    map: Option<FrameMap>,
    /// Whether its frames go into the library: all of them, or none while a row is refused or a number missing.
    #[serde(default)]
    keep: bool,
}

/// Reads somebody's table of frames, by a map of its columns; what does not read is named by line and column.
#[utoipa::path(
    context_path = "/api", tag = "next", request_body = FrameTable,
    responses((status = 200, body = FramesRead), (status = 409, body = Problem), (status = 422, body = Problem))
)]
#[post("/frames/read")]
pub(crate) async fn read_table(
    store: web::Data<Store>,
    Body(table): Body<FrameTable>,
) -> Result<web::Json<FramesRead>, Problem> {
    let read = read_frames_by(&table.text, table.map.as_ref(), Uuid::now_v7)?;
    if table.keep {
        if !read.is_whole() {
            let refused =
                (read.refused.iter()).map(|row| Refusal::new(row.at.clone(), row.detail.clone()));
            let missing = (read.missing.iter())
                .map(|of| Refusal::new("line 1", format!("{} is missing", of.spec().label)));
            accept(refused.chain(missing).collect())?;
        }
        store.add_frames(&read.frames, Timestamp::now()).await?;
    }
    Ok(web::Json(read))
}
