//! A session as the interface reads it: the record, and what the core makes of it.

use crate::Problem;
use actix_web::http::StatusCode;
use jiff::Timestamp;
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use wedge_core::bike::{Check, Frame, Kind, Setup, TapedFrame, checks};
use wedge_core::foresee::{self as core, Calibration, ForeseeInput, Foresight};
use wedge_core::intake::Stop;
use wedge_core::limit::{GrossReport, LimitRow, gross, limits};
use wedge_core::looking::{KneePath, PelvisSeen};
use wedge_core::measure::{Output, Quantity, Reading, Unit};
use wedge_core::position::{Fit, Observations, Position, Range, observe_pitch, settle};
use wedge_core::rider::{
    Body, BodyMeasure, Effort, Measured, Proportion, Rider as MeasuredRider, measures, proportions,
};
use wedge_core::school::{FrameLabel, Tried};
use wedge_core::trial::{
    Felt, Picks, Protocol, RunningError, Sure, is_batch, running_errors, steady, unlike,
};
use wedge_core::units::{Side, Sides};
use wedge_core::words::written;
use wedge_files::{
    Bike, CalibrationRecord, House, LookBody, LookEntry, Outcome, ReadingRecord, Rider, Seen,
    Session, Trial, Verdict, taken,
};
use wedge_store::Store;

/// The rider of a session, without the other bikes.
#[derive(Serialize, ToSchema)]
pub(crate) struct SessionRider {
    id: Uuid,
    version: i64,
    name: String,
    readings: Vec<ReadingRecord>,
}

/// The bike of a session, without its other fits.
#[derive(Serialize, ToSchema)]
pub(crate) struct SessionBike {
    id: Uuid,
    version: i64,
    name: String,
    kind: Kind,
    frame: Frame,
    /// What frame reach and stack were computed from, when they are on no chart.
    taped: Option<TapedFrame>,
    /// The size the frame is labelled with.
    label: Option<FrameLabel>,
}

/// A trial with its entries read together.
#[derive(Serialize, ToSchema)]
pub(crate) struct TrialView {
    trial: Trial,
    why: Option<String>,
    seen: Vec<Seen>,
    words: Option<String>,
    verdict: Option<Verdict>,
    felt: Vec<Felt>,
    sure: Option<Sure>,
    outcome: Option<Outcome>,
    /// How it turned out, in words; none while it is on the bench.
    turned_out: Option<String>,
    /// The effort it was ridden at.
    effort: Option<Effort>,
    /// Why it does not compare with the one before it.
    unlike: Option<String>,
    /// Whether several things moved at once, so that the cause cannot be told.
    batch: bool,
}

/// Trials in their order, each with what follows from the one before it.
pub(crate) fn trial_views(trials: Vec<Trial>) -> Vec<TrialView> {
    let efforts: Vec<Option<Effort>> = trials.iter().map(Trial::ridden_at).collect();
    trials
        .into_iter()
        .enumerate()
        .map(|(index, trial)| {
            let moved: Vec<_> = trial.foreseen.turns.iter().map(|t| t.quantity).collect();
            TrialView {
                why: trial.why().map(str::to_owned),
                seen: trial.seen(),
                words: trial.words().map(str::to_owned),
                verdict: trial.verdict(),
                felt: trial.felt().to_vec(),
                sure: trial.sure(),
                outcome: trial.outcome(),
                turned_out: trial.outcome().map(|_| outcome_words(&trial)),
                effort: efforts[index],
                unlike: (index > 0)
                    .then(|| unlike(efforts[index - 1], efforts[index]))
                    .flatten(),
                batch: is_batch(&moved),
                trial,
            }
        })
        .collect()
}

/// "kept, better behind the knee, left; fairly sure".
fn outcome_words(trial: &Trial) -> String {
    let outcome = match trial.outcome() {
        Some(Outcome::Kept) => "kept",
        Some(Outcome::PutBack) => "put back",
        None => "on the bench",
    };
    let verdict = trial.verdict().map(|verdict| match verdict {
        Verdict::Better => "better",
        Verdict::Same => "no difference",
        Verdict::Worse => "worse",
    });
    let felt: Vec<String> = trial.felt().iter().map(|felt| felt.words()).collect();
    let mut words = outcome.to_owned();
    if let Some(verdict) = verdict {
        words = format!("{words}, {verdict}");
    }
    if !felt.is_empty() {
        words = format!("{words} at {}", felt.join(" and "));
    }
    match trial.sure() {
        Some(sure) => format!("{words}; {}", sure.label().to_lowercase()),
        None => words,
    }
}

