//! People with accounts, for tests.

use anyhow::{Context, Result, ensure};
use inky_e2e::{Database, Server, program};
use reqwest::header::{COOKIE, HeaderMap, HeaderValue, SET_COOKIE};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};
use std::process::Command;

/// A password that is taken.
pub const PASSWORD: &str = "wet sand, seven kites";

/// Runs `inky account`; what it prints.
pub fn account(database: &Database, words: &[&str]) -> Result<String> {
    let run = Command::new(program()?).arg("account").args(words).env("INKY_DATABASE", &database.url).output()?;
    ensure!(run.status.success(), "{}", String::from_utf8_lossy(&run.stderr));
    Ok(String::from_utf8(run.stdout)?)
}

/// The secret of the link that was printed.
pub fn link(printed: &str) -> Result<String> {
    Ok(printed.trim().rsplit_once("#password=").context("no link was printed")?.1.to_owned())
}

/// Somebody at a browser.
pub struct Person {
    client: reqwest::Client,
    address: String,
}

impl Person {
    /// Somebody whom nobody knows.
    pub fn stranger(server: &Server) -> Self {
        Self { client: reqwest::Client::new(), address: server.address.clone() }
    }

    /// Somebody who shows a cookie.
    pub fn with(server: &Server, cookie: &str) -> Result<Self> {
        let shown = HeaderMap::from_iter([(COOKIE, HeaderValue::from_str(cookie)?)]);
        let client = reqwest::Client::builder().default_headers(shown).build()?;
        Ok(Self { client, address: server.address.clone() })
    }

    /// Somebody with a new account, who has chosen a password.
    pub async fn joins(database: &Database, server: &Server, name: &str) -> Result<Self> {
        let link = link(&account(database, &["add", name])?)?;
        let choice = json!({ "link": link, "password": PASSWORD });
        let (status, cookie) = Self::stranger(server).enters("password", choice).await?;
        Self::with(server, &cookie.with_context(|| format!("{name} was not let in: {status}"))?)
    }

    /// Somebody who signs in.
    pub async fn signs_in(server: &Server, name: &str, password: &str) -> Result<Self> {
        let said = json!({ "name": name, "password": password });
        let (status, cookie) = Self::stranger(server).enters("sign-in", said).await?;
        Self::with(server, &cookie.with_context(|| format!("{name} was not let in: {status}"))?)
    }

    /// Says something at the entrance: the status, and the cookie that it gives.
    pub async fn enters(&self, how: &str, said: Value) -> Result<(StatusCode, Option<String>)> {
        let answer = self.client.post(format!("{}/api/entry/{how}", self.address)).json(&said).send().await?;
        let set = answer.headers().get(SET_COOKIE).map(|v| v.to_str().map(str::to_owned)).transpose()?;
        Ok((answer.status(), set.and_then(|set| Some(set.split_once(';')?.0.to_owned()))))
    }

    pub async fn ask(&self, method: Method, path: &str, body: Option<Value>) -> Result<(StatusCode, Value)> {
        let mut asked = self.client.request(method, format!("{}/api{path}", self.address));
        if let Some(body) = body {
            asked = asked.json(&body);
        }
        let answer = asked.send().await?;
        Ok((answer.status(), serde_json::from_str(&answer.text().await?).unwrap_or(Value::Null)))
    }

    /// The answer to a request that has to be granted.
    pub async fn does(&self, method: Method, path: &str, body: Option<Value>) -> Result<Value> {
        let (status, answer) = self.ask(method.clone(), path, body).await?;
        ensure!(status.is_success(), "{method} {path}: {status} {answer}");
        Ok(answer)
    }

    /// The status of a request that has to be refused with a sentence.
    pub async fn may_not(&self, method: Method, path: &str, body: Option<Value>) -> Result<StatusCode> {
        let (status, answer) = self.ask(method.clone(), path, body).await?;
        ensure!(status.is_client_error() && answer["sentence"].is_string(), "{method} {path}: {status} {answer}");
        Ok(status)
    }

    /// A new sheet; its identifier.
    pub async fn sheet(&self, name: &str) -> Result<String> {
        let new = json!({ "name": name, "width": 100.0, "height": 100.0, "unit": "mm", "ppi": 100.0 });
        let made = self.does(Method::POST, "/sheets", Some(new)).await?;
        Ok(made["id"].as_str().context("no identifier")?.to_owned())
    }

    /// The names of what lies on their desk.
    pub async fn desk(&self) -> Result<Vec<String>> {
        let cards = self.does(Method::GET, "/sheets", None).await?;
        let names = cards.as_array().into_iter().flatten().filter_map(|c| c["name"].as_str().map(str::to_owned));
        Ok(names.collect())
    }

    /// A stream of a sheet's news, which is open once this returns.
    pub async fn listens(&self, sheet: &str) -> Result<reqwest::Response> {
        let tab = uuid::Uuid::new_v4();
        let asked = self.client.get(format!("{}/api/sheets/{sheet}/events?tab={tab}", self.address));
        Ok(asked.send().await?.error_for_status()?)
    }
}
