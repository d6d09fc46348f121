//! Sessions: one fit of one bike.

use super::extract::{Body, IfMatch, accept, given, versioned_json};
use super::load::{bench, bench_at};
use super::riders::NewReading;
use crate::Problem;
use actix_web::{HttpResponse, get, patch, post, put, web};
use jiff::Timestamp;
use jiff::civil::Date;
use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;
use wedge_bench::{SessionView, finishes, opened};
use wedge_core::bike::HandPlace;
use wedge_core::measure::Conventions;
use wedge_core::position::Position;
use wedge_core::rider::Effort;
use wedge_core::work::Station;
use wedge_files::{ReadingRecord, SessionState, SetupRecord};
use wedge_store::{SessionEdit, Store};

/// A fit to open.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewSession {
    /// UUIDv7, made by the client: sending it again is harmless.
    id: Uuid,
    /// The day where the studio is.
    #[schema(value_type = String, format = Date)]
    day: Date,
}

/// Opens a fit of a bike, from where its last fit left it.
#[utoipa::path(
    context_path = "/api", tag = "sessions", request_body = NewSession,
    responses((status = 200, body = SessionView), (status = 409, body = Problem))
)]
#[post("/bikes/{id}/sessions")]
pub(crate) async fn create(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    Body(new): Body<NewSession>,
) -> Result<HttpResponse, Problem> {
    let bike = store.bike(*id).await?.noun;
    let rider = store.rider(store.rider_of_bike(*id).await?).await?.noun;
    let house = store.house().await?.noun;
    let session = opened(new.id, new.day, &rider, &bike, &house);
    store
        .open_session(bike.id, &session, Timestamp::now())
        .await?;
    view(&store, new.id).await
}

/// A session with everything the board shows.
#[utoipa::path(context_path = "/api", tag = "sessions", responses((status = 200, body = SessionView), (status = 404, body = Problem)))]
#[get("/sessions/{id}")]
pub(crate) async fn read(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<HttpResponse, Problem> {
    view(&store, *id).await
}

pub(crate) async fn view(store: &Store, id: Uuid) -> Result<HttpResponse, Problem> {
    let draft = store.draft(id).await?;
    let draft = draft.and_then(|body| serde_json::from_str(&body).ok());
    let (bench, versions) = bench_at(store, id).await?;
    let view = bench.view(versions, draft)?;
    Ok(versioned_json(view.to_json()?, versions.session))
}

/// What to change of an open session.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct SessionChange {
    #[serde(default)]
    station: Option<Station>,
    #[serde(default)]
    conventions: Option<Conventions>,
    #[serde(default)]
    effort: Option<Effort>,
    #[serde(default)]
    hands: Option<HandPlace>,
    /// When the rider is to come back; null takes the day away.
    #[serde(default, deserialize_with = "given")]
    #[schema(value_type = Option<String>, format = Date)]
    #[expect(
        clippy::option_option,
        reason = "left out, null and a day are three things"
    )]
    follow_up: Option<Option<Date>>,
}

/// Moves along the way, or changes how things are read.
#[utoipa::path(
    context_path = "/api", tag = "sessions", request_body = SessionChange,
    params(("If-Match" = String, Header, description = "The version it was read at")),
    responses((status = 200, body = SessionView), (status = 412, body = Problem), (status = 422, body = Problem))
)]
#[patch("/sessions/{id}")]
pub(crate) async fn edit(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    IfMatch(at): IfMatch,
    Body(change): Body<SessionChange>,
) -> Result<HttpResponse, Problem> {
    let mut errors = (change.conventions)
        .map(|c| c.refusals("/conventions"))
        .unwrap_or_default();
    errors.extend(change.effort.iter().flat_map(|e| e.refusals("/effort")));
    if change.station.is_some() || change.hands.is_some() {
        let bench = bench(&store, *id).await?;
        if let Some(station) = change.station {
            bench.may_stand_at(station)?;
        }
        if let Some(place) = change.hands {
            errors.extend(bench.hands_refusal(place)?);
        }
    }
    accept(errors)?;
    let edit = SessionEdit {
        station: change.station,
        conventions: change.conventions,
        effort: change.effort,
        hands: change.hands,
        follow_up: change.follow_up,
    };
    store.edit_session(*id, &edit, at).await?;
    view(&store, *id).await
}

