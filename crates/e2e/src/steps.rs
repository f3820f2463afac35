//! What people do again and again on the bench.

use crate::{Browser, Server, root};
use anyhow::{Context, Result, ensure};
use reqwest::Method;
use serde_json::Value;
use thirtyfour::prelude::*;

/// The open sheet, as the server has it for this tab.
pub async fn sheet(browser: &Browser, server: &Server) -> Result<Value> {
    browser.kept().await?;
    let address = browser.page.current_url().await?;
    let id = address.path_segments().and_then(|mut s| s.next_back()).context("no sheet is open")?.to_owned();
    let tab = browser.script("return sessionStorage.getItem('inky-tab')").await?;
    let (status, bench) = server.call_as(tab.as_str(), Method::GET, &format!("/sheets/{id}"), None).await?;
    ensure!(status.is_success(), "{status} {bench}");
    Ok(bench)
}

/// Lays out a new A3 sheet, 420 mm wide and 297 mm high, and waits for the bench.
pub async fn new_sheet(browser: &Browser, server: &Server, name: &str) -> Result<()> {
    browser.page.goto(&server.address).await?;
    browser.press("New sheet").await?;
    browser.at("//label[.='Name']/following-sibling::input").await?.send_keys(name).await?;
    browser.press("A3").await?;
    browser.click("//button[@title='Exchange width and height']").await?;
    browser.press("Lay out the sheet").await?;
    browser.reads("An empty sheet").await
}

/// Adds a word to the sheet.
pub async fn type_word(browser: &Browser, word: &str) -> Result<()> {
    browser.press("Add lettering").await?;
    browser.at("//textarea").await?.send_keys(word).await?;
    browser.button("Close the card").await?.click().await?;
    browser.kept().await
}

/// Chooses a photo file for a button.
pub async fn bring_photo(browser: &Browser, button: &str, file: &str) -> Result<()> {
    let chooser = browser.page.find(By::Css(format!("input[aria-label='{button}: file']"))).await?;
    chooser.send_keys(root().canonicalize()?.join(file).to_string_lossy()).await?;
    browser.kept().await
}

/// The way into the search for a subject: a button, or the card of what was found by itself meanwhile.
pub const SUBJECT: &str = "//button[normalize-space(.)='Find the subject' or starts-with(@aria-label, 'Subject: ')]";

/// Opens the search for the subject of the selected window's photo.
pub async fn look_for_subject(browser: &Browser) -> Result<()> {
    browser.click(SUBJECT).await
}

/// Left, top, width and height of what a selector finds, in pixels of the window.
pub async fn rect(browser: &Browser, selector: &str) -> Result<[f64; 4]> {
    let code = format!(
        "const r = document.querySelector({selector:?}).getBoundingClientRect(); return [r.left, r.top, r.width, r.height]"
    );
    Ok(serde_json::from_value(browser.script(&code).await?)?)
}

/// From millimetres on the sheet to pixels of the window.
pub async fn on_screen(browser: &Browser, sheet: &Value, x: f64, y: f64) -> Result<(i64, i64)> {
    let [left, top, width, _] = rect(browser, "[data-testid=scene]").await?;
    let zoom = width / sheet["sheet"]["width"].as_f64().context("no width")?;
    Ok(((left + x * zoom) as i64, (top + y * zoom) as i64))
}

/// Left, top, right and bottom of the first piece, in mm.
pub fn bounds(bench: &Value) -> [f64; 4] {
    serde_json::from_value(bench["scene"]["pieces"][0]["bounds"].clone()).unwrap_or_default()
}

/// Draws a basic shape with the mouse: a window of its own, or (`into`) a form of the selected one. Corners in mm.
pub async fn draw_shape(
    browser: &Browser,
    server: &Server,
    name: &str,
    into: bool,
    from: (f64, f64),
    to: (f64, f64),
) -> Result<()> {
    let before = sheet(browser, server).await?;
    browser.press(if into { "Add a form" } else { "Add a shape" }).await?;
    browser.click(&format!("//ul[@aria-label='Shapes']//button[normalize-space(.)='{name}']")).await?;
    browser.reads(&format!("Draw: {}", name.to_lowercase())).await?;
    let (a, b) = (on_screen(browser, &before, from.0, from.1).await?, on_screen(browser, &before, to.0, to.1).await?);
    browser.drag(a, b).await?;
    newer(browser, server, &before).await.map(drop)
}

/// A point of the window in what an SVG path fills, where nothing lies over it: of the path that a selector finds at a place.
pub async fn inside(browser: &Browser, selector: &str, at: usize) -> Result<(i64, i64)> {
    let code = format!(
        "const path = document.querySelectorAll('{selector}')[{at}], box = path.getBoundingClientRect()
        for (let k = 1; k < 900; k++) {{
            const x = Math.round(box.x + box.width * (k % 30) / 30), y = Math.round(box.y + box.height * Math.floor(k / 30) / 30)
            if (document.elementFromPoint(x, y) === path) return [x, y]
        }}
        return null"
    );
    let found: Option<(i64, i64)> = serde_json::from_value(browser.script(&code).await?)?;
    found.with_context(|| format!("no point in {selector} {at}"))
}

/// The sheet once it has a newer revision than `old`.
pub async fn newer(browser: &Browser, server: &Server, old: &Value) -> Result<Value> {
    browser
        .until("a newer revision", async || {
            let now = sheet(browser, server).await.ok()?;
            (now["revision"].as_u64() > old["revision"].as_u64()).then_some(now)
        })
        .await
}

/// The forms of the first piece.
pub fn forms(bench: &Value) -> Vec<Value> {
    bench["sheet"]["pieces"][0]["kind"]["opening"]["forms"].as_array().cloned().unwrap_or_default()
}

/// How many contours the opening of the first piece has.
pub fn contours(bench: &Value) -> usize {
    path_of(&bench["scene"]["pieces"][0]).matches(['M', 'm']).count()
}

/// The path data of a piece's outline, whole or in its parts.
pub fn path_of(view: &Value) -> String {
    let outline = &view["outline"];
    if let Some(path) = outline["path"].as_str() {
        return path.to_owned();
    }
    let part = |p: &Value| format!("M{},{}{}", p[0], p[1], p[2].as_str().unwrap_or_default());
    outline["parts"].as_array().into_iter().flatten().map(part).collect()
}

/// Left, top, right and bottom of a form of the first piece, in mm.
pub fn form_box(bench: &Value, form: usize) -> [f64; 4] {
    let corners: Vec<[f64; 2]> =
        serde_json::from_value(bench["scene"]["pieces"][0]["forms"][form]["corners"].clone()).unwrap_or_default();
    let fold = |k: usize, pick: fn(f64, f64) -> f64, from: f64| corners.iter().map(|c| c[k]).fold(from, pick);
    [fold(0, f64::min, f64::MAX), fold(1, f64::min, f64::MAX), fold(0, f64::max, f64::MIN), fold(1, f64::max, f64::MIN)]
}
