//! The steps of a sheet: looked at, compared, gone on from.

use super::{boxes, press_on, three_boxes};
use anyhow::{Result, ensure};
use serde_json::json;
use thirtyfour::prelude::*;
use uuid::Uuid;

/// How many pieces the screen draws.
const DRAWN: &str = "return document.querySelectorAll('[data-testid=scene] [data-piece]').length";

#[tokio::test(flavor = "multi_thread")]
async fn any_step_is_looked_at_compared_and_gone_on_from() -> Result<()> {
    let bench = three_boxes().await?;
    let browser = &bench.browser;
    press_on(&bench, (290.0, 70.0), &[]).await?;
    let full = bench.after(async |b| b.keys(Key::Right + "").await).await?;
    let removed = bench.after(async |b| b.keys(Key::Delete + "").await).await?;
    ensure!(boxes(&removed).len() == 2 && boxes(&full).len() == 3);
    let drawn = |n: usize| format!("{DRAWN} === {n}");
    browser.holds("two boxes", &drawn(2)).await?;
    // held, a key shows what was there before the last step
    browser.page.action_chain().key_down('c').perform().await?;
    browser.holds("the box that was there", &drawn(3)).await?;
    browser.page.action_chain().key_up('c').perform().await?;
    browser.holds("the sheet as it is", &drawn(2)).await?;
    // by mouse: the step before
    browser.press("Steps").await?;
    browser.click("//ol/li[1]//span[.='now']/ancestor::ol/li[2]/button").await?;
    browser.reads("As it was after “move “Box””").await?;
    browser.holds("the box that was there", &drawn(3)).await?;
    // by keyboard: earlier, and compared with now
    browser.keys(Key::Left + "").await?;
    browser.reads("As it was after “add box”").await?;
    browser.page.action_chain().key_down('c').perform().await?;
    browser.reads("As it is now").await?;
    browser.holds("two boxes", &drawn(2)).await?;
    browser.page.action_chain().key_up('c').perform().await?;
    browser.holds("three boxes", &drawn(3)).await?;
    ensure!(bench.sheet().await?["revision"] == removed["revision"], "looking changes nothing");
    let back = bench.after(async |b| b.press("Go on from here").await).await?;
    ensure!(boxes(&back).len() == 3 && back["undo"] == "back to “add box”", "{}", back["undo"]);
    // nothing that came later is lost
    let undone = bench.after(async |b| b.press("Undo").await).await?;
    ensure!(boxes(&undone) == boxes(&removed));
    // and back to now by Esc
    browser.press("Steps").await?;
    browser.click("//ol/li[last()]/button").await?;
    browser.reads("in the beginning").await?;
    browser.press("Back to now").await?;
    browser.at("//section[@aria-label='Recipe']").await?;
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn steps_that_are_not_there_say_so_and_change_nothing() -> Result<()> {
    let bench = three_boxes().await?;
    let made = bench.sheet().await?;
    let steps = format!("/sheets/{}/steps", made["id"].as_str().unwrap_or_default());
    let server = &bench.server;
    let ask = |base: &serde_json::Value| json!({ "base": base, "request": Uuid::new_v4() });
    for (seq, base, said) in
        [(999, &made["revision"], "not kept any more"), (1, &json!(1), "changed this sheet meanwhile")]
    {
        let refused = server.post(&format!("{steps}/{seq}"), ask(base)).await;
        ensure!(refused.as_ref().is_err_and(|e| e.to_string().contains(said)), "{refused:?}");
    }
    ensure!(bench.sheet().await?["revision"] == made["revision"]);
    bench.browser.close().await
}
