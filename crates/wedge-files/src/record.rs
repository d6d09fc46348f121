//! The nouns of the record.

use jiff::Timestamp;
use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use std::collections::HashMap;
use uuid::Uuid;
use wedge_core::bike::{Frame, HandPlace, Kind, Setup};
use wedge_core::foresee::{self, Change, Effort, Foresight, Row, Turn};
use wedge_core::judge::Output;
use wedge_core::measure::{Convention, Conventions, Method, Quantity, Reading, SitReference};
use wedge_core::units::Side;
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
        }
    }
}

impl From<ReadingRecord> for FlatReading {
    fn from(
        ReadingRecord {
            id,
            taken_at,
            reading,
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
    /// Readings of the body, in the order they were taken.
    pub readings: Vec<ReadingRecord>,
    /// The rider's bikes, the oldest first.
    pub bikes: Vec<Bike>,
}

impl Rider {
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
        foresee::Rider::from_readings(self.readings.iter().map(|r| &r.reading))
    }

    /// The rider as measured when a fit was finished, since bodies change; as measured now while it is going on, or
    /// when nothing was measured before it.
    pub fn measured_for(&self, session: &Session) -> Option<foresee::Rider> {
        let until = session.finished_by();
        let then = self
            .readings
            .iter()
            .filter(|r| until.is_none_or(|until| r.taken_at <= until))
            .map(|r| &r.reading);
        foresee::Rider::from_readings(then).or_else(|| self.measured())
    }
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
    /// The parts as typed in, before any fit. Its saddle is a place to draw from, not a reading.
    pub setup: Setup,
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
    /// The setup the fit began from.
    pub base: Setup,
    /// Readings of the bike, in the order they were taken.
    pub readings: Vec<ReadingRecord>,
    /// Every setup recorded, in order. The first is the bike as found, once that is closed.
    pub setups: Vec<SetupRecord>,
    /// The setup on the bench now; the bike as found until the first trial.
    pub now: Option<Uuid>,
    /// Every trial, in order.
    pub trials: Vec<Trial>,
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
        entries.chain(setups).max()
    }

    /// The trial still waiting for its outcome.
    pub fn undecided(&self) -> Option<&Trial> {
        self.trials.iter().find(|t| t.outcome().is_none())
    }
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
    /// How the rider found it; a later verdict replaces an earlier one.
    Verdict(Verdict),
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
        self.entries
            .iter()
            .rev()
            .find_map(|e| match &e.body {
                EntryBody::Words(words) => Some(words.as_str()),
                _ => None,
            })
            .filter(|words| !words.is_empty())
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
