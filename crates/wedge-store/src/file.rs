//! The record's file: whose it is, who may read it, and who holds it.

use crate::StoreError;
use sqlx::sqlite::{SqliteConnectOptions, SqliteConnection};
use sqlx::{ConnectOptions, Connection};
use std::fs::{File, OpenOptions, TryLockError};
use std::io::{ErrorKind, Read};
use std::path::{Path, PathBuf};
use std::time::Duration;

/// What SQLite writes at the beginning of every file of its.
const MAGIC: &[u8] = b"SQLite format 3\0";
/// How long that beginning is.
const HEADER: usize = 100;
/// Where in it the application's id stands, big-endian.
const APPLICATION_ID_AT: usize = 68;
/// "WEDG": migration 0010 writes it.
const APPLICATION_ID: [u8; 4] = *b"WEDG";

/// What lies where a record is to be.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Found {
    /// Nothing yet.
    Nothing,
    /// A record of Wedge.
    Record,
}

/// Looks at a file without touching it: neither its contents nor its permissions, nor anything beside it.
pub(crate) async fn examined(file: &Path) -> Result<Found, StoreError> {
    let mut header = Vec::with_capacity(HEADER);
    match File::open(file) {
        Err(error) if error.kind() == ErrorKind::NotFound => return Ok(Found::Nothing),
        Err(error) => return Err(StoreError::file(file, error)),
        Ok(open) => open
            .take(HEADER as u64)
            .read_to_end(&mut header)
            .map_err(|error| StoreError::file(file, error))?,
    };
    if header.is_empty() {
        return Ok(Found::Nothing);
    }
    let stranger = || StoreError::Foreign(file.to_owned());
    if header.len() < HEADER || !header.starts_with(MAGIC) {
        return Err(stranger());
    }
    let id = &header[APPLICATION_ID_AT..APPLICATION_ID_AT + APPLICATION_ID.len()];
    if id == APPLICATION_ID {
        return Ok(Found::Record);
    }
    // Records older than the id, and those whose first pages are still in the log, say it by their tables.
    if id == [0; 4] && is_nameless_record(file).await? {
        return Ok(Found::Record);
    }
    Err(stranger())
}

/// Whether a file without an application's id has a record's tables, or none at all.
async fn is_nameless_record(file: &Path) -> Result<bool, StoreError> {
    let options = SqliteConnectOptions::new()
        .filename(file)
        .read_only(true)
        // Where there is no log, nothing is made beside the file either.
        .immutable(!beside(file, "-wal").exists());
    let mut connection: SqliteConnection = options.connect().await?;
    let names: Vec<String> =
        sqlx::query_scalar("SELECT name FROM sqlite_master WHERE type = 'table'")
            .fetch_all(&mut connection)
            .await?;
    connection.close().await?;
    let has = |wanted: &str| names.iter().any(|name| name == wanted);
    Ok(names.is_empty() || (has("_sqlx_migrations") && (names.len() == 1 || has("riders"))))
}

/// What is kept beside a file, by what it is called after it.
pub(crate) fn beside(file: &Path, suffix: &str) -> PathBuf {
    let mut name = file.as_os_str().to_owned();
    name.push(suffix);
    PathBuf::from(name)
}

/// What is kept beside a record under its name without the ending: its copies, its keys, the record before.
pub fn kept_beside(record: &Path, suffix: &str) -> PathBuf {
    beside(&record.with_extension(""), suffix)
}

/// The folder a file lies in.
pub(crate) fn folder_of(file: &Path) -> &Path {
    match file.parent() {
        Some(folder) if folder != Path::new("") => folder,
        _ => Path::new("."),
    }
}

/// Makes the file readable by its owner only, before SQLite writes into it.
pub(crate) fn private(file: &Path) -> Result<File, StoreError> {
    let mut options = OpenOptions::new();
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
        .map_err(|source| StoreError::file(file, source))
}

/// That a record is open: shared by all who read and write it, and never shared while it is being replaced.
#[derive(Debug)]
pub(crate) struct Hold(File);

impl Hold {
    /// Holds a record with others.
    pub(crate) fn shared(file: &Path) -> Result<Self, StoreError> {
        let lock = private(&beside(file, ".lock"))?;
        // Another that only asked whether it is alone is through in a moment.
        for _ in 0..10 {
            match lock.try_lock_shared() {
                Ok(()) => return Ok(Self(lock)),
                Err(TryLockError::WouldBlock) => std::thread::sleep(Duration::from_millis(20)),
                Err(TryLockError::Error(error)) => return Err(StoreError::file(file, error)),
            }
        }
        Err(StoreError::Conflict(format!(
            "{} is being restored: try again when that is done",
            file.display()
        )))
    }

    /// Holds it alone; refused while another Wedge holds it, which is then held as before.
    pub(crate) fn alone(&self, file: &Path) -> Result<(), StoreError> {
        match self.0.try_lock() {
            Ok(()) => Ok(()),
            Err(TryLockError::WouldBlock) => {
                // Some systems let go of a shared hold when the other is not given.
                let _ = self.0.try_lock_shared();
                Err(StoreError::Conflict(format!(
                    "another Wedge holds {}: close it first",
                    file.display()
                )))
            }
            Err(TryLockError::Error(error)) => Err(StoreError::file(file, error)),
        }
    }

    /// Whether nobody else holds it just now.
    pub(crate) fn is_only(&self, file: &Path) -> bool {
        let only = self.alone(file).is_ok();
        if only {
            self.with_others();
        }
        only
    }

    /// Lets others in again.
    pub(crate) fn with_others(&self) {
        let _ = self.0.try_lock_shared();
    }
}
