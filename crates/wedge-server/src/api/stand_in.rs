//! Riders who are not there: what devices take of them, and what they say. Everything of them is simulated, and says so.

use super::extract::Body;
use super::load::{bench, worked_out};
use super::takes::{keep, made, view};
use crate::{Problem, picture};
use actix_web::http::StatusCode;
use actix_web::{HttpResponse, get, post, web};
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;
use wedge_bench::{Bench, Spoken, TakesView, TrialSaid, WeighedView};
use wedge_core::bike::Setup;
use wedge_core::capture::Answers;
use wedge_core::judge::{Axis, Felt as Verdict};
use wedge_core::measure::Quantity;
use wedge_core::trial::{Felt, Hurts, Shifted};
use wedge_devices::Room;
use wedge_devices::device::{
    Camera, DeviceKind, Failure, Film, FitStand, Mishap, Moved, Picture, SECONDS, Scales,
    SimulatedCamera, SimulatedFilm, SimulatedScales, SimulatedStand, SimulatedTrainer, Slide,
    Target, Trainer, Wheels, nothing_of_the_body,
};
use wedge_devices::hidden::{Asked, LAWS};
use wedge_devices::hundred::Stranger;
use wedge_devices::practice::Level;
use wedge_files::{Take, TakeBody, pack};
use wedge_store::{DeviceState, Practice, Store};

/// The level of a fit of practice.
pub(super) fn level_of(practice: &Practice) -> Result<Level, Problem> {
    Level::named(&practice.level)
        .ok_or_else(|| Problem::new(StatusCode::CONFLICT, "This Wedge does not know that level"))
}

/// The how-manieth question it is.
fn question(nth: usize) -> Asked {
    Asked(u32::try_from(nth).unwrap_or(u32::MAX))
}

/// The room of a fit's rider; declined where he is real.
pub(super) async fn room(store: &Store, bench: &Bench) -> Result<Room, Problem> {
    let simulated = bench.rider.simulated.ok_or_else(|| {
        Problem::new(
            StatusCode::CONFLICT,
            "Only riders who are not there are asked and taken by stand-ins: this one is real. The page of devices has one to try.",
        )
    })?;
    if simulated.laws != LAWS {
        return Err(Problem::new(
            StatusCode::CONFLICT,
            format!(
                "This rider was thrown by laws {}, and this Wedge has laws {LAWS}: what he was asked stands, and he says no more.",
                simulated.laws
            ),
        ));
    }
    let practice = store.practice(bench.rider.id).await?;
    let found = bench.as_found()?;
    worked_out(move || match practice {
        Some(practice) => {
            let stranger = Stranger::at(level_of(&practice)?, simulated.seed.into());
            Ok(Room::of(stranger.hidden, &stranger.known)?)
        }
        None => Ok(Room::behind(simulated.seed.into(), &found)?),
    })
    .await
}

/// A device that is connected, with what goes wrong with it.
async fn connected(
    store: &Store,
    kind: DeviceKind,
) -> Result<(DeviceState, Option<Mishap>), Problem> {
    let device = store.device(kind.key()).await?;
    if device.off {
        return Err(Problem::new(
            StatusCode::CONFLICT,
            format!(
                "{}: none. Connect one on the page of devices.",
                kind.label()
            ),
        ));
    }
    let fault = device.fault.as_deref().and_then(Mishap::named);
    Ok((device, fault))
}

async fn noted(store: &Store, device: DeviceState, last: String) -> Result<(), Problem> {
    let last = Some((last, Timestamp::now()));
    store.save_device(&DeviceState { last, ..device }).await?;
    Ok(())
}

/// Ten seconds to take.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct TenSeconds {
    /// UUIDv7, made by the client: sending it again is harmless.
    id: Uuid,
    /// The camera's, or the trainer's.
    of: DeviceKind,
    /// The how-manieth placing of the markers, from 1.
    #[serde(default)]
    placing: Option<u32>,
    /// Keeps what came where something goes wrong.
    #[serde(default)]
    keep: bool,
}

/// What a device gave.
#[derive(Serialize, ToSchema)]
pub(crate) struct Given {
    /// What went wrong; nothing was kept unless that was asked for.
    trouble: Option<Failure>,
    /// Whether something came that can be kept.
    keepable: bool,
    /// The takes, once it is kept.
    takes: Option<TakesView>,
}

