//! One rider as a file: `wedge.rider/1`.

use crate::Rider;
use serde::{Deserialize, Serialize};
use std::collections::HashSet;
use thiserror::Error;
use uuid::Uuid;
use wedge_core::foresee::{ForeseeInput, Observations};
use wedge_core::measure::Conventions;

/// The line that says what a file is.
const FORMAT: &str = "wedge.rider/1";

/// One rider with bikes, fits and trials.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct RiderFile {
    /// `wedge.rider/1`.
    pub format: String,
    /// The rider.
    pub rider: Rider,
}

/// Why a file is refused, with the path of what is wrong. Nothing of a refused file is kept.
#[derive(Debug, Error, PartialEq, Eq)]
#[error("{path}: {message}")]
pub struct FileError {
    /// Path inside the file, as `rider.bikes[0].frame`; `.` for the file as a whole.
    pub path: String,
    /// What is wrong there.
    pub message: String,
}

impl FileError {
    fn new(path: impl Into<String>, message: impl Into<String>) -> Self {
        Self {
            path: path.into(),
            message: message.into(),
        }
    }
}

impl RiderFile {
    /// A file of this rider.
    pub fn new(rider: Rider) -> Self {
        Self {
            format: FORMAT.to_owned(),
            rider,
        }
    }

    /// Reads a file and checks everything a record must hold to.
    pub fn read(text: &str) -> Result<Self, FileError> {
        let mut json = serde_json::Deserializer::from_str(text);
        let file: Self = serde_path_to_error::deserialize(&mut json)
            .map_err(|error| FileError::new(error.path().to_string(), error.inner().to_string()))?;
        json.end()
            .map_err(|error| FileError::new(".", error.to_string()))?;
        file.check()?;
        Ok(file)
    }

    /// The file's text, indented, with a newline at the end.
    pub fn write(&self) -> Result<String, FileError> {
        serde_json::to_string_pretty(self)
            .map(|text| text + "\n")
            .map_err(|error| FileError::new(".", error.to_string()))
    }

    fn check(&self) -> Result<(), FileError> {
        if self.format != FORMAT {
            return Err(FileError::new(
                "format",
                format!("this is `{}`, not `{FORMAT}`", self.format),
            ));
        }
        if self.rider.name.trim().is_empty() {
            return Err(FileError::new("rider.name", "a rider has a name"));
        }
        let measured = self.rider.measured().ok_or_else(|| {
            FileError::new("rider.readings", "a rider needs a reading of stature_mm")
        })?;
        for (index, record) in self.rider.readings.iter().enumerate() {
            let at = format!("rider.readings[{index}]");
            refuse(&at, record.reading.refusals(""))?;
        }
        for (b, bike) in self.rider.bikes.iter().enumerate() {
            let at = format!("rider.bikes[{b}]");
            let input = ForeseeInput {
                rider: measured,
                kind: bike.kind,
                frame: bike.frame,
                setup: bike.setup,
                effort: None,
                observed: Observations::default(),
                conventions: Conventions::default(),
                changes: Vec::new(),
            };
            refuse(&at, input.check().err().unwrap_or_default())?;
            for (s, session) in bike.sessions.iter().enumerate() {
                check_session(&format!("{at}.sessions[{s}]"), session)?;
            }
        }
        self.check_ids()
    }

    fn check_ids(&self) -> Result<(), FileError> {
        let mut seen = HashSet::new();
        let bikes = self.rider.bikes.iter();
        let sessions = bikes.clone().flat_map(|b| &b.sessions);
        let ids = std::iter::once(self.rider.id)
            .chain(self.rider.readings.iter().map(|r| r.id))
            .chain(bikes.map(|b| b.id))
            .chain(sessions.flat_map(|s| {
                let trials = s
                    .trials
                    .iter()
                    .flat_map(|t| std::iter::once(t.id).chain(t.entries.iter().map(|e| e.id)));
                std::iter::once(s.id)
                    .chain(s.readings.iter().map(|r| r.id))
                    .chain(s.setups.iter().map(|x| x.id))
                    .chain(trials)
            }));
        for id in ids {
            if !seen.insert(id) {
                return Err(FileError::new("rider", format!("the id {id} stands twice")));
            }
        }
        Ok(())
    }
}

/// What one fit must hold to.
fn check_session(at: &str, session: &crate::Session) -> Result<(), FileError> {
    refuse(
        &format!("{at}.conventions"),
        session.conventions.refusals(""),
    )?;
    refuse(&format!("{at}.base"), session.base.refusals(""))?;
    for (index, record) in session.readings.iter().enumerate() {
        refuse(
            &format!("{at}.readings[{index}]"),
            record.reading.refusals(""),
        )?;
    }
    for (index, record) in session.setups.iter().enumerate() {
        refuse(&format!("{at}.setups[{index}]"), record.setup.refusals(""))?;
    }
    let known: HashSet<Uuid> = session.setups.iter().map(|s| s.id).collect();
    if session.now.is_some_and(|now| !known.contains(&now)) {
        return Err(FileError::new(
            format!("{at}.now"),
            "no such setup in the session",
        ));
    }
    if session.now.is_none() && !session.setups.is_empty() {
        return Err(FileError::new(
            format!("{at}.now"),
            "a session with setups has one on the bench",
        ));
    }
    for (index, trial) in session.trials.iter().enumerate() {
        for (key, id) in [("before", trial.before), ("after", trial.after)] {
            if !known.contains(&id) {
                return Err(FileError::new(
                    format!("{at}.trials[{index}].{key}"),
                    "no such setup in the session",
                ));
            }
        }
    }
    Ok(())
}

/// The first of what core refuses, its JSON pointer written as a path.
fn refuse(at: &str, refusals: Vec<wedge_core::measure::Refusal>) -> Result<(), FileError> {
    refusals.into_iter().next().map_or(Ok(()), |refusal| {
        Err(FileError::new(
            format!("{at}{}", refusal.pointer.replace('/', ".")),
            refusal.detail,
        ))
    })
}
