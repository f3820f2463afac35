//! Tabs at work on one sheet, each at a server of its own, while something happens to the servers or their databases.

use crate::tabs::{Tab, Wire};
use crate::{Server, client};
use anyhow::{Result, ensure};
use std::fmt;
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, AtomicUsize, Ordering};
use std::time::Duration;
use tokio::sync::{RwLock, RwLockWriteGuard};
use tokio::task::JoinHandle;
use uuid::Uuid;

/// What tabs have done. Nothing was lost, or there is none.
#[derive(Debug)]
pub struct Work {
    /// Acknowledged edits and undos.
    pub edits: usize,
    pub undone: usize,
    /// Requests that had to be sent again.
    pub again: usize,
    /// From the sending of an edit to its answer.
    pub median: Duration,
    pub longest: Duration,
}

impl fmt::Display for Work {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let Self { edits, undone, again, median, longest } = self;
        write!(
            f,
            "{edits} acknowledged edits ({undone} of them undo), answered in {median:.1?} (median), {longest:.1?} (longest); \
             {again} requests sent again; none lost, none made twice"
        )
    }
}

type Done = (crate::tabs::Done, Vec<Duration>);

/// Tabs at work until they are told to stop.
pub struct Crew {
    sheet: String,
    stop: Arc<AtomicBool>,
    again: Arc<AtomicUsize>,
    /// Who has it lets no tab begin anything.
    held: Arc<RwLock<()>>,
    tabs: Vec<JoinHandle<Result<Done>>>,
}

impl Crew {
    /// Opens a new sheet with a tab for each port, at the server there. Where a server has no answer, its tab goes on at the next one.
    ///
    /// # Errors
    /// Pieces that are not taken.
    pub async fn begin(servers: &[&Server]) -> Result<Self> {
        let ports = servers.iter().map(|s| s.port()).collect::<Result<Vec<u16>>>()?;
        let sheet = servers[0].new_sheet("Spread").await?;
        let names: Vec<String> = ports.iter().map(|_| Uuid::new_v4().to_string()).collect();
        let (stop, again) = (Arc::new(AtomicBool::new(false)), Arc::new(AtomicUsize::new(0)));
        let (mut tabs, held) = (Vec::new(), Arc::default());
        for own in 0..ports.len() {
            let ways = (0..ports.len()).map(|k| ports[(own + k) % ports.len()]).map(|port| (port, port)).collect();
            let client = client().timeout(Duration::from_secs(60)).build()?;
            let wire = Wire { client, ways, again: Arc::clone(&again) };
            let tab = Tab::open(wire, sheet.clone(), names.clone(), own, own as u64).await?;
            tabs.push(tokio::spawn(work(tab, Arc::clone(&stop), Arc::clone(&held))));
        }
        Ok(Self { sheet, stop, again, held, tabs })
    }

    /// Keeps the tabs from beginning anything until it is dropped.
    pub async fn hold(&self) -> RwLockWriteGuard<'_, ()> {
        self.held.write().await
    }

    /// Whether a tab gave up, because something was lost.
    pub fn gave_up(&self) -> bool {
        self.tabs.iter().any(JoinHandle::is_finished)
    }

    /// Waits until the tabs have stopped, and looks at what every server shows.
    ///
    /// # Errors
    /// An edit that was lost or made twice, servers that differ.
    pub async fn end(self, servers: &[&Server]) -> Result<Work> {
        self.stop.store(true, Ordering::Relaxed);
        let count = self.tabs.len();
        let (mut edits, mut undone, mut times) = (0, 0, Vec::new());
        for tab in self.tabs {
            let (done, own) = tab.await??;
            edits += done.edits;
            undone += done.undone;
            times.extend(own);
        }
        let mut seen = Vec::new();
        for server in servers {
            let bench = server.get(&format!("/sheets/{}", self.sheet)).await?;
            let revision = bench["revision"].as_u64();
            ensure!(revision == Some((1 + count + edits) as u64), "{revision:?} for {edits} edits");
            seen.push(bench["sheet"].clone());
        }
        ensure!(seen.windows(2).all(|pair| pair[0] == pair[1]), "the servers differ");
        times.sort_unstable();
        let (median, longest) = (times.get(times.len() / 2), times.last());
        let [median, longest] = [median, longest].map(|t| t.copied().unwrap_or_default());
        Ok(Work { edits, undone, again: self.again.load(Ordering::Relaxed), median, longest })
    }
}

async fn work(mut tab: Tab, stop: Arc<AtomicBool>, held: Arc<RwLock<()>>) -> Result<Done> {
    let mut times = Vec::new();
    while !stop.load(Ordering::Relaxed) {
        tokio::time::sleep(Duration::from_millis(tab.chance.u64(20..200))).await;
        let _free = held.read().await;
        times.extend(tab.goes_on().await?);
    }
    Ok((tab.done, times))
}
