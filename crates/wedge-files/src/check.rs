//! What a record from a file must hold to, besides its shape.

use crate::{FileError, House, LibraryFrame, Rider, Session};
use std::collections::HashSet;
use uuid::Uuid;
use wedge_core::foresee::ForeseeInput;
use wedge_core::measure::Refusal;
use wedge_core::units::Side;

/// Checks everything about a rider that stands at `at` in the file.
pub(crate) fn rider(at: &str, rider: &Rider) -> Result<(), FileError> {
    if rider.name.trim().is_empty() {
        return Err(FileError::new(format!("{at}.name"), "a rider has a name"));
    }
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
    for (index, bike) in rider.bikes.iter().enumerate() {
        let at = format!("{at}.bikes[{index}]");
        let input = ForeseeInput::new(measured, bike.kind, bike.frame, bike.setup);
        refuse(&at, input.check().err().unwrap_or_default())?;
        for (index, session) in bike.sessions.iter().enumerate() {
            self::session(&format!("{at}.sessions[{index}]"), session)?;
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
    ids.extend(rider.readings.iter().map(|r| r.id));
    for bike in &rider.bikes {
        ids.push(bike.id);
        for session in &bike.sessions {
            ids.push(session.id);
            ids.extend(session.readings.iter().map(|r| r.id));
            ids.extend(session.setups.iter().map(|s| s.id));
            ids.extend(session.looks.iter().map(|l| l.id));
            ids.extend(session.calibrations.iter().map(|c| c.id));
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

/// What one fit must hold to.
fn session(at: &str, session: &Session) -> Result<(), FileError> {
    refuse(
        &format!("{at}.conventions"),
        session.conventions.refusals(""),
    )?;
    refuse(&format!("{at}.base"), session.base.refusals(""))?;
    refuse(&format!("{at}.intake"), session.intake.refusals(""))?;
    for side in [Side::Left, Side::Right] {
        let at = format!("{at}.shoes.{}", side.word());
        refuse(&at, session.shoes.of(side).refusals(""))?;
    }
    refuse(&format!("{at}.saddle"), session.saddle.refusals(""))?;
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
    for (index, look) in session.looks.iter().enumerate() {
        if !known.contains(&look.setup) {
            return Err(FileError::new(
                format!("{at}.looks[{index}].setup"),
                "no such setup in the session",
            ));
        }
    }
    for (index, record) in session.calibrations.iter().enumerate() {
        if let Some(calibration) = &record.calibration {
            refuse(
                &format!("{at}.calibrations[{index}].calibration.fit"),
                calibration.fit.refusals(""),
            )?;
        }
    }
    for (index, run) in session.runs.iter().enumerate() {
        let at = format!("{at}.runs[{index}]");
        refuse(&format!("{at}.plan"), run.plan.refusals(""))?;
        let effort = run.effort.map(|effort| effort.refusals(""));
        refuse(&format!("{at}.effort"), effort.unwrap_or_default())?;
        if !known.contains(&run.setup) {
            return Err(FileError::new(
                format!("{at}.setup"),
                "no such setup in the session",
            ));
        }
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
pub(crate) fn refuse(at: &str, refusals: Vec<Refusal>) -> Result<(), FileError> {
    refusals.into_iter().next().map_or(Ok(()), |refusal| {
        Err(FileError::new(
            format!("{at}{}", refusal.pointer.replace('/', ".")),
            refusal.detail,
        ))
    })
}
