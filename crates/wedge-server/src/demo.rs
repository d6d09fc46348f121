//! The demo studio, read and imported by the code a user's own file goes through.

use anyhow::Context;
use jiff::Timestamp;
use rust_embed::Embed;
use wedge_files::RiderFile;
use wedge_store::Store;

#[derive(Embed)]
#[folder = "../../demo"]
#[include = "*.json"]
struct Demo;

/// Imports every rider of the demo studio.
pub async fn fill(store: &Store) -> anyhow::Result<usize> {
    let mut riders = 0;
    for name in Demo::iter() {
        let file = Demo::get(&name).with_context(|| format!("demo file {name} is missing"))?;
        let text = std::str::from_utf8(&file.data).with_context(|| format!("demo file {name}"))?;
        let file = RiderFile::read(text).with_context(|| format!("demo file {name}"))?;
        store
            .import_rider(&file.rider, Timestamp::now())
            .await
            .with_context(|| format!("demo file {name}"))?;
        riders += 1;
    }
    Ok(riders)
}
