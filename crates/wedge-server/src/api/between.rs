//! Between visits: plans, referrals, and the visits that are due.

use super::extract::{Body, IfMatch, accept};
use super::files::attached;
use super::handout::{FONTS, SheetAsked};
use super::load::{bench, worked_out};
use crate::Problem;
use actix_web::{HttpResponse, get, post, put, web};
use jiff::civil::Date;
use jiff::{Timestamp, Zoned};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use wedge_bench::{BetweenView, FollowUp, VisitView, paused, plan_of};
use wedge_core::between::Target;
use wedge_files::{AfterBody, AfterEntry, PlannedStep};
use wedge_print::{Day, Letter, calendar, letter};
use wedge_store::Store;

fn today() -> Date {
    Zoned::now().date()
}

/// What stands between the visits of a fit.
#[utoipa::path(context_path = "/api", tag = "between", responses((status = 200, body = BetweenView), (status = 409, body = Problem)))]
#[get("/sessions/{id}/between")]
pub(crate) async fn read(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<BetweenView>, Problem> {
    let bench = bench(&store, *id).await?;
    let view = worked_out(move || Ok(bench.between(today()))).await?;
    Ok(web::Json(view))
}

/// What is to be planned.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct PlanAsked {
    /// What is to move, and how far.
    targets: Vec<Target>,
    /// In small steps.
    careful: bool,
    /// The day of the first step.
    #[schema(value_type = String, format = Date)]
    start: Date,
    /// How many days a step is held.
    hold_days: i32,
}

/// A plan as it was worked out; nothing is written down.
#[derive(Serialize, ToSchema)]
pub(crate) struct PlanProposed {
    /// The steps by day.
    steps: Vec<PlannedStep>,
    /// What does not go all the way, and why.
    short: Vec<String>,
}

/// A plan from where the bike stands to its targets, in safe steps.
#[utoipa::path(
    context_path = "/api", tag = "between", request_body = PlanAsked,
    responses((status = 200, body = PlanProposed), (status = 409, body = Problem), (status = 422, body = Problem))
)]
#[post("/sessions/{id}/plan")]
pub(crate) async fn propose(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    Body(asked): Body<PlanAsked>,
) -> Result<web::Json<PlanProposed>, Problem> {
    let bench = bench(&store, *id).await?;
    let proposed = worked_out(move || {
        let when = (asked.start, asked.hold_days);
        let (steps, short) = bench.planned(&asked.targets, asked.careful, when)?;
        Ok(PlanProposed { steps, short })
    })
    .await?;
    Ok(web::Json(proposed))
}

/// Something between visits.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewAfterwards {
    /// UUIDv7, made by the client: sending it again is harmless.
    id: Uuid,
    /// What.
    body: AfterBody,
}

/// Writes down a plan, a referral or its answer; also of a fit that is finished.
#[utoipa::path(
    context_path = "/api", tag = "between", request_body = NewAfterwards,
    responses((status = 200, body = BetweenView), (status = 404, body = Problem), (status = 422, body = Problem))
)]
#[post("/sessions/{id}/afterwards")]
pub(crate) async fn add(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    Body(new): Body<NewAfterwards>,
) -> Result<web::Json<BetweenView>, Problem> {
    let at_bench = bench(&store, *id).await?;
    let entry = AfterEntry {
        id: new.id,
        at: at_bench.session.no_earlier(Timestamp::now()),
        body: new.body,
    };
    accept(entry.refusals(""))?;
    if let AfterBody::Answered(answered) = &entry.body
        && !at_bench.session.asks(answered.referral)
    {
        return Err(Problem::field(
            "/body/answered/referral",
            "There is no such referral here",
        ));
    }
    store.add_afterwards(*id, &[entry]).await?;
    let bench = bench(&store, *id).await?;
    let view = worked_out(move || Ok(bench.between(today()))).await?;
    Ok(web::Json(view))
}

