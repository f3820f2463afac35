//! The real interface, driven as a person would.

use anyhow::{Context, Result};
use base64::{Engine, engine::general_purpose::STANDARD};
use image::{RgbaImage, imageops};
use inky_e2e::compare::{difference, screen_is_file};
use inky_e2e::steps::{SUBJECT, bounds, bring_photo, look_for_subject, new_sheet, on_screen, rect, sheet, type_word};
use inky_e2e::{Browser, Database, Server};
use serde_json::{Value, json};
use thirtyfour::prelude::*;

fn placement(bench: &Value) -> Value {
    bench["sheet"]["pieces"][0]["kind"]["fills"]
        .as_array()
        .into_iter()
        .flatten()
        .find(|f| f["paint"]["kind"] == "photo")
        .map_or(Value::Null, |f| f["paint"]["placement"].clone())
}

fn let_out(bench: &Value) -> usize {
    bench["sheet"]["pieces"][0]["kind"]["breakout"]["parts"].as_array().map_or(0, Vec::len)
}

/// Opens the delivered SVG by itself and compares it with the PNG at the browser's own resolution. `most` is by how much of 255 pixels may
/// differ as a mean, and which share of them by more than 24.
async fn svg_is_png(browser: &Browser, server: &Server, most: (f64, f64)) -> Result<()> {
    let bench = sheet(browser, server).await?;
    let id = bench["id"].as_str().context("no id")?;
    // the pictures in it are then as large as they are shown, and neither side has to scale them
    let (width, height, unit) = (&bench["sheet"]["width"], &bench["sheet"]["height"], &bench["sheet"]["unit"]);
    let resize = json!({ "edit": "resize_sheet", "width": width, "height": height, "unit": unit, "ppi": 96.0 });
    let request = "00000000-0000-4000-8000-000000000002";
    let body = json!({ "base": bench["revision"], "request": request, "gesture": null, "edits": [resize] });
    server.post(&format!("/sheets/{id}/edits"), body).await?;
    let mut files = Vec::new();
    for kind in ["svg", "png"] {
        files.push(server.delivered(id, json!({ "task": "deliver", "kind": kind, "ppi": 96.0 })).await?);
    }
    let png = image::load_from_memory(&files[1])?.into_rgba8();
    let path = browser.downloads().with_extension("svg");
    std::fs::write(&path, &files[0])?;
    browser.page.goto(&format!("file://{}", path.display())).await?;
    // the browser paints the embedded pictures when it has decoded them
    let mut last = (f64::MAX, 1.0);
    let alike = browser.until("the SVG to look like the PNG", async || {
        let shot = browser.screenshot().await.ok()?;
        last = against(&shot, &png);
        (last.0 <= most.0 && last.1 <= most.1).then_some(())
    });
    let alike = alike.await;
    let (mean, off) = last;
    println!("SVG and PNG: mean difference {mean:.3} of 255, {:.3}% of pixels off by more than 24", off * 100.0);
    alike
}

/// The difference of what the window shows of a larger picture.
fn against(shot: &RgbaImage, png: &RgbaImage) -> (f64, f64) {
    // the sheet is larger than the window, which therefore has scroll bars
    let (w, h) = ((shot.width() - 20).min(png.width()), (shot.height() - 20).min(png.height()));
    let cut = |picture: &RgbaImage| imageops::crop_imm(picture, 0, 0, w, h).to_image();
    difference(&cut(shot), &cut(png))
}

