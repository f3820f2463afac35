//! The real program, serving the built interface.

use crate::{Database, root};
use anyhow::{Context, Result, anyhow, ensure};
use reqwest::header::{AUTHORIZATION, HeaderMap, HeaderValue};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};
use std::io::{BufRead, BufReader};
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};
use std::time::Duration;

pub struct Server {
    child: Child,
    pub address: String,
    client: reqwest::Client,
}

/// What servers of tests are started with.
pub const TOKEN: &str = "token-of-the-tests-0001";

/// What is shown to them.
const SHOWN: &str = "Bearer token-of-the-tests-0001";

/// A client that is let in.
pub fn client() -> reqwest::ClientBuilder {
    let shown = HeaderMap::from_iter([(AUTHORIZATION, HeaderValue::from_static(SHOWN))]);
    reqwest::Client::builder().default_headers(shown)
}

/// The first lines of a request that is written by hand, of somebody who is let in. More lines may follow, then an empty one.
pub fn head(line: &str, port: u16) -> String {
    format!("{line} HTTP/1.1\r\nHost: 127.0.0.1:{port}\r\nAuthorization: {SHOWN}\r\n")
}

/// The `inky` program that stands beside the tests.
pub fn program() -> Result<PathBuf> {
    // tests lie a folder deeper than programs do
    let own = std::env::current_exe()?;
    let found = own.ancestors().skip(1).take(2).map(|folder| folder.join("inky")).find(|path| path.exists());
    found.context("the program is missing: run cargo build --workspace --all-targets first")
}

fn serving(port: u16) -> Result<Command> {
    let mut command = Command::new(program()?);
    command.args(["serve", "--port", &port.to_string(), "--web"]).arg(root().join("web/dist"));
    Ok(command)
}

impl Server {
    /// Starts a server on a free port; with `demo` it loads the demo sheets first.
    pub fn start(database: &Database, demo: bool) -> Result<Self> {
        Self::start_at(database, demo, 0)
    }

    pub fn start_at(database: &Database, demo: bool, port: u16) -> Result<Self> {
        Self::start_with(database, demo, port, &root().join("demo"))
    }

    /// With the stock drawer of a folder.
    pub fn start_with(database: &Database, demo: bool, port: u16, stock: &Path) -> Result<Self> {
        Self::start_for(&database.url, demo, port, stock)
    }

    /// On a database at an address.
    pub fn start_for(database: &str, demo: bool, port: u16, stock: &Path) -> Result<Self> {
        let mut command = serving(port)?;
        command.arg("--stock").arg(stock);
        if demo {
            command.arg("--demo").arg(root().join("demo"));
        }
        Self::run(command, database)
    }

    /// On a port (0 takes a free one) with options of its own.
    pub fn start_as(database: &Database, port: u16, options: &[&str]) -> Result<Self> {
        let mut command = serving(port)?;
        command.args(options);
        Self::run(command, &database.url)
    }

    /// With something in its surroundings that stands before its libraries.
    pub fn start_under(database: &Database, surroundings: &[(&str, &Path)]) -> Result<Self> {
        let mut command = serving(0)?;
        command.envs(surroundings.iter().copied());
        Self::run(command, &database.url)
    }

    fn run(mut command: Command, database: &str) -> Result<Self> {
        command.env("INKY_DATABASE", database).env("INKY_START_TOKEN", TOKEN);
        let mut child = command.stdin(Stdio::null()).stdout(Stdio::piped()).spawn()?;
        let mut lines = BufReader::new(child.stdout.take().context("no output")?).lines();
        let address = loop {
            let line = lines.next().context("the server ended before it was ready")??;
            if let Some((_, address)) = line.split_once(" is at ") {
                break address.to_owned();
            }
        };
        // its output is drained, so that it never waits for a reader
        std::thread::spawn(move || lines.for_each(drop));
        Ok(Self { child, address, client: client().build()? })
    }

    /// The most memory that it has held at once, in bytes (Linux, `VmHWM` of proc(5)).
    pub fn peak_memory(&self) -> Result<u64> {
        let status = std::fs::read_to_string(format!("/proc/{}/status", self.child.id()))?;
        let line = status.lines().find_map(|l| l.strip_prefix("VmHWM:")).context("no peak")?;
        Ok(line.trim().trim_end_matches("kB").trim().parse::<u64>()? << 10)
    }

    /// The port that it listens on, whatever it is called: from the kernel's table of sockets (proc(5)).
    pub fn listens_at(&self) -> Result<u16> {
        let mut own = Vec::new();
        for open in std::fs::read_dir(format!("/proc/{}/fd", self.child.id()))? {
            let target = std::fs::read_link(open?.path()).unwrap_or_default();
            own.extend(target.to_str().and_then(|t| t.strip_prefix("socket:[")?.strip_suffix(']')).map(str::to_owned));
        }
        let table = std::fs::read_to_string("/proc/net/tcp")?;
        let mut ports = table.lines().filter_map(|line| {
            let columns: Vec<&str> = line.split_whitespace().collect();
            // TCP_LISTEN
            let listens =
                columns.get(3) == Some(&"0A") && own.iter().any(|inode| columns.get(9) == Some(&inode.as_str()));
            let port = columns.get(1)?.rsplit(':').next()?;
            if listens { u16::from_str_radix(port, 16).ok() } else { None }
        });
        ports.next_back().context("it listens nowhere")
    }

