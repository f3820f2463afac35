//! Jobs about photos in openings, and subjects that climb out of them.

use super::Job;
use super::hand::{Hand, Wheel, With};
use anyhow::{Context, Result, ensure};
use inky_e2e::steps::{bounds, form_box, forms, newer};
use serde_json::Value;
use thirtyfour::prelude::*;

pub const OCTOPUS: &str = "demo/photos/octopus-kite.jpg";
pub const BALLOON: &str = "demo/photos/balloon.jpg";

pub const JOBS: &[Job] = &[
    Job { number: 1, what: "A painted opening, moved apart from its photo", most: 8, work: |h| Box::pin(painted(h)) },
    Job { number: 2, what: "One photo in a circle, a ring and a word", most: 9, work: |h| Box::pin(cropped(h)) },
    Job { number: 4, what: "A word with a photo, a word with a drawing", most: 9, work: |h| Box::pin(words(h)) },
    Job {
        number: 5,
        what: "A picture on the sheet, masked by a shape, then by a word",
        most: 6,
        work: |h| Box::pin(masked(h)),
    },
    Job {
        number: 7,
        what: "A tall word with limbs of the subject joined to it",
        most: 8,
        work: |h| Box::pin(limbs(h)),
    },
    Job { number: 8, what: "A photo in an ellipse", most: 4, work: |h| Box::pin(ellipse(h)) },
    Job {
        number: 11,
        what: "A heart, a gradient of the photo's colours, a border",
        most: 8,
        work: |h| Box::pin(heart(h)),
    },
    Job { number: 13, what: "A drawing in a shape whose line is seen", most: 4, work: |h| Box::pin(clipped(h)) },
    Job { number: 15, what: "Artwork that stands out over a circle", most: 6, work: |h| Box::pin(artwork(h)) },
    Job { number: 17, what: "A rough print with a photo", most: 5, work: |h| Box::pin(print(h)) },
    Job { number: 19, what: "A subject that rises over a circle's top", most: 6, work: |h| Box::pin(rising(h)) },
];

pub fn pieces(bench: &Value) -> Vec<Value> {
    bench["sheet"]["pieces"].as_array().cloned().unwrap_or_default()
}

/// The place of the photo of a piece.
pub fn photo(piece: &Value) -> Option<Value> {
    let fills = piece["kind"]["fills"].as_array()?;
    fills.iter().find(|f| f["paint"]["kind"] == "photo").map(|f| f["paint"]["placement"].clone())
}

pub fn opening(piece: &Value) -> &Value {
    &piece["kind"]["opening"]
}

async fn painted(h: &mut Hand<'_>) -> Result<()> {
    h.brush(&[(150.0, 120.0), (270.0, 120.0), (270.0, 160.0), (150.0, 160.0)]).await?;
    h.drag(&[(150.0, 140.0), (290.0, 140.0)], With::Nothing).await?;
    h.drag(&[(250.0, 100.0), (250.0, 130.0)], With::Alt).await?;
    h.photo(OCTOPUS).await?;
    let filled = pieces(&h.sheet().await?)[0].clone();
    let slid = pieces(&h.grip("Fill", (30, -15)).await?)[0].clone();
    ensure!(photo(&slid) != photo(&filled) && opening(&slid) == opening(&filled), "the photo alone is slid");
    let moved = pieces(&h.grip("Opening", (-25, 20)).await?)[0].clone();
    let scaled = pieces(&h.pull("[data-testid=corner-2]", (20, 14)).await?)[0].clone();
    let turned = pieces(&h.pull("[data-testid=turn]", (40, 10)).await?)[0].clone();
    for (now, before) in [(&moved, &slid), (&scaled, &moved), (&turned, &scaled)] {
        ensure!(photo(now) == photo(&slid) && opening(now) != opening(before), "the opening alone is changed");
    }
    let strokes = turned["kind"]["opening"]["forms"][0]["shape"]["strokes"].as_array().cloned().unwrap_or_default();
    let erased = strokes.iter().filter(|s| s["erase"] == true).count();
    ensure!(strokes.len() == 3 && erased == 1, "{strokes:?}");
    Ok(())
}

