//! Every screen, card, mode and dialog, looked through by axe-core for what WCAG 2.2 asks for at the levels A and AA.

use anyhow::Result;
use inky_e2e::steps::{bring_photo, type_word};
use inky_e2e::{Bench, Looking};
use thirtyfour::prelude::*;

#[tokio::test(flavor = "multi_thread")]
async fn desk_sheet_and_shelf_can_be_used_by_everybody() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    let mut looking = Looking::with(browser);
    looking.at("an empty sheet").await?;
    looking.cards("the sheet").await?;
    for (key, place) in [("w", "a new word"), ("m", "more shapes"), ("k", "the stock drawer")] {
        browser.keys(key).await?;
        browser.at("//*[@data-testid='card']").await?;
        looking.at(place).await?;
        browser.press("Close the card").await?;
    }
    for (key, place) in [("d", "drawing"), ("a", "painting"), ("t", "tracing")] {
        browser.keys(key).await?;
        browser.holds("a mode", "return document.querySelector('section[aria-label=Recipe]') === null").await?;
        looking.at(place).await?;
        browser.keys(Key::Escape + "").await?;
        browser.at("//section[@aria-label='Recipe']").await?;
    }
    for menu in ["Deliver", "Proof", "Steps"] {
        browser.press(menu).await?;
        looking.at(menu).await?;
        browser.press(menu).await?;
    }
    // the desk is another view of the same page
    browser.press("Back to the desk").await?;
    browser.at("//button[normalize-space(.)='New sheet']").await?;
    looking.at("the desk").await?;
    browser.press("New sheet").await?;
    browser.at("//*[@role='dialog']").await?;
    looking.at("a new sheet").await?;
    looking.end(16)?;
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn cards_and_modes_of_a_window_can_be_used_by_everybody() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    type_word(browser, "FAIR").await?;
    bring_photo(browser, "Photo into it", "demo/photos/balloon.jpg").await?;
    bench.find_subject().await?;
    let mut looking = Looking::with(browser);
    looking.at("a window").await?;
    looking.cards("a window").await?;
    bench.card("Breakout").await?;
    browser.holds("a mode", "return document.querySelector('section[aria-label=Recipe]') === null").await?;
    looking.at("what breaks out").await?;
    browser.keys(Key::Escape + "").await?;
    browser.at("//section[@aria-label='Recipe']").await?;
    bench.card("Subject").await?;
    browser.holds("a mode", "return document.querySelector('section[aria-label=Recipe]') === null").await?;
    looking.at("the subject").await?;
    browser.keys(Key::Escape + "").await?;
    browser.at("//section[@aria-label='Recipe']").await?;
    // several, one of them hidden, and a bundle
    bench.after(async |b| b.press("Copy").await).await?;
    bench.after(async |b| b.press("Copy").await).await?;
    bench.after(async |b| b.keys("h").await).await?;
    browser.page.action_chain().key_down(Key::Control).send_keys("a").key_up(Key::Control).perform().await?;
    looking.at("several").await?;
    bench.after(async |b| b.keys("u").await).await?;
    looking.cards("a bundle").await?;
    browser.click("//button[starts-with(@aria-label, 'Proof')]").await?;
    browser.at("//section[@aria-label='To know']").await?;
    looking.at("the proof").await?;
    browser.press("Steps").await?;
    browser.click("//ol/li[2]/button").await?;
    browser.at("//section[@aria-label='Looking at an earlier step']").await?;
    looking.at("an earlier step").await?;
    looking.end(19)?;
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn panes_and_members_can_be_used_by_everybody() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    type_word(browser, "FAIR").await?;
    let mut looking = Looking::with(browser);
    browser.keys("y").await?;
    bench.after(async |b| b.press("Across").await).await?;
    looking.at("a line that splits").await?;
    bench.after(async |b| b.press("Zigzag").await).await?;
    browser.press("Pane 2").await?;
    looking.at("a pane").await?;
    browser.press("Close the card").await?;
    browser.keys("e").await?;
    for layout in ["Row", "Grid", "Ring", "Line"] {
        bench.after(async |b| b.press(layout).await).await?;
        looking.at(layout).await?;
    }
    browser.press("Member 2").await?;
    looking.at("a member").await?;
    browser.press("Close the card").await?;
    // a bundle in panes and repeated, and a turned view of bare edges
    bench.after(async |b| b.press("Copy").await).await?;
    browser.page.action_chain().key_down(Key::Control).send_keys("a").key_up(Key::Control).perform().await?;
    bench.after(async |b| b.keys("u").await).await?;
    browser.keys("y").await?;
    bench.after(async |b| b.press("Down").await).await?;
    browser.press("Pane 1").await?;
    looking.at("a pane of a bundle").await?;
    browser.press("Close the card").await?;
    browser.keys("e").await?;
    bench.after(async |b| b.press("Row").await).await?;
    browser.press("Member 3").await?;
    looking.at("a member of a bundle").await?;
    browser.press("Close the card").await?;
    browser.click("//button[starts-with(normalize-space(.), 'Step in')]").await?;
    looking.at("in a bundle").await?;
    browser.keys("v").await?;
    browser.keys(")").await?;
    looking.at("bare edges, turned").await?;
    looking.end(11)?;
    bench.browser.close().await
}
