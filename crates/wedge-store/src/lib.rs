//! Wedge's record in SQLite: one file a noun, one short function a query.
//!
//! Every write is one transaction begun with `BEGIN IMMEDIATE`. The database runs in WAL mode with
//! `synchronous=FULL`: what a function has answered `Ok` to survives a kill. Ids are made by the client, so writing
//! the same noun again is harmless and answers as the first time did. Readings, setups, trials and their entries are
//! append-only. What is listed stands in the order it was written down, never by a clock.

mod afterwards;
mod bikes;
mod card_links;
mod copies;
mod damage;
mod devices;
mod disputes;
mod drafts;
mod error;
mod file;
mod fit;
mod import;
mod json;
mod looks;
mod many;
mod pictures;
mod practices;
mod readings;
mod restore;
mod riders;
mod runs;
mod sessions;
mod studio;
mod takes;
mod trials;

pub use afterwards::Visit;
pub use bikes::BikeEdit;
pub use copies::{COPIES, Copy};
pub use damage::Unreadable;
pub use devices::DeviceState;
pub use error::StoreError;
pub use file::kept_beside;
pub use fit::SessionPlace;
pub use import::Arrival;
pub use practices::Practice;
pub use riders::{Deleted, OpenFit, RiderEdit, RiderSummary};
pub use sessions::SessionEdit;
pub use trials::NewTrial;

use file::{Found, Hold};
use sqlx::migrate::Migrator;
use sqlx::sqlite::{SqliteConnectOptions, SqliteJournalMode, SqlitePoolOptions, SqliteSynchronous};
use sqlx::{Connection, Sqlite, SqlitePool, Transaction};
use std::path::{Path, PathBuf};
use std::sync::atomic::{AtomicUsize, Ordering};
use std::sync::{Arc, PoisonError, RwLock};
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
    pool: Arc<RwLock<SqlitePool>>,
    file: Arc<PathBuf>,
    hold: Arc<Hold>,
    queue: Queue,
}

/// How many are waiting to write, for whoever writes much to let them pass.
#[derive(Debug, Clone, Default)]
struct Queue(Arc<AtomicUsize>);

impl Queue {
    fn join(&self) -> Waiting {
        self.0.fetch_add(1, Ordering::Relaxed);
        Waiting(self.0.clone())
    }

    fn is_empty(&self) -> bool {
        self.0.load(Ordering::Relaxed) == 0
    }
}

struct Waiting(Arc<AtomicUsize>);

impl Drop for Waiting {
    fn drop(&mut self) {
        self.0.fetch_sub(1, Ordering::Relaxed);
    }
}

/// How the record is brought up to date.
static MIGRATIONS: Migrator = sqlx::migrate!();
/// What is written by this version.
const VERSION: &str = env!("CARGO_PKG_VERSION");
/// A record larger than this is looked over once it is open, so that the server starts at once.
const LARGE: u64 = 32 * 1024 * 1024;

impl Store {
    /// Opens the record in `file`, makes it when there is none, and brings it up to date, with a copy beside it before.
    /// Only the owner may read it: it holds health data. A file that is not a record of Wedge is left as it is; one
    /// that is damaged or was written by a later Wedge is refused.
    pub async fn open(file: &Path) -> Result<Self, StoreError> {
        let found = file::examined(file).await?;
        let hold = Hold::shared(file)?;
        file::private(file)?;
        let store = Self::held(file, hold).await?;
        store.ready(found).await?;
        Ok(store)
    }

    /// The record in a file that is held already, as it stands.
    async fn held(file: &Path, hold: Hold) -> Result<Self, StoreError> {
        Ok(Self {
            pool: Arc::new(RwLock::new(connected(file).await?)),
            file: Arc::new(file.to_owned()),
            hold: Arc::new(hold),
            queue: Queue::default(),
        })
    }

    async fn ready(&self, found: Found) -> Result<(), StoreError> {
        if !self.is_large() {
            self.look_over().await?;
        }
        if found == Found::Record && self.pending().await? {
            self.copy_before_migration().await?;
        }
        MIGRATIONS.run(&self.pool()).await?;
        self.sign().await?;
        if self.hold.is_only(&self.file) {
            self.forget_arrivals().await?;
        }
        Ok(())
    }

    /// Where the record is.
    pub fn file(&self) -> &Path {
        &self.file
    }

