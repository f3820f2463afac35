//! What the screen shows beside what the file contains.

use crate::steps::{rect, sheet};
use crate::{Browser, Server};
use anyhow::{Context, Result, ensure};
use image::{RgbaImage, imageops};
use serde_json::json;
use thirtyfour::prelude::*;

/// The mean difference per channel, and the share of pixels that are off by more than 24.
pub fn difference(a: &RgbaImage, b: &RgbaImage) -> (f64, f64) {
    let (mut sum, mut off) = (0_u64, 0_u64);
    for (p, q) in a.pixels().zip(b.pixels()) {
        let channels = (0..3).map(|c| u64::from(p.0[c].abs_diff(q.0[c])));
        sum += channels.clone().sum::<u64>();
        off += u64::from(channels.max().unwrap_or(0) > 24);
    }
    let n = f64::from(a.width() * a.height());
    (sum as f64 / n / 3.0, off as f64 / n)
}

/// The scene on the screen, as it is seen at the moment.
pub async fn scene_pixels(browser: &Browser) -> Result<RgbaImage> {
    let [left, top, width, height] = rect(browser, "[data-testid=scene]").await?;
    let shot = browser.screenshot().await?;
    Ok(imageops::crop_imm(&shot, left as u32, top as u32, width as u32, height as u32).to_image())
}

/// Waits until the scene shows a colour within (left, top, right, bottom, as shares of the sheet) in a hundred pixels.
pub async fn shows_colour(browser: &Browser, colour: [u8; 3], within: [f64; 4]) -> Result<()> {
    let near = |p: &image::Rgba<u8>| (0..3).all(|c| p.0[c].abs_diff(colour[c]) <= 6);
    browser
        .until(&format!("{colour:?} on the sheet"), async || {
            let scene = scene_pixels(browser).await.ok()?;
            let inside = |x: u32, y: u32| {
                let (x, y) = (f64::from(x) / f64::from(scene.width()), f64::from(y) / f64::from(scene.height()));
                (within[0]..within[2]).contains(&x) && (within[1]..within[3]).contains(&y)
            };
            let seen = scene.enumerate_pixels().filter(|&(x, y, p)| near(p) && inside(x, y)).count();
            (seen >= 100).then_some(())
        })
        .await
}

/// Compares the scene on the screen with the PNG that is delivered at the same size.
pub async fn screen_is_file(browser: &Browser, server: &Server) -> Result<()> {
    // no card open, no form held, nothing selected: the bare sheet
    browser.script("document.querySelector('[aria-label=\"Close the card\"]')?.click(); return null").await?;
    // and nothing under the pointer
    browser.page.action_chain().move_to(2, 2).perform().await?;
    for _ in 0..3 {
        browser.keys(Key::Escape + "").await?;
    }
    let bench = sheet(browser, server).await?;
    let [left, top, width, height] = rect(browser, "[data-testid=scene]").await?;
    let pictures = "return [...document.querySelectorAll('[data-testid=scene] image')].map(i => i.href.baseVal)";
    let shown = browser.script(pictures).await?;
    let waiting = format!(
        "return Promise.all({shown}.map(h => {{ const i = new Image(); i.src = h; return i.decode() }})).then(() => true)"
    );
    browser.script(&waiting).await?;
    let ppi = width / (bench["sheet"]["width"].as_f64().context("no width")? / 25.4);
    let id = bench["id"].as_str().context("no id")?;
    let file = server.delivered(id, json!({ "task": "deliver", "kind": "png", "ppi": ppi })).await?;
    let file = image::load_from_memory(&file)?.into_rgba8();
    let shot = browser.screenshot().await?;
    let (w, h) = (width as u32, (height as u32).min(file.height()));
    let screen = imageops::crop_imm(&shot, left as u32, top as u32, w, h).to_image();
    let file = imageops::crop_imm(&file, 0, 0, w, h).to_image();
    let (mean, off) = difference(&screen, &file);
    println!("screen and file: mean difference {mean:.3} of 255, {:.3}% of pixels off by more than 24", off * 100.0);
    let same = mean <= 2.0 && off <= 0.01;
    if !same {
        let folder = std::env::temp_dir();
        screen.save(folder.join("inky-screen.png"))?;
        file.save(folder.join("inky-file.png"))?;
        std::fs::write(folder.join("inky-sheet.json"), bench["sheet"].to_string())?;
        println!("both pictures and the sheet are in {}", folder.display());
    }
    ensure!(same, "the file differs from the screen: mean {mean:.2}, {:.2}% off", off * 100.0);
    Ok(())
}
