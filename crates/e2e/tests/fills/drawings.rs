//! Imported drawings as fills: their parts, repeated, let out; and gradients of rims, in the real interface.

use super::{kinds, window};
use anyhow::{Result, ensure};
use inky_e2e::Bench;
use inky_e2e::compare::{screen_is_file, shows_colour};
use inky_e2e::steps::{bring_photo, inside, on_screen, type_word};
use serde_json::Value;

/// What a photo became that took the place of the first ink.
fn tile(bench: &Value) -> &Value {
    &window(bench)["fills"][0]["paint"]
}

fn drawing(bench: &Value) -> &Value {
    &window(bench)["fills"][1]["paint"]
}

/// The number of looks that say so of a part.
fn told(bench: &Value, key: &str) -> usize {
    let looks = drawing(bench)["looks"].as_array();
    looks.map_or(0, |l| l.iter().filter(|look| look[key] == true || look[key].is_object()).count())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_drawing_keeps_its_colours_and_each_of_its_groups_can_be_reached() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    bench.draw("Ellipse", false, (120.0, 50.0), (300.0, 230.0)).await?;
    browser.press("Add a fill").await?;
    bring_photo(browser, "Drawing inside", "demo/stock/ribbon-kite.svg").await?;
    browser.at("//ul[@aria-label='Parts of the drawing']//button[contains(., 'Sail')]").await?;
    let laid = bench.sheet().await?;
    assert_eq!(kinds(&laid), ["colour", "drawing"]);
    shows_colour(browser, [0xf4, 0xb6, 0x3f], [0.0, 0.0, 1.0, 1.0]).await?;

    // a group in one paint, which becomes an ink and follows it; another switched off
    browser.press("Ribbons").await?;
    bench.after(async |b| b.press("In one paint").await).await?;
    bench.after(async |b| b.press("Keep as an ink").await).await?;
    // it is mixed, then painted with
    browser.at("//*[@role='radio' and @aria-checked='true' and .='Ink 1']").await?;
    browser.kept().await?;
    let inked = bench.sheet().await?;
    assert_eq!(drawing(&inked)["looks"][0]["paint"]["ink"], inked["sheet"]["inks"][0]["id"]);
    let without = bench.after(async |b| b.click("//input[@aria-label='Show Sun']").await).await?;
    assert_eq!((told(&without, "off"), told(&without, "paint")), (1, 1));
    screen_is_file(browser, &bench.server).await?;

    // larger, and with its ribbons over the edge, by the box that was ticked
    bench.select(0).await?;
    bench.card("Drawing").await?;
    browser.press("Placement").await?;
    bench.number("Width, %", "60").await?;
    browser.press("Parts").await?;
    browser.press("Ribbons").await?;
    let out = bench.after(async |b| b.click("//label[contains(., 'Climbs out')]").await).await?;
    ensure!(told(&out, "out") > 2, "the ribbons and their bows: {}", drawing(&out)["looks"]);
    screen_is_file(browser, &bench.server).await?;

    // piece by piece on the sheet: one ribbon back in by a click, the group gives way to its other pieces; all below out at once
    bench.select(0).await?;
    bench.card("Breakout").await?;
    browser.at("//*[@data-testid='overhang-out']").await?;
    let outside = "return document.querySelectorAll('[data-testid=overhang-out]').length";
    let before = browser.script(outside).await?.as_u64().unwrap_or(0);
    ensure!(before >= 2, "{before} pieces are out");
    let (x, y) = inside(browser, "[data-testid=overhang-out]", 0).await?;
    browser.page.action_chain().move_to(x, y).click().perform().await?;
    browser
        .until("a piece that is in again", async || {
            (browser.script(outside).await.ok()?.as_u64()? < before).then_some(())
        })
        .await?;
    let fewer = bench.after(async |b| b.press("Keep").await).await?;
    assert_eq!(fewer["undo"], "keep in");
    ensure!(told(&fewer, "out") > 1, "{}", drawing(&fewer)["looks"]);
    // a sweep that begins on one that is out takes in what it meets
    bench.card("Breakout").await?;
    browser.at("//*[@data-testid='overhang-out']").await?;
    let out = browser.script(outside).await?.as_u64().unwrap_or(0);
    let from = inside(browser, "[data-testid=overhang-out]", 0).await?;
    let to = inside(browser, "[data-testid=overhang-out]", 1).await?;
    browser.drag(from, to).await?;
    browser.until("a sweep", async || (browser.script(outside).await.ok()?.as_u64()? + 2 <= out).then_some(())).await?;
    browser.press("Drop").await?;
    bench.card("Breakout").await?;
    browser.press("around").await?;
    browser.at("//button[normalize-space(.)='around' and @aria-pressed='true']").await?;
    bench.after(async |b| b.press("Keep").await).await?;
    screen_is_file(browser, &bench.server).await?;

    // again and again, every other row shifted
    bench.select(0).await?;
    bench.card("Drawing").await?;
    browser.press("Repeat").await?;
    bench.after(async |b| b.press("Again and again").await).await?;
    let tiled = bench.number("Every other row, %", "50").await?;
    assert_eq!((&drawing(&tiled)["kind"], &drawing(&tiled)["offset"]), (&"tile".into(), &0.5.into()));
    screen_is_file(browser, &bench.server).await?;
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_photo_is_repeated_and_the_gradient_of_a_rim_is_dragged() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    type_word(browser, "FAIR").await?;
    bring_photo(browser, "Photo into it", "demo/photos/lanterns.jpg").await?;
    bench.card("Photo").await?;
    browser.press("Repeat").await?;
    bench.after(async |b| b.press("Again and again").await).await?;
    let tiled = bench.number("Step across, %", "130").await?;
    assert_eq!(tile(&tiled)["step"][0], 1.3);
    // a step of nothing becomes the least one there is
    let least = bench.number("Step down, %", "0").await?;
    assert_eq!(tile(&least)["step"][1], 0.25);
    bench.number("Step down, %", "120").await?;

    bench.select(0).await?;
    bench.card("Rims").await?;
    bench.after(async |b| b.press("Add a rim").await).await?;
    bench.number("Width, mm", "4").await?;
    let plain = bench.after(async |b| b.press("Gradient").await).await?;
    let [l, t, ..] = inky_e2e::steps::bounds(&plain);
    let dragged = bench
        .after(async |b| {
            let end = bench.middle("[data-testid=gradient-from]").await?;
            b.drag(end, on_screen(b, &plain, l - 5.0, t - 20.0).await?).await
        })
        .await?;
    let from = &window(&dragged)["finish"]["rims"][0]["paint"]["vector"]["from"];
    ensure!(from[0].as_f64().is_some_and(|x| (x - l + 5.0).abs() < 2.0), "{from}");
    screen_is_file(browser, &bench.server).await?;
    bench.browser.close().await
}
