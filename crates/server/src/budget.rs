//! Memory for whole photos: decoded ones are held within a budget of bytes, so that many large ones at once wait for one another.

use inky_render::free_memory;
use std::sync::Arc;
use tokio::sync::{OwnedSemaphorePermit, Semaphore};

/// Bytes of a decoded pixel.
const PIXEL: u64 = 4;
/// The part of the memory that is free when the server starts.
const SHARE: f64 = 0.4;
/// Room for one of the largest photos with all that is made of it, however little is free.
const LEAST: u64 = 2 << 30;
const MEBIBYTE: u64 = 1 << 20;

/// Bytes that decoded photos may take.
pub(crate) struct Budget {
    mebibytes: u32,
    free: Arc<Semaphore>,
}

/// A part of a budget, for as long as it is held.
pub(crate) struct Share(#[expect(dead_code, reason = "held until it is dropped")] Option<OwnedSemaphorePermit>);

/// Something large with its part of the budget.
pub(crate) struct Held<T> {
    pub(crate) value: T,
    pub(crate) share: Share,
}

impl Budget {
    /// A share of the memory that is free now.
    pub(crate) fn of_this_machine() -> Self {
        Self::of_bytes(((free_memory().unwrap_or(0.0) * SHARE) as u64).max(LEAST))
    }

    pub(crate) fn of_bytes(bytes: u64) -> Self {
        let mebibytes = u32::try_from(bytes / MEBIBYTE).unwrap_or(u32::MAX).min(Semaphore::MAX_PERMITS as u32);
        Self { mebibytes, free: Arc::new(Semaphore::new(mebibytes as usize)) }
    }

    /// Waits until so many pixels fit in, each of them `copies` times; what is larger than the whole budget has it to itself. Take all that something
    /// needs at once: who holds a part and waits for another may wait for ever.
    pub(crate) async fn pixels(&self, pixels: u64, copies: u64) -> Share {
        self.bytes(pixels * PIXEL * copies).await
    }

    /// The same for so many bytes.
    pub(crate) async fn bytes(&self, bytes: u64) -> Share {
        let wanted = bytes.div_ceil(MEBIBYTE);
        let wanted = u32::try_from(wanted).unwrap_or(u32::MAX).min(self.mebibytes);
        // a permit cannot be refused while the semaphore lives, and without one nothing breaks
        Share(Arc::clone(&self.free).acquire_many_owned(wanted).await.ok())
    }
}
