//! A hand that does one step after the other in the real interface, and counts them.
//!
//! A step is a click, a menu choice, a drag, a typed text or number, or a key press. Bringing a file in counts one.

use anyhow::{Context, Result};
use inky_e2e::steps::{newer, on_screen};
use inky_e2e::{Bench, Browser, Server, root};
use serde_json::Value;
use thirtyfour::prelude::*;

/// A key that is held while the mouse does something.
#[derive(Clone, Copy)]
pub enum With {
    Nothing,
    Alt,
    Ctrl,
}

/// Notches that the wheel is turned by while something is carried; it belongs to the drag, as a held key does.
#[derive(Clone, Copy, Default)]
pub struct Wheel {
    pub plain: i32,
    pub with_ctrl: i32,
}

pub struct Hand<'a> {
    bench: &'a Bench,
    steps: usize,
}

impl<'a> Hand<'a> {
    /// On an empty sheet of 420 mm x 297 mm.
    pub fn on(bench: &'a Bench) -> Self {
        Self { bench, steps: 0 }
    }

    pub fn steps(&self) -> usize {
        self.steps
    }

    /// Counts steps that are made without the hand.
    pub fn counts(&mut self, steps: usize) {
        self.steps += steps;
    }

    pub fn browser(&self) -> &Browser {
        &self.bench.browser
    }

    pub fn server(&self) -> &Server {
        &self.bench.server
    }

    /// The sheet as the server has it.
    pub async fn sheet(&self) -> Result<Value> {
        self.bench.sheet().await
    }

    /// Presses a button.
    pub async fn press(&mut self, name: &str) -> Result<()> {
        self.steps += 1;
        self.browser().press(name).await?;
        self.browser().kept().await
    }

    /// Presses a button, and waits for what comes of it on the server.
    pub async fn press_for(&mut self, name: &str) -> Result<Value> {
        let before = self.sheet().await?;
        self.press(name).await?;
        newer(self.browser(), &self.bench.server, &before).await
    }

    /// Clicks an element.
    pub async fn click(&mut self, xpath: &str) -> Result<()> {
        self.steps += 1;
        self.browser().click(xpath).await?;
        self.browser().kept().await
    }

    /// Presses a key.
    pub async fn key(&mut self, key: impl Into<TypingData>) -> Result<()> {
        self.steps += 1;
        self.browser().keys(key).await?;
        self.browser().kept().await
    }

    /// Types a text where the keys go.
    pub async fn typed(&mut self, text: &str) -> Result<()> {
        self.steps += 1;
        let letters: Vec<String> = text.chars().map(String::from).collect();
        for letter in letters {
            self.browser().keys(letter).await?;
        }
        self.browser().kept().await
    }

    /// Types a number into the field whose label begins so, and leaves it.
    pub async fn number(&mut self, label: &str, text: &str) -> Result<()> {
        self.steps += 1;
        let field = format!("//label[starts-with(normalize-space(.), '{label}')]/following-sibling::input");
        let field = self.browser().at(&field).await?;
        field.send_keys(Key::Control + "a").await?;
        field.send_keys(text).await?;
        // leaving takes the value; the next step would leave it anyway
        self.browser().script("document.activeElement.blur()").await?;
        self.browser().kept().await
    }

    /// Brings a file of the project in by the shelf.
    pub async fn photo(&mut self, file: &str) -> Result<()> {
        self.steps += 1;
        let before = self.sheet().await?;
        let chooser = self.browser().page.find(By::Css("input[aria-label='Bring in a photo: file']")).await?;
        chooser.send_keys(root().canonicalize()?.join(file).to_string_lossy()).await?;
        newer(self.browser(), &self.bench.server, &before).await.map(drop)
    }

    /// Drops a file of the project on a shape of the shelf.
    pub async fn drop_on_shape(&mut self, file: &str, figure: &str) -> Result<()> {
        let before = self.sheet().await?;
        self.drop_on(file, &format!("[aria-label=\"Draw {figure}\"]")).await?;
        self.shape_filled(&before).await.map(drop)
    }

    /// Waits for a shape that is new since `before`, and then for what is seen through it.
    async fn shape_filled(&self, before: &Value) -> Result<Value> {
        let piece = newer(self.browser(), &self.bench.server, before).await?;
        let fills = |bench: &Value| bench["sheet"]["pieces"].as_array().and_then(|p| p.last().cloned());
        let first = fills(&piece);
        self.browser()
            .until("what was dropped", async || {
                let now = self.sheet().await.ok()?;
                let last = fills(&now)?;
                let kinds = last["kind"]["fills"].as_array()?.iter().any(|f| f["paint"]["kind"] != "colour");
                (kinds || Some(&last) != first.as_ref()).then_some(now)
            })
            .await
    }

