//! Wedge's record in SQLite: one file a noun, one short function a query.
//!
//! Every write is one transaction begun with `BEGIN IMMEDIATE`. The database runs in WAL mode with
//! `synchronous=FULL`: what a function has answered `Ok` to survives a kill. Ids are made by the client, so writing
//! the same noun again is harmless and answers as the first time did. Readings, setups, trials and their entries are
//! append-only.

mod bikes;
mod disputes;
mod drafts;
mod error;
mod fit;
mod import;
mod json;
mod looks;
mod readings;
mod riders;
mod runs;
mod sessions;
mod studio;
mod trials;

pub use bikes::BikeEdit;
pub use error::StoreError;
pub use fit::SessionPlace;
pub use riders::{OpenFit, RiderEdit, RiderSummary};
pub use sessions::SessionEdit;
pub use trials::NewTrial;

use sqlx::sqlite::{SqliteConnectOptions, SqliteJournalMode, SqlitePoolOptions, SqliteSynchronous};
use sqlx::{Sqlite, SqlitePool, Transaction};
use std::path::Path;
use std::time::Duration;

/// A noun with the version it was read at.
#[derive(Debug, Clone, PartialEq)]
pub struct Versioned<T> {
    /// The noun.
    pub noun: T,
    /// Grows with every write; guards against two tabs overwriting each other.
    pub version: i64,
}

/// The record.
#[derive(Debug, Clone)]
pub struct Store {
    pool: SqlitePool,
}

impl Store {
    /// Opens the record in `file`, makes it when there is none, and brings it up to date. Only the owner may read it:
    /// it holds health data.
    pub async fn open(file: &Path) -> Result<Self, StoreError> {
        private_file(file)?;
        let options = SqliteConnectOptions::new()
            .filename(file)
            .create_if_missing(true)
            .journal_mode(SqliteJournalMode::Wal)
            .synchronous(SqliteSynchronous::Full)
            .foreign_keys(true)
            .busy_timeout(Duration::from_secs(5))
            .pragma("secure_delete", "ON");
        let pool = SqlitePoolOptions::new()
            .max_connections(4)
            .connect_with(options)
            .await?;
        sqlx::migrate!().run(&pool).await?;
        Ok(Self { pool })
    }

    /// Answers when the record can be read.
    pub async fn health(&self) -> Result<(), StoreError> {
        sqlx::query_scalar!("SELECT 1 AS one")
            .fetch_one(&self.pool)
            .await?;
        Ok(())
    }

    /// Writes a whole copy of the record, as it is at this moment, into a new file. Others may go on reading and
    /// writing meanwhile.
    pub async fn backup(&self, file: &Path) -> Result<(), StoreError> {
        if file.exists() {
            return Err(StoreError::Conflict(format!(
                "{} is there already: name a new file",
                file.display()
            )));
        }
        private_file(file)?;
        let into = file.to_string_lossy().into_owned();
        let copied = sqlx::query("VACUUM INTO ?1")
            .bind(&into)
            .execute(&self.pool)
            .await;
        if let Err(error) = copied {
            // Half a copy is worse than none; that it cannot be removed is the lesser news.
            let _ = std::fs::remove_file(file);
            return Err(error.into());
        }
        Ok(())
    }

    /// Writes everything in the log back into the record and empties the log. Readers in the way are waited for.
    async fn empty_log(&self) -> Result<(), StoreError> {
        for _ in 0..20 {
            let busy: i64 = sqlx::query_scalar("PRAGMA wal_checkpoint(TRUNCATE)")
                .fetch_one(&self.pool)
                .await?;
            if busy == 0 {
                break;
            }
        }
        Ok(())
    }

    /// Closes every connection, with a checkpoint.
    pub async fn close(&self) {
        self.pool.close().await;
    }

    async fn write(&self) -> Result<Transaction<'static, Sqlite>, StoreError> {
        Ok(self.pool.begin_with("BEGIN IMMEDIATE").await?)
    }
}

/// Makes the file readable by its owner only, before SQLite writes into it.
fn private_file(file: &Path) -> Result<(), StoreError> {
    let mut options = std::fs::OpenOptions::new();
    options.create(true).append(true);
    #[cfg(unix)]
    {
        use std::os::unix::fs::{OpenOptionsExt, PermissionsExt};
        options.mode(0o600);
        if file.exists() {
            std::fs::set_permissions(file, std::fs::Permissions::from_mode(0o600))
                .map_err(|source| StoreError::file(file, source))?;
        }
    }
    options
        .open(file)
        .map(drop)
        .map_err(|source| StoreError::file(file, source))
}
