//! Several tabs at work on one sheet: nothing of anybody is lost, and what cannot go together is said.

use anyhow::{Context, Result, ensure};
use inky_e2e::steps::{new_sheet, sheet};
use inky_e2e::{Browser, Database, Server};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};
use thirtyfour::prelude::*;
use uuid::Uuid;

fn fresh() -> String {
    Uuid::new_v4().to_string()
}

/// A tab that speaks to the server by itself.
struct Tab<'a> {
    server: &'a Server,
    sheet: &'a str,
    name: String,
}

impl<'a> Tab<'a> {
    fn open(server: &'a Server, sheet: &'a str) -> Self {
        Self { server, sheet, name: fresh() }
    }

    async fn call(&self, path: &str, body: Value) -> Result<(StatusCode, Value)> {
        let path = format!("/sheets/{}/{path}", self.sheet);
        self.server.call_as(Some(&self.name), Method::POST, &path, Some(body)).await
    }

    async fn edit(&self, base: u64, edits: Value) -> Result<(StatusCode, Value)> {
        self.call("edits", json!({ "base": base, "request": fresh(), "gesture": null, "edits": edits })).await
    }

    /// An edit that has to be taken; the revision after it.
    async fn made(&self, base: u64, edits: Value) -> Result<u64> {
        let (status, answer) = self.edit(base, edits).await?;
        ensure!(status.is_success(), "{status} {answer}");
        answer["revision"].as_u64().context("no revision")
    }

    async fn step(&self, way: &str) -> Result<(StatusCode, Value)> {
        self.call(way, json!({ "base": 1, "request": fresh() })).await
    }

    async fn bench(&self) -> Result<Value> {
        let path = format!("/sheets/{}", self.sheet);
        Ok(self.server.call_as(Some(&self.name), Method::GET, &path, None).await?.1)
    }

    /// It has the sheet open from now on.
    async fn come(&self) -> Result<Value> {
        let path = format!("/sheets/{}/news", self.sheet);
        Ok(self.server.call_as(Some(&self.name), Method::GET, &path, None).await?.1)
    }
}

fn boxed(piece: &str) -> Value {
    json!([{ "edit": "add_lettering", "piece": piece, "form": fresh(), "fill": fresh(), "text": "LAMP", "font": "anton" }])
}

fn rim() -> Value {
    json!({ "width": 2.0, "side": "outside", "paint": { "kind": "colour", "colour": "#141b34" }, "round": false, "over": false })
}

fn shadow() -> Value {
    json!({ "place": "behind", "tint": { "colour": "#141b34" }, "strength": 0.5, "angle": 60.0, "distance": 5.0, "spread": 0.0, "size": 6.0 })
}

/// A new member of a finish; the others stay as they are.
fn finish(piece: &str, member: &str, value: Value) -> Value {
    let change = json!({ "op": "add", "path": member, "value": value });
    json!([{ "edit": "amend", "of": "finish", "piece": piece, "changes": [change] }])
}

fn moved(piece: &str, dx: f64) -> Value {
    json!([{ "edit": "move", "piece": piece, "what": "both", "by": { "a": 1.0, "b": 0.0, "dx": dx, "dy": 0.0 } }])
}

