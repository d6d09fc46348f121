//! A rider with everything on record.

use super::reading::in_order;
use super::{Bike, CalibrationRecord, Consent, ReadingRecord, Session, Simulated, body_of};
use jiff::Timestamp;
use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use uuid::Uuid;
use wedge_core::intake::Intake;
use wedge_core::rider;

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
    /// Whether it is a stand-in's rider.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub simulated: Option<Simulated>,
    /// Whether pictures may be kept, every answer in the order it was given.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub consents: Vec<Consent>,
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
            simulated: None,
            consents: Vec::new(),
            readings,
            bikes: Vec::new(),
        }
    }

    /// The same record under new ids, so that it can stand beside the one it was made from.
    #[must_use]
    pub fn copied(mut self, mut new_id: impl FnMut() -> Uuid) -> Self {
        self.id = new_id();
        self.consents.iter_mut().for_each(|c| c.id = new_id());
        self.readings.iter_mut().for_each(|r| r.id = new_id());
        for bike in &mut self.bikes {
            bike.id = new_id();
            bike.sessions
                .iter_mut()
                .for_each(|session| session.renew(&mut new_id));
        }
        self
    }

    /// The answer that counts, to whether pictures may be kept.
    pub fn consent(&self) -> Option<&Consent> {
        self.consents.last()
    }

    /// Whether pictures may be kept now: said so last, by whom it is to say at this rider's age.
    pub fn may_be_pictured(&self, now: Timestamp) -> bool {
        self.consent()
            .is_some_and(|last| last.allows(self.born, now))
    }

    /// The rider as the linkage needs one; `None` until stature is known.
    pub fn measured(&self) -> Option<rider::Rider> {
        body_of(&self.readings)
    }

    /// What is on record of calibration for a fit: the latest of the rider's, on whatever bike, that is no later than
    /// the fit.
    pub fn calibrated_for(&self, session: &Session) -> Option<&CalibrationRecord> {
        let until = session.finished_by();
        self.bikes
            .iter()
            .filter_map(|bike| {
                let all = bike
                    .sessions
                    .iter()
                    .flat_map(|session| &session.calibrations);
                let times = in_order(all.clone().map(|record| record.at));
                let known = all
                    .zip(times)
                    .filter(|(_, at)| until.is_none_or(|until| *at <= until));
                // Of one bike the one written down last, whatever the clock said.
                known.last()
            })
            .max_by_key(|(_, at)| *at)
            .map(|(record, _)| record)
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
    pub fn measured_for(&self, session: &Session) -> Option<rider::Rider> {
        self.measured_until(session.finished_by())
    }

    /// The rider as measured until then; as measured now where nothing was before it, or none is named.
    pub fn measured_until(&self, until: Option<Timestamp>) -> Option<rider::Rider> {
        let times = in_order(self.readings.iter().map(|r| r.taken_at));
        let then: Vec<ReadingRecord> = (self.readings.iter().zip(times))
            .filter(|(_, at)| until.is_none_or(|until| *at <= until))
            .map(|(record, _)| record.clone())
            .collect();
        body_of(&then).or_else(|| self.measured())
    }
}
