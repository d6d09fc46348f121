//! The hand-out: page one for the rider, page two for the next mechanic, the rest for the next fitter.

use crate::between::{plan_lines, referred_lines};
use crate::hurts::became;
use crate::trial::{front_work, trial_views};
use crate::{Bench, Declined, FrontWork, HandedOver, TrialView};
use jiff::civil::Date;
use serde::Serialize;
use wedge_core::bike::{Cockpit, Perch, Setup, StackPart, front_stack};
use wedge_core::foresee::{Foresight, Row, Trying, foresee_on};
use wedge_core::handout::{Line, PlainChange, SetAt, described, plainly, table};
use wedge_core::intake::Complaint;
use wedge_core::measure::{Origin, Quantity, Unit};
use wedge_core::rider::{Effort, Length, Lengths, Source};
use wedge_core::school::crept_by_now;
use wedge_core::trial::{Hurts, Says};
use wedge_core::words::{capital, ended, lower, sided, written};
use wedge_core::work::{CAUTIONS, self_check};
use wedge_files::{Outcome, SessionState, Trial, Verdict};

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
    /// What must be said before anything else.
    pub warnings: Vec<&'static str>,
    /// Page one.
    pub for_rider: ForRider,
    /// Page two, beside the lines of the table that say where they are set.
    pub for_mechanic: ForMechanic,
    /// What the drawing shows, for who does not see it.
    pub described: String,
    /// The plan the rider takes along, step by step; empty without one.
    pub plan: Vec<String>,
    /// How it is ridden.
    pub plan_note: &'static str,
    /// Who was asked what, and what they said.
    pub referred: Vec<String>,
    /// What was looked for and is not there.
    pub fine: Vec<String>,
    /// How far what was seen lay from what was foreseen, over every reading of a trial.
    pub model_error: Option<String>,
    /// Found, left and difference with each convention.
    pub table: Vec<Line>,
    /// Which point of the saddle the sit reference is.
    pub sit_reference: &'static str,
    /// What the rider came with that the next reader must know: why the fit went on, where it hurts.
    pub intake: Vec<String>,
    /// What became of what hurt, as it was asked again in kept trials.
    pub asked_again: Vec<String>,
    /// What guided protocols found.
    pub evidence: Vec<String>,
    /// The front-end work of the last kept trial that asked for any, with what was done of it.
    pub front_work: Option<FrontWorkDone>,
    /// What waits for the next bike.
    pub next_bike: Vec<String>,
    /// What was kept, in order.
    pub kept: Vec<TrialLine>,
    /// What was tried and not kept, or is still on the bench.
    pub not_kept: Vec<TrialLine>,
    /// Why each kept change was made, what remains likely, and what a clinician is asked.
    pub judged: HandedOver,
    /// The bike as found.
    pub found: Foresight,
    /// The bike as left.
    pub left: Foresight,
    /// Body lengths that were estimated, not measured.
    pub estimated: Vec<Length>,
    /// The same in words; nothing when all were measured.
    pub estimated_words: Option<String>,
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

/// What the rider reads.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ForRider {
    /// What changed most, in plain words, with what the rider said of it; and how many more changed.
    pub changed: Vec<String>,
    /// What to feel for on the next rides.
    pub feel: Vec<String>,
    /// When to stop.
    pub stop: Vec<String>,
}

/// What the next mechanic reads beside the table.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ForMechanic {
    /// How the page is read.
    pub note: String,
    /// Where something is set, with the lines that are told there.
    pub places: Vec<Place>,
    /// Every bolt that was turned, with its torque where it is known.
    pub bolts: Vec<String>,
    /// What stands on the steerer as found and as left; nothing on a stand.
    pub stack: Vec<StackPart>,
    /// Where the clamp stands on the rails, and the post in the frame.
    pub rails: Vec<String>,
}

/// What is set at one place of the bike.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "schema", schema(as = HandoutPlace))]
pub struct Place {
    /// Where.
    pub at: SetAt,
    /// As it is called.
    pub label: &'static str,
    /// What is set there and was changed, and the contact points.
    pub lines: Vec<Line>,
    /// What stands there as found, in one line; nothing where all was changed.
    pub as_found: Option<String>,
}

/// What must be said before anything else.
const SIMULATED: &str = "Simulated rider: nobody sits there. For practice, not for riding.";
const ON_A_STAND: &str = "Fitted on a stand: a position, not a bike to set up.";
const GOING_ON: &str = "This fit is still going on: the position may change.";

/// How a plan is ridden.
const PLAN_NOTE: &str =
    "One step at a time. A ride that ends in one of the signs below ends the plan until we spoke.";

/// What is hoped of what still hurts.
const QUIETER: &str =
    "It should grow quieter from ride to ride; tell us if it does not in two weeks.";

