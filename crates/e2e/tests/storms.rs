//! Many requests at once, slow ones, ones that are given up, and a full disk: the server goes on.

use anyhow::{Context, Result, ensure};
use futures_util::future::try_join_all;
use image::codecs::jpeg::JpegEncoder;
use image::{Rgb, RgbImage};
use inky_e2e::adverse::slow_disk;
use inky_e2e::{Database, Server, SmallDisk, head};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};
use std::io::{Read, Write};
use std::net::TcpStream;
use std::time::Duration;
use uuid::Uuid;

/// Bytes that a server may have taken at most: the decoded photos of four turns, the files of four uploads, and the caches.
const MEMORY: u64 = 3 << 30;

/// A photo that is another one for every `seed`.
fn photo(width: u32, height: u32, seed: u64) -> Result<Vec<u8>> {
    let mut random = fastrand::Rng::with_seed(seed);
    let tint = [random.u8(..), random.u8(..)];
    let picture = RgbImage::from_fn(width, height, |x, y| Rgb([tint[0], tint[1], (x ^ y) as u8]));
    let mut file = Vec::new();
    JpegEncoder::new_with_quality(&mut file, 60).encode_image(&picture)?;
    Ok(file)
}

/// A photo of about so many bytes, which cannot be packed.
fn noise(bytes: u32, seed: u64) -> Result<Vec<u8>> {
    let mut random = fastrand::Rng::with_seed(seed);
    let side = (f64::from(bytes) / 3.0).sqrt() as u32;
    let picture = RgbImage::from_fn(side, side, |_, _| Rgb([random.u8(..), random.u8(..), random.u8(..)]));
    let mut file = Vec::new();
    picture.write_to(&mut std::io::Cursor::new(&mut file), image::ImageFormat::Png)?;
    Ok(file)
}

/// Names a sheet; the sentence where that is refused.
async fn rename(server: &Server, id: &str, name: &str) -> Result<(StatusCode, Value)> {
    let base = server.get(&format!("/sheets/{id}")).await?["revision"].clone();
    let edit = json!({ "base": base, "request": Uuid::new_v4(), "edits": [{ "edit": "rename_sheet", "name": name }] });
    server.call(Method::POST, &format!("/sheets/{id}/edits"), Some(edit)).await
}

#[tokio::test]
async fn uploads_at_once_wait_for_one_another_and_edits_for_none() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start(&database, false)?;
    let id = server.new_sheet("Busy").await?;
    let uploads = try_join_all((0..20).map(async |seed| {
        let (status, card) = server.upload("photos", "wide.jpg", photo(4_000, 3_000, seed)?).await?;
        ensure!(status.is_success(), "{status} {card}");
        Ok(card["id"].clone())
    }));
    let edits = async {
        for k in 0..10 {
            let (status, said) = rename(&server, &id, &format!("Busy {k}")).await?;
            ensure!(status.is_success(), "{status} {said}");
        }
        Ok::<_, anyhow::Error>(())
    };
    let (taken, edited) = tokio::join!(uploads, edits);
    edited?;
    let mut ids: Vec<String> = taken?.iter().map(ToString::to_string).collect();
    ids.sort();
    ids.dedup();
    ensure!(ids.len() == 20, "{} photos of 20", ids.len());
    let peak = server.peak_memory()?;
    ensure!(peak < MEMORY, "{peak} bytes");
    Ok(())
}

#[tokio::test]
async fn slow_uploads_keep_nobody_waiting() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start(&database, false)?;
    let id = server.new_sheet("Calm").await?;
    let port = server.port()?;
    let slow: Vec<TcpStream> = (0..200)
        .map(|_| {
            let mut line = TcpStream::connect(("127.0.0.1", port))?;
            let head = head("POST /api/photos?name=slow.jpg", port);
            write!(line, "{head}Content-Length: 60000000\r\n\r\nbegun")?;
            Ok(line)
        })
        .collect::<Result<_>>()?;
    let (status, said) = rename(&server, &id, "Calm as before").await?;
    ensure!(status.is_success(), "{status} {said}");
    let (status, card) = server.upload("photos", "wide.jpg", photo(900, 600, 1)?).await?;
    ensure!(status.is_success(), "{status} {card}");
    let peak = server.peak_memory()?;
    ensure!(peak < MEMORY / 4, "{peak} bytes");
    drop(slow);
    let (status, card) = server.upload("photos", "wide.jpg", photo(900, 600, 2)?).await?;
    ensure!(status.is_success(), "{status} {card}");
    Ok(())
}

/// The answer to 64 MB, for somebody who listens only once all of them are sent.
fn answer_at_the_end(port: u16, head: &str) -> Result<String> {
    let mut line = TcpStream::connect(("127.0.0.1", port))?;
    let length = 64 << 20;
    write!(line, "{head}Content-Length: {length}\r\nConnection: close\r\n\r\n")?;
    std::io::copy(&mut std::io::repeat(b' ').take(length), &mut line)?;
    let mut answer = String::new();
    line.read_to_string(&mut answer)?;
    Ok(answer)
}

#[tokio::test(flavor = "multi_thread")]
async fn a_refusal_reaches_those_who_are_still_sending() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start(&database, false)?;
    let port = server.port()?;
    for (sent, status) in [
        // too large, from elsewhere, and for an address that is none
        (head("POST /api/sheets", port) + "Content-Type: application/json\r\n", 422),
        (head("POST /api/photos?name=wide.jpg", 1), 403),
        (head("POST /api/nowhere", port), 404),
    ] {
        let answer = answer_at_the_end(port, &sent)?;
        ensure!(answer.starts_with(&format!("HTTP/1.1 {status}")) && answer.contains("sentence"), "{sent} {answer}");
    }
    Ok(())
}

