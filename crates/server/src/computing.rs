//! Computation that somebody waits for: so much at the same time and no more, each with an end.
//!
//! It never runs on the threads that answer. Its place belongs to the work: whoever goes away before it is done gives the work up, and the place is
//! free once the work has noticed.

use inky_core::cutout::Watch;
use inky_core::library::LoadedLibrary;
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};
use std::time::{Duration, Instant};
use tokio::sync::Semaphore;
use tokio::task::{JoinError, spawn_blocking};
use tokio::time::timeout;

/// How long one may wait for a place.
const QUEUE: Duration = Duration::from_secs(20);
/// How long a computation may take: a hundred times what is usual, on a machine that does other things as well.
const LONGEST: Duration = Duration::from_secs(30);
/// How long it may take to notice that.
const NOTICE: Duration = Duration::from_secs(5);

/// Why something was not computed.
#[derive(Debug, thiserror::Error)]
pub(crate) enum ComputeError {
    #[error("Too much is computed here at the moment. Nothing is lost; this is tried again by itself.")]
    Busy,
    #[error("This takes more than {limit} seconds to be computed, and was ended; nothing was changed.", limit = LONGEST.as_secs())]
    TooLong,
    #[error(transparent)]
    Failed(#[from] JoinError),
}

/// Places for computations.
pub(crate) struct Computing(Arc<Semaphore>);

impl Default for Computing {
    /// Two for each processor: while one reads, another computes.
    fn default() -> Self {
        let processors = std::thread::available_parallelism().map_or(2, usize::from);
        Self(Arc::new(Semaphore::new(2 * processors)))
    }
}

/// Ends a computation that takes too long, or that nobody waits for.
struct Limit {
    until: Instant,
    given_up: AtomicBool,
}

impl Watch for Limit {
    fn step(&self, _: f32, _: &'static str) {}

    fn is_cancelled(&self) -> bool {
        self.given_up.load(Ordering::Relaxed) || Instant::now() > self.until
    }
}

/// Gives a computation up when the request goes that waits for it.
struct Waiting(Arc<Limit>);

impl Drop for Waiting {
    fn drop(&mut self) {
        self.0.given_up.store(true, Ordering::Relaxed);
    }
}

impl Computing {
    /// Computes something with a library, which carries the wish to end to everything that is computed with it.
    pub(crate) async fn run<T: Send + 'static>(
        &self,
        mut library: LoadedLibrary,
        work: impl FnOnce(&LoadedLibrary) -> T + Send + 'static,
    ) -> Result<T, ComputeError> {
        let place = timeout(QUEUE, Arc::clone(&self.0).acquire_owned()).await.map_err(|_| ComputeError::Busy)?;
        let limit = Arc::new(Limit { until: Instant::now() + LONGEST, given_up: AtomicBool::new(false) });
        let waiting = Waiting(Arc::clone(&limit));
        library.watch = Some(Arc::clone(&limit) as _);
        let working = spawn_blocking(move || {
            let _place = place;
            let made = work(&library);
            // what was ended on the way is not all there
            (!limit.is_cancelled()).then_some(made)
        });
        let made = timeout(LONGEST + NOTICE, working).await.map_err(|_| ComputeError::TooLong)??;
        drop(waiting);
        made.ok_or(ComputeError::TooLong)
    }
}
