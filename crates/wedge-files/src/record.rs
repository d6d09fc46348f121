//! The nouns of the record.

use jiff::civil::Date;
use jiff::{SignedDuration, Timestamp};
use serde::{Deserialize, Serialize};
use std::collections::HashMap;
use uuid::Uuid;
use wedge_core::bike::{Frame, HandPlace, Kind, Setup, TapedFrame};
use wedge_core::foresee::{self, Calibration, Change, Foresight, Look, Row, Sighting, Turn};
use wedge_core::intake::Intake;
use wedge_core::looking::{KneePath, PelvisSeen, ShouldersSeen};
use wedge_core::measure::{
    Convention, Conventions, Method, Output, Quantity, Reading, Refusal, SitReference, Units,
};
use wedge_core::position::OwnRange;
use wedge_core::rider::{Effort, Taken};
use wedge_core::school::{FrameLabel, Leads, SaddleNotes, Shoe};
use wedge_core::trial::{Call, Compared, Felt, Finding, RunPlan, Sure};
use wedge_core::units::{Side, Sides};
use wedge_core::work::Station;

/// A reading with its place in time.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(from = "FlatReading", into = "FlatReading")]
pub struct ReadingRecord {
    /// Made by whoever took it.
    pub id: Uuid,
    /// When.
    pub taken_at: Timestamp,
    /// What.
    pub reading: Reading,
    /// When it was set aside, since it was wrong or doubtful; it stays on record.
    pub set_aside_at: Option<Timestamp>,
}

impl ReadingRecord {
    /// A reading taken at an instant.
    pub fn new(id: Uuid, taken_at: Timestamp, reading: Reading) -> Self {
        Self {
            id,
            taken_at,
            reading,
            set_aside_at: None,
        }
    }
}

/// A reading record as it is written: id, time and reading side by side, and nothing else.
#[derive(Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = ReadingRecord))]
#[serde(deny_unknown_fields)]
struct FlatReading {
    /// Made by whoever took it.
    id: Uuid,
    /// When.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = DateTime))]
    taken_at: Timestamp,
    quantity: Quantity,
    value: f64,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    convention: Option<Convention>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    sit_reference: Option<SitReference>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    side: Option<Side>,
    #[serde(default)]
    method: Method,
    /// When it was set aside.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>, format = DateTime))]
    set_aside_at: Option<Timestamp>,
}

impl From<FlatReading> for ReadingRecord {
    fn from(flat: FlatReading) -> Self {
        Self {
            id: flat.id,
            taken_at: flat.taken_at,
            reading: Reading {
                quantity: flat.quantity,
                value: flat.value,
                convention: flat.convention,
                sit_reference: flat.sit_reference,
                side: flat.side,
                method: flat.method,
            },
            set_aside_at: flat.set_aside_at,
        }
    }
}

impl From<ReadingRecord> for FlatReading {
    fn from(
        ReadingRecord {
            id,
            taken_at,
            reading,
            set_aside_at,
        }: ReadingRecord,
    ) -> Self {
        Self {
            id,
            taken_at,
            quantity: reading.quantity,
            value: reading.value,
            convention: reading.convention,
            sit_reference: reading.sit_reference,
            side: reading.side,
            method: reading.method,
            set_aside_at,
        }
    }
}

#[cfg(feature = "schema")]
impl utoipa::PartialSchema for ReadingRecord {
    fn schema() -> utoipa::openapi::RefOr<utoipa::openapi::schema::Schema> {
        FlatReading::schema()
    }
}

#[cfg(feature = "schema")]
impl utoipa::ToSchema for ReadingRecord {
    fn schemas(
        schemas: &mut Vec<(
            String,
            utoipa::openapi::RefOr<utoipa::openapi::schema::Schema>,
        )>,
    ) {
        <FlatReading as utoipa::ToSchema>::schemas(schemas);
    }
}

/// A rider with everything measured of the body and every bike.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Rider {
    /// Made by the client.
    pub id: Uuid,
    /// As the rider is called.
    pub name: String,
    /// The day of birth, when known: riders who grow are measured again in time.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>, format = Date))]
    pub born: Option<Date>,
    /// When the rider was put away from the room.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>, format = DateTime))]
    pub archived_at: Option<Timestamp>,
    /// Readings of the body, in the order they were taken.
    pub readings: Vec<ReadingRecord>,
    /// The rider's bikes, the oldest first.
    pub bikes: Vec<Bike>,
}

