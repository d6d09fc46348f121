use std::path::{Path, PathBuf};
use thiserror::Error;

/// Why the record did not do what was asked. Nothing is half-written.
#[derive(Debug, Error)]
pub enum StoreError {
    /// There is no such noun.
    #[error("no such {0}")]
    NotFound(&'static str),
    /// Somebody else wrote since it was read.
    #[error("changed since it was read: it is at version {current} now")]
    Stale {
        /// The version it is at.
        current: i64,
    },
    /// The record's own rules forbid it.
    #[error("{0}")]
    Conflict(String),
    /// The disk is full, or does not take what is written.
    #[error("the disk is full or does not take what is written: {0}")]
    Disk(sqlx::Error),
    /// The record is being replaced by a copy of it.
    #[error("the record is being restored: try again in a moment")]
    Closed,
    /// The record's pages do not hang together.
    #[error(
        "the record is damaged ({0}). Wedge leaves it as it is: bring the last copy back with `wedge restore COPY`, which keeps \
         this one beside it"
    )]
    Damaged(String),
    /// The file is not a record of Wedge, or its first page is damaged.
    #[error(
        "{} is no record of Wedge, or its first page is damaged. It was not touched: name another file, or bring a copy \
         back with `wedge restore COPY`", .0.display()
    )]
    Foreign(PathBuf),
    /// The record was written by a later Wedge.
    #[error(
        "the record was written by Wedge {by}; this is {this}: install the later one, or name another file"
    )]
    Newer {
        /// The version that wrote it.
        by: String,
        /// This one.
        this: &'static str,
    },
    /// The file cannot be used.
    #[error("cannot use {}: {source}", file.display())]
    File {
        /// The file.
        file: PathBuf,
        /// Why.
        source: std::io::Error,
    },
    /// A body in the record does not read.
    #[error("a stored {what} does not read: {source}")]
    Body {
        /// Which noun.
        what: &'static str,
        /// Why.
        source: Box<dyn std::error::Error + Send + Sync>,
    },
    /// The database failed.
    #[error(transparent)]
    Database(sqlx::Error),
    /// The database cannot be brought up to date.
    #[error(transparent)]
    Migration(sqlx::migrate::MigrateError),
}

/// SQLite's primary result codes that are told apart.
mod code {
    pub(super) const IO: i32 = 10;
    pub(super) const CORRUPT: i32 = 11;
    pub(super) const FULL: i32 = 13;
    pub(super) const CANNOT_OPEN: i32 = 14;
    pub(super) const NOT_A_DATABASE: i32 = 26;
    /// A row that a trigger of the record's own refuses, as an extended code.
    pub(super) const TRIGGER: &str = "1811";
}

impl From<sqlx::Error> for StoreError {
    fn from(error: sqlx::Error) -> Self {
        if matches!(error, sqlx::Error::PoolClosed) {
            return Self::Closed;
        }
        let Some(database) = error.as_database_error() else {
            return Self::Database(error);
        };
        if database.is_unique_violation() {
            return Self::Conflict("something with this id is on record already".to_owned());
        }
        if database.is_foreign_key_violation() {
            return Self::Conflict("what this belongs to is not on record".to_owned());
        }
        if database.code().as_deref() == Some(code::TRIGGER) {
            return Self::Conflict(database.message().to_owned());
        }
        let extended = database.code().and_then(|code| code.parse::<i32>().ok());
        match extended.map(|code| code & 0xff) {
            Some(code::FULL | code::IO | code::CANNOT_OPEN) => Self::Disk(error),
            Some(code::CORRUPT | code::NOT_A_DATABASE) => {
                Self::Damaged(database.message().to_owned())
            }
            _ => Self::Database(error),
        }
    }
}

impl From<sqlx::migrate::MigrateError> for StoreError {
    fn from(error: sqlx::migrate::MigrateError) -> Self {
        match error {
            sqlx::migrate::MigrateError::Execute(error) => error.into(),
            other => Self::Migration(other),
        }
    }
}

impl StoreError {
    pub(crate) fn file(file: &Path, source: std::io::Error) -> Self {
        Self::File {
            file: file.to_owned(),
            source,
        }
    }
}