#[tokio::test]
async fn what_two_tabs_do_goes_together_or_is_said() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start(&database, false)?;
    let id = server.new_sheet("Fair").await?;
    let (a, b) = (Tab::open(&server, &id), Tab::open(&server, &id));
    let piece = fresh();
    let base = a.made(1, boxed(&piece)).await?;
    // a rim in one tab and a shadow in the other, both made for the same sheet: both stay
    a.made(base, finish(&piece, "/rims", json!([rim()]))).await?;
    let now = b.made(base, finish(&piece, "/shadows", json!([shadow()]))).await?;
    let kept = b.bench().await?["sheet"]["pieces"][0]["kind"]["finish"].clone();
    ensure!(kept["rims"][0]["width"] == 2.0 && kept["shadows"][0]["distance"] == 5.0, "{kept}");
    // the answer to the second one brings the first one along
    let seen = server.get(&format!("/sheets/{id}/changes?since={base}")).await?;
    ensure!((seen["base"].as_u64(), seen["revision"].as_u64()) == (Some(base), Some(now)), "{seen}");
    ensure!(seen["pieces"][0]["kind"]["finish"] == kept && seen["pieces"].as_array().map(Vec::len) == Some(1));

    // the same thing in two ways: the second one is told, with the newest sheet
    a.made(now, moved(&piece, 10.0)).await?;
    let (status, said) = b.edit(now, moved(&piece, 20.0)).await?;
    ensure!(status == StatusCode::CONFLICT && said["bench"]["revision"].as_u64() == Some(now + 1), "{status} {said}");
    ensure!(said["sentence"].as_str().is_some_and(|s| s.contains("the opening of “LAMP”")), "{}", said["sentence"]);

    // a request whose answer was lost is made once, whoever edits in between
    let request = json!({ "base": now + 1, "request": fresh(), "gesture": null, "edits": moved(&piece, 30.0) });
    ensure!(a.call("edits", request.clone()).await?.0.is_success());
    b.made(now + 2, json!([{ "edit": "rename_sheet", "name": "Lamps" }])).await?;
    let before = a.bench().await?;
    let (status, again) = a.call("edits", request).await?;
    ensure!(status.is_success() && again["revision"].as_u64() == Some(now + 3), "{status} {again}");
    ensure!(a.bench().await?["sheet"] == before["sheet"], "made once");

    // several edits are one step: all of them, or none
    let all = json!([{ "edit": "rename_sheet", "name": "Half" }, { "edit": "remove_piece", "piece": fresh() }]);
    let (status, _) = a.edit(now + 3, all).await?;
    ensure!(status == StatusCode::UNPROCESSABLE_ENTITY && a.bench().await?["sheet"] == before["sheet"], "none of them");
    let both =
        json!([{ "edit": "rename_sheet", "name": "Both" }, { "edit": "name_piece", "piece": piece, "name": "Title" }]);
    a.made(now + 3, both).await?;
    let undone = a.step("undo").await?.1;
    ensure!(undone["sheet"]["name"] == "Lamps" && undone["pieces"][0]["name"].is_null(), "{undone}");
    Ok(())
}

