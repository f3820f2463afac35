//! *Deliver* on the screen: a PDF for a press, brought in again as a live sheet.

use super::run;
use anyhow::{Context, Result, ensure};
use inky_e2e::Bench;
use inky_e2e::steps::sheet;
use serde_json::json;
use thirtyfour::prelude::*;

#[tokio::test(flavor = "multi_thread")]
async fn a_pdf_for_a_press_is_brought_in_again() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    bench.draw("Box", false, (80.0, 60.0), (240.0, 180.0)).await?;
    let before = bench.sheet().await?;
    browser.press("Deliver").await?;
    browser.click("//*[@role='radio'][contains(., 'PDF')]").await?;
    browser.click("//label[contains(., 'Printed on')]/select/option[contains(., 'Coated paper')]").await?;
    browser.press("Make the file").await?;
    let name = browser.at("//a[@data-testid='file']").await?.text().await?;
    let file = browser.downloads().join(&name);
    browser.until("the downloaded file", async || file.exists().then_some(())).await?;
    let path = file.to_str().context("no path")?;
    run("qpdf", &["--check", path])?;
    ensure!(std::fs::read(&file)?.starts_with(b"%PDF-1.6"), "{name}");
    // the desk takes it like a sheet file: the same pieces, in another sheet
    browser.keys(Key::Escape + "").await?;
    browser
        .click("//a[starts-with(normalize-space(.), 'Desk')] | //button[starts-with(normalize-space(.), 'Desk')]")
        .await?;
    browser.at("//button[.='Bring in a sheet file']").await?;
    browser.page.find(By::Css("input[aria-label='Sheet file']")).await?.send_keys(path).await?;
    browser.button("Deliver").await?;
    let again = sheet(browser, &bench.server).await?;
    ensure!(again["id"] != before["id"] && again["sheet"]["pieces"] == before["sheet"]["pieces"]);
    // a press that nobody knows has a sentence, and a PDF without a sheet
    let moon = json!({ "task": "deliver", "kind": "pdf", "ppi": 36.0, "press": "moon" });
    let path = format!("/sheets/{}/jobs", again["id"].as_str().unwrap_or_default());
    let (status, said) = bench.server.call(reqwest::Method::POST, &path, Some(moon)).await?;
    ensure!(status.is_client_error() && said["sentence"].as_str().is_some_and(|s| s.contains("press")), "{said}");
    let plain = json!({ "task": "deliver", "kind": "pdf", "ppi": 36.0 });
    let pdf = bench.server.delivered(again["id"].as_str().unwrap_or_default(), plain).await?;
    let (status, said) = bench.server.upload("sheets/import", "plain.pdf", pdf).await?;
    let sentence = said["sentence"].as_str().unwrap_or_default();
    ensure!(status.is_client_error() && sentence.contains("no sheet in this PDF"), "{said}");
    bench.browser.close().await
}
