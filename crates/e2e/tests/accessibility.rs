//! Every screen, card, mode and dialog, looked through by axe-core for what WCAG 2.2 asks for at the levels A and AA.

use anyhow::{Context, Result, ensure};
use inky_e2e::steps::{bring_photo, type_word};
use inky_e2e::{Bench, Browser};
use thirtyfour::prelude::*;

/// The rules, as they are installed with the interface's packages.
fn rules() -> Result<String> {
    let file = concat!(env!("CARGO_MANIFEST_DIR"), "/../../web/node_modules/axe-core/axe.min.js");
    std::fs::read_to_string(file).context("axe-core is not installed: run scripts/web.sh")
}

/// The sentinels of a popover pass the focus on as soon as they get it: nobody ever stands on one.
const LOOK: &str = "
    const done = arguments[arguments.length - 1]
    const what = { exclude: [['[id^=headlessui-focus-sentinel]']] }
    const tags = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']
    axe.run(what, { runOnly: { type: 'tag', values: tags }, resultTypes: ['violations'] })
        .then((found) => done(found.violations.flatMap((v) => v.nodes.map((n) => `${v.id}: ${v.help}: ${n.target.join(' ')} ${n.html.slice(0, 140)}`))))
        .catch((error) => done([String(error)]))";

struct Looking<'a> {
    browser: &'a Browser,
    found: Vec<String>,
    looked: usize,
}

impl<'a> Looking<'a> {
    async fn begin(browser: &'a Browser) -> Result<Self> {
        browser.page.execute(rules()?, Vec::new()).await?;
        Ok(Self { browser, found: Vec::new(), looked: 0 })
    }

    /// Looks at what is seen now; what is faint while it appears is waited for.
    async fn at(&mut self, place: &str) -> Result<()> {
        self.browser.holds("still", "return document.getAnimations().every((a) => a.playState !== 'running')").await?;
        let found = self.browser.page.execute_async(LOOK, Vec::new()).await?;
        let found: Vec<String> = found.convert()?;
        self.found.extend(found.into_iter().map(|f| format!("{place}: {f}")));
        self.looked += 1;
        Ok(())
    }

    /// Opens the cards of the recipe one after the other.
    async fn cards(&mut self, of: &str) -> Result<()> {
        let names = "return [...document.querySelectorAll('section[aria-label=Recipe] button[aria-expanded]')].map((b) => b.getAttribute('aria-label'))";
        let names: Vec<String> = serde_json::from_value(self.browser.script(names).await?)?;
        ensure!(!names.is_empty(), "no cards of {of}");
        for name in names {
            let card = name.split(':').next().unwrap_or(&name).to_owned();
            self.browser
                .click(&format!(
                    "//section[@aria-label='Recipe']//button[@aria-expanded and starts-with(@aria-label, '{card}')]"
                ))
                .await?;
            self.browser.at("//*[@data-testid='card']").await?;
            self.at(&format!("{of}, card {name}")).await?;
            self.browser.press("Close the card").await?;
        }
        Ok(())
    }

    fn end(self, least: usize) -> Result<()> {
        ensure!(self.looked >= least, "only {} places were looked at", self.looked);
        ensure!(self.found.is_empty(), "{} found:\n{}", self.found.len(), self.found.join("\n"));
        Ok(())
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn desk_sheet_and_shelf_can_be_used_by_everybody() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    let mut looking = Looking::begin(browser).await?;
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
    for menu in ["Deliver", "Steps"] {
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
    looking.end(15)?;
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn cards_and_modes_of_a_window_can_be_used_by_everybody() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    type_word(browser, "FAIR").await?;
    bring_photo(browser, "Photo into it", "demo/photos/balloon.jpg").await?;
    bench.find_subject().await?;
    let mut looking = Looking::begin(browser).await?;
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
    browser.press("Steps").await?;
    browser.click("//ol/li[2]/button").await?;
    browser.at("//section[@aria-label='Looking at an earlier step']").await?;
    looking.at("an earlier step").await?;
    looking.end(18)?;
    bench.browser.close().await
}