async fn cropped(h: &mut Hand<'_>) -> Result<()> {
    let circle = h.shelf("ellipse", (110.0, 100.0), With::Nothing).await?;
    let [l, t, r, b] = bounds(&circle);
    ensure!((r - l - (b - t)).abs() < 0.01, "a true circle");
    h.photo(OCTOPUS).await?;
    let filled = pieces(&h.sheet().await?)[0].clone();
    let alone = pieces(&h.grip("Fill", (14, 8)).await?)[0].clone();
    ensure!(opening(&alone) == opening(&filled) && photo(&alone) != photo(&filled));
    let both = pieces(&h.grip("Both", (-10, 0)).await?)[0].clone();
    ensure!(opening(&both) != opening(&alone) && photo(&both) != photo(&alone));
    h.shelf("ring", (320.0, 100.0), With::Nothing).await?;
    h.photo(OCTOPUS).await?;
    h.key("w").await?;
    h.typed("SEA").await?;
    h.photo(OCTOPUS).await?;
    let all = pieces(&h.sheet().await?);
    let photos: Vec<Value> =
        all.iter().filter_map(|p| p["kind"]["fills"][0]["paint"]["photo"].as_str().map(Into::into)).collect();
    ensure!(all.len() == 3 && photos.len() == 3 && photos.iter().all(|p| *p == photos[0]), "{photos:?}");
    ensure!(all.iter().all(|p| opening(p)["forms"].as_array().map(Vec::len) == Some(1)));
    Ok(())
}

async fn words(h: &mut Hand<'_>) -> Result<()> {
    h.key("w").await?;
    h.typed("KITE").await?;
    h.photo(OCTOPUS).await?;
    let filled = pieces(&h.sheet().await?)[0].clone();
    let shifted = pieces(&h.grip("Fill", (20, 20)).await?)[0].clone();
    ensure!(photo(&shifted) != photo(&filled) && opening(&shifted) == opening(&filled));
    h.key("w").await?;
    h.typed("FLAG").await?;
    h.photo("demo/stock/ribbon-kite.svg").await?;
    h.press("around").await?;
    let drawn = pieces(&h.sheet().await?)[1].clone();
    let fill = drawn["kind"]["fills"]
        .as_array()
        .and_then(|f| f.iter().find(|f| f["paint"]["kind"] == "drawing"))
        .context("no drawing")?;
    let out = fill["paint"]["looks"].as_array().map_or(0, |l| l.iter().filter(|l| l["out"] == true).count());
    ensure!(out >= 2, "{fill}");
    Ok(())
}

async fn masked(h: &mut Hand<'_>) -> Result<()> {
    h.photo(BALLOON).await?;
    let whole = pieces(&h.sheet().await?)[0].clone();
    let shaped = pieces(&h.shelf("ellipse", (210.0, 150.0), With::Nothing).await?);
    ensure!(shaped.len() == 1 && photo(&shaped[0]) == photo(&whole), "the photo is where it was");
    ensure!(opening(&shaped[0])["forms"][0]["shape"]["kind"] == "basic");
    let freed = pieces(&h.press_for("Free the photo").await?);
    ensure!(freed == vec![whole.clone()], "nothing is left of the mask");
    h.key("w").await?;
    h.typed("WIND").await?;
    let word = pieces(&h.sheet().await?);
    ensure!(word.len() == 1 && photo(&word[0]) == photo(&whole));
    ensure!(opening(&word[0])["forms"][0]["shape"]["text"] == "WIND", "{}", opening(&word[0]));
    Ok(())
}

