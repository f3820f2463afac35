//! Files and requests of strangers: each gets a sentence, in bounded time and memory, and the server goes on.

use anyhow::{Context, Result, ensure};
use base64::Engine as _;
use inky_e2e::{Database, Server, head, root};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};
use std::collections::BTreeMap;
use std::io::{Read, Write};
use std::time::{Duration, Instant};
use uuid::Uuid;

/// Bytes that a server may have taken at most.
const MEMORY: u64 = 3 << 29;
/// As long as a file may take that is given up, on a slow machine.
const LONG: Duration = Duration::from_secs(120);

/// A drawing that has to be refused.
async fn refused(server: &Server, name: &str, svg: String) -> Result<String> {
    let begun = Instant::now();
    let (status, said) = server.upload("drawings", name, svg.into_bytes()).await?;
    ensure!(status == StatusCode::UNPROCESSABLE_ENTITY, "{name}: {status} {said}");
    ensure!(begun.elapsed() < LONG, "{name} took {:?}", begun.elapsed());
    let peak = server.peak_memory()?;
    ensure!(peak < MEMORY, "{name} took {peak} bytes");
    Ok(said["sentence"].as_str().context("no sentence")?.to_owned())
}

fn nested(open: &str, close: &str, times: usize, inner: &str) -> String {
    let svg = "<svg xmlns='http://www.w3.org/2000/svg' width='100' height='100'>";
    format!("{svg}{}{inner}{}</svg>", open.repeat(times), close.repeat(times))
}

#[tokio::test]
async fn drawings_that_unfold_without_end_are_given_up() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start(&database, false)?;
    let shape = "<rect width='10' height='10'/>";
    // many texts in one another, around a long one
    let text = nested("<text>", "</text>", 3_000, &"kite ".repeat(200_000));
    refused(&server, "texts.svg", text).await?;
    // groups with identifiers, each of which is looked through
    refused(&server, "groups.svg", nested("<g id='g'>", "</g>", 100_000, shape)).await?;
    // a clip path of many nodes, united anew for each of many groups
    let mut path = String::from("M0 0");
    for k in 0..60_000_u64 {
        path += &format!("L{} {}", k * 7919 % 1000, k * 104_729 % 1000);
    }
    let groups = format!("<g clip-path='url(#c)'>{shape}</g>").repeat(60_000);
    let clips = nested("", "", 1, &format!("<clipPath id='c'><path d='{path}Z'/></clipPath>{groups}"));
    refused(&server, "clips.svg", clips).await?;
    // things that are drawn many times over: at every node, in every dash, twice within twice within twice
    let path: String = (0..40_000).map(|k| format!("L{} {}", k % 300, k * 7 % 200)).collect();
    let marker =
        format!("<marker id='m' markerWidth='9' markerHeight='9'><path d='M0 0{}Z'/></marker>", &path[..9_000]);
    refused(&server, "markers.svg", nested("", "", 1, &format!("{marker}<path marker-mid='url(#m)' d='M0 0{path}'/>")))
        .await?;
    let dashes = "<path fill='none' stroke='#000' stroke-dasharray='.001' d='M0 0H90V90H0V10H80V80'/>".repeat(50);
    refused(&server, "dashes.svg", nested("", "", 1, &dashes)).await?;
    let uses = |k: u32| format!("<g id='u{}'><use href='#u{k}'/><use href='#u{k}'/></g>", k + 1);
    let uses: String = std::iter::once(format!("<g id='u0'>{shape}</g>")).chain((0..40).map(uses)).collect();
    refused(&server, "uses.svg", nested("", "", 1, &uses)).await?;
    // rules for all elements, each of which is compared with every one
    let rules: String = (0..30_000).map(|k| format!("g g.a{k} rect.b{k} {{ fill: #111 }}")).collect();
    let styled = format!(
        "<style>{rules}</style>{}",
        "<g class='a1'><g><rect class='b2' width='1' height='1'/></g></g>".repeat(30_000)
    );
    refused(&server, "rules.svg", nested("", "", 1, &styled)).await?;
    // the server answers as before
    let (status, card) = server.upload("drawings", "small.svg", nested("", "", 1, shape).into_bytes()).await?;
    ensure!(status.is_success() && card["pieces"].as_array().map(Vec::len) == Some(1), "{status} {card}");
    Ok(())
}

#[tokio::test]
async fn fonts_whose_letters_never_end_are_given_up() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start(&database, false)?;
    for name in ["nested-subroutines.otf", "many-subroutines.otf"] {
        let file = std::fs::read(root().join("crates/core/tests/files").join(name))?;
        let (begun, (status, said)) = (Instant::now(), server.upload("fonts", name, file).await?);
        ensure!(status == StatusCode::UNPROCESSABLE_ENTITY && said["sentence"].is_string(), "{name}: {status} {said}");
        ensure!(begun.elapsed() < LONG, "{name} took {:?}", begun.elapsed());
    }
    let peak = server.peak_memory()?;
    ensure!(peak < MEMORY, "{peak} bytes");
    Ok(())
}

