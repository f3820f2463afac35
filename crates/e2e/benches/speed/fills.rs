//! Large photos, many of them, and sliders.

use crate::{dragged_by, frames_while, line, timed};
use anyhow::{Context, Result};
use image::{DynamicImage, RgbImage, imageops};
use inky_e2e::{Browser, Server, root, steps::rect};
use serde_json::{Value, json};
use uuid::Uuid;

pub async fn measure(server: &Server, browser: &Browser) -> Result<()> {
    let dunes = image::open(root().join("demo/photos/dunes.jpg"))?.into_rgb8();

    // a photo of 40 megapixels is slid in a word; nothing of it crosses while it is
    let large = upload(server, &dunes, 7746, 5164, 0).await?;
    let sheet = server.new_sheet("Large").await?;
    let mut base = 1;
    let word = add_word(server, &sheet, &mut base, "QUAY", &large).await?;
    browser.page.goto(format!("{}/sheet/{sheet}", server.address)).await?;
    pictures(browser, 1).await?;
    browser.click("//nav//button[starts-with(@aria-label, 'Select')]").await?;
    browser.keys("f").await?;
    line("frames while a photo of 40 megapixels is slid in a word", dragged_by(browser, "fill").await?, "p95 < 33");

    // a two-ink print, from the click on the slider to the frame that shows it, acknowledged and kept
    let window = server.get(&format!("/sheets/{sheet}")).await?;
    let mut fill = window["sheet"]["pieces"][0]["kind"]["fills"][0].clone();
    let mut base = window["revision"].as_u64().context("no revision")?;
    fill["paint"]["tone"] = json!({ "brightness": 0.0, "contrast": 0.0, "saturation": 0.0, "warmth": 0.0,
        "print": { "inks": "two", "dark": { "colour": "#141b34" }, "light": { "colour": "#f3c84b" } } });
    let slide = async |round: usize| -> Result<()> {
        fill["paint"]["tone"]["contrast"] = json!(round as f64 / 60.0);
        edit(server, &sheet, &mut base, json!({ "edit": "set_fill", "piece": word, "fill": fill })).await
    };
    line("contrast of a two-ink print, changed and kept, on loopback", timed(60, slide).await?, "p95 < 100");
    let mut base = server.get(&format!("/sheets/{sheet}")).await?["revision"].as_u64().context("no revision")?;
    let soften = async |round: usize| -> Result<()> {
        let finish = json!({ "softness": { "width": round as f64 / 3.0, "side": "outward" } });
        edit(server, &sheet, &mut base, json!({ "edit": "set_finish", "piece": word, "finish": finish })).await
    };
    line("softness of its edge, changed and kept, on loopback", timed(60, soften).await?, "p95 < 100");
    browser.page.goto(format!("{}/sheet/{sheet}", server.address)).await?;
    pictures(browser, 1).await?;
    browser.click("//nav//button[starts-with(@aria-label, 'Select')]").await?;
    browser.click("//button[starts-with(@aria-label, 'Edge: ')]").await?;
    line("frames while its softness is slid in the browser", softened(browser).await?, "p95 < 100");

    // ten windows with a photo of 12 megapixels each
    let sheet = server.new_sheet("Ten").await?;
    let mut base = 1;
    for k in 0..10 {
        let photo = upload(server, &dunes, 4242, 2828, k + 1).await?;
        add_word(server, &sheet, &mut base, "QUAY", &photo).await?;
    }
    let open = async |_: usize| -> Result<()> {
        browser.page.goto("about:blank").await?;
        browser.page.goto(format!("{}/sheet/{sheet}", server.address)).await?;
        pictures(browser, 10).await
    };
    open(0).await?;
    line("ten windows with 12 megapixels each, until all is seen", timed(5, open).await?, "< 3000");
    Ok(())
}

/// Takes a photo in, enlarged to this size; each `mark` makes another file of it.
async fn upload(server: &Server, photo: &RgbImage, width: u32, height: u32, mark: u32) -> Result<Value> {
    let mut large = imageops::resize(photo, width, height, imageops::FilterType::Triangle);
    large.put_pixel(mark, 0, image::Rgb([255, 0, 0]));
    let mut jpeg = std::io::Cursor::new(Vec::new());
    DynamicImage::ImageRgb8(large).write_to(&mut jpeg, image::ImageFormat::Jpeg)?;
    let (status, card) = server.upload("photos", "large.jpg", jpeg.into_inner()).await?;
    anyhow::ensure!(status.is_success(), "{card}");
    Ok(card["id"].clone())
}

async fn edit(server: &Server, sheet: &str, base: &mut u64, edit: Value) -> Result<()> {
    let body = json!({ "base": *base, "request": Uuid::new_v4(), "gesture": null, "edits": [edit] });
    *base = server.post(&format!("/sheets/{sheet}/edits"), body).await?["revision"].as_u64().context("no revision")?;
    Ok(())
}

/// A word with a photo in it; its piece.
async fn add_word(server: &Server, sheet: &str, base: &mut u64, text: &str, photo: &Value) -> Result<Uuid> {
    let piece = Uuid::new_v4();
    let add = json!({ "edit": "add_lettering", "piece": piece, "form": Uuid::new_v4(), "fill": Uuid::new_v4(), "text": text, "font": "anton" });
    edit(server, sheet, base, add).await?;
    // half as high as the sheet: how much is painted has to be the same from one version to the next
    let bench = server.get(&format!("/sheets/{sheet}")).await?;
    let bounds = bench["scene"]["pieces"].as_array().and_then(|p| p.last()).map(|p| p["bounds"].clone());
    let [l, t, r, b]: [f64; 4] = serde_json::from_value(bounds.context("no word")?)?;
    let size = (0.76 * 420.0 / (r - l)).min(0.5 * 297.0 / (b - t));
    let by = [size, 0.0, 0.0, size, 210.0 * (1.0 - size), 148.5 * (1.0 - size)];
    let smaller = json!({ "edit": "opening", "piece": piece, "change": "transform", "forms": [], "by": by });
    edit(server, sheet, base, smaller).await?;
    let fill = json!({ "edit": "fill_with_photo", "piece": piece, "fill": Uuid::new_v4(), "photo": photo });
    edit(server, sheet, base, fill).await?;
    Ok(piece)
}

/// Waits until so many photos are there and decoded.
async fn pictures(browser: &Browser, count: usize) -> Result<()> {
    let there = "const i = [...document.querySelectorAll('[data-testid=scene] image')]; \
                 return Promise.all(i.map(e => { const p = new Image(); p.src = e.href.baseVal; return p.decode() })).then(() => i.length)";
    browser
        .until("the photos", async || (browser.script(there).await.ok()?.as_u64()? as usize >= count).then_some(()))
        .await
}

async fn softened(browser: &Browser) -> Result<(f64, f64)> {
    let _ = rect(browser, "input[type=range]").await?;
    let step = "(i) => {
        const slider = document.querySelector('input[type=range]')
        const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set
        set.call(slider, String(2 + (i % 30)))
        slider.dispatchEvent(new Event('input', { bubbles: true }))
    }";
    frames_while(browser, step).await
}
