//! Workers: they take a job, report its progress, and end it when nobody wants it any more.

use super::patiently::patiently;
use super::progress::Progress;
use super::task::{Outcome, Task};
use super::{deliver, subject};
use crate::app::App;
use crate::storage::{JobRow, JobState};
use inky_core::cutout::Watch;
use std::sync::atomic::Ordering;
use std::sync::{Arc, PoisonError};
use std::time::Duration;
use tokio::sync::watch;
use tokio::task::JoinSet;
use uuid::Uuid;

/// Jobs at the same time.
const WORKERS: usize = 2;
/// How often a running job says how far it is and asks whether to go on.
const REPORT: Duration = Duration::from_millis(100);
/// How often idle workers look for jobs of other servers.
const LOOK: Duration = Duration::from_secs(3);

/// The running workers.
pub(crate) struct Workers {
    stop: watch::Sender<bool>,
    tasks: JoinSet<()>,
}

impl Workers {
    /// Ends the workers; what they were at is given back and taken by the next server.
    pub(crate) async fn stop(mut self) {
        let _ = self.stop.send(true);
        while self.tasks.join_next().await.is_some() {}
    }
}

pub(crate) fn start_workers(app: &Arc<App>) -> Workers {
    let (stop, stopped) = watch::channel(false);
    let mut tasks = JoinSet::new();
    for _ in 0..WORKERS {
        let (app, stopped) = (Arc::clone(app), stopped.clone());
        tasks.spawn(async move {
            // a job that panics ends neither the worker nor the server
            while let Err(error) = tokio::spawn(work(Arc::clone(&app), stopped.clone())).await {
                tracing::error!(%error, "a worker is started anew");
            }
        });
    }
    Workers { stop, tasks }
}

async fn work(app: Arc<App>, mut stopped: watch::Receiver<bool>) {
    let worker = Uuid::new_v4();
    let given_up = serde_json::to_string(&Outcome::Failed {
        sentence: "This was given up: it ended early twice. Try it smaller, or with fewer ppi.".into(),
    });
    let given_up = given_up.unwrap_or_default();
    while !*stopped.borrow() {
        match app.store.take_job(worker, &given_up).await {
            Ok(Some(job)) => run(&app, job, worker, &mut stopped).await,
            Ok(None) => {
                tokio::select! {
                    () = app.wake.notified() => {}
                    () = tokio::time::sleep(LOOK) => {}
                    _ = stopped.changed() => {}
                }
            }
            Err(error) => {
                tracing::warn!(%error, "no job could be taken");
                tokio::select! {
                    () = tokio::time::sleep(LOOK) => {}
                    _ = stopped.changed() => {}
                }
            }
        }
    }
}

async fn run(app: &Arc<App>, job: JobRow, worker: Uuid, stopped: &mut watch::Receiver<bool>) {
    let progress = Arc::new(Progress::default());
    let work = execute(app, &job, Arc::clone(&progress));
    tokio::pin!(work);
    let mut given_back = false;
    let result = loop {
        tokio::select! {
            result = &mut work => break result,
            _ = stopped.changed() => {
                given_back = true;
                progress.cancelled.store(true, Ordering::Relaxed);
            }
            () = tokio::time::sleep(REPORT) => {
                let done = progress.done.load(Ordering::Relaxed) as f32 / 1000.0;
                let what = *progress.what.lock().unwrap_or_else(PoisonError::into_inner);
                match app.store.report_job(job.id, worker, done, what).await {
                    // nobody waits for the computation, which ends by itself at its next look at the watch
                    Ok(true) => {
                        progress.cancelled.store(true, Ordering::Relaxed);
                        break Err("This was cancelled.".to_owned());
                    }
                    Ok(false) => progress.cancelled.store(given_back, Ordering::Relaxed),
                    Err(error) => tracing::warn!(%error, "the progress of a job could not be written"),
                }
            }
        }
    };
    if given_back {
        if let Err(error) = app.store.give_job_back(job.id, worker).await {
            tracing::warn!(%error, job = %job.id, "a job is taken again once its worker is missed");
        }
        return;
    }
    let (state, outcome) = match result {
        Ok(outcome) => (JobState::Done, outcome),
        Err(_) if progress.is_cancelled() => {
            (JobState::Cancelled, Outcome::Failed { sentence: "This was cancelled.".into() })
        }
        Err(sentence) => (JobState::Failed, Outcome::Failed { sentence }),
    };
    if let Err(error) = finish(app, &job, worker, state, &outcome).await {
        tracing::error!(%error, job = %job.id, "the end of a job could not be written");
    }
}

async fn finish(app: &App, job: &JobRow, worker: Uuid, state: JobState, outcome: &Outcome) -> Result<(), String> {
    let outcome = serde_json::to_string(outcome).map_err(|e| e.to_string())?;
    let outcome = outcome.as_str();
    patiently(|| async move { Ok(app.store.finish_job(job.id, worker, state, outcome).await?) }).await
}

async fn execute(app: &Arc<App>, job: &JobRow, progress: Arc<Progress>) -> Result<Outcome, String> {
    let task: Task = serde_json::from_str(&job.task).map_err(|e| e.to_string())?;
    match task {
        Task::FindSubject { photo, hints } => subject::find(app, &photo, *hints, progress).await,
        Task::Deliver { order } => deliver::deliver(app, job.sheet, &order, progress).await,
    }
}