#[tokio::test]
async fn jobs_and_requests_that_are_given_up_leave_room_for_others() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start(&database, false)?;
    let id = server.new_sheet("Given up").await?;
    let (status, card) = server.upload("photos", "wide.jpg", photo(3_000, 2_000, 1)?).await?;
    ensure!(status.is_success(), "{status} {card}");
    // forty searches, each of them another one, all cancelled
    let jobs = try_join_all((0..40_u32).map(async |k| {
        let within = json!({ "x": 10 + k, "y": 10, "width": 1_000, "height": 900 });
        let task = json!({ "task": "find_subject", "photo": card["id"], "within": within });
        let job = server.post(&format!("/sheets/{id}/jobs"), task).await?;
        server.post(&format!("/jobs/{}/cancel", job["id"].as_str().context("no job")?), json!({})).await?;
        Ok::<_, anyhow::Error>(job)
    }));
    for job in jobs.await? {
        let ended = server.finished(&job).await?;
        ensure!(["cancelled", "failed", "done"].contains(&ended["state"].as_str().unwrap_or_default()), "{ended}");
    }
    // requests that nobody waits for
    let port = server.port()?;
    let bench = format!("{}\r\n", head(&format!("GET /api/sheets/{id}"), port));
    for _ in 0..200 {
        TcpStream::connect(("127.0.0.1", port))?.write_all(bench.as_bytes())?;
    }
    let file = server.delivered(&id, json!({ "task": "deliver", "kind": "png", "ppi": 30.0, "bleed": false })).await?;
    ensure!(file.starts_with(b"\x89PNG"), "no PNG");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_slow_disk_delays_edits_and_loses_none() -> Result<()> {
    let work = slow_disk(Duration::from_secs(2)).await?;
    // five states of two seconds, of which one lets nothing through for eight
    ensure!(work.edits > 10 && work.longest > Duration::from_secs(4), "{work}");
    Ok(())
}

#[tokio::test]
async fn without_room_for_files_in_the_making_uploads_are_refused_alone() -> Result<()> {
    let Some(disk) = SmallDisk::of(8 << 20)? else {
        eprintln!("a small disk can be mounted by root alone: not tried");
        return Ok(());
    };
    let database = Database::start()?;
    let server = Server::start_under(&database, &[("TMPDIR", disk.path())])?;
    let id = server.new_sheet("Narrow").await?;
    for seed in 0..3 {
        let (status, said) = server.upload("photos", "noise.png", noise(20 << 20, seed)?).await?;
        ensure!(status == StatusCode::INSUFFICIENT_STORAGE && said["sentence"].is_string(), "{status} {said}");
        // what fits is taken: nothing of the refused ones is left behind
        let (status, card) = server.upload("photos", "noise.png", noise(5 << 20, 10 + seed)?).await?;
        ensure!(status.is_success(), "{status} {card}");
    }
    let (status, said) = rename(&server, &id, "Narrow as before").await?;
    ensure!(status.is_success(), "{status} {said}");
    Ok(())
}

#[tokio::test]
async fn a_full_disk_is_a_sentence_and_passes() -> Result<()> {
    let Some(disk) = SmallDisk::of(420 << 20)? else {
        eprintln!("a small disk can be mounted by root alone: not tried");
        return Ok(());
    };
    let database = Database::start_in(disk)?;
    // what is taken away later to make room
    let filler = database.folder().join("filler");
    std::io::copy(&mut std::io::repeat(1).take(100 << 20), &mut std::fs::File::create(&filler)?)?;
    let server = Server::start(&database, false)?;
    let id = server.new_sheet("Full").await?;
    let mut kept = Vec::new();
    let refused = loop {
        let (status, card) = server.upload("photos", "noise.png", noise(6 << 20, kept.len() as u64)?).await?;
        if !status.is_success() {
            break (status, card);
        }
        kept.push(card["id"].as_str().context("no photo")?.to_owned());
        ensure!(kept.len() < 100, "the disk is never full");
    };
    ensure!(refused.0 == StatusCode::INSUFFICIENT_STORAGE, "{refused:?}");
    ensure!(refused.1["sentence"].as_str().is_some_and(|s| s.contains("no room left on the disk")), "{refused:?}");
    // edits go on for a while, and then are refused likewise
    let mut named = 0;
    let crowd = database.folder().join("crowd");
    let mut writing = std::fs::File::create(&crowd)?;
    let refused = loop {
        let (status, said) = rename(&server, &id, &format!("Full {named}")).await?;
        if !status.is_success() {
            break (status, said);
        }
        named += 1;
        std::io::copy(&mut std::io::repeat(1).take(4 << 20), &mut writing)?;
        ensure!(named < 100, "edits are never refused");
    };
    ensure!(named > 5 && refused.0 == StatusCode::INSUFFICIENT_STORAGE, "{named} {refused:?}");
    // what was kept before can be read
    ensure!(server.get(&format!("/sheets/{id}")).await?["sheet"]["name"] == format!("Full {}", named - 1));
    // with room again, everything goes on, without a new start
    std::fs::remove_file(&filler)?;
    std::fs::remove_file(&crowd)?;
    let (status, card) = server.upload("photos", "noise.png", noise(1 << 20, 1_000)?).await?;
    ensure!(status.is_success(), "{status} {card}");
    let (status, said) = rename(&server, &id, "Room again").await?;
    ensure!(status.is_success(), "{status} {said}");
    ensure!(server.get(&format!("/sheets/{id}")).await?["sheet"]["name"] == "Room again");
    for photo in kept {
        let (status, _) = server.call(Method::GET, &format!("/photos/{photo}/inks"), None).await?;
        ensure!(status.is_success(), "{photo}: {status}");
    }
    Ok(())
}
