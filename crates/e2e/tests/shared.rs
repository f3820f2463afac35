//! What several servers and several people do to one database at once, and the limits that are promised.

use anyhow::{Context, Result};
use inky_e2e::steps::path_of;
use inky_e2e::{Database, Server};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};
use std::collections::BTreeSet;
use uuid::Uuid;

fn fresh() -> String {
    Uuid::new_v4().to_string()
}

fn request(base: u64, edit: Value) -> Value {
    json!({ "base": base, "request": fresh(), "gesture": null, "edits": [edit] })
}

fn step(base: u64) -> Value {
    json!({ "base": base, "request": fresh() })
}

fn renamed(name: &str) -> Value {
    json!({ "edit": "rename_sheet", "name": name })
}

fn revision(bench: &Value) -> Result<u64> {
    bench["revision"].as_u64().context("no revision")
}

#[tokio::test(flavor = "multi_thread")]
async fn two_servers_and_many_people_share_one_sheet() -> Result<()> {
    let database = Database::start()?;
    let (one, mut other) = (Server::start(&database, false)?, Server::start(&database, false)?);
    let id = one.new_sheet("Fair").await?;
    let edits = format!("/sheets/{id}/edits");

    // eight edits for the same revision: one is made, the rest are told of it
    let mut base = 1;
    for round in 0..6 {
        let asked = (0..8).map(|k| {
            let server = if k % 2 == 0 { &one } else { &other };
            server.call(Method::POST, &edits, Some(request(base, renamed(&format!("Fair {round}.{k}")))))
        });
        let answers = futures_util::future::try_join_all(asked).await?;
        let (made, stale): (Vec<_>, Vec<_>) = answers.into_iter().partition(|(status, _)| status.is_success());
        assert_eq!(made.len(), 1, "round {round}");
        let name = made[0].1["sheet"]["name"].clone();
        for (status, said) in &stale {
            assert_eq!(*status, StatusCode::CONFLICT, "{said}");
            assert_eq!((&said["bench"]["sheet"]["name"], revision(&said["bench"])?), (&name, base + 1));
        }
        base += 1;
        for server in [&one, &other] {
            assert_eq!(server.get(&format!("/sheets/{id}")).await?["sheet"]["name"], name);
        }
    }

    // one request that reaches both servers is made once
    let twice = request(base, renamed("Once"));
    let both = [one.call(Method::POST, &edits, Some(twice.clone())), other.call(Method::POST, &edits, Some(twice))];
    for (status, answer) in futures_util::future::try_join_all(both).await? {
        assert!(status.is_success() && revision(&answer)? == base + 1, "{status} {answer}");
    }
    base += 1;

    // what one server takes back the other brings again, one step at a time
    let undone = other.post(&format!("/sheets/{id}/undo"), step(base)).await?;
    assert!(undone["sheet"]["name"].as_str().is_some_and(|n| n.starts_with("Fair 5.")), "{}", undone["sheet"]["name"]);
    let redone = one.post(&format!("/sheets/{id}/redo"), step(base + 1)).await?;
    assert_eq!(redone["sheet"]["name"], "Once");

    // jobs are shared out, each of them done once, with what is asked twice answered from one
    let word = json!({ "edit": "add_lettering", "piece": fresh(), "form": fresh(), "fill": fresh(), "text": "FAIR", "font": "anton" });
    one.post(&edits, request(base + 2, word)).await?;
    let mut jobs = Vec::new();
    for ppi in [30.0, 40.0, 50.0, 60.0] {
        for server in [&one, &other] {
            let task = json!({ "task": "deliver", "kind": "png", "ppi": ppi });
            jobs.push(server.post(&format!("/sheets/{id}/jobs"), task).await?);
        }
    }
    let mut files = BTreeSet::new();
    for job in &jobs {
        let card = one.finished(job).await?;
        assert_eq!(card["state"], "done", "{card}");
        files.insert(card["outcome"]["hash"].as_str().context("no file")?.to_owned());
    }
    assert_eq!(files.len(), 4, "one file for each resolution");

    // the work of a server that is gone is taken over by the one that is left
    let job =
        other.post(&format!("/sheets/{id}/jobs"), json!({ "task": "deliver", "kind": "jpeg", "ppi": 150.0 })).await?;
    other.kill()?;
    assert_eq!(one.finished(&job).await?["state"], "done");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn sheets_are_copied_binned_and_brought_back() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start(&database, false)?;
    let id = server.new_sheet("Kites & <Lanterns> \u{202e}مهرجان").await?;
    let listed = async || -> Result<Vec<String>> {
        let list = server.get("/sheets").await?;
        Ok(list.as_array().into_iter().flatten().filter_map(|s| s["name"].as_str().map(str::to_owned)).collect())
    };
    assert_eq!(listed().await?, ["Kites & <Lanterns> \u{202e}مهرجان"], "any text is only text");

    let word = json!({ "edit": "add_lettering", "piece": fresh(), "form": fresh(), "fill": fresh(), "text": "KITE", "font": "anton" });
    server.post(&format!("/sheets/{id}/edits"), request(1, word)).await?;
    let copy = server.post(&format!("/sheets/{id}/copy"), json!({})).await?;
    let copied = server.get(&format!("/sheets/{}", copy["id"].as_str().unwrap_or(""))).await?;
    assert!(!path_of(&copied["scene"]["pieces"][0]).is_empty());
    assert!(copied["undo"].is_null(), "a copy has no past");

    // a change to the copy leaves the original alone
    let base = revision(&copied)?;
    server
        .post(&format!("/sheets/{}/edits", copy["id"].as_str().unwrap_or("")), request(base, renamed("Other")))
        .await?;
    assert_eq!(listed().await?.len(), 2);
    let (status, _) = server.call(Method::DELETE, &format!("/sheets/{id}"), None).await?;
    assert_eq!((status, listed().await?), (StatusCode::NO_CONTENT, vec!["Other".to_owned()]));
    let (status, said) =
        server.call(Method::POST, &format!("/sheets/{id}/edits"), Some(request(2, renamed("X")))).await?;
    assert_eq!(status, StatusCode::NOT_FOUND, "{said}");
    let (status, _) = server.call(Method::POST, &format!("/sheets/{id}/restore"), Some(json!({}))).await?;
    assert_eq!(status, StatusCode::NO_CONTENT);
    let back = server.get(&format!("/sheets/{id}")).await?;
    assert_eq!(
        (back["undo"].as_str(), listed().await?.len()),
        (Some("add lettering"), 2),
        "its past came back with it"
    );

    // both have a picture, and the picture is a PNG
    for sheet in [id.as_str(), copy["id"].as_str().unwrap_or("")] {
        let (status, headers, png) = server.bytes(&format!("/api/sheets/{sheet}/picture")).await?;
        assert!(status.is_success() && headers["content-type"] == "image/png");
        let picture = image::load_from_memory(&png)?;
        assert_eq!(picture.width().max(picture.height()), 640);
    }
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn limits_are_kept_to_with_a_sentence() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start(&database, false)?;
    for (name, width, height, ppi, said) in [
        ("", 100.0, 100.0, 100.0, "needs a name"),
        ("Fair", 5_001.0, 100.0, 100.0, "between 1 mm and 5 m"),
        ("Fair", 0.5, 100.0, 100.0, "between 1 mm and 5 m"),
        ("Fair", 5_000.0, 5_000.0, 300.0, "more than a gigapixel"),
        ("Fair", 100.0, 100.0, 2_401.0, "between 1 and 2400 ppi"),
        (&"N".repeat(201), 100.0, 100.0, 100.0, "up to 200 characters"),
    ] {
        let body = json!({ "name": name, "width": width, "height": height, "unit": "mm", "ppi": ppi });
        let (status, answer) = server.call(Method::POST, "/sheets", Some(body)).await?;
        let sentence = answer["sentence"].as_str().unwrap_or_default();
        assert!(status == StatusCode::UNPROCESSABLE_ENTITY && sentence.contains(said), "{status} {answer}");
    }
    assert_eq!(server.get("/sheets").await?.as_array().map(Vec::len), Some(0), "nothing was made");

    // what is no edit at all is refused as well, and nothing breaks
    let id = server.new_sheet("Fair").await?;
    let edits = format!("/sheets/{id}/edits");
    for wrong in [
        json!({ "edit": "fly_away" }),
        json!({ "edit": "rename_sheet" }),
        json!({ "edit": "rename_sheet", "name": 7 }),
        json!({ "edit": "move", "piece": "not an id", "what": "both", "by": {} }),
        json!({ "edit": "resize_sheet", "width": null, "height": 10, "unit": "mm", "ppi": 100 }),
    ] {
        let (status, answer) = server.call(Method::POST, &edits, Some(request(1, wrong.clone()))).await?;
        assert!(status.is_client_error() && answer["sentence"].is_string(), "{wrong}: {status} {answer}");
    }

    // the last five hundred steps can be taken back, those before them are final
    for k in 0..510 {
        let answer = server.post(&edits, request(1 + k, renamed(&format!("Fair {k}")))).await?;
        assert_eq!(revision(&answer)?, 2 + k);
    }
    let (mut base, mut steps) = (511, 0);
    let first = loop {
        let (status, answer) = server.call(Method::POST, &format!("/sheets/{id}/undo"), Some(step(base))).await?;
        anyhow::ensure!(status.is_success(), "{status} {answer}");
        (base, steps) = (base + 1, steps + 1);
        if answer["undo"].is_null() {
            break answer;
        }
        anyhow::ensure!(steps < 600, "there is no end to it");
    };
    assert!((498..=501).contains(&steps), "{steps} steps");
    assert!(first["sheet"]["name"].as_str().is_some_and(|n| n.starts_with("Fair ")), "{}", first["sheet"]["name"]);
    Ok(())
}
