//! Margins, columns, baselines and guides: set by mouse and by keyboard, snapped to, lined up with.

use super::{boxes, drag, press_on, same, three_boxes};
use anyhow::{Context, Result, ensure};
use inky_e2e::Bench;
use inky_e2e::compare::screen_is_file;
use inky_e2e::steps::{on_screen, rect};
use serde_json::Value;
use thirtyfour::prelude::*;

/// The guides that were pulled out: which way they run, and where they lie; mm.
fn lines(bench: &Value) -> Vec<(String, f64)> {
    let lines = bench["sheet"]["guides"]["lines"].as_array().cloned().unwrap_or_default();
    let line = |l: &Value| (l["way"].as_str().unwrap_or_default().to_owned(), l["at"].as_f64().unwrap_or_default());
    lines.iter().map(line).collect()
}

/// Pulls a guide out of a ruler to a place of the sheet, in mm.
async fn pull(bench: &Bench, way: &str, to: (f64, f64)) -> Result<Value> {
    let [left, top, ..] = rect(&bench.browser, &format!("[data-testid=ruler-{way}]")).await?;
    let to = on_screen(&bench.browser, &bench.sheet().await?, to.0, to.1).await?;
    let from = if way == "level" { (to.0, top as i64 + 8) } else { (left as i64 + 8, to.1) };
    bench.after(async |b| b.drag(from, to).await).await
}

#[tokio::test(flavor = "multi_thread")]
async fn guides_are_pulled_out_of_rulers_and_snapped_to() -> Result<()> {
    let bench = three_boxes().await?;
    let browser = &bench.browser;
    browser.keys("x").await?;
    browser.at("//*[@data-testid='ruler-level']").await?;
    let upright = pull(&bench, "upright", (222.0, 200.0)).await?;
    let at = lines(&upright)[0].1;
    ensure!(lines(&upright)[0].0 == "upright" && (at - 222.0).abs() < 3.0, "{:?}", lines(&upright));
    // over an edge it lies on it
    let level = pull(&bench, "level", (220.0, 141.0)).await?;
    ensure!(lines(&level)[1].0 == "level" && same(lines(&level)[1].1, 140.0), "{:?}", lines(&level));
    // a box that comes near lies on the guide
    drag(&bench, (80.0, 75.0), (at - 19.0, 120.5)).await?;
    browser.kept().await?;
    let snapped = bench.sheet().await?;
    ensure!((boxes(&snapped)[0][2] - at).abs() < 0.01, "{:?} beside {at}", boxes(&snapped)[0]);
    // a guide is taken hold of while nothing is selected, and taken away beside the sheet
    browser.keys(Key::Escape + "").await?;
    let grasp = on_screen(browser, &snapped, at, 220.0).await?;
    let beside = on_screen(browser, &snapped, -20.0, 220.0).await?;
    let gone = bench.after(async |b| b.drag(grasp, beside).await).await?;
    ensure!(lines(&gone).len() == 1 && lines(&gone)[0].0 == "level", "{:?}", lines(&gone));
    // with nothing but edges seen, things are laid out all the same
    browser.keys("v").await?;
    browser
        .holds("bare edges", "return document.querySelectorAll('[data-testid=bare-edges] path').length === 3")
        .await?;
    browser
        .holds("no pieces", "return document.querySelectorAll('[data-testid=scene] [data-piece]').length === 0")
        .await?;
    browser.keys("v").await?;
    // they are on no picture
    browser.keys("x").await?;
    bench.card("Guides").await?;
    bench.after(async |b| b.click("//label[contains(., 'Hide all of it')]/input").await).await?;
    browser.holds("no guide", "return document.querySelectorAll('[data-testid=guide]').length === 0").await?;
    screen_is_file(browser, &bench.server).await?;
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn margins_columns_and_baselines_are_numbers() -> Result<()> {
    let bench = three_boxes().await?;
    let browser = &bench.browser;
    bench.card("Guides").await?;
    let even = bench.after(async |b| b.press("Even margins").await).await?;
    let margin = even["sheet"]["guides"]["margins"]["left"].as_f64().context("no margins")?;
    ensure!(margin > 5.0 && even["sheet"]["guides"]["margins"]["bottom"] == margin);
    bench.number("Bottom, mm", "30").await?;
    let columns = bench.number("Columns", "3").await?;
    ensure!(columns["sheet"]["guides"]["columns"] == 3 && columns["sheet"]["guides"]["margins"]["bottom"] == 30.0);
    browser
        .holds("three columns", "return document.querySelector('[data-testid=guides]').dataset.columns === '3'")
        .await?;
    // what cannot be is a sentence, and nothing is lost
    let field = browser.at("//label[starts-with(normalize-space(.), 'Left, mm')]/following-sibling::input").await?;
    field.click().await?;
    field.send_keys(Key::Control + "a").await?;
    field.send_keys("410" + Key::Enter).await?;
    browser.reads("No room is left between the margins").await?;
    ensure!(bench.sheet().await?["sheet"]["guides"] == columns["sheet"]["guides"]);
    let added = bench.after(async |b| b.press("Add level").await).await?;
    ensure!(lines(&added).len() == 1, "{:?}", lines(&added));
    browser.keys(Key::Escape + "").await?;
    // lined up with the margins
    press_on(&bench, (170.0, 110.0), &[]).await?;
    browser.keys("r").await?;
    browser.press("Its margins").await?;
    let moved = bench.after(async |b| b.press("Left edges").await).await?;
    ensure!(same(boxes(&moved)[1][0], margin), "{:?}", boxes(&moved)[1]);
    let moved = bench.after(async |b| b.press("Bottom edges").await).await?;
    let height = moved["sheet"]["height"].as_f64().context("no height")?;
    ensure!(same(boxes(&moved)[1][3], height - 30.0), "{:?}", boxes(&moved)[1]);
    bench.browser.close().await
}
