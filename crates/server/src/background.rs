//! Long computations, in the background of what people wait for.

use rayon::{ThreadPool, ThreadPoolBuildError, ThreadPoolBuilder};
use tokio::task::{JoinError, spawn_blocking};

/// Does something long on threads of its own, which give way to those that answer requests: neither do drags wait for a free thread,
/// nor for the processor. Threads that the work starts by itself give way likewise.
///
/// # Errors
/// Work that panics.
pub(crate) async fn in_background<T: Send + 'static>(
    work: impl FnOnce() -> T + Send + 'static,
) -> Result<T, JoinError> {
    spawn_blocking(move || match threads() {
        Ok(pool) => pool.install(work),
        // as well done here as not at all
        Err(_) => work(),
    })
    .await
}

fn threads() -> Result<ThreadPool, ThreadPoolBuildError> {
    ThreadPoolBuilder::new().thread_name(|k| format!("background-{k}")).start_handler(|_| give_way()).build()
}
/// A niceness (POSIX) with which an answer to an edit gets nine tenths of a processor where both are busy.
#[cfg(target_os = "linux")]
fn give_way() {
    const NICENESS: i32 = 10;
    // of the calling thread alone, as Linux has it; where it is not allowed, nothing breaks
    let _ = rustix::process::setpriority_process(None, NICENESS);
}

#[cfg(not(target_os = "linux"))]
fn give_way() {}
