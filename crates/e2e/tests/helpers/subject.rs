//! Strokes over what belongs to a subject and what does not, and how it is looked at, in the real interface.

use anyhow::{Context, Result, ensure};
use inky_e2e::steps::{bring_photo, type_word};
use inky_e2e::{Bench, Scratch, root};
use serde_json::Value;

/// The only photo of a sheet.
fn photo(bench: &Value) -> &Value {
    bench["sheet"]["photos"].as_object().and_then(|p| p.values().next()).unwrap_or(&Value::Null)
}

/// How opaque the subject is at a share of the photo's width and height.
async fn alpha(bench: &Bench, sheet: &Value, x: f64, y: f64) -> Result<u8> {
    let subject = photo(sheet)["subject"].as_str().context("no subject")?.to_owned();
    let shown = sheet["scene"]["layers"][0]["photos"][0]["href"].as_str().context("no photo")?;
    let level = shown.rsplit('/').next().context("no level")?;
    let (_, _, bytes) = bench.server.bytes(&format!("/api/subjects/{subject}/levels/{level}")).await?;
    let picture = image::load_from_memory(&bytes).with_context(|| shown.to_owned())?.into_rgba8();
    let at = |share: f64, side: u32| (share * f64::from(side)) as u32;
    Ok(picture.get_pixel(at(x, picture.width()), at(y, picture.height())).0[3])
}

/// Draws a stroke between two places of the photo, and waits until the subject is found anew.
async fn stroke(bench: &Bench, from: (f64, f64), to: (f64, f64)) -> Result<()> {
    let browser = &bench.browser;
    let shown = "document.querySelector('[data-testid=found]')";
    let before = browser.script(&format!("return {shown}.href.baseVal")).await?;
    let corners = browser
        .script(&format!("const b = {shown}.getBoundingClientRect(); return [b.x, b.y, b.width, b.height]"))
        .await?;
    let [x, y, w, h]: [f64; 4] = serde_json::from_value(corners)?;
    let at = |p: (f64, f64)| ((x + p.0 * w) as i64, (y + p.1 * h) as i64);
    browser.drag(at(from), at(to)).await?;
    let code = format!("return {shown}.href.baseVal");
    browser.until("another subject", async || (browser.script(&code).await.ok()? != before).then_some(())).await
}

async fn keep(bench: &Bench) -> Result<Value> {
    bench
        .after(async |b| Ok(b.at("//button[normalize-space(.)='Keep' and not(@disabled)]").await?.click().await?))
        .await
}

#[tokio::test(flavor = "multi_thread")]
async fn strokes_repair_what_was_found() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    // small, so that it is found soon
    let small =
        image::open(root().join("demo/photos/balloon.jpg"))?.resize(600, 900, image::imageops::FilterType::CatmullRom);
    let folder = Scratch::new()?;
    let file = folder.path().join("balloon.jpg");
    small.to_rgb8().save(&file)?;
    type_word(browser, "AIR").await?;
    bring_photo(browser, "Photo into it", &file.to_string_lossy()).await?;
    let found = bench.find_subject().await?;
    let (balloon, sky) = ((0.45, 0.33), (0.12, 0.07));
    ensure!(
        alpha(&bench, &found, balloon.0, balloon.1).await? > 240 && alpha(&bench, &found, sky.0, sky.1).await? < 10
    );

    // what is too much, and what is missing
    bench.card("Subject").await?;
    browser.press("Does not").await?;
    stroke(&bench, (0.38, 0.33), (0.52, 0.33)).await?;
    browser.press("Belongs to it").await?;
    stroke(&bench, (0.08, 0.07), (0.16, 0.07)).await?;
    let stroked = keep(&bench).await?;
    assert_eq!(photo(&stroked)["hints"]["strokes"].as_array().map(Vec::len), Some(2));
    ensure!(
        alpha(&bench, &stroked, balloon.0, balloon.1).await? < 10 && alpha(&bench, &stroked, sky.0, sky.1).await? > 240
    );

    // they are there when it is gone on with, and can be taken back; it is looked at in six ways meanwhile
    bench.card("Subject").await?;
    let strokes = "return document.querySelectorAll('[data-testid^=stroke-]').length";
    browser.until("both strokes", async || (browser.script(strokes).await.ok()? == 2).then_some(())).await?;
    for way in ["sheet", "black", "white", "matte", "rest", "photo"] {
        browser
            .at(&format!("//label[starts-with(normalize-space(.), 'Seen')]//option[@value='{way}']"))
            .await?
            .click()
            .await?;
        let filtered = browser
            .script("return document.querySelector('[data-testid=found]')?.getAttribute('filter') ?? null")
            .await?;
        assert_eq!(filtered.is_string(), way == "matte", "{way}: {filtered}");
    }
    let href = "return document.querySelector('[data-testid=found]').href.baseVal";
    for left in [1, 0] {
        let before = browser.script(href).await?;
        browser.press("Last stroke back").await?;
        browser.until("one less", async || (browser.script(href).await.ok()? != before).then_some(())).await?;
        assert_eq!(browser.script(strokes).await?, left);
    }
    let as_before = keep(&bench).await?;
    assert_eq!(photo(&as_before)["subject"], photo(&found)["subject"]);
    bench.browser.close().await
}
