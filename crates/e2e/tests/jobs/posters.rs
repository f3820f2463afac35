//! Longer jobs: several pieces, or a poster from its size to its file.

use super::Job;
use super::hand::{Hand, Wheel, With};
use super::photos::{BALLOON, OCTOPUS, opening, photo, pieces};
use anyhow::{Context, Result, ensure};
use inky_e2e::steps::{bounds, form_box};
use serde_json::{Value, json};
use thirtyfour::prelude::*;

pub const JOBS: &[Job] = &[
    Job {
        number: 3,
        what: "Slanted panels, a subject and a headline (no paragraph yet)",
        most: 20,
        work: |h| Box::pin(panels(h)),
    },
    Job {
        number: 18,
        what: "A photo in halves along a line, another along a zigzag",
        most: 9,
        work: |h| Box::pin(halves(h)),
    },
    Job { number: 6, what: "A letter with its subject, to the file", most: 24, work: |h| Box::pin(letter(h)) },
    Job { number: 12, what: "A circle of 1500 px, bent lettering in it", most: 8, work: |h| Box::pin(disc(h)) },
    Job { number: 14, what: "A soft mask, copied, freed, as a tile", most: 9, work: |h| Box::pin(soft(h)) },
    Job { number: 20, what: "A photo through a star, then a word", most: 6, work: |h| Box::pin(compared(h)) },
];

fn fills(piece: &Value) -> Vec<Value> {
    piece["kind"]["fills"].as_array().cloned().unwrap_or_default()
}

async fn disc(h: &mut Hand<'_>) -> Result<()> {
    h.drop_on_shape(OCTOPUS, "ellipse").await?;
    let sized = h.size("1500 px").await?;
    let [l, t, r, b] = form_box(&sized, 0);
    let px = |mm: f64| mm / 25.4 * sized["sheet"]["ppi"].as_f64().unwrap_or(0.0);
    ensure!((px(r - l) - 1500.0).abs() < 0.01 && (px(b - t) - 1500.0).abs() < 0.01, "{} x {} px", px(r - l), px(b - t));
    h.click("//*[@aria-label='A drag moves']//*[@role='radio' and starts-with(., 'Fill')]").await?;
    h.key("p").await?;
    let pulled = h.pull("[data-testid=pull-0]", (30, 25)).await?;
    let corner = photo(&pieces(&pulled)[0]).and_then(|p| p["pull"][0][0].as_f64()).unwrap_or(0.0);
    ensure!(corner > 0.01 && opening(&pieces(&pulled)[0]) == opening(&pieces(&sized)[0]), "its corner {corner}");
    h.press("Add a fill").await?;
    h.typed("GALE").await?;
    let bent = h.pull("[data-testid=own-bend]", (0, -30)).await?;
    let piece = &pieces(&bent)[0];
    let form = fills(piece).iter().find(|f| f["paint"]["kind"] == "form").map(|f| f["paint"]["form"].clone());
    let form = form.context("no lettering in it")?;
    ensure!(form["shape"]["text"] == "GALE" && form["bend"]["amount"].as_f64() > Some(0.05), "{form}");
    ensure!(opening(piece) == opening(&pieces(&sized)[0]) && pieces(&bent).len() == 1, "within the same circle");
    Ok(())
}