/// The plan as days for any calendar.
#[utoipa::path(
    context_path = "/api", tag = "between",
    responses((status = 200, body = String, content_type = "text/calendar"), (status = 404, body = Problem))
)]
#[get("/sessions/{id}/plan.ics")]
pub(crate) async fn plan_days(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<HttpResponse, Problem> {
    let bench = bench(&store, *id).await?;
    let Some((revision, stamp, plan)) = plan_of(&bench.session) else {
        return Err(Problem::new(
            actix_web::http::StatusCode::NOT_FOUND,
            "This fit has no plan",
        ));
    };
    // A plan kept anew and a plan that waits are each a change of every day.
    let waits = paused(&bench.session);
    let changes = (revision - 1) * 2 + usize::from(waits.is_some());
    let sequence = u32::try_from(changes).unwrap_or(u32::MAX);
    let days: Vec<Day> = (plan.steps.iter().enumerate())
        .map(|(index, step)| Day {
            uid: format!("{}-step-{}@wedge", bench.session.id, index + 1),
            sequence,
            stamp,
            on: step.on,
            title: match &waits {
                Some(_) if step.on > today() => format!("Waits: {}", step.title),
                _ => step.title.clone(),
            },
            words: match &waits {
                Some(why) if step.on > today() => why.clone(),
                _ => format!("{}. {}", step.words, step.stop),
            },
        })
        .collect();
    let text = calendar("Adaptation plan", &days);
    Ok(attached("plan.ics", "text/calendar; charset=utf-8").body(text))
}

/// A referral as a letter.
#[utoipa::path(
    context_path = "/api", tag = "between", params(SheetAsked),
    responses((status = 200, body = Vec<u8>, content_type = "application/pdf"), (status = 404, body = Problem))
)]
#[get("/sessions/{id}/referrals/{referral}/letter.pdf")]
pub(crate) async fn referral_letter(
    store: web::Data<Store>,
    path: web::Path<(Uuid, Uuid)>,
    asked: web::Query<SheetAsked>,
) -> Result<HttpResponse, Problem> {
    let (session, referral) = path.into_inner();
    let bench = bench(&store, session).await?;
    let paper = asked.paper();
    let bytes = worked_out(move || {
        let entry = bench
            .session
            .afterwards
            .iter()
            .find(|entry| entry.id == referral);
        let Some((entry, AfterBody::Referral(asked))) = entry.map(|entry| (entry, &entry.body))
        else {
            return Err(Problem::new(
                actix_web::http::StatusCode::NOT_FOUND,
                "There is no such referral here",
            ));
        };
        let written = Letter {
            studio: &bench.house.name,
            rider: &bench.rider.name,
            day: entry.at.to_zoned(jiff::tz::TimeZone::system()).date(),
            referral: asked,
        };
        Ok(letter(&written, paper, &FONTS)?)
    })
    .await?;
    Ok(attached("letter.pdf", "application/pdf").body(bytes))
}

/// So many visits are told with what to ask; the rest have time.
const ASKED_OF: usize = 40;

async fn visits_now(store: &Store) -> Result<Vec<VisitView>, Problem> {
    let mut all = Vec::new();
    for (index, visit) in store.visits().await?.into_iter().enumerate() {
        let due = FollowUp::of(visit.day, today());
        let ask = if index < ASKED_OF {
            bench(store, visit.session).await?.to_ask(today())
        } else {
            Vec::new()
        };
        all.push(VisitView {
            session: visit.session,
            version: visit.version,
            rider_id: visit.rider_id,
            rider: visit.rider,
            bike: visit.bike,
            day: visit.day,
            due: due.due,
            words: due.words,
            ask,
        });
    }
    Ok(all)
}

/// Every visit that was promised and has not come yet, the earliest first.
#[utoipa::path(context_path = "/api", tag = "between", responses((status = 200, body = Vec<VisitView>)))]
#[get("/visits")]
pub(crate) async fn visits(store: web::Data<Store>) -> Result<web::Json<Vec<VisitView>>, Problem> {
    Ok(web::Json(visits_now(&store).await?))
}

/// The same as days for any calendar: one UID a fit, its SEQUENCE the version of the fit.
#[utoipa::path(context_path = "/api", tag = "between", responses((status = 200, body = String, content_type = "text/calendar")))]
#[get("/visits.ics")]
pub(crate) async fn visit_days(store: web::Data<Store>) -> Result<HttpResponse, Problem> {
    let mut days = Vec::new();
    for visit in visits_now(&store).await? {
        days.push(Day {
            uid: format!("{}-visit@wedge", visit.session),
            sequence: u32::try_from(visit.version).unwrap_or(u32::MAX),
            stamp: Timestamp::now(),
            on: visit.day,
            title: format!("{}, {}", visit.rider, visit.bike),
            words: visit.ask.join(" "),
        });
    }
    let text = calendar("Visits", &days);
    Ok(attached("visits.ics", "text/calendar; charset=utf-8").body(text))
}

/// Another day for a visit.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewDay {
    /// When; none when nobody is to come.
    #[schema(value_type = Option<String>, format = Date)]
    day: Option<Date>,
}

/// Moves a visit, also of a fit that is finished.
#[utoipa::path(
    context_path = "/api", tag = "between", request_body = NewDay,
    params(("If-Match" = String, Header, description = "The version it was read at")),
    responses((status = 200, body = Vec<VisitView>), (status = 404, body = Problem), (status = 412, body = Problem))
)]
#[put("/sessions/{id}/visit")]
pub(crate) async fn reschedule(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    IfMatch(at): IfMatch,
    Body(new): Body<NewDay>,
) -> Result<web::Json<Vec<VisitView>>, Problem> {
    store.reschedule(*id, at, new.day).await?;
    Ok(web::Json(visits_now(&store).await?))
}
