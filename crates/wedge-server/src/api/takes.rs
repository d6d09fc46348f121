//! Takes: markers, stills and torque of the rider on the setup that is on the bench.

use super::extract::Body;
use super::files::{attached, bytes_of, text_of};
use super::load::{bench, worked_out};
use super::pictures::kept_since;
use crate::Problem;
use actix_web::http::StatusCode;
use actix_web::{HttpResponse, get, post, web};
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;
use wedge_bench::{Bench, TakesView};
use wedge_core::capture::{Answers, TakeAsk, standing};
use wedge_core::film::{AcrossClip, Clip, Shot};
use wedge_core::measure::Refusal;
use wedge_files::{Take, TakeBody, pack, read_markers, read_torque, unpacked_text};
use wedge_store::Store;

/// The most bytes a file of markers may have.
const MOST_BYTES: usize = 64 << 20;

/// Which takes stand in the table.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
#[serde(deny_unknown_fields)]
pub(crate) struct Asked {
    /// The way of looking, by its key; as the last take looked, where it is left out.
    way: Option<String>,
}

/// The takes of a fit: the table of first, before and now, curves, what may be kept.
#[utoipa::path(context_path = "/api", tag = "takes", params(Asked), responses((status = 200, body = TakesView), (status = 404, body = Problem)))]
#[get("/sessions/{id}/takes")]
pub(crate) async fn read(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    asked: web::Query<Asked>,
) -> Result<web::Json<TakesView>, Problem> {
    let bench = bench(&store, *id).await?;
    view(&store, bench, asked.into_inner().way).await
}

pub(super) async fn view(
    store: &Store,
    bench: Bench,
    way: Option<String>,
) -> Result<web::Json<TakesView>, Problem> {
    let (id, now) = (bench.session.id, Timestamp::now());
    let takes = store.takes(id).await?;
    let pictured = store.pictured(id, kept_since(now, &bench.house)).await?;
    let view = worked_out(move || Ok(bench.takes(takes, way.as_deref(), &pictured, now)?)).await?;
    Ok(web::Json(view))
}

/// What is said of a file of markers beside its bytes.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
#[serde(deny_unknown_fields)]
pub(crate) struct Sent {
    /// UUIDv7, made by the client: sending it again is harmless.
    id: Uuid,
    /// What the take is called: the file's name.
    name: String,
    /// Power it was ridden at, W.
    power_w: Option<f64>,
    /// The how-manieth placing of the markers, from 1.
    placing: Option<u32>,
    /// What was answered about it, as JSON.
    answers: Option<String>,
    /// Whether the rider stands still in it: the zero of this placing of the markers.
    standing: Option<bool>,
}

/// What became of a file of markers.
#[derive(Serialize, ToSchema)]
pub(crate) struct Sending {
    /// What is asked first; nothing was kept.
    asks: Vec<TakeAsk>,
    /// The takes, once it is kept.
    takes: Option<TakesView>,
}