/// Takes ten seconds of a rider who is not there, on the setup that is on the bench: markers by the camera, torque by the trainer.
/// Where a device fails, what came is told and nothing kept until that is asked for; the same request takes the same again.
#[utoipa::path(
    context_path = "/api", tag = "devices", request_body = TenSeconds,
    responses((status = 200, body = Given), (status = 409, body = Problem), (status = 422, body = Problem))
)]
#[post("/sessions/{id}/takes/simulated")]
pub(crate) async fn take(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    Body(asked): Body<TenSeconds>,
) -> Result<web::Json<Given>, Problem> {
    let bench = bench(&store, *id).await?;
    bench.go_on()?;
    let (device, fault) = connected(&store, asked.of).await?;
    let room = room(&store, &bench).await?;
    // Sent again, it is the same question.
    let all = &bench.session.takes;
    let nth = (all.iter().position(|take| take.id == asked.id)).unwrap_or(all.len());
    let question = question(nth);
    let (setup, effort) = (bench.now()?, bench.held());
    let name = format!("Ten seconds, {}", nth + 1);
    let placing = asked.placing.unwrap_or(1);
    let (known, of) = (bench.known()?, asked.of);
    let (body, trouble) = worked_out(move || {
        let seat = room.seat(&setup, effort, question).ok_or_else(no_place)?;
        Ok(match of {
            DeviceKind::Trainer => {
                let taken = SimulatedTrainer::under(seat, fault).hold(effort.power_w, SECONDS);
                let torque = taken.got.and_then(|ridden| ridden.torque());
                (
                    torque.map(|torque| (TakeBody::Torque(torque), Vec::new())),
                    taken.trouble,
                )
            }
            DeviceKind::Camera => {
                let taken = SimulatedCamera::before(seat, placing, fault).take(SECONDS);
                let answers = Answers {
                    nothing: nothing_of_the_body(),
                    ..Answers::default()
                };
                let tracks = (taken.got.as_ref())
                    .map(|tracks| pack(tracks, "simulated"))
                    .transpose()?;
                let body = TakeBody::Markers { known, answers };
                (tracks.map(|tracks| (body, tracks)), taken.trouble)
            }
            _ => {
                return Err(Problem::field(
                    "/of",
                    "The camera or the trainer takes ten seconds",
                ));
            }
        })
    })
    .await?;
    let keepable = body.is_some();
    let (Some((body, tracks)), true) = (body, trouble.is_none() || asked.keep) else {
        return Ok(web::Json(Given {
            trouble,
            keepable,
            takes: None,
        }));
    };
    let take = Take {
        power_w: Some(effort.power_w),
        placing,
        tracks,
        ..made(&bench, (asked.id, name.clone()), body)?
    };
    keep(&store, *id, &take).await?;
    noted(&store, device, format!("{name}, {}", bench.rider.name)).await?;
    let takes = Box::pin(view(&store, bench, None)).await?.into_inner();
    Ok(web::Json(Given {
        trouble,
        keepable,
        takes: Some(takes),
    }))
}

/// How large a picture of the film is, px.
const PICTURE: [usize; 2] = [1200, 800];