async fn soft(h: &mut Hand<'_>) -> Result<()> {
    h.word_of(OCTOPUS, "FOG").await?;
    let word = pieces(&h.sheet().await?)[0].clone();
    // the edge is pulled soft from its card
    h.pull("[aria-label^='Edge:']", (8, 0)).await?;
    h.number("Strength, %", "50").await?;
    h.click("//label[contains(., 'Negative')]").await?;
    let edged = pieces(&h.sheet().await?)[0].clone();
    let finish = &edged["kind"]["finish"];
    let soft = finish["softness"]["width"].as_f64().unwrap_or(0.0);
    ensure!((3.0..9.0).contains(&soft) && finish["strength"] == 0.5 && finish["negative"] == true, "{finish}");
    let form = |piece: &Value| opening(piece)["forms"][0].clone();
    let size = |piece: &Value| form(piece)["shape"]["size"].as_f64().unwrap_or(0.0);
    let smaller = Wheel { plain: -3, with_ctrl: 2 };
    let turned = pieces(&h.grip_with("Opening", (8, 6), smaller).await?)[0].clone();
    ensure!(form(&turned)["pose"]["turn"].as_f64().unwrap_or(0.0).abs() > 1.0 && size(&turned) < 0.95 * size(&edged));
    ensure!(photo(&turned) == photo(&word), "the mask alone");
    // both move, mask and photo: as copies that Alt takes away, as many as the wheel says
    let [l, t, r, b] = bounds(&h.sheet().await?);
    let middle = ((l + r) / 2.0, (t + b) / 2.0);
    let two = Wheel { plain: 1, with_ctrl: 0 };
    h.drag_with(&[middle, (middle.0 + 80.0, middle.1 + 60.0)], With::Alt, two).await?;
    let three = pieces(&h.sheet().await?);
    ensure!(three.len() == 3 && three.iter().all(|p| photo(p).is_some() && fills(p).len() == fills(&turned).len()));
    let place = |piece: &Value| {
        let (form, photo) = (form(piece)["pose"].clone(), photo(piece).unwrap_or_default());
        ["x", "y"].map(|axis| [form[axis].as_f64().unwrap_or(f64::NAN), photo[axis].as_f64().unwrap_or(f64::NAN)])
    };
    for (copy, share) in three.iter().filter(|p| p["id"] != turned["id"]).zip([0.5, 1.0]) {
        for (axis, by) in [80.0, 60.0].into_iter().enumerate() {
            let moved = [0, 1].map(|k| place(copy)[axis][k] - place(&turned)[axis][k]);
            ensure!(moved.iter().all(|m| (m - by * share).abs() < 3.0), "moved by {moved:?}, not {}", by * share);
        }
    }
    h.press("Free the photo").await?;
    let freed = pieces(&h.sheet().await?);
    ensure!(freed.iter().filter(|p| opening(p)["forms"].as_array().is_none_or(Vec::is_empty)).count() == 1);
    ensure!(freed.iter().all(|p| photo(p).is_some()), "the photo stays");
    // one of the masked ones is a tile of a ring
    let tiled = h.piece_on_shape(2, "ring").await?;
    let ring = pieces(&tiled).last().cloned().unwrap_or_default();
    let tile = fills(&ring).into_iter().find(|f| f["paint"]["kind"] == "tile").context("no tile")?;
    ensure!(three.iter().any(|p| p["id"] == tile["paint"]["window"]), "{tile}");
    Ok(())
}

async fn compared(h: &mut Hand<'_>) -> Result<()> {
    h.photo(BALLOON).await?;
    let whole = pieces(&h.sheet().await?)[0].clone();
    let star = pieces(&h.shelf("star", (210.0, 150.0), With::Nothing).await?);
    ensure!(star.len() == 1 && photo(&star[0]) == photo(&whole), "through a star");
    ensure!(opening(&star[0])["forms"][0]["shape"]["figure"]["figure"] == "star");
    h.word_at((210.0, 150.0)).await?;
    h.typed("SKY").await?;
    let word = h.sheet().await?;
    ensure!(pieces(&word).len() == 1 && photo(&pieces(&word)[0]) == photo(&whole), "the photo is where it was");
    let forms = opening(&pieces(&word)[0])["forms"].clone();
    ensure!(forms.as_array().map(Vec::len) == Some(1) && forms[0]["shape"]["text"] == "SKY", "{forms}");
    let [l, t, r, b] = bounds(&word);
    let page = |side: &str| word["sheet"][side].as_f64().unwrap_or(0.0);
    let photo_box: Vec<[f64; 2]> =
        serde_json::from_value(word["scene"]["pieces"][0]["photos"][0]["corners"].clone()).unwrap_or_default();
    let wide = photo_box[1][0] - photo_box[0][0];
    ensure!((r - l) > 0.8 * wide.min(page("width")) || (b - t) > 0.8 * page("height"), "as large as there is room");
    // two fonts are compared by resting on them
    let look = "return document.querySelector('[data-testid=scene] [data-piece]').innerHTML";
    let mut seen = Vec::new();
    for k in [3, 6] {
        let before = h.browser().script(look).await?;
        h.rests_on(&format!("(//ul[@role='listbox']//button)[{k}]")).await?;
        let now = h.browser().until("another font to be seen", async || {
            let now = h.browser().script(look).await.ok()?;
            (now != before).then_some(now)
        });
        seen.push(now.await?);
    }
    ensure!(seen[0] != seen[1] && h.sheet().await?["revision"] == word["revision"], "tried, not kept");
    h.press("Lock").await?;
    ensure!(pieces(&h.sheet().await?)[0]["locked"] == true);
    h.browser().script("document.activeElement.blur()").await?;
    h.key("g").await?;
    let ground = "return document.querySelector('[data-testid=scene] rect').getAttribute('fill')";
    for colour in ["#f3c84b", "#1f4e79", "#0f766e"] {
        h.rests_on(&format!("//button[@aria-label='Colour {colour}']")).await?;
        let seen = h
            .browser()
            .until("the colour to be seen", async || (h.browser().script(ground).await.ok()? == colour).then_some(()));
        seen.await?;
    }
    Ok(())
}

