//! The rider's ledger: rides read back and written down, the card the rider takes along, and that card on the rider's own phone.

use super::extract::{Body, accept};
use super::files::{attached, text_of};
use super::handout::{FONTS, SheetAsked};
use super::lan::drawn;
use super::load::{bench, worked_out};
use crate::Problem;
use crate::lan::{Lan, token};
use actix_web::http::{StatusCode, header};
use actix_web::{HttpResponse, delete, get, post, web};
use base64::Engine as _;
use base64::engine::general_purpose::STANDARD;
use jiff::civil::Date;
use jiff::tz::TimeZone;
use jiff::{SignedDuration, Timestamp, Zoned};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;
use wedge_bench::{Bench, LedgerView};
use wedge_core::measure::Refusal;
use wedge_files::{AfterBody, AfterEntry, LedgerFile, LedgerRide, read_recorded};
use wedge_print::{card_html, card_pdf};
use wedge_store::Store;

/// How long a link to a card holds.
const LINK_HOLDS: SignedDuration = SignedDuration::from_hours(7 * 24);

/// The ledger of a fit.
#[utoipa::path(context_path = "/api", tag = "ledger", responses((status = 200, body = LedgerView)))]
#[get("/sessions/{id}/ledger")]
pub(crate) async fn read(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<LedgerView>, Problem> {
    let bench = bench(&store, *id).await?;
    let view = worked_out(move || Ok(bench.ledger(Zoned::now().date()))).await?;
    Ok(web::Json(view))
}

/// The ledger of a fit as `wedge.ledger/1`.
#[utoipa::path(context_path = "/api", tag = "ledger", responses((status = 200, body = LedgerFile)))]
#[get("/sessions/{id}/ledger.json")]
pub(crate) async fn export(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<HttpResponse, Problem> {
    let bench = bench(&store, *id).await?;
    let rides = bench.session.rides().into_iter().cloned().collect();
    let text = LedgerFile::new(*id, rides).write()?;
    Ok(attached("ledger.json", "application/json").body(text))
}

/// What a text that is read back does not say itself.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
#[serde(deny_unknown_fields)]
pub(crate) struct ReadAs {
    /// Where the recorded rides were, by the rider's name for it.
    #[serde(default)]
    circuit: String,
    /// The day of a CSV that counts only seconds.
    #[param(value_type = Option<String>, format = Date)]
    day: Option<Date>,
}

/// What was read back; nothing is written down.
#[derive(Serialize, ToSchema)]
pub(crate) struct ReadBack {
    /// Rides that are new, or other than on record.
    rides: Vec<LedgerRide>,
    /// Each of them in a line.
    lines: Vec<String>,
    /// How many are on record as they are.
    known: usize,
    /// How many readings of a ride computer were out of any range, and were left out.
    left_out: usize,
}

/// Reads what came back: a card's file or its text out of a message, or a ride computer's TCX, GPX or CSV. A bad one is refused
/// with its line or field, and nothing of it is kept.
#[utoipa::path(
    context_path = "/api", tag = "ledger", params(ReadAs), request_body(content = String, content_type = "text/plain"),
    responses((status = 200, body = ReadBack), (status = 422, body = Problem))
)]
#[post("/sessions/{id}/ledger/read")]
pub(crate) async fn read_back(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    said: web::Query<ReadAs>,
    payload: web::Payload,
) -> Result<web::Json<ReadBack>, Problem> {
    let text = text_of(payload).await?;
    let bench = bench(&store, *id).await?;
    let said = said.into_inner();
    let back = worked_out(move || {
        let (told, left_out) = if text.contains("wedge.ledger/") {
            (rides_of(&bench, &text)?, 0)
        } else {
            recorded_in(&bench, &text, &said)?
        };
        let all = told.len();
        let rides = bench.unread(told);
        Ok(ReadBack {
            known: all - rides.len(),
            lines: rides.iter().map(Bench::ride_line).collect(),
            rides,
            left_out,
        })
    })
    .await?;
    Ok(web::Json(back))
}

/// The rides a ride computer wrote, and how many of its readings were left out.
fn recorded_in(
    bench: &Bench,
    text: &str,
    said: &ReadAs,
) -> Result<(Vec<LedgerRide>, usize), Problem> {
    let recorded = read_recorded(text, &TimeZone::system(), said.day)?;
    let rides: Vec<LedgerRide> = (recorded.iter())
        .map(|one| bench.with_recorded(one, said.circuit.trim(), Uuid::now_v7()))
        .collect();
    accept(refusals(&rides))?;
    Ok((rides, recorded.iter().map(|one| one.left_out).sum()))
}