impl Rider {
    /// A rider of whom only this is known.
    pub fn new(id: Uuid, name: impl Into<String>, readings: Vec<ReadingRecord>) -> Self {
        Self {
            id,
            name: name.into(),
            born: None,
            archived_at: None,
            readings,
            bikes: Vec::new(),
        }
    }

    /// The same record under new ids, so that it can stand beside the one it was made from.
    #[must_use]
    pub fn copied(mut self, mut new_id: impl FnMut() -> Uuid) -> Self {
        self.id = new_id();
        self.readings.iter_mut().for_each(|r| r.id = new_id());
        for bike in &mut self.bikes {
            bike.id = new_id();
            bike.sessions
                .iter_mut()
                .for_each(|session| session.renew(&mut new_id));
        }
        self
    }

    /// The rider as the linkage needs one; `None` until stature is known.
    pub fn measured(&self) -> Option<foresee::Rider> {
        body_of(&self.readings)
    }

    /// What is on record of calibration for a fit: the latest of the rider's, on whatever bike, that is no later than
    /// the fit.
    pub fn calibrated_for(&self, session: &Session) -> Option<&CalibrationRecord> {
        let until = session.finished_by();
        self.bikes
            .iter()
            .flat_map(|bike| &bike.sessions)
            .flat_map(|session| &session.calibrations)
            .filter(|record| until.is_none_or(|until| record.at <= until))
            .max_by_key(|record| record.at)
    }

    /// What the rider came with last, on whatever bike.
    pub fn last_intake(&self) -> Option<&Intake> {
        self.bikes
            .iter()
            .flat_map(|bike| &bike.sessions)
            .max_by_key(|session| (session.day, session.number))
            .map(|session| &session.intake)
    }

    /// The rider as measured when a fit was finished, since bodies change; as measured now while it is going on, or
    /// when nothing was measured before it.
    pub fn measured_for(&self, session: &Session) -> Option<foresee::Rider> {
        let until = session.finished_by();
        let then: Vec<ReadingRecord> = self
            .readings
            .iter()
            .filter(|r| until.is_none_or(|until| r.taken_at <= until))
            .cloned()
            .collect();
        body_of(&then).or_else(|| self.measured())
    }
}

/// How long readings of one measure belong together: a visit.
const VISIT_HOURS: i64 = 12;

/// The readings of the body that count, those of one visit together: of each measure and side the latest visit's,
/// without what was set aside.
pub fn taken(readings: &[ReadingRecord]) -> Vec<(Taken, Vec<Uuid>)> {
    let counts = |r: &&ReadingRecord| r.set_aside_at.is_none();
    let key = |r: &ReadingRecord| (r.reading.quantity, r.reading.side);
    let mut all: Vec<(Taken, Vec<Uuid>)> = Vec::new();
    for record in readings.iter().filter(counts) {
        let latest = readings
            .iter()
            .filter(counts)
            .filter(|r| key(r) == key(record))
            .map(|r| r.taken_at)
            .max();
        let visit = SignedDuration::from_hours(VISIT_HOURS);
        if latest.is_some_and(|latest| latest.duration_since(record.taken_at) > visit) {
            continue;
        }
        let (quantity, side) = key(record);
        let place = all
            .iter()
            .position(|(taken, _)| (taken.quantity, taken.side) == (quantity, side));
        let (mut taken, mut ids) = match place {
            // The order is that of the last reading, so that a later one of both sides stands after one of a side.
            Some(place) => all.remove(place),
            None => (
                Taken {
                    quantity,
                    side,
                    values: Vec::new(),
                },
                Vec::new(),
            ),
        };
        taken.values.push(record.reading.value);
        ids.push(record.id);
        all.push((taken, ids));
    }
    all
}

/// The body these readings make; `None` until stature is known.
pub fn body_of(readings: &[ReadingRecord]) -> Option<foresee::Rider> {
    let readings: Vec<Reading> = taken(readings)
        .iter()
        .filter_map(|(taken, _)| taken.reading())
        .collect();
    foresee::Rider::from_readings(&readings)
}

/// A bike with its fits.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Bike {
    /// Made by the client.
    pub id: Uuid,
    /// As the rider calls it.
    pub name: String,
    /// The kind of riding.
    pub kind: Kind,
    /// The frame.
    pub frame: Frame,
    /// The size the frame is labelled with, when somebody looked.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub label: Option<FrameLabel>,
    /// The parts as typed in, before any fit. Its saddle is a place to draw from, not a reading.
    pub setup: Setup,
    /// What frame reach and stack were computed from, when they are on no chart.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub taped: Option<TapedFrame>,
    /// The fits, the first one first.
    pub sessions: Vec<Session>,
}

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