/// A protocol going on.
#[derive(Serialize, ToSchema)]
pub(crate) struct RunGoingOn {
    id: Uuid,
    protocol: Protocol,
    label: &'static str,
}

/// A session with everything the board, the tape and the panel show.
#[derive(Serialize, ToSchema)]
pub(crate) struct SessionView {
    version: i64,
    rider: SessionRider,
    bike: SessionBike,
    session: Session,
    trials: Vec<TrialView>,
    /// The protocol going on.
    run: Option<RunGoingOn>,
    /// How far foresight was off over this fit's trials, output by output.
    errors: Vec<RunningError>,
    /// What to mind about the fit's effort.
    steady: Option<String>,
    /// The ranges that mark the outputs here.
    ranges: Vec<Range>,
    /// Ask foresight with this and the changes.
    input: ForeseeInput,
    /// Dimensions nobody has taped yet: drawn from an estimate.
    unknown: Vec<Quantity>,
    /// What of the bike's numbers does not go together.
    checks: Vec<Check>,
    /// What frame reach and stack were computed from, in words, when they are on no chart.
    computed: Option<String>,
    /// The order the tape walks round the bike in this studio.
    walk: Vec<Quantity>,
    /// What stops this fit, covered by a written reason or not.
    stops: Vec<Stop>,
    /// Whether the way is stopped.
    stopped: bool,
    /// The body, measure by measure.
    body: Vec<MeasureView>,
    /// Proportions outside the usual.
    proportions: Vec<Proportion>,
    /// How far the main angles may be off, and how far they would be with stature alone.
    certainty: Vec<Certainty>,
    /// Limits against demand, once there is a position.
    limits: Vec<LimitRow>,
    /// What is far out, once there is a position.
    gross: GrossReport,
    /// What was seen, beside what was foreseen of it.
    seen: Vec<SeenRow>,
    /// How much there is to fit the model to: what was seen at looks and trials, and lines that hung.
    sightings: usize,
    /// The rider as fitted to what was seen.
    calibration: Option<CalibrationView>,
    /// The bike as found, once that is closed.
    found: Option<Foresight>,
    /// The bike as it stands now.
    now: Foresight,
    /// What was being typed.
    #[schema(value_type = Option<Object>)]
    draft: Option<serde_json::Value>,
}

/// A measure of the body with its readings, those set aside among them.
#[derive(Serialize, ToSchema)]
pub(crate) struct MeasureView {
    #[serde(flatten)]
    measure: BodyMeasure,
    /// The readings that count, as one visit took them.
    readings: Vec<ReadingRecord>,
    /// How many were set aside at this visit.
    aside: usize,
}

/// How sure an angle is.
#[derive(Serialize, ToSchema)]
pub(crate) struct Certainty {
    label: String,
    unit: Unit,
    /// One standard deviation as things are known now.
    band: f64,
    /// The same with nothing measured but stature, nothing seen.
    with_stature_alone: f64,
}

/// One thing seen, beside what was foreseen of it.
#[derive(Serialize, ToSchema)]
pub(crate) struct SeenRow {
    /// What was written down.
    entry: LookEntry,
    /// What it is, with its side.
    label: String,
    /// Its convention, with the place of the hands.
    convention: String,
    /// As read, or in words.
    words: String,
    /// "foreseen 36.5 ± 5.2°".
    foreseen: Option<String>,
}

/// The rider as fitted.
#[derive(Serialize, ToSchema)]
pub(crate) struct CalibrationView {
    /// When.
    #[schema(value_type = String, format = DateTime)]
    at: Timestamp,
    /// Whether it is used.
    on: bool,
    /// Why it is not used though it is on, or what to mind.
    words: Option<String>,
    /// The fit; none when it was switched off before any.
    calibration: Option<Calibration>,
}

