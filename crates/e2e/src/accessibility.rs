//! What axe-core finds on a page, of what WCAG 2.2 asks for at the levels A and AA.

use crate::Browser;
use anyhow::{Context, Result, ensure};

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

/// Looks at one place after the other, and says in the end what axe-core has found.
pub struct Looking<'a> {
    browser: &'a Browser,
    found: Vec<String>,
    looked: usize,
}

impl<'a> Looking<'a> {
    /// Nothing was looked at yet.
    pub fn with(browser: &'a Browser) -> Self {
        Self { browser, found: Vec::new(), looked: 0 }
    }

    /// Looks at what is seen now; what is faint while it appears is waited for.
    pub async fn at(&mut self, place: &str) -> Result<()> {
        self.browser.holds("still", "return document.getAnimations().every((a) => a.playState !== 'running')").await?;
        // a page that was loaded anew has no rules yet
        if self.browser.script("return typeof axe === 'undefined'").await? == true {
            self.browser.page.execute(rules()?, Vec::new()).await?;
        }
        let found = self.browser.page.execute_async(LOOK, Vec::new()).await?;
        let found: Vec<String> = found.convert()?;
        self.found.extend(found.into_iter().map(|f| format!("{place}: {f}")));
        self.looked += 1;
        Ok(())
    }

    /// Opens the cards of the recipe one after the other.
    pub async fn cards(&mut self, of: &str) -> Result<()> {
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

    /// An error that lists what was found, or where fewer places than that were looked at.
    pub fn end(self, least: usize) -> Result<()> {
        ensure!(self.looked >= least, "only {} places were looked at", self.looked);
        ensure!(self.found.is_empty(), "{} found:\n{}", self.found.len(), self.found.join("\n"));
        Ok(())
    }
}
