//! Where the program is unsure of a subject: it is washed, looked at place by place, and answered with one press.

use anyhow::{Result, ensure};
use inky_e2e::steps::{bring_photo, look_for_subject};
use inky_e2e::{Bench, Browser};
use thirtyfour::prelude::*;

const LOOK: &str = "//button[contains(., 'doubts: look')]";

/// How many elements there are.
async fn count(browser: &Browser, selector: &str) -> usize {
    browser.page.find_all(By::Css(selector)).await.map_or(0, |all| all.len())
}

#[tokio::test(flavor = "multi_thread")]
async fn doubts_are_answered_one_by_one_and_all_at_once() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    bench.draw("Ellipse", false, (80.0, 60.0), (280.0, 220.0)).await?;
    bring_photo(browser, "Photo into it", "demo/photos/dandelion.jpg").await?;
    look_for_subject(browser).await?;
    browser.at(LOOK).await?;
    ensure!(count(browser, "[data-testid=wash]").await == 1 && count(browser, "[data-testid=doubt]").await == 0);
    // which one is looked at, 0 for none, of how many
    let number = async || -> Option<(usize, usize)> {
        let said =
            browser.at("//*[@aria-label='Where it is unsure']").await.ok()?.text().await.ok()?.replace("One", "1");
        if let Some((many, _)) = said.split_once(" doubt").filter(|_| said.contains(": look")) {
            return Some((0, many.trim().parse().ok()?));
        }
        let (at, of) = said.lines().find_map(|line| line.split_once(" of "))?;
        Some((at.trim().parse().ok()?, of.trim().parse().ok()?))
    };
    // by its key, in turn
    browser.keys("n").await?;
    let of = browser.until("the first one", async || number().await.filter(|n| n.0 == 1).map(|n| n.1)).await?;
    ensure!(of > 1 && count(browser, "[data-testid=doubt]").await == 1, "{of}");
    browser.keys("n").await?;
    browser.until("the second one", async || number().await.filter(|n| *n == (2, of))).await?;
    // an answer is a stroke, and the place is doubted no more
    browser.press("It does not").await?;
    browser.until("one less", async || number().await.filter(|n| n.1 < of)).await?;
    ensure!(count(browser, "[data-testid=stroke-drop]").await == 1);
    browser.press("Take back a step").await?;
    browser.until("as before", async || number().await.filter(|n| n.1 == of)).await?;
    ensure!(count(browser, "[data-testid^=stroke-]").await == 0);
    browser.keys("n").await?;
    let all = "//*[@aria-label='Where it is unsure']//button[starts-with(., 'All ')]";
    let said = browser.at(all).await?.text().await?;
    let many: usize = said.split(' ').nth(1).and_then(|n| n.parse().ok()).unwrap_or(0);
    browser.click(all).await?;
    browser
        .until("a stroke for each", async || (count(browser, "[data-testid^=stroke-]").await == many).then_some(()))
        .await?;
    browser.press("Whole photo").await?;
    bench.after(async |b| b.click("//button[normalize-space(.)='Keep' and not(@disabled)]").await).await?;
    bench.browser.close().await
}