impl CalibrationView {
    fn of(record: CalibrationRecord, measured: &MeasuredRider) -> Self {
        Self {
            at: record.at,
            on: record.calibration.is_some(),
            words: record
                .calibration
                .as_ref()
                .filter(|calibration| !calibration.is_of(measured))
                .map(|_| {
                    "The body was measured again since: fit it anew, until then it is not used"
                        .to_owned()
                }),
            calibration: record.calibration,
        }
    }
}

/// The input for a setup of a session, without what was observed.
fn plain(
    (rider, fit): (MeasuredRider, Option<&Fit>),
    house: &House,
    bike: &Bike,
    session: &Session,
    setup: Setup,
) -> ForeseeInput {
    let mut rider = rider;
    rider.pelvis.sits_forward_mm = session.saddle.sits_forward();
    ForeseeInput {
        ranges: house.ranges_of(bike.kind),
        effort: session.effort,
        hands: session
            .hands
            .filter(|place| setup.bar.places().contains(place)),
        fit: fit.cloned(),
        conventions: session.conventions,
        ..ForeseeInput::new(rider, bike.kind, bike.frame, setup)
    }
}

/// The input for a setup of a session whose bike as found is closed: the foot's pitch is as observed there.
/// `None` until the rider's stature is known.
pub(crate) fn session_input(
    rider: &Rider,
    house: &House,
    bike: &Bike,
    session: &Session,
    setup: Setup,
) -> Option<ForeseeInput> {
    let measured = rider.measured_for(session)?;
    let known = (measured, used(rider.calibrated_for(session), &measured));
    let found = session.found().copied().unwrap_or(setup);
    Some(seen_on(
        &plain(known, house, bike, session, found),
        plain(known, house, bike, session, setup),
    ))
}

/// The fit that counts: the last one, unless it was switched off or the body was measured again since.
fn used<'a>(record: Option<&'a CalibrationRecord>, measured: &MeasuredRider) -> Option<&'a Fit> {
    record?
        .calibration
        .as_ref()
        .filter(|calibration| calibration.is_of(measured))
        .map(|calibration| &calibration.fit)
}

/// The input with the foot's pitch as observed on the bike as `found`.
fn seen_on(found: &ForeseeInput, input: ForeseeInput) -> ForeseeInput {
    ForeseeInput {
        observed: Observations {
            pitch: observe_pitch(found),
        },
        ..input
    }
}

/// A session with its rider and bike: what routes work on.
pub(crate) struct Bench {
    pub(crate) rider_name: String,
    pub(crate) rider_id: Uuid,
    pub(crate) rider_readings: Vec<ReadingRecord>,
    pub(crate) rider_version: i64,
    pub(crate) measured: MeasuredRider,
    pub(crate) bike: wedge_store::Versioned<Bike>,
    pub(crate) session: Session,
    pub(crate) version: i64,
    pub(crate) house: House,
    /// Picks of every blind comparison this rider ever made.
    pub(crate) picks: Vec<Picks>,
    calibrated: Option<CalibrationRecord>,
}

impl Bench {
    pub(crate) async fn read(store: &Store, id: Uuid) -> Result<Self, Problem> {
        let place = store.place_of_session(id).await?;
        let wedge_store::Versioned {
            noun: mut rider,
            version: rider_version,
        } = store.rider_in_years(place.rider).await?;
        let session = store.session(id).await?;
        let measured = rider
            .measured_for(&session.noun)
            .ok_or_else(|| Problem::field("/stature_mm", "The rider needs a stature first"))?;
        let calibrated = rider.calibrated_for(&session.noun).cloned();
        let picks = (rider.bikes.iter())
            .flat_map(|bike| &bike.sessions)
            .flat_map(Session::findings)
            .filter_map(|finding| finding.picks)
            .collect();
        // Earlier fits of the bike are known by their tape alone: their trials are not this fit's.
        rider.bikes.retain(|bike| bike.id == place.bike);
        let bike = wedge_store::Versioned {
            noun: rider
                .bikes
                .pop()
                .ok_or_else(|| Problem::new(StatusCode::NOT_FOUND, "There is no such bike"))?,
            version: store.bike_version(place.bike).await?,
        };
        Ok(Self {
            calibrated,
            picks,
            rider_name: rider.name,
            rider_id: rider.id,
            rider_readings: rider.readings,
            rider_version,
            measured,
            bike,
            session: session.noun,
            version: session.version,
            house: store.house().await?.noun,
        })
    }

