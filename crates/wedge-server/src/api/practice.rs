//! Practice: fits of riders who are not there, for who learns the trade. Their truth is thrown anew at the end and told then alone.

use super::extract::{Body, accept};
use super::load::{bench, worked_out};
use super::stand_in::{level_of, room};
use crate::Problem;
use crate::stand_in::told_of;
use actix_web::http::StatusCode;
use actix_web::{get, post, web};
use jiff::{Timestamp, Zoned};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use utoipa::ToSchema;
use uuid::Uuid;
use wedge_bench::{Bench, practised};
use wedge_core::judge::Felt;
use wedge_devices::Room;
use wedge_devices::hidden::LAWS;
use wedge_devices::hundred::Stranger;
use wedge_devices::practice::{Level, Practised, Revealed, Tried, revealed};
use wedge_files::{Simulated, Verdict, refuse_name};
use wedge_store::{Practice, Store};

/// One level.
#[derive(Serialize, ToSchema)]
pub(crate) struct LevelLine {
    key: Level,
    label: &'static str,
    /// What there is to learn on it.
    words: &'static str,
}

/// A fit of practice.
#[derive(Serialize, ToSchema)]
pub(crate) struct PracticeLine {
    rider: Uuid,
    session: Uuid,
    apprentice: String,
    level: &'static str,
    /// Whether the judge helps.
    judge: bool,
    #[schema(value_type = String, format = DateTime)]
    begun: Timestamp,
    /// What came of it; none while it is going on.
    ended: Option<Practised>,
}

/// How an apprentice comes along.
#[derive(Serialize, ToSchema)]
pub(crate) struct Trend {
    apprentice: String,
    /// Fits that were ended, the first first: windows missed at the end.
    missed: Vec<usize>,
    /// In words.
    words: String,
}

/// Everything of practice.
#[derive(Serialize, ToSchema)]
pub(crate) struct PracticeView {
    levels: Vec<LevelLine>,
    fits: Vec<PracticeLine>,
    trends: Vec<Trend>,
}

/// Practice: levels, fits, how each apprentice comes along.
#[utoipa::path(context_path = "/api", tag = "practice", responses((status = 200, body = PracticeView)))]
#[get("/practice")]
pub(crate) async fn read(store: web::Data<Store>) -> Result<web::Json<PracticeView>, Problem> {
    let all = store.practices().await?;
    // What a later Wedge knows is left out, and costs nothing else.
    let fits: Vec<PracticeLine> = all.iter().filter_map(|of| line(of).ok()).collect();
    let level = |level: &Level| LevelLine {
        key: *level,
        label: level.label(),
        words: level.words(),
    };
    Ok(web::Json(PracticeView {
        levels: Level::ALL.iter().map(level).collect(),
        trends: trends(&fits),
        fits,
    }))
}

fn line(practice: &Practice) -> Result<PracticeLine, Problem> {
    Ok(PracticeLine {
        rider: practice.rider,
        session: practice.session,
        apprentice: practice.apprentice.clone(),
        level: level_of(practice)?.label(),
        judge: practice.judge,
        begun: practice.begun,
        ended: (practice.ended.as_deref()).and_then(|text| serde_json::from_str(text).ok()),
    })
}

fn trends(fits: &[PracticeLine]) -> Vec<Trend> {
    let mut by: BTreeMap<&str, Vec<usize>> = BTreeMap::new();
    for fit in fits.iter().rev() {
        if let Some(ended) = &fit.ended {
            by.entry(&fit.apprentice).or_default().push(ended.out[1]);
        }
    }
    let trend = |(apprentice, missed): (&str, Vec<usize>)| Trend {
        words: practised(&missed),
        apprentice: apprentice.to_owned(),
        missed,
    };
    by.into_iter().map(trend).collect()
}

/// A fit of practice to begin.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewPractice {
    /// UUIDv7, made by the client: sending it again is harmless.
    id: Uuid,
    /// Who practises: a name, nothing else is kept.
    apprentice: String,
    level: Level,
    /// Whether the judge helps.
    judge: bool,
    /// The rider to practise on, by number; thrown when left out.
    #[serde(default)]
    seed: Option<u32>,
}

/// A fit of practice that was begun.
#[derive(Serialize, ToSchema)]
pub(crate) struct Begun {
    rider: Uuid,
    /// The fit, at the first look.
    session: Uuid,
}

