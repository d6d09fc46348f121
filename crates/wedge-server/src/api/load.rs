//! What routes load before they call.

use crate::Problem;
use actix_web::web;
use uuid::Uuid;
use wedge_bench::{Bench, Versions};
use wedge_store::{Store, Versioned};

/// Works something out beside the workers that answer.
pub(super) async fn worked_out<T: Send + 'static>(
    work: impl FnOnce() -> Result<T, Problem> + Send + 'static,
) -> Result<T, Problem> {
    web::block(work).await.map_err(|_| Problem::busy())?
}

/// A fit on the bench, out of the record.
pub(super) async fn bench(store: &Store, session: Uuid) -> Result<Bench, Problem> {
    Ok(bench_at(store, session).await?.0)
}

/// The same, with the versions it was read at.
pub(super) async fn bench_at(store: &Store, id: Uuid) -> Result<(Bench, Versions), Problem> {
    let place = store.place_of_session(id).await?;
    let Versioned {
        noun: rider,
        version: rider_version,
    } = store.rider_around(place.rider, id).await?;
    let session = store.session(id).await?;
    let versions = Versions {
        session: session.version,
        rider: rider_version,
        bike: store.bike_version(place.bike).await?,
    };
    let house = store.house().await?.noun;
    Ok((Bench::of(rider, session.noun, house)?, versions))
}
