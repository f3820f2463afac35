//! A chart of every kind of fill, every blend mode and every finish, compared on screen and in the file; and their controls.

use super::{kinds, window, word_with_a_photo};
use anyhow::{Context, Result, ensure};
use inky_e2e::Bench;
use inky_e2e::compare::screen_is_file;
use inky_e2e::renderers::Loaded;
use inky_e2e::root;
use inky_e2e::steps::{bounds, type_word};
use serde_json::{Value, json};
use thirtyfour::prelude::*;
use uuid::Uuid;

const MODES: [&str; 16] = [
    "normal",
    "multiply",
    "screen",
    "overlay",
    "darken",
    "lighten",
    "color-dodge",
    "color-burn",
    "hard-light",
    "soft-light",
    "difference",
    "exclusion",
    "hue",
    "saturation",
    "color",
    "luminosity",
];

fn still(x: f64, y: f64, scale: f64) -> Value {
    json!({ "x": x, "y": y, "scale": scale, "turn": 12.0, "mirrored": false })
}

fn gradient(way: &str) -> Value {
    let stop = |at: f64, colour: &str| json!({ "at": at, "tint": { "colour": colour }, "opacity": 0.8 });
    json!({ "kind": "gradient", "gradient": { "kind": way, "stops": [stop(0.0, "#e9722f"), stop(0.6, "#2b6ea6"), stop(1.0, "#f4d35e")] } })
}

fn shape(x: f64, y: f64, width: f64, figure: Value) -> Value {
    json!({ "id": Uuid::new_v4(), "join": "add", "off": false,
        "shape": { "kind": "basic", "width": width, "height": 34.0, "figure": figure },
        "pose": { "x": x, "y": y, "turn": 0.0, "slant": 0.0, "wide": 1.0, "tall": 1.0 } })
}

/// A window at a place of the chart, with fills over its ink and a finish.
async fn entry(bench: &Bench, at: usize, fills: &[Value], finish: Value) -> Result<Uuid> {
    let sheet = bench.sheet().await?;
    let id = sheet["id"].as_str().context("no sheet")?.to_owned();
    let (x, y) = (30.0 + 50.0 * (at % 8) as f64, 30.0 + 46.0 * (at / 8) as f64);
    let figure = if at.is_multiple_of(2) {
        json!({ "figure": "ellipse" })
    } else {
        json!({ "figure": "box", "corners": [9.0, 0.0, 9.0, 0.0] })
    };
    let piece = Uuid::new_v4();
    let mut edits = vec![
        json!({ "edit": "add_window", "piece": piece, "fill": Uuid::new_v4(), "form": shape(x, y, 42.0, figure) }),
    ];
    for fill in fills {
        let mut fill = fill.clone();
        fill["id"] = json!(Uuid::new_v4());
        // what has a place of its own lies where its window does
        for (key, v) in [("x", x), ("y", y)] {
            for place in ["/paint/placement", "/paint/form/pose"] {
                if let Some(p) = fill.pointer_mut(place) {
                    p[key] = json!(v);
                }
            }
        }
        edits.push(json!({ "edit": "add_fill", "piece": piece, "fill": fill }));
    }
    edits.push(json!({ "edit": "set_finish", "piece": piece, "finish": finish }));
    let mut base = sheet["revision"].as_u64().context("no revision")?;
    for edit in edits {
        let body = json!({ "base": base, "request": Uuid::new_v4(), "gesture": null, "edits": [edit] });
        let kept = bench.server.post(&format!("/sheets/{id}/edits"), body).await?;
        base = kept["revision"].as_u64().with_context(|| kept.to_string())?;
    }
    Ok(piece)
}