    /// The folder it lies in.
    pub fn folder(&self) -> &Path {
        file::folder_of(self.file())
    }

    /// How large its file is, its log not counted.
    pub fn bytes(&self) -> u64 {
        std::fs::metadata(self.file()).map_or(0, |data| data.len())
    }

    /// How much room is left where the record is; `None` where the system does not tell.
    pub fn room(&self) -> Option<u64> {
        fs4::available_space(self.folder()).ok()
    }

    /// The migration this version brings records up to.
    pub fn schema() -> i64 {
        MIGRATIONS.iter().map(|m| m.version).max().unwrap_or(0)
    }

    /// Whether it is so large that it is looked over only once it is open.
    pub fn is_large(&self) -> bool {
        self.bytes() > LARGE
    }

    /// Looks every page of the record over, for damage.
    pub async fn look_over(&self) -> Result<(), StoreError> {
        let said: String = sqlx::query_scalar("PRAGMA quick_check(1)")
            .fetch_one(&self.pool())
            .await?;
        if said == "ok" {
            Ok(())
        } else {
            Err(StoreError::Damaged(said))
        }
    }

    /// Whether migrations are still to be run; a record that knows more than this version is refused.
    async fn pending(&self) -> Result<bool, StoreError> {
        let pool = self.pool();
        // Before the first migration there is no such table.
        let Ok(done) = sqlx::query_scalar::<_, i64>("SELECT version FROM _sqlx_migrations")
            .fetch_all(&pool)
            .await
        else {
            return Ok(false);
        };
        if done.iter().any(|version| *version > Self::schema()) {
            let by: Option<String> = sqlx::query_scalar("SELECT version FROM written_by")
                .fetch_optional(&pool)
                .await?;
            return Err(StoreError::Newer {
                by: by.unwrap_or_else(|| "a later version".to_owned()),
                this: VERSION,
            });
        }
        Ok(!done.is_empty() && done.len() < MIGRATIONS.iter().count())
    }

    /// Writes down which version wrote here last.
    async fn sign(&self) -> Result<(), StoreError> {
        let known = sqlx::query_scalar!("SELECT version FROM written_by WHERE only = 1")
            .fetch_optional(&self.pool())
            .await?;
        if known.as_deref() == Some(VERSION) {
            return Ok(());
        }
        let mut tx = self.write().await?;
        sqlx::query!(
            "INSERT INTO written_by (only, version) VALUES (1, ?1)
             ON CONFLICT (only) DO UPDATE SET version = excluded.version",
            VERSION
        )
        .execute(&mut *tx)
        .await?;
        tx.commit().await?;
        Ok(())
    }

    /// Answers when the record can be read.
    pub async fn health(&self) -> Result<(), StoreError> {
        sqlx::query_scalar!("SELECT 1 AS one")
            .fetch_one(&self.pool())
            .await?;
        Ok(())
    }

    /// Closes every connection, with a checkpoint.
    pub async fn close(&self) {
        self.pool().close().await;
    }

    fn pool(&self) -> SqlitePool {
        self.pool
            .read()
            .unwrap_or_else(PoisonError::into_inner)
            .clone()
    }

    async fn write(&self) -> Result<Transaction<'static, Sqlite>, StoreError> {
        let _waiting = self.queue.join();
        self.write_unasked().await
    }

    /// The same for whoever lets others pass in between.
    async fn write_unasked(&self) -> Result<Transaction<'static, Sqlite>, StoreError> {
        Ok(self.pool().begin_with("BEGIN IMMEDIATE").await?)
    }
}

/// Connections to a record.
async fn connected(file: &Path) -> Result<SqlitePool, StoreError> {
    let options = SqliteConnectOptions::new()
        .filename(file)
        .create_if_missing(true)
        .journal_mode(SqliteJournalMode::Wal)
        .synchronous(SqliteSynchronous::Full)
        .foreign_keys(true)
        .busy_timeout(Duration::from_secs(5))
        .pragma("secure_delete", "ON");
    Ok(SqlitePoolOptions::new()
        .max_connections(4)
        .test_before_acquire(false)
        .after_release(|connection, _| {
            Box::pin(async move {
                // Behind whatever was still to be rolled back. A full disk or a failing one ends a transaction by
                // itself; the connection then believes for ever that one is open, and is thrown away.
                connection.ping().await?;
                Ok(!connection.is_in_transaction())
            })
        })
        .connect_with(options)
        .await?)
}
