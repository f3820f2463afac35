//! Waiting for a database that is away.

use crate::errors::PictureError;
use crate::storage::StoreError;
use std::time::Duration;

/// Does something with the database that may be away for a while.
pub(super) async fn patiently<T, F>(mut f: impl FnMut() -> F) -> Result<T, String>
where
    F: Future<Output = Result<T, PictureError>> + Send,
{
    let mut tries = 0;
    loop {
        match f().await {
            Err(PictureError::Store(StoreError::Away(_))) if tries < 15 => tries += 1,
            result => return result.map_err(|e| e.sentence()),
        }
        tokio::time::sleep(Duration::from_secs(2)).await;
    }
}