/// The rides of a card's text, which is one of this fit.
fn rides_of(bench: &Bench, text: &str) -> Result<Vec<LedgerRide>, Problem> {
    let file = LedgerFile::read(text)?;
    if file.fit != bench.session.id {
        return Err(Problem::field("fit", "This card is of another fit"));
    }
    accept(refusals(&file.rides))?;
    Ok(file.rides)
}

/// What of rides cannot be accepted: also that they have not been ridden yet.
fn refusals(rides: &[LedgerRide]) -> Vec<Refusal> {
    // Where the rider is it may be tomorrow already.
    let last = Zoned::now().date().tomorrow().unwrap_or(Date::MAX);
    let mut all = Vec::new();
    for (index, ride) in rides.iter().enumerate() {
        let at = format!("/rides/{index}");
        all.extend(ride.refusals(&at));
        if ride.on > last {
            all.push(Refusal::new(
                format!("{at}/on"),
                "This day has not come yet",
            ));
        }
    }
    all
}

/// Rides to write down.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewRides {
    /// Each in place of what is on record of it.
    rides: Vec<LedgerRide>,
}

/// Writes rides down, all or none; those on record as they are stay. Sent again, it is harmless.
#[utoipa::path(
    context_path = "/api", tag = "ledger", request_body = NewRides,
    responses((status = 200, body = LedgerView), (status = 422, body = Problem))
)]
#[post("/sessions/{id}/ledger")]
pub(crate) async fn add(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    Body(new): Body<NewRides>,
) -> Result<web::Json<LedgerView>, Problem> {
    let at_bench = bench(&store, *id).await?;
    accept(refusals(&new.rides))?;
    write_down(&store, &at_bench, new.rides).await?;
    let bench = bench(&store, *id).await?;
    let view = worked_out(move || Ok(bench.ledger(Zoned::now().date()))).await?;
    Ok(web::Json(view))
}

async fn write_down(store: &Store, bench: &Bench, rides: Vec<LedgerRide>) -> Result<(), Problem> {
    let at = bench.session.no_earlier(Timestamp::now());
    let entries: Vec<AfterEntry> = (bench.unread(rides).into_iter())
        .map(|ride| AfterEntry {
            id: Uuid::now_v7(),
            at,
            body: AfterBody::Ride(ride),
        })
        .collect();
    store.add_afterwards(bench.session.id, &entries).await?;
    Ok(())
}

/// The card as one file that needs no network.
#[utoipa::path(
    context_path = "/api", tag = "ledger",
    responses((status = 200, body = String, content_type = "text/html"))
)]
#[get("/sessions/{id}/card.html")]
pub(crate) async fn card_page(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<HttpResponse, Problem> {
    let bench = bench(&store, *id).await?;
    let page = worked_out(move || Ok(card_html(&bench.card(&TimeZone::system()))?)).await?;
    Ok(attached("ride-card.html", "text/html; charset=utf-8").body(page))
}

/// The card on paper.
#[utoipa::path(
    context_path = "/api", tag = "ledger", params(SheetAsked),
    responses((status = 200, body = Vec<u8>, content_type = "application/pdf"))
)]
#[get("/sessions/{id}/card.pdf")]
pub(crate) async fn card_sheet(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    asked: web::Query<SheetAsked>,
) -> Result<HttpResponse, Problem> {
    let bench = bench(&store, *id).await?;
    let paper = asked.paper();
    let bytes =
        worked_out(move || Ok(card_pdf(&bench.card(&TimeZone::system()), paper, &FONTS)?)).await?;
    Ok(attached("ride-card.pdf", "application/pdf").body(bytes))
}

/// The link to a fit's card on the rider's own phone.
#[derive(Serialize, ToSchema)]
pub(crate) struct CardLink {
    /// Whether the room's network is let in, without which no link is of use.
    open: bool,
    /// Until when the link holds; none without one.
    #[schema(value_type = Option<String>, format = DateTime)]
    until: Option<Timestamp>,
    /// The link itself, told once, when it is made: an address for each network this machine is in.
    urls: Vec<String>,
    /// What stands behind the address in each of them.
    path: Option<String>,
    /// The first of them to point a phone at, SVG.
    qr: Option<String>,
}

