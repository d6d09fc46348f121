//! The saddle: schools of height and setback, the gate, the perch, the saddle itself, the map, and what hurts.

use super::extract::{Body, IfMatch};
use super::sessions::view;
use super::view::{Bench, SessionView};
use crate::Problem;
use actix_web::{HttpResponse, get, post, put, web};
use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;
use wedge_core::foresee::{ForeseeInput, Step, position};
use wedge_core::judge::{CauseFacts, ComplaintCauses, causes};
use wedge_core::measure::Quantity;
use wedge_core::school::{
    GateItem, Hung, SaddleNotes, Scale, SetbackEvidence, cleat_scale, gate, height_scale, hung,
    ladders, saddle_advice, setback_advice, setback_scale,
};
use wedge_core::solve::{
    OtherSaddle, PerchRoom, SaddleMap, SetbackParts, Spot, perch_room, saddle_map, setback_parts,
    spot, swap,
};
use wedge_core::trial::{
    Balance, BalanceVariant, Blind, CreepUp, Crept, Feels, Finding, Plumb, PlumbMeasured, Protocol,
    RailSweep, RunPlan, Says, TiltCheck, feels,
};
use wedge_core::units::Sides;
use wedge_files::{Outcome, RunRecord, Session};
use wedge_store::Store;

/// A finding with its place in time.
#[derive(Serialize, ToSchema)]
pub(crate) struct FindingView {
    run: Uuid,
    /// The day of its fit.
    #[schema(value_type = String, format = Date)]
    day: Date,
    finding: Finding,
}

/// What there is to say and to try at the saddle.
#[derive(Serialize, ToSchema)]
pub(crate) struct SaddleView {
    /// The schools of height; none while the rider cannot be put on the bike.
    height: Option<Scale>,
    /// The schools of setback.
    setback: Option<Scale>,
    /// What there is to say of setback besides its schools.
    setback_advice: Vec<String>,
    /// That the model stands off a line that was measured since it was last fitted.
    line_to_fit: Option<String>,
    /// What must be right before setback is judged.
    gate: Vec<GateItem>,
    /// Every landmark's plumb line, as foreseen.
    hung: Vec<Hung>,
    /// What post and rails leave.
    room: Option<PerchRoom>,
    /// What was noted of the saddle.
    notes: SaddleNotes,
    /// What there is to say and to ask about it.
    advice: Vec<String>,
    /// What this rider feels of height and of setback, and the steps that follow.
    feels: Vec<Feels>,
    /// What the protocols of this fit found, the last first.
    findings: Vec<FindingView>,
    /// What those of other fits of this bike found, the last first: to read, not to go by.
    other_fits: Vec<FindingView>,
    /// How each protocol would be set up for this rider, here and now.
    plans: Vec<RunPlan>,
}

/// What was found in a fit, the last first.
fn findings(session: &Session) -> impl Iterator<Item = FindingView> + '_ {
    session.runs.iter().rev().filter_map(|run| {
        Some(FindingView {
            run: run.id,
            day: session.day,
            finding: run.finding.clone()?,
        })
    })
}

/// The last run of a protocol in this fit that found anything worth reading.
fn last(bench: &Bench, protocol: Protocol) -> Option<(&RunRecord, &Finding)> {
    let runs = bench.session.runs.iter().rev();
    runs.filter_map(|run| Some((run, run.finding.as_ref()?)))
        .find(|(_, finding)| finding.protocol == protocol && finding.says != Says::Broken)
}

/// The same, with the rider on the setup it was run on.
fn last_ridden(bench: &Bench, protocol: Protocol) -> Option<(&RunPlan, &Finding, ForeseeInput)> {
    let (run, finding) = last(bench, protocol)?;
    let setup = bench.session.setups.iter().find(|s| s.id == run.setup)?;
    Some((&run.plan, finding, bench.input(setup.setup).ok()?))
}

/// What the last plumb line of this fit measured.
fn plumb(bench: &Bench) -> Option<PlumbMeasured> {
    match last_ridden(bench, Protocol::Plumb)? {
        (RunPlan::Plumb(plan), finding, input) => plan.measured(&input, finding),
        _ => None,
    }
}

