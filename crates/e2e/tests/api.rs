//! The server against a real database: edits, undo, jobs, and what happens when something breaks.

use anyhow::{Context, Result};
use inky_e2e::{Database, Server, head, root};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};
use std::io::{Read, Write};
use uuid::Uuid;

fn fresh() -> String {
    Uuid::new_v4().to_string()
}

/// A request that makes an edit at revision `base`.
fn edit(base: &Value, edit: Value) -> Value {
    json!({ "base": base, "request": fresh(), "gesture": null, "edits": [edit] })
}

fn step(base: &Value) -> Value {
    json!({ "base": base, "request": fresh() })
}

fn word(piece: &str, text: &str) -> Value {
    json!({ "edit": "add_lettering", "piece": piece, "form": fresh(), "fill": fresh(), "text": text, "font": "anton" })
}

#[tokio::test]
async fn edits_are_kept_undone_and_redone() -> Result<()> {
    let database = Database::start()?;
    let mut server = Server::start(&database, false)?;
    let id = server.new_sheet("Fair").await?;
    let edits = format!("/sheets/{id}/edits");
    let piece = fresh();

    // one gesture, typed letter by letter, is one step
    let gesture = fresh();
    let mut add = edit(&json!(1), word(&piece, "K"));
    add["gesture"] = json!(gesture);
    let bench = server.keep(&id, "edits", add).await?;
    let form = bench["sheet"]["pieces"][0]["kind"]["opening"]["forms"][0].clone();
    let mut lettering = form["shape"].clone();
    lettering["text"] = json!("KI");
    let mut typed = edit(
        &bench["revision"],
        json!({ "edit": "set_lettering", "piece": piece, "form": form["id"], "lettering": lettering, "fit": true }),
    );
    typed["gesture"] = json!(gesture);
    let bench = server.keep(&id, "edits", typed.clone()).await?;
    assert_eq!((bench["revision"].as_u64(), bench["undo"].as_str()), (Some(3), Some("add lettering")));

    // the same request again, as after a lost answer, changes nothing, and is answered as it was
    let again = server.post(&edits, typed).await?;
    assert_eq!((&again["base"], &again["revision"]), (&json!(2), &json!(3)));
    assert_eq!(again["pieces"][0], bench["sheet"]["pieces"][0]);
    assert_eq!(again["views"][0]["outline"], bench["scene"]["pieces"][0]["outline"]);
    // an edit for an older sheet that changes the same is told what the newer one is
    let mut older = lettering.clone();
    older["text"] = json!("KA");
    let again = json!({ "edit": "set_lettering", "piece": piece, "form": form["id"], "lettering": older, "fit": true });
    let (status, stale) = server.call(Method::POST, &edits, Some(edit(&json!(2), again))).await?;
    assert_eq!((status, stale["bench"]["revision"].as_u64()), (StatusCode::CONFLICT, Some(3)));
    assert!(stale["sentence"].as_str().is_some_and(|s| s.contains("“KI”") && s.contains("the opening")), "{stale}");
    // a refused edit says why and changes nothing
    let (status, refused) = server.call(Method::POST, &edits, Some(edit(&json!(3), word(&fresh(), " ")))).await?;
    assert_eq!(
        (status, refused["sentence"].as_str()),
        (StatusCode::UNPROCESSABLE_ENTITY, Some("The word is empty. Type at least one letter."))
    );

    let undone = server.post(&format!("/sheets/{id}/undo"), step(&json!(3))).await?;
    assert_eq!((&undone["order"], &undone["redo"]), (&json!([]), &json!("add lettering")));

    // a server and a database that are killed lose nothing, the way back and forth included
    server.kill()?;
    database.kill()?;
    database.again()?;
    let server = Server::start(&database, false)?;
    let redone = server.keep(&id, "redo", step(&undone["revision"])).await?;
    let text = &redone["sheet"]["pieces"][0]["kind"]["opening"]["forms"][0]["shape"]["text"];
    assert_eq!((text.as_str(), redone["redo"].as_str()), (Some("KI"), None));

    // tried edits leave no trace
    let by = json!({ "a": 1.0, "b": 0.0, "dx": 30.0, "dy": 0.0 });
    let tried =
        json!({ "base": redone["revision"], "edits": [{ "edit": "move", "piece": piece, "what": "both", "by": by }] });
    let tried = server.post(&format!("/sheets/{id}/tentative"), tried).await?;
    let left = |view: &Value| view["bounds"][0].as_f64().unwrap_or_default();
    assert!((left(&tried["views"][0]) - left(&redone["scene"]["pieces"][0]) - 30.0).abs() < 0.01);
    assert_eq!(server.get(&format!("/sheets/{id}/news")).await?["revision"], redone["revision"]);
    Ok(())
}

