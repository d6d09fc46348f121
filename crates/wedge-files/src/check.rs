//! What a record from a file must hold to, besides its shape.

use crate::{FileError, House, LibraryFrame, Rider, refuse_name};
use std::collections::HashSet;
use uuid::Uuid;
use wedge_core::foresee::ForeseeInput;
use wedge_core::measure::Refusal;

/// Checks everything about a rider that stands at `at` in the file.
pub(crate) fn rider(at: &str, rider: &Rider) -> Result<(), FileError> {
    refuse(at, Vec::from_iter(refuse_name(&rider.name, "/name")))?;
    let measured = rider.measured().ok_or_else(|| {
        FileError::new(
            format!("{at}.readings"),
            "a rider needs a reading of stature_mm",
        )
    })?;
    for (index, record) in rider.readings.iter().enumerate() {
        refuse(
            &format!("{at}.readings[{index}]"),
            record.reading.refusals(""),
        )?;
    }
    for (index, consent) in rider.consents.iter().enumerate() {
        refuse(
            &format!("{at}.consents[{index}]"),
            consent.refusals(rider.born, ""),
        )?;
    }
    for (index, bike) in rider.bikes.iter().enumerate() {
        let at = format!("{at}.bikes[{index}]");
        let input = ForeseeInput::new(measured, bike.kind, bike.frame, bike.setup);
        refuse(&at, input.check().err().unwrap_or_default())?;
        for (index, session) in bike.sessions.iter().enumerate() {
            let at = format!("{at}.sessions[{index}]");
            refuse(&at, session.refusals(""))?;
            let pictured = session.takes.iter().position(|t| !t.picture.is_empty());
            if let Some(take) = pictured.filter(|_| !rider.consent().is_some_and(|c| c.pictures)) {
                return Err(FileError::new(
                    format!("{at}.takes[{take}].picture"),
                    "a picture is kept only with the rider's consent",
                ));
            }
        }
    }
    Ok(())
}

/// Checks how a studio works and its frames.
pub(crate) fn studio(house: Option<&House>, frames: &[LibraryFrame]) -> Result<(), FileError> {
    if let Some(house) = house {
        refuse("house", house.refusals())?;
    }
    for (index, frame) in frames.iter().enumerate() {
        refuse(&format!("frames[{index}].frame"), frame.frame.refusals(""))?;
    }
    Ok(())
}

/// Checks that no id stands twice in the file.
pub(crate) fn ids<'a>(riders: impl IntoIterator<Item = &'a Rider>) -> Result<(), FileError> {
    let mut seen = HashSet::new();
    for id in riders.into_iter().flat_map(ids_of) {
        if !seen.insert(id) {
            return Err(FileError::new(".", format!("the id {id} stands twice")));
        }
    }
    Ok(())
}

/// Every id of a rider's record.
fn ids_of(rider: &Rider) -> Vec<Uuid> {
    let mut ids = vec![rider.id];
    ids.extend(rider.consents.iter().map(|c| c.id));
    ids.extend(rider.readings.iter().map(|r| r.id));
    for bike in &rider.bikes {
        ids.push(bike.id);
        for session in &bike.sessions {
            ids.push(session.id);
            ids.extend(session.readings.iter().map(|r| r.id));
            ids.extend(session.setups.iter().map(|s| s.id));
            ids.extend(session.looks.iter().map(|l| l.id));
            ids.extend(session.calibrations.iter().map(|c| c.id));
            ids.extend(session.takes.iter().map(|t| t.id));
            ids.extend(session.disputes.iter().map(|d| d.id));
            ids.extend(session.afterwards.iter().map(|a| a.id));
            for trial in &session.trials {
                ids.push(trial.id);
                ids.extend(trial.entries.iter().map(|e| e.id));
            }
            for run in &session.runs {
                ids.push(run.id);
                ids.extend(run.calls.iter().map(|c| c.id));
            }
        }
    }
    ids
}

/// The first of what core refuses, its JSON pointer written as a path.
pub(crate) fn refuse(at: &str, refusals: Vec<Refusal>) -> Result<(), FileError> {
    refusals.into_iter().next().map_or(Ok(()), |refusal| {
        Err(FileError::new(
            format!("{at}{}", path(&refusal.pointer)),
            refusal.detail,
        ))
    })
}

/// A JSON pointer as a path: `/trials/0/before` is `.trials[0].before`.
fn path(pointer: &str) -> String {
    let steps = pointer.split('/').filter(|step| !step.is_empty());
    steps
        .map(|step| match step.parse::<usize>() {
            Ok(index) => format!("[{index}]"),
            Err(_) => format!(".{step}"),
        })
        .collect()
}
