//! Guided protocols: begun, called, taken back, ended. What a run shows follows from its calls alone.

use super::extract::Body;
use super::view::Bench;
use crate::Problem;
use actix_web::http::StatusCode;
use actix_web::{get, post, web};
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use wedge_core::foresee::ForeseeInput;
use wedge_core::trial::{Call, Finding, Guide, Protocol, Run, RunPlan, Screen, guide};
use wedge_files::{CallBody, CallRecord, RunRecord};
use wedge_store::Store;

/// A run to begin.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewRun {
    /// UUIDv7, made by the client: sending it again is harmless.
    id: Uuid,
    plan: RunPlan,
}

/// Something to call.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewCall {
    /// UUIDv7, made by the client: sending it again is harmless.
    id: Uuid,
    call: Call,
}

/// A call to take back.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct TakeBack {
    /// UUIDv7, made by the client: sending it again is harmless.
    id: Uuid,
}

/// A run as it is shown.
#[derive(Serialize, ToSchema)]
pub(crate) struct RunView {
    id: Uuid,
    session: Uuid,
    rider: String,
    bike: String,
    protocol: Protocol,
    /// What there is to do now.
    screen: Screen,
    /// When the clock of what is asked now began to run.
    #[schema(value_type = String, format = DateTime)]
    clock_from: Timestamp,
    /// The call that can be taken back: what was asked; none when there is none.
    last_call: Option<String>,
    /// What it found, or would find if it were kept as it stands now; none while something is asked.
    finding: Option<Finding>,
    /// Whether the finding is on record and the run over.
    over: bool,
    /// Whether the setting to make now may be looked at.
    hidden: bool,
}

/// The setting of a blind comparison to make now.
#[derive(Serialize, ToSchema)]
pub(crate) struct HiddenSetting {
    /// "B: Saddle down 5".
    setting: String,
}

/// A run with what it is read with.
struct Running {
    bench: Bench,
    run: RunRecord,
    calls: Vec<Call>,
    input: ForeseeInput,
    /// The hidden order; never shown before the end.
    order: Vec<bool>,
}

impl Running {
    async fn read(store: &Store, id: Uuid) -> Result<Self, Problem> {
        let session = store.session_of_run(id).await?;
        let bench = Bench::read(store, session).await?;
        let known =
            |what: &str| Problem::new(StatusCode::NOT_FOUND, format!("There is no such {what}"));
        let run = (bench.session.runs.iter())
            .find(|run| run.id == id)
            .cloned()
            .ok_or_else(|| known("run"))?;
        let setup = (bench.session.setups.iter())
            .find(|setup| setup.id == run.setup)
            .ok_or_else(|| known("setup"))?
            .setup;
        let mut input = bench.input(setup)?;
        input.effort = run.effort;
        Ok(Self {
            order: store.order_of_run(id).await?,
            calls: run.standing(),
            bench,
            run,
            input,
        })
    }

    fn as_run(&self, stopped: bool) -> Run<'_> {
        Run {
            plan: &self.run.plan,
            input: &self.input,
            calls: &self.calls,
            stopped,
            order: &self.order,
        }
    }

    fn guide(&self) -> Guide {
        // One ended early is shown as it was ended.
        let over = self.run.finding.is_some();
        let now = guide(&self.as_run(false));
        if over && now.finding.is_none() {
            guide(&self.as_run(true))
        } else {
            now
        }
    }

    fn is_blind(&self) -> bool {
        matches!(self.run.plan, RunPlan::Blind(_))
    }

    fn view(self) -> RunView {
        let Guide { screen, finding } = self.guide();
        let over = self.run.finding.is_some();
        RunView {
            id: self.run.id,
            session: self.bench.session.id,
            protocol: self.run.plan.protocol(),
            clock_from: self.run.clock_from(),
            last_call: (self.calls.last())
                .filter(|_| !over && self.gives_back())
                .map(|call| call.ask.clone()),
            hidden: !over && self.is_blind() && self.setting().is_some(),
            // What was found stays as it was found.
            finding: self.run.finding.or(finding),
            rider: self.bench.rider_name,
            bike: self.bench.bike.noun.name,
            screen,
            over,
        }
    }

    fn setting(&self) -> Option<String> {
        match &self.run.plan {
            RunPlan::Blind(blind) => blind.setting(&self.as_run(false), &self.run.ever()),
            _ => None,
        }
    }

    /// Whether the last call may be taken back: of a blind comparison no further than the round just called.
    fn gives_back(&self) -> bool {
        match &self.run.plan {
            RunPlan::Blind(blind) => blind.gives_back(&self.calls, &self.run.ever()),
            _ => !self.calls.is_empty(),
        }
    }
}

