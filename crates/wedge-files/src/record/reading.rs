//! Readings, and the body they make.

use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use std::collections::HashMap;
use uuid::Uuid;
use wedge_core::measure::{
    Convention, Method, Quantity, Reading, Refusal, SitReference, of_one_visit,
};
use wedge_core::rider::{self, Taken};
use wedge_core::units::Side;

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

/// Whether what was taken at these times belongs together.
pub fn in_one_visit(one: Timestamp, other: Timestamp) -> bool {
    of_one_visit(one.duration_since(other).abs().as_secs_f64() / 3600.0)
}

/// When each of these was taken, as far as their order allows: what was taken down before something else was not taken
/// after it, whatever the clock said by then.
pub(crate) fn in_order(times: impl DoubleEndedIterator<Item = Timestamp>) -> Vec<Timestamp> {
    let mut latest = Timestamp::MAX;
    let mut all: Vec<Timestamp> = times
        .rev()
        .map(|time| {
            latest = latest.min(time);
            latest
        })
        .collect();
    all.reverse();
    all
}

/// The readings of the body that count, those of one visit together: of each measure and side the latest visit's,
/// without what was set aside. The latest is the one taken down last, whatever the clock said.
pub fn taken(readings: &[ReadingRecord]) -> Vec<(Taken, Vec<Uuid>)> {
    let key = |r: &ReadingRecord| (r.reading.quantity, r.reading.side);
    let counting = || readings.iter().filter(|r| r.set_aside_at.is_none());
    let mut latest: HashMap<_, Timestamp> = HashMap::new();
    for record in counting() {
        latest.insert(key(record), record.taken_at);
    }
    let mut all: Vec<(Taken, Vec<Uuid>)> = Vec::new();
    for record in counting() {
        let visit = latest.get(&key(record));
        if !visit.is_some_and(|latest| in_one_visit(*latest, record.taken_at)) {
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
pub fn body_of(readings: &[ReadingRecord]) -> Option<rider::Rider> {
    let readings: Vec<Reading> = taken(readings)
        .iter()
        .filter_map(|(taken, _)| taken.reading())
        .collect();
    rider::Rider::from_readings(&readings)
}

/// What cannot be right of a body as far as it is read, each at its quantity's key.
pub fn body_refusals(readings: &[ReadingRecord]) -> Vec<Refusal> {
    let Some(rider) = body_of(readings) else {
        return vec![Refusal::new("/stature_mm", "A rider needs a stature")];
    };
    let mut errors = rider.body.refusals("");
    if errors.is_empty() {
        errors.extend(rider.body.proportion_refusal(""));
    }
    errors
}