async fn letter(h: &mut Hand<'_>) -> Result<()> {
    // the size of the sheet is part of it
    h.browser().page.goto(&h.server().address).await?;
    h.browser().press("New sheet").await?;
    h.browser().at("//label[.='Name']/following-sibling::input").await?.send_keys("Letter A").await?;
    h.counts(2);
    let width = h.browser().at("//label[starts-with(., 'Width')]/following-sibling::input").await?;
    width.send_keys(Key::Control + "a").await?;
    width.send_keys("1920 x 1080 px").await?;
    h.counts(1);
    width.send_keys(Key::Enter + "").await?;
    h.counts(1);
    h.browser().reads("An empty sheet").await?;
    h.word_of(OCTOPUS, "A").await?;
    // its subject is looked for by itself
    h.browser().at("//button[.='above' and not(@disabled)]").await?;
    h.press("Subject").await?;
    // it stands in the middle, on a gradient of the photo's own colours
    let alone = h.browser().until("the ground", async || {
        let now = h.sheet().await.ok()?;
        let ground = &fills(&pieces(&now)[0])[0]["paint"];
        (ground["kind"] == "gradient").then_some(now)
    });
    let alone = alone.await?;
    let page = |side: &str| alone["sheet"][side].as_f64().unwrap_or(0.0);
    let [l, t, r, b] = bounds(&alone);
    ensure!(((l + r - page("width")) / 2.0).abs() < 0.5 && ((t + b - page("height")) / 2.0).abs() < 0.5, "the letter");
    // to bring the subject into the middle would change nothing
    let piece = &pieces(&alone)[0];
    let fit = json!({ "edit": "fit_photo", "piece": piece["id"], "fill": fills(piece)[1]["id"], "fit": "middle" });
    let asked = format!("/sheets/{}/tentative", alone["id"].as_str().context("no sheet")?);
    let corner = |views: &Value| views[0]["photos"][0]["corners"][0].clone();
    h.browser()
        .until("the subject in the middle", async || {
            let now = h.sheet().await.ok()?;
            let body = json!({ "base": now["revision"], "edits": [fit.clone()] });
            let tried = h.server().post(&asked, body).await.ok()?;
            let (a, b) = (corner(&now["scene"]["pieces"]), corner(&tried["views"]));
            let near = |k: usize| (a[k].as_f64().unwrap_or(f64::NAN) - b[k].as_f64().unwrap_or(f64::NAN)).abs() < 1e-6;
            (tried["views"].as_array()?.is_empty() || (near(0) && near(1))).then_some(())
        })
        .await?;
    h.press("Breakout").await?;
    // one sweep across the upper arms; then a lower arm is painted out, and the tip of an upper one in
    let [l, t, r, b] = bounds(&h.sheet().await?);
    let at = |x: f64, y: f64| (l + x * (r - l), t + y * (b - t));
    h.drag(&[at(-0.17, 0.13), at(1.18, 0.13)], With::Nothing).await?;
    h.press("Paint out").await?;
    h.drag(&[at(-0.30, 0.74), at(-0.15, 0.78)], With::Nothing).await?;
    h.drag(&[at(-0.66, 0.15), at(-0.60, 0.22)], With::Alt).await?;
    let out = h.press_for("Keep").await?;
    let piece = pieces(&out)[0].clone();
    let painted = piece["kind"]["breakout"]["painted"].as_array().cloned().unwrap_or_default();
    ensure!(painted.iter().any(|s| s["keep"] == true) && painted.iter().any(|s| s["keep"] == false), "{painted:?}");
    h.press("One more rim, like the last").await?;
    // its width has the keys
    h.browser()
        .until("the field", async || {
            let tag = h.browser().script("return document.activeElement.tagName").await.ok()?;
            (tag == "INPUT").then_some(())
        })
        .await?;
    h.typed("4 px").await?;
    h.press("One more shadow, like the last").await?;
    h.press("Light on it, like the last").await?;
    let done = pieces(&h.sheet().await?)[0].clone();
    let finish = &done["kind"]["finish"];
    let rim = &finish["rims"][0];
    let px = 25.4 / out["sheet"]["ppi"].as_f64().unwrap_or(1.0);
    ensure!(rim["side"] == "outside" && (rim["width"].as_f64().unwrap_or(0.0) - 4.0 * px).abs() < 1e-6, "{rim}");
    ensure!(finish["shadows"].as_array().map(Vec::len) == Some(1) && finish["gloss"].is_object(), "{finish}");
    h.key("g").await?;
    h.press("As “A”").await?;
    let ground = h.sheet().await?;
    ensure!(ground["sheet"]["backdrop"]["ink"] == ground["sheet"]["inks"][0]["id"], "the same gradient");
    h.press("Deliver").await?;
    h.click("//*[@role='radio' and starts-with(., 'JPEG')]").await?;
    h.press("Make the file").await?;
    let file = h.browser().at("//a[@data-testid='file']").await?.text().await?;
    ensure!(file.starts_with("Letter A") && file.ends_with(".jpg"), "{file}");
    h.press("Inks").await?;
    h.press("Colour #0f766e").await?;
    let changed = h.sheet().await?;
    ensure!(changed["sheet"]["inks"][0]["mix"]["gradient"]["stops"][0]["tint"]["colour"] == "#0f766e");
    ensure!(fills(&pieces(&changed)[0])[0]["paint"]["ink"] == changed["sheet"]["inks"][0]["id"]);
    let overhangs = changed["scene"]["pieces"][0]["overhangs"].as_array().cloned().unwrap_or_default();
    let outside = overhangs.iter().filter(|o| o["let_out_by"].as_array().is_some_and(|b| !b.is_empty()));
    ensure!(outside.clone().count() > 0 && outside.clone().all(|o| o["place"] != "below"), "upper parts");
    Ok(())
}

