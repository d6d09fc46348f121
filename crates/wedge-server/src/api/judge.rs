//! The judge on a fit: the next move, where the right places are, what the fitter says against it, and its own score.

use super::extract::{Body, accept};
use super::load::bench;
use super::sessions::view;
use crate::Problem;
use actix_web::http::StatusCode;
use actix_web::{HttpResponse, get, post, web};
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use std::collections::HashMap;
use std::hash::{DefaultHasher, Hash, Hasher};
use std::sync::Mutex;
use utoipa::ToSchema;
use uuid::Uuid;
use wedge_bench::{
    AxisOpen, AxisScore, Bench, Claim, JudgeView, SessionView, Where, claims, follow_up, scores,
};
use wedge_core::judge::{HouseHalf, HouseLinks, house_halves, house_links};
use wedge_files::{Dispute, Disputed, House, Rider};
use wedge_store::Store;

/// The next move with its reasons, and everything else that could be done.
#[utoipa::path(context_path = "/api", tag = "judge", responses((status = 200, body = JudgeView), (status = 404, body = Problem), (status = 409, body = Problem)))]
#[get("/sessions/{id}/judge")]
pub(crate) async fn read(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<JudgeView>, Problem> {
    let bench = bench(&store, *id).await?;
    helps(&store, &bench).await?;
    Ok(web::Json(bench.judged()?))
}

/// Declined in a fit of practice without the judge, until it is ended.
async fn helps(store: &Store, bench: &Bench) -> Result<(), Problem> {
    if bench.rider.simulated.is_none() {
        return Ok(());
    }
    match store.practice(bench.rider.id).await? {
        Some(practice) if !practice.judge && practice.ended.is_none() => Err(Problem::new(
            StatusCode::CONFLICT,
            "This practice goes without the judge",
        )),
        _ => Ok(()),
    }
}

/// Where the right place on an axis is, and who says so.
#[utoipa::path(
    context_path = "/api", tag = "judge", request_body = Where,
    responses((status = 200, body = AxisOpen), (status = 404, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem))
)]
#[post("/sessions/{id}/judge/axis")]
pub(crate) async fn axis(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    Body(asked): Body<Where>,
) -> Result<web::Json<AxisOpen>, Problem> {
    let bench = bench(&store, *id).await?;
    helps(&store, &bench).await?;
    Ok(web::Json(bench.right_place(&asked)?))
}

/// A disagreement with the judge.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewDispute {
    /// UUIDv7, made by the client: sending it again is harmless.
    id: Uuid,
    about: Disputed,
    /// As it was told when it was disputed.
    told: String,
    /// Why.
    #[serde(default)]
    reason: String,
}

/// Writes down where the fitter disagrees, or takes that back. The judge counts with it from then on.
#[utoipa::path(
    context_path = "/api", tag = "judge", request_body = NewDispute,
    responses((status = 200, body = SessionView), (status = 404, body = Problem), (status = 422, body = Problem))
)]
#[post("/sessions/{id}/disputes")]
pub(crate) async fn disagree(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    Body(new): Body<NewDispute>,
) -> Result<HttpResponse, Problem> {
    let bench = bench(&store, *id).await?;
    let dispute = Dispute {
        id: new.id,
        at: bench.session.no_earlier(Timestamp::now()),
        about: new.about,
        told: new.told,
        reason: new.reason,
    };
    accept(dispute.refusals(""))?;
    bench.go_on()?;
    bench.may_dispute(&dispute)?;
    store.add_dispute(*id, &dispute).await?;
    view(&store, *id).await
}

/// What the house judges by, of which a studio may have its own.
#[derive(Serialize, ToSchema)]
pub(crate) struct HouseJudging {
    /// From what is felt or seen to what may cause it.
    links: Vec<HouseLinks>,
    /// How wide each window is to either side.
    halves: Vec<HouseHalf>,
}

/// The strengths and half-widths of the house.
#[utoipa::path(context_path = "/api", tag = "judge", responses((status = 200, body = HouseJudging)))]
#[get("/judge/house")]
pub(crate) async fn by_house() -> web::Json<HouseJudging> {
    web::Json(HouseJudging {
        links: house_links(),
        halves: house_halves(),
    })
}

/// Claims of riders that were worked out once: by everything they follow from.
#[derive(Default)]
pub(crate) struct Scored(Mutex<HashMap<u64, Vec<Claim>>>);

impl Scored {
    /// The claims of all fits of a rider.
    fn of(&self, rider: &Rider, house: &House) -> Vec<Claim> {
        let mut hasher = DefaultHasher::new();
        let whole = serde_json::to_vec(&(rider, house)).unwrap_or_default();
        whole.hash(&mut hasher);
        let key = hasher.finish();
        let known = self
            .0
            .lock()
            .ok()
            .and_then(|known| known.get(&key).cloned());
        known.unwrap_or_else(|| {
            let claims = claims_of(rider, house);
            if let Ok(mut known) = self.0.lock() {
                known.insert(key, claims.clone());
            }
            claims
        })
    }
}

/// A fit nobody can be put on the bike of claimed nothing.
fn claims_of(rider: &Rider, house: &House) -> Vec<Claim> {
    let mut all = Vec::new();
    for bike in &rider.bikes {
        let fits = bike.sessions.iter();
        let benches: Vec<Bench> = fits
            .filter_map(|fit| Bench::of(rider.clone(), fit.clone(), house.clone()).ok())
            .collect();
        for bench in &benches {
            all.extend(claims(bench).unwrap_or_default());
        }
        for pair in benches.windows(2) {
            all.extend(follow_up(&pair[0], &pair[1]).unwrap_or_default());
        }
    }
    all
}

/// What the judge claimed in every fit on record, and what trials, protocols and the next fits then showed, axis by axis.
#[utoipa::path(context_path = "/api", tag = "judge", responses((status = 200, body = Vec<AxisScore>)))]
#[get("/judge/score")]
pub(crate) async fn score(
    store: web::Data<Store>,
    scored: web::Data<Scored>,
) -> Result<web::Json<Vec<AxisScore>>, Problem> {
    let house = store.house().await?.noun;
    let mut all: Vec<Claim> = Vec::new();
    // So many riders at once, never all of them: there may be thousands. One that does not read claimed nothing.
    for ids in store.rider_ids().await?.chunks(Store::AT_ONCE) {
        let riders = store.riders_of(ids).await?;
        let (scored, house) = (scored.clone(), house.clone());
        let claims = web::block(move || {
            let riders = riders.iter().filter_map(|rider| rider.as_ref().ok());
            let claims = riders.flat_map(|rider| scored.of(rider, &house));
            claims.collect::<Vec<Claim>>()
        });
        all.extend(claims.await.map_err(|_| {
            Problem::new(
                StatusCode::INTERNAL_SERVER_ERROR,
                "The score was not worked out; try again",
            )
        })?);
    }
    Ok(web::Json(scores(&all)))
}
