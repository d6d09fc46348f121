//! What leaves a fit and what comes back: the plan as it stands today, who was asked, and what a visit that is due asks.

use crate::ledger::paused;
use crate::{Bench, Declined};
use jiff::civil::Date;
use jiff::{Span, Timestamp};
use serde::Serialize;
use uuid::Uuid;
use wedge_core::between::{HOLD_DAYS, Target, moves_the_knee, plan, planned_with};
use wedge_core::foresee::Trying;
use wedge_core::measure::{Quantity, Refusal};
use wedge_core::words::lower;
use wedge_files::{AfterBody, Plan, PlannedStep, Referral, Session};

/// A plan, referrals, and what they may begin from.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BetweenView {
    /// Why steps are to be small; none when they need not be.
    pub careful: Option<String>,
    /// How many days a step is held, when nobody says.
    pub hold_days: i32,
    /// What can be planned, upstream first.
    pub bolts: Vec<Quantity>,
    /// What of it the post can answer so that the knee stays.
    pub linked: Vec<Quantity>,
    /// The plan as it stands.
    pub plan: Option<PlanView>,
    /// Who was asked, the latest first.
    pub referrals: Vec<ReferralView>,
    /// What asks for a referral: red flags, and what the judge cannot mend.
    pub suggested: Vec<String>,
}

/// A plan as it stands.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PlanView {
    /// The how-manieth plan of the fit, from 1.
    pub revision: usize,
    /// Its steps.
    pub steps: Vec<PlannedStep>,
    /// Which step is held today, from 0; none before the first.
    pub today: Option<usize>,
    /// "Step 2 of 5 today; the next on 7 Dec 2026."
    pub words: String,
    /// Why it waits.
    pub paused: Option<String>,
    /// When it was made.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = DateTime))]
    pub at: Timestamp,
}

/// Somebody who was asked.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ReferralView {
    /// Its id.
    pub id: Uuid,
    /// As it is on record.
    pub referral: Referral,
    /// "Physiotherapist: numb hands. Does the neck …?"
    pub words: String,
    /// What they said; none while nothing came back.
    pub answered: Option<String>,
    /// Whether an answer should have come by now.
    pub overdue: bool,
}

/// A visit that was promised.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct VisitView {
    /// The fit it follows up.
    pub session: Uuid,
    /// Its version, for a new day.
    pub version: i64,
    /// Who.
    pub rider_id: Uuid,
    /// By name.
    pub rider: String,
    /// On what.
    pub bike: String,
    /// When.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = Date))]
    pub day: Date,
    /// Whether the day has come.
    pub due: bool,
    /// "due in 5 days".
    pub words: String,
    /// What to ask.
    pub ask: Vec<String>,
}

/// "7 Dec 2026".
pub fn day_words(day: Date) -> String {
    day.strftime("%-d %b %Y").to_string()
}

/// The plan that stands, with how many there were: a fit's last one, unless that withdrew it.
pub fn plan_of(session: &Session) -> Option<(usize, Timestamp, &Plan)> {
    let all = plans(session);
    let (at, plan) = *all.last()?;
    (!plan.steps.is_empty()).then_some((all.len(), at, plan))
}

/// Every plan of a fit with when it was kept, the first first.
pub(crate) fn plans(session: &Session) -> Vec<(Timestamp, &Plan)> {
    let plans = (session.afterwards.iter()).filter_map(|entry| match &entry.body {
        AfterBody::Plan(plan) => Some((entry.at, plan)),
        _ => None,
    });
    plans.collect()
}

impl PlanView {
    fn of(session: &Session, today: Date) -> Option<Self> {
        let (revision, at, plan) = plan_of(session)?;
        let begun = plan.begun(today);
        let count = plan.steps.len();
        let next =
            (plan.steps.get(begun)).map(|step| format!("the next on {}", day_words(step.on)));
        let paused = paused(session);
        let words = match (begun, next) {
            _ if paused.is_some() => format!("Step {begun} of {count} is held until then."),
            (0, Some(next)) => format!(
                "Not begun: {}.",
                next.replacen("the next", "the first step", 1)
            ),
            (_, Some(next)) => format!("Step {begun} of {count} today; {next}."),
            (_, None) => format!("Step {count} of {count}, the last one, is held."),
        };
        Some(Self {
            revision,
            steps: plan.steps.clone(),
            today: begun.checked_sub(1),
            paused,
            words,
            at,
        })
    }
}