#[tokio::test]
async fn undo_takes_back_ones_own_steps() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start(&database, false)?;
    let id = server.new_sheet("Fair").await?;
    let (a, b) = (Tab::open(&server, &id), Tab::open(&server, &id));
    a.come().await?;
    let news = b.come().await?;
    ensure!(news["others"][0]["tab"] == json!(a.name) && news["others"].as_array().map(Vec::len) == Some(1), "{news}");
    ensure!(b.call("presence", json!({ "selected": null })).await?.0.is_success());

    let (mine, theirs) = (fresh(), fresh());
    a.made(1, boxed(&mine)).await?;
    b.made(2, boxed(&theirs)).await?;
    a.made(3, moved(&mine, 10.0)).await?;
    b.made(4, moved(&theirs, 20.0)).await?;
    let left = |bench: &Value, piece: &str| {
        let views = bench["scene"]["pieces"].as_array().cloned().unwrap_or_default();
        views.iter().find(|v| v["piece"] == piece).and_then(|v| v["bounds"][0].as_f64())
    };
    let now = a.bench().await?;
    // a's own move is taken back, though b's came later
    ensure!(a.step("undo").await?.0.is_success());
    let undone = b.bench().await?;
    let shift = |piece| Some(left(&now, piece)? - left(&undone, piece)?);
    ensure!(shift(&mine).is_some_and(|d| (d - 10.0).abs() < 1e-6) && shift(&theirs) == Some(0.0), "a's alone");
    ensure!(undone["undo"].as_str().is_some_and(|u| u.starts_with("move")), "b has its own: {}", undone["undo"]);
    ensure!(a.step("redo").await?.0.is_success());
    ensure!(a.bench().await?["sheet"] == now["sheet"], "and made again");

    // what b changed since is in the way, and said
    b.made(7, moved(&mine, 5.0)).await?;
    let (status, said) = a.step("undo").await?;
    let sentence = said["sentence"].as_str().unwrap_or_default();
    ensure!(
        status == StatusCode::UNPROCESSABLE_ENTITY && sentence.contains("somebody else changed the opening of “LAMP”"),
        "{sentence}"
    );
    // b takes its step back; then a's can be
    ensure!(b.step("undo").await?.0.is_success());
    ensure!(a.step("undo").await?.0.is_success());
    // a tab that nobody has open any more leaves its steps to the others
    let stranger = Tab::open(&server, &id);
    ensure!(stranger.step("undo").await?.0 == StatusCode::UNPROCESSABLE_ENTITY, "nothing of its own");
    ensure!(a.bench().await?["undo"] == "add lettering" && a.bench().await?["redo"].is_string());
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn two_windows_see_each_other_at_work() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start(&database, false)?;
    let (one, other) = (Browser::start().await?, Browser::start().await?);
    new_sheet(&one, &server, "Shared").await?;
    other.page.goto(one.page.current_url().await?.as_str()).await?;
    for browser in [&one, &other] {
        browser.reads("One more tab").await?;
    }
    // what is done in one is seen in the other
    inky_e2e::steps::type_word(&one, "QUAY").await?;
    other.click("//nav//button[@aria-label='Select “QUAY”']").await?;
    one.at("//*[@aria-label='Selected in another tab']").await?;
    // the same name in two ways, while one of them cannot hear of the other
    let deaf = "window.__fetch = window.fetch; window.fetch = (a, b) => String(a).includes('/changes') ? Promise.reject(new TypeError()) : window.__fetch(a, b)";
    other.script(deaf).await?;
    let rename = async |browser: &Browser, name: &str| -> Result<()> {
        let field = browser.at("//input[@aria-label='Name of the sheet']").await?;
        field.send_keys(Key::Control + "a").await?;
        field.send_keys(name.to_owned() + Key::Enter).await?;
        browser.kept().await
    };
    rename(&one, "Lamps").await?;
    rename(&other, "Kites").await?;
    other.reads("Somebody else changed the name meanwhile").await?;
    ensure!(sheet(&other, &server).await?["sheet"]["name"] == "Lamps", "nothing is overwritten by itself");
    // what was meant is not lost
    other.press("Make it anyway").await?;
    other.kept().await?;
    ensure!(sheet(&other, &server).await?["sheet"]["name"] == "Kites");
    other.script("window.fetch = window.__fetch").await?;
    // undo is of what was done in this window alone, and says what is in its way
    one.press("Undo: rename the sheet").await?;
    one.reads("cannot be undone: somebody else changed the name since").await?;
    ensure!(one.complaints().await?.is_empty() && other.complaints().await?.is_empty());
    one.close().await?;
    // it is noticed that a window was closed
    other.until("nobody else", async || (!other.text().await.ok()?.contains("One more tab")).then_some(())).await?;
    other.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn many_at_work_lose_nothing() -> Result<()> {
    // the long run is `cargo run -p inky-e2e --bin editors -- 600`
    let report = inky_e2e::editors::run(2, 4, std::time::Duration::from_secs(6)).await?;
    println!("{report}");
    ensure!(report.edits > report.editors, "{report}");
    Ok(())
}

