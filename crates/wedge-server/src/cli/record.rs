//! `wedge export`, `wedge import` and `wedge backup`.

use super::{Data, say, text_of};
use anyhow::Context;
use clap::Args;
use jiff::Timestamp;
use std::io::Write;
use std::path::{Path, PathBuf};
use tempfile::NamedTempFile;
use uuid::Uuid;
use wedge_files::{Rider, RiderFile, StudioFile, as_wanted, read_studio};
use wedge_store::Store;

#[derive(Args)]
pub(super) struct Export {
    /// The rider's name or id; the whole studio when left out
    rider: Option<String>,
    /// The file to write, which must not be there yet [default: standard output]
    #[arg(long, short, value_name = "FILE")]
    output: Option<PathBuf>,
    #[command(flatten)]
    data: Data,
}

#[derive(Args)]
pub(super) struct Import {
    /// A wedge.rider or wedge.studio file; - reads standard input
    file: PathBuf,
    /// Take it in under new ids, beside what is on record already
    #[arg(long)]
    as_copy: bool,
    #[command(flatten)]
    data: Data,
}

#[derive(Args)]
pub(super) struct Backup {
    /// The file to write, which must not be there yet
    file: PathBuf,
    #[command(flatten)]
    data: Data,
}

/// A record that must be there already: reading from one nobody made is a mistyped name.
async fn existing(data: &Data) -> anyhow::Result<Store> {
    let file = data.file()?;
    if !file.exists() {
        anyhow::bail!(
            "there is no record at {}: name one with --data",
            file.display()
        );
    }
    Ok(Store::open(&file).await?)
}

pub(super) async fn export(export: &Export) -> anyhow::Result<()> {
    let store = existing(&export.data).await?;
    let riders = store.all_riders().await?;
    let house = store.house().await?;
    let frames = store.frames().await?;
    store.close().await;
    let text = match &export.rider {
        Some(wanted) => RiderFile::new(one(riders, wanted)?).write()?,
        None => StudioFile {
            house: (house.version > 0).then_some(house.noun),
            frames,
            ..StudioFile::new(riders)
        }
        .write()?,
    };
    match &export.output {
        None => say(&text),
        Some(file) => write_new(file, &text),
    }
}

/// The rider meant by a name or an id.
fn one(riders: Vec<Rider>, wanted: &str) -> anyhow::Result<Rider> {
    let mut meant: Vec<Rider> = riders
        .into_iter()
        .filter(|r| r.id.to_string() == wanted || r.name.to_lowercase() == wanted.to_lowercase())
        .collect();
    match (meant.pop(), meant.is_empty()) {
        (Some(rider), true) => Ok(rider),
        (Some(rider), false) => {
            let ids: Vec<String> = meant
                .iter()
                .chain([&rider])
                .map(|r| r.id.to_string())
                .collect();
            anyhow::bail!(
                "several riders are called {wanted}: name one by id, {}",
                ids.join(" or ")
            )
        }
        (None, _) => anyhow::bail!("no rider on record is called {wanted}"),
    }
}

/// Writes a file that was not there: all of it or nothing, and readable by its owner only, since it holds health data.
fn write_new(file: &Path, text: &str) -> anyhow::Result<()> {
    let folder = file.parent().filter(|folder| *folder != Path::new(""));
    let written = || {
        let mut new = NamedTempFile::new_in(folder.unwrap_or(Path::new(".")))?;
        new.write_all(text.as_bytes())?;
        new.as_file().sync_all()?;
        new.persist_noclobber(file).map_err(|refused| refused.error)
    };
    written().with_context(|| format!("cannot write {}", file.display()))?;
    Ok(())
}

pub(super) async fn import(import: &Import) -> anyhow::Result<()> {
    let name = import.file.display();
    let mut studio =
        read_studio(&text_of(&import.file)?).with_context(|| format!("{name} is not taken in"))?;
    studio.riders = as_wanted(studio.riders, import.as_copy, Uuid::now_v7);
    let file = import.data.ready()?;
    let store = Store::open(&file).await?;
    let taken = store.import_studio(&studio, Timestamp::now()).await;
    store.close().await;
    taken.with_context(|| format!("{name} is not taken in (--as-copy takes it in beside)"))?;
    let lines: Vec<String> = studio
        .riders
        .iter()
        .map(|rider| format!("{} {}", rider.id, rider.name))
        .collect();
    say(&(lines.join("\n") + "\n"))
}

pub(super) async fn backup(backup: &Backup) -> anyhow::Result<()> {
    let store = existing(&backup.data).await?;
    let copied = store.backup(&backup.file).await;
    store.close().await;
    copied?;
    Ok(())
}
