//! Windows that are repeated, by mouse and by keyboard.

use super::{boxes, drag};
use anyhow::{Result, ensure};
use inky_e2e::compare::screen_is_file;
use inky_e2e::steps::on_screen;
use inky_e2e::{Bench, root};
use serde_json::Value;
use thirtyfour::prelude::*;

fn members(bench: &Value) -> Vec<[f64; 4]> {
    let all = bench["scene"]["pieces"][0]["members"].as_array().cloned().unwrap_or_default();
    all.iter().map(|m| serde_json::from_value(m["bounds"].clone()).unwrap_or_default()).collect()
}

fn near(a: f64, b: f64) -> bool {
    (a - b).abs() < 1.0
}

#[tokio::test(flavor = "multi_thread")]
async fn three_slanted_panels_with_three_photos_in_six_steps() -> Result<()> {
    let bench = Bench::start().await?;
    // one and two: a box is drawn
    bench.draw("Box", false, (60.0, 60.0), (140.0, 220.0)).await?;
    // three and four: the card, and a row in it
    bench.browser.keys("e").await?;
    let row = bench.after(async |b| b.press("Row").await).await?;
    ensure!(members(&row).len() == 3);
    // five: they lean
    let slanted = bench.number("Slant, °", "15").await?;
    // six: three photos are dealt out
    let chooser = bench.browser.page.find(By::Css("input[aria-label='Photos for the members: files']")).await?;
    let photos = ["balloon", "dunes", "lanterns"].map(|p| format!("demo/photos/{p}.jpg"));
    let paths: Vec<String> = photos
        .iter()
        .map(|p| Ok(root().canonicalize()?.join(p).to_string_lossy().into_owned()))
        .collect::<Result<_>>()?;
    let dealt = bench.after(async |_| Ok(chooser.send_keys(paths.join("\n")).await?)).await?;
    let window = &dealt["sheet"]["pieces"][0]["kind"];
    let own: Vec<&Value> =
        window["fills"].as_array().into_iter().flatten().filter(|f| f["member"].is_number()).collect();
    ensure!(own.len() == 3 && own[0]["paint"]["photo"] != own[1]["paint"]["photo"], "{window}");
    let all = members(&slanted);
    let steps = [all[1][0] - all[0][0], all[2][0] - all[1][0]];
    ensure!(
        (steps[0] - steps[1]).abs() < 1e-6 && steps[0] < all[0][2] - all[0][0],
        "equal gaps between slanted edges: {all:?}"
    );
    // a member is pulled away by itself
    let middle = [f64::midpoint(all[1][0], all[1][2]), f64::midpoint(all[1][1], all[1][3])];
    let pulled = members(
        &bench.after(async |_| drag(&bench, (middle[0], middle[1]), (middle[0], middle[1] + 20.0)).await).await?,
    );
    ensure!(
        pulled[0] == all[0] && pulled[2] == all[2] && (16.0..24.0).contains(&(pulled[1][1] - all[1][1])),
        "{pulled:?}"
    );
    bench.browser.keys(Key::Escape + "").await?;
    bench.browser.keys(Key::Escape + "").await?;
    bench.browser.keys(Key::Escape + "").await?;
    screen_is_file(&bench.browser, &bench.server).await?;
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn rows_grids_and_rings_by_keyboard() -> Result<()> {
    let bench = Bench::start().await?;
    bench.draw("Box", false, (60.0, 60.0), (100.0, 100.0)).await?;
    bench.browser.keys("e").await?;
    bench.after(async |b| b.press("Row").await).await?;
    bench.number("Members", "5").await?;
    let row = members(&bench.number("Gap, mm", "10").await?);
    ensure!(row.len() == 5 && near(row[1][0] - row[0][2], 10.0), "{row:?}");
    // too many: a sentence, and what was there stays
    let field = bench
        .browser
        .page
        .find(By::XPath("//label[starts-with(normalize-space(.), 'Members')]/following-sibling::input"))
        .await?;
    field.send_keys(Key::Control + "a").await?;
    field.send_keys("10000".to_owned() + Key::Enter).await?;
    bench.browser.reads("A window or a bundle is shown between 1 and 500 times").await?;
    ensure!(members(&bench.sheet().await?).len() == 5);
    let grid = bench.after(async |b| b.press("Grid").await).await?;
    ensure!(members(&grid).len() == 6, "{}", members(&grid).len());
    let ring = bench.after(async |b| b.press("Ring").await).await?;
    ensure!(members(&ring).len() == 6);
    // one of them on its own: hidden, and free
    bench.browser.press("Member 2").await?;
    let free = bench.after(async |b| b.press("Set it free").await).await?;
    ensure!(free["sheet"]["pieces"].as_array().is_some_and(|p| p.len() == 2));
    ensure!(near(boxes(&free)[1][0], members(&ring)[1][0]), "it lies where it lay");
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn handles_on_the_sheet_say_how_many_and_how_far_apart() -> Result<()> {
    let bench = Bench::start().await?;
    bench.draw("Box", false, (60.0, 60.0), (100.0, 100.0)).await?;
    bench.browser.keys("e").await?;
    bench.after(async |b| b.press("Row").await).await?;
    let row = members(&bench.number("Gap, mm", "10").await?);
    ensure!(row.len() == 3 && near(row[1][0], 110.0), "{row:?}");
    // pulled along the row by two members
    let many = "[data-testid=layout-handle][aria-label^='How many']";
    let from = bench.middle(many).await?;
    let sheet = bench.sheet().await?;
    let two =
        on_screen(&bench.browser, &sheet, 100.0, 0.0).await?.0 - on_screen(&bench.browser, &sheet, 0.0, 0.0).await?.0;
    let five = members(&bench.after(async |b| b.drag(from, (from.0 + two, from.1)).await).await?);
    ensure!(five.len() == 5 && five[..3] == row[..], "{five:?}");
    // by keys one less, and the gap a millimetre wider
    bench.browser.page.find(By::Css(many)).await?.focus().await?;
    let four = members(&bench.after(async |b| b.keys(Key::Left + "").await).await?);
    ensure!(four.len() == 4);
    bench.browser.page.find(By::Css("[data-testid=layout-handle][aria-label^='The gap']")).await?.focus().await?;
    let wider = members(&bench.after(async |b| b.keys(Key::Right + "").await).await?);
    ensure!(wider[1][0] > row[1][0] + 0.5 && wider.len() == 4, "{wider:?}");
    // a ring is moved by its middle
    bench.after(async |b| b.press("Ring").await).await?;
    let centre = bench.middle("[data-testid=layout-handle]").await?;
    let ring = members(&bench.sheet().await?);
    let moved = members(&bench.after(async |b| b.drag(centre, (centre.0 + 30, centre.1)).await).await?);
    ensure!(moved.len() == ring.len() && moved[0] == ring[0] && moved[3] != ring[3], "{moved:?}");
    bench.browser.close().await
}
