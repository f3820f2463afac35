//! Headless Chromium through ChromeDriver.

use crate::Scratch;
use anyhow::{Context, Result, anyhow};
use image::RgbaImage;
use serde_json::json;
use std::io::{BufRead, BufReader};
use std::os::unix::process::CommandExt;
use std::process::{Child, Command, Stdio};
use std::time::{Duration, Instant};
use thirtyfour::prelude::*;

/// How long anything on the page may take before a test gives up: three minutes, or so many seconds as `INKY_PATIENCE` says.
fn patience() -> Duration {
    let said = std::env::var("INKY_PATIENCE").ok().and_then(|s| s.parse().ok());
    Duration::from_secs(said.unwrap_or(180))
}

/// Starts ChromeDriver with its files in `folder`, and tells the port that it took.
///
/// It takes a free port of IPv4 and wants the same one of IPv6. When another program has that, it ends, so that it is
/// started again.
fn start_driver(folder: &Scratch) -> Result<(Child, u16)> {
    let mut printed = Vec::new();
    for _ in 0..5 {
        let mut driver = Command::new("/usr/bin/chromedriver")
            .arg("--port=0")
            .env("TMPDIR", folder.path())
            .env("HOME", folder.path())
            .stdin(Stdio::null())
            .stdout(Stdio::piped())
            .stderr(Stdio::null())
            .process_group(0)
            .spawn()
            .context("ChromeDriver is missing: run ./test once, which installs it")?;
        let mut lines = BufReader::new(driver.stdout.take().context("no output")?).lines();
        for line in lines.by_ref() {
            let line = line?;
            if let Some((_, port)) = line.split_once("started successfully on port ") {
                let port = port.trim_end_matches('.').parse()?;
                std::thread::spawn(move || lines.for_each(drop));
                return Ok((driver, port));
            }
            printed.push(line);
        }
        driver.wait()?;
    }
    Err(anyhow!("ChromeDriver ended early, five times: {}", printed.join("; ")))
}

pub struct Browser {
    pub page: WebDriver,
    driver: Child,
    folder: Scratch,
}

impl Browser {
    pub async fn start() -> Result<Self> {
        let folder = Scratch::new()?;
        let (driver, port) = start_driver(&folder)?;
        let mut wanted = DesiredCapabilities::chrome();
        wanted.set_binary("/usr/bin/chromium")?;
        for flag in [
            "--headless=new",
            "--no-sandbox",
            "--disable-gpu",
            "--disable-dev-shm-usage",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync",
            "--disable-quic",
            "--no-first-run",
            "--no-default-browser-check",
            "--window-size=1280,800",
            "--force-device-scale-factor=1",
            "--lang=en-US",
        ] {
            wanted.add_arg(flag)?;
        }
        wanted.add_arg(&format!("--user-data-dir={}", folder.path().join("profile").display()))?;
        wanted.add_experimental_option(
            "prefs",
            json!({ "download.default_directory": folder.path().join("downloads") }),
        )?;
        let page = WebDriver::new(format!("http://127.0.0.1:{port}"), wanted).await?;
        let size = json!({ "width": 1280, "height": 800, "deviceScaleFactor": 1, "mobile": false });
        let browser = Self { page, driver, folder };
        browser.page.cdp().send_raw("Emulation.setDeviceMetricsOverride", size).await?;
        Ok(browser)
    }

    /// Where the browser puts files that it downloads.
    pub fn downloads(&self) -> std::path::PathBuf {
        self.folder.path().join("downloads")
    }

    /// Waits until `look` finds something.
    pub async fn until<T>(&self, what: &str, mut look: impl AsyncFnMut() -> Option<T>) -> Result<T> {
        let begun = Instant::now();
        loop {
            if let Some(found) = look().await {
                return Ok(found);
            }
            if begun.elapsed() > patience() {
                let text = self.text().await.unwrap_or_default();
                return Err(anyhow!("waited in vain for {what}; the page says:\n{text}"));
            }
            tokio::time::sleep(Duration::from_millis(40)).await;
        }
    }

    /// Waits until a script gives true.
    pub async fn holds(&self, what: &str, code: &str) -> Result<()> {
        self.until(what, async || (self.script(code).await.ok()? == true).then_some(())).await
    }

    /// The element at a path, once it is there and visible.
    pub async fn at(&self, xpath: &str) -> Result<WebElement> {
        self.until(xpath, async || {
            let found = self.page.find(By::XPath(xpath.to_owned())).await.ok()?;
            found.is_displayed().await.unwrap_or(false).then_some(found)
        })
        .await
    }

