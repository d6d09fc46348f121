//! A copy put in the record's place, the record kept beside it.

use crate::copies::unfinished;
use crate::file::{Found, Hold, beside, examined, folder_of, kept_beside};
use crate::{MIGRATIONS, Store, StoreError, connected};
use jiff::Zoned;
use sqlx::sqlite::{SqliteConnectOptions, SqliteConnection};
use sqlx::{ConnectOptions, Connection};
use std::fs::File;
use std::path::{Path, PathBuf};
use std::sync::PoisonError;
use tempfile::TempPath;

impl Store {
    /// Puts a copy in the place of the record at `file`, which nobody may hold, and answers where the old one is kept.
    /// The copy is checked and brought up to date first; when it is not sound, nothing happens.
    pub async fn restore_closed(copy: &Path, file: &Path) -> Result<Option<PathBuf>, StoreError> {
        let hold = Hold::shared(file)?;
        hold.alone(file)?;
        let ready = made_ready(copy, file).await?;
        put_in_place(ready, file).await
    }

    /// The same while this record is open, if nobody else holds it. Whoever asks for something meanwhile is told to wait.
    pub async fn restore(&self, copy: &Path) -> Result<Option<PathBuf>, StoreError> {
        let ready = made_ready(copy, self.file()).await?;
        self.hold.alone(self.file())?;
        self.pool().close().await;
        let kept = put_in_place(ready, self.file()).await;
        // Whichever of the two is in place now: it is open again.
        let opened = connected(self.file()).await;
        self.hold.with_others();
        *self.pool.write().unwrap_or_else(PoisonError::into_inner) = opened?;
        kept
    }
}

/// A copy of the copy beside the record: sound, brought up to date, and closed.
async fn made_ready(copy: &Path, file: &Path) -> Result<TempPath, StoreError> {
    if examined(copy).await? == Found::Nothing {
        return Err(StoreError::Conflict(format!(
            "there is no copy at {}",
            copy.display()
        )));
    }
    let ready = unfinished(folder_of(file))?.into_temp_path();
    let options = SqliteConnectOptions::new()
        .filename(copy)
        .read_only(true)
        .immutable(!beside(copy, "-wal").exists());
    let mut connection: SqliteConnection = options.connect().await?;
    let into = ready.to_string_lossy().into_owned();
    sqlx::query("VACUUM INTO ?1")
        .bind(&into)
        .execute(&mut connection)
        .await?;
    connection.close().await?;
    let trial = Store::held(&ready, Hold::shared(&ready)?).await?;
    let sound = trial.made_sound().await;
    trial.close().await;
    for left in ["-wal", "-shm", ".lock"] {
        let _ = std::fs::remove_file(beside(&ready, left));
    }
    sound?;
    Ok(ready)
}

impl Store {
    async fn made_sound(&self) -> Result<(), StoreError> {
        self.look_over().await?;
        let astray: Vec<String> =
            sqlx::query_scalar("SELECT \"table\" FROM pragma_foreign_key_check")
                .fetch_all(&self.pool())
                .await?;
        if let Some(table) = astray.first() {
            return Err(StoreError::Damaged(format!(
                "{} rows belong to nothing, the first in {table}",
                astray.len()
            )));
        }
        self.pending().await?;
        MIGRATIONS.run(&self.pool()).await?;
        self.sign().await?;
        self.forget_arrivals().await
    }
}

/// Swaps the files: at every moment there is a record under its name.
async fn put_in_place(ready: TempPath, file: &Path) -> Result<Option<PathBuf>, StoreError> {
    let kept = if file.exists() {
        // What is still in the log goes into the file; a damaged one keeps its log instead.
        if let Ok(pool) = connected(file).await {
            pool.close().await;
        }
        let stamp = Zoned::now().strftime("%Y-%m-%dT%H%M%S").to_string();
        let kept = dated(file, &stamp);
        for part in ["", "-wal"] {
            link(&beside(file, part), &beside(&kept, part))
                .map_err(|error| StoreError::file(&kept, error))?;
        }
        Some(kept)
    } else {
        None
    };
    let swapped = || {
        for part in ["-wal", "-shm"] {
            match std::fs::remove_file(beside(file, part)) {
                Err(error) if error.kind() != std::io::ErrorKind::NotFound => return Err(error),
                _ => {}
            }
        }
        File::open(&ready)?.sync_all()?;
        ready.persist(file).map_err(|refused| refused.error)?;
        File::open(folder_of(file))?.sync_all()
    };
    swapped().map_err(|error| StoreError::file(file, error))?;
    Ok(kept)
}

/// The name an old record is kept under.
fn dated(file: &Path, stamp: &str) -> PathBuf {
    let kept = kept_beside(file, &format!("-until-{stamp}"));
    file.extension()
        .map_or_else(|| kept.clone(), |ending| kept.with_added_extension(ending))
}

/// The same file under a second name; a copy of it where the disk knows no such thing. Nothing where there is none.
fn link(from: &Path, to: &Path) -> std::io::Result<()> {
    if !from.exists() {
        return Ok(());
    }
    std::fs::hard_link(from, to).or_else(|_| std::fs::copy(from, to).map(drop))
}