/// Begins a run from the setup on the bench. The order of a blind comparison is thrown here and stays on record alone.
#[utoipa::path(
    context_path = "/api", tag = "runs", request_body = NewRun,
    responses((status = 200, body = RunView), (status = 409, body = Problem), (status = 422, body = Problem))
)]
#[post("/sessions/{id}/runs")]
pub(crate) async fn begin(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    Body(new): Body<NewRun>,
) -> Result<web::Json<RunView>, Problem> {
    let bench = Bench::read(&store, *id).await?;
    bench.go_on()?;
    let refusals = new.plan.refusals("/plan");
    if !refusals.is_empty() {
        return Err(refusals.into());
    }
    let Some(setup) = bench.session.now else {
        return Err(Problem::new(
            StatusCode::CONFLICT,
            "Close the bike as found before a protocol",
        ));
    };
    let order: Vec<bool> = match &new.plan {
        RunPlan::Blind(blind) => (0..blind.rounds).map(|_| rand::random()).collect(),
        _ => Vec::new(),
    };
    let run = RunRecord {
        id: new.id,
        started_at: Timestamp::now(),
        setup,
        plan: new.plan,
        effort: bench.session.effort,
        calls: Vec::new(),
        order: Vec::new(),
        ended_at: None,
        finding: None,
    };
    store.begin_run(*id, &run, &order).await?;
    read_view(&store, new.id).await
}

/// A run as it stands.
#[utoipa::path(context_path = "/api", tag = "runs", responses((status = 200, body = RunView), (status = 404, body = Problem)))]
#[get("/runs/{id}")]
pub(crate) async fn read(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<RunView>, Problem> {
    read_view(&store, *id).await
}

async fn read_view(store: &Store, id: Uuid) -> Result<web::Json<RunView>, Problem> {
    Ok(web::Json(Running::read(store, id).await?.view()))
}

/// Calls what is asked. The last call of a blind comparison ends it: then the order is known.
#[utoipa::path(
    context_path = "/api", tag = "runs", request_body = NewCall,
    responses((status = 200, body = RunView), (status = 409, body = Problem), (status = 422, body = Problem))
)]
#[post("/runs/{id}/calls")]
pub(crate) async fn add_call(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    Body(new): Body<NewCall>,
) -> Result<web::Json<RunView>, Problem> {
    let mut running = Running::read(&store, *id).await?;
    if running.run.calls.iter().any(|call| call.id == new.id) {
        return Ok(web::Json(running.view()));
    }
    let ask = guide(&running.as_run(false)).screen.ask;
    let Some(ask) = ask.filter(|ask| ask.id == new.call.ask) else {
        return Err(Problem::new(
            StatusCode::CONFLICT,
            "Something else is asked by now: look again, and call that",
        ));
    };
    if let Some(refusal) = ask.refusal(&new.call.answer, "/call/answer") {
        return Err(vec![refusal].into());
    }
    let known = running.run.calls.len();
    running.calls.push(new.call.clone());
    let finding = if running.is_blind() {
        guide(&running.as_run(false)).finding
    } else {
        None
    };
    let record = CallRecord {
        id: new.id,
        at: Timestamp::now(),
        body: CallBody::Called(new.call),
    };
    store
        .add_call(*id, &record, known, finding.as_ref())
        .await?;
    read_view(&store, *id).await
}

/// Takes the last call back. It stays on record and counts no more.
#[utoipa::path(
    context_path = "/api", tag = "runs", request_body = TakeBack,
    responses((status = 200, body = RunView), (status = 409, body = Problem))
)]
#[post("/runs/{id}/back")]
pub(crate) async fn take_back(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
    Body(back): Body<TakeBack>,
) -> Result<web::Json<RunView>, Problem> {
    let running = Running::read(&store, *id).await?;
    if running.run.calls.iter().any(|call| call.id == back.id) {
        return Ok(web::Json(running.view()));
    }
    if !running.gives_back() {
        return Err(Problem::new(
            StatusCode::CONFLICT,
            if running.calls.is_empty() {
                "Nothing was called yet: there is nothing to take back"
            } else {
                "The rounds before this one are past: only the last pick can be taken back"
            },
        ));
    }
    let record = CallRecord {
        id: back.id,
        at: Timestamp::now(),
        body: CallBody::TakenBack,
    };
    store
        .add_call(*id, &record, running.run.calls.len(), None)
        .await?;
    read_view(&store, *id).await
}

/// Ends a run and keeps what it found as evidence, whether it came to its end or not.
#[utoipa::path(context_path = "/api", tag = "runs", responses((status = 200, body = RunView), (status = 409, body = Problem)))]
#[post("/runs/{id}/end")]
pub(crate) async fn end(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<RunView>, Problem> {
    let running = Running::read(&store, *id).await?;
    let Some(finding) = guide(&running.as_run(true)).finding else {
        return Err(Problem::new(
            StatusCode::CONFLICT,
            "This run cannot be ended here",
        ));
    };
    store
        .end_run(*id, &finding, running.run.calls.len(), Timestamp::now())
        .await?;
    read_view(&store, *id).await
}

/// The setting of a blind comparison to make now, and no other.
#[utoipa::path(context_path = "/api", tag = "runs", responses((status = 200, body = HiddenSetting), (status = 409, body = Problem)))]
#[get("/runs/{id}/setting")]
pub(crate) async fn setting(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<HiddenSetting>, Problem> {
    let running = Running::read(&store, *id).await?;
    if running.is_blind() && running.order.is_empty() {
        return Err(Problem::new(
            StatusCode::CONFLICT,
            "Its order did not travel with the file: end it, and begin anew",
        ));
    }
    let setting = running.setting().filter(|_| running.run.finding.is_none());
    setting.map_or_else(
        || {
            Err(Problem::new(
                StatusCode::CONFLICT,
                "There is no hidden setting to make now",
            ))
        },
        |setting| Ok(web::Json(HiddenSetting { setting })),
    )
}
