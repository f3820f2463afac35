//! What people wait for while subjects are found and let out.

use super::{line, spread, timed};
use anyhow::{Context, Result, bail};
use inky_e2e::{Database, Server, root};
use serde_json::{Value, json};
use std::time::Instant;

/// Does something again and again for as long as two searches run, in photos of 12 megapixels.
async fn beside_two_jobs(server: &Server, sheet: &str, slide: impl AsyncFn(usize) -> Result<()>) -> Result<(f64, f64)> {
    let original = image::open(root().join("demo/photos/octopus-kite.jpg"))?.into_rgb8();
    let mut photos = Vec::new();
    for k in 0..2 {
        // of different sizes, so that they are different photos
        let large = image::imageops::resize(&original, 4240 + 8 * k, 2830, image::imageops::FilterType::Triangle);
        let mut bytes = std::io::Cursor::new(Vec::new());
        large.write_to(&mut bytes, image::ImageFormat::Jpeg)?;
        let (_, card) = server.upload("photos", "large.jpg", bytes.into_inner()).await?;
        photos.push(card["id"].clone());
    }
    let mut jobs = Vec::new();
    for photo in photos {
        let task = json!({ "task": "find_subject", "photo": photo });
        jobs.push(server.post(&format!("/sheets/{sheet}/jobs"), task).await?);
    }
    let mut times = Vec::new();
    loop {
        let mut states = Vec::new();
        for job in &jobs {
            states.push(server.get(&format!("/jobs/{}", job["id"].as_str().unwrap_or_default())).await?);
        }
        if let Some(failed) = states.iter().find(|s| s["state"] == "failed") {
            bail!("a search failed: {failed}");
        }
        // only while both of them run
        if states.iter().any(|s| s["state"] == "done") {
            return Ok(spread(times));
        }
        if states.iter().all(|s| s["state"] == "running") {
            for _ in 0..5 {
                let begun = Instant::now();
                // never the same again: that would come from memory
                slide(times.len()).await?;
                times.push(begun.elapsed());
            }
        }
    }
}

pub async fn measure(database: &Database) -> Result<()> {
    let server = Server::start(database, true)?;
    let sheets = server.get("/sheets").await?;
    let kites = sheets.as_array().into_iter().flatten().find(|s| s["name"] == "Kites over Ostrey");
    let id = kites.and_then(|s| s["id"].as_str()).context("the demo is missing")?;
    let bench = server.get(&format!("/sheets/{id}")).await?;
    let mut pieces = bench["sheet"]["pieces"].as_array().into_iter().flatten();
    let window = pieces.find(|p| !p["kind"]["breakout"]["let_out"][0].is_null()).context("nothing breaks out")?;
    let photo = |f: &&Value| f["paint"]["kind"] == "photo";
    let fill = window["kind"]["fills"].as_array().into_iter().flatten().find(photo).context("no photo")?;

    // the photo slid by a little: all parts are found anew
    let slide = async |round: usize| -> Result<()> {
        let mut placement = fill["paint"]["placement"].clone();
        placement["x"] = json!(placement["x"].as_f64().unwrap_or_default() + 0.1 * round as f64);
        let edit =
            json!({ "edit": "set_placement", "piece": window["id"], "fill": fill["id"], "placement": placement });
        let body = json!({ "base": bench["revision"], "edits": [edit] });
        server.post(&format!("/sheets/{id}/tentative"), body).await.map(drop)
    };
    slide(0).await?;
    let alone = timed(60, slide).await?;
    line("parts found anew while the photo slides, on loopback", alone, "p95 < 50");
    // elsewhere: what was found is kept
    let elsewhere = async |round: usize| slide(60 + round).await;
    let both = beside_two_jobs(&server, id, elsewhere).await?;
    line("the same beside two searches in photos of 12 megapixels", both, "");
    println!("{:<64} {:>9.2}", "as a share of the time without them", both.0 / alone.0);

    // one stroke more, at the working size
    let photo = fill["paint"]["photo"].as_str().context("no photo")?;
    let draft = |strokes: usize| {
        let stroke = |k: usize| {
            let (x, y) = (200.0 + 37.0 * k as f64, 200.0 + 20.0 * k as f64);
            json!({ "keep": false, "width": 40.0, "points": [[x, y], [x + 60.0, y]] })
        };
        json!({ "strokes": (0..strokes).map(stroke).collect::<Vec<_>>() })
    };
    let path = format!("/photos/{photo}/draft");
    server.post(&path, draft(0)).await?;
    let stroked = async |round: usize| server.post(&path, draft(round + 1)).await.map(drop);
    line("a stroke, until its matte is there, on loopback", timed(20, stroked).await?, "< 300");
    let brush = async |round: usize| {
        let mut hints = draft(20);
        let at = 300.0 + 30.0 * round as f64;
        let paint = |k: usize| json!({ "add": true, "inside": true, "width": 90.0, "hardness": 0.8, "points": [[at, 300.0 + 9.0 * k as f64, 1.0]] });
        hints["painted"] = (0..=round).map(paint).collect();
        server.post(&path, hints).await.map(drop)
    };
    line("a stroke of the matte brush, inside the subject only", timed(20, brush).await?, "< 300");
    Ok(())
}
