//! Riders and the readings of their bodies.

use super::extract::{Body, IfMatch, accept, given, name, versioned};
use super::load::bench;
use crate::Problem;
use actix_web::http::StatusCode;
use actix_web::{HttpResponse, delete, get, patch, post, web};
use jiff::civil::Date;
use jiff::{Timestamp, Zoned};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;
use wedge_bench::{BikeInYears, FollowUp, Years, bikes, years};
use wedge_core::measure::{Convention, Method, Quantity, Reading, SitReference};
use wedge_core::position::Position;
use wedge_core::rider::Lengths;
use wedge_core::units::Side;
use wedge_core::work::Station;
use wedge_files::{ReadingRecord, Rider, Trial, body_refusals, refuse_name};
use wedge_store::{OpenFit, RiderEdit, Store, Versioned};

/// Who to look for.
#[derive(Deserialize, IntoParams)]
pub(crate) struct Find {
    /// Letters of the name.
    #[serde(default)]
    find: String,
    /// Those put away as well.
    #[serde(default)]
    archived: bool,
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
    /// When the rider is to come back.
    follow_up: Option<FollowUp>,
    /// Whether the rider was put away.
    archived: bool,
    /// Whether he is a stand-in's: nobody is there.
    simulated: bool,
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
/// The most letters that are looked for: a name has no more.
const MOST_LETTERS: usize = 200;

/// Riders, open fits first.
#[utoipa::path(context_path = "/api", tag = "riders", params(Find), responses((status = 200, body = Vec<RiderLine>), (status = 422, body = Problem)))]
#[get("/riders")]
pub(crate) async fn list(
    store: web::Data<Store>,
    query: web::Query<Find>,
) -> Result<web::Json<Vec<RiderLine>>, Problem> {
    if query.find.chars().count() > MOST_LETTERS {
        let words = format!("Look for up to {MOST_LETTERS} letters");
        return Err(Problem::field("/find", words));
    }
    let riders = store
        .riders(query.find.trim(), query.archived, MOST)
        .await?;
    let today = Zoned::now().date();
    let mut lines = Vec::with_capacity(riders.len());
    for rider in riders {
        let open = match rider.open {
            Some(open) => open_fit(&store, open).await?,
            None => None,
        };
        lines.push(RiderLine {
            id: rider.id,
            name: rider.name,
            bikes: rider.bikes,
            last_day: rider.last_day,
            open,
            follow_up: rider.follow_up.map(|day| FollowUp::of(day, today)),
            archived: rider.archived,
            simulated: rider.simulated,
        });
    }
    Ok(web::Json(lines))
}

/// The fit as the room shows it; none of a rider whose record does not read, or who was deleted just now.
async fn open_fit(store: &Store, open: OpenFit) -> Result<Option<OpenFitLine>, Problem> {
    let bench = match bench(store, open.session_id).await {
        Err(problem) if problem.is_of_one() => return Ok(None),
        bench => bench?,
    };
    // A fit that cannot be drawn is still a fit.
    let position = bench.position().ok();
    let words = bench.session.trials.iter().rev().find_map(Trial::words);
    Ok(Some(OpenFitLine {
        session_id: open.session_id,
        bike: open.bike,
        station: open.station,
        number: open.number,
        words: words.map(str::to_owned),
        position,
    }))
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
    let mut errors = Vec::from_iter(refuse_name(&new.name, "/name"));
    errors.extend(body_refusals(&readings));
    accept(errors)?;
    let rider = Rider::new(new.id, new.name.trim(), readings);
    store.create_rider(&rider, now).await?;
    view(&store, new.id).await
}

/// A rider without what is in the fits.
#[derive(Serialize, ToSchema)]
pub(crate) struct RiderInYears {
    id: Uuid,
    name: String,
    #[schema(value_type = Option<String>, format = Date)]
    born: Option<Date>,
    #[schema(value_type = Option<String>, format = DateTime)]
    archived_at: Option<Timestamp>,
    /// Whether he is a stand-in's: nobody is there.
    simulated: bool,
    /// Whether the last answer was that pictures may be kept.
    pictured: bool,
    readings: Vec<ReadingRecord>,
    bikes: Vec<BikeInYears>,
}

/// A rider with the lengths the linkage uses, and the years.
#[derive(Serialize, ToSchema)]
pub(crate) struct RiderView {
    version: i64,
    rider: RiderInYears,
    /// Measured or estimated; none until stature is known.
    lengths: Option<Lengths>,
    years: Years,
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
    } = store.rider_in_years(id).await?;
    let house = store.house().await?.noun;
    let measured = rider.measured();
    Ok(versioned(
        &RiderView {
            version,
            lengths: measured.map(|measured| measured.lengths()),
            years: years(&rider, &house, &Zoned::now()),
            rider: RiderInYears {
                id: rider.id,
                bikes: bikes(&rider, &house),
                pictured: rider.consent().is_some_and(|last| last.pictures),
                simulated: rider.simulated.is_some(),
                name: rider.name,
                born: rider.born,
                archived_at: rider.archived_at,
                readings: rider.readings,
            },
        },
        version,
    ))
}

