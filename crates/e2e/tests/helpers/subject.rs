//! Strokes over what belongs to a subject and what does not, and how it is looked at, in the real interface.

use anyhow::{Context, Result, ensure};
use inky_e2e::steps::{bring_photo, look_for_subject, rect, type_word};
use inky_e2e::{Bench, Browser, Scratch, root};
use serde_json::Value;
use thirtyfour::prelude::*;

/// The only photo of a sheet.
pub(super) fn photo(bench: &Value) -> &Value {
    bench["sheet"]["photos"].as_object().and_then(|p| p.values().next()).unwrap_or(&Value::Null)
}

/// How opaque the first subject is at a share of the photo's width and height.
async fn alpha(bench: &Bench, sheet: &Value, x: f64, y: f64) -> Result<u8> {
    alpha_of(bench, sheet, 0, (x, y)).await
}

/// How opaque one of the subjects is there.
pub(super) async fn alpha_of(bench: &Bench, sheet: &Value, which: usize, (x, y): (f64, f64)) -> Result<u8> {
    let subject = photo(sheet)["subjects"][which]["matte"].as_str().context("no subject")?.to_owned();
    let level = &sheet["scene"]["pieces"][0]["photos"][0]["sides"][0];
    let (_, _, bytes) = bench.server.bytes(&format!("/api/subjects/{subject}/levels/{level}")).await?;
    let picture = image::load_from_memory(&bytes).with_context(|| level.to_string())?.into_rgba8();
    let at = |share: f64, side: u32| (share * f64::from(side)) as u32;
    Ok(picture.get_pixel(at(x, picture.width()), at(y, picture.height())).0[3])
}

/// Draws a stroke between two places of the photo, and waits until the subject is found anew.
async fn stroke(bench: &Bench, from: (f64, f64), to: (f64, f64)) -> Result<()> {
    let at = on_photo(bench).await?;
    another(bench, async |b| b.drag(at(from), at(to)).await).await
}

/// From shares of the photo's width and height to pixels of the window.
pub(super) async fn on_photo(bench: &Bench) -> Result<impl Fn((f64, f64)) -> (i64, i64) + use<>> {
    // what hides the sheet beneath the photo is as large as the photo
    let [x, y, w, h] = rect(&bench.browser, "[data-testid=scene] > g:last-of-type > g > image").await?;
    Ok(move |p: (f64, f64)| ((x + p.0 * w) as i64, (y + p.1 * h) as i64))
}

/// The matte that is shown.
const SHOWN: &str = "return document.querySelector('[data-testid=draft]')?.href.baseVal ?? null";

/// Does something and waits until another matte is shown.
pub(super) async fn another(bench: &Bench, act: impl AsyncFnOnce(&Browser) -> Result<()>) -> Result<()> {
    let browser = &bench.browser;
    let before = browser.script(SHOWN).await?;
    act(browser).await?;
    let other = async || {
        let now = browser.script(SHOWN).await.ok()?;
        (now.is_string() && now != before).then_some(())
    };
    browser.until("another matte", other).await
}