/// More than so many changes are a list no rider reads.
const CHANGES: usize = 3;

impl ForRider {
    fn of(
        (table, trials): (&[Line], &[TrialView]),
        (complaints, became): (&[Complaint], &[(Hurts, String)]),
        last: Option<&str>,
    ) -> Self {
        let mut changes = plainly(table);
        let more = changes.len().saturating_sub(CHANGES);
        changes.truncate(CHANGES);
        // What hurts since is his to watch as well.
        let new = (became.iter())
            .filter(|(of, _)| {
                !of.is_gone() && !complaints.iter().any(|told| of.felt().is_of(told.into()))
            })
            .map(|(_, line)| format!("{line}, new in this fit. Tell us if it stays."))
            .take(CHANGES);
        let complaints = complaints.iter().take(CHANGES).map(|complaint| {
            let asked = (became.iter()).find(|(of, _)| of.felt().is_of(complaint.into()));
            match asked {
                Some((of, line)) if of.is_gone() => {
                    format!("{line}. Tell us if it comes back.")
                }
                Some((_, line)) => format!("{line}. {QUIETER}"),
                None => format!("{}. {QUIETER}", complaint.line()),
            }
        });
        let strange = (!changes.is_empty()).then(|| {
            "A new position feels strange for two or three rides: ride easily until it does not."
                .to_owned()
        });
        // What was said of one trial is told once, whatever it changed.
        let mut said: Vec<String> = Vec::new();
        let told = changes.into_iter().map(|change| {
            let felt = felt(&change, trials).filter(|felt| !said.contains(felt));
            said.extend(felt.clone());
            match felt {
                Some(felt) => format!("{}: {felt}", change.words),
                None => format!("{}.", change.words),
            }
        });
        let more = match more {
            0 => None,
            1 => Some("One smaller change is on the next page.".to_owned()),
            more => Some(format!("{more} smaller changes are on the next page.")),
        };
        let mut changed: Vec<String> = told.chain(more).collect();
        if changed.is_empty() {
            changed.push("Nothing you would feel: the position is as it was.".to_owned());
        }
        Self {
            changed,
            feel: strange.into_iter().chain(complaints).chain(new).collect(),
            stop: [self_check(last), CAUTIONS[0].to_owned()].into(),
        }
    }
}

/// Whether turning one thing is how another changed: what the front end does is felt at the hands.
fn brings(turned: Quantity, changed: Quantity) -> bool {
    let hands = [Quantity::Drop, Quantity::SaddleToHand, Quantity::GripLength];
    turned == changed || hands.contains(&changed) && Cockpit::QUANTITIES.contains(&turned)
}

/// What the rider said of the last kept trial that turned what changed, or how it was found.
fn felt(change: &PlainChange, trials: &[TrialView]) -> Option<String> {
    let kept = trials.iter().rev().filter(|trial| {
        let mut turns = trial.trial.foreseen.turns.iter();
        trial.outcome == Some(Outcome::Kept) && turns.any(|t| brings(t.quantity, change.quantity))
    });
    kept.into_iter().find_map(|trial| match &trial.words {
        Some(words) => Some(format!("“{words}”")),
        None => trial.verdict.map(|verdict| match verdict {
            Verdict::Better => "felt better".to_owned(),
            Verdict::Same => "felt the same".to_owned(),
            Verdict::Worse => "felt worse".to_owned(),
        }),
    })
}

impl ForMechanic {
    fn of(
        (table, sit_reference): (&[Line], &str),
        setup: &Setup,
        stack: Vec<StackPart>,
        perch: Option<&Perch>,
    ) -> Self {
        let mut bolts: Vec<Quantity> = Vec::new();
        for line in table.iter().filter(|line| line.changed && !line.other) {
            bolts.extend(SetAt::torque_of(line.quantity).filter(|bolt| !bolts.contains(bolt)));
        }
        let told = |bolt: Quantity| {
            let label = bolt.spec().label;
            match setup.get(bolt, None) {
                Some(torque) => format!(
                    "{label}: {}{}, as printed on it",
                    written(torque),
                    Unit::Nm.suffix()
                ),
                None => format!("{label}: the torque printed on it"),
            }
        };
        Self {
            note: format!(
                "Each number once, in the studio’s convention; no number under “Was” means as found. The sit reference is \
                 {sit_reference}."
            ),
            places: SetAt::ALL
                .iter()
                .filter_map(|at| place(table, *at))
                .collect(),
            bolts: bolts.into_iter().map(told).collect(),
            stack,
            rails: perch.map(on_the_rails).unwrap_or_default(),
        }
    }
}