/// Begins a fit of practice: a rider of that level, measured, on a bike that is taped.
#[utoipa::path(
    context_path = "/api", tag = "practice", request_body = NewPractice,
    responses((status = 200, body = Begun), (status = 422, body = Problem))
)]
#[post("/practice")]
pub(crate) async fn begin(
    store: web::Data<Store>,
    Body(new): Body<NewPractice>,
) -> Result<web::Json<Begun>, Problem> {
    accept(Vec::from_iter(refuse_name(&new.apprentice, "/apprentice")))?;
    if let Some(known) = store.practice(new.id).await? {
        return Ok(web::Json(Begun {
            rider: known.rider,
            session: known.session,
        }));
    }
    let seed = new
        .seed
        .unwrap_or_else(|| rand::random_range(10_000..1_000_000));
    let practice = Practice {
        rider: new.id,
        session: Uuid::now_v7(),
        apprentice: new.apprentice.trim().to_owned(),
        level: new.level.key().to_owned(),
        judge: new.judge,
        begun: Timestamp::now(),
        ended: None,
    };
    let (simulated, house) = (Simulated { seed, laws: LAWS }, store.house().await?.noun);
    let (of, name) = (practice.clone(), format!("Rider {seed}"));
    let level = new.level;
    let rider = worked_out(move || {
        let stranger = Stranger::at(level, seed.into());
        let room = Room::of(stranger.hidden, &stranger.known)?;
        let day = Zoned::now().date();
        Ok(wedge_bench::on_record(
            (of.rider, of.session, name, simulated),
            &stranger.known,
            told_of(&room),
            (&house, day, of.begun),
        )?)
    })
    .await?;
    store.begin_practice(&practice, &rider).await?;
    Ok(web::Json(Begun {
        rider: practice.rider,
        session: practice.session,
    }))
}

/// A fit of practice as it stands; its truth once it is ended.
#[derive(Serialize, ToSchema)]
pub(crate) struct PracticeOpen {
    fit: PracticeLine,
    /// The truth.
    revealed: Option<Revealed>,
    /// The position the bike was left in, to draw the truth over.
    position: Option<wedge_core::position::Position>,
}

/// A fit of practice by its rider.
#[utoipa::path(
    context_path = "/api", tag = "practice",
    responses((status = 200, body = PracticeOpen), (status = 404, body = Problem))
)]
#[get("/practice/{rider}")]
pub(crate) async fn open(
    store: web::Data<Store>,
    rider: web::Path<Uuid>,
) -> Result<web::Json<PracticeOpen>, Problem> {
    let practice = practice_of(&store, *rider).await?;
    let revealed = match practice.ended {
        Some(_) => Some(truth(&store, &practice).await?),
        None => None,
    };
    opened(&practice, revealed).map(web::Json)
}

fn opened(practice: &Practice, truth: Option<(Revealed, Bench)>) -> Result<PracticeOpen, Problem> {
    let (revealed, bench) = truth.unzip();
    Ok(PracticeOpen {
        fit: line(practice)?,
        revealed,
        position: bench.map(|bench| bench.position()).transpose()?,
    })
}

async fn practice_of(store: &Store, rider: Uuid) -> Result<Practice, Problem> {
    let known = store.practice(rider).await?;
    known.ok_or_else(|| Problem::new(StatusCode::NOT_FOUND, "There is no such fit of practice"))
}

/// The truth of a fit of practice: thrown anew, never kept.
async fn truth(store: &Store, practice: &Practice) -> Result<(Revealed, Bench), Problem> {
    let bench = bench(store, practice.session).await?;
    let room = room(store, &bench).await?;
    let seed = bench.rider.simulated.map_or(0, |of| of.seed);
    let level = level_of(practice)?;
    worked_out(move || {
        let left = bench.now()?;
        let tried: Vec<Tried> = (bench.session.trials.iter())
            .filter_map(|trial| {
                Some(Tried {
                    number: trial.number,
                    title: &trial.foreseen.title,
                    was: *bench.session.setup(trial.before)?,
                    is: *bench.session.setup(trial.after)?,
                    said: trial.verdict().map(|verdict| match verdict {
                        Verdict::Better => Felt::Better,
                        Verdict::Same => Felt::Same,
                        Verdict::Worse => Felt::Worse,
                    }),
                })
            })
            .collect();
        let told = revealed((level, seed.into()), &room, &left, &tried)?;
        Ok((told, bench))
    })
    .await
}

/// Ends a fit of practice: from now on its truth is told. A trial on the bench is settled first.
#[utoipa::path(
    context_path = "/api", tag = "practice",
    responses((status = 200, body = PracticeOpen), (status = 404, body = Problem), (status = 409, body = Problem))
)]
#[post("/practice/{rider}/end")]
pub(crate) async fn end(
    store: web::Data<Store>,
    rider: web::Path<Uuid>,
) -> Result<web::Json<PracticeOpen>, Problem> {
    let practice = practice_of(&store, *rider).await?;
    let (told, bench) = truth(&store, &practice).await?;
    if practice.ended.is_none() && bench.session.undecided().is_some() {
        return Err(Problem::new(
            StatusCode::CONFLICT,
            "A trial is on the bench: keep it or put it back first",
        ));
    }
    let kept = serde_json::to_string(&told.ended)
        .map_err(|error| Problem::new(StatusCode::INTERNAL_SERVER_ERROR, error.to_string()))?;
    store.end_practice(practice.rider, &kept).await?;
    opened(&practice_of(&store, *rider).await?, Some((told, bench))).map(web::Json)
}
