//! Room on the disk of the database.
//!
//! MariaDB ends in the middle of a transaction that it cannot write to the disk, and does not start again before there is room. So there is always
//! some left: large files are refused first, edits last.

use super::failure::StoreError;
use rustix::fs::statvfs;
use sqlx::{MySqlPool, Row};
use std::path::{Path, PathBuf};

/// Bytes that files leave to edits.
const AFTER_FILES: u64 = 128 << 20;
/// Bytes that edits leave to the database itself.
const AFTER_EDITS: u64 = 48 << 20;

/// The disk that the database keeps its data on.
#[derive(Debug, Clone)]
pub(super) struct Room(Option<PathBuf>);

impl Room {
    /// Looks where the data lies, and whether that is on this machine.
    pub(super) async fn of(pool: &MySqlPool) -> Result<Self, StoreError> {
        let row = sqlx::query("SELECT @@datadir").fetch_one(pool).await?;
        let folder = PathBuf::from(row.try_get::<String, _>(0)?);
        Ok(Self(folder.is_dir().then_some(folder)))
    }

    /// Whether a file of so many bytes can be kept.
    ///
    /// # Errors
    /// [`StoreError::NoRoom`].
    pub(super) fn for_file(&self, bytes: u64) -> Result<(), StoreError> {
        self.for_bytes(bytes + AFTER_FILES)
    }

    /// Whether an edit, a job, or a new sheet can be kept.
    ///
    /// # Errors
    /// [`StoreError::NoRoom`].
    pub(super) fn for_edit(&self) -> Result<(), StoreError> {
        self.for_bytes(AFTER_EDITS)
    }

    fn for_bytes(&self, wanted: u64) -> Result<(), StoreError> {
        // a database elsewhere says itself when it is full
        let free = self.0.as_deref().and_then(free);
        if free.is_some_and(|free| free < wanted) { Err(StoreError::NoRoom) } else { Ok(()) }
    }
}

/// Bytes that are free on the disk of a folder.
fn free(folder: &Path) -> Option<u64> {
    let disk = statvfs(folder).ok()?;
    Some(disk.f_bavail.saturating_mul(disk.f_frsize))
}