/// A setup with its place in time.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct SetupRecord {
    /// Its id.
    pub id: Uuid,
    /// When it was recorded.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = DateTime))]
    pub recorded_at: Timestamp,
    /// The bolts and parts.
    pub setup: Setup,
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
}

impl Session {
    /// Gives everything in it a new id; what names a setup names its new one.
    fn renew(&mut self, new_id: &mut impl FnMut() -> Uuid) {
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
        for trial in &mut self.trials {
            trial.id = new_id();
            (trial.before, trial.after) = (renewed(trial.before), renewed(trial.after));
            trial.entries.iter_mut().for_each(|e| e.id = new_id());
        }
    }

    /// The bike as found, once closed.
    pub fn found(&self) -> Option<&Setup> {
        self.setups.first().map(|s| &s.setup)
    }

    /// The setup on the bench, once the bike as found is closed.
    pub fn now(&self) -> Option<&Setup> {
        let now = self.now?;
        self.setups.iter().find(|s| s.id == now).map(|s| &s.setup)
    }

    /// The last instant of a finished fit; `None` while it is going on.
    fn finished_by(&self) -> Option<Timestamp> {
        if self.state == SessionState::Open {
            return None;
        }
        let entries = self
            .trials
            .iter()
            .flat_map(|t| t.entries.iter().map(|e| e.at));
        let setups = self.setups.iter().map(|s| s.recorded_at);
        let looks = self.looks.iter().map(|l| l.at);
        let calibrations = self.calibrations.iter().map(|c| c.at);
        let runs = self.runs.iter().filter_map(|r| r.ended_at);
        entries
            .chain(setups)
            .chain(looks)
            .chain(calibrations)
            .chain(runs)
            .max()
    }

    /// Everything seen, look by look, for calibration: what was seen of a setup with the hands in a place, later
    /// readings in the place of earlier ones, what was seen of trials, and where plumb lines hung.
    pub fn looks(&self) -> Vec<Look> {
        let mut looks: Vec<(Uuid, Option<HandPlace>, Vec<Sighting>)> = Vec::new();
        let mut see = |setup: Uuid, hands: Option<HandPlace>, seen: LookSeen| {
            let place = looks.iter().position(|l| (l.0, l.1) == (setup, hands));
            let place = place.unwrap_or_else(|| {
                looks.push((setup, hands, Vec::new()));
                looks.len() - 1
            });
            let sightings = &mut looks[place].2;
            sightings.retain(|s| (s.output, s.side) != (seen.output, seen.side));
            sightings.extend(seen.value.map(|value| Sighting {
                output: seen.output,
                side: seen.side,
                value,
                method: seen.method,
            }));
        };
        for look in &self.looks {
            if let LookBody::Seen(seen) = look.body {
                see(look.setup, look.hands, seen);
            }
        }
        for trial in &self.trials {
            for seen in trial.seen() {
                let seen = LookSeen {
                    output: seen.output,
                    side: seen.side,
                    value: seen.value,
                    method: Method::Goniometer,
                };
                see(trial.after, self.hands, seen);
            }
        }
        for run in &self.runs {
            let (RunPlan::Plumb(plan), Some(finding)) = (&run.plan, &run.finding) else {
                continue;
            };
            for sighting in plan.sightings(finding) {
                see(run.setup, self.hands, sighting.into());
            }
        }
        looks
            .into_iter()
            .filter(|(.., seen)| !seen.is_empty())
            .filter_map(|(setup, hands, seen)| {
                let setup = self.setups.iter().find(|s| s.id == setup)?.setup;
                Some(Look { setup, hands, seen })
            })
            .collect()
    }

    /// The protocol still going on.
    pub fn run(&self) -> Option<&RunRecord> {
        self.runs.iter().find(|run| run.finding.is_none())
    }

    /// What the protocols of this fit found, in order.
    pub fn findings(&self) -> impl Iterator<Item = &Finding> {
        self.runs.iter().filter_map(|run| run.finding.as_ref())
    }

    /// The trial still waiting for its outcome.
    pub fn undecided(&self) -> Option<&Trial> {
        self.trials.iter().find(|t| t.outcome().is_none())
    }
}

