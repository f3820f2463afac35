//! What the program offers: places for a photo, inks from it, photos and drawings by others.

mod breakout;
mod see_through;
mod subject;

use anyhow::{Context, Result, ensure};
use inky_e2e::compare::screen_is_file;
use inky_e2e::steps::{bring_photo, on_screen, type_word};
use inky_e2e::{Bench, Database, Server};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};
use thirtyfour::prelude::*;

fn window(bench: &Value) -> &Value {
    &bench["sheet"]["pieces"][0]["kind"]
}

#[tokio::test(flavor = "multi_thread")]
async fn placements_are_proposed_and_colours_taken_from_the_sheet() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    type_word(browser, "FAIR").await?;
    bring_photo(browser, "Photo into it", "demo/photos/balloon.jpg").await?;
    bench.find_subject().await?;
    bench.card("Photo").await?;
    bench.after(async |b| b.press("Centre the subject").await).await?;
    browser.press("Show me placements").await?;
    browser.at("//ul[@aria-label='Placements']/li[2]").await?;
    // seen while the pointer rests on one, kept by a click
    let before = window(&bench.sheet().await?)["fills"][0]["paint"]["placement"].clone();
    let other = browser.at("//ul[@aria-label='Placements']/li[2]/button").await?;
    browser.page.action_chain().move_to_element_center(&other).perform().await?;
    let tried =
        "const i = document.querySelector('[data-testid=scene] image[data-fill]'); return i.getAttribute('transform')";
    let shown = browser.script(tried).await?;
    browser.page.action_chain().move_to(3, 3).perform().await?;
    let chosen = bench.after(async |_| Ok(other.click().await?)).await?;
    let place = &window(&chosen)["fills"][0]["paint"]["placement"];
    ensure!(*place != before, "{place}");
    let now = browser.script(tried).await?;
    ensure!(shown.is_string() && now.is_string());

    // gloss on it, the same in the file
    bench.card("Gloss").await?;
    bench.after(async |b| b.click("//label[contains(., 'Light on it')]").await).await?;
    bench.number("Rises over", "5").await?;
    screen_is_file(browser, &bench.server).await?;

    // a colour of the balloon for the background, and an ink proposed from the photo
    let sheet = bench.sheet().await?;
    bench.card("Background").await?;
    browser.button("Background: take from the sheet").await?.click().await?;
    let b: [f64; 4] = serde_json::from_value(sheet["scene"]["pieces"][0]["bounds"].clone())?;
    // in the stem of the F
    let at = on_screen(browser, &sheet, b[0] + 8.0, b[3] - 20.0).await?;
    browser.page.action_chain().move_to(at.0, at.1).perform().await?;
    let drop = browser.at("//*[@data-testid='sampler']//*[starts-with(normalize-space(.), '#')]").await?.text().await?;
    let sampled = bench.after(async |b| Ok(b.page.action_chain().move_to(at.0, at.1).click().perform().await?)).await?;
    let taken = sampled["sheet"]["background"].as_str().context("no background")?;
    ensure!(drop.contains(taken) && taken != "#ffffff", "{drop} was under the pointer, {taken} was taken");
    bench.card("Inks").await?;
    let inked = bench.after(async |b| b.click("(//button[starts-with(@title, 'Take as an ink')])[1]").await).await?;
    let name = inked["sheet"]["inks"][0]["name"].as_str().context("no ink")?;
    ensure!(name.chars().next().is_some_and(char::is_uppercase), "{name}");
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn the_stock_drawer_gives_photos_with_their_licences() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    type_word(browser, "SEA").await?;
    // searched by a word, into the selected window
    browser.press("Add a fill").await?;
    browser.press("From the stock drawer").await?;
    let search = browser.at("//input[contains(@placeholder, 'lantern')]").await?;
    search.send_keys("harbour night").await?;
    let entry = browser.at("//ul[@aria-label='In the stock drawer']/li[1]/button").await?;
    browser
        .until("one entry", async || {
            let n = browser.page.find_all(By::XPath("//ul[@aria-label='In the stock drawer']/li")).await.ok()?.len();
            (n == 1).then_some(())
        })
        .await?;
    drop(entry);
    browser.click("//ul[@aria-label='In the stock drawer']/li[1]/button").await?;
    let credited = browser
        .until("a credit", async || {
            let now = bench.sheet().await.ok()?;
            now["sheet"]["credits"].as_object().is_some_and(|c| !c.is_empty()).then_some(now)
        })
        .await?;
    let (photo, credit) =
        credited["sheet"]["credits"].as_object().and_then(|c| c.iter().next()).context("no credit")?;
    ensure!(credit["maker"] == "Tamsin Vane" && credit["licence"] == "credit", "{credit}");
    ensure!(window(&credited)["fills"][0]["paint"]["photo"] == photo.as_str());

    // one's own uploads are credited as well, and the list is set as type
    browser.press("Add a fill").await?;
    bench.after(async |b| bring_photo(b, "A photo over it", "demo/photos/dunes.jpg").await).await?;
    browser.reads("Strength and blend").await?;
    browser.press("Add a fill").await?;
    browser.press("From the stock drawer").await?;
    browser.press("Credits").await?;
    let maker = browser.at("//input[starts-with(@aria-label, 'Maker of “dunes')]").await?;
    bench.after(async |_| Ok(maker.send_keys("Perrin Ashe".to_owned() + Key::Enter).await?)).await?;
    browser.press("Set them as type").await?;
    let set = browser
        .until("the credits as type", async || {
            let now = bench.sheet().await.ok()?;
            let text = now["sheet"]["pieces"][1]["kind"]["opening"]["forms"][0]["shape"]["text"].as_str()?.to_owned();
            Some(text)
        })
        .await?;
    ensure!(set.contains("Tamsin Vane") && set.contains("dunes: Perrin Ashe"), "{set}");
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn what_the_stock_drawer_does_not_have_is_said() -> Result<()> {
    let folder = std::env::temp_dir().join(format!("inky-stock-{}", std::process::id()));
    std::fs::create_dir_all(&folder)?;
    let entry = |id: &str, file: &str| json!({ "id": id, "title": format!("The {id}"), "kind": "photo", "file": file, "words": ["sea"], "maker": "Ilse Korr", "licence": "free" });
    std::fs::write(folder.join("nothing.jpg"), b"no picture at all")?;
    let list =
        json!([entry("gone", "photos/gone.jpg"), entry("outside", "../outside.jpg"), entry("broken", "nothing.jpg")]);
    std::fs::write(folder.join("stock.json"), list.to_string())?;
    let database = Database::start()?;
    let server = Server::start_with(&database, false, 0, &folder)?;
    let found = server.get("/stock?words=SEA%20korr").await?;
    ensure!(found.as_array().map(Vec::len) == Some(3), "{found}");
    ensure!(server.get("/stock?words=land").await? == json!([]));
    for (id, known) in
        [("gone", "is missing"), ("outside", "is missing"), ("broken", "no picture"), ("never", "nothing by that name")]
    {
        for (method, what) in [(Method::POST, "take"), (Method::GET, "preview")] {
            let (status, said) = server.call(method, &format!("/stock/{id}/{what}"), None).await?;
            let sentence = said["sentence"].as_str().unwrap_or_default();
            ensure!(status == StatusCode::UNPROCESSABLE_ENTITY && sentence.contains(known), "{id}: {status}, {said}");
        }
    }
    std::fs::write(folder.join("stock.json"), "[{]")?;
    let (status, said) = server.call(Method::GET, "/stock", None).await?;
    ensure!(status.is_client_error() && said["sentence"].as_str().is_some_and(|s| s.contains("cannot be opened")));
    Ok(std::fs::remove_dir_all(&folder)?)
}
