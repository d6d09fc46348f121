//! One fit of one bike.

use super::{
    AfterBody, AfterEntry, CalibrationRecord, Dispute, Disputed, LookBody, LookEntry, LookSeen,
    ReadingRecord, RunRecord, SetupRecord, Take, Trial, in_one_visit, refuse_effort, refuse_number,
};
use jiff::Timestamp;
use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use std::collections::HashMap;
use uuid::Uuid;
use wedge_core::bike::{HandPlace, Setup};
use wedge_core::foresee::{Look, Sighting};
use wedge_core::intake::Intake;
use wedge_core::measure::{Conventions, Method, Refusal};
use wedge_core::rider::Effort;
use wedge_core::school::{SaddleNotes, Shoe};
use wedge_core::trial::{Finding, RunPlan};
use wedge_core::units::{Side, Sides};
use wedge_core::work::Station;

/// Whether a fit is going on.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum SessionState {
    /// Going on; one per bike.
    Open,
    /// Finished, and never changed again.
    Finished,
}

/// One fit of one bike.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Session {
    /// Made by the client.
    pub id: Uuid,
    /// The how-manieth fit of the bike, from 1.
    pub number: i64,
    /// The day of the fit where the studio is.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = Date))]
    pub day: Date,
    /// Whether it is going on.
    pub state: SessionState,
    /// Where on the way the fitter stands.
    pub station: Station,
    /// How lengths are read and written here.
    pub conventions: Conventions,
    /// The effort of its tests.
    pub effort: Option<Effort>,
    /// Where the hands are looked at; the bar's main place when none.
    #[serde(default)]
    pub hands: Option<HandPlace>,
    /// What the rider came with.
    #[serde(default)]
    pub intake: Intake,
    /// What was noted of the shoes.
    #[serde(default)]
    pub shoes: Sides<Shoe>,
    /// What was noted of the saddle.
    #[serde(default)]
    pub saddle: SaddleNotes,
    /// When the rider is to come back.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>, format = Date))]
    pub follow_up: Option<Date>,
    /// The setup the fit began from.
    pub base: Setup,
    /// Readings of the bike, in the order they were taken.
    pub readings: Vec<ReadingRecord>,
    /// Every setup recorded, in order. The first is the bike as found, once that is closed.
    pub setups: Vec<SetupRecord>,
    /// The setup on the bench now; the bike as found until the first trial.
    pub now: Option<Uuid>,
    /// What was seen of the rider, in order.
    #[serde(default)]
    pub looks: Vec<LookEntry>,
    /// The rider fitted to what was seen, in order; the last counts.
    #[serde(default)]
    pub calibrations: Vec<CalibrationRecord>,
    /// Every trial, in order.
    pub trials: Vec<Trial>,
    /// Guided protocols, in order.
    #[serde(default)]
    pub runs: Vec<RunRecord>,
    /// Where the fitter disagreed with the judge, in order.
    #[serde(default)]
    pub disputes: Vec<Dispute>,
    /// What cameras, film and trainers gave, in order.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub takes: Vec<Take>,
    /// Plans, and who was asked what, in order.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub afterwards: Vec<AfterEntry>,
}

