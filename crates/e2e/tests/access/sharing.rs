//! Sheets that are shared, and with whom.

use crate::people::Person;
use anyhow::{Context, Result, ensure};
use inky_e2e::{Database, Server};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};
use uuid::Uuid;

fn rename(base: u64, name: &str) -> Value {
    json!({ "base": base, "request": Uuid::new_v4(), "gesture": null, "edits": [{ "edit": "rename_sheet", "name": name }] })
}

/// Every method and path of the interface, as they are written in the server.
fn routes() -> Vec<(Method, String)> {
    let source = include_str!("../../../server/src/api/mod.rs");
    let mut found = Vec::new();
    for route in source.split(".route(\"").skip(1) {
        let Some((path, rest)) = route.split_once('"') else { continue };
        let calls = rest.lines().next().unwrap_or_default();
        for (name, method) in [("get(", Method::GET), ("post(", Method::POST), ("delete(", Method::DELETE)] {
            if calls.contains(name) {
                found.push((method, path.to_owned()));
            }
        }
    }
    found
}

#[tokio::test]
async fn strangers_reach_nothing_and_others_no_sheet_that_is_not_shared() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start_as(&database, 0, &["--accounts"])?;
    let ada = Person::joins(&database, &server, "Ada").await?;
    let ben = Person::joins(&database, &server, "Ben").await?;
    let stranger = Person::stranger(&server);
    let sheet = ada.sheet("Hers").await?;
    let task = json!({ "task": "deliver", "kind": "png", "ppi": 30.0, "bleed": false });
    let job = ada.does(Method::POST, &format!("/sheets/{sheet}/jobs"), Some(task)).await?;
    let job = job["id"].as_str().context("no job")?;
    let routes = routes();
    ensure!(routes.len() > 50, "only {} routes were found", routes.len());
    for (method, path) in routes {
        let id = if path.starts_with("/jobs") { job } else { &sheet };
        let at = path.replace("{id}", id).replace("{piece}", &Uuid::new_v4().to_string());
        let at = at.replace("{fill}", &Uuid::new_v4().to_string()).replace("{account}", &Uuid::new_v4().to_string());
        let body = (method == Method::POST).then(|| json!({}));
        if !path.starts_with("/entry") && path != "/health" {
            let (status, said) = stranger.ask(method.clone(), &at, body.clone()).await?;
            ensure!(status == StatusCode::UNAUTHORIZED, "{method} {path} for strangers: {status} {said}");
        }
        // what is refused is one's own invitation, whether there is one or not
        let own = method == Method::DELETE && path.ends_with("/invitation");
        if (path.starts_with("/sheets/{id}") || path.starts_with("/jobs/{id}")) && !own {
            let (status, said) = ben.ask(method.clone(), &at, body).await?;
            ensure!(status == StatusCode::NOT_FOUND, "{method} {path} for others: {status} {said}");
        }
    }
    ensure!(ben.desk().await?.is_empty() && ada.desk().await? == ["Hers"]);
    Ok(())
}

#[tokio::test]
async fn roles_are_given_taken_and_withdrawn() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start_as(&database, 0, &["--accounts"])?;
    let ada = Person::joins(&database, &server, "Ada").await?;
    let ben = Person::joins(&database, &server, "Ben").await?;
    let sheet = ada.sheet("Kites").await?;
    let at = |path: &str| format!("/sheets/{sheet}{path}");
    let invite = |name: &str, role: &str| Some(json!({ "name": name, "role": role }));
    ada.may_not(Method::POST, &at("/members"), invite("Nobody", "edit")).await?;

    // invited, it is seen by its name alone
    ada.does(Method::POST, &at("/members"), invite("ben", "look")).await?;
    let desk = ben.does(Method::GET, "/sheets", None).await?;
    ensure!(desk[0]["invited_by"] == "Ada" && desk[0]["role"] == "look", "{desk}");
    ensure!(ben.may_not(Method::GET, &at(""), None).await? == StatusCode::NOT_FOUND);
    ben.does(Method::POST, &at("/invitation"), None).await?;

    // to look at
    ben.does(Method::GET, &at(""), None).await?;
    for (method, path, body) in [
        (Method::POST, "/edits", Some(rename(1, "His"))),
        (Method::POST, "/steps/1", Some(json!({ "base": 1, "request": Uuid::new_v4() }))),
        (Method::POST, "/undo", Some(json!({ "base": 1, "request": Uuid::new_v4() }))),
        (Method::POST, "/members", invite("Ben", "own")),
        (Method::DELETE, "", None),
    ] {
        ensure!(ben.may_not(method, &at(path), body).await? == StatusCode::FORBIDDEN, "{path}");
    }
    let copy = ben.does(Method::POST, &at("/copy"), None).await?;
    let copy = copy["id"].as_str().context("no copy")?;
    ensure!(ada.may_not(Method::GET, &format!("/sheets/{copy}"), None).await? == StatusCode::NOT_FOUND);

    // to edit
    ada.does(Method::POST, &at("/members"), invite("Ben", "edit")).await?;
    ben.does(Method::POST, &at("/edits"), Some(rename(1, "Kites and gulls"))).await?;
    ensure!(ben.may_not(Method::DELETE, &at(""), None).await? == StatusCode::FORBIDDEN);

    // somebody has to own it
    ada.may_not(Method::DELETE, &at("/invitation"), None).await?;
    ada.may_not(Method::POST, &at("/members"), invite("Ada", "look")).await?;
    ada.does(Method::POST, &at("/members"), invite("Ben", "own")).await?;
    ada.does(Method::DELETE, &at("/invitation"), None).await?;
    ensure!(ada.may_not(Method::GET, &at(""), None).await? == StatusCode::NOT_FOUND);
    ben.does(Method::DELETE, &at(""), None).await?;
    ben.does(Method::POST, &at("/restore"), None).await?;
    Ok(())
}

#[tokio::test]
async fn who_is_shut_out_hears_no_more() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start_as(&database, 0, &["--accounts"])?;
    let ada = Person::joins(&database, &server, "Ada").await?;
    let ben = Person::joins(&database, &server, "Ben").await?;
    let sheet = ada.sheet("Kites").await?;
    let invitation = json!({ "name": "Ben", "role": "edit" });
    ada.does(Method::POST, &format!("/sheets/{sheet}/members"), Some(invitation)).await?;
    ben.does(Method::POST, &format!("/sheets/{sheet}/invitation"), None).await?;
    let mut hers = ada.listens(&sheet).await?;
    let stream = ben.listens(&sheet).await?;
    // who else is there is told by name
    let mut heard = String::new();
    while !heard.contains("\"name\":\"Ben\"") {
        heard += &String::from_utf8_lossy(&hers.chunk().await?.context("her stream ended")?);
    }
    let members = ada.does(Method::GET, &format!("/sheets/{sheet}/members"), None).await?;
    let his = members["members"].as_array().into_iter().flatten().find(|m| m["name"] == "Ben").cloned();
    let his = his.context("Ben is no member")?;
    let away = format!("/sheets/{sheet}/members/{}", his["id"].as_str().unwrap_or_default());
    ada.does(Method::DELETE, &away, None).await?;
    // the stream ends by itself
    stream.text().await?;
    Ok(())
}
