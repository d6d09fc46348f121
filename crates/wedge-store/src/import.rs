//! Whole riders from a file: all of it or nothing.

use crate::{
    Store, StoreError, bikes, disputes, fit, looks, readings, riders, runs, sessions, studio,
    trials,
};
use jiff::Timestamp;
use sqlx::{Sqlite, Transaction};
use wedge_files::{Rider, StudioFile};

impl Store {
    /// Writes a studio's file in one transaction: how it works where that is not chosen here yet, its frames, riders
    /// with bikes, fits and trials. An id already on record is a conflict that names whose it is, and nothing is
    /// written; frames that are in the library under the same name stay as they are.
    pub async fn import_studio(
        &self,
        studio: &StudioFile,
        now: Timestamp,
    ) -> Result<(), StoreError> {
        let chosen = self.house().await?.version > 0;
        let known = self.frames().await?;
        let riders = &studio.riders;
        let mut tx = self.write().await?;
        if let Some(house) = &studio.house
            && !chosen
        {
            studio::put_house(&mut tx, house, 1).await?;
        }
        let new: Vec<_> = (studio.frames.iter())
            .filter(|frame| {
                !known
                    .iter()
                    .any(|k| k.name == frame.name || k.id == frame.id)
            })
            .cloned()
            .collect();
        studio::insert_frames(&mut tx, &new, now).await?;
        for rider in riders {
            write_all(&mut tx, rider, now)
                .await
                .map_err(|error| on_record(rider, error))?;
        }
        tx.commit().await?;
        Ok(())
    }
}

async fn write_all(
    tx: &mut Transaction<'static, Sqlite>,
    rider: &Rider,
    now: Timestamp,
) -> Result<(), StoreError> {
    let new = riders::insert_rider(tx, rider, now).await?;
    fresh(new, "rider", rider.id)?;
    for reading in &rider.readings {
        let new = readings::insert_reading(tx, rider.id, None, reading).await?;
        fresh(new, "reading", reading.id)?;
    }
    for bike in &rider.bikes {
        fresh(
            bikes::insert_bike(tx, rider.id, bike, now).await?,
            "bike",
            bike.id,
        )?;
        for session in &bike.sessions {
            sessions::insert_session(tx, bike.id, session, now).await?;
            for reading in &session.readings {
                let new = readings::insert_reading(tx, rider.id, Some(session.id), reading).await?;
                fresh(new, "reading", reading.id)?;
            }
            for setup in &session.setups {
                fit::insert_setup(tx, session.id, setup).await?;
            }
            for look in &session.looks {
                fresh(
                    looks::insert_look(tx, session.id, look).await?,
                    "look",
                    look.id,
                )?;
            }
            for record in &session.calibrations {
                let new = looks::insert_calibration(tx, session.id, record).await?;
                fresh(new, "calibration", record.id)?;
            }
            for run in &session.runs {
                runs::insert_run(tx, session.id, run, &run.order).await?;
            }
            for dispute in &session.disputes {
                let new = disputes::insert_dispute(tx, session.id, dispute).await?;
                fresh(new, "disagreement", dispute.id)?;
            }
            for trial in &session.trials {
                trials::insert_trial(tx, session.id, trial).await?;
                for entry in &trial.entries {
                    trials::insert_entry(tx, trial.id, entry).await?;
                }
            }
        }
    }
    Ok(())
}

fn fresh(new: bool, what: &str, id: uuid::Uuid) -> Result<(), StoreError> {
    if new {
        Ok(())
    } else {
        Err(StoreError::Conflict(format!(
            "the {what} {id} is on record already"
        )))
    }
}

/// A unique id met twice is the file's conflict, not the database's failure.
fn on_record(rider: &Rider, error: StoreError) -> StoreError {
    match error {
        StoreError::Database(sqlx::Error::Database(db)) if db.is_unique_violation() => {
            StoreError::Conflict(format!("something of {} is on record already", rider.name))
        }
        StoreError::Conflict(why) => StoreError::Conflict(format!("{}: {why}", rider.name)),
        other => other,
    }
}
