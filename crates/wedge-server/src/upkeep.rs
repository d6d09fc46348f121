//! What a server does by itself: the day's copy, pictures that are due, and a look over a large record.

use crate::api::kept_since;
use actix_web::rt;
use actix_web::web::Data;
use jiff::{Timestamp, Zoned};
use std::sync::{Arc, Mutex};
use std::time::Duration;
use wedge_store::{Store, StoreError};

/// What went wrong of it, for the studio's page.
#[derive(Debug, Clone, Default)]
pub(crate) struct Watch(Arc<Mutex<Option<String>>>);

impl Watch {
    /// What went wrong last.
    pub(crate) fn trouble(&self) -> Option<String> {
        self.0.lock().ok().and_then(|trouble| trouble.clone())
    }

    fn note(&self, trouble: Option<String>) {
        if let Some(words) = &trouble {
            tracing::warn!("{words}");
        }
        if let Ok(mut held) = self.0.lock() {
            *held = trouble;
        }
    }
}

/// How often it is asked whether the day has its copy.
const EVERY: Duration = Duration::from_mins(15);

/// Begins the upkeep of a record that is being served.
pub(crate) fn begin(store: Store) -> Data<Watch> {
    let watch = Watch::default();
    let noting = watch.clone();
    rt::spawn(async move {
        if store.is_large()
            && let Err(error) = store.look_over().await
        {
            noting.note(Some(format!("Sound no more: {error}.")));
            return;
        }
        loop {
            // Before the day's copy, so that what is due is not in it.
            let forgotten = forgotten(&store).await;
            let copied = copied(&store).await;
            let trouble = (copied
                .err()
                .map(|error| format!("Today's copy failed: {error}.")))
            .or_else(|| {
                let error = forgotten.err()?;
                Some(format!("Pictures that are due were not deleted: {error}."))
            });
            noting.note(trouble);
            rt::time::sleep(EVERY).await;
        }
    });
    Data::new(watch)
}

/// Deletes pictures that were kept for the studio's number of days.
async fn forgotten(store: &Store) -> Result<(), StoreError> {
    let house = store.house().await?.noun;
    store
        .forget_pictures(kept_since(Timestamp::now(), &house))
        .await?;
    Ok(())
}

/// Makes the day's copy, once there is somebody on record.
async fn copied(store: &Store) -> Result<(), StoreError> {
    if store.rider_ids().await?.is_empty() {
        return Ok(());
    }
    let keep = usize::from(store.house().await?.noun.copies);
    store.daily_copy(&Zoned::now(), keep).await
}