/// Takes in a file of markers, TRC or C3D. What is doubtful about names, unit or sides is asked first, and nothing kept until it is
/// answered; a file that has no figures is refused.
#[utoipa::path(
    context_path = "/api", tag = "takes", params(Sent),
    request_body(content = Vec<u8>, content_type = "application/octet-stream"),
    responses((status = 200, body = Sending), (status = 409, body = Problem), (status = 422, body = Problem))
)]
#[post("/sessions/{id}/takes/markers")]
pub(crate) async fn markers(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    sent: web::Query<Sent>,
    payload: web::Payload,
) -> Result<web::Json<Sending>, Problem> {
    let bytes = bytes_of(payload, MOST_BYTES, "A file of markers").await?;
    let bench = bench(&store, *id).await?;
    bench.go_on()?;
    let answers: Option<Answers> = (sent.answers.as_deref())
        .map(|text| wedge_bench::read(text.as_bytes()))
        .transpose()?;
    let known = bench.known()?;
    let asked = answers.is_none();
    let answers = answers.unwrap_or_default();
    let stands = sent.standing.unwrap_or(false);
    let (tracks, bench, answers, tried) = worked_out(move || {
        let tracks = read_markers(&bytes)?;
        let tried = if stands {
            let zero = standing(&tracks, &answers);
            zero.map(|_| Vec::new())
                .map_err(|error| (error.words, error.asks))
        } else {
            bench.try_take(&tracks, &answers).map(|sample| sample.asks)
        };
        Ok((tracks, bench, answers, tried))
    })
    .await?;
    match tried {
        Ok(asks) | Err((_, asks)) if asked && asks.iter().any(TakeAsk::is_first) => {
            return Ok(web::Json(Sending { asks, takes: None }));
        }
        Ok(_) => {}
        Err((words, _)) => return Err(Problem::field("/file", words)),
    }
    let take = Take {
        power_w: sent.power_w,
        placing: sent.placing.unwrap_or(1),
        tracks: pack(&tracks, &sent.name)?,
        ..made(
            &bench,
            (sent.id, sent.name.clone()),
            if stands {
                TakeBody::Standing { answers }
            } else {
                TakeBody::Markers { known, answers }
            },
        )?
    };
    keep(&store, *id, &take).await?;
    let takes = view(&store, bench, None).await?.into_inner();
    Ok(web::Json(Sending {
        asks: Vec::new(),
        takes: Some(takes),
    }))
}

/// A take of the setup on the bench.
pub(super) fn made(
    bench: &Bench,
    (id, name): (Uuid, String),
    body: TakeBody,
) -> Result<Take, Problem> {
    Ok(Take {
        id,
        at: bench.session.no_earlier(Timestamp::now()),
        setup: bench.on_the_bench("a take")?,
        name,
        power_w: None,
        placing: 1,
        simulated: bench.rider.simulated.is_some(),
        body,
        tracks: Vec::new(),
        picture: Vec::new(),
    })
}

pub(super) async fn keep(store: &Store, session: Uuid, take: &Take) -> Result<(), Problem> {
    let refused: Vec<Refusal> = take.refusals("");
    if !refused.is_empty() {
        return Err(Problem::refused(refused));
    }
    store.add_take(session, take).await?;
    Ok(())
}

/// A still to keep: its points, not its picture.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewStill {
    /// UUIDv7, made by the client: sending it again is harmless.
    id: Uuid,
    name: String,
    still: Shot,
}

/// Keeps the points of a still of the setup on the bench. The picture itself never leaves the browser.
#[utoipa::path(
    context_path = "/api", tag = "takes", request_body = NewStill,
    responses((status = 200, body = TakesView), (status = 409, body = Problem), (status = 422, body = Problem))
)]
#[post("/sessions/{id}/takes/stills")]
pub(crate) async fn add(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    Body(new): Body<NewStill>,
) -> Result<web::Json<TakesView>, Problem> {
    let body = TakeBody::Still(new.still);
    keep_body(&store, *id, (new.id, new.name, None), body).await
}

async fn keep_body(
    store: &Store,
    session: Uuid,
    (id, name, power_w): (Uuid, String, Option<f64>),
    body: TakeBody,
) -> Result<web::Json<TakesView>, Problem> {
    let bench = bench(store, session).await?;
    bench.go_on()?;
    let take = Take {
        power_w,
        ..made(&bench, (id, name), body)?
    };
    keep(store, session, &take).await?;
    Box::pin(view(store, bench, None)).await
}

/// A clip to keep: what was clicked and followed, not its pictures.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewClip {
    /// UUIDv7, made by the client: sending it again is harmless.
    id: Uuid,
    name: String,
    #[serde(default)]
    power_w: Option<f64>,
    clip: Clip,
}

/// The most bytes a clip's points take.
const MOST_CLIP_BYTES: usize = 8 << 20;