/// Appends a reading of the bike. Before the bike as found is closed it belongs to that; afterwards it re-measures
/// the bike on the bench.
#[utoipa::path(
    context_path = "/api", tag = "sessions", request_body = NewReading,
    params(("If-Match" = String, Header, description = "The version it was read at")),
    responses((status = 200, body = SessionView), (status = 412, body = Problem), (status = 422, body = Problem))
)]
#[post("/sessions/{id}/readings")]
pub(crate) async fn add_reading(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    IfMatch(at): IfMatch,
    Body(new): Body<NewReading>,
) -> Result<HttpResponse, Problem> {
    let now = Timestamp::now();
    let bench = bench(&store, *id).await?;
    let (record, settled) = bench.read_off(ReadingRecord::new(new.id, now, new.reading()))?;
    let setup = settled.map(|setup| SetupRecord {
        id: Uuid::now_v7(),
        recorded_at: now,
        setup,
    });
    store
        .add_session_reading(*id, &record, setup.as_ref(), at)
        .await?;
    view(&store, *id).await
}

/// Closes the bike as found: from here on, stepping a dimension foresees.
#[utoipa::path(
    context_path = "/api", tag = "sessions",
    params(("If-Match" = String, Header, description = "The version it was read at")),
    responses((status = 200, body = SessionView), (status = 409, body = Problem), (status = 412, body = Problem))
)]
#[post("/sessions/{id}/found")]
pub(crate) async fn close_found(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    IfMatch(at): IfMatch,
) -> Result<HttpResponse, Problem> {
    let bench = bench(&store, *id).await?;
    bench.go_on()?;
    if bench.session.found().is_none() {
        let found = SetupRecord {
            id: Uuid::now_v7(),
            recorded_at: Timestamp::now(),
            setup: bench.closed()?,
        };
        store
            .close_found(*id, &found, Station::FirstLook, at)
            .await?;
    }
    view(&store, *id).await
}

/// Saves what is being typed. The body is the interface's own.
#[utoipa::path(
    context_path = "/api", tag = "sessions", request_body(content = Object),
    responses((status = 204), (status = 404, body = Problem))
)]
#[put("/sessions/{id}/draft")]
pub(crate) async fn save_draft(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    Body(draft): Body<serde_json::Value>,
) -> Result<HttpResponse, Problem> {
    store
        .save_draft(*id, &draft.to_string(), Timestamp::now())
        .await?;
    Ok(HttpResponse::NoContent().finish())
}

/// Finishes a fit for good.
#[utoipa::path(
    context_path = "/api", tag = "sessions",
    params(("If-Match" = String, Header, description = "The version it was read at")),
    responses((status = 200, body = SessionView), (status = 409, body = Problem), (status = 412, body = Problem))
)]
#[post("/sessions/{id}/finish")]
pub(crate) async fn finish(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    IfMatch(at): IfMatch,
) -> Result<HttpResponse, Problem> {
    let session = store.session(*id).await?.noun;
    if session.state == SessionState::Open {
        finishes(&session)?;
        store.finish_session(*id, at).await?;
    }
    view(&store, *id).await
}

/// The position a fit left, or has now, to draw.
#[utoipa::path(
    context_path = "/api", tag = "riders",
    responses((status = 200, body = Position), (status = 404, body = Problem), (status = 422, body = Problem))
)]
#[get("/sessions/{id}/position")]
pub(crate) async fn position(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<Position>, Problem> {
    Ok(web::Json(bench(&store, *id).await?.position()?))
}
