//! Fills, finishes and inks, made with the mouse and compared with the delivered file.

mod chart;
mod drawings;

use anyhow::{Context, Result};
use inky_core::sheet::Colour;
use inky_e2e::Bench;
use inky_e2e::compare::{screen_is_file, shows_colour};
use inky_e2e::steps::{bring_photo, on_screen, type_word};
use serde_json::{Value, json};
use thirtyfour::prelude::*;
use uuid::Uuid;

fn window(bench: &Value) -> &Value {
    &bench["sheet"]["pieces"][0]["kind"]
}

fn kinds(bench: &Value) -> Vec<&str> {
    window(bench)["fills"].as_array().into_iter().flatten().filter_map(|f| f["paint"]["kind"].as_str()).collect()
}

async fn choose(browser: &inky_e2e::Browser, label: &str, option: &str) -> Result<()> {
    let option =
        format!("//label[starts-with(normalize-space(.), '{label}')]//option[@value='{option}' or .='{option}']");
    browser.click(&option).await
}

async fn word_with_a_photo() -> Result<Bench> {
    let bench = Bench::start().await?;
    type_word(&bench.browser, "DUSK").await?;
    bring_photo(&bench.browser, "Photo into it", "demo/photos/octopus-kite.jpg").await?;
    Ok(bench)
}

