//! How soon a hand is answered: the desk with many sheets, a photo that is dropped.

use super::{line, spread};
use anyhow::{Context, Result, ensure};
use base64::Engine as _;
use image::{DynamicImage, imageops};
use inky_e2e::steps::{new_sheet, type_word};
use inky_e2e::{Browser, Server, root};
use reqwest::Method;
use serde_json::{Value, json};
use std::time::{Duration, Instant};
use uuid::Uuid;

/// Sheets on the desk.
const SHEETS: usize = 100;

pub async fn measure(server: &Server, browser: &Browser) -> Result<()> {
    desk(server, browser).await?;
    dropped(server, browser).await
}

/// From the address of the desk to the open form of a new sheet, while the pictures of a hundred sheets are drawn for the first time.
async fn desk(server: &Server, browser: &Browser) -> Result<()> {
    let (_, card) =
        server.upload("photos", "kite.jpg", std::fs::read(root().join("demo/photos/octopus-kite.jpg"))?).await?;
    let first = server.new_sheet("Kites").await?;
    let piece = Uuid::new_v4();
    for (base, edit) in [
        json!({ "edit": "add_lettering", "piece": piece, "form": Uuid::new_v4(), "fill": Uuid::new_v4(), "text": "KITES", "font": "anton" }),
        json!({ "edit": "fill_with_photo", "piece": piece, "fill": Uuid::new_v4(), "photo": card["id"] }),
    ]
    .into_iter()
    .enumerate()
    {
        let body = json!({ "base": base + 1, "request": Uuid::new_v4(), "gesture": null, "edit": edit });
        server.post(&format!("/sheets/{first}/edits"), body).await?;
    }
    for _ in 1..SHEETS {
        server.call(Method::POST, &format!("/sheets/{first}/copy"), None).await?;
    }
    let begun = Instant::now();
    browser.page.goto(&server.address).await?;
    browser.press("New sheet").await?;
    browser.at("//label[.='Name']").await?;
    let usable = begun.elapsed().as_secs_f64() * 1000.0;
    line(&format!("desk with {SHEETS} sheets, until a new one is laid out"), (usable, usable), "< 1000");
    Ok(())
}

/// From the last byte of a photo of 12 megapixels to the frame that shows it in the word that it was dropped on.
async fn dropped(server: &Server, browser: &Browser) -> Result<()> {
    let dunes = image::open(root().join("demo/photos/dunes.jpg"))?;
    let mut times = Vec::new();
    for round in 0..5_u32 {
        // another photo each time
        let photo = dunes.crop_imm(round, 0, dunes.width() - 8, dunes.height());
        let photo =
            DynamicImage::from(imageops::resize(&photo.into_rgb8(), 4242, 2828, imageops::FilterType::Triangle));
        let mut jpeg = std::io::Cursor::new(Vec::new());
        photo.write_to(&mut jpeg, image::ImageFormat::Jpeg)?;
        new_sheet(browser, server, "Dropped").await?;
        type_word(browser, "QUAY").await?;
        browser
            .script(&format!("window.__photo = '{}'", base64::engine::general_purpose::STANDARD.encode(jpeg.get_ref())))
            .await?;
        let code = "const done = arguments[arguments.length - 1]
            let sent = null
            const open = XMLHttpRequest.prototype.send
            XMLHttpRequest.prototype.send = function (body) {
                this.upload.addEventListener('load', () => (sent ??= performance.now()))
                return open.call(this, body)
            }
            const bytes = Uint8Array.from(atob(window.__photo), c => c.charCodeAt(0))
            const data = new DataTransfer()
            data.items.add(new File([bytes], 'dunes.jpg', { type: 'image/jpeg' }))
            const port = document.querySelector('[data-testid=port]'), word = document.querySelector('[data-testid=scene] [data-piece]').getBoundingClientRect()
            for (const kind of ['dragover', 'drop']) port.dispatchEvent(new DragEvent(kind, { bubbles: true, cancelable: true, clientX: word.x + word.width * 0.5, clientY: word.y + word.height * 0.5, dataTransfer: data }))
            let seen = null
            const look = () => {
                // what was put there is painted by the next frame
                if (seen === null && document.querySelector('[data-testid=scene] image')) requestAnimationFrame(() => (seen = performance.now()))
                if (seen !== null && sent !== null) done([seen, sent])
                else requestAnimationFrame(look)
            }
            look()";
        let [seen, sent]: [f64; 2] =
            serde_json::from_value::<Value>(browser.page.execute_async(code, Vec::new()).await?.json().clone())
                .and_then(serde_json::from_value)
                .context("no times")?;
        ensure!(seen.is_finite() && sent.is_finite());
        times.push(Duration::from_secs_f64((seen - sent).max(0.0) / 1000.0));
        browser.kept().await?;
    }
    line("photo of 12 megapixels dropped on a word, after its last byte", spread(times), "< 300");
    Ok(())
}
