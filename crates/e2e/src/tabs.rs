//! Tabs that speak to the server by themselves, and know at every answer what it has to be.
//!
//! Each moves a piece of its own by an eighth of a millimetre at a time. Where the piece lies says how many of the moves were made.

use anyhow::{Context, Result, ensure};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};
use std::sync::Arc;
use std::sync::atomic::{AtomicUsize, Ordering};
use std::time::{Duration, Instant};
use uuid::Uuid;

/// Millimetres of one move: a power of two, so that sums are exact.
const STEP: f64 = 0.125;

/// How often one server is asked before the next one is.
const PATIENCE: usize = 5;

/// The way to the server.
pub struct Wire {
    pub client: reqwest::Client,
    /// Ports that are spoken to, each with that of the server behind it. The next one is tried where one has no answer for a while.
    pub ways: Vec<(u16, u16)>,
    /// Requests that had to be sent again.
    pub again: Arc<AtomicUsize>,
}

impl Wire {
    /// Sends a request until there is an answer to it.
    async fn ask(&self, method: Method, path: &str, tab: &str, body: &[u8], kind: &str) -> Result<Value> {
        for tried in 0.. {
            let (through, port) = self.ways[tried / PATIENCE % self.ways.len()];
            let request = self.client.request(method.clone(), format!("http://127.0.0.1:{through}/api{path}"));
            let request = request.header("host", format!("127.0.0.1:{port}")).header("x-tab", tab);
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
        anyhow::bail!("{path} was never answered")
    }
}

/// A tab with a piece of its own.
pub struct Tab {
    wire: Wire,
    sheet: String,
    /// What all tabs call themselves, and which of them this one is.
    names: Vec<String>,
    own: usize,
    piece: String,
    pub chance: fastrand::Rng,
    /// The revision that it knows, and where its piece was at first.
    base: u64,
    start: f64,
    /// Moves that were made and not taken back.
    pub moves: usize,
    pub done: Done,
}

/// What a tab did.
#[derive(Default)]
pub struct Done {
    /// Edits and undos that were acknowledged.
    pub edits: usize,
    pub undone: usize,
    /// Identifiers of photos.
    pub photos: Vec<String>,
    pub jobs: Vec<Value>,
}

impl Tab {
    /// Opens a sheet, on which it lays a piece. `names` are what all tabs of the sheet call themselves, of which this is the one at `own`; they are
    /// opened one after the other.
    ///
    /// # Errors
    /// A piece that is not taken.
    pub async fn open(wire: Wire, sheet: String, names: Vec<String>, own: usize, seed: u64) -> Result<Self> {
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

    /// Moves its piece by one step.
    ///
    /// # Errors
    /// An answer that is not what it has to be.
    pub async fn shift(&mut self) -> Result<()> {
        let by = json!({ "a": 1.0, "b": 0.0, "dx": STEP, "dy": 0.0 });
        let edit = json!({ "edit": "move", "piece": self.piece, "what": "both", "by": by });
        let body = json!({ "base": self.base, "request": Uuid::new_v4(), "gesture": null, "edits": [edit] });
        let answer = self.post("edits", body).await?;
        self.moves += 1;
        self.done.edits += 1;
        self.look(&answer)
    }

    /// Does what comes next: most often a move, of which it says how long the answer took; once of eight times it takes its last move back.
    ///
    /// # Errors
    /// An answer that is not what it has to be.
    pub async fn goes_on(&mut self) -> Result<Option<Duration>> {
        if self.moves > 0 && self.chance.u32(..8) == 0 {
            self.undo().await?;
            return Ok(None);
        }
        let begun = Instant::now();
        self.shift().await?;
        Ok(Some(begun.elapsed()))
    }

    /// Takes its last move back.
    ///
    /// # Errors
    /// An answer that is not what it has to be.
    pub async fn undo(&mut self) -> Result<()> {
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

    /// Asks for a file of the sheet.
    ///
    /// # Errors
    /// A server that does not take the job.
    pub async fn deliver(&mut self) -> Result<()> {
        let job = self.post("jobs", json!({ "task": "deliver", "kind": "png", "ppi": 10.0 })).await?;
        self.done.jobs.push(job);
        Ok(())
    }

    /// A photo that nobody has brought in before.
    ///
    /// # Errors
    /// An answer that is not what it has to be.
    pub async fn bring(&mut self) -> Result<()> {
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