impl Session {
    /// Everything about it that cannot be accepted, pointing below `at`: what does not read right, and what points at a
    /// setup that is not there.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        let mut all = self.conventions.refusals(&format!("{at}/conventions"));
        all.extend(refuse_number(self.number, &format!("{at}/number")));
        let mut last = 0;
        for (index, trial) in self.trials.iter().enumerate() {
            let at = format!("{at}/trials/{index}/number");
            all.extend(refuse_number(trial.number, &at));
            if trial.number <= last {
                all.push(Refusal::new(at, "Trials are numbered in their order"));
            }
            last = trial.number;
        }
        all.extend(self.base.refusals(&format!("{at}/base")));
        all.extend(self.intake.refusals(&format!("{at}/intake")));
        all.extend(refuse_effort(self.effort, at));
        for side in Side::BOTH {
            let at = format!("{at}/shoes/{}", side.word());
            all.extend(self.shoes.of(side).refusals(&at));
        }
        all.extend(self.saddle.refusals(&format!("{at}/saddle")));
        for (index, record) in self.readings.iter().enumerate() {
            all.extend(record.reading.refusals(&format!("{at}/readings/{index}")));
        }
        for (index, record) in self.setups.iter().enumerate() {
            all.extend(record.setup.refusals(&format!("{at}/setups/{index}")));
        }
        for (index, look) in self.looks.iter().enumerate() {
            all.extend(look.refusals(&format!("{at}/looks/{index}")));
        }
        for (index, record) in self.calibrations.iter().enumerate() {
            if let Some(calibration) = &record.calibration {
                let at = format!("{at}/calibrations/{index}/calibration/fit");
                all.extend(calibration.fit.refusals(&at));
            }
        }
        for (index, run) in self.runs.iter().enumerate() {
            all.extend(run.refusals(&format!("{at}/runs/{index}")));
        }
        for (index, entry) in self.afterwards.iter().enumerate() {
            let at = format!("{at}/afterwards/{index}");
            all.extend(entry.refusals(&at));
            if let AfterBody::Answered(answered) = &entry.body
                && !self.asks(answered.referral)
            {
                let at = format!("{at}/body/answered/referral");
                all.push(Refusal::new(at, "There is no such referral here"));
            }
        }
        for (index, dispute) in self.disputes.iter().enumerate() {
            all.extend(dispute.refusals(&format!("{at}/disputes/{index}")));
        }
        for (index, trial) in self.trials.iter().enumerate() {
            all.extend(trial.refusals(&format!("{at}/trials/{index}")));
        }
        for (index, take) in self.takes.iter().enumerate() {
            all.extend(take.refusals(&format!("{at}/takes/{index}")));
        }
        all.extend(self.strays(at));
        all
    }

    /// Where it points at a setup that is not there.
    fn strays(&self, at: &str) -> Vec<Refusal> {
        let looks = self.looks.iter().enumerate();
        let runs = self.runs.iter().enumerate();
        let takes = self.takes.iter().enumerate();
        let trials = self.trials.iter().enumerate();
        let pointers = (self.now.map(|now| ("/now".to_owned(), now)).into_iter())
            .chain(looks.map(|(index, look)| (format!("/looks/{index}/setup"), look.setup)))
            .chain(runs.map(|(index, run)| (format!("/runs/{index}/setup"), run.setup)))
            .chain(takes.map(|(index, take)| (format!("/takes/{index}/setup"), take.setup)))
            .chain(trials.flat_map(|(index, trial)| {
                let pointer = |key| format!("/trials/{index}/{key}");
                [
                    (pointer("before"), trial.before),
                    (pointer("after"), trial.after),
                ]
            }));
        let known = |id: &Uuid| self.setups.iter().any(|setup| setup.id == *id);
        let mut all: Vec<Refusal> = pointers
            .filter(|(_, setup)| !known(setup))
            .map(|(pointer, _)| {
                Refusal::new(at.to_owned() + &pointer, "no such setup in the session")
            })
            .collect();
        if self.now.is_none() && !self.setups.is_empty() {
            all.push(Refusal::new(
                format!("{at}/now"),
                "a session with setups has one on the bench",
            ));
        }
        all
    }

    /// Gives everything in it a new id; what names a setup names its new one.
    pub(super) fn renew(&mut self, new_id: &mut impl FnMut() -> Uuid) {
        self.id = new_id();
        self.readings.iter_mut().for_each(|r| r.id = new_id());
        let setups: HashMap<Uuid, Uuid> = self
            .setups
            .iter_mut()
            .map(|setup| {
                let old = std::mem::replace(&mut setup.id, new_id());
                (old, setup.id)
            })
            .collect();
        let renewed = |id: Uuid| setups.get(&id).copied().unwrap_or(id);
        self.now = self.now.map(renewed);
        for look in &mut self.looks {
            look.id = new_id();
            look.setup = renewed(look.setup);
        }
        self.calibrations.iter_mut().for_each(|c| c.id = new_id());
        for run in &mut self.runs {
            run.id = new_id();
            run.setup = renewed(run.setup);
            run.calls.iter_mut().for_each(|c| c.id = new_id());
        }
        for take in &mut self.takes {
            take.id = new_id();
            take.setup = renewed(take.setup);
        }
        let disputes: HashMap<Uuid, Uuid> = (self.disputes.iter_mut())
            .map(|dispute| {
                let old = std::mem::replace(&mut dispute.id, new_id());
                (old, dispute.id)
            })
            .collect();
        for dispute in &mut self.disputes {
            if let Disputed::TakenBack(id) = &mut dispute.about {
                *id = disputes.get(id).copied().unwrap_or(*id);
            }
        }
        let asked: HashMap<Uuid, Uuid> = (self.afterwards.iter_mut())
            .map(|entry| {
                let old = std::mem::replace(&mut entry.id, new_id());
                (old, entry.id)
            })
            .collect();
        for entry in &mut self.afterwards {
            if let AfterBody::Answered(answered) = &mut entry.body {
                let id = &mut answered.referral;
                *id = asked.get(id).copied().unwrap_or(*id);
            }
        }
        for trial in &mut self.trials {
            trial.id = new_id();
            (trial.before, trial.after) = (renewed(trial.before), renewed(trial.after));
            trial.entries.iter_mut().for_each(|e| e.id = new_id());
        }
    }

    /// Whether somebody was asked under this id.
    pub fn asks(&self, referral: Uuid) -> bool {
        let of = |entry: &AfterEntry| matches!(entry.body, AfterBody::Referral(_));
        (self.afterwards.iter()).any(|entry| entry.id == referral && of(entry))
    }

    /// A setup of the fit by its id.
    pub fn setup(&self, id: Uuid) -> Option<&Setup> {
        let record = self.setups.iter().find(|record| record.id == id)?;
        Some(&record.setup)
    }

    /// The bike as found, once closed.
    pub fn found(&self) -> Option<&Setup> {
        self.setups.first().map(|s| &s.setup)
    }

    /// The setup on the bench, once the bike as found is closed.
    pub fn now(&self) -> Option<&Setup> {
        self.setup(self.now?)
    }

    /// The last instant of a finished fit; `None` while it is going on.
    pub(super) fn finished_by(&self) -> Option<Timestamp> {
        if self.state == SessionState::Open {
            return None;
        }
        self.written().max()
    }

    /// When everything that settles something was written down.
    fn written(&self) -> impl Iterator<Item = Timestamp> {
        let entries = self
            .trials
            .iter()
            .flat_map(|t| t.entries.iter().map(|e| e.at));
        let setups = self.setups.iter().map(|s| s.recorded_at);
        let looks = self.looks.iter().map(|l| l.at);
        let takes = self.takes.iter().map(|t| t.at);
        let calibrations = self.calibrations.iter().map(|c| c.at);
        let runs = self.runs.iter().filter_map(|r| r.ended_at);
        entries
            .chain(setups)
            .chain(looks)
            .chain(takes)
            .chain(calibrations)
            .chain(runs)
    }

    /// The time of what is written down now: never before what stands here already, whatever became of the clock.
    pub fn no_earlier(&self, now: Timestamp) -> Timestamp {
        let tried = self.trials.iter().map(|t| t.tried_at);
        let begun = self.runs.iter().map(|r| r.started_at);
        let called = self.runs.iter().flat_map(|r| r.calls.iter().map(|c| c.at));
        let disputed = self.disputes.iter().map(|d| d.at);
        let all = tried
            .chain(begun)
            .chain(called)
            .chain(disputed)
            .chain(self.afterwards.iter().map(|a| a.at))
            .chain(self.written());
        all.max().map_or(now, |last| now.max(last))
    }

    /// Everything seen, look by look, for calibration: what was seen of a setup in one visit with the hands in a place,
    /// every reading of it, what was seen of trials, and where plumb lines hung.
    pub fn looks(&self) -> Vec<Look> {
        let mut all = Looks::default();
        for look in &self.looks {
            if let LookBody::Seen(seen) = look.body {
                all.see(look.setup, look.hands, look.at, seen);
            }
        }
        for trial in &self.trials {
            for seen in trial.seen() {
                let seen = LookSeen {
                    output: seen.output,
                    side: seen.side,
                    value: seen.value,
                    method: Method::Goniometer,
                    spread: None,
                };
                all.see(trial.after, self.hands, trial.tried_at, seen);
            }
        }
        for run in &self.runs {
            let (RunPlan::Plumb(plan), Some(finding)) = (&run.plan, &run.finding) else {
                continue;
            };
            for sighting in plan.sightings(finding) {
                let at = run.ended_at.unwrap_or(run.started_at);
                all.see(run.setup, self.hands, at, sighting.into());
            }
        }
        all.over(self)
    }

    /// The protocol still going on.
    pub fn run(&self) -> Option<&RunRecord> {
        self.runs.iter().find(|run| run.finding.is_none())
    }

    /// What the protocols of this fit found, in order.
    pub fn findings(&self) -> impl DoubleEndedIterator<Item = &Finding> {
        self.runs.iter().filter_map(|run| run.finding.as_ref())
    }

    /// The trial still waiting for its outcome.
    pub fn undecided(&self) -> Option<&Trial> {
        self.trials.iter().find(|t| t.outcome().is_none())
    }
}