    pub fn port(&self) -> Result<u16> {
        Ok(self.address.rsplit(':').next().unwrap_or_default().parse()?)
    }

    /// Ends the server without warning.
    pub fn kill(&mut self) -> Result<()> {
        self.child.kill()?;
        self.child.wait()?;
        Ok(())
    }

    /// Asks the server to end, as `./start` does, and waits until it has.
    pub fn end(&mut self) -> Result<()> {
        ensure!(Command::new("kill").args(["-TERM", &self.child.id().to_string()]).status()?.success());
        self.child.wait()?;
        Ok(())
    }

    /// Status and JSON body of a request.
    pub async fn call(&self, method: Method, path: &str, body: Option<Value>) -> Result<(StatusCode, Value)> {
        self.call_as(None, method, path, body).await
    }

    /// The same as a tab of the interface.
    pub async fn call_as(
        &self,
        tab: Option<&str>,
        method: Method,
        path: &str,
        body: Option<Value>,
    ) -> Result<(StatusCode, Value)> {
        let mut request = self.client.request(method, format!("{}/api{path}", self.address));
        if let Some(tab) = tab {
            request = request.header("x-tab", tab);
        }
        if let Some(body) = body {
            request = request.json(&body);
        }
        let response = request.send().await?;
        let status = response.status();
        let text = response.text().await?;
        Ok((status, serde_json::from_str(&text).unwrap_or(Value::Null)))
    }

    /// Asks for something to be made by a request with an identifier of its own; it has to be made.
    pub async fn make(&self, request: &str, path: &str, body: &Value) -> Result<Value> {
        let asked = self.client.post(format!("{}/api{path}", self.address)).header("x-request", request).json(body);
        let answer = asked.send().await?;
        ensure!(answer.status().is_success(), "POST {path}: {}", answer.status());
        Ok(answer.json().await?)
    }

    /// Sends a body as it is, as JSON.
    pub async fn post_text(&self, path: &str, text: String) -> Result<(StatusCode, Value)> {
        let asked = self.client.post(format!("{}/api{path}", self.address)).header("content-type", "application/json");
        let answer = asked.body(text).send().await?;
        Ok((answer.status(), answer.json().await?))
    }

    pub async fn get(&self, path: &str) -> Result<Value> {
        let (status, body) = self.call(Method::GET, path, None).await?;
        ensure!(status.is_success(), "GET {path}: {status} {body}");
        Ok(body)
    }

    pub async fn post(&self, path: &str, body: Value) -> Result<Value> {
        let (status, body) = self.call(Method::POST, path, Some(body)).await?;
        ensure!(status.is_success(), "POST {path}: {status} {body}");
        Ok(body)
    }

    /// Makes an edit (or `undo`, `redo`), which has to be taken; the whole sheet after it.
    pub async fn keep(&self, sheet: &str, path: &str, body: Value) -> Result<Value> {
        self.post(&format!("/sheets/{sheet}/{path}"), body).await?;
        self.get(&format!("/sheets/{sheet}")).await
    }

    pub async fn bytes(&self, path: &str) -> Result<(StatusCode, reqwest::header::HeaderMap, Vec<u8>)> {
        let response = self.client.get(format!("{}{path}", self.address)).send().await?;
        let (status, headers) = (response.status(), response.headers().clone());
        Ok((status, headers, response.bytes().await?.to_vec()))
    }

    /// Sends a file as one of the `photos`, `drawings` or `fonts`.
    pub async fn upload(&self, kind: &str, name: &str, bytes: Vec<u8>) -> Result<(StatusCode, Value)> {
        let request = self.client.post(format!("{}/api/{kind}?name={name}", self.address)).body(bytes);
        let response = request.send().await?;
        let status = response.status();
        Ok((status, response.json().await?))
    }

    /// Waits for a job to end; its card.
    pub async fn finished(&self, job: &Value) -> Result<Value> {
        let id = job["id"].as_str().ok_or_else(|| anyhow!("no job in {job}"))?;
        loop {
            let card = self.get(&format!("/jobs/{id}")).await?;
            if !["waiting", "running"].contains(&card["state"].as_str().unwrap_or_default()) {
                return Ok(card);
            }
            tokio::time::sleep(Duration::from_millis(50)).await;
        }
    }

    /// The file of a task to deliver one.
    pub async fn delivered(&self, sheet: &str, task: Value) -> Result<Vec<u8>> {
        let job = self.post(&format!("/sheets/{sheet}/jobs"), task).await?;
        let card = self.finished(&job).await?;
        ensure!(card["state"] == "done", "{card}");
        let (_, _, bytes) = self.bytes(&format!("/api/jobs/{}/file", job["id"].as_str().context("no job")?)).await?;
        Ok(bytes)
    }

    /// A new A3 sheet; its identifier.
    pub async fn new_sheet(&self, name: &str) -> Result<String> {
        let body = json!({ "name": name, "width": 420.0, "height": 297.0, "unit": "mm", "ppi": 100.0 });
        let made = self.post("/sheets", body).await?;
        Ok(made["id"].as_str().unwrap_or_default().to_owned())
    }
}

impl Drop for Server {
    fn drop(&mut self) {
        let _ = self.kill();
    }
}
