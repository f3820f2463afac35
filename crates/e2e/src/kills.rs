//! Kills in a stream of edits: of the server, of the database, of both, at moments that nobody chose, while answers are lost on the way.
//!
//! Three tabs move a piece each by an eighth of a millimetre at a time, and take some of it back. Every request is sent until it is answered. So
//! where a piece lies says how many of its moves were made: one that was lost or made twice shows at the next answer.

use crate::{Database, Server};
use anyhow::{Context, Result, ensure};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};
use std::fmt;
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, AtomicUsize, Ordering};
use std::time::Duration;
use tokio::io::{AsyncReadExt, AsyncWriteExt};
use tokio::net::{TcpListener, TcpStream};
use uuid::Uuid;

const TABS: usize = 3;
/// Millimetres of one move: a power of two, so that sums are exact.
const STEP: f64 = 0.125;
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
        let wire = Wire { client: lone_client()?, proxy, port, again: Arc::clone(&again), stop: Arc::clone(&stop) };
        let tab = Tab::open(wire, sheet.clone(), names.clone(), k, seed + k as u64).await?;
        tabs.push(tokio::spawn(tab.work()));
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
    Ok(reqwest::Client::builder().pool_max_idle_per_host(0).timeout(Duration::from_secs(60)).build()?)
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

/// The way to the server.
struct Wire {
    client: reqwest::Client,
    proxy: u16,
    port: u16,
    again: Arc<AtomicUsize>,
    stop: Arc<AtomicBool>,
}

impl Wire {
    /// Sends a request until there is an answer to it.
    async fn ask(&self, method: Method, path: &str, tab: &str, body: &[u8], kind: &str) -> Result<Value> {
        loop {
            let request = self.client.request(method.clone(), format!("http://127.0.0.1:{}/api{path}", self.proxy));
            let request = request.header("host", format!("127.0.0.1:{}", self.port)).header("x-tab", tab);
            let answer = request.header("content-type", kind).body(body.to_vec()).send().await;
            let answer = match answer {
                Ok(answer) if answer.status() != StatusCode::SERVICE_UNAVAILABLE => {
                    let status = answer.status();
                    // an answer that was cut off is none
                    answer.text().await.ok().map(|text| (status, text))
                }
                _ => None,
            };
            if let Some((status, text)) = answer {
                ensure!(status.is_success(), "{path}: {status} {text}");
                return Ok(serde_json::from_str(&text).unwrap_or(Value::Null));
            }
            self.again.fetch_add(1, Ordering::Relaxed);
            tokio::time::sleep(Duration::from_millis(30)).await;
        }
    }
}

/// A tab with a piece of its own.
struct Tab {
    wire: Wire,
    sheet: String,
    /// What all tabs call themselves, and which of them this one is.
    names: Vec<String>,
    own: usize,
    piece: String,
    chance: fastrand::Rng,
    /// The revision that it knows, and where its piece was at first.
    base: u64,
    start: f64,
    /// Moves that were made and not taken back.
    moves: usize,
    done: Done,
}

/// What a tab did.
#[derive(Default)]
struct Done {
    edits: usize,
    undone: usize,
    photos: Vec<String>,
    jobs: Vec<Value>,
}

impl Tab {
    async fn open(wire: Wire, sheet: String, names: Vec<String>, own: usize, seed: u64) -> Result<Self> {
        let (piece, start) = (Uuid::new_v4().to_string(), 50.0 * (own + 1) as f64);
        let chance = fastrand::Rng::with_seed(seed);
        let mut tab = Self {
            wire,
            sheet,
            names,
            own,
            piece,
            chance,
            base: own as u64 + 1,
            start,
            moves: 0,
            done: Done::default(),
        };
        let form = json!({ "id": Uuid::new_v4(), "shape": { "kind": "basic", "width": 20.0, "height": 20.0, "figure": { "figure": "ellipse" } },
            "pose": { "x": start, "y": 50.0, "wide": 1.0, "turn": 0.0 }, "join": "add" });
        let add = json!({ "edit": "add_window", "piece": tab.piece, "form": form, "fill": Uuid::new_v4() });
        let answer = tab
            .post("edits", json!({ "base": tab.base, "request": Uuid::new_v4(), "gesture": null, "edits": [add] }))
            .await?;
        tab.look(&answer)?;
        Ok(tab)
    }

    async fn post(&self, path: &str, body: Value) -> Result<Value> {
        let path = format!("/sheets/{}/{path}", self.sheet);
        self.wire.ask(Method::POST, &path, &self.names[self.own], body.to_string().as_bytes(), "application/json").await
    }

    async fn work(mut self) -> Result<Done> {
        while !self.wire.stop.load(Ordering::Relaxed) {
            match self.chance.u32(..100) {
                0..12 if self.moves > 0 => self.undo().await?,
                12..14 if self.done.photos.len() < 20 => self.bring().await?,
                14..16 if self.done.jobs.len() < 20 => {
                    let job = self.post("jobs", json!({ "task": "deliver", "kind": "png", "ppi": 10.0 })).await?;
                    self.done.jobs.push(job);
                }
                _ => self.shift().await?,
            }
        }
        Ok(self.done)
    }

    async fn shift(&mut self) -> Result<()> {
        let by = json!({ "a": 1.0, "b": 0.0, "dx": STEP, "dy": 0.0 });
        let edit = json!({ "edit": "move", "piece": self.piece, "what": "both", "by": by });
        let body = json!({ "base": self.base, "request": Uuid::new_v4(), "gesture": null, "edits": [edit] });
        let answer = self.post("edits", body).await?;
        self.moves += 1;
        self.done.edits += 1;
        self.look(&answer)
    }

    async fn undo(&mut self) -> Result<()> {
        // steps of tabs that are not there belong to everybody
        for name in &self.names {
            self.wire.ask(Method::GET, &format!("/sheets/{}/news", self.sheet), name, b"", "text/plain").await?;
        }
        let answer = self.post("undo", json!({ "base": self.base, "request": Uuid::new_v4() })).await?;
        self.moves -= 1;
        self.done.edits += 1;
        self.done.undone += 1;
        self.look(&answer)
    }

    /// A photo that nobody has brought in before.
    async fn bring(&mut self) -> Result<()> {
        let noise = image::RgbImage::from_fn(16, 16, |_, _| image::Rgb([0; 3].map(|_: u8| self.chance.u8(..))));
        let mut file = std::io::Cursor::new(Vec::new());
        noise.write_to(&mut file, image::ImageFormat::Png)?;
        let name = &self.names[self.own];
        let card = self.wire.ask(Method::POST, "/photos?name=noise.png", name, file.get_ref(), "image/png").await?;
        self.done.photos.push(card["id"].as_str().context("no photo")?.to_owned());
        Ok(())
    }

    /// Whether the piece lies where the moves that were acknowledged have brought it.
    fn look(&mut self, answer: &Value) -> Result<()> {
        let pieces = answer["pieces"].as_array().context("no pieces")?;
        let own =
            pieces.iter().find(|p| p["id"] == self.piece.as_str()).with_context(|| format!("not changed: {answer}"))?;
        let x = own["kind"]["opening"]["forms"][0]["pose"]["x"].as_f64().context("no place")?;
        let due = self.start + STEP * self.moves as f64;
        ensure!(x == due, "a piece lies at {x} instead of {due}: {} moves too many", (x - due) / STEP);
        self.base = answer["revision"].as_u64().context("no revision")?;
        Ok(())
    }
}