/// One visit's look at a setup, while everything seen is gathered.
struct Visit {
    setup: Uuid,
    hands: Option<HandPlace>,
    at: Timestamp,
    seen: Vec<Sighting>,
}

/// Everything seen, look by look.
#[derive(Default)]
struct Looks(Vec<Visit>);

impl Looks {
    /// One more reading; none takes the last of its kind back.
    fn see(&mut self, setup: Uuid, hands: Option<HandPlace>, at: Timestamp, seen: LookSeen) {
        let same = |visit: &Visit| {
            (visit.setup, visit.hands) == (setup, hands) && in_one_visit(at, visit.at)
        };
        let place = self.0.iter().position(same).unwrap_or_else(|| {
            self.0.push(Visit {
                setup,
                hands,
                at,
                seen: Vec::new(),
            });
            self.0.len() - 1
        });
        seen.read_into(&mut self.0[place].seen);
    }

    /// The looks of a session, each as old as it is against the latest.
    fn over(self, session: &Session) -> Vec<Look> {
        let latest = self.0.iter().map(|visit| visit.at).max();
        let weeks = |at: Timestamp| {
            latest.map_or(0.0, |latest| {
                latest.duration_since(at).as_secs_f64() / SECONDS_A_WEEK
            })
        };
        let times: Vec<Timestamp> = self.0.iter().map(|visit| visit.at).collect();
        (self.0.into_iter())
            .filter(|visit| !visit.seen.is_empty())
            .filter_map(|visit| {
                let setup = *session.setup(visit.setup)?;
                let in_this = |at: &Timestamp| in_one_visit(visit.at, *at);
                Some(Look {
                    visit: times.iter().position(in_this).unwrap_or_default(),
                    setup,
                    hands: visit.hands,
                    weeks: weeks(visit.at),
                    seen: visit.seen,
                })
            })
            .collect()
    }
}

const SECONDS_A_WEEK: f64 = 7.0 * 24.0 * 3600.0;
