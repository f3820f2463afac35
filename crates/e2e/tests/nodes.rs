//! Nodes of a contour, changed by the keyboard and by the mouse.

use anyhow::{Context, Result};
use inky_core::combine::area;
use inky_e2e::Bench;
use inky_e2e::steps::{forms, path_of};
use kurbo::BezPath;
use serde_json::Value;
use thirtyfour::prelude::*;

/// The nodes of the first subpath of the first form.
fn nodes(bench: &Value) -> Vec<Value> {
    forms(bench)[0]["shape"]["subpaths"][0]["nodes"].as_array().cloned().unwrap_or_default()
}

fn opening_area(bench: &Value) -> Result<f64> {
    Ok(area(&BezPath::from_svg(&path_of(&bench["scene"]["pieces"][0]))?))
}

/// Gives a node the focus, which chooses it.
async fn choose(bench: &Bench, node: usize) -> Result<()> {
    bench.browser.script(&format!("document.querySelectorAll('[data-testid=node]')[{node}].focus()")).await?;
    Ok(())
}

/// Opens the nodes of the first form, does something to them, and keeps it.
async fn changed(bench: &Bench, act: impl AsyncFnOnce(&Bench) -> Result<()>) -> Result<Value> {
    bench.open_form(0).await?;
    bench.browser.press("Change its nodes").await?;
    bench.browser.reads("Drag nodes and handles").await?;
    act(bench).await?;
    bench.after(async |b| b.press("Keep").await).await
}

#[tokio::test(flavor = "multi_thread")]
async fn nodes_are_added_smoothed_moved_and_removed() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    browser.press("Add a shape").await?;
    browser.press("Trace a contour").await?;
    browser.press("Begin with a triangle").await?;
    browser.reads("3 nodes").await?;
    let triangle = bench.after(async |b| b.press("Keep").await).await?;
    let r = 297.0 / 5.0;
    let known = 3.0 * 3.0_f64.sqrt() / 4.0 * r * r;
    let found = opening_area(&triangle)?;
    assert!((found - known).abs() < 1e-3 * known, "{found} for {known}");

    // smoothed, the corner has handles in one line, parallel to the line through its neighbours
    let smooth = changed(&bench, async |bench| {
        choose(bench, 0).await?;
        bench.browser.keys("n").await
    })
    .await?;
    let top = nodes(&smooth)[0].clone();
    let handle = |which: &str, k: usize| top[which][k].as_f64().unwrap_or(f64::NAN);
    assert!(top["smooth"] == true && handle("before", 1).abs() < 1e-6 && handle("after", 1).abs() < 1e-6, "{top}");
    assert!(handle("before", 0) * handle("after", 0) < 0.0, "{top}");
    assert!(opening_area(&smooth)? > found, "the corner grew round");

    // a node more changes nothing of the curve
    let added = changed(&bench, async |bench| {
        choose(bench, 0).await?;
        bench.browser.press("Add a node").await?;
        bench.browser.reads("4 nodes").await
    })
    .await?;
    assert_eq!(nodes(&added).len(), 4);
    let (before, after) = (opening_area(&smooth)?, opening_area(&added)?);
    assert!((before - after).abs() < 1e-5 * before, "{before} became {after}");

    // arrow keys move it by a millimetre, with Shift by ten
    let moved = changed(&bench, async |bench| {
        choose(bench, 1).await?;
        bench.browser.keys(Key::Right + "").await?;
        let chain = bench.browser.page.action_chain().key_down(Key::Shift);
        Ok(chain.key_down(Key::Down).key_up(Key::Down).key_up(Key::Shift).perform().await?)
    })
    .await?;
    let at = |bench: &Value, k: usize, axis: &str| nodes(bench)[k][axis].as_f64().unwrap_or(f64::NAN);
    assert!((at(&moved, 1, "x") - at(&added, 1, "x") - 1.0).abs() < 1e-6);
    assert!((at(&moved, 1, "y") - at(&added, 1, "y") - 10.0).abs() < 1e-6);
    assert_eq!((at(&moved, 2, "x"), at(&moved, 2, "y")), (at(&added, 2, "x"), at(&added, 2, "y")));

    // by the mouse: a node is dragged, a double click sharpens another
    let dragged = changed(&bench, async |bench| {
        let node =
            bench.browser.page.find_all(By::Css("[data-testid=node]")).await?.get(2).cloned().context("no node")?;
        let rect = node.rect().await?;
        let (x, y) = ((rect.x + rect.width / 2.0) as i64, (rect.y + rect.height / 2.0) as i64);
        bench.browser.drag((x, y), (x + 40, y - 20)).await?;
        let top = bench.browser.page.find(By::Css("[data-testid=node]")).await?;
        Ok(bench.browser.page.action_chain().double_click_element(&top).perform().await?)
    })
    .await?;
    assert!(at(&dragged, 2, "x") > at(&moved, 2, "x") + 5.0 && at(&dragged, 2, "y") < at(&moved, 2, "y") - 2.0);
    assert!(nodes(&dragged)[0]["smooth"] != true, "{}", nodes(&dragged)[0]);

    // removed with the key; a step is taken back before anything is kept, and what is dropped changes nothing
    let removed = changed(&bench, async |bench| {
        choose(bench, 1).await?;
        bench.browser.keys(Key::Delete + "").await?;
        bench.browser.reads("3 nodes").await?;
        bench.browser.press("Take back a step").await?;
        bench.browser.reads("4 nodes").await?;
        choose(bench, 3).await?;
        bench.browser.keys(Key::Delete + "").await?;
        bench.browser.reads("3 nodes").await
    })
    .await?;
    assert_eq!(nodes(&removed).len(), 3);
    assert_eq!(at(&removed, 1, "x"), at(&dragged, 1, "x"), "the node that was taken back is there");
    bench.open_form(0).await?;
    browser.press("Change its nodes").await?;
    choose(&bench, 0).await?;
    browser.keys(Key::Delete + "").await?;
    browser.reads("2 nodes").await?;
    browser.press("Drop").await?;
    assert_eq!(bench.sheet().await?["revision"], removed["revision"]);
    assert_eq!(bench.sheet().await?["scene"]["pieces"][0]["outline"], removed["scene"]["pieces"][0]["outline"]);
    bench.browser.close().await
}
