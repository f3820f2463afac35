//! A bench to try things on.

use crate::steps::{draw_shape, look_for_subject, new_sheet, newer, rect, sheet};
use crate::{Browser, Database, Server};
use anyhow::Result;
use serde_json::{Value, json};
use thirtyfour::prelude::*;
use uuid::Uuid;

/// Everything a test of the bench needs; the database and the server end with it.
pub struct Bench {
    pub browser: Browser,
    pub server: Server,
    _database: Database,
}

impl Bench {
    /// An empty A3 sheet in a browser of its own, on a server with a database of its own.
    pub async fn start() -> Result<Self> {
        let database = Database::start()?;
        let server = Server::start(&database, false)?;
        let browser = Browser::start().await?;
        new_sheet(&browser, &server, "Openings").await?;
        Ok(Self { browser, server, _database: database })
    }

    /// The sheet as the server has it.
    pub async fn sheet(&self) -> Result<Value> {
        sheet(&self.browser, &self.server).await
    }

    /// Keeps edits of this sheet past the screen, which hears of them by itself; the sheet after them.
    pub async fn keep(&self, sheet: &Value, edits: Value) -> Result<Value> {
        let body = json!({ "base": sheet["revision"], "request": Uuid::new_v4(), "gesture": null, "edits": edits });
        self.server.keep(sheet["id"].as_str().unwrap_or_default(), "edits", body).await
    }

    /// Does something and gives the sheet that came of it.
    pub async fn after(&self, act: impl AsyncFnOnce(&Browser) -> Result<()>) -> Result<Value> {
        let before = self.sheet().await?;
        act(&self.browser).await?;
        newer(&self.browser, &self.server, &before).await
    }

    /// Draws a basic shape, see [`draw_shape`].
    pub async fn draw(&self, name: &str, into: bool, from: (f64, f64), to: (f64, f64)) -> Result<()> {
        draw_shape(&self.browser, &self.server, name, into, from, to).await
    }

    /// Opens the card of a form in the recipe, by its place.
    pub async fn open_form(&self, at: usize) -> Result<()> {
        self.browser.click(&format!("(//*[@data-form])[{}]", at + 1)).await
    }

    /// Types a number into the field whose label begins with `label`, and gives the sheet that came of it.
    pub async fn number(&self, label: &str, text: &str) -> Result<Value> {
        let field = format!("//label[starts-with(normalize-space(.), '{label}')]/following-sibling::input");
        self.after(async |b| {
            let input = b.at(&field).await?;
            input.send_keys(Key::Control + "a").await?;
            Ok(input.send_keys(text.to_owned() + Key::Enter).await?)
        })
        .await
    }

    /// Opens the card of the recipe with this label, or closes it.
    pub async fn card(&self, label: &str) -> Result<()> {
        self.browser.click(&format!("//button[starts-with(@aria-label, '{label}: ')]")).await
    }

    /// Finds the subject of the selected window's photo by itself, and keeps it.
    pub async fn find_subject(&self) -> Result<Value> {
        look_for_subject(&self.browser).await?;
        self.after(async |b| b.click("//button[normalize-space(.)='Keep' and not(@disabled)]").await).await
    }

    /// Selects the piece that lies at a place of the stack, from the front.
    pub async fn select(&self, at: usize) -> Result<()> {
        let button = format!("(//nav//button[starts-with(@aria-label, 'Select')])[{}]", at + 1);
        self.browser.click(&button).await
    }

    /// Takes everything back, to the empty sheet.
    pub async fn undo_all(&self) -> Result<()> {
        self.browser.keys(Key::Escape + "").await?;
        self.browser.keys(Key::Escape + "").await?;
        self.browser.keys(Key::Escape + "").await?;
        while self.sheet().await?["undo"].is_string() {
            self.after(async |b| b.press("Undo").await).await?;
        }
        self.browser.reads("An empty sheet").await
    }

    /// The middle of an element of the page, in pixels of the window.
    pub async fn middle(&self, selector: &str) -> Result<(i64, i64)> {
        let [x, y, w, h] = rect(&self.browser, selector).await?;
        Ok(((x + w / 2.0) as i64, (y + h / 2.0) as i64))
    }
}