    /// Drops a photo of the project where words are begun, and types the word that it shows through.
    pub async fn word_of(&mut self, file: &str, word: &str) -> Result<()> {
        self.drop_on(file, "[aria-label^='Add lettering']").await?;
        self.browser().at("//label[starts-with(normalize-space(.), 'Type a word')]").await?;
        self.typed(word).await
    }

    /// Drops a photo of the project at a place of the sheet, in mm.
    pub async fn drop_at(&mut self, file: &str, at: (f64, f64)) -> Result<Value> {
        let before = self.sheet().await?;
        let (x, y) = on_screen(self.browser(), &before, at.0, at.1).await?;
        self.drop_in(file, "document.querySelector('[data-testid=port]')", &format!(", clientX: {x}, clientY: {y}"))
            .await?;
        newer(self.browser(), &self.bench.server, &before).await
    }

    async fn drop_on(&mut self, file: &str, selector: &str) -> Result<()> {
        self.drop_in(file, &format!("document.querySelector({selector:?})"), "").await
    }

    /// Drops a file on what `target` finds; `at` is more of what the event says.
    async fn drop_in(&mut self, file: &str, target: &str, at: &str) -> Result<()> {
        use base64::Engine as _;
        self.steps += 1;
        let bytes = base64::engine::general_purpose::STANDARD.encode(std::fs::read(root().join(file))?);
        let name = file.rsplit('/').next().unwrap_or(file);
        let code = format!(
            "const data = new DataTransfer()
            data.items.add(new File([Uint8Array.from(atob('{bytes}'), c => c.charCodeAt(0))], '{name}'))
            const cell = {target}
            for (const kind of ['dragover', 'drop']) cell.dispatchEvent(new DragEvent(kind, {{ bubbles: true, cancelable: true, dataTransfer: data{at} }}))"
        );
        self.browser().script(&code).await.map(drop)
    }

    /// Drags a piece of the stack (from the front) onto a shape of the shelf.
    pub async fn piece_on_shape(&mut self, from_front: usize, figure: &str) -> Result<Value> {
        self.steps += 1;
        let before = self.sheet().await?;
        let code = format!(
            "const data = new DataTransfer()
            const own = document.querySelectorAll('nav li[draggable]')[{from_front}], to = document.querySelector('[aria-label=\"Draw {figure}\"]')
            const tell = (el, kind) => el.dispatchEvent(new DragEvent(kind, {{ bubbles: true, cancelable: true, dataTransfer: data }}))
            tell(own, 'dragstart'); tell(to, 'dragover'); tell(to, 'drop')"
        );
        self.browser().script(&code).await?;
        self.shape_filled(&before).await
    }

    /// Types a size into the field below what is selected.
    pub async fn size(&mut self, text: &str) -> Result<Value> {
        self.steps += 1;
        let before = self.sheet().await?;
        let field = self.browser().at("//input[@aria-label='Size']").await?;
        field.send_keys(Key::Control + "a").await?;
        field.send_keys(text).await?;
        // leaving takes the value; the next step would leave it anyway
        self.browser().script("document.activeElement.blur()").await?;
        newer(self.browser(), &self.bench.server, &before).await
    }

    /// Rests the pointer on an element: no step, for nothing is pressed.
    pub async fn rests_on(&self, xpath: &str) -> Result<()> {
        let element = self.browser().at(xpath).await?;
        // a hand moves more than once
        let chain = self.browser().page.action_chain().move_to_element_center(&element);
        Ok(chain.move_by_offset(3, 1).perform().await?)
    }

    /// Takes a shape from the shelf to a place of the sheet, in mm.
    pub async fn shelf(&mut self, figure: &str, at: (f64, f64), with: With) -> Result<Value> {
        self.steps += 1;
        let before = self.sheet().await?;
        let from = self.bench.middle(&format!("[aria-label='Draw {figure}']")).await?;
        let to = on_screen(self.browser(), &before, at.0, at.1).await?;
        self.drags(from, &[to], with).await?;
        newer(self.browser(), &self.bench.server, &before).await
    }

    /// Takes a word from the shelf to a place of the sheet, in mm, where it is typed.
    pub async fn word_at(&mut self, at: (f64, f64)) -> Result<()> {
        self.steps += 1;
        let sheet = self.sheet().await?;
        let from = self.bench.middle("[aria-label^='Add lettering']").await?;
        let to = on_screen(self.browser(), &sheet, at.0, at.1).await?;
        self.drags(from, &[to], With::Nothing).await?;
        self.browser().at("//label[starts-with(normalize-space(.), 'Type a word')]").await.map(drop)
    }

