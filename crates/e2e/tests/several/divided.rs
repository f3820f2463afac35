//! Bundles in panes and repeated bundles; members along a line.

use super::bundles::a_bundle;
use super::panes::photo_in_a_box;
use super::{boxes, drag, press_on, until_selected};
use anyhow::{Result, ensure};
use inky_e2e::compare::screen_is_file;
use inky_e2e::{Bench, root};
use serde_json::{Value, json};
use thirtyfour::prelude::*;
use uuid::Uuid;

fn near(a: f64, b: f64) -> bool {
    (a - b).abs() < 0.6
}

/// Left, top, right and bottom of the panes or members of the only bundle; mm.
fn parts(bench: &Value, kind: &str) -> Vec<[f64; 4]> {
    let all = bench["scene"]["page"]["bundles"][0]["divided"][kind].as_array().cloned().unwrap_or_default();
    all.iter().map(|p| serde_json::from_value(p["bounds"].clone()).unwrap_or_default()).collect()
}

/// Left, top, right and bottom of all panes of all pieces; mm.
fn pane_bounds(bench: &Value) -> Vec<[f64; 4]> {
    let pieces = bench["scene"]["pieces"].as_array().cloned().unwrap_or_default();
    let panes = pieces.iter().flat_map(|p| p["panes"].as_array().cloned().unwrap_or_default());
    panes.map(|p| serde_json::from_value(p["bounds"].clone()).unwrap_or_default()).collect()
}