    /// The input for a setup of this session, without what was observed.
    fn plain(&self, setup: Setup) -> ForeseeInput {
        let fit = used(self.calibrated.as_ref(), &self.measured);
        plain(
            (self.measured, fit),
            &self.house,
            &self.bike.noun,
            &self.session,
            setup,
        )
    }

    /// The other fits of this bike, the last first.
    pub(crate) fn other_fits(&self) -> impl Iterator<Item = &Session> {
        let all = self.bike.noun.sessions.iter().rev();
        all.filter(|session| session.id != self.session.id)
    }

    /// When the model was last fitted, or the fit switched off.
    pub(crate) fn fitted_at(&self) -> Option<Timestamp> {
        self.calibrated.as_ref().map(|record| record.at)
    }

    /// The input for a setup of this session with the rider as measured, whatever was fitted.
    pub(crate) fn unfitted(&self, setup: Setup) -> ForeseeInput {
        plain(
            (self.measured, None),
            &self.house,
            &self.bike.noun,
            &self.session,
            setup,
        )
    }

    /// A problem while a red flag without a written reason stops the way.
    pub(crate) fn go_on(&self) -> Result<(), Problem> {
        if !self.session.intake.is_stopped() {
            return Ok(());
        }
        let flags: Vec<String> = (self.session.intake.stops().into_iter())
            .filter(|stop| !stop.covered)
            .map(|stop| stop.label.to_lowercase())
            .collect();
        Err(Problem::new(
            StatusCode::CONFLICT,
            format!(
                "Stopped by a red flag ({}): go back to intake, refer, or write there why the fit goes on",
                flags.join(", ")
            ),
        ))
    }

    /// The bike as found: as closed, or as far as it is taped.
    pub(crate) fn found(&self) -> Result<Setup, Problem> {
        match self.session.found() {
            Some(found) => Ok(*found),
            None => self.settled(self.session.base, self.readings()),
        }
    }

    /// A setup with readings settled on it.
    pub(crate) fn settled(
        &self,
        setup: Setup,
        readings: impl IntoIterator<Item = Reading>,
    ) -> Result<Setup, Problem> {
        let readings: Vec<Reading> = readings.into_iter().collect();
        Ok(settle(&self.plain(setup), &readings)?)
    }

    pub(crate) fn readings(&self) -> impl Iterator<Item = Reading> {
        self.session.readings.iter().map(|r| r.reading)
    }

    /// The input for any setup of this session: the foot's pitch stays as observed on the bike as found.
    pub(crate) fn input(&self, setup: Setup) -> Result<ForeseeInput, Problem> {
        Ok(seen_on(&self.plain(self.found()?), self.plain(setup)))
    }

    /// The setup on the bench.
    pub(crate) fn now(&self) -> Result<Setup, Problem> {
        self.session
            .now()
            .map_or_else(|| self.found(), |now| Ok(*now))
    }

    /// What nobody has taped yet, of what must be taped before a bolt is turned.
    pub(crate) fn unknown(&self) -> Vec<Quantity> {
        let earlier = self
            .bike
            .noun
            .sessions
            .iter()
            .flat_map(|s| s.readings.iter().map(|r| r.reading.quantity));
        let taped: Vec<Quantity> = earlier.chain(self.readings().map(|r| r.quantity)).collect();
        [Quantity::SaddleHeight, Quantity::Setback]
            .into_iter()
            .filter(|q| !taped.contains(q))
            .collect()
    }

    /// How each knee was seen to go, the latest look counting.
    pub(crate) fn knee_paths(&self) -> Sides<Option<KneePath>> {
        let mut paths = Sides::both(None);
        for look in &self.session.looks {
            if let LookBody::Knee { side, path } = look.body {
                *paths.of_mut(side) = Some(path);
            }
        }
        paths
    }

    /// How the pelvis was seen to sit, the latest look counting.
    pub(crate) fn pelvis(&self) -> Option<PelvisSeen> {
        self.session
            .looks
            .iter()
            .rev()
            .find_map(|look| match look.body {
                LookBody::Pelvis(pelvis) => Some(pelvis),
                _ => None,
            })
    }