async fn ellipse(h: &mut Hand<'_>) -> Result<()> {
    h.drop_on_shape(OCTOPUS, "ellipse").await?;
    let first = h.sheet().await?;
    let wide = h.pull("[data-testid=form-side-1]", (60, 0)).await?;
    let ([l, _, r, _], [l2, t2, r2, b2]) = (bounds(&first), bounds(&wide));
    ensure!(r2 - l2 > r - l + 10.0 && photo(&pieces(&wide)[0]) == photo(&pieces(&first)[0]), "the ellipse alone");
    let large = h.pull("[data-testid=fill-scale]", (40, 0)).await?;
    let scale = |bench: &Value| photo(&pieces(bench)[0]).and_then(|p| p["scale"].as_f64()).unwrap_or(0.0);
    ensure!(scale(&large) > 1.1 * scale(&wide) && bounds(&large) == [l2, t2, r2, b2], "the photo alone");
    let both = h.grip("Both", (20, 30)).await?;
    ensure!(bounds(&both)[1] > t2 + 5.0 && photo(&pieces(&both)[0]) != photo(&pieces(&large)[0]));
    Ok(())
}

async fn heart(h: &mut Hand<'_>) -> Result<()> {
    h.drop_on_shape(BALLOON, "heart").await?;
    let before = h.sheet().await?;
    let scaled = h.pull("[data-testid=fill-scale]", (30, 0)).await?;
    ensure!(photo(&pieces(&scaled)[0]) != photo(&pieces(&before)[0]) && form_box(&scaled, 0) == form_box(&before, 0));
    h.key(Key::Escape + "").await?;
    h.press("Background").await?;
    let ground = h.press_for("A gradient of its main colours").await?;
    let stops = ground["sheet"]["backdrop"]["gradient"]["stops"].as_array().cloned().unwrap_or_default();
    ensure!(stops.len() == 2 && stops[0]["tint"] != stops[1]["tint"], "{}", ground["sheet"]["backdrop"]);
    h.press("Border").await?;
    h.click("//label[contains(., 'A line around')]").await?;
    let lined = h.sheet().await?;
    ensure!(lined["sheet"]["border"]["inset"].as_f64() > Some(1.0));
    Ok(())
}

async fn clipped(h: &mut Hand<'_>) -> Result<()> {
    h.drop_on_shape("demo/stock/ribbon-kite.svg", "star").await?;
    let rimmed = h.press_for("One more rim, like the last").await?;
    let piece = &pieces(&rimmed)[0];
    let kinds: Vec<&str> =
        piece["kind"]["fills"].as_array().into_iter().flatten().filter_map(|f| f["paint"]["kind"].as_str()).collect();
    ensure!(
        kinds.contains(&"drawing") && piece["kind"]["finish"]["rims"].as_array().map(Vec::len) == Some(1),
        "{piece}"
    );
    ensure!(opening(piece)["forms"][0]["shape"]["figure"]["figure"] == "star");
    Ok(())
}

async fn rising(h: &mut Hand<'_>) -> Result<()> {
    // the size of the sheet is part of it
    h.browser().page.goto(&h.server().address).await?;
    h.browser().press("New sheet").await?;
    h.counts(1);
    let width = h.browser().at("//label[starts-with(., 'Width')]/following-sibling::input").await?;
    width.send_keys(Key::Control + "a").await?;
    width.send_keys("1000 x 1000 px").await?;
    h.counts(1);
    width.send_keys(Key::Enter + "").await?;
    h.counts(1);
    h.browser().reads("An empty sheet").await?;
    let px = h.sheet().await?["sheet"].clone();
    let side = |name: &str| px[name].as_f64().unwrap_or(0.0) / 25.4 * px["ppi"].as_f64().unwrap_or(0.0);
    ensure!(
        (side("width") - 1000.0).abs() < 0.5 && (side("height") - 1000.0).abs() < 0.5 && px["unit"] == "px",
        "{px}"
    );
    h.drop_on_shape(OCTOPUS, "ellipse").await?;
    h.grip("Fill", (0, -70)).await?;
    // its subject is looked for by itself
    h.browser().at("//button[.='above' and not(@disabled)]").await?;
    let before = h.sheet().await?;
    h.press("above").await?;
    let out = newer(h.browser(), h.server(), &before).await?;
    let overhangs = out["scene"]["pieces"][0]["overhangs"].as_array().cloned().unwrap_or_default();
    let is_out = |o: &&Value| o["let_out_by"].as_array().is_some_and(|b| !b.is_empty());
    let outside: Vec<&Value> = overhangs.iter().filter(is_out).collect();
    ensure!(!outside.is_empty() && outside.iter().all(|o| o["place"] == "above"), "{} out", outside.len());
    ensure!(forms(&out).len() == 1);
    Ok(())
}