#[tokio::test(flavor = "multi_thread")]
async fn every_fill_blend_and_finish_is_the_same_on_screen_and_in_the_file() -> Result<()> {
    let bench = Bench::start().await?;
    let photo = std::fs::read(root().join("demo/photos/lanterns.jpg"))?;
    let (_, photo) = bench.server.upload("photos", "lanterns.jpg", photo).await?;
    let kite = std::fs::read(root().join("demo/stock/ribbon-kite.svg"))?;
    let (_, kite) = bench.server.upload("drawings", "kite.svg", kite).await?;
    let shown = json!({ "paint": { "kind": "photo", "photo": photo["id"], "placement": still(0.0, 0.0, 0.02) } });
    // the photo must be the sheet's before fills can show it
    let id = bench.sheet().await?["id"].as_str().context("no sheet")?.to_owned();
    let first = json!({ "edit": "add_picture", "piece": Uuid::new_v4(), "photo": photo["id"], "x": 210.0, "y": 250.0 });
    let body = json!({ "base": 1, "request": Uuid::new_v4(), "gesture": null, "edits": [first] });
    bench.server.post(&format!("/sheets/{id}/edits"), body).await?;

    // every blend mode, of a gradient over the photo
    for (at, mode) in MODES.iter().enumerate() {
        let over = json!({ "paint": gradient("linear"), "blend": mode, "strength": 0.9 });
        entry(&bench, at, &[shown.clone(), over], json!({})).await?;
    }
    let plain = |paint: Value| json!({ "paint": paint });
    let drawing = json!({ "kind": "drawing", "drawing": kite["id"], "placement": still(0.0, 0.0, 0.5),
        "looks": [{ "part": 1, "off": false, "out": true }] });
    let mut lettering = shape(0.0, 0.0, 1.0, json!({}));
    lettering["shape"] = json!({ "kind": "lettering", "text": "HERE", "font": "anton", "size": 18.0, "tracking": 0.0, "leading": 1.1, "align": "centre" });
    let word = json!({ "kind": "form", "form": lettering, "paint": gradient("radial") });
    let tile = |motif: &str, id: &Value, scale: f64| json!({ "kind": "tile", motif: id, "placement": still(0.0, 0.0, scale), "step": [1.2, 1.4], "offset": 0.5 });
    let other = entry(&bench, 16, &[plain(drawing)], json!({})).await?;
    let another = json!({ "kind": "window", "piece": other, "by": { "a": 0.8, "b": 0.1, "dx": 58.0, "dy": 20.0 } });
    let tone = json!({ "brightness": 0.2, "contrast": 0.3, "saturation": -0.4, "warmth": 0.5, "print": { "inks": "two", "dark": { "colour": "#102040" }, "light": { "colour": "#f0c0a0" } } });
    let mut printed = shown.clone();
    printed["paint"]["tone"] = tone;
    for (at, fills) in [
        vec![plain(another)],
        vec![shown.clone(), plain(word)],
        vec![plain(tile("photo", &photo["id"], 0.005))],
        vec![plain(tile("drawing", &kite["id"], 0.15))],
        vec![plain(gradient("radial"))],
        vec![printed],
        vec![json!({ "paint": { "kind": "colour", "colour": "#d7263d" }, "strength": 0.5 })],
    ]
    .iter()
    .enumerate()
    {
        entry(&bench, 17 + at, fills, json!({})).await?;
    }
    let shadow = |place: &str, distance: f64, blend: &str| json!({ "place": place, "tint": { "colour": "#141b34" }, "blend": blend, "strength": 0.7, "angle": 60.0, "distance": distance, "spread": 0.5, "size": 4.0 });
    let rim = |side: &str, over: bool, dashes: Value| json!({ "width": 1.6, "side": side, "paint": gradient("linear"), "dashes": dashes, "round": true, "over": over });
    for (at, finish) in [
        json!({ "softness": { "width": 8.0, "side": "both" } }),
        json!({ "softness": { "width": 6.0, "side": "inward" }, "strength": 0.8 }),
        json!({ "softness": { "width": 6.0, "side": "outward" }, "rims": [rim("outside", false, json!([]))] }),
        json!({ "rims": [rim("inside", true, json!([3.0, 2.0])), rim("centre", false, json!([]))] }),
        json!({ "shadows": [shadow("behind", 3.0, "multiply"), shadow("inside", 2.0, "normal")] }),
        json!({ "shadows": [shadow("behind", 0.0, "screen")], "gloss": { "strength": 0.8, "reach": 6.0, "shine": 0.7, "light": -120.0, "rise": 40.0 } }),
        json!({ "gloss": { "strength": 0.6, "reach": 3.0, "shine": 0.2, "light": 30.0, "rise": 60.0 }, "strength": 0.9 }),
    ]
    .iter()
    .enumerate()
    {
        entry(&bench, 24 + at, std::slice::from_ref(&shown), finish.clone()).await?;
    }
    bench.browser.page.refresh().await?;
    bench.browser.button("Deliver").await?;
    screen_is_file(&bench.browser, &bench.server).await?;
    // and the same for another renderer, which is given the SVG
    let whole = bench.server.delivered(&id, json!({ "task": "deliver", "kind": "sheet", "ppi": 100.0 })).await?;
    Loaded::read(&whole, &root(), None)?.renderers_agree(101.6, 1.0)?;
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn what_has_been_set_by_hand_can_be_seen_and_taken_back() -> Result<()> {
    let bench = word_with_a_photo().await?;
    let browser = &bench.browser;

    // a photo mirrored, slanted, turned; it stays where it is when the opening alone is moved, until it rides with it
    bench.card("Photo").await?;
    let placed = |bench: &Value| window(bench)["fills"][0]["paint"]["placement"].clone();
    let upright = bench.sheet().await?;
    bench.after(async |b| b.press("Mirror across").await).await?;
    bench.number("Slant, °", "10").await?;
    let turned = bench.number("Turn, °", "-20").await?;
    let place = placed(&turned);
    assert_eq!((&place["mirrored"], &place["slant"], &place["turn"]), (&json!(true), &json!(10.0), &json!(-20.0)));
    screen_is_file(browser, &bench.server).await?;
    bench.select(0).await?;
    bench.card("Photo").await?;
    let again = bench.after(async |b| b.press("Upright again").await).await?;
    assert_eq!(placed(&again)["turn"], placed(&upright)["turn"]);
    for rides in [false, true] {
        if rides {
            browser.press("Strength and blend").await?;
            bench.after(async |b| b.click("//label[contains(., 'Rides with')]").await).await?;
        }
        browser.press("Close the card").await?;
        browser.keys("o").await?;
        let before = bench.sheet().await?;
        let moved = bench.after(async |b| b.keys(Key::Right + "").await).await?;
        ensure!(bounds(&moved)[0] > bounds(&before)[0], "the opening is moved");
        assert_eq!(placed(&moved) != placed(&before), rides);
        bench.card("Photo").await?;
    }
    browser.press("Close the card").await?;
    browser.keys("b").await?;

    // light on it, switched off and on again with what was set
    bench.card("Gloss").await?;
    bench.after(async |b| b.click("//label[contains(., 'Light on it')]").await).await?;
    bench.number("Light from, °", "45").await?;
    for _ in 0..2 {
        bench.after(async |b| b.click("//label[contains(., 'Light on it')]").await).await?;
    }
    assert_eq!(window(&bench.sheet().await?)["finish"]["gloss"]["light"], 45.0);
    screen_is_file(browser, &bench.server).await?;

    // one window in another
    type_word(browser, "SEA").await?;
    bench.select(0).await?;
    browser.press("Add a fill").await?;
    let both = bench
        .after(async |b| b.click("//select[contains(@aria-label, 'Another window')]/option[.='DUSK']").await)
        .await?;
    let pieces = both["sheet"]["pieces"].as_array().context("no pieces")?;
    let sea = pieces.iter().find(|p| p["kind"]["fills"][1]["paint"]["kind"] == "window").context("no window in it")?;
    let dusk = pieces.iter().find(|p| p["id"] != sea["id"]).context("no other")?;
    assert_eq!(sea["kind"]["fills"][1]["paint"]["piece"], dusk["id"]);
    // nothing is within itself: it is not offered the other way round, or said
    screen_is_file(browser, &bench.server).await?;
    for _ in 0..2 {
        browser.keys(Key::Escape + "").await?;
    }

    // the paper, and a photo behind everything
    bench.card("Background").await?;
    let grainy = bench.number("Grain of the paper, %", "60").await?;
    assert_eq!(grainy["sheet"]["paper"], 0.6);
    let behind = bench
        .after(async |b| inky_e2e::steps::bring_photo(b, "A photo behind everything", "demo/photos/dunes.jpg").await)
        .await?;
    assert_eq!(behind["sheet"]["pieces"][0]["kind"]["opening"]["forms"], json!([]), "a picture has no mask");
    screen_is_file(browser, &bench.server).await?;
    assert_eq!(kinds(&behind), ["photo"], "it lies at the very back");
    bench.browser.close().await
}
