//! Why something that a request needs is not to be had, and what people read then.

use crate::confined::ConfinedError;
use crate::storage::StoreError;
use inky_core::outline::FontError;
use inky_core::photo::PhotoError;
use inky_core::unpack::UnpackError;

/// What people read while the database is away.
pub(crate) const AWAY: &str =
    "The database does not answer at the moment. Nothing is lost; this is tried again by itself.";

/// What people read while the disk of the database is full.
pub(crate) const FULL: &str = "There is no room left on the disk, so that this could not be kept. Make room, and do it again; all that was kept before is there.";

/// What people read when nobody knows what went wrong.
pub(crate) const BROKEN: &str = "Something went wrong here. Your sheet is as it was.";

/// Why a picture is not to be had.
#[derive(Debug, thiserror::Error)]
pub enum PictureError {
    #[error(transparent)]
    Photo(#[from] PhotoError),
    #[error(transparent)]
    Store(#[from] StoreError),
    #[error("a computation ended early: {0}")]
    Task(#[from] tokio::task::JoinError),
}

impl PictureError {
    /// One sentence for a person.
    pub fn sentence(&self) -> String {
        match self {
            Self::Photo(e) => e.to_string(),
            Self::Store(StoreError::Away(_)) => AWAY.into(),
            Self::Store(StoreError::Full(_) | StoreError::NoRoom) => FULL.into(),
            other => {
                tracing::error!(error = %other, "a picture is not to be had");
                BROKEN.into()
            }
        }
    }
}

/// Why a sheet file could not be brought in.
#[derive(Debug, thiserror::Error)]
pub enum BringError {
    #[error(transparent)]
    File(#[from] UnpackError),
    #[error(transparent)]
    Picture(#[from] PictureError),
    #[error(transparent)]
    Confined(#[from] ConfinedError),
    #[error(transparent)]
    Font(#[from] FontError),
    #[error("{0}")]
    Read(String),
}

impl From<StoreError> for BringError {
    fn from(error: StoreError) -> Self {
        Self::Picture(error.into())
    }
}