/// What is set at a place: what was changed and the contact points in full, the rest in one line.
fn place(table: &[Line], at: SetAt) -> Option<Place> {
    let all = table.iter().filter(|line| line.set_at == Some(at));
    let contact = |line: &Line| {
        [
            Quantity::SaddleHeight,
            Quantity::Setback,
            Quantity::Tilt,
            Quantity::Drop,
            Quantity::SaddleToHand,
            Quantity::GripLength,
            Quantity::Crank,
            Quantity::CleatSetback,
        ]
        .contains(&line.quantity)
    };
    let (lines, folded): (Vec<&Line>, Vec<&Line>) =
        all.partition(|line| line.changed || contact(line));
    if lines.is_empty() && folded.is_empty() {
        return None;
    }
    let told = folded.iter().map(|line| {
        let unit = line.unit.suffix();
        let usual = match line.origin {
            Origin::Usual => " (usual)",
            Origin::NotRecorded => " (not recorded)",
            _ => "",
        };
        format!("{} {}{unit}{usual}", lower(&line.label), written(line.left))
    });
    Some(Place {
        at,
        label: at.label(),
        lines: lines.into_iter().cloned().collect(),
        as_found: (!folded.is_empty())
            .then(|| format!("As found: {}.", told.collect::<Vec<_>>().join("; "))),
    })
}

/// Where the clamp stands on the rails, and the post in the frame.
fn on_the_rails(perch: &Perch) -> Vec<String> {
    let clamp = perch
        .clamp_ahead_mm
        .map(|ahead| match written(ahead.0.abs()).as_str() {
            "0" => "Clamp at the middle of the rails: mark them there".to_owned(),
            far if ahead.0 > 0.0 => {
                format!("Clamp {far} mm ahead of the middle of the rails: mark them there")
            }
            far => format!("Clamp {far} mm behind the middle of the rails: mark them there"),
        });
    let exposed = format!("Post {} mm out of the frame", written(perch.exposed_mm.0));
    let post = match perch.inserted_mm {
        Some(inserted) => format!("{exposed}, {} mm inside", written(inserted.0)),
        None => exposed,
    };
    clamp.into_iter().chain([post]).collect()
}

/// "What was seen lay 0.8° from what was foreseen, on average over 3 angles."
fn model_error(trials: &[TrialView]) -> Option<String> {
    let apart: Vec<f64> = (trials.iter())
        .flat_map(seen_of)
        .filter(|(row, _)| row.unit == Unit::Deg)
        .map(|(row, value)| (value - row.after).abs())
        .collect();
    #[expect(clippy::cast_precision_loss, reason = "a fit has few readings")]
    let mean = apart.iter().sum::<f64>() / apart.len() as f64;
    let angles = if apart.len() == 1 {
        "one angle".to_owned()
    } else {
        format!("{} angles, on average", apart.len())
    };
    (!apart.is_empty()).then(|| {
        format!(
            "What was seen lay {}° from what was foreseen, over {angles}.",
            written(mean)
        )
    })
}

/// A trial as the next fitter reads it.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TrialLine {
    /// "Saddle down 6".
    pub title: String,
    /// What was turned, what was foreseen and seen, how it turned out.
    pub told: String,
    /// In the rider's words.
    pub words: Option<String>,
    /// Why it was kept.
    pub why: Vec<String>,
}

impl TrialLine {
    fn of(trial: &TrialView, judged: &HandedOver) -> Self {
        let foreseen = &trial.trial.foreseen;
        let turns: Vec<&str> = foreseen.turns.iter().map(|t| t.words.as_str()).collect();
        let batch = trial
            .batch
            .then(|| "Several things moved at once: the cause is not separable".to_owned());
        let told = [
            Some(turns.join("; ")),
            foreseen.hands.clone(),
            foreseen_and_seen(trial),
            trial.why.as_ref().map(|why| format!("Why: {why}")),
            Some((trial.turned_out.clone()).unwrap_or_else(|| "Still on the bench".to_owned())),
            batch,
            trial.unlike.clone(),
        ];
        let sentences: Vec<String> = (told.into_iter().flatten())
            .map(|words| ended(words.trim()))
            .filter(|words| words != ".")
            .map(|words| capital(&words))
            .collect();
        let kept = judged.why.iter().find(|why| why.trial == trial.trial.id);
        Self {
            title: foreseen.title.clone(),
            told: sentences.join(" "),
            words: trial.words.clone(),
            why: kept.map(|kept| kept.sentences.clone()).unwrap_or_default(),
        }
    }
}

/// What was seen of a trial, each beside the row that had foreseen it.
fn seen_of(trial: &TrialView) -> impl Iterator<Item = (&Row, f64)> {
    trial.seen.iter().filter_map(|seen| {
        let mut rows = trial.trial.foreseen.rows.iter();
        let row = rows.find(|row| (row.output, row.side) == (seen.output, seen.side))?;
        Some((row, seen.value?))
    })
}

