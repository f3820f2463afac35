//! What must not be in the way of quick hands: who gets the keys, what a drag moves, where things stand.

use anyhow::{Context, Result, ensure};
use inky_e2e::compare::screen_is_file;
use inky_e2e::steps::{bounds, bring_photo, forms, new_sheet, on_screen, rect, type_word};
use inky_e2e::{Bench, Browser};
use serde_json::Value;
use thirtyfour::prelude::*;

fn piece(bench: &Value, at: usize) -> Value {
    bench["sheet"]["pieces"][at].clone()
}

/// What has the focus, by its name or its text.
async fn focus(browser: &Browser) -> Result<String> {
    let code = "const e = document.activeElement; return e === document.body ? '' : e.getAttribute('aria-label') ?? e.innerText ?? e.tagName";
    Ok(browser.script(code).await?.as_str().unwrap_or_default().to_owned())
}

#[tokio::test(flavor = "multi_thread")]
async fn keys_belong_to_what_has_the_focus() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    bench.draw("Box", false, (100.0, 80.0), (200.0, 180.0)).await?;
    let at = bounds(&bench.sheet().await?);

    // a radio, by arrow keys; then a tab
    bench.card("Edge").await?;
    browser
        .script("[...document.querySelectorAll('[role=radio]')].find(e => e.innerText === 'Both ways').focus()")
        .await?;
    let faded = bench.after(async |b| b.keys(Key::Right + "").await).await?;
    assert_eq!(piece(&faded, 0)["kind"]["finish"]["softness"]["side"], "inward");
    browser.press("Close the card").await?;
    bench.open_form(0).await?;
    browser.script("document.querySelector('[role=tab]').focus()").await?;
    browser.keys(Key::Right + "").await?;
    browser.at("//*[@role='tab' and @aria-selected='true' and .='Place']").await?;
    assert_eq!(bounds(&bench.sheet().await?), at, "the artwork stays");

    // Enter in a number field takes the value, and gives the keys back
    bench.number("Across", "160").await?;
    assert_eq!(focus(browser).await?, "");
    let before = bounds(&bench.sheet().await?);
    let nudged = bounds(&bench.after(async |b| b.keys(Key::Right + "").await).await?);
    ensure!((nudged[0] - before[0] - 1.0).abs() < 1e-6, "{nudged:?}");
    // what is no number stays to be mended
    let field = browser.at("//label[starts-with(., 'Across')]/following-sibling::input").await?;
    field.send_keys(Key::Control + "a").await?;
    field.send_keys("wide" + Key::Enter).await?;
    browser.reads("This is no number").await?;
    browser.keys(Key::Escape + "").await?;
    // a press on the sheet gives them back as well
    field.click().await?;
    let (x, y) = on_screen(browser, &bench.sheet().await?, 160.0, 130.0).await?;
    browser.page.action_chain().move_to(x, y).click().perform().await?;
    assert_eq!(focus(browser).await?, "");

    // a chosen face; and Delete of a word that is held by its card eats no letters
    type_word(browser, "KITE").await?;
    bench.card("Lettering").await?;
    browser.click("//button[@role='option'][contains(., 'Archivo')]").await?;
    browser.kept().await?;
    assert_eq!(focus(browser).await?, "");
    bench.draw("Ellipse", true, (30.0, 30.0), (90.0, 90.0)).await?;
    browser.click("(//*[@data-form])[1]").await?;
    let removed = bench.after(async |b| b.keys(Key::Delete + "").await).await?;
    let left = &piece(&removed, 1)["kind"]["opening"]["forms"];
    ensure!(left.as_array().map(Vec::len) == Some(1) && left[0]["shape"]["kind"] == "basic", "{left}");
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn what_is_selected_is_what_moves() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    // a large box, and a ring before it
    bench.draw("Box", false, (40.0, 30.0), (380.0, 270.0)).await?;
    browser.keys(Key::Escape + "").await?;
    bench.draw("Ring", false, (150.0, 90.0), (270.0, 210.0)).await?;
    browser.keys(Key::Escape + "").await?;
    bench.select(0).await?;
    let sheet = bench.sheet().await?;
    let places = |bench: &Value| [0, 1].map(|k| bench["scene"]["pieces"][k]["bounds"].clone());
    let hole = on_screen(browser, &sheet, 210.0, 150.0).await?;
    let dragged = bench.after(async |b| b.drag(hole, (hole.0 + 30, hole.1)).await).await?;
    ensure!(
        places(&dragged)[0] == places(&sheet)[0] && places(&dragged)[1] != places(&sheet)[1],
        "the ring, by its hole"
    );
    // a press without a drag selects what is seen there
    browser.page.action_chain().move_to(hole.0 + 5, hole.1 + 5).click().perform().await?;
    browser.at("//nav//button[@aria-label='Select “Box”' and @aria-pressed='true']").await?;

    // the shelf is where it was, and what is open makes room for what is selected
    browser.at("//*[@aria-label='Add to the sheet']").await?;
    bench.select(0).await?;
    bench.card("Shadows").await?;
    let card = rect(browser, "[data-testid=card]").await?;
    let corners = bench.middle("[data-testid=corner-2]").await?;
    let beside = corners.0 as f64 > card[0] + card[2] || (corners.1 as f64) < card[1];
    ensure!(beside, "{corners:?} and {card:?}");
    // a card that was taken elsewhere stays there
    let handle = bench.middle("[aria-label^='Take the card elsewhere']").await?;
    browser.drag(handle, (handle.0 + 200, handle.1 - 250)).await?;
    let moved = rect(browser, "[data-testid=card]").await?;
    browser.press("Close the card").await?;
    bench.card("Rims").await?;
    let again = rect(browser, "[data-testid=card]").await?;
    ensure!((again[0] - moved[0]).abs() < 2.0 && again[0] > card[0] + 100.0, "{card:?}, {moved:?}, {again:?}");
    browser.press("Close the card").await?;

    // a copy lies in its place, and Alt takes one away
    let copied = bench.after(async |b| b.press("Copy").await).await?;
    assert_eq!(copied["scene"]["pieces"][1]["bounds"], copied["scene"]["pieces"][2]["bounds"]);
    bench.after(async |b| b.press("Undo").await).await?;
    bench.select(0).await?;
    let rim = on_screen(browser, &bench.sheet().await?, 162.0, 150.0).await?;
    let before = bench.sheet().await?;
    let hold = browser.page.action_chain().key_down(Key::Alt).move_to(rim.0 + 30, rim.1).click_and_hold();
    let away = hold.move_to(rim.0 + 50, rim.1 + 20).move_to(rim.0 + 60, rim.1 + 40).release().key_up(Key::Alt);
    away.perform().await?;
    let three = browser
        .until("a copy", async || {
            let now = bench.sheet().await.ok()?;
            (now["sheet"]["pieces"].as_array()?.len() == 3).then_some(now)
        })
        .await?;
    assert_eq!(three["scene"]["pieces"][1]["bounds"], before["scene"]["pieces"][1]["bounds"], "the first one stays");
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn nothing_vanishes_without_a_word() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    // switched off, a window of one form says so; with a photo it shows it whole
    bench.draw("Ellipse", false, (120.0, 60.0), (300.0, 240.0)).await?;
    bench.open_form(0).await?;
    bench.after(async |b| b.press("Switch off").await).await?;
    browser.reads("shows nothing: its forms are switched off").await?;
    bench.after(async |b| b.press("Switch on").await).await?;
    browser.press("Close the card").await?;
    bring_photo(browser, "Photo into it", "demo/photos/dunes.jpg").await?;
    let filled = bench.sheet().await?;
    assert_eq!(piece(&filled, 0)["kind"]["fills"].as_array().map(Vec::len), Some(1), "the first colour gave way");
    bench.open_form(0).await?;
    let whole = bench.after(async |b| b.press("Switch off").await).await?;
    ensure!(bounds(&whole)[2] - bounds(&whole)[0] > 185.0, "the photo is seen whole");
    browser.reads("whole: nothing masks it").await?;
    bench.after(async |b| b.press("Switch on").await).await?;
    browser.press("Close the card").await?;

    // the menu of files keeps the focus while it works, and Escape closes it
    browser.press("Deliver").await?;
    browser.press("Make the file").await?;
    browser.at("//a[@data-testid='file']").await?;
    browser.keys(Key::Escape + "").await?;
    let gone = "return !document.body.innerText.includes('Deliver this sheet')";
    browser.holds("the menu to close", gone).await?;

    // the labels of a new sheet are those of its fields
    browser.page.goto(&bench.server.address).await?;
    browser.press("New sheet").await?;
    browser.at("//label[.='Name']").await?;
    let tied = "return [...document.querySelectorAll('[role=dialog] label')].filter(l => l.control).length";
    assert_eq!(browser.script(tied).await?, 5);
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn everything_on_the_sheet_is_reached_by_keys() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    let focus_on =
        async |selector: &str| browser.script(&format!("document.querySelector('{selector}').focus()")).await;
    bench.draw("Box", false, (100.0, 80.0), (260.0, 220.0)).await?;

    // a gradient's end, and the corner of a form
    bench.card("Ink").await?;
    bench.after(async |b| b.press("Gradient").await).await?;
    browser.at("//*[@data-testid='gradient-to']").await?;
    focus_on("[data-testid=gradient-to]").await?;
    let ramp = bench.after(async |b| b.keys(Key::Up + "").await).await?;
    let to = &piece(&ramp, 0)["kind"]["fills"][0]["paint"]["vector"]["to"];
    ensure!((to[1].as_f64().context("no end")? - 219.0).abs() < 0.6, "{to}");
    browser.press("Close the card").await?;
    browser.keys("p").await?;
    focus_on("[data-testid=form-corner-0]").await?;
    let pulled = bench.after(async |b| b.keys(Key::Left + "").await).await?;
    ensure!(forms(&pulled)[0]["pose"]["pull"][0][0].as_f64() < Some(0.0), "{}", forms(&pulled)[0]["pose"]);
    browser.keys("s").await?;

    // the corner of a photo
    bring_photo(browser, "Photo into it", "demo/photos/octopus-kite.jpg").await?;
    bench.card("Photo").await?;
    browser.press("Pull its corners").await?;
    focus_on("[data-testid=pull-2]").await?;
    let corner = bench.after(async |b| b.keys(Key::Right + "").await).await?;
    let fills = piece(&corner, 0)["kind"]["fills"].as_array().cloned().unwrap_or_default();
    let photo = fills.iter().find(|f| f["paint"]["kind"] == "photo").context("no photo")?;
    ensure!(photo["paint"]["placement"]["pull"][2][0].as_f64() > Some(0.0), "{photo}");
    bench.after(async |b| b.press("Undo").await).await?;
    browser.press("Close the card").await?;

    // paint that lets the subject out, and the line that nothing passes
    bench.find_subject().await?;
    bench.card("Breakout").await?;
    browser.press("Paint out").await?;
    for key in [Key::Space + "", Key::Right + "", Key::Right + "", Key::Space + ""] {
        browser.keys(key).await?;
    }
    browser.at("//button[.='Last paint back']").await?;
    browser.press("Reach line").await?;
    for key in [Key::Space + "", Key::Right + "", Key::Right + "", Key::Right + "", Key::Space + ""] {
        browser.keys(key).await?;
    }
    let drawn = "return document.querySelector('[data-testid=reach]') !== null";
    browser.holds("the line", drawn).await?;
    let kept = bench.after(async |b| b.press("Keep").await).await?;
    let breakout = &piece(&kept, 0)["kind"]["breakout"];
    ensure!(
        breakout["painted"][0]["points"].as_array().map(Vec::len) == Some(3) && breakout["reach"].is_object(),
        "{breakout}"
    );

    // the colour drop
    for _ in 0..2 {
        browser.keys(Key::Escape + "").await?;
    }
    bench.card("Background").await?;
    browser.click("//button[contains(@aria-label, 'take from the sheet')]").await?;
    browser.at("//*[@data-testid='sampler']").await?;
    browser.keys(Key::Right + "").await?;
    let sampled = "return /#[0-9a-f]{6}/.test(document.querySelector('[data-testid=sampler]').innerText)";
    browser.holds("a colour", sampled).await?;
    let coloured = bench.after(async |b| b.keys(Key::Enter + "").await).await?;
    ensure!(coloured["sheet"]["background"] != kept["sheet"]["background"]);
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn clicks_along_an_edge_wait_for_one_another() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    let laid = bench.after(async |b| bring_photo(b, "Bring in a photo", "demo/photos/balloon.jpg").await).await?;
    browser.keys(Key::Escape + "").await?;
    browser.keys("t").await?;
    browser.click("//label[contains(., 'Follow the photo')]/input").await?;
    // faster than any answer
    let [l, t, r, b] = bounds(&laid);
    let mut chain = browser.page.action_chain();
    let mut first = None;
    for (fx, fy) in [(0.35, 0.3), (0.5, 0.2), (0.65, 0.3), (0.6, 0.5), (0.45, 0.55)] {
        let (x, y) = on_screen(browser, &laid, l + fx * (r - l), t + fy * (b - t)).await?;
        first.get_or_insert((x, y));
        chain = chain.move_to(x, y).click();
    }
    let (x, y) = first.context("no first node")?;
    chain.move_to(x, y).click().perform().await?;
    browser
        .until("the contour to close", async || {
            (!browser.text().await.ok()?.contains("Following the edge")).then_some(())
        })
        .await?;
    let traced = bench.after(async |b| b.press("Keep").await).await?;
    let contour = piece(&traced, 1)["kind"]["opening"]["forms"][0]["shape"]["subpaths"].clone();
    ensure!(contour.as_array().map(Vec::len) == Some(1) && contour[0]["closed"] == true, "{contour}");
    // it follows the edge from click to click, and is remembered for the next one
    ensure!(contour[0]["nodes"].as_array().is_some_and(|n| n.len() > 8), "{contour}");
    browser.keys(Key::Escape + "").await?;
    browser.keys("t").await?;
    let remembered = "return document.querySelector('[aria-label=\"Trace mode\"] input').checked";
    browser.holds("the choice", remembered).await?;
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn what_is_only_tried_fills_no_console() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    new_sheet(browser, &bench.server, "Quiet").await?;
    bench.draw("Ellipse", false, (120.0, 60.0), (300.0, 240.0)).await?;
    let sheet = bench.sheet().await?;
    let id = sheet["id"].as_str().context("no id")?;
    let tried = |base: u64| serde_json::json!({ "base": base, "edits": [{ "edit": "remove_piece", "piece": id }] });
    // neither what cannot be made nor what comes too late is an error
    let refused =
        bench.server.post(&format!("/sheets/{id}/tentative"), tried(sheet["revision"].as_u64().unwrap_or(0))).await?;
    assert_eq!(refused["tried"], "refused");
    let late = bench.server.post(&format!("/sheets/{id}/tentative"), tried(0)).await?;
    assert_eq!(late["tried"], "newer");
    ensure!(late["bench"]["revision"] == sheet["revision"]);
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn what_fills_a_window_has_handles_of_its_own() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    bench.draw("Ellipse", false, (110.0, 50.0), (310.0, 250.0)).await?;
    let disc = piece(&bench.sheet().await?, 0)["kind"]["opening"].clone();
    let grip = async |what: &str| -> Result<()> {
        let radio = format!("//*[@aria-label='A drag moves']//*[@role='radio' and starts-with(., '{what}')]");
        browser.click(&radio).await
    };

    // typed at once, as large as the opening has room for
    browser.press("Add a fill").await?;
    bench.after(async |b| b.keys("T").await).await?;
    bench.after(async |b| b.keys("IDE").await).await?;
    // its handles are there while its card is open, and while the grip is about the fill
    browser.at("//*[@data-testid='own-bend']").await?;
    browser.press("Close the card").await?;
    grip("Fill").await?;
    let filling = |bench: &Value| piece(bench, 0)["kind"]["fills"][1]["paint"]["form"].clone();
    let typed = bench.sheet().await?;
    ensure!(filling(&typed)["shape"]["text"] == "TIDE", "{}", filling(&typed));
    let corners: [[f64; 2]; 4] =
        serde_json::from_value(typed["scene"]["pieces"][0]["fill_forms"][0]["corners"].clone())?;
    ensure!(corners[1][0] - corners[0][0] > 120.0 && corners[0][0] > 110.0 && corners[1][0] < 310.0, "{corners:?}");

    // bent, slanted, stretched and pulled, while the opening stays as it is
    let dragged = async |selector: &str, by: (i64, i64)| -> Result<Value> {
        let from = bench.middle(selector).await?;
        bench.after(async |b| b.drag(from, (from.0 + by.0, from.1 + by.1)).await).await
    };
    let bent = dragged("[data-testid=own-bend]", (0, -25)).await?;
    ensure!(filling(&bent)["bend"]["kind"] == "bow_up" && filling(&bent)["bend"]["amount"].as_f64() > Some(0.05));
    let wide = dragged("[data-testid=form-side-1]", (-40, 0)).await?;
    ensure!(filling(&wide)["pose"]["wide"].as_f64() < filling(&bent)["pose"]["wide"].as_f64(), "{}", filling(&wide));
    browser.keys("l").await?;
    let slanted = dragged("[data-testid=form-side-0]", (25, 0)).await?;
    ensure!(filling(&slanted)["pose"]["slant"].as_f64().unwrap_or(0.0).abs() > 2.0, "{}", filling(&slanted));
    browser.keys("p").await?;
    let pulled = dragged("[data-testid=form-corner-0]", (-10, -20)).await?;
    ensure!(filling(&pulled)["pose"]["pull"][0][1].as_f64().unwrap_or(0.0).abs() > 0.02, "{}", filling(&pulled));
    ensure!(piece(&pulled, 0)["kind"]["opening"] == disc, "the opening stays");
    screen_is_file(browser, &bench.server).await?;

    // by what the grip is about, its size is that of the lettering or of the disc
    let field = async || -> Result<String> {
        let field = browser.at("//input[@aria-label='Size']").await?;
        Ok(field.prop("value").await?.unwrap_or_default())
    };
    bench.select(0).await?;
    ensure!(field().await? != "200 × 200 mm", "the lettering");
    grip("Opening").await?;
    browser.until("the disc", async || (field().await.ok()? == "200 × 200 mm").then_some(())).await?;
    // what is no size stays to be mended; a width and a height are taken both
    let input = browser.at("//input[@aria-label='Size']").await?;
    input.send_keys(Key::Control + "a").await?;
    input.send_keys("wide" + Key::Enter).await?;
    ensure!(field().await? == "wide");
    input.send_keys(Key::Control + "a").await?;
    let sized = bench.after(async |_| Ok(input.send_keys("180 x 90 mm" + Key::Enter).await?)).await?;
    let [l, t, r, b] = bounds(&sized);
    ensure!((r - l - 180.0).abs() < 0.01 && (b - t - 90.0).abs() < 0.01, "{} x {}", r - l, b - t);
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn quick_changes_to_one_thing_all_stay() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    bench.draw("Box", false, (100.0, 80.0), (200.0, 180.0)).await?;
    // typed, and at once something else is pressed that changes the same finish
    bench.after(async |b| b.press("One more rim, like the last").await).await?;
    let width = browser.at("//label[starts-with(., 'Width')]/following-sibling::input").await?;
    width.send_keys(Key::Control + "a").await?;
    width.send_keys("5").await?;
    let press = "for (const name of ['One more shadow, like the last', 'Light on it, like the last']) document.querySelector(`[aria-label='${name}']`).click()";
    browser.script(&format!("document.activeElement.blur(); {press}")).await?;
    let all = browser.until("all three", async || {
        let finish = piece(&bench.sheet().await.ok()?, 0)["kind"]["finish"].clone();
        (finish["gloss"].is_object() && finish["shadows"].is_array()).then_some(finish)
    });
    let finish = all.await?;
    ensure!(finish["rims"][0]["width"] == 5.0 && finish["shadows"].as_array().map(Vec::len) == Some(1), "{finish}");
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_word_is_taken_to_what_is_to_show_through_it() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    let take = async |x: f64, y: f64, word: &str| -> Result<Value> {
        let sheet = bench.sheet().await?;
        let from = bench.middle("[aria-label^='Add lettering']").await?;
        browser.drag(from, on_screen(browser, &sheet, x, y).await?).await?;
        browser.at("//label[starts-with(normalize-space(.), 'Type a word')]").await?;
        for letter in word.chars() {
            bench.after(async |b| b.keys(letter.to_string()).await).await?;
        }
        browser.kept().await?;
        browser.press("Close the card").await?;
        bench.sheet().await
    };
    let words = |bench: &Value| -> Vec<String> {
        let pieces = bench["sheet"]["pieces"].as_array().cloned().unwrap_or_default();
        let text = |p: &Value| p["kind"]["opening"]["forms"][0]["shape"]["text"].as_str().unwrap_or("").to_owned();
        pieces.iter().map(text).collect()
    };
    // a window without a photo stays what it is, and so does the bare sheet: the word is one of its own
    bench.draw("Box", false, (20.0, 20.0), (90.0, 90.0)).await?;
    let own = take(50.0, 50.0, "UP").await?;
    ensure!(words(&own) == ["", "UP"], "{:?}", words(&own));
    bench.after(async |b| b.press("Undo").await).await?;
    ensure!(words(&bench.sheet().await?) == [""], "typed in one go");

    // a photo through a star shows through the word instead, where it lies
    browser.keys(Key::Escape + "").await?;
    bench.draw("Star", false, (150.0, 60.0), (330.0, 240.0)).await?;
    bring_photo(browser, "Bring in a photo", "demo/photos/balloon.jpg").await?;
    let photo = |bench: &Value| piece(bench, 1)["kind"]["fills"][0]["paint"]["placement"].clone();
    let star = browser
        .until("the photo", async || {
            let now = bench.sheet().await.ok()?;
            photo(&now).is_object().then_some(now)
        })
        .await?;
    let masked = take(240.0, 150.0, "SKY").await?;
    ensure!(words(&masked) == ["", "SKY"] && photo(&masked) == photo(&star), "{:?}", words(&masked));
    ensure!(piece(&masked, 1)["kind"]["opening"]["forms"].as_array().map(Vec::len) == Some(1));
    screen_is_file(browser, &bench.server).await?;

    // undone, it is the star again
    let back = bench.after(async |b| b.press("Undo").await).await?;
    ensure!(piece(&back, 1)["kind"]["opening"] == piece(&star, 1)["kind"]["opening"], "in one step");
    bench.browser.close().await
}
