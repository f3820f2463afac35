//! How long the whole application takes for what people wait for. Prints a table; beside each figure stands what the same
//! request costs when there is nothing to compute, so that a slow machine shows.
//!
//! `cargo bench --workspace --profile dev --bench speed`

mod fills;
mod hands;
mod prints;
mod several;
mod sheets;
mod subjects;

use anyhow::{Context, Result};
use inky_e2e::{Browser, Database, Server, root, steps::rect};
use reqwest::Method;
use serde_json::{Value, json};
use std::time::{Duration, Instant};
use uuid::Uuid;

const ROUNDS: usize = 300;

fn main() -> Result<()> {
    tokio::runtime::Runtime::new()?.block_on(measure())
}

/// Median and 95th percentile.
fn spread(mut times: Vec<Duration>) -> (f64, f64) {
    times.sort();
    let at = |share: f64| times[((times.len() - 1) as f64 * share) as usize].as_secs_f64() * 1000.0;
    (at(0.5), at(0.95))
}

async fn timed(rounds: usize, mut work: impl AsyncFnMut(usize) -> Result<()>) -> Result<(f64, f64)> {
    let mut times = Vec::new();
    for round in 0..rounds {
        let begun = Instant::now();
        work(round).await?;
        times.push(begun.elapsed());
    }
    Ok(spread(times))
}

fn line(what: &str, (median, p95): (f64, f64), goal: &str) {
    println!("{what:<64} {median:>9.1} {p95:>9.1}   {goal}");
}

async fn measure() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start(&database, false)?;
    println!("{:<64} {:>9} {:>9}   goal", "milliseconds", "median", "p95");

    // `-- fills`, `-- hands`, `-- prints`, `-- several`, `-- sheets` and `-- subjects` measure these alone
    let only = |part: &str| std::env::args().any(|a| a == part);
    if only("subjects") {
        return subjects::measure(&database).await;
    }
    if ["fills", "hands", "prints", "several", "sheets"].into_iter().any(only) {
        let browser = Browser::start().await?;
        if only("fills") {
            fills::measure(&server, &browser).await?;
        }
        if only("hands") {
            hands::measure(&server, &browser).await?;
        }
        if only("prints") {
            prints::measure(&server, &browser).await?;
        }
        if only("several") {
            several::measure(&server, &browser).await?;
        }
        if only("sheets") {
            sheets::measure(&database, &browser).await?;
        }
        empty_page(&server, &browser).await?;
        return browser.close().await;
    }

    // a tentative edit of a 12-letter opening
    let id = server.new_sheet("Speed").await?;
    let (piece, form) = (Uuid::new_v4(), Uuid::new_v4());
    let add = json!({ "edit": "add_lettering", "piece": piece, "form": form, "fill": Uuid::new_v4(), "text": "LANTERNNIGHT", "font": "anton" });
    let body = json!({ "base": 1, "request": Uuid::new_v4(), "gesture": null, "edits": [add] });
    let bench = server.keep(&id, "edits", body).await?;
    let lettering = bench["sheet"]["pieces"][0]["kind"]["opening"]["forms"][0]["shape"].clone();
    let tentative = format!("/sheets/{id}/tentative");
    let ask = async |round: usize| -> Result<()> {
        let mut next = lettering.clone();
        // another one each time: what was computed is kept
        next["tracking"] = json!(0.1 * round as f64);
        let edit = json!({ "edit": "set_lettering", "piece": piece, "form": form, "lettering": next, "fit": false });
        server.post(&tentative, json!({ "base": 2, "edits": [edit] })).await?;
        Ok(())
    };
    timed(30, async |round| ask(ROUNDS + round).await).await?;
    line("tentative edit that changes a 12-letter opening, on loopback", timed(ROUNDS, ask).await?, "p95 < 16");
    let nothing = async |_: usize| -> Result<()> {
        server.get("/fonts").await?;
        Ok(())
    };
    line("  beside it: a list that is ready, on loopback", timed(ROUNDS, nothing).await?, "");

    // the subject of a photo of two megapixels
    let photo = image::open(root().join("demo/photos/octopus-kite.jpg"))?;
    let photo = photo.resize_exact(1732, 1155, image::imageops::FilterType::CatmullRom);
    let mut jpeg = std::io::Cursor::new(Vec::new());
    photo.write_to(&mut jpeg, image::ImageFormat::Jpeg)?;
    let (_, card) = server.upload("photos", "kite.jpg", jpeg.into_inner()).await?;
    let find = async |round: usize| -> Result<()> {
        // another box each time: the same question would be answered from the database
        let within = json!({ "x": 20.0 + round as f64, "y": 80.0, "width": 1690.0, "height": 1070.0 });
        finish(&server, &id, json!({ "task": "find_subject", "photo": card["id"], "within": within })).await
    };
    line("subject found in a photo of 2 megapixels, upload excluded", timed(5, find).await?, "< 5000");

    // the demo poster as an A3 of 150 ppi
    let demo = Server::start(&database, true)?;
    let sheets = demo.get("/sheets").await?;
    let kites = sheets.as_array().into_iter().flatten().find(|s| s["name"] == "Kites over Ostrey");
    let kites = kites.and_then(|s| s["id"].as_str()).context("the demo is missing")?;
    let deliver =
        async |_: usize| finish(&demo, kites, json!({ "task": "deliver", "kind": "png", "ppi": 150.0 })).await;
    line("PNG of A3 at 150 ppi, with photo and breakout", timed(5, deliver).await?, "< 5000");

    // from an empty page to a bench that can be used
    let browser = Browser::start().await?;
    let load = async |_: usize| -> Result<()> {
        browser.page.goto("about:blank").await?;
        browser.page.goto(format!("{}/sheet/{kites}", demo.address)).await?;
        browser.button("Deliver").await?;
        Ok(())
    };
    load(0).await?;
    line("page loaded and usable, with the demo poster", timed(7, load).await?, "< 2000");
    let empty = async |_: usize| -> Result<()> {
        browser.page.goto("about:blank").await?;
        browser.page.goto(format!("{}/icon.svg", demo.address)).await?;
        Ok(())
    };
    line("  beside it: a page with nothing on it", timed(7, empty).await?, "");

    subjects::measure(&database).await?;
    prints::measure(&server, &browser).await?;
    fills::measure(&server, &browser).await?;
    hands::measure(&server, &browser).await?;
    several::measure(&server, &browser).await?;
    sheets::measure(&database, &browser).await?;
    empty_page(&server, &browser).await?;
    browser.close().await
}