#[tokio::test]
async fn what_is_asked_for_again_is_made_once() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start(&database, false)?;
    let body = json!({ "name": "Once", "width": 210.0, "height": 297.0, "unit": "mm", "ppi": 100.0 });
    let made = fresh();
    let first = server.make(&made, "/sheets", &body).await?;
    let id = first["id"].as_str().context("no sheet")?;
    let tab = Tab::open(&server, id);
    tab.made(1, boxed(&fresh())).await?;
    ensure!(server.make(&made, "/sheets", &body).await? == first);
    ensure!(tab.bench().await?["sheet"]["pieces"].as_array().map(Vec::len) == Some(1), "begun anew");
    let copied = fresh();
    for _ in 0..3 {
        ensure!(server.make(&copied, &format!("/sheets/{id}/copy"), &Value::Null).await?["id"] == copied);
    }
    let asked = fresh();
    let file = json!({ "task": "deliver", "kind": "sheet", "ppi": 100.0, "bleed": false });
    for _ in 0..3 {
        ensure!(server.make(&asked, &format!("/sheets/{id}/jobs"), &file).await?["id"] == asked);
    }
    let job = json!({ "id": asked });
    ensure!(server.finished(&job).await?["state"] == "done");
    let (_, _, file) = server.bytes(&format!("/api/jobs/{asked}/file")).await?;
    let file: Value = serde_json::from_slice(&file)?;
    let brought = fresh();
    for _ in 0..3 {
        ensure!(server.make(&brought, "/sheets/import", &file).await?["id"] == brought);
    }
    ensure!(server.get("/sheets").await?.as_array().map(Vec::len) == Some(3), "made more than once");
    let (status, _) = server.call(Method::POST, &format!("/sheets/{id}/copy"), None).await?;
    ensure!(status.is_success(), "{status}");
    Ok(())
}

#[tokio::test]
async fn servers_on_one_database_lose_nothing_to_each_other() -> Result<()> {
    let database = Database::start()?;
    let mut servers =
        [Server::start(&database, false)?, Server::start(&database, false)?, Server::start(&database, false)?];
    let id = servers[0].new_sheet("Three servers").await?;
    let tabs = servers.each_ref().map(|server| Tab::open(server, &id));
    let pieces = [fresh(), fresh(), fresh()];
    let mut base = 1;
    for (tab, piece) in tabs.iter().zip(&pieces) {
        base = tab.made(base, boxed(piece)).await?;
    }
    let moves = async |k: usize| {
        let mut own = base;
        for _ in 0..15 {
            own = tabs[k].made(own, moved(&pieces[k], 1.0)).await?;
        }
        Ok::<_, anyhow::Error>(())
    };
    tokio::try_join!(moves(0), moves(1), moves(2))?;
    let seen = tabs[0].bench().await?;
    ensure!(seen["revision"] == base + 45, "{}", seen["revision"]);
    for tab in &tabs[1..] {
        ensure!(tab.bench().await?["sheet"] == seen["sheet"], "the servers show different sheets");
    }
    // a tab whose server ended goes on at another one, with the request that it has no answer to
    let (author, request) = (tabs[0].name.clone(), fresh());
    let body = json!({ "base": base + 45, "request": request, "gesture": null, "edits": moved(&pieces[0], 1.0) });
    let path = format!("/sheets/{id}/edits");
    let (status, _) = servers[0].call_as(Some(&author), Method::POST, &path, Some(body.clone())).await?;
    ensure!(status.is_success(), "{status}");
    servers[0].kill()?;
    let (status, answer) = servers[1].call_as(Some(&author), Method::POST, &path, Some(body)).await?;
    ensure!(status.is_success() && answer["revision"] == base + 46, "{status} {answer}");
    let step = json!({ "base": base + 46, "request": fresh() });
    let (status, answer) =
        servers[2].call_as(Some(&author), Method::POST, &format!("/sheets/{id}/undo"), Some(step)).await?;
    ensure!(status.is_success() && answer["revision"] == base + 47, "{status} {answer}");
    ensure!(servers[1].get(&format!("/sheets/{id}")).await?["sheet"] == seen["sheet"], "not as before");
    Ok(())
}