/// What to say of a measured line the model was not fitted to since.
fn line_to_fit(bench: &Bench, line: Option<&PlumbMeasured>) -> Option<String> {
    let hung = last(bench, Protocol::Plumb).and_then(|(run, _)| run.ended_at);
    line.filter(|_| bench.fitted_at() < hung)?.off_the_model()
}

/// What the last creep-up of this fit found.
pub(super) fn crept(bench: &Bench) -> Option<Crept> {
    let (_, finding, input) = last_ridden(bench, Protocol::CreepUp)?;
    Crept::of(&input, finding)
}

/// What the rider feels, from every blind comparison ever made.
fn felt(bench: &Bench, quantity: Quantity) -> Feels {
    feels(quantity, bench.picks.iter())
}

fn plans(bench: &Bench, input: &ForeseeInput, height: &Feels, setback: &Feels) -> Vec<RunPlan> {
    vec![
        RunPlan::CreepUp(CreepUp::proposed(input, height.step)),
        RunPlan::RailSweep(RailSweep::proposed(input, setback.step)),
        RunPlan::Balance(Balance {
            variant: BalanceVariant::Tempo,
        }),
        RunPlan::Plumb(Plumb {
            landmark: bench.house.leads.landmark,
        }),
        RunPlan::Tilt(TiltCheck::proposed(input, &bench.session.intake)),
        RunPlan::Blind(Blind::proposed(height)),
    ]
}

/// The saddle on the bench.
#[utoipa::path(
    context_path = "/api", tag = "saddle",
    responses((status = 200, body = SaddleView), (status = 404, body = Problem), (status = 422, body = Problem))
)]
#[get("/sessions/{id}/saddle")]
pub(crate) async fn read(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<SaddleView>, Problem> {
    let bench = Bench::read(&store, *id).await?;
    let input = bench.input(bench.now()?)?;
    let there = position(&input)?;
    let leads = bench.house.leads;
    let intake = &bench.session.intake;
    let paths = bench.knee_paths();
    let looked = paths.left.is_some() && paths.right.is_some();
    let ladders = ladders(&input, &paths, &bench.tried());
    let cleats = Sides::from_fn(|side| cleat_scale(&input, side, leads.cleat));
    let line = plumb(&bench);
    let evidence = SetbackEvidence {
        balance: last(&bench, Protocol::Balance).map(|(_, finding)| finding),
        sweep: last(&bench, Protocol::RailSweep).map(|(_, finding)| finding),
        plumb: line,
        intake,
    };
    let (felt_height, felt_setback) = (
        felt(&bench, Quantity::SaddleHeight),
        felt(&bench, Quantity::Setback),
    );
    Ok(web::Json(SaddleView {
        height: height_scale(&input, crept(&bench), leads.saddle_height, felt_height.step),
        setback: setback_scale(
            &input,
            &evidence,
            (leads.setback, leads.landmark),
            felt_setback.step,
        ),
        setback_advice: setback_advice(&there, leads.landmark),
        line_to_fit: line_to_fit(&bench, line.as_ref()),
        gate: gate(&input, &there, &cleats, (looked, &ladders)),
        hung: hung(&there),
        room: perch_room(&input),
        notes: bench.session.saddle,
        advice: saddle_advice(&input, &bench.session.saddle, intake, bench.pelvis()),
        plans: plans(&bench, &input, &felt_height, &felt_setback),
        feels: vec![felt_height, felt_setback],
        findings: findings(&bench.session).collect(),
        other_fits: bench.other_fits().flat_map(findings).collect(),
    }))
}

/// Writes down what there is to say of the saddle.
#[utoipa::path(
    context_path = "/api", tag = "saddle", request_body = SaddleNotes,
    params(("If-Match" = String, Header, description = "The version it was read at")),
    responses((status = 200, body = SessionView), (status = 412, body = Problem), (status = 422, body = Problem))
)]
#[put("/sessions/{id}/saddle")]
pub(crate) async fn save(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    IfMatch(at): IfMatch,
    Body(notes): Body<SaddleNotes>,
) -> Result<HttpResponse, Problem> {
    let refusals = notes.refusals("");
    if !refusals.is_empty() {
        return Err(Problem::refused(refusals));
    }
    store.save_saddle(*id, &notes, at).await?;
    view(&store, *id).await
}