/// An entry of a TIFF file: tag, kind (3: two bytes, 4: four), count, value (TIFF 6.0, section 2).
type Entry = (u16, u16, u32, u32);

/// The header of a TIFF file of a few entries.
fn tiff(entries: &[Entry]) -> Vec<u8> {
    let mut file = b"II*\0\x08\0\0\0".to_vec();
    file.extend((entries.len() as u16).to_le_bytes());
    for (tag, kind, count, value) in entries {
        file.extend([tag.to_le_bytes(), kind.to_le_bytes()].concat());
        file.extend([count.to_le_bytes(), value.to_le_bytes()].concat());
    }
    file.extend([0; 64]);
    file
}

#[tokio::test]
async fn photos_that_say_more_than_they_hold_are_refused() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start(&database, false)?;
    let plain = |side: u32| -> Vec<Entry> {
        vec![(256, 4, 1, side), (257, 4, 1, side), (258, 3, 1, 8), (259, 3, 1, 1), (262, 3, 1, 1)]
    };
    let with = |side: u32, more: &[Entry]| tiff(&[plain(side), more.to_vec()].concat());
    // WebP with a canvas of 2^24 pixels a side, and a lossless picture of 2^14
    let mut canvas = b"RIFF\x20\0\0\0WEBPVP8X\x0a\0\0\0\0\0\0\0\xff\xff\xff\xff\xff\xff".to_vec();
    canvas.extend([0; 16]);
    let mut lossless = b"RIFF\x20\0\0\0WEBPVP8L\x14\0\0\0\x2f\xff\xff\xff\x0f".to_vec();
    lossless.extend([0x5a; 16]);
    for (name, file) in [
        ("a side without end", with(u32::MAX, &[(273, 4, 1, 8), (278, 4, 1, 1), (279, 4, 1, 64)])),
        ("strips without end", with(9_000, &[(273, 4, u32::MAX, 8), (278, 4, 1, 1), (279, 4, u32::MAX, 8)])),
        ("a strip without end", with(9_000, &[(273, 4, 1, 8), (278, 4, 1, 9_000), (279, 4, 1, u32::MAX)])),
        ("tiles without end", with(9_000, &[(322, 4, 1, 16), (323, 4, 1, 1 << 30), (324, 4, 9, 8), (325, 4, 9, 8)])),
        ("samples without end", with(9_000, &[(273, 4, 1, 8), (277, 3, 1, 65_535), (278, 4, 1, 9), (279, 4, 1, 9)])),
        ("directories in a ring", [&tiff(&plain(90))[..70], &8_u32.to_le_bytes()].concat()),
        ("a canvas", canvas),
        ("a lossless picture", lossless),
    ] {
        let (begun, (status, said)) = (Instant::now(), server.upload("photos", "photo", file).await?);
        ensure!(status == StatusCode::UNPROCESSABLE_ENTITY && said["sentence"].is_string(), "{name}: {status} {said}");
        ensure!(begun.elapsed() < LONG, "{name} took {:?}", begun.elapsed());
    }
    let peak = server.peak_memory()?;
    ensure!(peak < MEMORY, "{peak} bytes");
    Ok(())
}

/// A PNG of one bit a pixel, which is small however many pixels it has.
fn flat(side: u32) -> Result<Vec<u8>> {
    let mut file = Vec::new();
    let mut encoder = png::Encoder::new(&mut file, side, side);
    encoder.set_color(png::ColorType::Grayscale);
    encoder.set_depth(png::BitDepth::One);
    let row = side.div_ceil(8) as usize;
    encoder.write_header()?.write_image_data(&vec![0; row * side as usize])?;
    Ok(file)
}

#[tokio::test]
async fn sheet_files_that_unfold_without_end_are_refused() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start(&database, false)?;
    let id = server.new_sheet("Plain").await?;
    let sheet = server.get(&format!("/sheets/{id}")).await?["sheet"].clone();
    let data = json!({ "data": base64::engine::general_purpose::STANDARD.encode(flat(10_000)?) });
    let bring = async |count: usize| -> Result<(StatusCode, Value)> {
        let mut sheet = sheet.clone();
        let names = || (0..count).map(|k| format!("p{k}"));
        let facts: BTreeMap<_, _> = names().map(|n| (n, json!({ "name": "flat", "width": 1, "height": 1 }))).collect();
        let photos: BTreeMap<_, _> = names().map(|n| (n, data.clone())).collect();
        sheet["photos"] = json!(facts);
        let file = json!({ "format": "inky-window-sheet", "version": 1, "sheet": sheet, "photos": photos });
        server.call(Method::POST, "/sheets/import", Some(file)).await
    };
    let (status, said) = bring(40).await?;
    ensure!(status == StatusCode::UNPROCESSABLE_ENTITY, "{status} {said}");
    ensure!(said["sentence"].as_str().is_some_and(|s| s.contains("two gigapixels")), "{said}");
    // as many as a file may have are taken one after the other
    let (status, said) = bring(3).await?;
    ensure!(status.is_success(), "{status} {said}");
    let peak = server.peak_memory()?;
    ensure!(peak < 2 * MEMORY, "{peak} bytes");
    Ok(())
}

