//! The demo studio, read and imported by the code a user's own file goes through.

use anyhow::Context;
use jiff::Timestamp;
use rust_embed::Embed;
use wedge_files::read_studio;
use wedge_store::Store;

#[derive(Embed)]
#[folder = "../../demo"]
#[include = "*.json"]
struct Demo;

/// Imports the demo studio and every rider of it.
pub async fn fill(store: &Store) -> anyhow::Result<usize> {
    let mut riders = 0;
    for name in Demo::iter() {
        let file = Demo::get(&name).with_context(|| format!("demo file {name} is missing"))?;
        let text = std::str::from_utf8(&file.data).with_context(|| format!("demo file {name}"))?;
        let studio = read_studio(text).with_context(|| format!("demo file {name}"))?;
        store.import_studio(&studio, Timestamp::now()).await?;
        riders += studio.riders.len();
    }
    Ok(riders)
}
