//! What passes over the edge and how, in the real interface.

use anyhow::{Context, Result, ensure};
use inky_e2e::compare::screen_is_file;
use inky_e2e::steps::{bring_photo, inside, look_for_subject, on_screen, rect, type_word};
use inky_e2e::{Bench, Browser, Scratch};
use serde_json::Value;
use thirtyfour::prelude::*;

/// A red bar across a clear photo, thinner at its ends, brought into the selected window; the file itself says what is in front.
async fn bring_bar(bench: &Bench, folder: &Scratch) -> Result<()> {
    let browser = &bench.browser;
    let bar = image::RgbaImage::from_fn(900, 400, |x, y| {
        let red = (30..870).contains(&x) && (170..230).contains(&y);
        image::Rgba([200, 40 + (x % 7) as u8, 30, if red { 255 } else { 0 }])
    });
    let file = folder.path().join("bar.png");
    bar.save(&file)?;
    bring_photo(browser, "Photo into it", &file.to_string_lossy()).await?;
    look_for_subject(browser).await?;
    // whatever stands out in it, the file knows better
    browser.press("By its own transparency").await?;
    let exact = "return document.querySelector('[data-testid=draft]') && !document.body.innerText.includes('By its own transparency')";
    browser.holds("the file's own matte", exact).await?;
    let kept = bench.after(async |b| b.click("//button[normalize-space(.)='Keep' and not(@disabled)]").await).await?;
    let subject = kept["sheet"]["photos"].as_object().and_then(|p| p.values().next()).context("no photo")?;
    assert_eq!(subject["subjects"][0]["hints"]["start"], "alpha");
    Ok(())
}

fn window(bench: &Value) -> &Value {
    &bench["sheet"]["pieces"][0]["kind"]
}

/// Where the overhangs lie, and whether they are out.
fn overhangs(bench: &Value) -> Vec<(String, bool)> {
    let all = bench["scene"]["pieces"][0]["overhangs"].as_array().cloned().unwrap_or_default();
    let is_out = |o: &Value| o["let_out_by"].as_array().is_some_and(|a| !a.is_empty());
    let mut found: Vec<_> = all.iter().map(|o| (o["place"].as_str().unwrap_or_default().into(), is_out(o))).collect();
    found.sort();
    found
}

