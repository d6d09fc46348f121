//! Sessions: one fit of one bike.

use super::extract::{Body, IfMatch, given, versioned};
use super::riders::NewReading;
use super::view::{Bench, SessionView};
use crate::Problem;
use actix_web::http::StatusCode;
use actix_web::{HttpResponse, get, patch, post, put, web};
use jiff::Timestamp;
use jiff::civil::Date;
use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;
use wedge_core::bike::HandPlace;
use wedge_core::intake::Intake;
use wedge_core::measure::Conventions;
use wedge_core::position::fitted;
use wedge_core::rider::Effort;
use wedge_core::work::Station;
use wedge_files::{Session, SessionState, SetupRecord};
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
    // What is asked anew at every visit is not carried over.
    let intake = Intake {
        flags: Vec::new(),
        flags_asked: false,
        go_on: None,
        ..rider.last_intake().cloned().unwrap_or_default()
    };
    let last = bike.sessions.iter().rev().find(|s| s.id != new.id);
    let session = Session {
        id: new.id,
        number: last.map_or(1, |s| s.number + 1),
        day: new.day,
        state: SessionState::Open,
        station: Station::Intake,
        conventions: last.map_or_else(
            || fitted(&house.conventions, &bike.setup),
            |s| s.conventions,
        ),
        effort: last.and_then(|s| s.effort),
        hands: last.and_then(|s| s.hands),
        intake,
        shoes: last.map(|s| s.shoes.clone()).unwrap_or_default(),
        saddle: last.map(|s| s.saddle).unwrap_or_default(),
        follow_up: None,
        base: last.and_then(Session::now).copied().unwrap_or(bike.setup),
        readings: Vec::new(),
        setups: Vec::new(),
        now: None,
        looks: Vec::new(),
        calibrations: Vec::new(),
        trials: Vec::new(),
        runs: Vec::new(),
    };
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
    let bench = Bench::read(store, id).await?;
    let version = bench.version;
    Ok(versioned(&bench.view(draft.as_deref())?, version))
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
    let mut errors = change
        .conventions
        .map(|c| c.refusals("/conventions"))
        .unwrap_or_default();
    errors.extend(
        change
            .effort
            .map(|e| e.refusals("/effort"))
            .unwrap_or_default(),
    );
    if change
        .station
        .is_some_and(|station| !matches!(station, Station::Intake | Station::HandOut))
    {
        Bench::read(&store, *id).await?.go_on()?;
    }
    if let Some(place) = change.hands {
        let bar = Bench::read(&store, *id).await?.now()?.bar;
        errors.extend(bar.refuse_place(place, "/hands"));
    }
    if !errors.is_empty() {
        return Err(Problem::refused(errors));
    }
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
    let mut record = new.record(now)?;
    let bench = Bench::read(&store, *id).await?;
    let quantity = record.reading.quantity;
    if !bench.session.base.holds(quantity) && !quantity.is_of_the_hand() {
        return Err(Problem::field(
            "/quantity",
            "That is not measured on this bike",
        ));
    }
    // The convention is part of the reading, so it is written down even when it is the chosen one.
    let chosen = fitted(&bench.session.conventions, &bench.now()?);
    let reading = &mut record.reading;
    reading.convention = reading.convention.or(chosen.of(quantity));
    if quantity.goes_to_the_saddle() {
        reading.sit_reference = reading.sit_reference.or(Some(chosen.sit_reference));
    }
    let setup = match bench.session.now() {
        None => {
            bench.settled(bench.session.base, bench.readings().chain([record.reading]))?;
            None
        }
        Some(on_bench) => Some(SetupRecord {
            id: Uuid::now_v7(),
            recorded_at: now,
            setup: bench.settled(*on_bench, [record.reading])?,
        }),
    };
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
    let bench = Bench::read(&store, *id).await?;
    bench.go_on()?;
    if bench.session.found().is_none() {
        let missing = bench.unknown();
        if !missing.is_empty() {
            let labels: Vec<_> = missing
                .iter()
                .map(|q| q.spec().label.to_lowercase())
                .collect();
            return Err(Problem::new(
                StatusCode::CONFLICT,
                format!("Tape the {} first", labels.join(" and the ")),
            ));
        }
        let found = SetupRecord {
            id: Uuid::now_v7(),
            recorded_at: Timestamp::now(),
            setup: bench.found()?,
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
        let why = if session.intake.is_stopped() {
            Some("A red flag stops this fit: write the reason to go on, or leave it open")
        } else if session.found().is_none() {
            Some("The bike as found is not closed yet")
        } else if session.undecided().is_some() {
            Some("A trial is on the bench: keep it or put it back first")
        } else if session.run().is_some() {
            Some("A protocol is going on: go on with it, or end it first")
        } else {
            None
        };
        if let Some(why) = why {
            return Err(Problem::new(StatusCode::CONFLICT, why));
        }
        store.finish_session(*id, at).await?;
    }
    view(&store, *id).await
}
