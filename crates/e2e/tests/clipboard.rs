//! The clipboard of the system: pieces within a sheet and between sheets, a picture of them for other programs, and what comes from elsewhere.

use anyhow::{Context, Result, ensure};
use base64::Engine;
use inky_e2e::Bench;
use inky_e2e::steps::{bring_photo, new_sheet};
use serde_json::{Value, json};
use thirtyfour::prelude::*;

/// Presses a key with Ctrl, on nothing that has the focus.
async fn with_ctrl(bench: &Bench, key: &str) -> Result<()> {
    bench.browser.script("document.activeElement?.blur()").await?;
    let chain = bench.browser.page.action_chain().key_down(Key::Control).send_keys(key).key_up(Key::Control);
    Ok(chain.perform().await?)
}

fn pieces(bench: &Value) -> Vec<Value> {
    bench["sheet"]["pieces"].as_array().cloned().unwrap_or_default()
}

/// Left edges of all pieces, from back to front.
fn lefts(bench: &Value) -> Vec<f64> {
    let all = bench["scene"]["pieces"].as_array().cloned().unwrap_or_default();
    all.iter().filter_map(|p| p["bounds"][0].as_f64()).collect()
}

/// Pastes a text of a kind, as if it came from another program.
async fn paste_text(bench: &Bench, kind: &str, text: &str) -> Result<()> {
    let code = format!(
        "const data = new DataTransfer(); data.setData({kind:?}, {text:?})
         window.dispatchEvent(new ClipboardEvent('paste', {{ clipboardData: data, bubbles: true, cancelable: true }}))"
    );
    bench.browser.script(&code).await.map(drop)
}

/// A clipping as the clipboard carries it.
fn carried(clipping: &Value) -> String {
    let data = base64::engine::general_purpose::STANDARD.encode(clipping.to_string());
    format!("<p data-inky-window=\"{data}\">a piece</p>")
}

#[tokio::test(flavor = "multi_thread")]
async fn pieces_are_copied_cut_and_pasted_on_one_sheet_and_on_another() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    let clipboard = json!({ "permissions": ["clipboardReadWrite", "clipboardSanitizedWrite"], "origin": bench.server.address.trim_end_matches('/') });
    browser.page.cdp().send_raw("Browser.grantPermissions", clipboard).await?;
    bench.draw("Ellipse", false, (60.0, 60.0), (160.0, 140.0)).await?;
    bring_photo(browser, "Photo into it", "demo/photos/dandelion.jpg").await?;
    bench.draw("Star", false, (250.0, 60.0), (330.0, 140.0)).await?;
    browser.keys(Key::Escape + "").await?;
    browser.keys(Key::Escape + "").await?;
    let before = bench.sheet().await?;
    ensure!(pieces(&before).len() == 2);
    with_ctrl(&bench, "a").await?;
    browser.reads("2 pieces").await?;
    with_ctrl(&bench, "c").await?;

    // a little aside, each time further
    let once = bench.after(async |_| with_ctrl(&bench, "v").await).await?;
    ensure!(once["undo"] == "paste 2 pieces", "{}", once["undo"]);
    let twice = bench.after(async |_| with_ctrl(&bench, "v").await).await?;
    let of = lefts(&twice);
    ensure!(of.len() == 6 && (of[2] - of[0] - 8.0).abs() < 0.1 && (of[4] - of[0] - 16.0).abs() < 0.1, "{of:?}");

    // other programs are given a picture of them
    let read = "return navigator.clipboard.read().then(async ([item]) => item.types.includes('image/png')
        ? Array.from(new Uint8Array(await (await item.getType('image/png')).arrayBuffer())) : null).catch(() => null)";
    let png = browser
        .until("a picture in the clipboard", async || {
            serde_json::from_value::<Option<Vec<u8>>>(browser.script(read).await.ok()?).ok()?
        })
        .await?;
    let picture = image::load_from_memory(&png)?.into_rgba8();
    let drawn = picture.pixels().filter(|p| p.0[3] > 200).count();
    ensure!(drawn * 5 > picture.pixels().len() && picture.get_pixel(0, 0).0[3] == 0, "{drawn} of {}", picture.len());

    // cut, and on another sheet in the same place, with the photo
    with_ctrl(&bench, "a").await?;
    let gone = bench.after(async |_| with_ctrl(&bench, "x").await).await?;
    ensure!(pieces(&gone).is_empty() && gone["undo"] == "remove 6 pieces", "{}", gone["undo"]);
    new_sheet(browser, &bench.server, "Another").await?;
    let pasted = bench.after(async |_| with_ctrl(&bench, "v").await).await?;
    ensure!(lefts(&pasted) == lefts(&twice), "{:?}", lefts(&pasted));
    ensure!(pasted["sheet"]["photos"] == before["sheet"]["photos"]);
    let ids = |bench: &Value| pieces(bench).iter().map(|p| p["id"].clone()).collect::<Vec<_>>();
    ensure!(ids(&pasted).iter().all(|id| !ids(&twice).contains(id)), "copies have identifiers of their own");
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn what_comes_from_elsewhere_is_taken_or_said() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    // a drawing that was copied as text
    let svg = "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 10 10'><path d='M1 1h8v8h-8z'/></svg>";
    let drawn = bench.after(async |_| paste_text(&bench, "text/plain", svg).await).await?;
    ensure!(pieces(&drawn).len() == 1 && drawn["sheet"]["drawings"].as_object().is_some_and(|d| d.len() == 1));
    browser.press("Close the card").await?;

    let mut sheet = drawn["sheet"].clone();
    let clipping = |version: u32, sheet: &Value| json!({ "format": "inky-window-pieces", "version": version, "of": "elsewhere", "cut": false, "box": [0, 0, 10, 10], "sheet": sheet });
    let again = bench.after(async |_| paste_text(&bench, "text/html", &carried(&clipping(1, &sheet))).await).await?;
    ensure!(pieces(&again).len() == 2);
    let kept = again["revision"].clone();
    let refused = async |html: &str, sentence: &str| -> Result<()> {
        paste_text(&bench, "text/html", html).await?;
        browser.reads(sentence).await.context(sentence.to_owned())?;
        ensure!(bench.sheet().await?["revision"] == kept, "nothing is changed");
        browser
            .script("document.querySelectorAll('[aria-label=\"Close the notice\"]').forEach(b => b.click())")
            .await
            .map(drop)
    };
    refused(&carried(&clipping(2, &sheet)), "by a newer version of the program").await?;
    refused("<p data-inky-window=\"AAAA\"></p>", "cannot be read").await?;
    refused(&carried(&json!({ "format": "inky-window-pieces", "version": 1, "sheet": 7 })), "cannot be read").await?;
    refused(&format!("<p data-inky-window=\"{}\"></p>", "A".repeat(3_000_000)), "too large to be pasted").await?;
    // of a sheet that says what cannot be
    sheet["pieces"][0]["kind"]["opening"]["forms"][0]["pose"]["x"] = json!(1e12);
    refused(&carried(&clipping(1, &sheet)), "not a number that can be used here").await?;
    sheet["pieces"][0]["kind"] = json!({ "kind": "window" });
    refused(&carried(&clipping(1, &sheet)), "cannot be read").await?;
    // pieces of a sheet are text for a field: it is not taken from it
    browser.press("Add lettering").await?;
    browser.at("//textarea").await?.send_keys("KITE").await?;
    let typed = bench.sheet().await?;
    browser.page.action_chain().key_down(Key::Control).send_keys("ac").key_up(Key::Control).perform().await?;
    ensure!(bench.sheet().await?["revision"] == typed["revision"]);
    bench.browser.close().await
}
