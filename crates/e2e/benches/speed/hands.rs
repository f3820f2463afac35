//! How soon a hand is answered: the desk with many sheets, a photo that is dropped, presses one after the other.

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
    dropped(server, browser).await?;
    answers(server, browser).await
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
        let body = json!({ "base": base + 1, "request": Uuid::new_v4(), "gesture": null, "edits": [edit] });
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

/// What is pressed one after the other on a word with a photo, by label or text; keys in brackets.
const PRESSES: &[&str] = &[
    "Lettering: KITES",
    "Letters",
    "Place",
    "Bend",
    "Close the card",
    "Opening:",
    "Top",
    "Top",
    "Close the card",
    "Photo:",
    "Tone",
    "Repeat",
    "Placement",
    "Centre the subject",
    "Mirror across",
    "Undo:",
    "Close the card",
    "Subject",
    "Whole",
    "above",
    "above",
    "around",
    "around",
    "Edge:",
    "Rims:",
    "Add a rim",
    "Close the card",
    "One more shadow, like the last",
    "Light on it, like the last",
    "[o]",
    "[f]",
    "[p]",
    "[s]",
    "[b]",
    "[l]",
    "[j]",
    "[s]",
    "Breakout:",
    "Paint out",
    "Parts",
    "Drop",
    "Copy",
    "Remove",
    "Undo:",
    "Select “KITES”",
    "Lock",
    "Unlock",
    "Hide",
    "Show",
    "Bake the opening",
    "Undo:",
    "[w]",
    "[m]",
    "[k]",
    "[g]",
    "Gradient",
    "Nothing",
    "Undo:",
    "Close the card",
    "Inks:",
    "Mix an ink",
    "[t]",
    "[Escape]",
    "[a]",
    "[Escape]",
    "[d]",
    "[Escape]",
    "Deliver",
];

/// From each press to the frame that shows an answer to it: something on the page has changed.
async fn answers(server: &Server, browser: &Browser) -> Result<()> {
    new_sheet(browser, server, "Pressed").await?;
    type_word(browser, "KITES").await?;
    let (_, card) =
        server.upload("photos", "kite.jpg", std::fs::read(root().join("demo/photos/octopus-kite.jpg"))?).await?;
    let sheet = inky_e2e::steps::sheet(browser, server).await?;
    let edit = json!({ "edit": "fill_with_photo", "piece": sheet["sheet"]["pieces"][0]["id"], "fill": Uuid::new_v4(), "photo": card["id"] });
    let body = json!({ "base": sheet["revision"], "request": Uuid::new_v4(), "gesture": null, "edits": [edit] });
    server.post(&format!("/sheets/{}/edits", sheet["id"].as_str().context("no sheet")?), body).await?;
    browser.page.refresh().await?;
    browser.click("//nav//button[starts-with(@aria-label, 'Select')]").await?;
    inky_e2e::steps::look_for_subject(browser).await?;
    browser.click("//button[normalize-space(.)='Keep' and not(@disabled)]").await?;
    browser.at("//button[.='around' and not(@disabled)]").await?;
    let code = "const done = arguments[arguments.length - 1], presses = JSON.parse(arguments[0]), times = []
        const frame = () => new Promise(requestAnimationFrame)
        const quiet = async () => {
            for (let still = 0; still < 5; ) {
                await new Promise(r => setTimeout(r, 20))
                still = document.body.innerText.includes('Keeping') ? 0 : still + 1
            }
        }
        const seen = e => e.getClientRects().length > 0 && !e.disabled
        const named = name => [...document.querySelectorAll('button, [role=radio], [role=tab]')].filter(e => seen(e) && (e.getAttribute('aria-label') === name || e.innerText.trim() === name || (name.endsWith(':') && e.getAttribute('aria-label')?.startsWith(name)) || e.innerText.trim().startsWith(name + '\\n'))).at(0)
        const press = name => {
            if (!name.startsWith('[')) return void named(name).click()
            document.activeElement.blur()
            document.body.dispatchEvent(new KeyboardEvent('keydown', { key: name.slice(1, -1), bubbles: true }))
            document.body.dispatchEvent(new KeyboardEvent('keyup', { key: name.slice(1, -1), bubbles: true }))
        }
        const run = async () => {
            for (const name of presses) {
                for (let k = 0; k < 250 && !name.startsWith('[') && !named(name); k++) await new Promise(r => setTimeout(r, 20))
                if (!name.startsWith('[') && !named(name)) return done({ missing: name, times })
                let changed = null
                const watch = new MutationObserver(() => (changed ??= performance.now()))
                watch.observe(document.documentElement, { subtree: true, childList: true, attributes: true, characterData: true })
                const begun = performance.now()
                press(name)
                while (changed === null && performance.now() - begun < 2000) await frame()
                // what changed is painted by the next frame
                await frame()
                times.push([name, performance.now() - begun])
                watch.disconnect()
                await quiet()
            }
            done({ times })
        }
        run()";
    let presses = json!(serde_json::to_string(PRESSES)?);
    let found: Value = browser.page.execute_async(code, vec![presses]).await?.json().clone();
    ensure!(found["missing"].is_null(), "{found}");
    let mut times: Vec<(String, f64)> = serde_json::from_value(found["times"].clone())?;
    line(
        &format!("{} presses, until an answer is seen", times.len()),
        spread(times.iter().map(|t| Duration::from_secs_f64(t.1 / 1000.0)).collect()),
        "< 100",
    );
    times.sort_by(|a, b| b.1.total_cmp(&a.1));
    let slowest: Vec<String> = times.iter().take(4).map(|(name, ms)| format!("{name} {ms:.0}")).collect();
    println!("  the slowest: {}", slowest.join(", "));
    Ok(())
}
