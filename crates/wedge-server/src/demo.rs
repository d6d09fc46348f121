//! The demo studio, read and imported by the code a user's own file goes through.

use anyhow::Context;
use jiff::Timestamp;
use rust_embed::Embed;
use wedge_files::read_riders;
use wedge_store::Store;

#[derive(Embed)]
#[folder = "../../demo"]
#[include = "*.json"]
struct Demo;

/// Imports every rider of the demo studio.
pub async fn fill(store: &Store) -> anyhow::Result<usize> {
    let mut riders = Vec::new();
    for name in Demo::iter() {
        let file = Demo::get(&name).with_context(|| format!("demo file {name} is missing"))?;
        let text = std::str::from_utf8(&file.data).with_context(|| format!("demo file {name}"))?;
        riders.extend(read_riders(text).with_context(|| format!("demo file {name}"))?);
    }
    store.import_riders(&riders, Timestamp::now()).await?;
    Ok(riders.len())
}