/// The foremost piece.
fn front(bench: &Value) -> Value {
    pieces(bench).last().cloned().unwrap_or_default()
}

/// Left, top, right and bottom of the outline of a piece, in mm.
fn extent(bench: &Value, piece: &Value) -> [f64; 4] {
    let views = bench["scene"]["pieces"].as_array().cloned().unwrap_or_default();
    let view = views.into_iter().find(|v| v["piece"] == piece["id"]).unwrap_or_default();
    serde_json::from_value(view["bounds"].clone()).unwrap_or_default()
}

async fn panels(h: &mut Hand<'_>) -> Result<()> {
    // the size of the sheet is part of it
    h.browser().page.goto(&h.server().address).await?;
    for button in ["New sheet", "A4", "Lay out the sheet"] {
        h.browser().press(button).await?;
        h.counts(1);
    }
    h.browser().reads("An empty sheet").await?;
    let x = [60.0, 105.0, 150.0];
    h.shelf("box", (x[0], 150.0), With::Nothing).await?;
    h.size("36 x 150 mm").await?;
    h.key("l").await?;
    let slanted = h.pull("[data-testid=form-side-0]", (14, 0)).await?;
    ensure!(front(&slanted)["kind"]["opening"]["forms"][0]["pose"]["slant"].as_f64().unwrap_or(0.0).abs() > 1.0);
    for to in [x[1], x[2]] {
        h.drag(&[(to - 45.0, 150.0), (to, 150.0)], With::Alt).await?;
    }
    let files = ["demo/photos/dunes.jpg", BALLOON, "demo/photos/dandelion.jpg"];
    for (file, x) in files.iter().zip(x) {
        h.drop_at(file, (x, 150.0)).await?;
    }
    h.press("Photo").await?;
    h.press("Mirror across").await?;
    let three = h.sheet().await?;
    let all = pieces(&three);
    let boxes: Vec<[f64; 4]> = all.iter().map(|p| extent(&three, p)).collect();
    ensure!(boxes.len() == 3 && boxes.iter().all(|b| ((b[2] - b[0]) - (boxes[0][2] - boxes[0][0])).abs() < 1e-6));
    let gaps = [boxes[1][0] - boxes[0][0], boxes[2][0] - boxes[1][0]];
    ensure!((gaps[0] - gaps[1]).abs() < 0.6, "equal gaps: {gaps:?}");
    let shown: std::collections::BTreeSet<String> =
        all.iter().filter_map(|p| fills(p).iter().find_map(|f| f["paint"]["photo"].as_str().map(Into::into))).collect();
    ensure!(shown.len() == 3 && photo(&all[2]).is_some_and(|p| p["mirrored"] == true), "{shown:?}");
    h.key("w").await?;
    h.typed("ARMS").await?;
    h.size("150 mm").await?;
    h.drag(&[(105.0, 148.0), (105.0, 30.0)], With::Nothing).await?;
    // onto the bare sheet: a picture of its own
    h.drop_at(OCTOPUS, (105.0, 285.0)).await?;
    h.browser().at("//*[@role='radio' and .='Subject']").await?;
    h.press("Subject").await?;
    let done = h.sheet().await?;
    let all = pieces(&done);
    ensure!(all.len() == 5 && fills(&all[4])[0]["paint"]["alone"] == true, "the subject stands in front of the panels");
    let word = extent(&done, &all[3]);
    ensure!((word[2] - word[0] - 150.0).abs() < 0.05 && word[1] < 30.0, "{word:?}");
    Ok(())
}

