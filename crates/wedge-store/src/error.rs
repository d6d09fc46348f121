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
    Database(#[from] sqlx::Error),
    /// The database cannot be brought up to date.
    #[error(transparent)]
    Migration(#[from] sqlx::migrate::MigrateError),
}

impl StoreError {
    pub(crate) fn file(file: &Path, source: std::io::Error) -> Self {
        Self::File {
            file: file.to_owned(),
            source,
        }
    }
}