#[tokio::test(flavor = "multi_thread")]
async fn a_bundle_is_split_across_and_its_panes_are_pulled_apart() -> Result<()> {
    let (bench, _) = a_bundle().await?;
    bench.browser.keys("y").await?;
    let split = bench.after(async |_| drag(&bench, (40.0, 85.0), (220.0, 85.0)).await).await?;
    let two = parts(&split, "panes");
    ensure!(two.len() == 2 && near(two[0][3], 140.0) && near(two[1][3], 85.0), "{two:?}");
    // the upper pane goes up, and nothing of its pieces is changed
    let pulled = bench.after(async |_| drag(&bench, (75.0, 70.0), (75.0, 40.0)).await).await?;
    let moved = parts(&pulled, "panes");
    ensure!(moved[0] == two[0] && (25.0..35.0).contains(&(two[1][1] - moved[1][1])), "{moved:?}");
    ensure!(boxes(&pulled) == boxes(&split));
    // it is taken where it is seen, and not where it was; the stack has it in one row
    for _ in 0..3 {
        bench.browser.keys(Key::Escape + "").await?;
    }
    until_selected(&bench, 0).await?;
    press_on(&bench, (90.0, moved[1][1] + 5.0), &[]).await?;
    until_selected(&bench, 1).await?;
    bench.browser.keys(Key::Escape + "").await?;
    press_on(&bench, (80.0, 80.0), &[]).await?;
    until_selected(&bench, 0).await?;
    // moved as a whole, its panes go along
    press_on(&bench, (90.0, moved[1][1] + 5.0), &[]).await?;
    until_selected(&bench, 1).await?;
    let carried = parts(&bench.after(async |b| b.keys(Key::Down + "").await).await?, "panes");
    ensure!(carried.iter().zip(&moved).all(|(now, was)| near(now[1] - was[1], 1.0)), "{carried:?}");
    // dissolved, its panes are those of its pieces, and lie where they lay
    let apart = bench.after(async |b| b.click("//button[starts-with(normalize-space(.), 'Dissolve')]").await).await?;
    ensure!(apart["sheet"]["bundles"].as_array().is_none_or(Vec::is_empty));
    let panes = pane_bounds(&apart);
    let around = |from: f64, to: f64| {
        let within = panes.iter().filter(|p| p[1] > from && p[3] < to);
        within.copied().reduce(|a, b| [a[0].min(b[0]), a[1].min(b[1]), a[2].max(b[2]), a[3].max(b[3])])
    };
    for was in &carried {
        let now = around(was[1] - 1.0, was[3] + 1.0).unwrap_or_default();
        ensure!((0..4).all(|k| near(now[k], was[k])), "{was:?} of {panes:?}");
    }
    screen_is_file(&bench.browser, &bench.server).await?;
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_bundle_is_repeated_and_a_member_set_free_by_keyboard() -> Result<()> {
    let (bench, _) = a_bundle().await?;
    bench.browser.keys("e").await?;
    bench.after(async |b| b.press("Row").await).await?;
    let row = bench.number("Gap, mm", "10").await?;
    let all = parts(&row, "members");
    ensure!(all.len() == 3 && near(all[1][0] - all[0][2], 10.0) && near(all[2][0] - all[1][2], 10.0), "{all:?}");
    ensure!(boxes(&row).len() == 3, "the pieces are what they were");
    // a member is nudged by itself
    bench.browser.press("Member 2").await?;
    let lifted = parts(&bench.after(async |b| b.keys(Key::Up + "").await).await?, "members");
    ensure!(near(all[1][1] - lifted[1][1], 1.0) && lifted[2] == all[2], "{lifted:?}");
    let freed = bench.after(async |b| b.press("Set it free").await).await?;
    ensure!(boxes(&freed).len() == 5 && freed["sheet"]["bundles"].as_array().is_some_and(|b| b.len() == 2));
    let at = boxes(&freed)[2];
    ensure!(near(at[0], lifted[1][0]) && near(at[1], lifted[1][1]), "{at:?} and {lifted:?}");
    // dissolved, what is repeated falls into its members: the second one is hidden, the third one stays where it is seen
    press_on(&bench, (80.0, 75.0), &[]).await?;
    until_selected(&bench, 1).await?;
    let apart = bench.after(async |b| b.click("//button[starts-with(normalize-space(.), 'Dissolve')]").await).await?;
    ensure!(boxes(&apart).len() == 7 && apart["sheet"]["bundles"].as_array().is_some_and(|b| b.len() == 3));
    let third = boxes(&apart)[2];
    ensure!(near(third[0], all[2][0]) && near(third[1], all[2][1]), "{third:?} and {all:?}");
    bench.browser.reads("Each member is a bundle by itself now").await?;
    bench.browser.press("Close this message").await?;
    screen_is_file(&bench.browser, &bench.server).await?;
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn members_lie_along_a_line_that_is_drawn() -> Result<()> {
    let bench = Bench::start().await?;
    bench.draw("Ellipse", false, (60.0, 60.0), (80.0, 80.0)).await?;
    bench.browser.keys("e").await?;
    bench.after(async |b| b.press("Line").await).await?;
    let far = bench.number("Distance, mm", "30").await?;
    let layout = |bench: &Value| bench["sheet"]["pieces"][0]["kind"]["repeat"]["layout"].clone();
    ensure!(layout(&far)["distance"] == 30.0, "{}", layout(&far));
    bench.browser.press("Draw the line").await?;
    let drawn = bench.after(async |_| drag(&bench, (100.0, 150.0), (280.0, 150.0)).await).await?;
    ensure!(layout(&drawn)["count"] == 7, "{}", layout(&drawn));
    let members: Vec<[f64; 4]> = drawn["scene"]["pieces"][0]["members"]
        .as_array()
        .into_iter()
        .flatten()
        .map(|m| serde_json::from_value(m["bounds"].clone()).unwrap_or_default())
        .collect();
    for (k, m) in members.iter().enumerate() {
        let middle = f64::midpoint(m[0], m[2]);
        ensure!(near(middle, 100.0 + 30.0 * k as f64) && near(f64::midpoint(m[1], m[3]), 150.0), "{members:?}");
    }
    // a point of the line by keys; one more member by number
    bench.browser.at("//*[starts-with(@aria-label, 'Point 2 of the line')]").await?.focus().await?;
    let lower = bench.after(async |b| b.keys(Key::Down + "").await).await?;
    ensure!(layout(&lower)["points"][1][1].as_f64().is_some_and(|y| near(y, 151.0)), "{}", layout(&lower));
    bench.number("Members", "8").await?;
    bench.browser.keys(Key::Escape + "").await?;
    screen_is_file(&bench.browser, &bench.server).await?;
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_member_of_a_bundle_has_a_photo_and_a_word_of_its_own() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    bench.draw("Box", false, (60.0, 60.0), (120.0, 110.0)).await?;
    let sheet = bench.sheet().await?;
    let window = sheet["sheet"]["pieces"][0]["id"].clone();
    // a word on it
    let word = Uuid::new_v4();
    let font = bench.server.get("/fonts").await?[0]["id"].clone();
    let edits = json!([
        { "edit": "add_lettering", "piece": word, "form": Uuid::new_v4(), "fill": Uuid::new_v4(), "text": "MAY", "font": font },
        { "edit": "transform", "pieces": [word], "what": "both", "by": [0.2, 0, 0, 0.2, 48, 50] },
        { "edit": "bundle", "bundle": Uuid::new_v4(), "within": null, "pieces": [window, word], "bundles": [] },
    ]);
    bench.keep(&sheet, edits).await?;
    browser.page.refresh().await?;
    browser.click("//button[starts-with(@aria-label, 'Select the bundle')]").await?;
    until_selected(&bench, 1).await?;
    browser.keys("e").await?;
    bench.after(async |b| b.press("Row").await).await?;
    let row = bench.number("Gap, mm", "10").await?;
    let all = parts(&row, "members");
    // the word of the second one
    browser.press("Member 2").await?;
    let field = browser.at("//label[starts-with(normalize-space(.), 'Its word')]/input").await?;
    field.send_keys(Key::Control + "a").await?;
    let said = bench.after(async |_| Ok(field.send_keys("SEPTEMBER".to_owned() + Key::Enter).await?)).await?;
    ensure!(said["sheet"]["pieces"][1]["kind"]["bundle_words"][0]["word"] == "SEPTEMBER");
    let worded = parts(&said, "members");
    ensure!(worded[0] == all[0] && worded[2] == all[2] && worded[1][2] > all[1][2] + 5.0, "{worded:?} and {all:?}");
    // a photo in the other window of the third one
    browser.press("Member 3").await?;
    browser.click("//label[starts-with(normalize-space(.), 'Given in')]/select/option[.='Box']").await?;
    let chooser = browser.page.find(By::Css("input[aria-label='A photo for this member: file']")).await?;
    let photo = root().canonicalize()?.join("demo/photos/balloon.jpg");
    let dealt = bench.after(async |_| Ok(chooser.send_keys(photo.to_string_lossy()).await?)).await?;
    let fills = dealt["sheet"]["pieces"][0]["kind"]["fills"].clone();
    ensure!(fills[1]["bundle_member"] == 2 && fills[0].get("bundle_member").is_none(), "{fills}");
    let places = dealt["scene"]["pieces"][0]["photos"][0]["corners"].clone();
    ensure!(places[0][1].as_f64().is_some_and(|y| y < 111.0), "{places}");
    let across: Vec<f64> = (0..4).filter_map(|k| places[k][0].as_f64()).collect();
    ensure!(
        across.iter().any(|x| *x > all[2][0] - 1.0) && across.iter().all(|x| *x > all[1][2]),
        "where it is seen: {places}"
    );
    // freed, it is what it was seen as
    browser.press("Member 2").await?;
    let freed = bench.after(async |b| b.press("Set it free").await).await?;
    let copy = &freed["sheet"]["pieces"][3]["kind"];
    ensure!(
        copy["opening"]["forms"][0]["shape"]["text"] == "SEPTEMBER" && copy.get("bundle_words").is_none(),
        "{copy}"
    );
    for _ in 0..3 {
        browser.keys(Key::Escape + "").await?;
    }
    screen_is_file(browser, &bench.server).await?;
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn one_photo_runs_behind_the_members_of_a_bundle() -> Result<()> {
    let bench = photo_in_a_box().await?;
    let browser = &bench.browser;
    bench.browser.keys(Key::Escape + "").await?;
    until_selected(&bench, 0).await?;
    bench.draw("Ellipse", false, (100.0, 190.0), (140.0, 200.0)).await?;
    let filled = bench.sheet().await?;
    let pieces = [filled["sheet"]["pieces"][0]["id"].clone(), filled["sheet"]["pieces"][1]["id"].clone()];
    let edits = json!([
        { "edit": "bundle", "bundle": Uuid::new_v4(), "within": null, "pieces": pieces, "bundles": [] },
    ]);
    bench.keep(&filled, edits).await?;
    browser.page.refresh().await?;
    browser.click("//button[starts-with(@aria-label, 'Select the bundle')]").await?;
    until_selected(&bench, 1).await?;
    browser.keys("e").await?;
    bench.after(async |b| b.press("Row").await).await?;
    bench.number("Gap, mm", "10").await?;
    let behind = bench.after(async |b| b.click("//label[normalize-space(.)='One photo behind all']").await).await?;
    ensure!(behind["sheet"]["bundles"][0]["repeat"]["behind"] == true);
    let members = behind["scene"]["pieces"][0]["bundle_members"].clone();
    ensure!(members.as_array().is_some_and(|m| m.len() == 2), "all but the one that lies where the bundle lies");
    // the photo stays when a member that was moved is set free
    browser.press("Member 2").await?;
    let lifted = parts(&bench.after(async |b| b.keys(Key::Up + "").await).await?, "members");
    let photo_at = |bench: &Value, piece: usize| bench["sheet"]["pieces"][piece]["kind"]["fills"][0]["paint"].clone();
    let freed = bench.after(async |b| b.press("Set it free").await).await?;
    ensure!(photo_at(&freed, 2)["placement"] == photo_at(&freed, 0)["placement"], "{freed}");
    let at = boxes(&freed)[2];
    ensure!(near(at[0], lifted[1][0]) && near(at[1], lifted[1][1]), "{at:?} and {lifted:?}");
    for _ in 0..3 {
        browser.keys(Key::Escape + "").await?;
    }
    screen_is_file(browser, &bench.server).await?;
    bench.browser.close().await
}
