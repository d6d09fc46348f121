//! Riders who are not there: what devices take of them, and what they say. Everything of them is simulated, and says so.

use super::extract::Body;
use super::load::{bench, worked_out};
use super::takes::{keep, made, view};
use crate::Problem;
use actix_web::http::StatusCode;
use actix_web::{get, post, web};
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;
use wedge_bench::{Bench, Spoken, TakesView, TrialSaid, WeighedView};
use wedge_core::capture::Answers;
use wedge_core::judge::Felt as Verdict;
use wedge_core::trial::Felt;
use wedge_devices::Room;
use wedge_devices::device::{
    Camera, DeviceKind, Failure, FitStand, Mishap, Moved, SECONDS, Scales, SimulatedCamera,
    SimulatedScales, SimulatedStand, SimulatedTrainer, Slide, Target, Trainer, Wheels,
    nothing_of_the_body,
};
use wedge_devices::hidden::{Asked, LAWS};
use wedge_devices::hundred::Stranger;
use wedge_devices::practice::Level;
use wedge_files::{Take, TakeBody, pack};
use wedge_store::{DeviceState, Practice, Store};

/// The rider of a fit of practice, from its level and seed alone.
pub(crate) fn stranger(practice: &Practice, seed: u32) -> Result<(Level, Stranger), Problem> {
    let level = Level::named(&practice.level)
        .ok_or_else(|| Problem::new(StatusCode::CONFLICT, "This Wedge does not know that level"))?;
    Ok((level, Stranger::at(level, seed.into())))
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
            let (_, stranger) = stranger(&practice, simulated.seed)?;
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
    let question = Asked(u32::try_from(nth).unwrap_or(u32::MAX));
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
        simulated: true,
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
    let spoken = worked_out(move || {
        let setup = bench.now()?;
        let number = bench.trial_on_the_bench().map_or(0, |trial| trial.number);
        // A trial's answers are that trial's; the bike as found has its own.
        let question = Asked(u32::try_from(number).unwrap_or(u32::MAX));
        let trial = bench.trial_on_the_bench().and_then(|trial| {
            let was = bench.session.setup(trial.before)?;
            let answered = room.compares(was, &setup, bench.ridden_alike(), question)?;
            let place = answered.place.map(|place| Felt { place, side: None });
            Some(TrialSaid {
                verdict: match answered.felt {
                    Verdict::Better => wedge_files::Verdict::Better,
                    Verdict::Same => wedge_files::Verdict::Same,
                    Verdict::Worse => wedge_files::Verdict::Worse,
                },
                sure: answered.sure,
                felt: Vec::from_iter(place),
            })
        });
        let mut complaints = room.aches(&setup, question).ok_or_else(no_place)?;
        for (index, complaint) in complaints.iter_mut().enumerate() {
            complaint.id = format!("said-{number}-{index}");
        }
        let signs = room.signs(&setup, question).ok_or_else(no_place)?;
        Ok(Spoken::of(trial, complaints, &signs))
    })
    .await?;
    Ok(web::Json(spoken))
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
    let question = Asked(u32::try_from(nth).unwrap_or(u32::MAX));
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