/// What to correct of a rider.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct RiderCorrection {
    #[serde(default)]
    name: Option<String>,
    /// The day of birth; null takes it away.
    #[serde(default, deserialize_with = "given")]
    #[schema(value_type = Option<String>, format = Date)]
    #[expect(
        clippy::option_option,
        reason = "left out, null and a day are three things"
    )]
    born: Option<Option<Date>>,
    /// Put away from the room, or brought back.
    #[serde(default)]
    archived: Option<bool>,
}

/// The earliest day of birth taken seriously.
const EARLIEST: Date = jiff::civil::date(1900, 1, 1);

/// Corrects a rider's name or day of birth, puts one away or brings one back.
#[utoipa::path(
    context_path = "/api", tag = "riders", request_body = RiderCorrection,
    params(("If-Match" = String, Header, description = "The version it was read at")),
    responses((status = 200, body = RiderView), (status = 412, body = Problem), (status = 422, body = Problem))
)]
#[patch("/riders/{id}")]
pub(crate) async fn edit(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    IfMatch(at): IfMatch,
    Body(correction): Body<RiderCorrection>,
) -> Result<HttpResponse, Problem> {
    if let Some(Some(born)) = correction.born
        && !(EARLIEST..=Zoned::now().date()).contains(&born)
    {
        return Err(Problem::field("/born", "A day of birth lies in the past"));
    }
    let edit = RiderEdit {
        name: correction.name.as_deref().map(name).transpose()?,
        born: correction.born,
        archived_at: correction.archived.map(|away| away.then(Timestamp::now)),
    };
    store.edit_rider(*id, &edit, at).await?;
    view(&store, *id).await
}

/// Deletes a rider with everything on record, for good.
#[utoipa::path(
    context_path = "/api", tag = "riders",
    params(("If-Match" = String, Header, description = "The version it was read at")),
    responses((status = 200, body = RiderGone), (status = 404, body = Problem), (status = 412, body = Problem))
)]
#[delete("/riders/{id}")]
pub(crate) async fn delete(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    IfMatch(at): IfMatch,
) -> Result<HttpResponse, Problem> {
    let deleted = store.delete_rider(*id, at).await?;
    let mut words = vec!["Deleted.".to_owned()];
    if !deleted.log_emptied {
        words.push(
            "Somebody else is reading the record: a copy may remain in its log until they and Wedge close.".to_owned(),
        );
    }
    if deleted.copies > 0 {
        words.push(format!(
            "The {} kept copies of the record may still hold the rider: each goes when a newer one takes its place, or \
             delete them in {}.",
            deleted.copies,
            store.copies_folder().display()
        ));
    }
    Ok(HttpResponse::Ok().json(RiderGone {
        words: words.join(" "),
    }))
}

/// A rider that is no more.
#[derive(Serialize, ToSchema)]
pub(crate) struct RiderGone {
    /// What is gone and what is left.
    words: String,
}

/// A reading to append.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewReading {
    /// UUIDv7, made by the client: sending it again is harmless.
    pub(crate) id: Uuid,
    /// What was measured.
    quantity: Quantity,
    /// The value, in the quantity's unit (or the convention's, where that is an angle).
    value: f64,
    /// The convention, for quantities that have several; the house's when left out.
    #[serde(default)]
    convention: Option<Convention>,
    /// Which point of the saddle it went to; the house's when left out.
    #[serde(default)]
    sit_reference: Option<SitReference>,
    /// The side, for quantities the body or bike has twice; both when left out.
    #[serde(default)]
    side: Option<Side>,
    /// How it was taken.
    #[serde(default)]
    method: Method,
}

impl NewReading {
    /// What was read.
    pub(crate) fn reading(&self) -> Reading {
        Reading {
            quantity: self.quantity,
            value: self.value,
            convention: self.convention,
            sit_reference: self.sit_reference,
            side: self.side,
            method: self.method,
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
    accept(new.reading().refusals(""))?;
    let record = ReadingRecord::new(new.id, Timestamp::now(), new.reading());
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
