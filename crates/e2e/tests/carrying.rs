//! What a hand does in one drag: the wheel sizes, turns and counts what is carried, and a finish is pulled from its card.

use anyhow::{Context, Result, ensure};
use inky_e2e::steps::{bounds, bring_photo, on_screen, rect};
use inky_e2e::{Bench, Browser};
use serde_json::{Value, json};
use thirtyfour::prelude::*;
use uuid::Uuid;

/// Holds the button down on a way, and waits there for what `meanwhile` looks at before it is let go.
async fn carried(
    browser: &Browser,
    from: (i64, i64),
    to: (i64, i64),
    meanwhile: impl AsyncFnOnce() -> Result<()>,
) -> Result<()> {
    let way = browser.page.action_chain().move_to(from.0, from.1).click_and_hold();
    way.move_to((from.0 + to.0) / 2, (from.1 + to.1) / 2).move_to(to.0, to.1).perform().await?;
    meanwhile().await?;
    Ok(browser.page.action_chain().release().perform().await?)
}

#[tokio::test(flavor = "multi_thread")]
async fn what_is_carried_is_sized_and_counted_by_the_wheel() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    bench.draw("Box", false, (40.0, 40.0), (100.0, 80.0)).await?;
    let drawn = bench.sheet().await?;
    let [l, t, r, b] = bounds(&drawn);
    let (wide, high) = (r - l, b - t);
    let scene = rect(browser, "[data-testid=scene]").await?;
    let (from, to) = (on_screen(browser, &drawn, 70.0, 60.0).await?, on_screen(browser, &drawn, 190.0, 160.0).await?);
    let sized = bench
        .after(async |b| {
            carried(b, from, to, async || {
                b.reads("The wheel scales it; with Ctrl it turns").await?;
                b.wheel(to, 4, false).await?;
                b.wheel(to, -18, true).await
            })
            .await
        })
        .await?;
    let [l, t, r, b] = bounds(&sized);
    let grown = 0.4_f64.exp();
    ensure!((r - l - high * grown).abs() < 0.1 && (b - t - wide * grown).abs() < 0.1, "{} x {}", r - l, b - t);
    ensure!(((l + r) / 2.0 - 190.0).abs() < 1.5 && ((t + b) / 2.0 - 160.0).abs() < 1.5, "about its middle");
    ensure!(rect(browser, "[data-testid=scene]").await? == scene, "the sheet itself stays where it is");

    // copies in equal steps, the last one where the pointer is; one step to be undone
    let away = on_screen(browser, &sized, 310.0, 130.0).await?;
    browser.page.action_chain().key_down(Key::Alt).perform().await?;
    carried(browser, to, away, async || {
        browser.wheel(away, 3, false).await?;
        browser.wheel(away, -1, false).await?;
        browser.reads("3 copies in equal steps").await
    })
    .await?;
    browser.page.action_chain().key_up(Key::Alt).perform().await?;
    let copied = browser
        .until("three copies", async || {
            let now = bench.sheet().await.ok()?;
            (now["sheet"]["pieces"].as_array()?.len() == 4).then_some(now)
        })
        .await?;
    browser.kept().await?;
    let left = |bench: &Value, k: usize| bench["scene"]["pieces"][k]["bounds"][0].as_f64().unwrap_or(f64::NAN);
    let mut lefts: Vec<f64> = (0..4).map(|k| left(&copied, k)).collect();
    lefts.sort_by(f64::total_cmp);
    ensure!(lefts.windows(2).all(|w| (w[1] - w[0] - (lefts[3] - lefts[0]) / 3.0).abs() < 1e-6), "{lefts:?}");
    ensure!((lefts[3] - lefts[0] - 120.0).abs() < 8.0, "{lefts:?}");
    let back = bench.after(async |b| b.press("Undo").await).await?;
    ensure!(back["sheet"]["pieces"].as_array().map(Vec::len) == Some(1), "undone at once");
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_finish_is_pulled_from_its_card() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    bench.draw("Box", false, (100.0, 80.0), (200.0, 180.0)).await?;
    let finish = |bench: &Value| bench["sheet"]["pieces"][0]["kind"]["finish"].clone();
    let pull = async |card: &str, by: i64, says: &str| -> Result<Value> {
        let from = bench.middle(&format!("[aria-label^='{card}:']")).await?;
        bench.after(async |b| carried(b, from, (from.0 + by, from.1), async || b.reads(says).await).await).await
    };
    let rimmed = pull("Rims", 12, "Rim: ").await?;
    let width = finish(&rimmed)["rims"][0]["width"].as_f64().unwrap_or(0.0);
    ensure!((4.0..12.0).contains(&width), "{}", finish(&rimmed));
    // its card is open, with the number taken hold of: Escape closes it at once, unless something was typed
    let field = browser.at("//label[starts-with(., 'Width')]/following-sibling::input").await?;
    browser.keys("7").await?;
    browser.keys(Key::Escape + "").await?;
    ensure!(field.prop("value").await?.unwrap_or_default() == format!("{width}"));
    browser.keys(Key::Escape + "").await?;
    browser.until("no card", async || browser.page.find(By::Css("[data-testid=card]")).await.err()).await?;
    // further to the left than there is anything: nothing of it is left
    let thin = pull("Rims", -60, "Rim: 0 mm").await?;
    ensure!(finish(&thin)["rims"][0]["width"] == 0.0, "{}", finish(&thin));
    let shaded = pull("Shadows", 9, "Shadow: ").await?;
    ensure!(finish(&shaded)["shadows"][0]["distance"].as_f64() > Some(3.0), "{}", finish(&shaded));
    // a press that does not leave its place opens the card, and changes nothing
    browser.keys(Key::Escape + "").await?;
    bench.card("Edge").await?;
    ensure!(finish(&bench.sheet().await?) == finish(&shaded));
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_photo_behind_two_windows_moves_in_both_with_the_pointer() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    bench.draw("Box", false, (40.0, 40.0), (120.0, 120.0)).await?;
    bring_photo(browser, "Photo into it", "demo/photos/dunes.jpg").await?;
    bench.draw("Box", false, (180.0, 40.0), (260.0, 120.0)).await?;
    let there = bench.sheet().await?;
    let pieces = &there["sheet"]["pieces"];
    let id = there["id"].as_str().context("no sheet")?;
    let share = json!({
        "edit": "share_fill", "piece": pieces[1]["id"], "fill": Uuid::new_v4(), "of": pieces[0]["kind"]["fills"][0]["id"]
    });
    bench
        .server
        .keep(
            id,
            "edits",
            json!({ "base": there["revision"], "request": Uuid::new_v4(), "gesture": null, "edits": [share] }),
        )
        .await?;
    browser.page.refresh().await?;
    let shared = bench.sheet().await?;
    let (from, to) = (on_screen(browser, &shared, 80.0, 80.0).await?, on_screen(browser, &shared, 95.0, 84.0).await?);
    browser.page.action_chain().move_to(from.0, from.1).click().perform().await?;
    browser.keys("f").await?;
    // without any answer of the server
    browser.script("window.fetch = () => new Promise(() => {})").await?;
    let moved = "return [...document.querySelectorAll('[data-piece]')].map((g) => g.querySelector('image[data-moves], [data-moves] image, [data-moves~=fill]')).map((e) => e && e.getAttribute('transform'))";
    let before = browser.script(moved).await?;
    carried(browser, from, to, async || {
        let now = browser.script(moved).await?;
        ensure!(
            now.as_array().map(Vec::len) == Some(2) && now[0] != before[0] && now[1] != before[1],
            "{before} {now}"
        );
        let first = |v: &Value| v.as_str().and_then(|t| t.split(')').next()).map(str::to_owned);
        ensure!(first(&now[0]).is_some() && first(&now[0]) == first(&now[1]), "{now}");
        Ok(())
    })
    .await?;
    bench.browser.close().await
}
