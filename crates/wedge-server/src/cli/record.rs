//! `wedge export`, `wedge import`, `wedge backup` and `wedge restore`.

use super::{Data, say};
use anyhow::Context;
use clap::Args;
use std::fs::File;
use std::io::{self, BufWriter, Seek, Write};
use std::path::{Path, PathBuf};
use tempfile::NamedTempFile;
use uuid::Uuid;
use wedge_files::RiderFile;
use wedge_server::api::{Export as StudioExport, take_in};
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

#[derive(Args)]
pub(super) struct Restore {
    /// The copy to put in the record's place
    copy: PathBuf,
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
    let done = match (&export.output, &export.rider) {
        (None, rider) => write_into(&store, rider.as_deref(), &mut Out).await,
        (Some(file), rider) => {
            let mut new = new_file(file)?;
            let mut out = BufWriter::new(&mut new);
            let written = write_into(&store, rider.as_deref(), &mut out).await;
            drop(out);
            written.and_then(|()| named(new, file))
        }
    };
    store.close().await;
    done
}

/// Writes a rider, or the whole studio rider by rider.
async fn write_into(
    store: &Store,
    rider: Option<&str>,
    out: &mut impl Write,
) -> anyhow::Result<()> {
    if let Some(wanted) = rider {
        let rider = store.rider(one(store, wanted).await?).await?.noun;
        out.write_all(RiderFile::new(rider).write()?.as_bytes())?;
    } else {
        let mut studio = StudioExport::begin(store).await?;
        while let Some(text) = studio.next().await? {
            out.write_all(text.as_bytes())?;
        }
        for rider in studio.unreadable() {
            eprintln!(
                "wedge: {} does not read and is in the file as stored: {}",
                rider.name, rider.why
            );
        }
    }
    out.flush()?;
    Ok(())
}

/// Standard output. A reader that has seen enough is no failure.
struct Out;

impl Write for Out {
    fn write(&mut self, bytes: &[u8]) -> io::Result<usize> {
        match io::stdout().lock().write(bytes) {
            Err(error) if error.kind() == io::ErrorKind::BrokenPipe => Ok(bytes.len()),
            written => written,
        }
    }

    fn flush(&mut self) -> io::Result<()> {
        match io::stdout().lock().flush() {
            Err(error) if error.kind() != io::ErrorKind::BrokenPipe => Err(error),
            _ => Ok(()),
        }
    }
}

/// The rider meant by a name or an id.
async fn one(store: &Store, wanted: &str) -> anyhow::Result<Uuid> {
    let all = store.riders("", true, i64::MAX).await?;
    let mut meant: Vec<Uuid> = all
        .into_iter()
        .filter(|r| r.id.to_string() == wanted || r.name.to_lowercase() == wanted.to_lowercase())
        .map(|rider| rider.id)
        .collect();
    match (meant.pop(), meant.is_empty()) {
        (Some(rider), true) => Ok(rider),
        (Some(rider), false) => {
            let ids: Vec<String> = meant.iter().chain([&rider]).map(Uuid::to_string).collect();
            anyhow::bail!(
                "several riders are called {wanted}: name one by id, {}",
                ids.join(" or ")
            )
        }
        (None, _) => anyhow::bail!("no rider on record is called {wanted}"),
    }
}

/// A file that is to get its name once it is whole, readable by its owner only, since it holds health data.
fn new_file(file: &Path) -> anyhow::Result<NamedTempFile> {
    let folder = file.parent().filter(|folder| *folder != Path::new(""));
    NamedTempFile::new_in(folder.unwrap_or(Path::new(".")))
        .with_context(|| format!("cannot write {}", file.display()))
}

/// Gives it its name, which must be new.
fn named(new: NamedTempFile, file: &Path) -> anyhow::Result<()> {
    let written = || {
        new.as_file().sync_all()?;
        new.persist_noclobber(file).map_err(|refused| refused.error)
    };
    written().with_context(|| format!("cannot write {}", file.display()))?;
    Ok(())
}

pub(super) async fn import(import: &Import) -> anyhow::Result<()> {
    let name = import.file.display();
    let unread = || format!("cannot read {name}");
    let file = if import.file == Path::new("-") {
        let mut sent = tempfile::tempfile()?;
        io::copy(&mut io::stdin().lock(), &mut sent).context("cannot read standard input")?;
        sent.rewind()?;
        sent
    } else {
        File::open(&import.file).with_context(unread)?
    };
    let store = Store::open(&import.data.ready()?).await?;
    let taken = take_in(&store, file, import.as_copy).await;
    store.close().await;
    let taken = taken.map_err(|problem| {
        let beside = if problem.status == 409 {
            " (--as-copy takes it in beside)"
        } else {
            ""
        };
        anyhow::anyhow!("{name} is not taken in{beside}: {problem}")
    })?;
    for left in taken.left() {
        eprintln!(
            "wedge: {left} is not in: the file says the record did not read where it was written"
        );
    }
    let lines: Vec<String> = (taken.riders())
        .map(|(id, name)| format!("{id} {name}\n"))
        .collect();
    say(&lines.concat())
}

pub(super) async fn restore(restore: &Restore) -> anyhow::Result<()> {
    let file = restore.data.ready()?;
    match Store::restore_closed(&restore.copy, &file).await? {
        Some(kept) => say(&format!(
            "{} is in place. What was on record before is kept as {}\n",
            restore.copy.display(),
            kept.display()
        )),
        None => say(&format!("{} is in place.\n", restore.copy.display())),
    }
}

pub(super) async fn backup(backup: &Backup) -> anyhow::Result<()> {
    let store = existing(&backup.data).await?;
    let copied = store.backup(&backup.file).await;
    store.close().await;
    copied?;
    Ok(())
}