/// One output as seen at a look.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct LookSeen {
    /// What was seen.
    pub output: Output,
    /// On which side; both alike when none.
    #[serde(default)]
    pub side: Option<Side>,
    /// The value; none takes an earlier one back.
    pub value: Option<f64>,
    /// How it was taken.
    #[serde(default)]
    pub method: Method,
}

impl From<Sighting> for LookSeen {
    fn from(sighting: Sighting) -> Self {
        Self {
            output: sighting.output,
            side: sighting.side,
            value: Some(sighting.value),
            method: sighting.method,
        }
    }
}

/// One thing written down at a look; a later one of the same kind and side takes the place of an earlier one.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum LookBody {
    /// An output as seen.
    Seen(LookSeen),
    /// The way a knee goes.
    Knee {
        /// Which knee.
        side: Side,
        /// Its way.
        path: KneePath,
    },
    /// How the pelvis sits.
    Pelvis(PelvisSeen),
    /// How the shoulders are held.
    Shoulders(ShouldersSeen),
    /// What else was seen or said.
    Words(String),
}

/// What was foreseen of what was seen, as it stood then.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct ForeseenThen {
    /// The value.
    pub value: f64,
    /// One standard deviation of it.
    pub band: f64,
}

/// Something seen of the rider on the setup that was on the bench: append-only.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct LookEntry {
    /// Made by the client.
    pub id: Uuid,
    /// When.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = DateTime))]
    pub at: Timestamp,
    /// The setup on the bench, among the session's.
    pub setup: Uuid,
    /// Where the hands were; the bar's main place when none.
    #[serde(default)]
    pub hands: Option<HandPlace>,
    /// The effort.
    #[serde(default)]
    pub effort: Option<Effort>,
    /// What.
    pub body: LookBody,
    /// What was foreseen of it.
    #[serde(default)]
    pub foreseen: Option<ForeseenThen>,
}

/// The rider fitted to what was seen, or the fit switched off: append-only.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct CalibrationRecord {
    /// Made by the client.
    pub id: Uuid,
    /// When.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = DateTime))]
    pub at: Timestamp,
    /// The fit; none switches it off.
    pub calibration: Option<Calibration>,
}

/// What happened in a run.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum CallBody {
    /// Something was called.
    Called(Call),
    /// The last call that stood was taken back.
    TakenBack,
}

/// A call with its place in time: append-only.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct CallRecord {
    /// Made by the client.
    pub id: Uuid,
    /// When.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = DateTime))]
    pub at: Timestamp,
    /// What.
    pub body: CallBody,
}

/// One run of a guided protocol.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct RunRecord {
    /// Made by the client.
    pub id: Uuid,
    /// When it was begun.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = DateTime))]
    pub started_at: Timestamp,
    /// The setup it began from, among the session's.
    pub setup: Uuid,
    /// What it was set up with.
    pub plan: RunPlan,
    /// The effort it is ridden at: what the rider is told to hold.
    #[serde(default)]
    pub effort: Option<Effort>,
    /// What was called, in order.
    #[serde(default)]
    pub calls: Vec<CallRecord>,
    /// The order of a blind comparison, once it is over: while it goes on it is nowhere but in the record itself.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub order: Vec<bool>,
    /// When it was over.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>, format = DateTime))]
    pub ended_at: Option<Timestamp>,
    /// What it found; none while it goes on.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub finding: Option<Finding>,
}

impl RunRecord {
    /// Every call ever made, those taken back among them.
    pub fn ever(&self) -> Vec<Call> {
        let called = self.calls.iter().filter_map(|record| match &record.body {
            CallBody::Called(call) => Some(call.clone()),
            CallBody::TakenBack => None,
        });
        called.collect()
    }

    /// The calls that stand, those taken back left out.
    pub fn standing(&self) -> Vec<Call> {
        let mut calls: Vec<Call> = Vec::new();
        for record in &self.calls {
            match &record.body {
                CallBody::Called(call) => calls.push(call.clone()),
                CallBody::TakenBack => {
                    calls.pop();
                }
            }
        }
        calls
    }

    /// When the clock of what is asked now began to run: at the last call, whether it stood or was taken back.
    pub fn clock_from(&self) -> Timestamp {
        self.calls.last().map_or(self.started_at, |call| call.at)
    }
}

/// A studio's own range of one kind of riding.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct KindRange {
    /// The kind of riding.
    pub kind: Kind,
    /// The range.
    pub range: OwnRange,
}

