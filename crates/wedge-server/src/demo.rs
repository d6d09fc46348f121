//! The demo studio, read and imported by the code a user's own file goes through.

use anyhow::Context;
use jiff::Timestamp;
use rust_embed::Embed;
use wedge_files::{StudioFile, read_studio};
use wedge_store::Store;

#[derive(Embed)]
#[folder = "../../demo"]
#[include = "*.json"]
struct Demo;

/// The demo's files, read.
fn files() -> anyhow::Result<Vec<StudioFile>> {
    Demo::iter()
        .map(|name| {
            let file = Demo::get(&name).with_context(|| format!("demo file {name} is missing"))?;
            let text =
                std::str::from_utf8(&file.data).with_context(|| format!("demo file {name}"))?;
            read_studio(text).with_context(|| format!("demo file {name}"))
        })
        .collect()
}

/// Imports the demo studio and every rider of it.
pub async fn fill(store: &Store) -> anyhow::Result<usize> {
    let mut riders = 0;
    for studio in files()? {
        store.import_studio(&studio, Timestamp::now()).await?;
        riders += studio.riders.len();
    }
    Ok(riders)
}

/// The demo's riders alone, for a studio of its own: all in one file.
pub(crate) fn riders() -> anyhow::Result<StudioFile> {
    let riders = files()?.into_iter().flat_map(|studio| studio.riders);
    Ok(StudioFile::new(riders.collect()))
}