pub(super) async fn keep(bench: &Bench) -> Result<Value> {
    bench.after(async |b| b.click("//button[normalize-space(.)='Keep' and not(@disabled)]").await).await
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
    assert_eq!(photo(&stroked)["subjects"][0]["hints"]["strokes"].as_array().map(Vec::len), Some(2));
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
        // as its matte it is white on black, without it there is a mask of what is left
        let masked = "return [!!document.querySelector('[data-testid=scene] g[mask=\"url(#subject-rest)\"]'),
            document.querySelectorAll('[data-testid=scene] > g:last-of-type > g > [data-testid=found]').length]";
        let seen = browser.script(masked).await?;
        assert_eq!(seen, serde_json::json!([way == "rest", usize::from(way == "matte")]), "{way}");
    }
    another(&bench, async |b| b.press("Last stroke back").await).await?;
    assert_eq!(browser.script(strokes).await?, 1);
    another(&bench, async |b| b.press("Last stroke back").await).await?;
    assert_eq!(browser.script(strokes).await?, 0);
    // a step back brings the stroke back
    another(&bench, async |b| b.press("Take back a step").await).await?;
    assert_eq!(browser.script(strokes).await?, 1);
    another(&bench, async |b| b.press("Last stroke back").await).await?;
    let as_before = keep(&bench).await?;
    assert_eq!(photo(&as_before)["subjects"][0]["matte"], photo(&found)["subjects"][0]["matte"]);
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_matte_is_painted_shifted_traced_and_named() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    // a red disc on blue, and a smaller green one beside it
    let disc = |x: u32, y: u32, at: [f32; 2], r: f32| (x as f32 - at[0]).hypot(y as f32 - at[1]) < r;
    let picture = image::RgbaImage::from_fn(600, 400, |x, y| {
        let grain = ((x * 7 + y * 13) % 23) as u8;
        let colour = match (disc(x, y, [220.0, 200.0], 120.0), disc(x, y, [480.0, 200.0], 60.0)) {
            (true, _) => [190 + grain, 50, 40 + grain],
            (_, true) => [60 + grain, 150 + grain, 60],
            _ => [30 + grain, 60, 150 + grain],
        };
        image::Rgba([colour[0], colour[1], colour[2], 255])
    });
    let folder = Scratch::new()?;
    let file = folder.path().join("discs.png");
    picture.save(&file)?;
    type_word(browser, "AIR").await?;
    bring_photo(browser, "Photo into it", &file.to_string_lossy()).await?;

    // in a box
    look_for_subject(browser).await?;
    browser.until("something found", async || browser.script(SHOWN).await.ok()?.is_string().then_some(())).await?;
    browser.press("In a box").await?;
    let at = on_photo(&bench).await?;
    another(&bench, async |b| b.drag(at((0.15, 0.18)), at((0.58, 0.82))).await).await?;
    let first = keep(&bench).await?;
    let (red, green, blue) = ((0.36, 0.5), (0.8, 0.5), (0.36, 0.93));
    ensure!(alpha(&bench, &first, red.0, red.1).await? > 240 && alpha(&bench, &first, green.0, green.1).await? < 10);

    // a wide brush over the green disc: inside of it only, then wherever it goes
    bench.card("Subject").await?;
    browser.press("Paint").await?;
    let wide = "//label[starts-with(normalize-space(.), 'Brush')]/following-sibling::input";
    let width = browser.at(wide).await?;
    width.send_keys(Key::Control + "a").await?;
    width.send_keys("150" + Key::Enter).await?;
    another(&bench, async |b| b.drag(at((0.79, 0.48)), at((0.81, 0.52))).await).await?;
    let inside = keep(&bench).await?;
    let beside = (0.8, 0.33);
    ensure!(alpha(&bench, &inside, green.0, green.1).await? > 240, "the paint is not there");
    ensure!(alpha(&bench, &inside, beside.0, beside.1).await? < 30, "the paint spilt");
    bench.card("Subject").await?;
    browser.press("Paint").await?;
    another(&bench, async |b| b.press("Last paint back").await).await?;
    browser.click("//label[contains(., 'Inside the subject only')]//input").await?;
    let width = browser.at(wide).await?;
    width.send_keys(Key::Control + "a").await?;
    width.send_keys("150" + Key::Enter).await?;
    another(&bench, async |b| b.drag(at((0.79, 0.48)), at((0.81, 0.52))).await).await?;
    // by key, the brush begins in the middle of the photo and goes down
    browser.press("Take away").await?;
    browser.script("document.activeElement.blur()").await?;
    browser.keys(Key::Left + "").await?;
    browser.keys(" ").await?;
    browser.keys(Key::Left + "").await?;
    another(&bench, async |b| b.keys(" ").await).await?;
    let spilt = keep(&bench).await?;
    ensure!(alpha(&bench, &spilt, beside.0, beside.1).await? > 200, "free paint goes everywhere");
    ensure!(alpha(&bench, &spilt, 0.44, 0.5).await? < 10, "nothing was taken away");
    assert_eq!(photo(&spilt)["subjects"][0]["hints"]["painted"].as_array().map(Vec::len), Some(2));

    // a second subject, traced along the sky, with a name of its own; the first one stays
    bench.card("Subject").await?;
    browser.press("+ Another").await?;
    browser.press("Trace …").await?;
    browser.click("//label[contains(., 'Follow the photo')]//input").await?;
    for corner in [(0.2, 0.86), (0.5, 0.86), (0.5, 0.98), (0.2, 0.98), (0.2, 0.86)] {
        let (x, y) = at(corner);
        browser.page.action_chain().move_to(x, y).click().perform().await?;
    }
    browser.press("Keep").await?;
    browser.until("the traced matte", async || browser.script(SHOWN).await.ok()?.is_string().then_some(())).await?;
    // its edge: hard, and wider by twenty pixels
    browser.press("Edge").await?;
    another(&bench, async |b| b.click("//label[contains(., 'Hair and fluff')]//input").await).await?;
    let shift = browser.at("//label[starts-with(normalize-space(.), 'Shift')]/following-sibling::input").await?;
    another(&bench, async |_| {
        shift.send_keys(Key::Control + "a").await?;
        Ok(shift.send_keys("20" + Key::Enter).await?)
    })
    .await?;
    let both = keep(&bench).await?;
    let subjects = photo(&both)["subjects"].as_array().context("no subjects")?.clone();
    assert_eq!(subjects.len(), 2);
    let second = &subjects[1];
    assert_eq!((&second["key"], &second["name"]), (&1.into(), &"Subject 2".into()));
    assert_eq!(second["hints"]["edge"], serde_json::json!({ "hair": false, "shift": 20.0, "smooth": 0.0 }));
    let traced =
        serde_json::json!({ "sheet": { "photos": { "it": { "subjects": [second] } } }, "scene": both["scene"] });
    ensure!(alpha(&bench, &traced, blue.0, blue.1).await? > 240, "the contour is not in it");
    // 20 of 400 pixels above the contour, and no farther
    ensure!(alpha(&bench, &traced, 0.36, 0.83).await? > 200 && alpha(&bench, &traced, 0.36, 0.78).await? < 30);
    assert_eq!(subjects[0], photo(&spilt)["subjects"][0]);

    // named, and removed
    bench.card("Subject").await?;
    let name = browser.at("//input[@aria-label='Name of the subject']").await?;
    name.send_keys(Key::Control + "a").await?;
    let named = bench.after(async |_| Ok(name.send_keys("Disc" + Key::Enter).await?)).await?;
    assert_eq!(photo(&named)["subjects"][0]["name"], "Disc");
    let one = bench.after(async |b| b.press("Remove").await).await?;
    assert_eq!(photo(&one)["subjects"].as_array().map(Vec::len), Some(1));
    assert_eq!(one["undo"], "remove a subject");
    bench.browser.close().await
}
