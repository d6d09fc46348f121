//! Runs of guided protocols as they stand: what a run shows follows from its calls alone.

use crate::declined::accepted;
use crate::{Bench, Declined};
use jiff::Timestamp;
use serde::Serialize;
use uuid::Uuid;
use wedge_core::foresee::Trying;
use wedge_core::position::Ride;
use wedge_core::trial::{Call, Finding, Guide, Protocol, Run, RunPlan, Screen, guide};
use wedge_files::RunRecord;

/// A run as it is shown.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RunView {
    /// The run's id.
    pub id: Uuid,
    /// Its fit.
    pub session: Uuid,
    /// The rider's name.
    pub rider: String,
    /// Whether he is a stand-in's: he is asked, not watched.
    pub simulated: bool,
    /// The bike's name.
    pub bike: String,
    /// Its protocol.
    pub protocol: Protocol,
    /// What there is to do now.
    pub screen: Screen,
    /// When the clock of what is asked now began to run.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = DateTime))]
    pub clock_from: Timestamp,
    /// The call that can be taken back: what was asked; none when there is none.
    pub last_call: Option<String>,
    /// What it found, or would find if it were kept as it stands now; none while something is asked.
    pub finding: Option<Finding>,
    /// Whether the finding is on record and the run over.
    pub over: bool,
    /// Whether the setting to make now may be looked at.
    pub hidden: bool,
}

/// A run with what it is read with.
#[derive(Debug)]
pub struct Running {
    session: Uuid,
    rider: String,
    simulated: bool,
    bike: String,
    /// As it is on record.
    pub run: RunRecord,
    calls: Vec<Call>,
    ride: Ride,
    /// The hidden order; never shown before the end.
    order: Vec<bool>,
}

impl Bench {
    /// A run to begin on the setup on the bench.
    pub fn begin_run(
        &self,
        id: Uuid,
        started_at: Timestamp,
        plan: RunPlan,
    ) -> Result<RunRecord, Declined> {
        self.go_on()?;
        accepted(plan.refusals("/plan"))?;
        Ok(RunRecord {
            id,
            started_at,
            setup: self.on_the_bench("a protocol")?,
            plan,
            effort: self.session.effort,
            calls: Vec::new(),
            order: Vec::new(),
            ended_at: None,
            finding: None,
        })
    }

    /// A run of this fit, with its hidden order.
    pub fn running(self, id: Uuid, order: Vec<bool>) -> Result<Running, Declined> {
        let run = (self.session.runs.iter())
            .find(|run| run.id == id)
            .cloned()
            .ok_or(Declined::Unknown("run"))?;
        let setup = (self.session.setup(run.setup)).ok_or(Declined::Unknown("setup"))?;
        let mut input = self.input(*setup)?;
        input.effort = run.effort;
        Ok(Running {
            ride: input.check()?,
            session: self.session.id,
            simulated: self.rider.simulated.is_some(),
            rider: self.rider.name,
            bike: self.bike.name,
            calls: run.standing(),
            run,
            order,
        })
    }
}

impl Running {
    /// Asks something of the run.
    fn ask<R>(&self, stopped: bool, ask: impl FnOnce(&Run) -> R) -> R {
        let trying = Trying::of(&self.ride);
        ask(&Run {
            plan: &self.run.plan,
            on: &trying,
            calls: &self.calls,
            stopped,
            order: &self.order,
        })
    }

    fn guide(&self) -> Guide {
        // One ended early is shown as it was ended.
        let over = self.run.finding.is_some();
        let now = self.ask(false, guide);
        if over && now.finding.is_none() {
            self.ask(true, guide)
        } else {
            now
        }
    }

    /// Whether nobody is to know what is ridden.
    pub fn is_blind(&self) -> bool {
        matches!(self.run.plan, RunPlan::Blind(_))
    }

    /// As it is shown.
    pub fn view(self) -> RunView {
        let Guide { screen, finding } = self.guide();
        let over = self.run.finding.is_some();
        RunView {
            id: self.run.id,
            session: self.session,
            protocol: self.run.plan.protocol(),
            clock_from: self.run.clock_from(),
            last_call: (self.calls.last())
                .filter(|_| !over && self.gives_back())
                .map(|call| call.ask.clone()),
            hidden: !over && self.hidden().is_some(),
            // What was found stays as it was found.
            finding: self.run.finding.or(finding),
            rider: self.rider,
            simulated: self.simulated,
            bike: self.bike,
            screen,
            over,
        }
    }

    /// The hidden setting to make now.
    fn hidden(&self) -> Option<String> {
        self.ask(false, |run| self.run.plan.setting(run, &self.run.ever()))
    }

    /// The setting of a blind comparison to make now, and no other.
    pub fn setting(&self) -> Result<String, Declined> {
        if self.run.plan.hides() > 0 && self.order.is_empty() {
            return Err(Declined::not_now(
                "Its order did not travel with the file: end it, and begin anew",
            ));
        }
        let setting = self.hidden().filter(|_| self.run.finding.is_none());
        setting.ok_or_else(|| Declined::not_now("There is no hidden setting to make now"))
    }

    /// Whether something with this id was called or taken back already.
    pub fn knows(&self, id: Uuid) -> bool {
        self.run.calls.iter().any(|call| call.id == id)
    }

    /// What the run has found once this was called: only the last call of a blind comparison ends it by itself.
    pub fn call(&mut self, call: &Call) -> Result<Option<Finding>, Declined> {
        let asked = self.ask(false, guide).screen.ask;
        let Some(ask) = asked.filter(|ask| ask.id == call.ask) else {
            return Err(Declined::not_now(
                "Something else is asked by now: look again, and call that",
            ));
        };
        accepted(Vec::from_iter(ask.refusal(&call.answer, "/call/answer")))?;
        self.calls.push(call.clone());
        Ok(if self.is_blind() {
            self.ask(false, guide).finding
        } else {
            None
        })
    }

    /// Whether the last call may be taken back: of a blind comparison no further than the round just called.
    fn gives_back(&self) -> bool {
        let ever = self.run.ever();
        self.run.plan.gives_back(&self.calls, &ever)
    }

    /// Declined where the last call cannot be taken back.
    pub fn take_back(&self) -> Result<(), Declined> {
        if self.gives_back() {
            return Ok(());
        }
        Err(Declined::not_now(if self.calls.is_empty() {
            "Nothing was called yet: there is nothing to take back"
        } else {
            "The rounds before this one are past: only the last pick can be taken back"
        }))
    }

    /// What it has found, ended as it stands.
    pub fn ended(&self) -> Result<Finding, Declined> {
        let finding = self.ask(true, guide).finding;
        finding.ok_or_else(|| Declined::not_now("This run cannot be ended here"))
    }
}
