//! The hand-out: the sheet for the rider and the next mechanic.

use crate::trial::{front_work, trial_views};
use crate::{Bench, Declined, FrontWork, HandedOver, TrialView};
use jiff::civil::Date;
use serde::Serialize;
use wedge_core::bike::StackPart;
use wedge_core::foresee::{Foresight, Trying, foresee_on};
use wedge_core::handout::{Line, Origins, table};
use wedge_core::rider::{Effort, Length, Lengths, Source};
use wedge_core::school::crept_by_now;
use wedge_core::trial::Says;
use wedge_core::work::{CAUTIONS, self_check};
use wedge_files::{Outcome, SessionState, Trial};

/// The sheet.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Handout {
    /// As the studio is called; nameless when empty.
    pub studio: String,
    /// The rider's name.
    pub rider: String,
    /// Whether the rider is a stand-in's: the sheet is of nobody, and says so.
    pub simulated: bool,
    /// The bike's name.
    pub bike: String,
    /// Whether that is a fit stand: then the sheet is a position, not a bike to set up.
    pub stand: bool,
    /// The how-manieth fit of the bike.
    pub number: i64,
    /// The day of the fit.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = Date))]
    pub day: Date,
    /// Whether the fit is finished; a sheet of an open fit says so.
    pub finished: bool,
    /// The effort of its tests.
    pub effort: Option<Effort>,
    /// Found, left and difference with each convention.
    pub table: Vec<Line>,
    /// Which point of the saddle the sit reference is.
    pub sit_reference: &'static str,
    /// What the rider came with that the next reader must know: why the fit went on, where it hurts.
    pub intake: Vec<String>,
    /// What guided protocols found.
    pub evidence: Vec<String>,
    /// The front-end work of the last kept trial that asked for any, with what was done of it.
    pub front_work: Option<FrontWorkDone>,
    /// What waits for the next bike.
    pub next_bike: Vec<String>,
    /// Trials in order, with the rider's words.
    pub trials: Vec<TrialView>,
    /// Why each kept change was made, what remains likely, and what a clinician is asked.
    pub judged: HandedOver,
    /// The bike as found.
    pub found: Foresight,
    /// The bike as left.
    pub left: Foresight,
    /// Body lengths that were estimated, not measured.
    pub estimated: Vec<Length>,
    /// When to come back, once that is settled.
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>, format = Date))]
    pub follow_up: Option<Date>,
    /// What stands at its foot.
    pub cautions: &'static [&'static str],
    /// What the rider should feel for between visits.
    pub self_check: String,
    /// What tape and parts disagree about, when they do.
    pub disagreement: Option<String>,
}

/// The work at the front end as the next mechanic reads it.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FrontWorkDone {
    /// Of which trial.
    pub title: String,
    /// What stands on the steerer.
    pub stack: Vec<StackPart>,
    /// Each step, done or not.
    pub steps: Vec<FrontWork>,
}

fn front_work_done(trials: &[Trial]) -> Option<FrontWorkDone> {
    let mut kept = (trials.iter().rev()).filter(|t| t.outcome() == Some(Outcome::Kept));
    kept.find_map(|trial| {
        let steps = front_work(trial);
        (!steps.is_empty()).then(|| FrontWorkDone {
            title: trial.foreseen.title.clone(),
            stack: trial.foreseen.stack.clone(),
            steps,
        })
    })
}

impl Bench {
    /// The hand-out of this fit.
    pub fn handout(self) -> Result<Handout, Declined> {
        let Some(found_setup) = self.session.found().copied() else {
            return Err(Declined::not_now(
                "Nothing to hand out yet: the bike as found is not closed",
            ));
        };
        let left_setup = self.now()?;
        let ride = self.ride(left_setup)?;
        let found = foresee_on(&self.ride(found_setup)?, &[])?;
        let left = foresee_on(&ride, &[])?;
        let by_now = (self.crept()).and_then(|crept| crept_by_now(&Trying::of(&ride), &crept));
        let findings = || self.session.findings();
        let readings = self.bike_readings();
        let kept = |trial: &&Trial| trial.outcome() == Some(Outcome::Kept);
        let last = (self.session.trials.iter().rev().find(kept)).map(|t| t.foreseen.title.clone());
        let judged = self.handed_over();
        Ok(Handout {
            judged,
            studio: self.house.name.clone(),
            follow_up: self.session.follow_up,
            rider: self.rider.name.clone(),
            simulated: self.rider.simulated.is_some(),
            bike: self.bike.name.clone(),
            stand: self.bike.stand,
            number: self.session.number,
            day: self.session.day,
            finished: self.session.state == SessionState::Finished,
            effort: self.session.effort,
            table: table(
                (&found.after, &found_setup),
                (&left.after, &left_setup),
                Origins {
                    readings: &readings,
                    usual: self.bike.usual.as_deref(),
                    simulated: self.rider.simulated.is_some(),
                },
            ),
            disagreement: left_setup.residual.question(),
            sit_reference: self.session.conventions.sit_reference.words(),
            intake: self.session.intake.handout(),
            evidence: findings()
                .filter(|finding| finding.says != Says::Broken)
                .map(|finding| format!("{}: {}", finding.protocol.label(), finding.words.join(" ")))
                .chain(by_now)
                .collect(),
            front_work: front_work_done(&self.session.trials),
            next_bike: findings()
                .filter_map(|finding| finding.next_bike.clone())
                .collect(),
            estimated: estimated(&left.lengths),
            self_check: self_check(last.as_deref()),
            trials: trial_views(self.session.trials),
            found,
            left,
            cautions: CAUTIONS,
        })
    }
}

/// The lengths that were estimated, those of both sides said once.
fn estimated(lengths: &Lengths) -> Vec<Length> {
    let mut all: Vec<Length> = vec![
        lengths.inseam,
        lengths.trunk,
        lengths.shoulder_breadth,
        lengths.upper_arm,
        lengths.forearm,
    ];
    for leg in [&lengths.legs.right, &lengths.legs.left] {
        all.extend([leg.thigh, leg.shank, leg.ankle_height, leg.foot_length]);
    }
    all.retain(|length| length.source == Source::Estimated);
    let mut said = Vec::new();
    all.retain(|length| {
        let new = !said.contains(&length.quantity);
        said.push(length.quantity);
        new
    });
    all
}