/// How a studio works: chosen once.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields, default)]
pub struct House {
    /// As the studio is called on the hand-out; nameless when empty.
    pub name: String,
    /// What lengths and masses are shown and typed in.
    pub units: Units,
    /// Which schools lead.
    pub leads: Leads,
    /// The studio's own ranges, each of a kind of riding.
    pub ranges: Vec<KindRange>,
    /// How lengths are read and written in a new bike's first fit.
    pub conventions: Conventions,
    /// The order the tape walks round a bike.
    pub walk: Vec<Quantity>,
}

impl Default for House {
    fn default() -> Self {
        Self {
            name: String::new(),
            units: Units::default(),
            leads: Leads::default(),
            ranges: Vec::new(),
            conventions: Conventions::default(),
            walk: WALK.to_vec(),
        }
    }
}

impl House {
    /// Everything that cannot be accepted, each with its JSON pointer.
    pub fn refusals(&self) -> Vec<Refusal> {
        let mut all = self.conventions.refusals("/conventions");
        let mut walk = self.walk.clone();
        walk.sort();
        let mut whole = WALK.to_vec();
        whole.sort();
        if walk != whole {
            all.push(Refusal::new(
                "/walk",
                "The walk passes each of its lengths once, in whatever order",
            ));
        }
        if self.name.chars().count() > MOST_LETTERS {
            all.push(Refusal::new(
                "/name",
                format!("{MOST_LETTERS} letters at the most"),
            ));
        }
        for (index, KindRange { kind, range }) in self.ranges.iter().enumerate() {
            let at = format!("/ranges/{index}/range");
            all.extend(range.refusals(&at));
            let twice = self.ranges[..index].iter().any(|other| {
                (other.kind, other.range.output, other.range.hands)
                    == (*kind, range.output, range.hands)
            });
            if twice {
                all.push(Refusal::new(at, "This range stands twice: keep one"));
            }
        }
        all
    }
}

impl House {
    /// The studio's own ranges of one kind of riding.
    pub fn ranges_of(&self, kind: Kind) -> Vec<OwnRange> {
        self.ranges
            .iter()
            .filter(|own| own.kind == kind)
            .map(|own| own.range)
            .collect()
    }
}

/// The most letters of a studio's name.
const MOST_LETTERS: usize = 120;

/// The tape's walk round a bike in the house's order: saddle, hands, feet, front end.
const WALK: [Quantity; 10] = [
    Quantity::SaddleHeight,
    Quantity::Tilt,
    Quantity::Setback,
    Quantity::Drop,
    Quantity::BbToHand,
    Quantity::Crank,
    Quantity::CleatSetback,
    Quantity::SpacersBelow,
    Quantity::Stem,
    Quantity::StemAngle,
];

/// A frame of the studio's library.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct LibraryFrame {
    /// Its id.
    pub id: Uuid,
    /// As it is called, size and all.
    pub name: String,
    /// The kind of riding it is made for.
    pub kind: Kind,
    /// Its geometry.
    pub frame: Frame,
}

/// What was foreseen of a trial, stored and never worked out again.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct TrialForesight {
    /// The core that foresaw it.
    pub core_version: String,
    /// "Saddle down 6".
    pub title: String,
    /// Each bolt.
    pub turns: Vec<Turn>,
    /// What was to be kept in mind.
    pub notes: Vec<String>,
    /// Every output before and after, with the spread of its change.
    pub rows: Vec<Row>,
}

impl From<&Foresight> for TrialForesight {
    fn from(foresight: &Foresight) -> Self {
        Self {
            core_version: foresight.core_version.clone(),
            title: foresight.title.clone(),
            turns: foresight.turns.clone(),
            notes: foresight.notes.clone(),
            rows: foresight.rows.clone(),
        }
    }
}

/// How the rider found it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Verdict {
    /// Better than before.
    Better,
    /// No difference.
    Same,
    /// Worse than before.
    Worse,
}

/// What became of a trial.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Outcome {
    /// It stays.
    Kept,
    /// The setup before is back on the bench.
    PutBack,
}

/// One output as seen on the rider.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Seen {
    /// What was seen.
    pub output: Output,
    /// On which side.
    #[serde(default)]
    pub side: Option<Side>,
    /// The value; none takes an earlier one back.
    pub value: Option<f64>,
}