impl CardLink {
    /// A link that holds, without what is told once.
    fn untold(open: bool, until: Option<Timestamp>) -> Self {
        Self {
            open,
            until,
            urls: Vec::new(),
            path: None,
            qr: None,
        }
    }
}

/// Whether there is a link to the card, and until when.
#[utoipa::path(context_path = "/api", tag = "ledger", responses((status = 200, body = CardLink)))]
#[get("/sessions/{id}/card-link")]
pub(crate) async fn link(
    store: web::Data<Store>,
    lan: web::Data<Option<Lan>>,
    id: web::Path<Uuid>,
) -> Result<web::Json<CardLink>, Problem> {
    let until = store.card_link(*id, Timestamp::now()).await?;
    Ok(web::Json(CardLink::untold(lan.is_some(), until)))
}

/// Makes a link in place of the one before: seven days, to this card alone.
#[utoipa::path(context_path = "/api", tag = "ledger", responses((status = 200, body = CardLink)))]
#[post("/sessions/{id}/card-link")]
pub(crate) async fn make_link(
    store: web::Data<Store>,
    lan: web::Data<Option<Lan>>,
    id: web::Path<Uuid>,
) -> Result<web::Json<CardLink>, Problem> {
    let token = token();
    let now = Timestamp::now();
    let until = now + LINK_HOLDS;
    store.link_card(*id, &hashed(&token), (now, until)).await?;
    let bases = lan.as_ref().as_ref().map(Lan::urls).unwrap_or_default();
    let path = format!("/card/{token}");
    let urls: Vec<String> = bases.iter().map(|base| format!("{base}{path}")).collect();
    Ok(web::Json(CardLink {
        qr: urls.first().and_then(|url| drawn(url)),
        urls,
        path: Some(path),
        ..CardLink::untold(lan.is_some(), Some(until))
    }))
}

/// Takes the link back: the phone reaches nothing any more.
#[utoipa::path(context_path = "/api", tag = "ledger", responses((status = 200, body = CardLink), (status = 404, body = Problem)))]
#[delete("/sessions/{id}/card-link")]
pub(crate) async fn take_link_back(
    store: web::Data<Store>,
    lan: web::Data<Option<Lan>>,
    id: web::Path<Uuid>,
) -> Result<web::Json<CardLink>, Problem> {
    if !store.unlink_card(*id).await? {
        return Err(Problem::new(StatusCode::NOT_FOUND, "There is no link"));
    }
    Ok(web::Json(CardLink::untold(lan.is_some(), None)))
}

/// What is kept of a token.
fn hashed(token: &str) -> String {
    let digest = ring::digest::digest(&ring::digest::SHA256, token.as_bytes());
    STANDARD.encode(digest)
}

/// The fit whose card a token opens.
async fn opened_by(store: &Store, token: &str) -> Result<Bench, Problem> {
    let fit = store.linked(&hashed(token), Timestamp::now()).await?;
    let fit = fit.ok_or_else(|| {
        Problem::new(
            StatusCode::NOT_FOUND,
            "This link holds no longer: ask the studio for another",
        )
    })?;
    bench(store, fit).await
}

/// The card on the rider's phone: outside the API, behind its token alone.
#[get("/card/{token}")]
pub(crate) async fn on_phone(
    store: web::Data<Store>,
    token: web::Path<String>,
) -> Result<HttpResponse, Problem> {
    let bench = opened_by(&store, &token).await?;
    let page = worked_out(move || {
        let mut card = bench.card(&TimeZone::system());
        card.send = Some(format!("/card/{token}/rides"));
        Ok(card_html(&card)?)
    })
    .await?;
    Ok(HttpResponse::Ok()
        .content_type("text/html; charset=utf-8")
        .insert_header((header::CACHE_CONTROL, "no-store"))
        .body(page))
}

/// The rides that the card on the phone sends.
#[post("/card/{token}/rides")]
pub(crate) async fn from_phone(
    store: web::Data<Store>,
    token: web::Path<String>,
    payload: web::Payload,
) -> Result<HttpResponse, Problem> {
    let bench = opened_by(&store, &token).await?;
    let text = text_of(payload).await?;
    let rides = rides_of(&bench, &text)?;
    write_down(&store, &bench, rides).await?;
    Ok(HttpResponse::NoContent().finish())
}