    /// What was turned in the settled trials of this fit, and how it turned out.
    pub(crate) fn tried(&self) -> Vec<Tried> {
        let settled = self.session.trials.iter().filter(|t| t.outcome().is_some());
        settled
            .flat_map(|trial| {
                let how = outcome_words(trial);
                trial.foreseen.turns.iter().map(move |turn| Tried {
                    quantity: turn.quantity,
                    side: turn.side,
                    how: how.clone(),
                })
            })
            .collect()
    }

    /// What the interface reads, with the `draft` as it was saved.
    pub(crate) fn view(self, draft: Option<&str>) -> Result<SessionView, Problem> {
        let setup = self.now()?;
        let input = self.input(setup)?;
        let now = core::foresee(&input)?;
        let found = self
            .session
            .found()
            .map(|found| Ok::<_, Problem>(core::foresee(&self.input(*found)?)?))
            .transpose()?;
        let draft = draft.and_then(|body| serde_json::from_str(body).ok());
        let unknown = self.unknown();
        let drawn = unknown.is_empty();
        let limits = if drawn {
            limits(&input, &now.after)
        } else {
            Vec::new()
        };
        let gross = if drawn {
            gross(&input, &now.after)
        } else {
            GrossReport::default()
        };
        let certainty = certainty(&input, &now);
        let body = body(&self.measured, &self.rider_readings);
        let proportions = proportions(&measured_of(&self.measured));
        let seen = seen_rows(&self.session, &now.after);
        let sightings = self
            .session
            .looks()
            .iter()
            .map(|look| look.seen.len())
            .sum();
        let calibration =
            (self.calibrated).map(|record| CalibrationView::of(record, &self.measured));
        let mut session = self.session;
        let (stops, stopped) = (session.intake.stops(), session.intake.is_stopped());
        session.calibrations = Vec::new();
        session.looks = Vec::new();
        let run = session.run().map(|run| RunGoingOn {
            id: run.id,
            protocol: run.plan.protocol(),
            label: run.plan.protocol().label(),
        });
        session.runs = Vec::new();
        // Trials are given once, read together.
        let trials = std::mem::take(&mut session.trials);
        let steady = session.effort.and_then(steady);
        let compared: Vec<_> = trials.iter().flat_map(Trial::compared).collect();
        Ok(SessionView {
            version: self.version,
            rider: SessionRider {
                id: self.rider_id,
                version: self.rider_version,
                name: self.rider_name,
                readings: self.rider_readings,
            },
            bike: SessionBike {
                id: self.bike.noun.id,
                version: self.bike.version,
                name: self.bike.noun.name,
                kind: self.bike.noun.kind,
                frame: self.bike.noun.frame,
                taped: self.bike.noun.taped,
                label: self.bike.noun.label,
            },
            session,
            run,
            errors: running_errors(&compared),
            steady,
            trials: trial_views(trials),
            ranges: input.ranges(),
            input,
            unknown,
            checks: checks(&self.bike.noun.frame, &setup),
            computed: (self.bike.noun.taped)
                .and_then(|taped| taped.compute(self.bike.noun.frame.seat_angle_deg).ok())
                .map(|computed| computed.words),
            walk: self.house.walk,
            stops,
            stopped,
            body,
            proportions,
            certainty,
            limits,
            gross,
            seen,
            sightings,
            calibration,
            found,
            now,
            draft,
        })
    }
}

/// What was measured, as the measures are made of it.
fn measured_of(rider: &MeasuredRider) -> Measured {
    Measured {
        body: rider.body,
        legs: rider.legs,
        arms: rider.arms,
    }
}

