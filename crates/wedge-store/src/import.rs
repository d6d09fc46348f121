//! Whole riders from a file: all of it or nothing, and nobody kept waiting.

use crate::{
    Store, StoreError, afterwards, bikes, disputes, fit, looks, pictures, readings, riders, runs,
    sessions, studio, takes, trials,
};
use jiff::Timestamp;
use sqlx::{Sqlite, Transaction};
use std::time::{Duration, Instant};
use uuid::Uuid;
use wedge_files::{House, LibraryFrame, Rider, StudioFile, of_pieces};

/// Riders on their way in from a file. Nobody sees one until all of them are in; the record is free for others in
/// between, however many they are.
#[derive(Debug)]
pub struct Arrival {
    store: Store,
    id: String,
    now: Timestamp,
}

/// How long the record is held at once.
const HELD: Duration = Duration::from_millis(80);
/// And how long it is free then at the least, for other programs.
const FREE: Duration = Duration::from_millis(20);

impl Store {
    /// Takes riders in, in as many parts as need be. The arrival is to land or to turn back.
    pub fn arrival(&self, now: Timestamp) -> Arrival {
        Arrival {
            store: self.clone(),
            id: Uuid::now_v7().to_string(),
            now,
        }
    }

    /// Writes a studio's file, all of it or nothing: how it works where that is not chosen here yet, its frames, riders
    /// with bikes, fits and trials. An id already on record is a conflict that names whose it is; frames that are in the
    /// library under the same name stay as they are.
    pub async fn import_studio(
        &self,
        studio: &StudioFile,
        now: Timestamp,
    ) -> Result<(), StoreError> {
        let arrival = self.arrival(now);
        let taken = match arrival.take(&studio.riders).await {
            Ok(()) => arrival.land(studio.house.as_ref(), &studio.frames).await,
            Err(error) => Err(error),
        };
        if taken.is_err() {
            arrival.turn_back().await?;
        }
        taken
    }

    /// Removes whoever was on the way in when a Wedge was stopped.
    pub(crate) async fn forget_arrivals(&self) -> Result<(), StoreError> {
        sqlx::query!("DELETE FROM riders WHERE arriving IS NOT NULL")
            .execute(&self.pool())
            .await?;
        Ok(())
    }
}

impl Arrival {
    /// Writes more riders, unseen as yet.
    pub async fn take(&self, riders: &[Rider]) -> Result<(), StoreError> {
        let mut waiting = riders.iter().peekable();
        while waiting.peek().is_some() {
            let mut tx = self.store.write_unasked().await?;
            let begun = Instant::now();
            while let Some(rider) = waiting.next_if(|_| begun.elapsed() < HELD) {
                write_all(&mut tx, rider, Some(&self.id), self.now)
                    .await
                    .map_err(|error| on_record(rider, error))?;
            }
            tx.commit().await?;
            // However short it was: the next one would follow at once, and whoever waits looks only now and then.
            if waiting.peek().is_some() || !self.store.queue.is_empty() {
                self.let_others_pass().await;
            }
        }
        Ok(())
    }

    /// Whoever is waiting to write goes first.
    async fn let_others_pass(&self) {
        tokio::time::sleep(FREE).await;
        while !self.store.queue.is_empty() {
            tokio::time::sleep(FREE / 4).await;
        }
    }

    /// All of them are in: they are seen from now on, with the studio's ways and frames.
    pub async fn land(
        &self,
        house: Option<&House>,
        frames: &[LibraryFrame],
    ) -> Result<(), StoreError> {
        let mut tx = self.store.write().await?;
        if let Some(house) = house
            && !studio::is_chosen(&mut tx).await?
        {
            studio::put_house(&mut tx, house, 1).await?;
        }
        let known = studio::frame_names(&mut tx).await?;
        let new: Vec<_> = (frames.iter())
            .filter(|frame| {
                !known.iter().any(|(id, name)| {
                    name.to_lowercase() == frame.name.to_lowercase() || *id == frame.id.to_string()
                })
            })
            .cloned()
            .collect();
        studio::insert_frames(&mut tx, &new, self.now).await?;
        sqlx::query!(
            "UPDATE riders SET arriving = NULL WHERE arriving = ?1",
            self.id
        )
        .execute(&mut *tx)
        .await?;
        tx.commit().await?;
        Ok(())
    }

    /// Nobody of them comes in.
    pub async fn turn_back(&self) -> Result<(), StoreError> {
        loop {
            let mut tx = self.store.write_unasked().await?;
            let gone = sqlx::query!(
                "DELETE FROM riders WHERE id IN (SELECT id FROM riders WHERE arriving = ?1 LIMIT 50)",
                self.id
            )
            .execute(&mut *tx)
            .await?;
            tx.commit().await?;
            if gone.rows_affected() == 0 {
                return Ok(());
            }
            self.let_others_pass().await;
        }
    }
}

pub(crate) async fn write_all(
    tx: &mut Transaction<'static, Sqlite>,
    rider: &Rider,
    arrival: Option<&str>,
    now: Timestamp,
) -> Result<(), StoreError> {
    let new = riders::insert_rider(tx, rider, arrival, now).await?;
    fresh(new, "rider", rider.id)?;
    for consent in &rider.consents {
        let new = pictures::insert_consent(tx, rider.id, consent).await?;
        fresh(new, "answer", consent.id)?;
    }
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
            for take in &session.takes {
                fresh(
                    takes::insert_take(tx, session.id, take).await?,
                    "take",
                    take.id,
                )?;
                if !take.picture.is_empty() {
                    let jpeg = of_pieces(&take.picture)
                        .map_err(|error| StoreError::Conflict(error.to_string()))?;
                    pictures::insert_picture(tx, take.id, &jpeg, now).await?;
                }
            }
            for run in &session.runs {
                runs::insert_run(tx, session.id, run, &run.order).await?;
            }
            for dispute in &session.disputes {
                let new = disputes::insert_dispute(tx, session.id, dispute).await?;
                fresh(new, "disagreement", dispute.id)?;
            }
            for entry in &session.afterwards {
                let new = afterwards::insert_afterwards(tx, session.id, entry).await?;
                fresh(new, "entry between visits", entry.id)?;
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

/// A conflict by whose it is.
fn on_record(rider: &Rider, error: StoreError) -> StoreError {
    match error {
        StoreError::Conflict(why) => StoreError::Conflict(format!("{}: {why}", rider.name)),
        other => other,
    }
}
