//! The view turned: what is pointed at and what arrows mean go along.

use super::{boxes, same};
use anyhow::{Result, ensure};
use inky_e2e::Bench;
use inky_e2e::compare::screen_is_file;
use thirtyfour::prelude::*;

#[tokio::test(flavor = "multi_thread")]
async fn hands_and_keys_go_with_the_turned_view() -> Result<()> {
    let bench = Bench::start().await?;
    bench.draw("Box", false, (60.0, 60.0), (140.0, 120.0)).await?;
    let before = boxes(&bench.sheet().await?)[0];
    // a quarter to the right: the sheet's own right is down on the screen
    for _ in 0..6 {
        bench.browser.keys(")").await?;
    }
    bench.browser.at("//button[starts-with(@aria-label, 'The view is turned by 90°')]").await?;
    let nudged = boxes(&bench.after(async |b| b.keys(Key::Right + "").await).await?)[0];
    ensure!(same(nudged[1], before[1] - 1.0) && same(nudged[0], before[0]), "{nudged:?} after {before:?}");
    let (x, y) = bench.middle("[data-piece] path").await?;
    let dragged = boxes(&bench.after(async |b| b.drag((x, y), (x, y + 60)).await).await?)[0];
    ensure!(dragged[0] > nudged[0] + 15.0 && (dragged[1] - nudged[1]).abs() < 3.0, "{dragged:?} after {nudged:?}");
    // by hand: the dial is dragged, and a press on it sets the view upright
    let dial = bench.middle("button[aria-label^='The view is turned']").await?;
    bench.browser.drag(dial, (dial.0 - 40, dial.1)).await?;
    bench.browser.at("//button[starts-with(@aria-label, 'The view is turned by 70°')]").await?;
    bench.browser.press("The view is turned by 70°").await?;
    bench.browser.at("//button[starts-with(@aria-label, 'The view is turned by 0°')]").await?;
    screen_is_file(&bench.browser, &bench.server).await?;
    bench.browser.close().await
}
