//! Kills in a stream of edits: of the server, of the database, of both, at moments that nobody chose, while answers are lost on the way.
//!
//! Three tabs move a piece each by an eighth of a millimetre at a time, and take some of it back. Every request is sent until it is answered. So
//! where a piece lies says how many of its moves were made: one that was lost or made twice shows at the next answer.

use crate::tabs::{Done, Tab, Wire};
use crate::{Database, Server, client};
use anyhow::{Result, ensure};
use std::fmt;
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, AtomicUsize, Ordering};
use std::time::Duration;
use tokio::io::{AsyncReadExt, AsyncWriteExt};
use tokio::net::{TcpListener, TcpStream};
use uuid::Uuid;

const TABS: usize = 3;
/// One answer of so many is lost.
const LOST: u32 = 12;

/// What a run came to. Nothing was lost, or there is none.
#[derive(Debug)]
pub struct Report {
    pub kills: usize,
    /// Acknowledged edits and undos.
    pub edits: usize,
    pub undone: usize,
    pub photos: usize,
    pub jobs: usize,
    /// Requests that had to be sent again.
    pub again: usize,
}

impl fmt::Display for Report {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let Self { kills, edits, undone, photos, jobs, again } = self;
        write!(
            f,
            "{kills} kills: {edits} acknowledged edits ({undone} of them undo), {photos} photos, {jobs} jobs; {again} requests sent again; none lost, none made twice"
        )
    }
}

/// Kills so many times, and looks at every answer.
///
/// # Errors
/// An edit that was lost or made twice, an answer that makes no sense, a server or a database that does not come back.
pub async fn run(kills: usize, seed: u64) -> Result<Report> {
    let database = Database::start()?;
    let mut server = Server::start(&database, false)?;
    let port = server.port()?;
    let sheet = server.new_sheet("Killed").await?;
    let proxy = proxy(port, seed).await?;
    let (stop, again) = (Arc::new(AtomicBool::new(false)), Arc::new(AtomicUsize::new(0)));
    let names: Vec<String> = (0..TABS).map(|_| Uuid::new_v4().to_string()).collect();
    let mut tabs = Vec::new();
    for k in 0..TABS {
        let wire = Wire { client: lone_client()?, ways: vec![(proxy, port)], again: Arc::clone(&again) };
        let tab = Tab::open(wire, sheet.clone(), names.clone(), k, seed + k as u64).await?;
        tabs.push(tokio::spawn(work(tab, Arc::clone(&stop))));
    }
    let mut chance = fastrand::Rng::with_seed(seed);
    for _ in 0..kills {
        tokio::time::sleep(Duration::from_millis(chance.u64(50..700))).await;
        if tabs.iter().any(tokio::task::JoinHandle::is_finished) {
            break;
        }
        let (ends_server, ends_database) =
            [(true, false), (true, false), (false, true), (true, true)][chance.usize(..4)];
        tokio::task::block_in_place(|| -> Result<()> {
            if ends_server {
                server.kill()?;
            }
            if ends_database {
                database.kill()?;
                database.again()?;
            }
            if ends_server {
                server = Server::start_at(&database, false, port)?;
            }
            Ok(())
        })?;
    }
    stop.store(true, Ordering::Relaxed);
    let mut report = Report { kills, edits: 0, undone: 0, photos: 0, jobs: 0, again: 0 };
    for tab in tabs {
        let done = tab.await??;
        report.edits += done.edits;
        report.undone += done.undone;
        report.photos += done.photos.len();
        report.jobs += done.jobs.len();
        for photo in &done.photos {
            ensure!(server.bytes(&format!("/api/photos/{photo}/inks")).await?.0.is_success(), "photo {photo} is lost");
        }
        for job in &done.jobs {
            let card = server.finished(job).await?;
            // one that was under way at two kills is given up
            ensure!(["done", "failed"].contains(&card["state"].as_str().unwrap_or_default()), "{card}");
        }
    }
    report.again = again.load(Ordering::Relaxed);
    let revision = server.get(&format!("/sheets/{sheet}")).await?["revision"].as_u64();
    ensure!(revision == Some(1 + (report.edits + TABS) as u64), "{revision:?} for {} edits", report.edits);
    Ok(report)
}

/// Every request on a connection of its own: what is cut is one request.
fn lone_client() -> Result<reqwest::Client> {
    Ok(client().pool_max_idle_per_host(0).timeout(Duration::from_secs(60)).build()?)
}

/// Passes connections on, and loses some answers after the server has given them.
async fn proxy(to: u16, seed: u64) -> Result<u16> {
    let listener = TcpListener::bind("127.0.0.1:0").await?;
    let port = listener.local_addr()?.port();
    let mut chance = fastrand::Rng::with_seed(seed ^ 0x9e37);
    tokio::spawn(async move {
        while let Ok((client, _)) = listener.accept().await {
            tokio::spawn(pass(client, to, chance.u32(..LOST) == 0));
        }
    });
    Ok(port)
}

async fn pass(client: TcpStream, to: u16, loses: bool) {
    // a server that is not there is a connection that ends
    let Ok(server) = TcpStream::connect(("127.0.0.1", to)).await else { return };
    let ((mut from_client, mut to_client), (mut from_server, mut to_server)) =
        (client.into_split(), server.into_split());
    let there = async {
        let _ = tokio::io::copy(&mut from_client, &mut to_server).await;
    };
    let back = async {
        let mut bytes = vec![0; 64 << 10];
        while let Ok(count @ 1..) = from_server.read(&mut bytes).await {
            if loses || to_client.write_all(&bytes[..count]).await.is_err() {
                return;
            }
        }
    };
    tokio::select! {
        () = back => {}
        () = async { there.await; std::future::pending().await } => {}
    }
}

/// What a tab does until it is told to stop.
async fn work(mut tab: Tab, stop: Arc<AtomicBool>) -> Result<Done> {
    while !stop.load(Ordering::Relaxed) {
        match tab.chance.u32(..100) {
            0..12 if tab.moves > 0 => tab.undo().await?,
            12..14 if tab.done.photos.len() < 20 => tab.bring().await?,
            14..16 if tab.done.jobs.len() < 20 => tab.deliver().await?,
            _ => tab.shift().await?,
        }
    }
    Ok(tab.done)
}