async fn keep(bench: &Bench) -> Result<Value> {
    bench.after(async |b| b.press("Keep").await).await?;
    // several edits of one gesture
    bench.browser.reads("All kept").await?;
    bench.sheet().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_bar_passes_over_one_letter_and_under_the_next() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    let folder = Scratch::new()?;
    type_word(browser, "II").await?;
    bring_bar(&bench, &folder).await?;
    bench.card("Rims").await?;
    bench.after(async |b| b.press("Add a rim").await).await?;
    browser.press("Close the card").await?;

    // what lies against one letter: to its one side and between the two
    bench.card("Breakout").await?;
    browser.press("Along an edge").await?;
    let edges = browser.until("the edges of both letters", async || {
        let all = browser.page.find_all(By::Css("[data-testid=edge]")).await.ok()?;
        (all.len() == 2).then_some(all)
    });
    for (edge, side) in edges.await?.iter().zip(["left", "right"]) {
        edge.focus().await?;
        browser.keys(Key::Enter + "").await?;
        let out =
            "return [...document.querySelectorAll('[data-testid=overhang-out]')].map(o => o.ariaLabel).join('; ')";
        browser
            .until(side, async || {
                let told = browser.script(out).await.ok()?;
                let told = told.as_str()?;
                let both = told.contains(side) && told.contains("between");
                (both && told.matches("part").count() == 2).then_some(())
            })
            .await?;
    }
    browser.press("Keep all in").await?;

    // between the letters it is let out, and crosses the edges of both
    browser.press("Parts").await?;
    browser.press("between").await?;
    let crossings = "return document.querySelectorAll('[data-testid=crossing]').length";
    browser.until("two crossings", async || (browser.script(crossings).await.ok()? == 2).then_some(())).await?;
    // the second one runs under, by its button, and by key over and under again
    let states = "return [...document.querySelectorAll('[data-testid=crossing]')].map(c => [c.getBoundingClientRect().x, c.ariaPressed])";
    let at = browser
        .script("const c = [...document.querySelectorAll('[data-testid=crossing]')].sort((a, b) => a.getBoundingClientRect().x - b.getBoundingClientRect().x)[1], b = c.getBoundingClientRect(); return [Math.round(b.x + b.width / 2), Math.round(b.y + b.height / 2)]")
        .await?;
    let (x, y): (i64, i64) = serde_json::from_value(at)?;
    browser.page.action_chain().move_to(x, y).click().perform().await?;
    let under = async || {
        let mut all: Vec<(f64, String)> = serde_json::from_value(browser.script(states).await.ok()?).ok()?;
        all.sort_by(|a, b| a.0.total_cmp(&b.0));
        (all.iter().map(|c| c.1.as_str()).collect::<Vec<_>>() == ["false", "true"]).then_some(())
    };
    browser.until("the right one under", under).await?;
    let kept = keep(&bench).await?;
    let breakout = &window(&kept)["breakout"];
    assert_eq!(breakout["under"].as_array().map(Vec::len), Some(1), "{breakout}");
    assert_eq!(
        overhangs(&kept).iter().filter(|o| o.1).map(|o| o.0.as_str()).collect::<Vec<_>>(),
        ["between the edges"]
    );
    screen_is_file(browser, &bench.server).await?;
    bench.select(0).await?;

    // small within a letter the photo reaches over no edge, which is said; as it was, its part is out again
    let b: [f64; 4] = serde_json::from_value(kept["scene"]["pieces"][0]["bounds"].clone())?;
    bench.card("Photo").await?;
    bench.number("Width, %", "15").await?;
    let away = bench.number("Across", &format!("{}", b[0] + 0.2 * (b[2] - b[0]))).await?;
    browser.reads("A part of what “II” lets out is not there any more").await?;
    assert_eq!(away["scene"]["pieces"][0]["unmatched"].as_array().map(Vec::len), Some(1));
    browser.press("Close the card").await?;
    bench.card("Breakout").await?;
    browser.reads("One part is gone: forget it").await?;
    browser.press("Drop").await?;
    bench.after(async |b| b.press("Undo").await).await?;
    let back = bench.after(async |b| b.press("Undo").await).await?;
    assert_eq!(overhangs(&back), overhangs(&kept));

    // held in by hand, and a line that is not passed
    bench.card("Breakout").await?;
    browser.press("right").await?;
    browser.press("Reach line").await?;
    let (from, to) = (
        on_screen(browser, &kept, b[2] + 10.0, b[1] - 20.0).await?,
        on_screen(browser, &kept, b[2] + 10.0, b[3] - 20.0).await?,
    );
    browser.drag(from, to).await?;
    let line = "return !!document.querySelector('[data-testid=reach]')";
    browser.holds("the line", line).await?;
    browser.press("Paint out").await?;
    let middle = (b[1] + b[3]) / 2.0;
    let (from, to) =
        (on_screen(browser, &kept, b[0] - 14.0, middle).await?, on_screen(browser, &kept, b[0] - 4.0, middle).await?);
    browser.drag(from, to).await?;
    browser.reads("Last paint back").await?;
    let corrected = keep(&bench).await?;
    let breakout = &window(&corrected)["breakout"];
    assert_eq!(breakout["painted"].as_array().map(Vec::len), Some(1), "{breakout}");
    ensure!(breakout["painted"][0]["keep"] == true && breakout["reach"]["from"].is_array(), "{breakout}");

    // in panes that are apart its parts are chosen where the window lies; a choice is taken back by Ctrl Z
    let panes =
        |n: usize| format!("return document.querySelectorAll('[data-testid=scene] [data-pane]').length === {n}");
    bench.card("Panes").await?;
    bench.after(async |b| b.press("Across").await).await?;
    bench.number("Apart, mm", "30").await?;
    browser.press("Close the card").await?;
    browser.holds("two panes", &panes(2)).await?;
    bench.card("Breakout").await?;
    browser.holds("the window whole", &panes(0)).await?;
    browser.press("Keep all in").await?;
    browser.at("//button[normalize-space(.)='Keep' and not(@disabled)]").await?;
    browser.page.action_chain().key_down(Key::Control).send_keys("z").key_up(Key::Control).perform().await?;
    browser.at("//button[normalize-space(.)='Keep' and @disabled]").await?;
    browser.press("Drop").await?;
    browser.holds("two panes", &panes(2)).await?;
    screen_is_file(browser, &bench.server).await?;
    bench.browser.close().await
}