#[tokio::test]
async fn photos_subjects_and_files() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start(&database, false)?;
    let id = server.new_sheet("Kites").await?;
    let photo = std::fs::read(root().join("demo/photos/octopus-kite.jpg"))?;

    let (status, said) = server.upload("photos", "notes.txt", b"no picture at all".to_vec()).await?;
    assert_eq!(
        (status, said["sentence"].as_str().map(|s| s.contains("no picture"))),
        (StatusCode::UNPROCESSABLE_ENTITY, Some(true))
    );
    let (status, said) = server.upload("photos", "cut.jpg", photo[..photo.len() / 2].to_vec()).await?;
    assert_eq!(
        (status, said["sentence"].as_str().map(|s| s.contains("ends too early"))),
        (StatusCode::UNPROCESSABLE_ENTITY, Some(true))
    );

    // an upload that is cut off in the middle leaves nothing behind
    let mut line = std::net::TcpStream::connect(("127.0.0.1", server.port()?))?;
    let head = head("POST /api/photos?name=half.jpg", server.port()?);
    write!(line, "{head}Content-Length: {}\r\n\r\n", photo.len())?;
    line.write_all(&photo[..photo.len() / 2])?;
    line.shutdown(std::net::Shutdown::Write)?;
    let mut answer = String::new();
    let _ = line.read_to_string(&mut answer);
    assert!(!answer.starts_with("HTTP/1.1 200"), "{answer}");

    let (status, card) = server.upload("photos", "octopus%20kite.jpg", photo).await?;
    assert_eq!((status, card["photo"]["name"].as_str()), (StatusCode::OK, Some("octopus kite")));
    let photo = card["id"].clone();

    // a box that misses the photo
    let jobs = format!("/sheets/{id}/jobs");
    let find = |x: f64, y: f64, w: f64, h: f64| json!({ "task": "find_subject", "photo": photo, "within": { "x": x, "y": y, "width": w, "height": h } });
    let missed = server.finished(&server.post(&jobs, find(5000.0, 0.0, 50.0, 50.0)).await?).await?;
    assert_eq!(missed["state"], "failed");
    assert!(missed["outcome"]["sentence"].as_str().is_some_and(|s| s.contains("outside of the photo")), "{missed}");
    // a search that is cancelled
    let begun = server.post(&jobs, find(60.0, 160.0, 2680.0, 1700.0)).await?;
    server.call(Method::POST, &format!("/jobs/{}/cancel", begun["id"].as_str().unwrap_or_default()), None).await?;
    assert_eq!(server.finished(&begun).await?["state"], "cancelled");
    // a search that ends well
    let found = server.finished(&server.post(&jobs, find(60.0, 160.0, 2680.0, 1700.0)).await?).await?;
    let subject = found["outcome"]["subject"].clone();
    assert!(subject.is_string(), "{found}");

    let (piece, fill) = (fresh(), fresh());
    let edits = [
        word(&piece, "KITE"),
        json!({ "edit": "fill_with_photo", "piece": piece, "fill": fill, "photo": photo }),
        json!({ "edit": "set_subject", "photo": photo, "subject": { "key": 0, "name": "Kite", "matte": subject } }),
    ];
    let mut bench = server.get(&format!("/sheets/{id}")).await?;
    for change in edits {
        bench = server.keep(&id, "edits", edit(&bench["revision"], change)).await?;
    }
    let overhangs = bench["scene"]["pieces"][0]["overhangs"].clone();
    assert!(overhangs.as_array().is_some_and(|o| o.len() > 1), "an octopus has more than one arm: {overhangs}");
    let let_out = json!({ "edit": "let_out", "piece": piece, "anchor": overhangs[0]["anchor"] });
    bench = server.keep(&id, "edits", edit(&bench["revision"], let_out)).await?;
    let out = bench["scene"]["pieces"][0]["overhangs"].as_array().into_iter().flatten();
    assert_eq!(out.filter(|o| o["let_out_by"].as_array().is_some_and(|by| !by.is_empty())).count(), 1);

    // every kind of file, at the sheet's size
    for (kind, ppi) in [("png", 100.0), ("jpeg", 50.0), ("svg", 100.0), ("sheet", 100.0)] {
        let job = server.post(&jobs, json!({ "task": "deliver", "kind": kind, "ppi": ppi })).await?;
        let card = server.finished(&job).await?;
        assert_eq!(card["state"], "done", "{card}");
        let (_, headers, bytes) =
            server.bytes(&format!("/api/jobs/{}/file", job["id"].as_str().unwrap_or_default())).await?;
        assert!(headers["content-disposition"].to_str()?.starts_with("attachment; filename*=UTF-8''Kites."));
        match kind {
            "png" => {
                let reader = png::Decoder::new(std::io::Cursor::new(&bytes)).read_info()?;
                let info = reader.info();
                assert_eq!((info.width, info.height), (1654, 1169));
                let per_metre = info.pixel_dims.map(|d| (d.xppu, d.yppu, d.unit));
                assert_eq!(per_metre, Some((3937, 3937, png::Unit::Meter)));
                // the profile's date is no hour of delivery: one sheet makes one file, whenever it is asked for
                let date = info.icc_profile.as_deref().and_then(|p| p.get(24..36)).context("no profile")?;
                assert_eq!(date, [7, 234, 0, 1, 0, 1, 0, 0, 0, 0, 0, 0]);
            }
            "jpeg" => {
                // JFIF: unit 1 (an inch), 50 across and down
                assert_eq!(&bytes[6..18], b"JFIF\0\x01\x02\x01\0\x32\0\x32");
                assert!(bytes.windows(11).any(|w| w == b"ICC_PROFILE"));
                assert_eq!(image::load_from_memory(&bytes)?.width(), 827);
            }
            "svg" => {
                let text = String::from_utf8(bytes)?;
                assert!(
                    text.contains("width=\"420mm\"")
                        && text.contains("data:image/jpeg;base64,")
                        && !text.contains("/api/")
                );
            }
            _ => {
                let file: Value = serde_json::from_slice(&bytes)?;
                let made = server.post("/sheets/import", file).await?;
                let again = server.get(&format!("/sheets/{}", made["id"].as_str().unwrap_or_default())).await?;
                assert_eq!(again["scene"], bench["scene"], "a sheet file brings back the very same picture");
            }
        }
    }
    Ok(())
}