async fn halves(h: &mut Hand<'_>) -> Result<()> {
    h.drop_on_shape(BALLOON, "box").await?;
    h.pull("[data-testid=own-radius-0]", (24, 24)).await?;
    let whole = pieces(&h.sheet().await?);
    ensure!(opening(&whole[0])["forms"][0]["shape"]["figure"]["corners"][0].as_f64().unwrap_or(0.0) > 3.0);
    let placed = photo(&whole[0]);
    h.key("y").await?;
    let [l, t, r, b] = bounds(&h.sheet().await?);
    let at = |across: f64, down: f64| (l + (r - l) * across, t + (b - t) * down);
    h.drag(&[at(-0.1, 0.6), at(1.1, 0.4)], With::Nothing).await?;
    let (from, to) = (at(0.5, 0.2), at(0.5, 0.05));
    h.drag(&[from, to], With::Nothing).await?;
    let apart = h.sheet().await?;
    let panes = panes(&apart);
    ensure!(panes.len() == 2 && photo(&pieces(&apart)[0]) == placed, "each shows its own part: {panes:?}");
    ensure!(panes[1][3] < panes[0][3] - 10.0 && panes[1][1] < t - 5.0, "pulled apart: {panes:?}");

    // a circle along a zigzag, one half turned and larger
    // the card stays open for it
    h.drop_on_shape(OCTOPUS, "ellipse").await?;
    h.press("Zigzag").await?;
    let before = h.press_for("Across").await?;
    let (was, placed) = (self::panes(&before), photo(&front(&before)));
    let [l, t, r, b] = was[0];
    let middle = (f64::midpoint(l, r), f64::midpoint(t, b));
    let wheel = Wheel { plain: 2, with_ctrl: 3 };
    h.drag_with(&[middle, (middle.0 + 6.0, middle.1 + 6.0)], With::Nothing, wheel).await?;
    let turned = h.sheet().await?;
    let look = &front(&turned)["kind"]["split"]["looks"][0]["by"];
    ensure!(look[1].as_f64().unwrap_or(0.0).abs() > 0.01, "turned: {look}");
    ensure!(self::panes(&turned)[1] == was[1] && photo(&front(&turned)) == placed, "the other half stays");
    Ok(())
}

/// The boxes of the panes of the foremost piece.
fn panes(bench: &Value) -> Vec<[f64; 4]> {
    let views = bench["scene"]["pieces"].as_array().cloned().unwrap_or_default();
    let all = views.last().and_then(|v| v["panes"].as_array().cloned()).unwrap_or_default();
    all.iter().map(|p| serde_json::from_value(p["bounds"].clone()).unwrap_or_default()).collect()
}