/// "Knee at full reach, left: seen 36.2°, foreseen 35.4°"; what was foreseen first where nothing was looked at.
fn foreseen_and_seen(trial: &TrialView) -> Option<String> {
    let seen: Vec<String> = seen_of(trial)
        .map(|(row, value)| {
            let unit = row.unit.suffix();
            format!(
                "{}: seen {}{unit}, foreseen {}{unit}",
                row.label,
                written(value),
                written(row.after)
            )
        })
        .collect();
    if !seen.is_empty() {
        return Some(seen.join("; "));
    }
    let first = trial.trial.foreseen.rows.first()?;
    Some(format!("Foreseen: {}", first.moved_words()))
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
    pub fn handout(mut self) -> Result<Handout, Declined> {
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
        let readings = self.bike_readings();
        let kept = |trial: &&Trial| trial.outcome() == Some(Outcome::Kept);
        let last = (self.session.trials.iter().rev().find(kept)).map(|t| t.foreseen.title.clone());
        let judged = self.handed_over();
        let fine = self.fine();
        let simulated = self.rider.simulated.is_some();
        let table = table(
            (&found.after, &found_setup),
            (&left.after, &left_setup),
            self.origins(&readings),
        );
        let front_work = front_work_done(&self.session.trials);
        let complaints = &self.session.intake.complaints;
        let became = became(complaints, &self.session.trials);
        let trials = trial_views(std::mem::take(&mut self.session.trials), complaints);
        let stand = self.bike.stand;
        let finished = self.session.state == SessionState::Finished;
        let warnings = [
            (simulated, SIMULATED),
            (stand, ON_A_STAND),
            (!finished, GOING_ON),
        ];
        let sit_reference = self.session.conventions.sit_reference.words();
        let findings = || self.session.findings();
        let stack = if stand {
            Vec::new()
        } else {
            front_stack(&self.bike.frame, &found_setup.cockpit, &left_setup.cockpit)
        };
        let estimated = estimated(&left.lengths);
        let lines = |kept: bool| {
            let of = trials
                .iter()
                .filter(|t| (t.outcome == Some(Outcome::Kept)) == kept);
            of.map(|trial| TrialLine::of(trial, &judged)).collect()
        };
        let perch = (!stand).then_some(&left.after.clearances.perch);
        Ok(Handout {
            kept: lines(true),
            not_kept: lines(false),
            judged,
            for_rider: ForRider::of((&table, &trials), (complaints, &became), last.as_deref()),
            for_mechanic: ForMechanic::of((&table, sit_reference), &left_setup, stack, perch),
            described: described(&table),
            plan: plan_lines(&self.session),
            plan_note: PLAN_NOTE,
            referred: referred_lines(&self.session),
            fine,
            model_error: model_error(&trials),
            studio: self.house.name.clone(),
            follow_up: self.session.follow_up,
            rider: self.rider.name.clone(),
            simulated,
            bike: self.bike.name.clone(),
            stand,
            number: self.session.number,
            day: self.session.day,
            finished,
            warnings: (warnings.into_iter())
                .filter_map(|(so, words)| so.then_some(words))
                .collect(),
            effort: self.session.effort,
            table,
            disagreement: left_setup.residual.question(),
            sit_reference,
            intake: self.session.intake.handout(),
            asked_again: became.into_iter().map(|(_, line)| line).collect(),
            evidence: findings()
                .filter(|finding| finding.says != Says::Broken)
                .map(|finding| format!("{}: {}", finding.protocol.label(), finding.words.join(" ")))
                .chain(by_now)
                .collect(),
            front_work,
            next_bike: findings()
                .filter_map(|finding| finding.next_bike.clone())
                .collect(),
            estimated_words: estimated_words(&estimated),
            estimated,
            self_check: self_check(last.as_deref()),
            found,
            left,
            cautions: CAUTIONS,
        })
    }
}

impl Bench {
    /// What was looked for and is not there.
    fn fine(&self) -> Vec<String> {
        (self.signs().iter())
            .filter(|told| told.seen.there == Some(false))
            .map(|told| lower(&sided(told.seen.sign.label(), told.seen.side)))
            .collect()
    }
}

/// "Trunk ≈ 515 ± 15 mm; … Angles foreseen from these are estimates."
fn estimated_words(estimated: &[Length]) -> Option<String> {
    let all: Vec<String> = (estimated.iter())
        .map(|length| {
            format!(
                "{} ≈ {} ± {} mm",
                length.quantity.spec().label,
                written(length.value_mm.0),
                written(length.spread_mm.0)
            )
        })
        .collect();
    let told = all.join("; ");
    (!all.is_empty()).then(|| format!("{told}. Angles foreseen from these are estimates."))
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
