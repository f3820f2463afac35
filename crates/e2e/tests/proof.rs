//! The proof on the screen, by mouse and by keyboard, and on the command line.

use anyhow::{Context, Result, ensure};
use inky_e2e::steps::{bring_photo, newer};
use inky_e2e::{Bench, Scratch, program, root};
use serde_json::{Value, json};
use std::process::Command;
use thirtyfour::prelude::*;

/// What the proof's button says once it says so.
async fn until_said(bench: &Bench, said: &str) -> Result<()> {
    let code = format!("return document.querySelector('[aria-label^=Proof]')?.ariaLabel === 'Proof{said}'");
    bench.browser.holds(&format!("the proof to say “{said}”"), &code).await
}

#[tokio::test(flavor = "multi_thread")]
async fn findings_are_counted_shown_and_mended() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    bench.draw("Box", false, (80.0, 60.0), (240.0, 180.0)).await?;
    until_said(&bench, ": nothing to mend").await?;
    bring_photo(browser, "Photo into it", "demo/photos/balloon.jpg").await?;
    // the photo is pushed aside: it leaves some of the opening open, and is found out at once
    let sheet = bench.sheet().await?;
    let window = &sheet["sheet"]["pieces"][0];
    let fill = window["kind"]["fills"].as_array().and_then(|f| f.last()).context("no fill")?;
    let mut placement = fill["paint"]["placement"].clone();
    placement["x"] = json!(placement["x"].as_f64().unwrap_or_default() + 60.0);
    let edits = json!([{ "edit": "set_placement", "piece": window["id"], "fill": fill["id"], "placement": placement }]);
    bench.keep(&sheet, edits).await?;
    until_said(&bench, " 1: to look at").await?;
    // its place is marked while it is pointed at; a press selects its piece
    browser.keys(Key::Escape + "").await?;
    browser.press("Proof 1").await?;
    let line = browser.at("//section[@aria-label='Goes wrong']//li/button[1]").await?;
    ensure!(line.text().await?.contains("show no photo"), "{}", line.text().await?);
    line.focus().await?;
    browser.at("//*[@data-testid='pointed']").await?;
    line.send_keys(Key::Enter + "").await?;
    browser.holds("its recipe", "return document.querySelector('[data-form]') !== null").await?;
    // mended by keyboard; undo takes it back, and it is found again
    let mend = browser.at("//li//button[.='Enlarge to cover']").await?;
    let before = bench.sheet().await?;
    mend.send_keys(Key::Enter + "").await?;
    let mended = newer(browser, &bench.server, &before).await?;
    until_said(&bench, ": nothing to mend").await?;
    let scale = |bench: &Value| {
        let fills = bench["sheet"]["pieces"][0]["kind"]["fills"].as_array().cloned().unwrap_or_default();
        fills.last().and_then(|f| f["paint"]["placement"]["scale"].as_f64())
    };
    ensure!(scale(&mended) > scale(&before));
    ensure!(browser.page.find_all(By::Css("[data-testid='pointed']")).await?.is_empty(), "no mark is left");
    browser.keys(Key::Escape + "").await?;
    browser.press("Undo").await?;
    until_said(&bench, " 1: to look at").await?;
    // waved through by keyboard it is not counted any more, and says why
    browser.press("Proof 1").await?;
    let wave = browser.at("//li//button[.='Wave it through']").await?;
    bench.after(async |_| Ok(wave.send_keys(Key::Enter + "").await?)).await?;
    until_said(&bench, ": nothing to mend").await?;
    let why = browser.at("//section[@aria-label='Waved through']//input").await?;
    let said =
        bench.after(async |_| Ok(why.send_keys("It is meant to be open".to_owned() + Key::Enter).await?)).await?;
    let waved = said["sheet"]["waved"].as_object().cloned().unwrap_or_default();
    ensure!(waved.len() == 1 && waved.values().all(|why| why == "It is meant to be open"), "{waved:?}");
    let again = browser.at("//li//button[.='Look at it again']").await?;
    bench.after(async |_| Ok(again.send_keys(Key::Enter + "").await?)).await?;
    until_said(&bench, " 1: to look at").await?;
    bench.browser.close().await
}

#[test]
fn scripts_are_told_by_the_exit_code() -> Result<()> {
    let folder = Scratch::new()?;
    let proof = |more: &[&str]| Command::new(program()?).arg("proof").args(more).output().context("no program");
    let all = proof(&[&root().join("demo").to_string_lossy(), "--json"])?;
    let found: Value = serde_json::from_slice(&all.stdout)?;
    let sheets = found.as_array().context("no list")?;
    // posters of the demo lack a bleed, and nothing else is wrong with them
    ensure!(all.status.code() == Some(3) && sheets.len() >= 9, "{:?}, {} sheets", all.status, sheets.len());
    for finding in sheets.iter().filter_map(|s| s["findings"].as_array()).flatten() {
        ensure!(finding["kind"] == "no_bleed" && finding["mend"]["edits"][0]["edit"] == "set_bleed", "{finding}");
    }
    // one whose photo was pushed aside would come out wrong
    let mut rise: Value = serde_json::from_slice(&std::fs::read(root().join("demo/rise-lantern-night.sheet.json"))?)?;
    let placement = &mut rise["sheet"]["pieces"][0]["kind"]["fills"][0]["paint"]["placement"];
    ensure!(placement["x"].is_number(), "{placement}");
    placement["x"] = json!(900.0);
    for shared in ["photos", "fonts", "drawings"] {
        std::os::unix::fs::symlink(root().canonicalize()?.join("demo").join(shared), folder.path().join(shared))?;
    }
    std::fs::write(folder.path().join("aside.sheet.json"), rise.to_string())?;
    let aside = proof(&[&folder.path().join("aside.sheet.json").to_string_lossy()])?;
    let said = String::from_utf8_lossy(&aside.stdout);
    ensure!(aside.status.code() == Some(4) && said.contains("show no photo"), "{said} {:?}", aside.stderr);
    std::fs::remove_file(folder.path().join("aside.sheet.json"))?;
    let none = proof(&[&folder.path().to_string_lossy()])?;
    ensure!(none.status.code() == Some(1) && String::from_utf8_lossy(&none.stderr).contains("holds no file"));
    Ok(())
}