/// A trial's place on the map.
#[derive(Serialize, ToSchema)]
pub(crate) struct TrialSpot {
    number: i64,
    title: String,
    outcome: Option<Outcome>,
    spot: Spot,
}

/// The map with what was tried on it.
#[derive(Serialize, ToSchema)]
pub(crate) struct MapView {
    map: Option<SaddleMap>,
    /// The saddle as found.
    found: Option<Spot>,
    trials: Vec<TrialSpot>,
}

/// The map around the saddle on the bench.
#[utoipa::path(context_path = "/api", tag = "saddle", responses((status = 200, body = MapView), (status = 404, body = Problem)))]
#[get("/sessions/{id}/saddle/map")]
pub(crate) async fn map(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<MapView>, Problem> {
    let bench = Bench::read(&store, *id).await?;
    let input = bench.input(bench.now()?)?;
    let of = |id: Uuid| {
        let setup = bench.session.setups.iter().find(|setup| setup.id == id)?;
        spot(&input, &setup.setup)
    };
    let trials = bench.session.trials.iter();
    Ok(web::Json(MapView {
        map: saddle_map(&input),
        found: (bench.session.found()).and_then(|found| spot(&input, found)),
        trials: trials
            .filter_map(|trial| {
                Some(TrialSpot {
                    number: trial.number,
                    title: trial.foreseen.title.clone(),
                    outcome: trial.outcome(),
                    spot: of(trial.after)?,
                })
            })
            .collect(),
    }))
}

/// A setback wished for.
#[derive(Deserialize, IntoParams)]
pub(crate) struct WishedSetback {
    /// In the chosen convention.
    setback: f64,
}

/// Which part would give a wished setback, and by how much.
#[utoipa::path(
    context_path = "/api", tag = "saddle", params(WishedSetback),
    responses((status = 200, body = SetbackParts), (status = 404, body = Problem), (status = 422, body = Problem))
)]
#[get("/sessions/{id}/saddle/parts")]
pub(crate) async fn parts(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    wished: web::Query<WishedSetback>,
) -> Result<web::Json<SetbackParts>, Problem> {
    let bench = Bench::read(&store, *id).await?;
    let input = bench.input(bench.now()?)?;
    setback_parts(&input, wished.setback).map_or_else(
        || {
            Err(Problem::field(
                "/setback",
                "No place of this saddle has that setback: check it",
            ))
        },
        |parts| Ok(web::Json(parts)),
    )
}

/// Another saddle in the place of this one, the rider left where they sit: one linked trial, nothing written.
#[utoipa::path(
    context_path = "/api", tag = "saddle", request_body = OtherSaddle,
    responses((status = 200, body = Step), (status = 404, body = Problem), (status = 422, body = Problem))
)]
#[post("/sessions/{id}/saddle/swap")]
pub(crate) async fn swapped(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    Body(new): Body<OtherSaddle>,
) -> Result<web::Json<Step>, Problem> {
    let bench = Bench::read(&store, *id).await?;
    let input = bench.input(bench.now()?)?;
    Ok(web::Json(swap(&input, &new)?))
}

/// From what hurts to what may cause it.
#[derive(Serialize, ToSchema)]
pub(crate) struct CausesView {
    complaints: Vec<ComplaintCauses>,
}

/// What may cause each complaint, as far as saddle, cleats and cranks go.
#[utoipa::path(context_path = "/api", tag = "saddle", responses((status = 200, body = CausesView), (status = 404, body = Problem)))]
#[get("/sessions/{id}/causes")]
pub(crate) async fn why(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<CausesView>, Problem> {
    let bench = Bench::read(&store, *id).await?;
    let input = bench.input(bench.now()?)?;
    let there = position(&input)?;
    let cleats = Sides::from_fn(|side| cleat_scale(&input, side, bench.house.leads.cleat));
    let findings: Vec<Finding> = bench.session.findings().cloned().collect();
    let facts = CauseFacts {
        cleats: &cleats,
        saddle: &bench.session.saddle,
        landmark: bench.house.leads.landmark,
        knees: bench.knee_paths(),
        findings: &findings,
    };
    Ok(web::Json(CausesView {
        complaints: causes(&input, &there, &bench.session.intake, &facts),
    }))
}