#[tokio::test]
async fn only_the_application_itself_may_ask() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start(&database, false)?;
    let foreign = reqwest::Client::new()
        .post(format!("{}/api/sheets", server.address))
        .header("origin", "http://elsewhere.example");
    assert_eq!(foreign.json(&json!({})).send().await?.status(), StatusCode::FORBIDDEN);
    let (status, headers, page) = server.bytes("/").await?;
    assert_eq!(status, StatusCode::OK);
    assert!(headers["content-security-policy"].to_str()?.contains("default-src 'none'"));
    assert!(String::from_utf8(page)?.contains("<div id=\"root\">"));
    let (status, said) = server.call(Method::GET, "/nothing", None).await?;
    assert_eq!((status, said["sentence"].is_string()), (StatusCode::NOT_FOUND, true));
    Ok(())
}

#[tokio::test]
async fn fonts_and_drawings_travel_with_the_sheet() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start(&database, false)?;
    let id = server.new_sheet("Fair").await?;
    let edits = format!("/sheets/{id}/edits");

    // a font of one's own: the file of a bundled one, which has another hash than its short name
    let file = std::fs::read(root().join("demo/fonts/anton.ttf"))?;
    let (status, font) = server.upload("fonts", "My%20Anton.ttf", file.clone()).await?;
    assert_eq!((status, font["own"].as_bool()), (StatusCode::OK, Some(true)), "{font}");
    let listed = server.get("/fonts").await?;
    assert!(listed.as_array().into_iter().flatten().any(|f| f["id"] == font["id"] && f["features"].is_array()));
    let (status, _, bytes) = server.bytes(&format!("/api/fonts/{}", font["id"].as_str().unwrap_or(""))).await?;
    assert_eq!((status, bytes.len()), (StatusCode::OK, file.len()));
    // packed as WOFF2, as the interface's own type is
    let packed = root().join("web/node_modules/@fontsource-variable/fraunces/files/fraunces-latin-opsz-normal.woff2");
    let (status, woff) = server.upload("fonts", "own.woff2", std::fs::read(packed)?).await?;
    assert!(status == StatusCode::OK && woff["name"].as_str().is_some_and(|n| n.contains("Fraunces")), "{woff}");
    let (status, said) = server.upload("fonts", "x.ttf", b"no font".to_vec()).await?;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(said["sentence"].as_str().is_some_and(|s| s.contains("not a font that can be read")), "{said}");
    let mut add = word(&fresh(), "KITE");
    add["font"] = font["id"].clone();
    let bench = server.keep(&id, "edits", edit(&json!(1), add)).await?;
    assert_eq!(bench["sheet"]["fonts"].as_object().map_or(0, |f| f.len()), 1);

    // a drawing, and what is refused
    let print = std::fs::read(root().join("demo/drawings/lantern-print.svg"))?;
    let (status, drawing) = server.upload("drawings", "Lantern%20print.svg", print).await?;
    assert_eq!((status, drawing["name"].as_str()), (StatusCode::OK, Some("Lantern print")));
    assert!(drawing["pieces"].as_array().is_some_and(|p| p.len() > 200));
    let bomb = format!("<svg xmlns='http://www.w3.org/2000/svg'>{}</svg>", "<path d='M0 0h1v1z'/>".repeat(300_000));
    for (svg, said) in [
        ("<svg xmlns='http://www.w3.org/2000/svg'><g id='a'><use href='#a'/></g></svg>", "refers to itself"),
        ("<svg xmlns='http://www.w3.org/2000/svg'><path d='M0 0H9e7V9e7Z'/></svg>", "numbers"),
        (bomb.as_str(), "200,000 nodes"),
    ] {
        let (status, answer) = server.upload("drawings", "x.svg", svg.as_bytes().to_vec()).await?;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{said}");
        assert!(answer["sentence"].as_str().is_some_and(|s| s.contains(said)), "{answer}");
    }
    let pose = json!({ "x": 200, "y": 150, "turn": 0 });
    let shape = json!({ "kind": "drawing", "drawing": drawing["id"], "specks": 1.0 });
    let form = json!({ "id": fresh(), "join": "add", "off": false, "pose": pose, "shape": shape });
    let piece = fresh();
    let add = json!({ "edit": "add_window", "piece": piece, "form": form, "fill": fresh() });
    let bench = server.keep(&id, "edits", edit(&bench["revision"], add)).await?;
    let outline = bench["scene"]["pieces"][1]["outline"].clone();

    // 10,000 letters and a stroke of 10,000 places: a sentence each, nothing changed
    let mut long = word(&fresh(), &"A".repeat(10_001));
    long["font"] = json!("anton");
    let (status, said) = server.call(Method::POST, &edits, Some(edit(&bench["revision"], long))).await?;
    assert!(status == StatusCode::UNPROCESSABLE_ENTITY && said.to_string().contains("10000 characters"), "{said}");
    let points: Vec<Value> = (0..10_000).map(|k| json!([f64::from(k) / 100.0, 5.0, 1.0])).collect();
    let stroke = json!({ "points": points, "size": 5.0, "hardness": 1.0, "erase": false });
    let shape = json!({ "kind": "brush", "strokes": [stroke] });
    let form = json!({ "id": fresh(), "join": "add", "off": false, "pose": pose, "shape": shape });
    let paint = json!({ "edit": "opening", "piece": piece, "change": "add_form", "form": form });
    let (status, said) = server.call(Method::POST, &edits, Some(edit(&bench["revision"], paint))).await?;
    assert!(status == StatusCode::UNPROCESSABLE_ENTITY && said.to_string().contains("5000 places"), "{said}");

    // the sheet file holds both, and another sheet is made of it that looks the same
    let job =
        server.post(&format!("/sheets/{id}/jobs"), json!({ "task": "deliver", "kind": "sheet", "ppi": 96.0 })).await?;
    assert_eq!(server.finished(&job).await?["state"], "done");
    let (_, _, file) = server.bytes(&format!("/api/jobs/{}/file", job["id"].as_str().unwrap_or(""))).await?;
    let made = server.post("/sheets/import", serde_json::from_slice(&file)?).await?;
    let again = server.get(&format!("/sheets/{}", made["id"].as_str().unwrap_or(""))).await?;
    assert_eq!(again["scene"]["pieces"][1]["outline"], outline);
    assert_eq!(again["sheet"]["fonts"], bench["sheet"]["fonts"]);
    Ok(())
}