#[tokio::test]
async fn requests_may_be_as_large_as_the_limits_that_are_promised() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start(&database, false)?;
    let id = server.new_sheet("Long").await?;
    // a gear of many teeth, with handles that bend its sides a little
    let node = |k: u32| {
        let (turn, reach) = (f64::from(k) / 19_000.0 * std::f64::consts::TAU, 100.0 + f64::from(k % 2));
        let at = |turn: f64| [reach * turn.cos(), reach * turn.sin()];
        let ([x, y], [bx, by], [ax, ay]) = (at(turn), at(turn - 1e-5), at(turn + 1e-5));
        json!({ "x": x, "y": y, "before": [bx - x, by - y], "after": [ax - x, ay - y], "smooth": false })
    };
    let nodes: Vec<Value> = (0..19_000).map(node).collect();
    let form = json!({ "id": Uuid::new_v4(), "shape": { "kind": "contour", "subpaths": [{ "nodes": nodes, "closed": true }] },
        "pose": { "x": 0.0, "y": 0.0, "wide": 1.0, "turn": 0.0 }, "join": "add" });
    let edit = json!({ "edit": "add_window", "piece": Uuid::new_v4(), "form": form, "fill": Uuid::new_v4() });
    let body = json!({ "base": 1, "request": Uuid::new_v4(), "gesture": null, "edits": [edit] });
    let (status, said) = server.call(Method::POST, &format!("/sheets/{id}/edits"), Some(body)).await?;
    ensure!(status.is_success(), "{status} {}", said["sentence"]);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_server_ends_though_somebody_sends_and_somebody_listens() -> Result<()> {
    let database = Database::start()?;
    let mut server = Server::start(&database, false)?;
    let id = server.new_sheet("Open").await?;
    let port = server.port()?;
    let connect = || std::net::TcpStream::connect(("127.0.0.1", port));
    // an upload that never ends
    let mut slow = connect()?;
    write!(slow, "{}Content-Length: 1000000\r\n\r\nhalf a photo", head("POST /api/photos?name=slow.jpg", port))?;
    // a tab that waits for news, and has heard the first of them
    let mut listening = connect()?;
    write!(listening, "{}\r\n", head(&format!("GET /api/sheets/{id}/events?tab={}", Uuid::new_v4()), port))?;
    let mut heard = String::new();
    while !heard.contains("\"revision\":1") {
        let mut some = [0; 512];
        let count = listening.read(&mut some)?;
        ensure!(count > 0, "the stream ended: {heard}");
        heard += &String::from_utf8_lossy(&some[..count]);
    }
    let begun = Instant::now();
    tokio::task::block_in_place(|| server.end())?;
    ensure!(begun.elapsed() < Duration::from_secs(10), "it took {:?}", begun.elapsed());
    Ok(())
}

#[tokio::test]
async fn numbers_and_names_are_kept_whole_or_refused() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start(&database, false)?;
    let id = server.new_sheet("Sound").await?;
    let mut base = 1;
    let piece = Uuid::new_v4();
    let add = |text: &str| {
        let ids = [Uuid::new_v4(), Uuid::new_v4()];
        json!({ "edit": "add_lettering", "piece": piece, "form": ids[0], "fill": ids[1], "text": text, "font": "anton" })
    };
    let mut edits = vec![add("LAMP").to_string()];
    for number in
        ["1e400", "-1e400", "1e308", "-1e308", "1e-320", "-0", "1e15", "NaN", "null", "123456789012345678901234567890"]
    {
        edits.push(format!(r#"{{"edit":"resize_sheet","width":{number},"height":210,"unit":"mm","ppi":100}}"#));
        let by = format!(r#"{{"a":{number},"b":0,"dx":{number},"dy":0}}"#);
        edits.push(format!(r#"{{"edit":"move","piece":"{piece}","what":"both","by":{by}}}"#));
    }
    for name in ["🪁".repeat(200), "🪁".repeat(201), "a".repeat(100_000), "\0\u{202e}\u{feff}".into(), String::new()]
    {
        edits.push(json!({ "edit": "rename_sheet", "name": name }).to_string());
        edits.push(json!({ "edit": "name_piece", "piece": piece, "name": name }).to_string());
        let other = add(&name).to_string().replace(&piece.to_string(), &Uuid::new_v4().to_string());
        edits.push(other);
    }
    let mut taken = 0;
    for edit in edits {
        let request = Uuid::new_v4();
        let asked = format!(r#"{{"base":{base},"request":"{request}","gesture":null,"edits":[{edit}]}}"#);
        let (status, said) = server.post_text(&format!("/sheets/{id}/edits"), asked).await?;
        let shown: String = edit.chars().take(200).collect();
        if status.is_success() {
            base = said["revision"].as_u64().context("no revision")?;
            taken += 1;
        } else {
            ensure!(status.is_client_error() && said["sentence"].is_string(), "{shown}: {status} {said}");
        }
        let seen = server.get(&format!("/sheets/{id}")).await?;
        ensure!(seen["revision"] == base, "{shown}: {}", seen["revision"]);
    }
    ensure!(taken >= 5, "{taken} were taken");
    Ok(())
}
