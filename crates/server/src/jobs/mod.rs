//! Long work: finding subjects and making files, by workers that share the table of jobs.

mod deliver;
mod patiently;
mod progress;
mod subject;
mod task;
mod worker;

pub use task::{Outcome, Task};
pub(crate) use worker::start_workers;