fn referrals(session: &Session, today: Date) -> Vec<ReferralView> {
    let answer = |id: Uuid| {
        let mut answers = session.afterwards.iter().rev();
        answers.find_map(|entry| match &entry.body {
            AfterBody::Answered(answered) if answered.referral == id => Some(answered.said.clone()),
            _ => None,
        })
    };
    let asked = session
        .afterwards
        .iter()
        .rev()
        .filter_map(|entry| match &entry.body {
            AfterBody::Referral(referral) => Some((entry.id, referral)),
            _ => None,
        });
    asked
        .map(|(id, referral)| {
            let answered = answer(id);
            ReferralView {
                id,
                words: format!("{}: {}", referral.to.label(), lower(&referral.what)),
                overdue: answered.is_none() && referral.back_by.is_some_and(|by| by < today),
                answered,
                referral: referral.clone(),
            }
        })
        .collect()
}

/// The plan as the rider reads it: "From 7 Dec 2026: saddle up 5. Pain behind the knee: one step back."
pub(crate) fn plan_lines(session: &Session) -> Vec<String> {
    let steps = plan_of(session).map(|(_, _, plan)| plan.steps.as_slice());
    (steps.unwrap_or_default().iter())
        .map(|step| {
            format!(
                "From {}: {} ({}). {}",
                day_words(step.on),
                lower(&step.title),
                lower(&step.words),
                step.stop
            )
        })
        .collect()
}

/// Who was asked what, and what they said, in order.
pub(crate) fn referred_lines(session: &Session) -> Vec<String> {
    let mut all: Vec<String> = referrals(session, Date::MIN)
        .into_iter()
        .map(|asked| {
            let said = asked.answered.map(|said| format!(" They said: “{said}”"));
            format!(
                "{}. {}{}",
                asked.words,
                asked.referral.question,
                said.unwrap_or_default()
            )
        })
        .collect();
    all.reverse();
    all
}

impl Bench {
    /// What stands between the visits, as it is today.
    pub fn between(&self, today: Date) -> BetweenView {
        // A red flag is referred before anything is taped: then nothing can be planned.
        let closed = self.session.found().is_some();
        let ride = closed.then(|| self.ride_now().ok()).flatten();
        let bolts = ride.map(|ride| planned_with(&Trying::of(&ride)));
        let flags = self.session.intake.stops();
        let flags = flags.iter().map(|stop| stop.label.clone());
        let bolts = bolts.unwrap_or_default();
        BetweenView {
            linked: (bolts.iter().copied())
                .filter(|bolt| moves_the_knee(*bolt))
                .collect(),
            careful: self.session.intake.careful(),
            hold_days: HOLD_DAYS,
            bolts,
            plan: PlanView::of(&self.session, today),
            referrals: referrals(&self.session, today),
            suggested: flags.chain(self.handed_over().refer).collect(),
        }
    }

    /// A plan from where the bike stands to the targets, each step so many days after the one before, and what does not go all the
    /// way. Nothing is written down.
    pub fn planned(
        &self,
        targets: &[Target],
        careful: bool,
        (start, days): (Date, i32),
    ) -> Result<(Vec<PlannedStep>, Vec<String>), Declined> {
        self.go_on()?;
        if !(1..=60).contains(&days) {
            return Err(vec![Refusal::new("/hold_days", "From 1 to 60 days")].into());
        }
        let ride = self.ride_now()?;
        let planned = plan(&Trying::of(&ride), targets, careful)?;
        let mut on = start;
        let mut steps = Vec::new();
        for step in planned.steps {
            steps.push(PlannedStep {
                on,
                quantity: step.quantity,
                side: step.side,
                by: step.by,
                post_up_mm: step.post_up_mm,
                title: step.title,
                words: step.words,
                stop: step.stop,
            });
            let next = on.checked_add(Span::new().days(days));
            on = next.map_err(|_| vec![Refusal::new("/start", "That is too far ahead")])?;
        }
        Ok((steps, planned.short))
    }

    /// What a visit asks: the complaints the rider came with, the plan, who was asked.
    pub fn to_ask(&self, today: Date) -> Vec<String> {
        let intake = &self.session.intake;
        let complaints =
            (intake.complaints.iter()).map(|c| format!("{}: how is it now?", c.line()));
        let plan = PlanView::of(&self.session, today).map(|plan| match plan.paused {
            Some(paused) => paused,
            None => format!("The plan: {} How did the last step feel?", plan.words),
        });
        let asked = referrals(&self.session, today)
            .into_iter()
            .filter(|referral| referral.answered.is_none())
            .map(|referral| format!("{}: what did they say?", referral.words));
        let all: Vec<String> = complaints.chain(plan).chain(asked).collect();
        if all.is_empty() {
            vec!["Does anything hurt, or feel different from the day of the fit?".to_owned()]
        } else {
            all
        }
    }
}