/// Frames, in milliseconds, while what the grip moves of the selected piece is dragged about the middle of the sheet.
async fn dragged_by(browser: &Browser, grip: &str) -> Result<(f64, f64)> {
    let chosen = format!("//*[@role='radio' and @aria-checked='true' and contains(translate(., 'F', 'f'), '{grip}')]");
    browser.at(&chosen).await?;
    let scene = rect(browser, "[data-testid=scene]").await?;
    frames_of_drag(browser, (scene[0] + scene[2] / 2.0) as i64, (scene[1] + scene[3] / 2.0) as i64).await
}

async fn frames_of_drag(browser: &Browser, x: i64, y: i64) -> Result<(f64, f64)> {
    let step = format!(
        "(i, n) => {{
            const port = document.querySelector('[data-testid=port]')
            const at = {{ clientX: {x} + 40 * Math.sin(i / 15), clientY: {y} + 30 * (1 - Math.cos(i / 15)), bubbles: true, pointerId: 1, isPrimary: true }}
            const tell = (kind, target) => target.dispatchEvent(new PointerEvent(kind, at))
            if (i === 0) tell('pointerdown', port)
            else tell(i === n ? 'pointerup' : 'pointermove', window)
        }}"
    );
    let found = frames_while(browser, &step).await?;
    browser.kept().await?;
    Ok(found)
}

/// The spread of the frames while `step` is called once in each of them.
async fn frames_while(browser: &Browser, step: &str) -> Result<(f64, f64)> {
    let code = format!(
        "const done = arguments[arguments.length - 1], step = {step}, n = 200, times = []
        let i = 0, last = performance.now()
        const frame = () => {{
            const now = performance.now()
            times.push(now - last)
            last = now
            step(i, n)
            if (i++ < n) requestAnimationFrame(frame)
            else done(times.slice(5))
        }}
        requestAnimationFrame(frame)"
    );
    let times: Vec<f64> = browser.page.execute_async(code, Vec::new()).await?.convert()?;
    Ok(spread(times.into_iter().map(|ms| Duration::from_secs_f64(ms / 1000.0)).collect()))
}

async fn empty_page(server: &Server, browser: &Browser) -> Result<()> {
    browser.page.goto(format!("{}/icon.svg", server.address)).await?;
    line("  beside it: frames of a page with nothing on it", frames_while(browser, "() => undefined").await?, "");
    Ok(())
}

async fn finish(server: &Server, sheet: &str, task: Value) -> Result<()> {
    let job = server.post(&format!("/sheets/{sheet}/jobs"), task).await?;
    let card = server.finished(&job).await?;
    anyhow::ensure!(card["state"] == "done", "{card}");
    let id = job["id"].as_str().context("no job")?;
    let _ = server.call(Method::GET, &format!("/jobs/{id}"), None).await?;
    Ok(())
}
