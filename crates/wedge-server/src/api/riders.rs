//! Riders and the readings of their bodies.

use super::extract::{Body, IfMatch, name, versioned};
use super::view::{Bench, session_input};
use crate::Problem;
use actix_web::http::StatusCode;
use actix_web::{HttpResponse, get, patch, post, web};
use jiff::Timestamp;
use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;
use wedge_core::foresee::{self, Position};
use wedge_core::measure::{Quantity, Reading, Refusal};
use wedge_core::rider::Lengths;
use wedge_core::work::Station;
use wedge_files::{ReadingRecord, Rider, Trial, body_of};
use wedge_store::{OpenFit, Store, Versioned};

/// Who to look for.
#[derive(Deserialize, IntoParams)]
pub(crate) struct Find {
    /// Letters of the name.
    #[serde(default)]
    find: String,
}

/// A rider as the room shows one.
#[derive(Serialize, ToSchema)]
pub(crate) struct RiderLine {
    id: Uuid,
    name: String,
    bikes: i64,
    /// The day of the last fit.
    last_day: Option<String>,
    /// The fit that is going on.
    open: Option<OpenFitLine>,
}

/// A fit that is going on.
#[derive(Serialize, ToSchema)]
pub(crate) struct OpenFitLine {
    session_id: Uuid,
    bike: String,
    station: Station,
    number: i64,
    /// What the rider said last.
    words: Option<String>,
    /// As it stands now, to draw; none while the rider cannot be drawn.
    position: Option<Position>,
}

/// The most riders one list shows; finding narrows it.
const MOST: i64 = 200;

/// Riders, open fits first.
#[utoipa::path(context_path = "/api", tag = "riders", params(Find), responses((status = 200, body = Vec<RiderLine>)))]
#[get("/riders")]
pub(crate) async fn list(
    store: web::Data<Store>,
    query: web::Query<Find>,
) -> Result<web::Json<Vec<RiderLine>>, Problem> {
    let riders = store.riders(query.find.trim(), MOST).await?;
    let mut lines = Vec::with_capacity(riders.len());
    for rider in riders {
        let open = match rider.open {
            Some(open) => Some(open_fit(&store, open).await?),
            None => None,
        };
        lines.push(RiderLine {
            id: rider.id,
            name: rider.name,
            bikes: rider.bikes,
            last_day: rider.last_day,
            open,
        });
    }
    Ok(web::Json(lines))
}

async fn open_fit(store: &Store, open: OpenFit) -> Result<OpenFitLine, Problem> {
    let bench = Bench::read(store, open.session_id).await?;
    // A fit that cannot be drawn is still a fit.
    let input = bench.now().and_then(|setup| bench.input(setup));
    let position = input.ok().and_then(|input| foresee::position(&input).ok());
    let words = bench.session.trials.iter().rev().find_map(Trial::words);
    Ok(OpenFitLine {
        session_id: open.session_id,
        bike: open.bike,
        station: open.station,
        number: open.number,
        words: words.map(str::to_owned),
        position,
    })
}

/// A new rider.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewRider {
    /// UUIDv7, made by the client: sending it again is harmless.
    id: Uuid,
    name: String,
    stature_mm: f64,
    #[serde(default)]
    mass_kg: Option<f64>,
    #[serde(default)]
    inseam_mm: Option<f64>,
}

/// Writes down a new rider.
#[utoipa::path(
    context_path = "/api", tag = "riders", request_body = NewRider,
    responses((status = 200, body = RiderView), (status = 422, body = Problem))
)]
#[post("/riders")]
pub(crate) async fn create(
    store: web::Data<Store>,
    Body(new): Body<NewRider>,
) -> Result<HttpResponse, Problem> {
    let now = Timestamp::now();
    let readings: Vec<ReadingRecord> = [
        (Quantity::Stature, Some(new.stature_mm)),
        (Quantity::Mass, new.mass_kg),
        (Quantity::Inseam, new.inseam_mm),
    ]
    .into_iter()
    .filter_map(|(quantity, value)| {
        Some(ReadingRecord::new(
            Uuid::now_v7(),
            now,
            Reading::new(quantity, value?),
        ))
    })
    .collect();
    let mut errors: Vec<Refusal> = name(&new.name)
        .err()
        .into_iter()
        .flat_map(|p| p.errors)
        .collect();
    errors.extend(body_refusals(&readings));
    if !errors.is_empty() {
        return Err(Problem::refused(errors));
    }
    store
        .create_rider(new.id, new.name.trim(), &readings, now)
        .await?;
    view(&store, new.id).await
}

/// What cannot be right of a body as far as it is read, each at its quantity's key.
fn body_refusals(readings: &[ReadingRecord]) -> Vec<Refusal> {
    let Some(rider) = body_of(readings) else {
        return vec![Refusal::new("/stature_mm", "A rider needs a stature")];
    };
    let mut errors = rider.body.refusals("");
    if errors.is_empty() {
        errors.extend(rider.body.proportion_refusal(""));
    }
    errors
}

