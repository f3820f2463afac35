//! Rough prints: what is done to keep their drags smooth shows in nothing but their pace.

use anyhow::{Result, ensure};
use image::RgbaImage;
use inky_e2e::compare::difference;
use inky_e2e::steps::{bounds, bring_photo, newer, on_screen, rect};
use inky_e2e::{Bench, root};
use serde_json::Value;
use thirtyfour::prelude::*;

/// The sheet on the screen; what is drawn for handling is hidden meanwhile.
async fn bare(bench: &Bench) -> Result<RgbaImage> {
    let others = |shown: &str| {
        format!(
            "for (const e of document.querySelector('[data-testid=port]').children) if (e.dataset.testid !== 'scene') e.style.visibility = '{shown}'"
        )
    };
    bench.browser.script(&others("hidden")).await?;
    let [left, top, width, height] = rect(&bench.browser, "[data-testid=scene]").await?;
    let shot = bench.browser.screenshot().await?;
    bench.browser.script(&others("")).await?;
    Ok(image::imageops::crop_imm(&shot, left as u32, top as u32, width as u32, height as u32).to_image())
}

/// Drags a form, and compares the sheet before and after it is let go of. `parts` counts what it is painted in; `soft` is the share of
/// pixels that may be off by more than 24.
async fn looks_the_same_while_dragged(bench: &Bench, sheet: &Value, form: usize, parts: &str, soft: f64) -> Result<()> {
    let browser = &bench.browser;
    bench.open_form(form).await?;
    let [l, t, r, b] = bounds(sheet);
    let (x, y) = on_screen(browser, sheet, (l + r) / 2.0, (t + b) / 2.0).await?;
    let hold = browser.page.action_chain().move_to(x, y).click_and_hold();
    hold.move_to(x + 8, y + 4).move_to(x + 30, y + 20).perform().await?;
    let painted = format!("return {parts} > 12");
    browser.until("the parts", async || browser.script(&painted).await.ok()?.as_bool()?.then_some(())).await?;
    // the last answer is shown when nothing changes any more
    let mut held = bare(bench).await?;
    browser
        .until("a picture that stays", async || {
            let next = bare(bench).await.ok()?;
            let stays = next == held;
            held = next;
            stays.then_some(())
        })
        .await?;
    let before = bench.sheet().await?;
    browser.page.action_chain().release().perform().await?;
    newer(browser, &bench.server, &before).await?;
    browser.kept().await?;
    let kept = bare(bench).await?;
    let (mean, off) = difference(&held, &kept);
    println!("held and kept: mean {mean:.3}, {:.3}% off", off * 100.0);
    ensure!(mean < 2.0 && off < soft, "held and kept differ: mean {mean:.2}, {:.2}% off", off * 100.0);
    browser.press("Close the card").await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_print_looks_the_same_while_it_is_dragged() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    browser.press("Add a shape").await?;
    let chooser = browser.page.find(By::Css("input[aria-label='Drawing file']")).await?;
    let print = root().canonicalize()?.join("demo/drawings/lantern-print.svg");
    let before = bench.sheet().await?;
    chooser.send_keys(print.to_string_lossy()).await?;
    newer(browser, &bench.server, &before).await?;
    browser.press("Close the card").await?;
    // with a shape beside it: a print alone is the whole opening, which is moved in another way
    bench.draw("Ellipse", true, (140.0, 120.0), (190.0, 160.0)).await?;
    let printed = bench.sheet().await?;
    let lines = "document.querySelectorAll('[data-testid=scene] g > g > path').length";
    // moved as one layer it lies between pixels, and its edges are a little soft until it is let go of
    looks_the_same_while_dragged(&bench, &printed, 0, lines, 0.03).await?;
    looks_the_same_while_dragged(&bench, &printed, 1, lines, 0.03).await?;
    bring_photo(browser, "Photo into it", "demo/photos/octopus-kite.jpg").await?;
    browser.at("//*[local-name()='image']").await?;
    // its subject is looked for meanwhile, and answers come later than they would
    let searched = async || browser.text().await.is_ok_and(|t| !t.contains("It is looked for"));
    browser.until("the end of the search", async || searched().await.then_some(())).await?;
    let filled = bench.sheet().await?;
    let fields = "document.querySelectorAll('[data-testid=scene] clipPath').length";
    looks_the_same_while_dragged(&bench, &filled, 0, fields, 0.003).await?;
    let whole = browser.script("return document.querySelectorAll('[data-testid=scene] clipPath').length").await?;
    ensure!(whole == 1, "{whole} clip paths at rest");
    Ok(())
}