    /// Takes the brush from the shelf along places of the sheet, in mm.
    pub async fn brush(&mut self, along: &[(f64, f64)]) -> Result<()> {
        self.steps += 1;
        let sheet = self.sheet().await?;
        let from = self.bench.middle("[aria-label='Paint']").await?;
        let mut places = Vec::new();
        for (x, y) in along {
            places.push(on_screen(self.browser(), &sheet, *x, *y).await?);
        }
        self.drags(from, &places, With::Nothing).await
    }

    /// Drags along places of the sheet, in mm.
    pub async fn drag(&mut self, along: &[(f64, f64)], with: With) -> Result<()> {
        self.drag_with(along, with, Wheel::default()).await
    }

    /// The same with the wheel turned on the way.
    pub async fn drag_with(&mut self, along: &[(f64, f64)], with: With, wheel: Wheel) -> Result<()> {
        self.steps += 1;
        let sheet = self.sheet().await?;
        let mut places = Vec::new();
        for (x, y) in along {
            places.push(on_screen(self.browser(), &sheet, *x, *y).await?);
        }
        let (first, rest) = places.split_first().context("no places")?;
        self.drags_with(*first, rest, with, wheel).await?;
        self.browser().kept().await
    }

    /// Sweeps from one point of the window to others.
    pub async fn sweep(&mut self, along: &[(i64, i64)]) -> Result<()> {
        self.steps += 1;
        let (first, rest) = along.split_first().context("no places")?;
        self.drags(*first, rest, With::Nothing).await
    }

    /// Drags what a selector finds by so many pixels, and gives what came of it.
    pub async fn pull(&mut self, selector: &str, by: (i64, i64)) -> Result<Value> {
        self.pull_with(selector, by, With::Nothing).await
    }

    /// The same with a key held.
    pub async fn pull_with(&mut self, selector: &str, by: (i64, i64), with: With) -> Result<Value> {
        self.steps += 1;
        let before = self.sheet().await?;
        let from = self.bench.middle(selector).await?;
        self.drags(from, &[(from.0 + by.0, from.1 + by.1)], with).await?;
        newer(self.browser(), &self.bench.server, &before).await
    }

    /// Drags one of the grip's three handles by so many pixels.
    pub async fn grip(&mut self, what: &str, by: (i64, i64)) -> Result<Value> {
        self.grip_with(what, by, Wheel::default()).await
    }

    /// The same with the wheel turned on the way.
    pub async fn grip_with(&mut self, what: &str, by: (i64, i64), wheel: Wheel) -> Result<Value> {
        self.steps += 1;
        let before = self.sheet().await?;
        let code = format!(
            "const r = [...document.querySelectorAll('[aria-label=\"A drag moves\"] [role=radio]')].find(e => e.innerText.startsWith('{what}')).getBoundingClientRect(); return [r.left + 14, r.top + r.height / 2]"
        );
        let [x, y]: [f64; 2] = serde_json::from_value(self.browser().script(&code).await?)?;
        let from = (x as i64, y as i64);
        self.drags_with(from, &[(from.0 + by.0, from.1 + by.1)], With::Nothing, wheel).await?;
        newer(self.browser(), &self.bench.server, &before).await
    }

    async fn drags(&self, from: (i64, i64), along: &[(i64, i64)], with: With) -> Result<()> {
        self.drags_with(from, along, with, Wheel::default()).await
    }

    async fn drags_with(&self, from: (i64, i64), along: &[(i64, i64)], with: With, wheel: Wheel) -> Result<()> {
        let mut actions = self.browser().page.action_chain();
        let held = match with {
            With::Nothing => None,
            With::Alt => Some(Key::Alt),
            With::Ctrl => Some(Key::Control),
        };
        if let Some(key) = &held {
            actions = actions.key_down(key.clone());
        }
        actions = actions.move_to(from.0, from.1).click_and_hold();
        let mut last = from;
        for to in along {
            for step in 1..=5 {
                actions = actions.move_to(last.0 + (to.0 - last.0) * step / 5, last.1 + (to.1 - last.1) * step / 5);
            }
            last = *to;
        }
        if wheel.plain != 0 || wheel.with_ctrl != 0 {
            actions.perform().await?;
            self.browser().wheel(last, wheel.plain, false).await?;
            self.browser().wheel(last, wheel.with_ctrl, true).await?;
            actions = self.browser().page.action_chain();
        }
        actions = actions.release();
        if let Some(key) = held {
            actions = actions.key_up(key);
        }
        Ok(actions.perform().await?)
    }
}