/// The body, measure by measure, with the readings of each.
fn body(rider: &MeasuredRider, readings: &[ReadingRecord]) -> Vec<MeasureView> {
    let taken = taken(readings);
    let values: Vec<_> = taken.iter().map(|(taken, _)| taken.clone()).collect();
    measures(&measured_of(rider), &values)
        .into_iter()
        .map(|measure| {
            let of = |quantity: Quantity, side: Option<Side>| {
                quantity == measure.quantity && (side == measure.side || side.is_none())
            };
            let ids = taken
                .iter()
                .rev()
                .find(|(t, _)| of(t.quantity, t.side))
                .map(|(_, ids)| ids.as_slice())
                .unwrap_or_default();
            let counted: Vec<_> = readings
                .iter()
                .filter(|r| ids.contains(&r.id))
                .cloned()
                .collect();
            let since = counted.iter().map(|r| r.taken_at).min();
            MeasureView {
                aside: readings
                    .iter()
                    .filter(|r| of(r.reading.quantity, r.reading.side) && r.set_aside_at.is_some())
                    .filter(|r| since.is_none_or(|since| r.taken_at >= since))
                    .count(),
                readings: counted,
                measure,
            }
        })
        .collect()
}

/// The angles whose bands are shown to narrow.
const TELLING: [Output; 4] = [
    Output::KneeAtFullReach,
    Output::HipClosed,
    Output::Torso,
    Output::KneeOverAxle,
];

/// How far the main angles may be off now, and with stature alone.
fn certainty(input: &ForeseeInput, now: &Foresight) -> Vec<Certainty> {
    let bare = ForeseeInput {
        rider: MeasuredRider::new(Body::new(input.rider.body.stature_mm), Sides::default()),
        fit: None,
        observed: Observations::default(),
        ..input.clone()
    };
    let Ok(alone) = core::foresee(&bare) else {
        return Vec::new();
    };
    let band = |foresight: &Foresight, output: Output| {
        (foresight.rows.iter())
            .find(|row| row.output == output)
            .and_then(|row| row.band)
    };
    TELLING
        .into_iter()
        .filter_map(|output| {
            Some(Certainty {
                label: output.spec().label.to_owned(),
                unit: output.spec().unit,
                band: band(now, output)?,
                with_stature_alone: band(&alone, output)?,
            })
        })
        .collect()
}

/// What was seen, the latest of each kind and side, beside what was foreseen of it.
fn seen_rows(session: &Session, now: &Position) -> Vec<SeenRow> {
    let key = |entry: &LookEntry| match &entry.body {
        LookBody::Seen(seen) => (0, Some(seen.output), seen.side, entry.hands),
        LookBody::Knee { side, .. } => (1, None, Some(*side), None),
        LookBody::Pelvis(_) => (2, None, None, None),
        LookBody::Shoulders(_) => (3, None, None, None),
        LookBody::Words(_) => (4, None, None, None),
    };
    let mut latest: Vec<&LookEntry> = Vec::new();
    for entry in &session.looks {
        match latest
            .iter()
            .position(|e| e.setup == entry.setup && key(e) == key(entry))
        {
            Some(place) => latest[place] = entry,
            None => latest.push(entry),
        }
    }
    latest
        .into_iter()
        .filter_map(|entry| seen_row(entry, now))
        .collect()
}

fn seen_row(entry: &LookEntry, now: &Position) -> Option<SeenRow> {
    let row = |label: String, words: String| SeenRow {
        entry: entry.clone(),
        label,
        convention: String::new(),
        words,
        foreseen: None,
    };
    Some(match &entry.body {
        LookBody::Seen(seen) => {
            let spec = seen.output.spec();
            let unit = spec.unit.suffix();
            let value = seen.value?;
            let label = seen.side.map_or_else(
                || spec.label.to_owned(),
                |side| format!("{}, {}", spec.label, side.word()),
            );
            let hands = entry.hands.unwrap_or(now.hands);
            SeenRow {
                convention: seen.output.convention(&now.conventions, hands),
                foreseen: entry
                    .foreseen
                    .map(|then| format!("{} ± {}{unit}", written(then.value), written(then.band))),
                ..row(label, format!("{}{unit}", written(value)))
            }
        }
        LookBody::Knee { side, path } => {
            row(format!("Knee, {}", side.word()), path.label().to_owned())
        }
        LookBody::Pelvis(pelvis) => row("Pelvis".to_owned(), pelvis.label().to_owned()),
        LookBody::Shoulders(shoulders) => row("Shoulders".to_owned(), shoulders.label().to_owned()),
        LookBody::Words(words) if words.trim().is_empty() => return None,
        LookBody::Words(words) => row("Words".to_owned(), words.clone()),
    })
}