#[tokio::test(flavor = "multi_thread")]
async fn fills_lie_on_one_another_on_screen_and_in_the_file() -> Result<()> {
    let bench = word_with_a_photo().await?;
    let browser = &bench.browser;

    // a second photo over the first, multiplied
    browser.press("Add a fill").await?;
    bring_photo(browser, "A photo over it", "demo/photos/dunes.jpg").await?;
    browser.press("Strength and blend").await?;
    bench.after(async |b| choose(b, "Blend", "multiply").await).await?;
    let laid = bench.number("Strength, %", "70").await?;
    assert_eq!(kinds(&laid), ["photo", "photo"]);
    assert_eq!(window(&laid)["fills"][1]["strength"], 0.7);
    screen_is_file(browser, &bench.server).await?;

    // of two photos, the one in front is moved by itself
    bench.select(0).await?;
    browser.keys("f").await?;
    let nudged = bench.after(async |b| b.keys(Key::Right + "").await).await?;
    assert_eq!(window(&nudged)["fills"][0], window(&laid)["fills"][0]);
    assert_ne!(window(&nudged)["fills"][1]["paint"], window(&laid)["fills"][1]["paint"]);
    browser.keys("b").await?;

    // text inside of the word, in two moves, and a gradient whose end is dragged
    browser.press("Add a fill").await?;
    bench.after(async |b| b.keys("TIDE").await).await?;
    browser.kept().await?;
    let with_gradient = bench.after(async |b| b.press("A gradient that darkens below").await).await?;
    assert_eq!(kinds(&with_gradient), ["photo", "photo", "form", "gradient"]);
    let dragged = bench
        .after(async |b| {
            let end = bench.middle("[data-testid=gradient-to]").await?;
            b.drag(end, (end.0 - 60, end.1 - 30)).await
        })
        .await?;
    assert!(window(&dragged)["fills"][3]["paint"]["vector"]["to"].is_array(), "{}", window(&dragged)["fills"][3]);
    screen_is_file(browser, &bench.server).await?;

    // the gradient to the very back: it is no longer seen, and undo brings it to the front again
    bench.select(0).await?;
    browser.button("Gradient: gradient along").await?.click().await?;
    browser.press("Strength and blend").await?;
    for _ in 0..3 {
        bench.after(async |b| b.press("Further back").await).await?;
    }
    let behind = bench.sheet().await?;
    assert_eq!(kinds(&behind), ["gradient", "photo", "photo", "form"]);
    let off = bench.after(async |b| b.press("Switch off").await).await?;
    assert_eq!(window(&off)["fills"][0]["off"], true);
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn tones_and_finishes_are_the_same_on_screen_and_in_the_file() -> Result<()> {
    let bench = word_with_a_photo().await?;
    let browser = &bench.browser;

    bench.card("Photo").await?;
    browser.press("Tone").await?;
    bench.number("Contrast, %", "30").await?;
    bench.number("Warmth, %", "-40").await?;
    screen_is_file(browser, &bench.server).await?;
    bench.select(0).await?;
    bench.card("Photo").await?;
    browser.press("Tone").await?;
    let printed = bench.after(async |b| b.press("In two inks").await).await?;
    assert_eq!(window(&printed)["fills"][0]["paint"]["tone"]["print"]["inks"], "two");

    bench.card("Rims").await?;
    bench.after(async |b| b.press("Add a rim").await).await?;
    bench.number("Width, mm", "3").await?;
    bench.after(async |b| b.press("Colour #d7263d").await).await?;
    bench.after(async |b| b.press("Add a rim").await).await?;
    bench.after(async |b| b.press("Inside").await).await?;
    let dashed = bench.after(async |b| b.press("Dashed").await).await?;
    assert_eq!(window(&dashed)["finish"]["rims"].as_array().map(Vec::len), Some(2));
    bench.card("Shadows").await?;
    bench.after(async |b| b.press("Add a shadow").await).await?;
    bench.after(async |b| b.press("One inside").await).await?;
    bench.after(async |b| b.press("A glow").await).await?;
    screen_is_file(browser, &bench.server).await?;

    // the finish as it is for another window, which then fades
    type_word(browser, "INK").await?;
    bench.select(1).await?;
    bench.card("Edge").await?;
    let copied = bench.after(async |b| choose(b, "Same finish for", "INK").await).await?;
    assert_eq!(copied["sheet"]["pieces"][1]["kind"]["finish"], window(&copied)["finish"]);
    bench.number("Softness, mm", "9").await?;
    bench.after(async |b| b.press("Outward").await).await?;
    bench.number("Strength, %", "80").await?;
    screen_is_file(browser, &bench.server).await?;
    bench.select(1).await?;
    bench.card("Edge").await?;
    let negative = bench.after(async |b| b.click("//label[contains(., 'Negative')]").await).await?;
    assert_eq!(window(&negative)["finish"]["negative"], true);
    screen_is_file(browser, &bench.server).await?;
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn inks_are_mixed_once_and_followed_everywhere() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    let typed = async |label: &str, text: &str| -> Result<()> {
        let input = browser.at(&format!("//input[@aria-label='{label}: a CSS colour']")).await?;
        input.send_keys(Key::Control + "a").await?;
        Ok(input.send_keys(text.to_owned() + Key::Enter).await?)
    };
    bench.card("Inks").await?;
    bench.after(async |b| b.press("Mix an ink").await).await?;
    let mixed = bench.after(async |_| typed("Colour", "tomato").await).await?;
    let ink = &mixed["sheet"]["inks"][0];
    assert_eq!(ink["mix"]["colour"], "#ff6347");
    // what is no colour changes nothing
    typed("Colour", "tomatoe").await?;
    assert_eq!(bench.sheet().await?["sheet"]["inks"], mixed["sheet"]["inks"]);

    // a border, a word and its rim in this ink
    bench.card("Border").await?;
    bench.after(async |b| b.click("//label[contains(., 'A line around')]").await).await?;
    bench.after(async |b| b.press("Ink 1").await).await?;
    browser.press("Close the card").await?;
    type_word(browser, "INK").await?;
    bench.card("Ink").await?;
    bench.after(async |b| b.press("Ink 1").await).await?;
    // the border above, the word in the middle
    let (above, middle) = ([0.0, 0.0, 1.0, 0.1], [0.1, 0.2, 0.9, 0.8]);
    for place in [above, middle] {
        shows_colour(browser, [0xff, 0x63, 0x47], place).await?;
    }

    for _ in 0..2 {
        browser.keys(Key::Escape + "").await?;
    }
    bench.card("Inks").await?;
    let green = bench.after(async |_| typed("Colour", "oklch(60% 0.15 150)").await).await?;
    let mix = serde_json::from_value::<Colour>(green["sheet"]["inks"][0]["mix"]["colour"].clone())?;
    assert_ne!(mix.0, [0xff, 0x63, 0x47]);
    for place in [above, middle] {
        shows_colour(browser, mix.0, place).await?;
    }
    screen_is_file(browser, &bench.server).await?;
    // removed, it leaves its colour behind
    bench.card("Inks").await?;
    let without = bench.after(async |b| b.press("Remove the ink").await).await?;
    assert_eq!(without["scene"], green["scene"]);

    // a gradient behind everything, its middle dragged on the sheet
    browser.press("Close the card").await?;
    bench.card("Background").await?;
    bench.after(async |b| b.press("Gradient").await).await?;
    bench.after(async |b| b.press("Around").await).await?;
    let sheet = bench.sheet().await?;
    bench
        .after(async |b| {
            let from = bench.middle("[data-testid=gradient-from]").await?;
            b.drag(from, on_screen(b, &sheet, 300.0, 80.0).await?).await
        })
        .await?;
    screen_is_file(browser, &bench.server).await?;

    // the bleed: the cut is shown, and the file is as much larger as it says
    bench.card("Size").await?;
    let bled = bench.number("Bleed", "6").await?;
    browser.at("//*[@data-testid='cut']").await?;
    let id = bled["id"].as_str().context("no id")?;
    for (with, width) in [(false, 1654), (true, 1701)] {
        let task = json!({ "task": "deliver", "kind": "png", "ppi": 100.0, "bleed": with });
        let job = bench.server.post(&format!("/sheets/{id}/jobs"), task).await?;
        bench.server.finished(&job).await?;
        let file = format!("/api/jobs/{}/file", job["id"].as_str().context("no job")?);
        let (_, _, bytes) = bench.server.bytes(&file).await?;
        assert_eq!(image::load_from_memory(&bytes)?.width(), width);
    }
    screen_is_file(browser, &bench.server).await?;
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_photo_is_pulled_by_its_corners_and_breaks_out_all_the_same() -> Result<()> {
    let bench = word_with_a_photo().await?;
    let browser = &bench.browser;
    bench.find_subject().await?;
    bench.card("Photo").await?;
    bench.number("Width, %", "70").await?;
    bench.number("Slant, °", "8").await?;
    browser.press("Pull its corners").await?;
    let pulled = bench
        .after(async |b| {
            let corner = bench.middle("[data-testid=pull-1]").await?;
            b.drag(corner, (corner.0 - 50, corner.1 + 35)).await
        })
        .await?;
    let pull = &window(&pulled)["fills"][0]["paint"]["placement"]["pull"];
    assert!(pull[1][0].as_f64().is_some_and(|v| v < -0.02) && pull[3][0] == 0.0, "{pull}");
    bench.card("Breakout").await?;
    browser.press("around").await?;
    bench.after(async |b| b.press("Keep").await).await?;
    let shown = "return document.querySelectorAll('[data-testid=scene] g[data-breakout] image').length";
    browser.until("what breaks out", async || (browser.script(shown).await.ok()?.as_u64()? > 0).then_some(())).await?;
    screen_is_file(browser, &bench.server).await?;
    bench.browser.close().await
}

/// A PNG in a gamut wider than that of screens (Display P3).
fn wide_gamut() -> Result<Vec<u8>> {
    let picture = image::RgbImage::from_fn(96, 64, |x, y| image::Rgb([(x * 255 / 95) as u8, (y * 255 / 63) as u8, 40]));
    let mut out = Vec::new();
    let mut encoder = image::codecs::png::PngEncoder::new(&mut out);
    let profile = moxcms::ColorProfile::new_display_p3().encode().map_err(|e| anyhow::anyhow!("{e:?}"))?;
    image::ImageEncoder::set_icc_profile(&mut encoder, profile)?;
    picture.write_with_encoder(encoder)?;
    Ok(out)
}

#[tokio::test(flavor = "multi_thread")]
async fn photos_of_every_kind_are_the_same_on_screen_and_in_the_file() -> Result<()> {
    let bench = Bench::start().await?;
    let server = &bench.server;
    let id = bench.sheet().await?["id"].as_str().context("no id")?.to_owned();
    let folder = inky_e2e::root().join("crates/photo/tests/photos");
    let mut files = vec![("wide-gamut.png", wide_gamut()?)];
    for name in
        ["cmyk.jpg", "grey.tif", "one-bit.png", "clear.png", "sixteen-bit.png", "bad-profile.jpg", "animated.webp"]
    {
        files.push((name, std::fs::read(folder.join(name))?));
    }
    let mut base = bench.sheet().await?["revision"].as_u64().context("no revision")?;
    for (k, (name, bytes)) in files.into_iter().enumerate() {
        let (status, card) = server.upload("photos", name, bytes).await?;
        anyhow::ensure!(status.is_success(), "{name}: {card}");
        let noted = card["notes"].as_array().is_some_and(|n| !n.is_empty());
        assert_eq!(noted, ["bad-profile.jpg", "animated.webp"].contains(&name), "{name}: {card}");
        let (piece, x, y) = (Uuid::new_v4(), 60.0 + 100.0 * (k % 4) as f64, 80.0 + 130.0 * (k / 4) as f64);
        let form = json!({ "id": Uuid::new_v4(), "join": "add", "off": false, "pose": { "x": x, "y": y },
            "shape": { "kind": "basic", "width": 84.0, "height": 100.0, "figure": { "figure": "arch", "rise": 0.4 } } });
        for edit in [
            json!({ "edit": "add_window", "piece": piece, "form": form, "fill": Uuid::new_v4() }),
            json!({ "edit": "fill_with_photo", "piece": piece, "fill": Uuid::new_v4(), "photo": card["id"] }),
        ] {
            let body = json!({ "base": base, "request": Uuid::new_v4(), "gesture": null, "edits": [edit] });
            base =
                server.post(&format!("/sheets/{id}/edits"), body).await?["revision"].as_u64().context("no revision")?;
        }
    }
    bench.browser.page.refresh().await?;
    let shown = "return document.querySelectorAll('[data-testid=scene] image').length";
    bench.browser.until("the photos", async || (bench.browser.script(shown).await.ok()? == 8).then_some(())).await?;
    screen_is_file(&bench.browser, server).await?;
    bench.browser.close().await
}