/// Keeps what was followed in a clip of the setup on the bench. Its pictures never leave the browser.
#[utoipa::path(
    context_path = "/api", tag = "takes", request_body = NewClip,
    responses((status = 200, body = TakesView), (status = 409, body = Problem), (status = 422, body = Problem))
)]
#[post("/sessions/{id}/takes/clips")]
pub(crate) async fn clip(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    payload: web::Payload,
) -> Result<web::Json<TakesView>, Problem> {
    let new: NewClip = wedge_bench::read(&bytes_of(payload, MOST_CLIP_BYTES, "A clip").await?)?;
    keep_body(
        &store,
        *id,
        (new.id, new.name, new.power_w),
        TakeBody::Clip(new.clip),
    )
    .await
}

/// A clip from ahead or behind to keep: what was clicked and followed, not its pictures.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewAcross {
    /// UUIDv7, made by the client: sending it again is harmless.
    id: Uuid,
    name: String,
    #[serde(default)]
    power_w: Option<f64>,
    clip: AcrossClip,
}

/// Keeps what was followed in a clip from ahead or behind, of the setup on the bench.
#[utoipa::path(
    context_path = "/api", tag = "takes", request_body = NewAcross,
    responses((status = 200, body = TakesView), (status = 409, body = Problem), (status = 422, body = Problem))
)]
#[post("/sessions/{id}/takes/across")]
pub(crate) async fn across(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    payload: web::Payload,
) -> Result<web::Json<TakesView>, Problem> {
    let new: NewAcross = wedge_bench::read(&bytes_of(payload, MOST_CLIP_BYTES, "A clip").await?)?;
    keep_body(
        &store,
        *id,
        (new.id, new.name, new.power_w),
        TakeBody::Across(new.clip),
    )
    .await
}

/// What is said of a file of torque beside its text.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
#[serde(deny_unknown_fields)]
pub(crate) struct SentTorque {
    /// UUIDv7, made by the client: sending it again is harmless.
    id: Uuid,
    /// What the take is called: the file's name.
    name: String,
}

/// Takes in torque by sector, `wedge.torque/1`.
#[utoipa::path(
    context_path = "/api", tag = "takes", params(SentTorque), request_body(content = String, content_type = "text/csv"),
    responses((status = 200, body = TakesView), (status = 409, body = Problem), (status = 422, body = Problem))
)]
#[post("/sessions/{id}/takes/torque")]
pub(crate) async fn torque(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    sent: web::Query<SentTorque>,
    payload: web::Payload,
) -> Result<web::Json<TakesView>, Problem> {
    let torque = read_torque(&text_of(payload).await?)?;
    let sent = sent.into_inner();
    keep_body(
        &store,
        *id,
        (sent.id, sent.name, None),
        TakeBody::Torque(torque),
    )
    .await
}

/// The markers of a take as TRC.
#[utoipa::path(context_path = "/api", tag = "takes", responses((status = 200, body = String, content_type = "text/plain"), (status = 404, body = Problem)))]
#[get("/takes/{id}/trc")]
pub(crate) async fn export(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<HttpResponse, Problem> {
    let session = store.session_of_take(*id).await?;
    let takes = store.takes(session).await?;
    let take = takes
        .into_iter()
        .find(|take| take.id == *id && !take.tracks.is_empty());
    let take =
        take.ok_or_else(|| Problem::new(StatusCode::NOT_FOUND, "That take has no markers"))?;
    // A header holds letters a name need not keep to.
    let stem = take
        .name
        .rsplit_once('.')
        .map_or(take.name.as_str(), |(stem, _)| stem);
    let stem: String = stem
        .chars()
        .map(|c| {
            if c.is_ascii_alphanumeric() || "-_ ".contains(c) {
                c
            } else {
                '_'
            }
        })
        .collect();
    Ok(
        attached(&format!("{stem}.trc"), "text/plain; charset=utf-8")
            .body(unpacked_text(&take.tracks)?),
    )
}