/// A picture from the side of a rider who is not there, on the setup that is on the bench. It is not kept.
#[utoipa::path(
    context_path = "/api", tag = "devices",
    responses((status = 200, body = Vec<u8>, content_type = "image/png"), (status = 409, body = Problem))
)]
#[get("/sessions/{id}/film/simulated")]
pub(crate) async fn film(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<HttpResponse, Problem> {
    let bench = bench(&store, *id).await?;
    let (device, fault) = connected(&store, DeviceKind::Film).await?;
    let room = room(&store, &bench).await?;
    let nth = bench.session.takes.len();
    let question = question(nth);
    let (setup, effort) = (bench.now()?, bench.held());
    let bytes = worked_out(move || {
        let seat = room.seat(&setup, effort, question).ok_or_else(no_place)?;
        let taken = SimulatedFilm::beside(seat, PICTURE, fault).film(1);
        let first = taken.got.and_then(|all| all.into_iter().next());
        let Some(Picture { width, height, rgb }) = first else {
            let words = taken
                .trouble
                .map_or_else(String::new, |trouble| trouble.words);
            return Err(Problem::new(StatusCode::CONFLICT, words));
        };
        picture::png(width, height, rgb)
            .map_err(|why| Problem::new(StatusCode::INTERNAL_SERVER_ERROR, why))
    })
    .await?;
    let name = bench.rider.name.clone();
    noted(&store, device, format!("A picture of {name}")).await?;
    Ok(HttpResponse::Ok().content_type("image/png").body(bytes))
}

fn no_place() -> Problem {
    Problem::new(
        StatusCode::CONFLICT,
        "Tape saddle height and setback first: nobody can sit on a saddle that has no place",
    )
}

/// What a rider who is not there says where he sits: of the trial on the bench against the setup before it, else of the setup. It is
/// simulated; the fitter takes it down or writes something else.
#[utoipa::path(context_path = "/api", tag = "devices", responses((status = 200, body = Spoken), (status = 409, body = Problem)))]
#[get("/sessions/{id}/said")]
pub(crate) async fn said(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<Spoken>, Problem> {
    let bench = bench(&store, *id).await?;
    bench.go_on()?;
    let room = room(&store, &bench).await?;
    let number = bench.session.undecided().map_or(0, |trial| trial.number);
    let spoken = worked_out(move || {
        let places = |setup: &Setup| room.places(setup).map(|(places, _)| places);
        let now = places(&bench.now()?).ok_or_else(no_place)?;
        let trial = bench.session.undecided();
        let was = trial.and_then(|trial| places(bench.session.setup(trial.before)?));
        Ok(spoken(
            &room,
            (was.as_deref(), &now),
            (bench.ridden_alike(), &bench.hurt_places()),
            number,
        ))
    })
    .await?;
    Ok(web::Json(spoken))
}

/// What he says where he is, of the change from where he was; the same for the same number.
fn spoken(
    room: &Room,
    (was, is): (Option<&[f64]>, &[f64]),
    (alike, told): (bool, &[Felt]),
    number: i64,
) -> Spoken {
    let question = Asked(u32::try_from(number).unwrap_or(u32::MAX));
    let (mut complaints, signs) = room.tells(is, question);
    let trial = was.map(|was| {
        let answered = room.rider().compare(was, is, alike, question);
        let place = answered.place.map(|place| Felt { place, side: None });
        TrialSaid {
            verdict: match answered.felt {
                Verdict::Better => wedge_files::Verdict::Better,
                Verdict::Same => wedge_files::Verdict::Same,
                Verdict::Worse => wedge_files::Verdict::Worse,
            },
            sure: answered.sure,
            felt: Vec::from_iter(place),
            hurts: Hurts::again(told, &complaints),
        }
    });
    for (index, complaint) in complaints.iter_mut().enumerate() {
        complaint.id = format!("said-{number}-{index}");
    }
    Spoken::of(trial, complaints, &signs)
}

/// What a rider who is not there says and shows on what is ridden in a protocol now, against the setup it began from. The settings
/// of a blind comparison are not his to tell.
#[utoipa::path(context_path = "/api", tag = "devices", responses((status = 200, body = Spoken), (status = 409, body = Problem)))]
#[get("/runs/{id}/said")]
pub(crate) async fn said_of_run(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<Spoken>, Problem> {
    let bench = bench(&store, store.session_of_run(*id).await?).await?;
    let room = room(&store, &bench).await?;
    let order = store.order_of_run(*id).await?;
    let spoken = worked_out(move || {
        let (setup, calls) = {
            let run = bench.session.runs.iter().find(|run| run.id == *id);
            let run = run.ok_or_else(no_place)?;
            (bench.session.setup(run.setup).copied(), run.calls.len())
        };
        let was = setup.and_then(|setup| room.places(&setup)).ok_or_else(no_place)?.0;
        let told = bench.hurt_places();
        let running = bench.running(*id, order)?;
        if running.is_blind() {
            return Err(Problem::new(
                StatusCode::CONFLICT,
                "A blind comparison is called by whoever rides it: a stand-in does not tell its settings",
            ));
        }
        let mut is = was.clone();
        if let Some((axis, by)) = running.view().screen.moved.and_then(axis_of) {
            is[axis as usize] += by;
        }
        let moved = is != was;
        let number = i64::try_from(1_000 + calls).unwrap_or(i64::MAX);
        let place = (moved.then_some(&was[..]), &is[..]);
        Ok(spoken(&room, place, (true, &told), number))
    })
    .await?;
    Ok(web::Json(spoken))
}

/// The axis that something moved in a protocol is of, and by how much.
fn axis_of(shifted: Shifted) -> Option<(Axis, f64)> {
    let axis = match shifted.quantity {
        Quantity::SaddleHeight => Axis::Height,
        Quantity::Setback => Axis::Setback,
        Quantity::BbToHand => Axis::Reach,
        Quantity::BbToHandUp => Axis::Bars,
        Quantity::Crank => Axis::Crank,
        _ => return None,
    };
    Some((axis, shifted.by))
}

/// What stands on the scales.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
#[serde(deny_unknown_fields)]
pub(crate) struct OnScales {
    /// Under the front wheel, kg.
    front_kg: f64,
    /// Under the rear wheel, kg.
    rear_kg: f64,
}

/// What two scales tell of rider and bike on the setup that is on the bench, beside what is estimated and aimed at.
#[utoipa::path(
    context_path = "/api", tag = "devices", params(OnScales),
    responses((status = 200, body = WeighedView), (status = 422, body = Problem))
)]
#[get("/sessions/{id}/weighed")]
pub(crate) async fn weighed(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    read: web::Query<OnScales>,
) -> Result<web::Json<WeighedView>, Problem> {
    let bench = bench(&store, *id).await?;
    Ok(web::Json(bench.weighed(read.front_kg, read.rear_kg)?))
}

/// What the scales show.
#[derive(Serialize, ToSchema)]
pub(crate) struct ScalesShow {
    /// What they read; none where nothing was.
    wheels: Option<Wheels>,
    /// What went wrong.
    trouble: Option<Failure>,
}

/// Reads the scales under a rider who is not there. Nothing is written down.
#[utoipa::path(
    context_path = "/api", tag = "devices",
    responses((status = 200, body = ScalesShow), (status = 409, body = Problem))
)]
#[post("/sessions/{id}/scales")]
pub(crate) async fn scales(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<ScalesShow>, Problem> {
    let bench = bench(&store, *id).await?;
    let (device, fault) = connected(&store, DeviceKind::Scales).await?;
    let room = room(&store, &bench).await?;
    let nth = bench.session.looks.len() + bench.session.trials.len();
    let question = question(nth);
    let (setup, effort) = (bench.now()?, bench.held());
    let taken = worked_out(move || {
        let seat = room.seat(&setup, effort, question).ok_or_else(no_place)?;
        Ok(SimulatedScales::under(seat, fault).weigh())
    })
    .await?;
    if let Some(percent) = taken.got.and_then(Wheels::front_percent) {
        noted(
            &store,
            device,
            format!("Front {percent:.1} %, {}", bench.rider.name),
        )
        .await?;
    }
    Ok(web::Json(ScalesShow {
        wheels: taken.got,
        trouble: taken.trouble,
    }))
}

/// What the stand does.
#[derive(Serialize, ToSchema)]
pub(crate) struct StandMoves {
    /// Where it was, where it stands, how long it took; none where it did not answer.
    moved: Option<Moved>,
    /// What went wrong.
    trouble: Option<Failure>,
    /// How far its slides go.
    stops: Vec<Slide>,
    /// In a sentence.
    words: String,
}

/// Sends the fit stand to the setup that is on the bench, under a rider on a stand. Nothing moves where some of it lies beyond its
/// stops.
#[utoipa::path(
    context_path = "/api", tag = "devices",
    responses((status = 200, body = StandMoves), (status = 409, body = Problem), (status = 422, body = Problem))
)]
#[post("/sessions/{id}/stand")]
pub(crate) async fn stand(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<StandMoves>, Problem> {
    let bench = bench(&store, *id).await?;
    if !bench.bike.stand {
        return Err(Problem::new(
            StatusCode::CONFLICT,
            "This fit is of a bike, not on a fit stand",
        ));
    }
    let (device, fault) = connected(&store, DeviceKind::Stand).await?;
    let to = stand_target(&bench)?;
    let from = device.stands.as_deref();
    let from = from
        .and_then(|text| serde_json::from_str(text).ok())
        .unwrap_or(to);
    let mut stand = SimulatedStand::at(from, fault);
    let taken = stand.goes(to)?;
    let words = taken.got.map_or_else(
        || "The stand has not moved.".to_owned(),
        |moved| {
            let at = moved.stands;
            format!(
                "Simulated: {:.0} s. Saddle {:.0} up and {:.0} back, hands {:.0} ahead and {:.0} up, cranks {}.",
                moved.seconds, at.up_mm, at.back_mm, at.hand_x_mm, at.hand_y_mm, at.crank_mm
            )
        },
    );
    let stands = serde_json::to_string(&stand.stands()).ok();
    noted(&store, DeviceState { stands, ..device }, words.clone()).await?;
    Ok(web::Json(StandMoves {
        moved: taken.got,
        trouble: taken.trouble,
        stops: SimulatedStand::stops().to_vec(),
        words,
    }))
}

/// Where the stand is to go for the setup on the bench.
fn stand_target(bench: &Bench) -> Result<Target, Problem> {
    let position = bench.position()?;
    let crank_mm = bench.now()?.pedalling.right.crank_mm.0;
    let (sit, hand) = (position.bike.sit, position.bike.hand);
    Ok(Target {
        back_mm: -sit.x,
        up_mm: sit.y,
        hand_x_mm: hand.x,
        hand_y_mm: hand.y,
        crank_mm,
    })
}
