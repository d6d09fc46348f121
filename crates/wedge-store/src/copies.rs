//! Copies of the whole record: asked for, of every day, and before a migration.

use crate::file::{folder_of, kept_beside};
use crate::{Store, StoreError};
use jiff::civil::DateTime;
use jiff::{ToSpan, Zoned};
use std::fs::File;
use std::path::{Path, PathBuf};
use tempfile::{Builder, NamedTempFile};

/// What the folder of a record's copies is called after it.
pub const COPIES: &str = "-copies";
/// What a copy is called while it is being written: nothing that opens as a record.
const UNFINISHED: &str = ".wedge-unfinished-";
/// How a copy's time is written in its name.
const STAMP: &str = "%Y-%m-%dT%H%M%S";

/// A copy that is kept beside the record.
#[derive(Debug, Clone, PartialEq)]
pub struct Copy {
    /// Where.
    pub file: PathBuf,
    /// When it was made, by the clock on the wall.
    pub made: DateTime,
    /// How large it is.
    pub bytes: u64,
}

impl Store {
    /// Writes a whole copy of the record, as it is at this moment, into a new file. Others may go on reading and
    /// writing meanwhile. It has its name only once it is wholly on the disk.
    pub async fn backup(&self, file: &Path) -> Result<(), StoreError> {
        if file.exists() {
            return Err(StoreError::Conflict(format!(
                "{} is there already: name a new file",
                file.display()
            )));
        }
        let unfinished = unfinished(folder_of(file))?;
        let into = unfinished.path().to_string_lossy().into_owned();
        sqlx::query("VACUUM INTO ?1")
            .bind(&into)
            .execute(&self.pool())
            .await?;
        finished(unfinished, file)
    }

    /// Where the record's own copies are kept.
    pub fn copies_folder(&self) -> PathBuf {
        kept_beside(self.file(), COPIES)
    }

    /// The copies of days, the last one first.
    pub fn copies(&self) -> Vec<Copy> {
        let Ok(listed) = std::fs::read_dir(self.copies_folder()) else {
            return Vec::new();
        };
        let mut copies: Vec<Copy> = listed
            .filter_map(Result::ok)
            .filter_map(|entry| copy_at(&entry.path()))
            .collect();
        copies.sort_by_key(|copy| std::cmp::Reverse(copy.made));
        copies
    }

    /// Makes the day's copy where there is none yet and keeps the last `keep`; none is made where none is to be kept.
    pub async fn daily_copy(&self, now: &Zoned, keep: usize) -> Result<(), StoreError> {
        let today = |copy: &Copy| copy.made.date() == now.date();
        if keep > 0 && !self.copies().iter().any(today) {
            let folder = self.made_folder()?;
            let name = format!("{}.sqlite", now.strftime(STAMP));
            self.backup(&folder.join(name)).await?;
        }
        let mut copies = self.copies();
        // A copy of a day to come was made while the clock was wrong: it is the first to go.
        let tomorrow = now.datetime().saturating_add(1.day());
        copies.sort_by_key(|copy| (copy.made > tomorrow, std::cmp::Reverse(copy.made)));
        for copy in copies.iter().skip(keep) {
            std::fs::remove_file(&copy.file)
                .map_err(|error| StoreError::file(&copy.file, error))?;
        }
        Ok(())
    }

    /// A copy of the record as the version before left it.
    pub(crate) async fn copy_before_migration(&self) -> Result<(), StoreError> {
        let now = Zoned::now();
        let stamp = format!("{}{}", now.strftime(STAMP), now.strftime("%.6f"));
        let name = format!("before-{:04}-{stamp}.sqlite", Self::schema());
        let folder = self.made_folder()?;
        self.backup(&folder.join(name)).await
    }

    fn made_folder(&self) -> Result<PathBuf, StoreError> {
        let folder = self.copies_folder();
        private_folder(&folder).map_err(|error| StoreError::file(&folder, error))?;
        Ok(folder)
    }
}

fn private_folder(folder: &Path) -> std::io::Result<()> {
    let mut make = std::fs::DirBuilder::new();
    make.recursive(true);
    #[cfg(unix)]
    {
        use std::os::unix::fs::DirBuilderExt;
        make.mode(0o700);
    }
    make.create(folder)
}

/// A day's copy, by its name.
fn copy_at(file: &Path) -> Option<Copy> {
    let stamp = file.file_name()?.to_str()?.strip_suffix(".sqlite")?;
    let made = DateTime::strptime(STAMP, stamp).ok()?;
    let bytes = std::fs::metadata(file).ok()?.len();
    Some(Copy {
        file: file.to_owned(),
        made,
        bytes,
    })
}

/// A file to write a copy into, in the folder it is to be in, readable by its owner only; gone unless it is finished.
pub(crate) fn unfinished(folder: &Path) -> Result<NamedTempFile, StoreError> {
    Builder::new()
        .prefix(UNFINISHED)
        .tempfile_in(folder)
        .map_err(|error| StoreError::file(folder, error))
}

/// Gives a copy that is wholly written its name, which must be new.
fn finished(copy: NamedTempFile, file: &Path) -> Result<(), StoreError> {
    let named = || {
        // SQLite wrote through a file of its own.
        File::open(copy.path())?.sync_all()?;
        copy.persist_noclobber(file)
            .map_err(|refused| refused.error)?;
        File::open(folder_of(file))?.sync_all()
    };
    named().map_err(|error| StoreError::file(file, error))
}