#[tokio::test(flavor = "multi_thread")]
async fn a_poster_from_an_empty_sheet_to_its_file() -> Result<()> {
    let database = Database::start()?;
    let mut server = Server::start(&database, false)?;
    let browser = Browser::start().await?;
    new_sheet(&browser, &server, "Kites over Ostrey").await?;
    type_word(&browser, "KITE").await?;
    let bench = sheet(&browser, &server).await?;
    assert_eq!(bench["undo"], "add lettering", "a typed word is one step");

    // another font, by its name
    browser.press("Lettering").await?;
    browser.click("//button[@role='option'][contains(., 'Archivo Black')]").await?;
    browser.press("Close the card").await?;
    let bench = sheet(&browser, &server).await?;
    assert_eq!(bench["undo"], "font");

    bring_photo(&browser, "Photo into it", "demo/photos/octopus-kite.jpg").await?;
    browser.at(SUBJECT).await?;
    let before = sheet(&browser, &server).await?;
    assert!(before["undo"].as_str().is_some_and(|u| u.starts_with("photo into")));

    // the grip says what a drag moves: the opening, the fill, both
    let [l, t, r, b] = bounds(&before);
    let from = on_screen(&browser, &before, l + (r - l) * 0.04, (t + b) / 2.0).await?;
    for (key, opening, fill) in [("o", 1.0, 0.0), ("f", 0.0, 1.0), ("b", 1.0, 1.0)] {
        let old = sheet(&browser, &server).await?;
        browser.keys(key).await?;
        let shift = bounds(&old)[0] - l;
        let zoom = rect(&browser, "[data-testid=scene]").await?[2] / 420.0;
        let start = (from.0 + (shift * zoom) as i64, from.1);
        browser.drag(start, (start.0 + 40, start.1)).await?;
        let new = browser
            .until("the drag to be kept", async || {
                let now = sheet(&browser, &server).await.ok()?;
                (now["revision"] != old["revision"]).then_some(now)
            })
            .await?;
        let moved = (bounds(&new)[0] - bounds(&old)[0]) * zoom;
        let slid = (placement(&new)["x"].as_f64().unwrap_or(0.0) - placement(&old)["x"].as_f64().unwrap_or(0.0)) * zoom;
        assert!((moved - 40.0 * opening).abs() < 2.0, "{key}: the opening moved by {moved}");
        assert!((slid - 40.0 * fill).abs() < 2.0, "{key}: the fill moved by {slid}");
    }
    // by key: scale and turn the fill alone
    browser.keys("f").await?;
    let old = placement(&sheet(&browser, &server).await?);
    browser.keys("+").await?;
    browser.keys(".").await?;
    browser.keys(Key::Up + "").await?;
    let new = placement(&sheet(&browser, &server).await?);
    assert!(new["scale"].as_f64() > old["scale"].as_f64() && new["turn"].as_f64() > old["turn"].as_f64());
    assert!(new["y"].as_f64() < old["y"].as_f64());
    // back to where the photo covered the word
    let steps_back = ["scale", "fill"];
    assert!(sheet(&browser, &server).await?["undo"].as_str().is_some_and(|u| steps_back.iter().any(|s| u.contains(s))));
    browser.press("Undo").await?;
    browser.until("the undo", async || (placement(&sheet(&browser, &server).await.ok()?) == old).then_some(())).await?;

    // the subject, in a box drawn on the photo
    browser.keys("b").await?;
    look_for_subject(&browser).await?;
    // a search can be ended, unless it was quicker than that
    let ended = async || {
        let end = browser.button("Cancel the search").await.ok();
        match end {
            Some(end) => end.click().await.ok(),
            None => browser.page.find(By::Css("[data-testid=draft]")).await.ok().map(|_| ()),
        }
    };
    browser.until("the end of the search", ended).await?;
    let boxed = browser.button("In a box").await?;
    if boxed.attr("aria-pressed").await?.as_deref() != Some("true") {
        boxed.click().await?;
    }
    browser.reads("Draw a box around the whole subject.").await?;
    let [x, y, w, h] = rect(&browser, "[data-testid=scene] > g:last-of-type image").await?;
    let at = |fx: f64, fy: f64| ((x + w * fx) as i64, (y + h * fy) as i64);
    browser.drag(at(-0.2, 0.2), at(-0.1, 0.4)).await?;
    browser.reads("The box lies outside of the photo.").await?;
    browser.drag(at(0.015, 0.085), at(0.98, 0.995)).await?;
    let drafted = "return document.querySelector('[data-testid=draft]') && !document.body.innerText.includes('Looking at the photo')";
    browser.holds("the draft", drafted).await?;
    browser.press("Keep").await?;
    browser.press("Breakout").await?;

    // an arm let out, one kept in
    let overhangs = browser
        .until("two overhangs", async || {
            let found = browser.page.find_all(By::Css("[data-testid=overhang-in]")).await.ok()?;
            (found.len() >= 2).then_some(found.len())
        })
        .await?;
    let click_first = async || {
        let code = "document.querySelector('[data-testid=overhang-in]').dispatchEvent(new MouseEvent('click', { bubbles: true }))";
        browser.script(code).await
    };
    click_first().await?;
    browser.reads(&format!("1 of {overhangs} are out.")).await?;
    assert_eq!(let_out(&sheet(&browser, &server).await?), 0, "nothing is kept before Keep");
    browser.press("Keep").await?;
    browser.button("Breakout").await?;
    let bench = sheet(&browser, &server).await?;
    assert_eq!((let_out(&bench), bench["undo"].as_str()), (1, Some("let out")));

    screen_is_file(&browser, &server).await?;

    // a file, as a person gets it
    browser.press("Deliver").await?;
    browser.press("Make the file").await?;
    browser.at("//a[@data-testid='file']").await?;
    let file = browser.downloads().join("Kites over Ostrey.png");
    browser.until("the downloaded file", async || file.exists().then_some(())).await?;

    // undo, then a reload and a killed server: everything is there, redo included
    browser.keys(Key::Escape + "").await?;
    browser.press("Undo").await?;
    browser.until("the undo", async || (let_out(&sheet(&browser, &server).await.ok()?) == 0).then_some(())).await?;
    let port = server.port()?;
    server.kill()?;
    browser.reads("does not answer").await?;
    let server = Server::start_at(&database, false, port)?;
    browser.page.refresh().await?;
    browser.press("Redo").await?;
    browser.until("the redo", async || (let_out(&sheet(&browser, &server).await.ok()?) == 1).then_some(())).await?;
    browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn what_goes_wrong_gets_a_sentence_and_loses_nothing() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start(&database, false)?;
    let browser = Browser::start().await?;
    new_sheet(&browser, &server, "Fair").await?;
    type_word(&browser, "FAIR").await?;

    // dropped on the word, a photo fills it at once; what is no photo gets a sentence
    let bench = sheet(&browser, &server).await?;
    let [l, t, _, b] = bounds(&bench);
    let (x, y) = on_screen(&browser, &bench, l + 5.0, (t + b) / 2.0).await?;
    let drop = |name: &str, bytes: &str| {
        format!(
        "const data = new DataTransfer(); data.items.add(new File([Uint8Array.from(atob('{bytes}'), c => c.charCodeAt(0))], '{name}'));
         const port = document.querySelector('[data-testid=port]');
         for (const kind of ['dragover', 'drop']) port.dispatchEvent(new DragEvent(kind, {{ bubbles: true, cancelable: true, clientX: {x}, clientY: {y}, dataTransfer: data }}))"
    )
    };
    browser.script(&drop("notes.txt", "bm8gcGljdHVyZQ==")).await?;
    browser.reads("This file is no picture").await?;
    // the header of a PNG of 60,000 x 60,000 pixels
    browser.script(&drop("huge.png", "iVBORw0KGgoAAAANSUhEUgAA6mAAAOpgCAIAAAAPsOIVAAAAAElEQVQ1rwYe")).await?;
    browser.reads("60000 x 60000 pixels").await?;
    // an upload that the network cuts off
    let network = browser.page.cdp();
    network.send_raw("Network.enable", json!({})).await?;
    network.send_raw("Network.setBlockedURLs", json!({ "urls": ["*/api/photos*"] })).await?;
    browser.script(&drop("dusk.png", "iVBORw0KGgo=")).await?;
    browser.reads("The upload of “dusk.png” was cut off.").await?;
    network.send_raw("Network.setBlockedURLs", json!({ "urls": [] })).await?;
    let photo = RgbaImage::from_fn(60, 40, |x, y| image::Rgba([x as u8 * 4, y as u8 * 6, 90, 255]));
    let mut png = std::io::Cursor::new(Vec::new());
    photo.write_to(&mut png, image::ImageFormat::Png)?;
    browser.script(&drop("dusk.png", &STANDARD.encode(png.get_ref()))).await?;
    browser.at(SUBJECT).await?;
    // pasted with nothing selected, a photo lies down as a picture of its own
    browser.keys(Key::Escape + "").await?;
    let paste = format!(
        "const data = new DataTransfer(); data.items.add(new File([Uint8Array.from(atob('{}'), c => c.charCodeAt(0))], 'dusk.png'));
         window.dispatchEvent(new ClipboardEvent('paste', {{ clipboardData: data, bubbles: true, cancelable: true }}))",
        STANDARD.encode(png.get_ref())
    );
    browser.script(&paste).await?;
    browser.reads("whole: nothing masks it").await?;
    browser.press("Undo").await?;
    browser.reads("Undo: photo into").await?;
    browser.press("Select “FAIR”").await?;

    // letters that the font does not have, and a word without letters: the word on the sheet stays
    browser.press("Lettering").await?;
    let field = browser.at("//textarea").await?;
    // a press on the card leaves the keys with the sheet
    field.send_keys(Key::Control + "a").await?;
    field.send_keys("凧").await?;
    browser.reads("has no letter for “凧”").await?;
    field.send_keys(Key::Backspace + "").await?;
    browser.reads("The word is empty.").await?;
    let text = |bench: &Value| bench["sheet"]["pieces"][0]["kind"]["opening"]["forms"][0]["shape"]["text"].clone();
    assert_eq!(text(&sheet(&browser, &server).await?), "FAIR");

    // the database goes while a word is typed, and comes back
    database.kill()?;
    field.send_keys("WIND").await?;
    browser.reads("Nothing is lost").await?;
    assert_eq!(field.value().await?.as_deref(), Some("WIND"));
    database.again()?;
    browser
        .until("the word to be kept", async || (text(&sheet(&browser, &server).await.ok()?) == "WIND").then_some(()))
        .await?;

    // another tab is faster: its change is taken over, and what is done here stays beside it
    let bench = sheet(&browser, &server).await?;
    let id = bench["id"].as_str().context("no id")?;
    let rename = json!({ "edit": "rename_sheet", "name": "Fair of the winds" });
    let other = json!({ "base": bench["revision"], "request": "00000000-0000-4000-8000-000000000001", "gesture": null, "edits": [rename] });
    server.post(&format!("/sheets/{id}/edits"), other).await?;
    field.send_keys("Y").await?;
    browser
        .until("both changes", async || {
            let now = sheet(&browser, &server).await.ok()?;
            (text(&now) == "WINDY" && now["sheet"]["name"] == "Fair of the winds").then_some(())
        })
        .await?;
    browser
        .until("the name", async || {
            browser
                .at("//input[@aria-label='Name of the sheet']")
                .await
                .ok()?
                .value()
                .await
                .ok()?
                .filter(|n| n == "Fair of the winds")
        })
        .await?;
    assert_eq!(field.value().await?.as_deref(), Some("WINDY"));
    browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn the_demo_hangs_on_the_desk_and_screen_is_file() -> Result<()> {
    let database = Database::start()?;
    let server = Server::start(&database, true)?;
    let browser = Browser::start().await?;
    let names = [
        "Kites over Ostrey",
        "Rise: the lantern night",
        "Lantern walk",
        "Lamplight on the quay",
        "Press night, in two inks",
        "Ribbon day",
        "Three panes of sky",
        "Wool day, three views",
        "Half lit",
    ];
    for name in names {
        browser.page.goto(&server.address).await?;
        browser.click(&format!("//li[.//h2[.='{name}']]//a")).await?;
        browser.at("//*[@data-testid='scene']").await?;
        screen_is_file(&browser, &server).await?;
        // two programs shade edges differently, and these sheets are full of them: fine bright ones on a dark ground, rims on both of
        // their sides
        let most = match name {
            "Lamplight on the quay" | "Kites over Ostrey" => (2.0, 0.015),
            // and they sample photos that lie between pixels differently: wool is nothing but edges
            "Wool day, three views" => (3.0, 0.015),
            _ => (2.0, 0.01),
        };
        svg_is_png(&browser, &server, most).await?;
    }
    // removed and put back
    browser.page.goto(&server.address).await?;
    let tiles = async || browser.page.find_all(By::Css("[data-testid=sheet-tile]")).await.map(|t| t.len()).ok();
    browser.until("every sheet", async || (tiles().await? == names.len()).then_some(())).await?;
    browser.script("document.querySelector('button[aria-label^=Remove]').click()").await?;
    browser.until("one sheet less", async || (tiles().await? == names.len() - 1).then_some(())).await?;
    browser.press("Put it back").await?;
    browser.until("every sheet again", async || (tiles().await? == names.len()).then_some(())).await?;
    browser.close().await
}
