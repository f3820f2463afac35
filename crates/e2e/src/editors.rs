//! Many people at work at once, on one server.

use crate::tabs::{Done, Tab, Wire};
use crate::{Database, Server, client};
use anyhow::{Result, ensure};
use std::fmt;
use std::sync::Arc;
use std::sync::atomic::AtomicUsize;
use std::time::{Duration, Instant};
use uuid::Uuid;

/// What a run came to. Every edit is there, once, or there is none.
#[derive(Debug)]
pub struct Report {
    pub editors: usize,
    pub sheets: usize,
    pub edits: usize,
    /// From the sending of an edit to its answer: half of them, 19 of 20, all of them take no longer.
    pub median: Duration,
    pub p95: Duration,
    pub longest: Duration,
}

impl fmt::Display for Report {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let Self { editors, sheets, edits, median, p95, longest } = self;
        let ms = |d: &Duration| d.as_secs_f64() * 1000.0;
        write!(f, "{editors} editors on {sheets} sheets: {edits} edits, all there; ")?;
        write!(f, "median {:.1} ms, p95 {:.1} ms, longest {:.0} ms", ms(median), ms(p95), ms(longest))
    }
}

/// So many editors at each of so many sheets, who make an edit about every second, and take one of eight back.
///
/// # Errors
/// An edit that was lost or made twice, or an answer that makes no sense.
pub async fn run(sheets: usize, at_each: usize, long: Duration) -> Result<Report> {
    let database = Database::start()?;
    let server = Server::start(&database, false)?;
    let (port, again) = (server.port()?, Arc::new(AtomicUsize::new(0)));
    let mut tabs = Vec::new();
    let mut all_sheets = Vec::new();
    for k in 0..sheets {
        let sheet = server.new_sheet(&format!("Shared {k}")).await?;
        let names: Vec<String> = (0..at_each).map(|_| Uuid::new_v4().to_string()).collect();
        for own in 0..at_each {
            let wire = Wire { client: client().build()?, ways: vec![(port, port)], again: Arc::clone(&again) };
            let tab = Tab::open(wire, sheet.clone(), names.clone(), own, (k * at_each + own) as u64).await?;
            tabs.push(tokio::spawn(work(tab, Instant::now() + long)));
        }
        all_sheets.push(sheet);
    }
    let (mut edits, mut times) = (0, Vec::new());
    for tab in tabs {
        let (done, own) = tab.await??;
        edits += done.edits;
        times.extend(own);
    }
    let mut revisions = 0;
    for sheet in &all_sheets {
        revisions += server.get(&format!("/sheets/{sheet}")).await?["revision"].as_u64().unwrap_or(0) as usize;
    }
    ensure!(revisions == edits + sheets * (at_each + 1), "{revisions} revisions for {edits} edits");
    ensure!(again.load(std::sync::atomic::Ordering::Relaxed) == 0, "some answers were missing");
    times.sort_unstable();
    let at = |share: f64| times.get((share * (times.len() - 1) as f64) as usize).copied().unwrap_or_default();
    Ok(Report { editors: sheets * at_each, sheets, edits, median: at(0.5), p95: at(0.95), longest: at(1.0) })
}

async fn work(mut tab: Tab, until: Instant) -> Result<(Done, Vec<Duration>)> {
    let mut times = Vec::new();
    while Instant::now() < until {
        // somebody who thinks before the next edit
        tokio::time::sleep(Duration::from_millis(tab.chance.u64(500..1500))).await;
        times.extend(tab.goes_on().await?);
    }
    Ok((tab.done, times))
}
