//! Many windows that are selected and moved at once.

use crate::{frames_of_drag, line};
use anyhow::{Context, Result};
use inky_core::edit::Edit;
use inky_core::sheet::{
    BasicShape, BundleId, Course, Figure, FillId, Form, FormId, FormShape, PieceId, Pose, Split, SplitLine,
};
use inky_e2e::steps::on_screen;
use inky_e2e::{Browser, Server};
use serde_json::json;
use std::time::Duration;
use thirtyfour::prelude::*;
use uuid::Uuid;

/// Windows across a sheet of 420 x 297 mm, in as many rows as they need.
const COLUMNS: usize = 25;

pub async fn measure(server: &Server, browser: &Browser) -> Result<()> {
    let sheet = windows(server, 100, 10).await?;
    open(browser, server, &sheet).await?;
    let bench = server.get(&format!("/sheets/{sheet}")).await?;
    let (x, y) = on_screen(browser, &bench, 12.0, 15.0).await?;
    line("frames while 100 windows in 10 bundles are dragged as one", frames_of_drag(browser, x, y).await?, "p95 < 33");

    let sheet = windows(server, 500, 0).await?;
    open(browser, server, &sheet).await?;
    let bench = server.get(&format!("/sheets/{sheet}")).await?;
    let (x, y) = on_screen(browser, &bench, 12.0, 15.0).await?;
    // from the press that selects all of them until the first frame in which they lie elsewhere was painted; then Escape puts them back
    let moved = format!(
        "const at = (x, y) => ({{ clientX: x, clientY: y, bubbles: true, pointerId: 1, isPrimary: true }})
         window.dispatchEvent(new KeyboardEvent('keydown', {{ key: 'a', ctrlKey: true, bubbles: true }}))
         document.querySelector('[data-testid=port]').dispatchEvent(new PointerEvent('pointerdown', at({x}, {y})))
         window.dispatchEvent(new PointerEvent('pointermove', at({x} + 30, {y} + 20)))"
    );
    let times = until_painted(browser, &moved).await?;
    line("500 windows: selected and moved, until the first frame", times, "< 100");
    line("  beside it: a frame in which nothing happens", until_painted(browser, "").await?, "");

    let sheet = panes(server).await?;
    browser.page.goto(format!("{}/sheet/{sheet}", server.address)).await?;
    browser.at("//nav//h2[.='Stack']").await?;
    browser.click("//nav//button[starts-with(@aria-label, 'Select')]").await?;
    browser.click("//button[starts-with(@aria-label, 'Panes: ')]").await?;
    browser.at("//*[@data-testid='pane-1']").await?;
    let bench = server.get(&format!("/sheets/{sheet}")).await?;
    let (x, y) = on_screen(browser, &bench, 210.0, 60.0).await?;
    line("frames while a pane of a photo is dragged", frames_of_drag(browser, x, y).await?, "p95 < 33");
    Ok(())
}

/// Milliseconds from the start of `code` until the next frame was painted, measured by the page itself; the median and the 95th percentile.
async fn until_painted(browser: &Browser, code: &str) -> Result<(f64, f64)> {
    let code = format!(
        "const done = arguments[arguments.length - 1]
         const begun = performance.now()
         {code}
         requestAnimationFrame(() => requestAnimationFrame(() => done(performance.now() - begun)))"
    );
    let mut all = Vec::new();
    for _ in 0..25 {
        let took = browser.page.execute_async(code.as_str(), Vec::new()).await?.json().as_f64().context("no time")?;
        all.push(Duration::from_secs_f64(took / 1000.0));
        browser.script("window.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', bubbles: true }))").await?;
    }
    // the first rounds are the browser's own warming up
    Ok(crate::spread(all.split_off(5)))
}

/// A sheet with a photo in an ellipse, split along a zigzag, and in eight panes below it.
async fn panes(server: &Server) -> Result<String> {
    let sheet = server.new_sheet("Panes").await?;
    let photo = std::fs::read(inky_e2e::root().join("demo/photos/balloon.jpg"))?;
    let (_, card) = server.upload("photos", "balloon.jpg", photo).await?;
    let photo = serde_json::from_value(card["id"].clone())?;
    let (piece, fill) = (PieceId::fresh(), FillId::fresh());
    let shape = BasicShape { figure: Figure::Ellipse, width: 200.0, height: 240.0 };
    let form = Form::new(FormId::fresh(), Pose::at(210.0, 140.0), FormShape::Basic(shape));
    let straight = |x: f64| SplitLine {
        points: vec![[x, 200.0], [x + 1.0, 260.0]],
        course: Course::Straight,
        flipped: false,
        within: None,
    };
    let zigzag = SplitLine {
        points: vec![[90.0, 130.0], [330.0, 120.0]],
        course: Course::Zigzag { count: 7, depth: 20.0 },
        ..straight(0.0)
    };
    let mut split = Split::default();
    split.lines.push(zigzag);
    split.lines.extend([150.0, 190.0, 230.0].map(straight));
    let edits = [
        Edit::AddWindow { piece, form, fill: FillId::fresh() },
        Edit::FillWithPhoto { piece, fill, photo },
        Edit::SetSplit { piece, split },
    ];
    let body = json!({ "base": 1, "request": Uuid::new_v4(), "gesture": null, "edits": edits });
    server.post(&format!("/sheets/{sheet}/edits"), body).await?;
    Ok(sheet)
}

/// A sheet with so many ellipses in ink; those of each column are a bundle, if there are to be bundles.
async fn windows(server: &Server, count: usize, bundles: usize) -> Result<String> {
    let sheet = server.new_sheet("Many").await?;
    let pieces: Vec<PieceId> = (0..count).map(|_| PieceId::fresh()).collect();
    let add = |(k, piece): (usize, &PieceId)| {
        let shape = BasicShape { figure: Figure::Ellipse, width: 12.0, height: 10.0 };
        let at = Pose::at(12.0 + 16.0 * (k % COLUMNS) as f64, 15.0 + 14.0 * (k / COLUMNS) as f64);
        let form = Form::new(FormId::fresh(), at, FormShape::Basic(shape));
        Edit::AddWindow { piece: *piece, form, fill: FillId::fresh() }
    };
    let mut edits: Vec<Edit> = pieces.iter().enumerate().map(add).collect();
    for own in pieces.chunks(count / bundles.max(1)).filter(|_| bundles > 0) {
        let bundle = BundleId::fresh();
        edits.push(Edit::Bundle { bundle, within: None, pieces: own.to_vec(), bundles: Vec::new() });
    }
    let mut base = 1;
    for some in edits.chunks(50) {
        let body = json!({ "base": base, "request": Uuid::new_v4(), "gesture": null, "edits": some });
        let kept = server.post(&format!("/sheets/{sheet}/edits"), body).await?;
        base = kept["revision"].as_u64().context("no revision")?;
    }
    Ok(sheet)
}

/// Opens a sheet and selects all that is on it.
async fn open(browser: &Browser, server: &Server, sheet: &str) -> Result<()> {
    browser.page.goto(format!("{}/sheet/{sheet}", server.address)).await?;
    browser.at("//nav//h2[.='Stack']").await?;
    browser.page.action_chain().key_down(Key::Control).send_keys("a").key_up(Key::Control).perform().await?;
    browser.reads("All pieces").await
}