async fn limbs(h: &mut Hand<'_>) -> Result<()> {
    h.key("w").await?;
    h.typed("SEA").await?;
    let typed = h.sheet().await?;
    let tall = h.pull("[data-testid=form-side-0]", (0, -20)).await?;
    let ([_, t, _, b], [_, t2, _, b2]) = (bounds(&typed), bounds(&tall));
    ensure!(b2 - t2 > b - t + 2.0, "stretched taller");
    h.photo(OCTOPUS).await?;
    h.browser().at("//button[.='above']").await?;
    h.press("Breakout").await?;
    h.press("Into the outline").await?;
    let parts = h.sheet().await?["scene"]["pieces"][0]["overhangs"].as_array().cloned().unwrap_or_default();
    ensure!(parts.len() > 1, "{} parts", parts.len());
    let first = inky_e2e::steps::inside(h.browser(), "[data-testid=overhang-in]", 0).await?;
    let second = inky_e2e::steps::inside(h.browser(), "[data-testid=overhang-in]", 1).await?;
    h.sweep(&[first, second]).await?;
    let joined = h.press_for("Keep").await?;
    let kinds: Vec<Value> = forms(&joined).iter().map(|f| f["shape"]["kind"].clone()).collect();
    ensure!(kinds.len() >= 3 && kinds[1..].iter().all(|k| k == "contour"), "{kinds:?}");
    Ok(())
}

async fn artwork(h: &mut Hand<'_>) -> Result<()> {
    h.drop_on_shape("demo/stock/ribbon-kite.svg", "ellipse").await?;
    let circle = h.sheet().await?;
    let out = h.press_for("above").await?;
    let looks = pieces(&out)[0]["kind"]["fills"][1]["paint"]["looks"].as_array().cloned().unwrap_or_default();
    ensure!(looks.iter().any(|l| l["out"] == true), "{looks:?}");
    h.press("Opening").await?;
    h.press_for("Top").await?;
    h.number("Goes on for", "60").await?;
    let widened = pieces(&h.sheet().await?)[0].clone();
    ensure!((opening(&widened)["open"][0]["far"].as_f64().unwrap_or(0.0) - 60.0).abs() < 1e-6, "{}", opening(&widened));
    ensure!(opening(&widened)["forms"] == opening(&pieces(&circle)[0])["forms"], "the circle is still a circle");
    Ok(())
}

async fn print(h: &mut Hand<'_>) -> Result<()> {
    h.photo("demo/drawings/lantern-print.svg").await?;
    let rough = h.sheet().await?;
    h.number("Drop specks below", "1").await?;
    ensure!(inky_e2e::steps::contours(&h.sheet().await?) < inky_e2e::steps::contours(&rough) - 100);
    h.photo(OCTOPUS).await?;
    let filled = pieces(&h.sheet().await?)[0].clone();
    let larger = Wheel { plain: 3, with_ctrl: 0 };
    let large = pieces(&h.grip_with("Fill", (20, 0), larger).await?)[0].clone();
    let of = |piece: &Value, key: &str| photo(piece).and_then(|p| p[key].as_f64()).unwrap_or(0.0);
    let (scaled, slid) = (of(&large, "scale") / of(&filled, "scale"), of(&large, "x") - of(&filled, "x"));
    ensure!(scaled > 1.2 && slid > 3.0, "{scaled} times as large, {slid} mm to the right");
    ensure!(opening(&large) == opening(&filled), "the photo alone");
    let smaller = Wheel { plain: -1, with_ctrl: 0 };
    let scaled = pieces(&h.grip_with("Opening", (-15, 5), smaller).await?)[0].clone();
    ensure!(opening(&scaled) != opening(&large) && photo(&scaled) == photo(&large), "the opening alone");
    Ok(())
}
