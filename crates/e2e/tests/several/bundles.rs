//! Bundles: made, moved, stepped into and out of, named, copied, ordered, dissolved.

use super::{boxes, drag, order, press_on, same, three_boxes, until_selected};
use anyhow::{Result, ensure};
use inky_e2e::Bench;
use inky_e2e::compare::screen_is_file;
use inky_e2e::steps::on_screen;
use serde_json::Value;
use thirtyfour::prelude::*;

fn bundles(bench: &Value) -> Vec<Value> {
    bench["sheet"]["bundles"].as_array().cloned().unwrap_or_default()
}

/// A sheet with three boxes, the first two of them a bundle that is selected.
pub(super) async fn a_bundle() -> Result<(Bench, Value)> {
    let bench = three_boxes().await?;
    drag(&bench, (20.0, 20.0), (220.0, 200.0)).await?;
    until_selected(&bench, 2).await?;
    let made = bench.after(async |b| b.keys("u").await).await?;
    ensure!(bundles(&made).len() == 1 && made["undo"] == "bundle", "{}", made["undo"]);
    bench.browser.at("//button[@aria-label='Select the bundle “Bundle of 2”' and @aria-pressed='true']").await?;
    Ok((bench, made))
}

#[tokio::test(flavor = "multi_thread")]
async fn a_bundle_is_moved_as_one_and_stepped_into() -> Result<()> {
    let (bench, made) = a_bundle().await?;
    let browser = &bench.browser;
    let before = boxes(&made);
    browser.keys(Key::Escape + "").await?;
    // a press on one of them takes both, and a drag moves both
    let now = bench.after(async |_| drag(&bench, (80.0, 75.0), (87.0, 120.0)).await).await?;
    ensure!(now["undo"] == "move 2 pieces", "{}", now["undo"]);
    let moved = boxes(&now);
    let by = |k: usize| [moved[k][0] - before[k][0], moved[k][1] - before[k][1]];
    ensure!(
        same(by(0)[0], by(1)[0]) && same(by(0)[1], by(1)[1]) && by(0)[1] > 20.0 && by(2) == [0.0, 0.0],
        "{moved:?}"
    );
    bench.after(async |b| b.press("Undo").await).await?;
    // Enter steps in: the keys move one of them, the rest is faint
    browser.script("document.activeElement.blur()").await?;
    browser.keys(Key::Enter + "").await?;
    browser.reads("In “Bundle of 2”").await?;
    let one = boxes(&bench.after(async |b| b.keys(Key::Down + "").await).await?);
    ensure!(same(one[1][1] - before[1][1], 1.0) && one[0] == before[0] && one[2] == before[2], "{one:?}");
    browser
        .holds(
            "the rest to be faint",
            "return document.querySelectorAll('[data-testid=scene] > g[opacity]').length === 1",
        )
        .await?;
    // Esc steps out, with the bundle in hand, and then lets go of it
    browser.keys(Key::Escape + "").await?;
    browser.at("//button[@aria-label='Select the bundle “Bundle of 2”' and @aria-pressed='true']").await?;
    browser.keys(Key::Escape + "").await?;
    browser.at("//button[@aria-label='Select the bundle “Bundle of 2”' and @aria-pressed='false']").await?;
    // a double press steps in as well, and takes what it falls on
    let at = on_screen(browser, &bench.sheet().await?, 80.0, 75.0).await?;
    browser.page.action_chain().move_to(at.0, at.1).double_click().perform().await?;
    browser.reads("In “Bundle of 2”").await?;
    let first = boxes(&bench.after(async |b| b.keys(Key::Right + "").await).await?);
    ensure!(same(first[0][0] - one[0][0], 1.0) && first[1] == one[1], "{first:?}");
    // a press on what is not in it steps out
    press_on(&bench, (290.0, 70.0), &[]).await?;
    browser.at("//button[@aria-label='Select “Box”' and @aria-pressed='true']").await?;
    ensure!(!browser.text().await?.contains("Step out"));
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_bundle_fades_and_throws_its_shadow_as_one() -> Result<()> {
    let (bench, _) = a_bundle().await?;
    let browser = &bench.browser;
    browser.keys("q").await?;
    bench.after(async |b| b.press("Add a shadow").await).await?;
    browser.holds("the shadow is thrown", "return document.querySelectorAll('[data-bundle] use').length === 1").await?;
    // by keyboard: the number of the whole bundle
    let faint = bench.number("Strength of all, %", "60").await?;
    ensure!(faint["undo"] == "strength of the bundle" && bundles(&faint)[0]["finish"]["strength"] == 0.6, "{faint:?}");
    ensure!(bundles(&faint)[0]["finish"]["shadows"].as_array().is_some_and(|s| s.len() == 1));
    browser.at("//button[contains(@aria-label, 'As one: 60 %, one shadow')]").await?;
    // what the screen shows is what the file contains
    screen_is_file(browser, &bench.server).await?;
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn bundles_are_nested_ordered_copied_and_dissolved() -> Result<()> {
    let (bench, made) = a_bundle().await?;
    let browser = &bench.browser;
    let ids = order(&made);
    // forward is over what lies in front of it, as one
    let front = bench.after(async |b| b.press("Forward").await).await?;
    ensure!(order(&front) == [ids[2].clone(), ids[0].clone(), ids[1].clone()], "{:?}", order(&front));
    bench.after(async |b| b.press("Undo").await).await?;
    // named by a double press in the stack
    let row = browser.at("//button[@aria-label='Select the bundle “Bundle of 2”']").await?;
    browser.page.action_chain().double_click_element(&row).perform().await?;
    let field = browser.at("//input[@aria-label='Name of the bundle']").await?;
    bench.after(async |_| Ok(field.send_keys("Panels" + Key::Enter).await?)).await?;
    browser.press("Select the bundle “Panels”").await?;
    // a copy is a bundle of its own
    let copied = bench.after(async |b| b.press("Copy").await).await?;
    ensure!(bundles(&copied).len() == 2 && order(&copied).len() == 5 && copied["undo"] == "copy 2 pieces");
    ensure!(bundles(&copied).iter().all(|b| b["name"] == "Panels" && b["within"].is_null()), "{copied:?}");
    bench.after(async |b| b.press("Undo").await).await?;
    // with the third one in a bundle of a bundle
    browser.page.action_chain().key_down(Key::Control).send_keys("a").key_up(Key::Control).perform().await?;
    let nested = bench.after(async |b| b.keys("u").await).await?;
    ensure!(bundles(&nested).len() == 2 && bundles(&nested).iter().any(|b| b["within"].is_string()), "{nested:?}");
    ensure!(boxes(&nested) == boxes(&made), "nothing moves");
    // what is in it stays when it goes, the inner bundle too
    let dissolved = bench.after(async |b| b.press("Dissolve Shift U").await).await?;
    ensure!(bundles(&dissolved).len() == 1 && dissolved["scene"]["pieces"] == made["scene"]["pieces"]);
    browser.press("Select the bundle “Panels”").await?;
    let chain = browser.page.action_chain().key_down(Key::Shift).send_keys("u").key_up(Key::Shift);
    let loose = bench.after(async |_| Ok(chain.perform().await?)).await?;
    ensure!(bundles(&loose).is_empty() && order(&loose) == ids && boxes(&loose) == boxes(&made));
    // one piece is no bundle
    press_on(&bench, (290.0, 70.0), &[]).await?;
    browser.keys("u").await?;
    browser.reads("at least two").await?;
    bench.browser.close().await
}