/// One thing written down about a trial.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum EntryBody {
    /// An output as seen.
    Seen(Seen),
    /// What the rider said; later words replace earlier ones.
    Words(String),
    /// Why it was tried.
    Why(String),
    /// The effort it was ridden at, where that is another than the fit's.
    Effort(Effort),
    /// How the rider found it; a later verdict replaces an earlier one.
    Verdict(Verdict),
    /// Where that is felt; a later list replaces an earlier one.
    Felt(Vec<Felt>),
    /// How sure the rider is.
    Sure(Sure),
    /// What became of it; nothing follows.
    Outcome(Outcome),
}

/// An entry with its place in time: append-only.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Entry {
    /// Made by the client.
    pub id: Uuid,
    /// When.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = DateTime))]
    pub at: Timestamp,
    /// What.
    pub body: EntryBody,
}

/// One change tried on the bench.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Trial {
    /// Made by the client.
    pub id: Uuid,
    /// The how-manieth of the session, from 1.
    pub number: i64,
    /// When it was begun.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = DateTime))]
    pub tried_at: Timestamp,
    /// What was asked for.
    pub changes: Vec<Change>,
    /// The effort it was ridden at.
    pub effort: Option<Effort>,
    /// What was foreseen.
    pub foreseen: TrialForesight,
    /// The setup before, among the session's.
    pub before: Uuid,
    /// The setup tried, among the session's.
    pub after: Uuid,
    /// What was written down about it, in order.
    pub entries: Vec<Entry>,
}

impl Trial {
    /// What became of it, `None` while it is on the bench.
    pub fn outcome(&self) -> Option<Outcome> {
        self.entries.iter().rev().find_map(|e| match e.body {
            EntryBody::Outcome(outcome) => Some(outcome),
            _ => None,
        })
    }

    /// How the rider found it.
    pub fn verdict(&self) -> Option<Verdict> {
        self.entries.iter().rev().find_map(|e| match e.body {
            EntryBody::Verdict(verdict) => Some(verdict),
            _ => None,
        })
    }

    /// What the rider said.
    pub fn words(&self) -> Option<&str> {
        self.last_text(|body| match body {
            EntryBody::Words(words) => Some(words),
            _ => None,
        })
    }

    /// Why it was tried.
    pub fn why(&self) -> Option<&str> {
        self.last_text(|body| match body {
            EntryBody::Why(why) => Some(why),
            _ => None,
        })
    }

    fn last_text(&self, of: impl Fn(&EntryBody) -> Option<&String>) -> Option<&str> {
        let last = self.entries.iter().rev().find_map(|e| of(&e.body))?;
        Some(last.as_str()).filter(|text| !text.is_empty())
    }

    /// The effort it was ridden at.
    pub fn ridden_at(&self) -> Option<Effort> {
        let later = self.entries.iter().rev().find_map(|e| match e.body {
            EntryBody::Effort(effort) => Some(effort),
            _ => None,
        });
        later.or(self.effort)
    }

    /// Where it is felt.
    pub fn felt(&self) -> &[Felt] {
        let last = self.entries.iter().rev().find_map(|e| match &e.body {
            EntryBody::Felt(felt) => Some(felt.as_slice()),
            _ => None,
        });
        last.unwrap_or_default()
    }

    /// How sure the rider is of the verdict.
    pub fn sure(&self) -> Option<Sure> {
        self.entries.iter().rev().find_map(|e| match e.body {
            EntryBody::Sure(sure) => Some(sure),
            _ => None,
        })
    }

    /// What was seen of it beside what was foreseen: what foresight is scored by.
    pub fn compared(&self) -> Vec<Compared> {
        self.seen()
            .into_iter()
            .filter_map(|seen| {
                // Seen without a side, it was the near one: the right.
                let rows = || {
                    self.foreseen
                        .rows
                        .iter()
                        .filter(|r| r.output == seen.output)
                };
                let row = rows()
                    .find(|row| row.side == seen.side || row.side.is_none())
                    .or_else(|| rows().find(|row| row.side == Some(Side::Right)))?;
                Some(Compared {
                    output: seen.output,
                    foreseen: row.after,
                    band: row.band,
                    seen: seen.value?,
                })
            })
            .collect()
    }

    /// The latest value seen of each output and side.
    pub fn seen(&self) -> Vec<Seen> {
        let mut seen: Vec<Seen> = Vec::new();
        for entry in &self.entries {
            if let EntryBody::Seen(new) = entry.body {
                seen.retain(|s| (s.output, s.side) != (new.output, new.side));
                if new.value.is_some() {
                    seen.push(new);
                }
            }
        }
        seen
    }
}
