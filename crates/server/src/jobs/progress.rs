//! How far a job is.

use inky_core::cutout::Watch;
use std::sync::atomic::{AtomicBool, AtomicU32, Ordering};
use std::sync::{Mutex, PoisonError};

/// How far a job is, shared between its computation and its report.
#[derive(Default)]
pub(super) struct Progress {
    pub done: AtomicU32,
    pub what: Mutex<&'static str>,
    pub cancelled: AtomicBool,
}

impl Watch for Progress {
    fn step(&self, done: f32, what: &'static str) {
        self.done.store((done.clamp(0.0, 1.0) * 1000.0) as u32, Ordering::Relaxed);
        *self.what.lock().unwrap_or_else(PoisonError::into_inner) = what;
    }

    fn is_cancelled(&self) -> bool {
        self.cancelled.load(Ordering::Relaxed)
    }
}
