//! Windows that fall into panes, by mouse and by keyboard.

use super::{boxes, drag};
use anyhow::{Result, ensure};
use inky_e2e::Bench;
use inky_e2e::compare::screen_is_file;
use inky_e2e::steps::{bring_photo, rect};
use serde_json::Value;
use thirtyfour::prelude::*;

fn panes(bench: &Value) -> Vec<[f64; 4]> {
    let all = bench["scene"]["pieces"][0]["panes"].as_array().cloned().unwrap_or_default();
    all.iter().map(|p| serde_json::from_value(p["bounds"].clone()).unwrap_or_default()).collect()
}

fn near(a: f64, b: f64) -> bool {
    (a - b).abs() < 1.0
}

/// A window from (80, 60) to (240, 180) with a photo in it.
pub(super) async fn photo_in_a_box() -> Result<Bench> {
    let bench = Bench::start().await?;
    bench.draw("Box", false, (80.0, 60.0), (240.0, 180.0)).await?;
    bring_photo(&bench.browser, "Photo into it", "demo/photos/balloon.jpg").await?;
    Ok(bench)
}

#[tokio::test(flavor = "multi_thread")]
async fn a_line_is_drawn_across_and_a_pane_pulled_away() -> Result<()> {
    let bench = photo_in_a_box().await?;
    let before = bench.sheet().await?;
    bench.browser.keys("y").await?;
    // one that misses says so, and nothing is lost
    drag(&bench, (20.0, 250.0), (300.0, 250.0)).await?;
    bench.browser.reads("This line does not cut in two what it is drawn on").await?;
    ensure!(bench.sheet().await?["sheet"] == before["sheet"]);
    bench.browser.press("Close this message").await?;
    let split = bench.after(async |_| drag(&bench, (60.0, 140.0), (260.0, 100.0)).await).await?;
    let two = panes(&split);
    ensure!(two.len() == 2 && near(two[0][3], 180.0) && near(two[1][1], 60.0), "{two:?}");
    // the upper one is pulled away, and the window is as large as both
    let apart = bench.after(async |_| drag(&bench, (160.0, 80.0), (160.0, 50.0)).await).await?;
    let moved = panes(&apart);
    // it may snap to the sheet on its way
    ensure!(moved[0] == two[0] && (26.0..34.0).contains(&(two[1][1] - moved[1][1])), "{moved:?}");
    ensure!(boxes(&apart)[0][1] == moved[1][1]);
    // keys nudge it, the knob turns it
    let nudged = panes(&bench.after(async |b| b.keys(Key::Up + "").await).await?);
    ensure!(near(moved[1][1] - nudged[1][1], 1.0));
    let knob = bench.middle("[data-testid=turn]").await?;
    let turned = panes(&bench.after(async |b| b.drag(knob, (knob.0 + 30, knob.1 + 6)).await).await?);
    ensure!(turned[0] == two[0] && !near(turned[1][3], nudged[1][3]), "{turned:?}");
    // the line stays to be moved: its point down, and both panes follow
    bench.browser.keys(Key::Escape + "").await?;
    let end = bench.middle("[data-testid=split-point-0]").await?;
    let lower = panes(&bench.after(async |b| b.drag(end, (end.0, end.1 + 40)).await).await?);
    ensure!(lower[0][1] > two[0][1] - 1.0 && lower.len() == 2, "{lower:?}");
    // by keys as well
    let line = |bench: &Value| bench["sheet"]["pieces"][0]["kind"]["split"]["lines"][0]["points"][0][1].as_f64();
    bench.browser.page.find(By::Css("[data-testid=split-point-0]")).await?.focus().await?;
    let before = line(&bench.sheet().await?);
    let after = line(&bench.after(async |b| b.keys(Key::Down + "").await).await?);
    ensure!(matches!((before, after), (Some(b), Some(a)) if near(a - b, 1.0)), "{before:?} and {after:?}");
    for _ in 0..3 {
        bench.browser.keys(Key::Escape + "").await?;
    }
    screen_is_file(&bench.browser, &bench.server).await?;
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn panes_by_keyboard_alone() -> Result<()> {
    let bench = photo_in_a_box().await?;
    let whole = bench.sheet().await?;
    // looked at from near, and from afar again
    let wide = async || Ok::<f64, anyhow::Error>(rect(&bench.browser, "[data-testid=scene]").await?[2]);
    let before = wide().await?;
    bench.browser.keys("z").await?;
    ensure!(wide().await? > 1.5 * before, "{} and {before}", wide().await?);
    bench.browser.keys("z").await?;
    ensure!((wide().await? - before).abs() < 0.01);
    bench.browser.keys("y").await?;
    bench.after(async |b| b.press("Across").await).await?;
    bench.after(async |b| b.press("Zigzag").await).await?;
    let zigzag = bench.number("Teeth", "9").await?;
    ensure!(zigzag["sheet"]["pieces"][0]["kind"]["split"]["lines"][0]["course"]["count"] == 9);
    let apart = panes(&bench.number("Apart, mm", "20").await?);
    ensure!(near(apart[0][3], 190.0) && near(apart[1][1], 50.0), "{apart:?}");
    // once more, one pane alone; and a name for it
    bench.browser.press("Pane 2").await?;
    let three = bench.after(async |b| b.press("Down").await).await?;
    ensure!(panes(&three).len() == 3, "{:?}", panes(&three));
    bench.browser.press("Pane 1").await?;
    let hidden = bench.after(async |b| b.click("//label[contains(., 'Hidden')]/input").await).await?;
    ensure!(near(boxes(&hidden)[0][3], 140.0) || boxes(&hidden)[0][3] < 140.0, "{:?}", boxes(&hidden));
    // all joined again, it is as it was
    let joined = bench.after(async |b| b.press("Join all panes").await).await?;
    ensure!(joined["sheet"]["pieces"] == whole["sheet"]["pieces"], "{}", joined["sheet"]["pieces"]);
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_free_hand_draws_a_curve_and_a_pane_gets_a_colour() -> Result<()> {
    let bench = Bench::start().await?;
    bench.draw("Box", false, (80.0, 60.0), (240.0, 180.0)).await?;
    bench.browser.keys("y").await?;
    bench.browser.press("Curved").await?;
    let split = bench.after(async |_| drag(&bench, (60.0, 140.0), (260.0, 100.0)).await).await?;
    let line = &split["sheet"]["pieces"][0]["kind"]["split"]["lines"][0];
    ensure!(line["course"]["kind"] == "smooth" && panes(&split).len() == 2, "{line}");
    bench.browser.press("Pane 1").await?;
    let colour = "const field = document.querySelector('[aria-label=\"A colour of its own\"]')
        Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(field, '#d7263d')
        field.dispatchEvent(new Event('input', { bubbles: true }))";
    let coloured = bench.after(async |b| b.script(colour).await.map(drop)).await?;
    let fills = coloured["sheet"]["pieces"][0]["kind"]["fills"].as_array().cloned().unwrap_or_default();
    ensure!(fills.len() == 2 && fills[1]["paint"]["colour"] == "#d7263d" && fills[1]["pane"].is_array(), "{fills:?}");
    let back = bench.after(async |b| b.press("As the others").await).await?;
    ensure!(back["sheet"]["pieces"] == split["sheet"]["pieces"]);
    bench.browser.close().await
}