/// Where one fit left a bike, or has it now.
#[derive(Serialize, ToSchema)]
pub(crate) struct BikePosition {
    bike_id: Uuid,
    session_id: Uuid,
    number: i64,
    #[schema(value_type = String, format = Date)]
    day: Date,
    position: Position,
}

/// A rider with the lengths the linkage uses, and where each fit left each bike.
#[derive(Serialize, ToSchema)]
pub(crate) struct RiderView {
    version: i64,
    rider: Rider,
    /// Measured or estimated; none until stature is known.
    lengths: Option<Lengths>,
    /// The position of every fit whose bike as found is closed, bike by bike, the first fit first.
    positions: Vec<BikePosition>,
}

/// A rider with everything on record.
#[utoipa::path(context_path = "/api", tag = "riders", responses((status = 200, body = RiderView), (status = 404, body = Problem)))]
#[get("/riders/{id}")]
pub(crate) async fn read(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<HttpResponse, Problem> {
    view(&store, *id).await
}

async fn view(store: &Store, id: Uuid) -> Result<HttpResponse, Problem> {
    let Versioned {
        noun: rider,
        version,
    } = store.rider(id).await?;
    let measured = rider.measured();
    let lengths = measured.map(|measured| measured.lengths());
    let positions = rider
        .bikes
        .iter()
        .flat_map(|bike| bike.sessions.iter().map(move |session| (bike, session)))
        .filter_map(|(bike, session)| {
            let input = session_input(&rider, bike, session, *session.now()?)?;
            Some(BikePosition {
                bike_id: bike.id,
                session_id: session.id,
                number: session.number,
                day: session.day,
                position: foresee::position(&input).ok()?,
            })
        })
        .collect();
    Ok(versioned(
        &RiderView {
            version,
            rider,
            lengths,
            positions,
        },
        version,
    ))
}

/// Another name for a rider.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct RiderEdit {
    name: String,
}

/// Gives a rider another name.
#[utoipa::path(
    context_path = "/api", tag = "riders", request_body = RiderEdit,
    params(("If-Match" = String, Header, description = "The version it was read at")),
    responses((status = 200, body = RiderView), (status = 412, body = Problem), (status = 422, body = Problem))
)]
#[patch("/riders/{id}")]
pub(crate) async fn rename(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    IfMatch(at): IfMatch,
    Body(edit): Body<RiderEdit>,
) -> Result<HttpResponse, Problem> {
    store.rename_rider(*id, &name(&edit.name)?, at).await?;
    view(&store, *id).await
}

/// A reading to append.
#[derive(Deserialize, ToSchema)]
pub(crate) struct NewReading {
    /// UUIDv7, made by the client: sending it again is harmless.
    pub(crate) id: Uuid,
    /// What was read.
    #[serde(flatten)]
    pub(crate) reading: Reading,
}

impl NewReading {
    /// The reading with its place in time, refused when it cannot be right.
    pub(crate) fn record(&self, now: Timestamp) -> Result<ReadingRecord, Problem> {
        let refusals = self.reading.refusals("");
        if refusals.is_empty() {
            Ok(ReadingRecord::new(self.id, now, self.reading))
        } else {
            Err(refusals.into())
        }
    }
}

/// Appends a reading of the body, beside those of the same visit.
#[utoipa::path(
    context_path = "/api", tag = "riders", request_body = NewReading,
    params(("If-Match" = String, Header, description = "The version it was read at")),
    responses((status = 200, body = RiderView), (status = 412, body = Problem), (status = 422, body = Problem))
)]
#[post("/riders/{id}/readings")]
pub(crate) async fn add_reading(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    IfMatch(at): IfMatch,
    Body(new): Body<NewReading>,
) -> Result<HttpResponse, Problem> {
    let record = new.record(Timestamp::now())?;
    let mut readings = store.rider(*id).await?.noun.readings;
    readings.push(record.clone());
    // A pair of readings that cannot belong to one body is refused at the one being typed.
    if let Some(refusal) = body_refusals(&readings).into_iter().next() {
        return Err(Problem::field("/value", refusal.detail));
    }
    store.add_body_reading(*id, &record, at).await?;
    view(&store, *id).await
}

/// Sets a reading of the body aside: it stays on record and counts no more. The last one of stature stays.
#[utoipa::path(
    context_path = "/api", tag = "riders",
    params(("If-Match" = String, Header, description = "The version it was read at")),
    responses(
        (status = 200, body = RiderView), (status = 404, body = Problem), (status = 409, body = Problem),
        (status = 412, body = Problem)
    )
)]
#[post("/riders/{id}/readings/{reading}/aside")]
pub(crate) async fn set_reading_aside(
    store: web::Data<Store>,
    path: web::Path<(Uuid, Uuid)>,
    IfMatch(at): IfMatch,
) -> Result<HttpResponse, Problem> {
    let (id, reading) = path.into_inner();
    let mut readings = store.rider(id).await?.noun.readings;
    readings.retain(|r| r.id != reading);
    if let Some(refusal) = body_refusals(&readings).into_iter().next() {
        return Err(Problem::new(StatusCode::CONFLICT, refusal.detail));
    }
    store
        .set_body_reading_aside(id, reading, Timestamp::now(), at)
        .await?;
    view(&store, id).await
}