/// Types into a field of the bar below and leaves it; `done` says when that has been drawn.
async fn type_into(browser: &Browser, label: &str, text: &str, done: &str) -> Result<()> {
    let own = format!("//label[starts-with(normalize-space(.), '{label}')]");
    let field = browser.at(&format!("{own}//input | {own}/following-sibling::input")).await?;
    field.click().await?;
    field.send_keys(Key::Control + "a").await?;
    field.send_keys(text).await?;
    field.send_keys(Key::Enter + "").await?;
    browser.holds(done, done).await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_part_is_cut_by_a_line_that_can_be_moved_and_fades() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    let folder = Scratch::new()?;
    type_word(browser, "II").await?;
    bring_bar(&bench, &folder).await?;
    bench.card("Breakout").await?;
    browser.press("right").await?;
    let count = |out: usize, all: usize| {
        format!(
            "return document.querySelectorAll('[data-testid=overhang-out]').length === {out} &&
                document.querySelectorAll('[data-testid^=overhang-]').length === {all}"
        )
    };
    let parts = async |out: usize, all: usize| {
        let there = count(out, all);
        browser.holds(&there, &there).await
    };
    parts(1, 3).await?;
    browser.press("Cuts").await?;
    let [left, top, width, height] = rect(browser, "[data-testid=overhang-out]").await?;
    let at = |share: f64| (left + share * width) as i64;
    browser.drag((at(0.5), top as i64 - 12), (at(0.5), (top + height) as i64 + 12)).await?;
    parts(2, 4).await?;
    // a click keeps the half at the tip in; the cut between them is a line to be moved
    let (_, middle) = bench.middle("[data-testid=overhang-out]").await?;
    browser.page.action_chain().move_to(at(0.8), middle).click().perform().await?;
    parts(1, 4).await?;
    let before = rect(browser, "[data-testid=part-cut]").await?[0];
    browser.drag((at(0.5), middle), (at(0.3), middle)).await?;
    let cut =
        format!("return document.querySelector('[data-testid=part-cut]')?.getBoundingClientRect().x < {before} - 3");
    browser.holds("the cut is moved", &cut).await?;
    let named = "return [...document.querySelectorAll('[data-testid=overhang-out]')].some((p) => p.getAttribute('aria-label').includes('stump'))";
    type_into(browser, "Name of the part", "stump", named).await?;
    let soft = "return [...document.querySelectorAll('mask')].length > 0";
    type_into(browser, "Soft edge, px", "24", soft).await?;

    let kept = keep(&bench).await?;
    let parts = window(&kept)["breakout"]["parts"].as_array().cloned().unwrap_or_default();
    let stump = parts.iter().find(|p| p["name"] == "stump").context("no named part")?;
    ensure!(stump["out"] == true && stump["soft"] == 24.0 && stump["shaped"] == true, "{parts:?}");
    assert_eq!(parts.iter().filter(|p| p["out"] == true).count(), 1);
    screen_is_file(browser, &bench.server).await?;
    bench.undo_all().await?;
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_subject_stands_in_front_of_a_row_of_panels_and_an_opening_has_an_open_top() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    let folder = Scratch::new()?;
    // two panels of one opening, and a third one that was a window of its own before
    for (k, left) in [200.0, 40.0, 120.0].into_iter().enumerate() {
        bench.draw("Box", k > 1, (left, 150.0), (left + 60.0, 260.0)).await?;
        if k == 0 {
            // first the card, then the window
            browser.keys(Key::Escape + "").await?;
            browser.keys(Key::Escape + "").await?;
        }
    }
    browser.press("Add a form").await?;
    let row = bench.after(async |b| b.click("//ul[@aria-label='Windows to take in']//button").await).await?;
    let pieces = row["sheet"]["pieces"].as_array().context("no pieces")?;
    assert_eq!((pieces.len(), window(&row)["opening"]["forms"].as_array().map(Vec::len)), (1, Some(3)));
    bring_bar(&bench, &folder).await?;
    bench.card("Breakout").await?;
    browser.press("between").await?;
    let row = keep(&bench).await?;
    let outer = ["left", "right"].map(|side| (side.to_owned(), false));
    let inner = ("between the edges".to_owned(), true);
    assert_eq!(overhangs(&row), [inner.clone(), inner, outer[0].clone(), outer[1].clone()]);
    screen_is_file(browser, &bench.server).await?;
    bench.select(0).await?;

    // what lies to the left becomes a part of the outline
    bench.card("Breakout").await?;
    browser.press("Into the outline").await?;
    let at = browser.script("return [...document.querySelectorAll('[data-testid=overhang-in]')].findIndex(o => o.ariaLabel.includes('left'))").await?;
    let (x, y) =
        inside(browser, "[data-testid=overhang-in]", at.as_u64().context("no part on the left")? as usize).await?;
    browser.page.action_chain().move_to(x, y).click().perform().await?;
    let one_less = "return document.querySelectorAll('[data-testid=overhang-in]').length";
    browser.until("one part less", async || (browser.script(one_less).await.ok()? == 1).then_some(())).await?;
    let merged = keep(&bench).await?;
    let forms = window(&merged)["opening"]["forms"].as_array().context("no forms")?;
    assert_eq!((forms.len(), &forms[3]["shape"]["kind"]), (4, &"contour".into()));
    let left = |bench: &Value| bench["scene"]["pieces"][0]["bounds"][0].as_f64().unwrap_or_default();
    ensure!(left(&merged) < left(&row) - 5.0, "{} and {}", left(&merged), left(&row));

    // open at the top, for less than to the end of the sheet; and closed again
    bench.card("Opening").await?;
    let open = bench.after(async |b| b.press("Top").await).await?;
    let side = &window(&open)["opening"]["open"][0];
    assert_eq!((&side["side"], &side["from"], &side["to"]), (&"top".into(), &0.0.into(), &1.0.into()));
    let top = |bench: &Value| bench["scene"]["pieces"][0]["bounds"][1].as_f64().unwrap_or_default();
    ensure!(top(&open) < 0.0, "it goes on beyond the sheet: {}", top(&open));
    let shorter = bench.number("Goes on for", "30").await?;
    ensure!((top(&row) - top(&shorter) - 30.0).abs() < 0.01, "{} and {}", top(&row), top(&shorter));
    screen_is_file(browser, &bench.server).await?;
    bench.select(0).await?;
    bench.card("Opening").await?;
    // a stretch of the right side marked on its rail, lengthened at its end, slid along, and cut again
    let drag = async |from: f64, to: f64| {
        // a card that grows makes room for itself
        let [x, y, _, h] = rect(browser, "[data-testid=rail-right] [data-testid=rail]").await?;
        let at = |share: f64| (x as i64, (y + share * h) as i64);
        bench.after(async |b| b.drag(at(from), at(to)).await).await
    };
    let second = |bench: &Value, key: &str| window(bench)["opening"]["open"][1][key].as_f64().unwrap_or_default();
    let near = |a: f64, b: f64| (a - b).abs() < 0.02;
    let marked = drag(0.2, 0.5).await?;
    ensure!(
        near(second(&marked, "from"), 0.2) && near(second(&marked, "to"), 0.5),
        "{}",
        window(&marked)["opening"]["open"]
    );
    let longer = drag(0.5, 0.7).await?;
    ensure!(
        near(second(&longer, "from"), 0.2) && near(second(&longer, "to"), 0.7),
        "{}",
        window(&longer)["opening"]["open"]
    );
    let slid = drag(0.4, 0.99).await?;
    ensure!(near(second(&slid, "from"), 0.5) && near(second(&slid, "to"), 1.0), "{}", window(&slid)["opening"]["open"]);
    let far = bench.middle("[data-testid=rail-top] [data-testid=open-far]").await?;
    let reach = |bench: &Value| window(bench)["opening"]["open"][0]["far"].as_f64().unwrap_or_default();
    let higher = bench.after(async |b| b.drag(far, (far.0, far.1 - 20)).await).await?;
    ensure!(reach(&higher) > reach(&slid) + 5.0 && near(second(&higher, "from"), 0.5), "{}", reach(&higher));
    let cut = "(//button[normalize-space(.)='Cut here'])[2]";
    bench.after(async |b| b.click(cut).await).await?;
    let closed = bench.after(async |b| b.press("Top").await).await?;
    ensure!((top(&closed) - top(&row)).abs() < 0.01);
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn windows_of_their_own_share_a_photo_and_its_subject_stands_before_them() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    let folder = Scratch::new()?;
    for left in [140.0, 60.0] {
        bench.draw("Box", false, (left, 150.0), (left + 60.0, 260.0)).await?;
        browser.keys(Key::Escape + "").await?;
        browser.keys(Key::Escape + "").await?;
    }
    // the stack begins with the foremost piece
    bench.select(0).await?;
    bring_bar(&bench, &folder).await?;
    bench.select(1).await?;
    browser.press("Add a fill").await?;
    let choice = "//select[@aria-label=\"Share another window's photo\"]/option[2]";
    let row = bench.after(async |b| b.click(choice).await).await?;
    let placements = |bench: &Value| -> Vec<Value> {
        let pieces = bench["sheet"]["pieces"].as_array().cloned().unwrap_or_default();
        let fills = pieces.iter().flat_map(|p| p["kind"]["fills"].as_array().cloned().unwrap_or_default());
        fills.map(|f| f["paint"]["placement"].clone()).filter(|p| !p.is_null()).collect()
    };
    let lie = placements(&row);
    assert!(lie.len() == 2 && lie[0] == lie[1], "{lie:?}");
    browser.reads("One photo behind several windows").await?;
    browser.press("Close the card").await?;

    // from the window in front, between the two: the outer edges alone cut it
    bench.select(0).await?;
    bench.card("Breakout").await?;
    browser.press("between").await?;
    let row = keep(&bench).await?;
    let front = row["scene"]["pieces"][1]["overhangs"].as_array().cloned().unwrap_or_default();
    let out: Vec<&Value> = front.iter().filter(|o| o["let_out_by"].as_array().is_some_and(|a| !a.is_empty())).collect();
    assert_eq!(out.iter().map(|o| &o["place"]).collect::<Vec<_>>(), ["between the edges"], "{front:?}");
    screen_is_file(browser, &bench.server).await?;

    // slid in one of them it slides in both
    bench.select(0).await?;
    browser.keys("f").await?;
    let slid = bench.after(async |b| b.keys(Key::Right + "").await).await?;
    let lie = placements(&slid);
    assert!(lie[0] == lie[1] && lie[0] != placements(&row)[0], "{lie:?}");
    bench.browser.close().await
}
