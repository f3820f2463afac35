//! Files that people bring in: written to disk while they arrive, however slowly, and read into memory when it is their turn.

use super::error::ApiError;
use crate::app::App;
use axum::extract::{FromRequest, Request};
use futures_util::StreamExt;
use std::convert::Infallible;
use std::io::SeekFrom;
use std::time::Duration;
use tokio::fs::File;
use tokio::io::{AsyncReadExt, AsyncSeekExt, AsyncWriteExt};
use tokio::sync::OwnedSemaphorePermit;
use tokio::time::timeout;

/// How long an upload may stand still.
const STILL: Duration = Duration::from_secs(60);

/// The whole body of a request, of so many bytes at most, in a file without a name.
pub(super) struct Upload<const MOST: usize>(Result<File, Lost>);

/// Why there is no file.
enum Lost {
    TooLarge,
    CutOff,
    Unwritten(std::io::Error),
}

impl From<std::io::Error> for Lost {
    fn from(error: std::io::Error) -> Self {
        Self::Unwritten(error)
    }
}

impl<S: Send + Sync, const MOST: usize> FromRequest<S> for Upload<MOST> {
    type Rejection = Infallible;

    async fn from_request(request: Request, _: &S) -> Result<Self, Infallible> {
        Ok(Self(received(request, MOST).await))
    }
}

async fn received(request: Request, most: usize) -> Result<File, Lost> {
    let mut file = File::from_std(tempfile::tempfile()?);
    let (mut parts, mut length) = (request.into_body().into_data_stream(), 0);
    while let Some(part) = timeout(STILL, parts.next()).await.map_err(|_| Lost::CutOff)? {
        let part = part.map_err(|_| Lost::CutOff)?;
        length += part.len();
        if length > most {
            return Err(Lost::TooLarge);
        }
        file.write_all(&part).await?;
    }
    file.seek(SeekFrom::Start(0)).await?;
    Ok(file)
}

/// A file in memory, and its turn to be there.
pub(super) struct InMemory {
    pub(super) bytes: Vec<u8>,
    pub(super) _turn: Option<OwnedSemaphorePermit>,
}

impl<const MOST: usize> Upload<MOST> {
    /// Waits for the file's turn. Nothing of a file that was cut off, or has too many bytes, is kept.
    pub(super) async fn read(self, app: &App, too_large: impl FnOnce() -> String) -> Result<InMemory, ApiError> {
        let mut file = self.0.map_err(|lost| match lost {
            Lost::TooLarge => ApiError::Refused(too_large()),
            Lost::CutOff => ApiError::Refused("The upload was cut off. Bring the file in again.".into()),
            Lost::Unwritten(error) => error.into(),
        })?;
        let turn = app.upload_turn().await;
        let mut bytes = Vec::new();
        file.read_to_end(&mut bytes).await?;
        Ok(InMemory { bytes, _turn: turn })
    }
}