    /// Clicks the element at a path once it takes a click: one that was drawn anew meanwhile is looked for again.
    pub async fn click(&self, xpath: &str) -> Result<()> {
        self.until(&format!("{xpath} to take a click"), async || {
            let found = self.page.find(By::XPath(xpath.to_owned())).await.ok()?;
            if !found.is_displayed().await.unwrap_or(false) {
                return None;
            }
            found.click().await.ok()
        })
        .await
    }

    /// A button (or radio, or link) by its accessible name, or by the part of it before a colon.
    pub async fn button(&self, name: &str) -> Result<WebElement> {
        let text = "normalize-space(.)";
        // what shows its key is pressed by that key: its word may be that of a card
        let reads = format!("(({text}='{name}' or {text}='{name} Esc') and not(.//*[@data-sign]))");
        let own = format!("@aria-label='{name}' or starts-with(@aria-label, '{name}:') or {reads}");
        self.at(&format!("//*[(self::button or self::a or @role='button' or @role='radio') and ({own})]")).await
    }

    /// Clicks a button once it can be clicked.
    pub async fn press(&self, name: &str) -> Result<()> {
        self.until(&format!("the button “{name}” to take a click"), async || {
            let button = self.button(name).await.ok()?;
            if !button.is_enabled().await.ok()? {
                return None;
            }
            button.click().await.ok()
        })
        .await
    }

    /// Waits for a text anywhere on the page.
    pub async fn reads(&self, text: &str) -> Result<()> {
        self.until(&format!("“{text}”"), async || self.text().await.ok().filter(|t| t.contains(text)).map(drop)).await
    }

    pub async fn text(&self) -> Result<String> {
        Ok(self.page.find(By::Tag("body")).await?.text().await?)
    }

    /// Waits until every edit is kept.
    pub async fn kept(&self) -> Result<()> {
        // two frames apart: what was just pressed has reached the page by then
        let frames =
            "return new Promise(r => requestAnimationFrame(() => requestAnimationFrame(() => setTimeout(r, 60))))";
        self.until("“All kept”", async || {
            for _ in 0..2 {
                self.script(frames).await.ok()?;
                let status = self.page.find(By::Css("[data-testid=kept]")).await.ok()?.text().await.ok()?;
                if status != "All kept" {
                    return None;
                }
            }
            Some(())
        })
        .await
    }

    /// The value of a script.
    pub async fn script(&self, code: &str) -> Result<serde_json::Value> {
        Ok(self.page.execute(code, vec![]).await?.json().clone())
    }

    /// Drags the mouse between two points of the window, in steps as a hand would.
    pub async fn drag(&self, from: (i64, i64), to: (i64, i64)) -> Result<()> {
        let mut actions = self.page.action_chain().move_to(from.0, from.1).click_and_hold();
        for step in 1..=6 {
            actions = actions.move_to(from.0 + (to.0 - from.0) * step / 6, from.1 + (to.1 - from.1) * step / 6);
        }
        actions.release().perform().await?;
        Ok(())
    }

    /// Turns the wheel over a point of the window: so many notches, away from you where they are positive.
    pub async fn wheel(&self, (x, y): (i64, i64), notches: i32, with_ctrl: bool) -> Result<()> {
        let code = format!(
            "for (let k = 0; k < {}; k++) document.elementFromPoint({x}, {y}).dispatchEvent(new WheelEvent('wheel', {{ bubbles: true, cancelable: true, deltaY: {}, ctrlKey: {with_ctrl} }}))",
            notches.abs(),
            -100 * notches.signum(),
        );
        self.script(&code).await.map(drop)
    }

    /// Presses keys on whatever has the focus.
    pub async fn keys(&self, keys: impl Into<TypingData>) -> Result<()> {
        self.page.action_chain().send_keys(keys).perform().await?;
        Ok(())
    }

    pub async fn screenshot(&self) -> Result<RgbaImage> {
        let png = self.page.screenshot_as_png().await?;
        Ok(image::load_from_memory(&png)?.into_rgba8())
    }

    /// What the page wrote to its console as an error.
    pub async fn complaints(&self) -> Result<Vec<String>> {
        let noted = self.script("return window.__complaints ?? []").await?;
        Ok(noted.as_array().into_iter().flatten().map(ToString::to_string).collect())
    }

    pub async fn close(self) -> Result<()> {
        // the driver ends with the value; a page that hangs must not hold a test up
        let _ = tokio::time::timeout(Duration::from_secs(10), self.page.clone().quit()).await;
        Ok(())
    }
}

impl Drop for Browser {
    fn drop(&mut self) {
        // the whole group: ChromeDriver and the browsers it started
        let _ = Command::new("kill").args(["-KILL", "--", &format!("-{}", self.driver.id())]).status();
        let _ = self.driver.wait();
    }
}
