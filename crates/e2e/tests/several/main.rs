//! Several pieces at once, by mouse and by keyboard: selected, moved, arranged, ordered, copied, removed, bundled.

mod bundles;
mod divided;
mod guides;
mod panes;
mod rows;
mod steps;
mod turned;

use anyhow::{Context, Result, ensure};
use inky_e2e::Bench;
use inky_e2e::steps::on_screen;
use serde_json::Value;
use thirtyfour::prelude::*;

fn same(a: f64, b: f64) -> bool {
    // a pixel of the screen is almost half a millimetre
    (a - b).abs() < 0.5
}

/// Left, top, right and bottom of each piece, from back to front; mm.
fn boxes(bench: &Value) -> Vec<[f64; 4]> {
    let pieces = bench["scene"]["pieces"].as_array().cloned().unwrap_or_default();
    pieces.iter().map(|p| serde_json::from_value(p["bounds"].clone()).unwrap_or_default()).collect()
}

fn order(bench: &Value) -> Vec<Value> {
    bench["sheet"]["pieces"].as_array().into_iter().flatten().map(|p| p["id"].clone()).collect()
}

/// How many pieces are selected, as the stack has it.
async fn selected(bench: &Bench) -> Result<usize> {
    Ok(bench.browser.page.find_all(By::Css("nav li button[aria-pressed=true][aria-label^='Select']")).await?.len())
}

/// Waits until so many are selected.
async fn until_selected(bench: &Bench, count: usize) -> Result<()> {
    let is = async || selected(bench).await.ok().filter(|n| *n == count).map(drop);
    bench.browser.until(&format!("{count} selected pieces"), is).await
}

/// A press on a place of the sheet, in mm; with keys held.
async fn press_on(bench: &Bench, (x, y): (f64, f64), held: &[Key]) -> Result<()> {
    let at = on_screen(&bench.browser, &bench.sheet().await?, x, y).await?;
    let mut chain = bench.browser.page.action_chain();
    for key in held {
        chain = chain.key_down(key.clone());
    }
    chain = chain.move_to(at.0, at.1).click();
    for key in held {
        chain = chain.key_up(key.clone());
    }
    Ok(chain.perform().await?)
}

/// Drags from one place of the sheet to another, in mm.
async fn drag(bench: &Bench, from: (f64, f64), to: (f64, f64)) -> Result<()> {
    let sheet = bench.sheet().await?;
    let from = on_screen(&bench.browser, &sheet, from.0, from.1).await?;
    bench.browser.drag(from, on_screen(&bench.browser, &sheet, to.0, to.1).await?).await
}

/// Three boxes of different sizes, from left to right: (60, 60) to (100, 90), (150, 80) to (190, 140), (250, 50) to (330, 90).
async fn three_boxes() -> Result<Bench> {
    let bench = Bench::start().await?;
    bench.draw("Box", false, (60.0, 60.0), (100.0, 90.0)).await?;
    bench.draw("Box", false, (150.0, 80.0), (190.0, 140.0)).await?;
    bench.draw("Box", false, (250.0, 50.0), (330.0, 90.0)).await?;
    bench.browser.keys(Key::Escape + "").await?;
    bench.browser.keys(Key::Escape + "").await?;
    until_selected(&bench, 0).await?;
    Ok(bench)
}

#[tokio::test(flavor = "multi_thread")]
async fn what_is_swept_or_pressed_with_shift_moves_as_one() -> Result<()> {
    let bench = three_boxes().await?;
    let before = boxes(&bench.sheet().await?);
    // what lies wholly within is swept, what is merely touched is not
    drag(&bench, (20.0, 20.0), (280.0, 200.0)).await?;
    until_selected(&bench, 2).await?;
    bench.browser.reads("2 shapes").await?;
    let moved = boxes(&bench.after(async |_| drag(&bench, (80.0, 75.0), (93.0, 115.0)).await).await?);
    for k in 0..2 {
        let by = [moved[k][0] - before[k][0], moved[k][1] - before[k][1]];
        let first = [moved[0][0] - before[0][0], moved[0][1] - before[0][1]];
        ensure!(same(by[0], first[0]) && same(by[1], first[1]) && by[1] > 20.0, "{by:?} and {first:?}");
    }
    ensure!(moved[2] == before[2]);
    // one step back is all of them
    let back = bench.after(async |b| b.press("Undo").await).await?;
    ensure!(boxes(&back) == before);
    // Shift takes one more, or leaves one out
    press_on(&bench, (290.0, 70.0), &[Key::Shift]).await?;
    until_selected(&bench, 3).await?;
    press_on(&bench, (80.0, 75.0), &[Key::Shift]).await?;
    until_selected(&bench, 2).await?;
    // keys move both; the corner scales them about the far one
    let nudged = boxes(&bench.after(async |b| b.keys(Key::Right + "").await).await?);
    ensure!(same(nudged[1][0] - before[1][0], 1.0) && same(nudged[2][0] - before[2][0], 1.0) && nudged[0] == before[0]);
    let corner = bench.middle("[data-testid=corner-2]").await?;
    let scaled = bench.after(async |b| b.drag(corner, (corner.0 - 40, corner.1 - 20)).await).await?;
    let scaled = boxes(&scaled);
    ensure!(same(scaled[1][0], nudged[1][0]) && same(scaled[2][1], nudged[2][1]), "the far corner stays: {scaled:?}");
    let shares: Vec<f64> = (1..3).map(|k| (scaled[k][2] - scaled[k][0]) / (nudged[k][2] - nudged[k][0])).collect();
    ensure!(shares[0] < 0.95 && (shares[0] - shares[1]).abs() < 0.01, "{shares:?}");
    // and the knob turns them
    let knob = bench.middle("[data-testid=turn]").await?;
    let turned = bench.after(async |b| b.drag(knob, (knob.0 + 60, knob.1 + 40)).await).await?;
    ensure!(turned["undo"].as_str().is_some_and(|u| u.contains("turn 2 pieces")), "{}", turned["undo"]);
    // a press on one of them that moves nothing takes it alone; on the ground, none
    press_on(&bench, (80.0, 75.0), &[]).await?;
    until_selected(&bench, 1).await?;
    press_on(&bench, (20.0, 280.0), &[]).await?;
    until_selected(&bench, 0).await?;
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_window_snaps_to_a_gap_like_that_beside_it() -> Result<()> {
    let bench = three_boxes().await?;
    let before = boxes(&bench.sheet().await?);
    let gap = before[1][0] - before[0][2];
    // let go of a little beside it: the gap before it is as wide as the one between the other two
    let beside = before[1][2] + gap + 1.5;
    let to = 290.0 + beside - before[2][0];
    let moved = boxes(&bench.after(async |_| drag(&bench, (290.0, 70.0), (to, 70.0)).await).await?);
    let snapped = moved[2][0] - moved[1][2];
    ensure!((snapped - gap).abs() < 0.01, "{snapped} and {gap}");
    // the middle of a gap as well: both halves are alike
    let to = (moved[1][2] + moved[2][0]) / 2.0 + 1.0;
    let between = boxes(&bench.after(async |_| drag(&bench, (80.0, 75.0), (to, 87.0)).await).await?);
    let halves = [between[0][0] - between[1][2], between[2][0] - between[0][2]];
    ensure!((halves[0] - halves[1]).abs() < 0.01 && halves[0] > 0.0, "{halves:?}");
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_press_at_the_same_place_takes_the_next_one_below() -> Result<()> {
    let bench = Bench::start().await?;
    bench.draw("Box", false, (80.0, 80.0), (180.0, 170.0)).await?;
    for _ in 0..2 {
        bench.after(async |b| b.press("Copy").await).await?;
    }
    let ids = order(&bench.sheet().await?);
    let now = async || {
        let script = "return [...document.querySelectorAll('nav li button[aria-label^=Select]')].reverse().map(b => b.getAttribute('aria-pressed') === 'true')";
        let pressed: Vec<bool> = serde_json::from_value(bench.browser.script(script).await.ok()?).ok()?;
        pressed.iter().position(|p| *p)
    };
    bench.browser.keys(Key::Escape + "").await?;
    bench.browser.keys(Key::Escape + "").await?;
    until_selected(&bench, 0).await?;
    for (k, wanted) in [2, 1, 0, 2].into_iter().enumerate() {
        // two presses at the very same place would be a double one
        press_on(&bench, (128.5 + 3.0 * (k % 2) as f64, 130.0), &[]).await?;
        bench.browser.until(&format!("piece {wanted}"), async || now().await.filter(|k| *k == wanted)).await?;
    }
    ensure!(order(&bench.sheet().await?) == ids, "nothing is changed by it");
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn pieces_are_lined_up_and_spread_and_set_by_numbers() -> Result<()> {
    let bench = three_boxes().await?;
    let browser = &bench.browser;
    browser.page.action_chain().key_down(Key::Control).send_keys("a").key_up(Key::Control).perform().await?;
    until_selected(&bench, 3).await?;
    browser.keys("r").await?;
    browser.at("//button[normalize-space(.)='Top edges']").await?;
    let before = boxes(&bench.sheet().await?);
    let top = boxes(&bench.after(async |b| b.press("Top edges").await).await?);
    ensure!(top.iter().all(|b| same(b[1], 50.0)), "{top:?}");
    browser.press("The last taken").await?;
    let bottom = boxes(&bench.after(async |b| b.press("Bottom edges").await).await?);
    ensure!(bottom.iter().all(|b| same(b[3], 90.0)), "{bottom:?}");
    // equal gaps: of a size, or between the ends
    let gaps = |b: &[[f64; 4]]| [b[1][0] - b[0][2], b[2][0] - b[1][2]];
    let set = bench.after(async |b| b.press("Gap across").await).await?;
    ensure!(gaps(&boxes(&set)).iter().all(|g| same(*g, 10.0)), "{:?}", boxes(&set));
    bench.after(async |b| b.press("Undo").await).await?;
    let even = boxes(&bench.after(async |b| b.press("Even across").await).await?);
    ensure!(same(gaps(&even)[0], gaps(&even)[1]) && same(even[0][0], 60.0) && same(even[2][2], 330.0), "{even:?}");
    // as one in the middle of the sheet: they keep their places among themselves
    browser.press("The sheet").await?;
    browser.click("//label[contains(., 'All as one')]/input").await?;
    let centred = boxes(&bench.after(async |b| b.press("Centre, both ways").await).await?);
    ensure!(same(centred[0][0] + centred[2][2], 420.0) && same(gaps(&centred)[0], gaps(&even)[0]), "{centred:?}");
    // numbers about one of nine points, with units and sums
    browser.press("The bottom right").await?;
    let moved = boxes(&bench.number("Across", "40cm - 100/2").await?);
    ensure!(same(moved[2][2], 350.0), "{moved:?}");
    let narrow = boxes(&bench.number("Width", "135").await?);
    ensure!(same(narrow[2][2] - narrow[0][0], 135.0) && same(narrow[2][2], 350.0), "{narrow:?}");
    browser.click("//label[contains(., 'Width and height together')]/input").await?;
    let flat = bench.number("Height", "12").await?;
    ensure!(same(boxes(&flat)[2][2] - boxes(&flat)[0][0], 135.0), "{:?}", boxes(&flat));
    // turned, slanted, mirrored: the first one comes last
    bench.number("Turn by", "10").await?;
    bench.number("Slant by", "10").await?;
    let mirrored = boxes(&bench.after(async |b| b.press("Mirror left to right").await).await?);
    ensure!(mirrored[0][0] > mirrored[2][2], "{mirrored:?}");
    for _ in 0..11 {
        bench.after(async |b| b.press("Undo").await).await?;
        if boxes(&bench.sheet().await?) == before {
            return bench.browser.close().await;
        }
    }
    anyhow::bail!("taking it all back does not give what was there")
}

#[tokio::test(flavor = "multi_thread")]
async fn the_stack_takes_several_at_once() -> Result<()> {
    let bench = three_boxes().await?;
    let browser = &bench.browser;
    let ids = order(&bench.sheet().await?);
    let row = |k: usize| format!("(//nav//button[starts-with(@aria-label, 'Select')])[{}]", k + 1);
    let with = async |k: usize, key: Key| -> Result<()> {
        let button = browser.at(&row(k)).await?;
        let chain = browser.page.action_chain().key_down(key.clone()).click_element(&button).key_up(key);
        Ok(chain.perform().await?)
    };
    browser.click(&row(0)).await?;
    with(2, Key::Shift).await?;
    until_selected(&bench, 3).await?;
    with(1, Key::Control).await?;
    until_selected(&bench, 2).await?;
    browser.click(&row(1)).await?;
    with(2, Key::Control).await?;
    until_selected(&bench, 2).await?;
    // the two at the back go to the front, and keep their order
    let front = bench.after(async |b| b.press("To the front").await).await?;
    ensure!(order(&front) == [ids[2].clone(), ids[0].clone(), ids[1].clone()], "{:?}", order(&front));
    let back = bench.after(async |b| b.press("Backward").await).await?;
    ensure!(order(&back) == ids, "{:?}", order(&back));
    // hidden and locked together
    let hidden = bench.after(async |b| b.press("Hide").await).await?;
    ensure!(hidden["scene"]["pieces"].as_array().map(Vec::len) == Some(1) && hidden["undo"] == "hide 2 pieces");
    bench.after(async |b| b.press("Show").await).await?;
    bench.after(async |b| b.press("Lock").await).await?;
    let kept = order(&bench.sheet().await?);
    browser.keys(Key::Delete + "").await?;
    browser.reads("What is locked stays").await?;
    ensure!(order(&bench.sheet().await?) == kept);
    bench.after(async |b| b.press("Unlock").await).await?;
    // copies, once more as far away, and away with them all
    let copied = bench.after(async |b| b.press("Copy").await).await?;
    ensure!(order(&copied).len() == 5 && copied["undo"] == "copy 2 pieces", "{}", copied["undo"]);
    until_selected(&bench, 2).await?;
    let gone = bench.after(async |b| b.keys(Key::Delete + "").await).await?;
    ensure!(order(&gone) == kept && gone["undo"] == "remove 2 pieces", "{}", gone["undo"]);
    // put away, and back
    browser.press("Put away").await?;
    browser.press("Stack").await?;
    browser.at(&row(0)).await?;
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_copy_that_is_taken_away_is_taken_again_by_a_key() -> Result<()> {
    let bench = three_boxes().await?;
    let sheet = bench.sheet().await?;
    drag(&bench, (20.0, 20.0), (200.0, 200.0)).await?;
    until_selected(&bench, 2).await?;
    let from = on_screen(&bench.browser, &sheet, 80.0, 75.0).await?;
    let to = on_screen(&bench.browser, &sheet, 80.0, 155.0).await?;
    let chain = bench.browser.page.action_chain().key_down(Key::Alt).key_down(Key::Control);
    let chain = chain.move_to(from.0, from.1).click_and_hold().move_to(from.0, from.1 + 20).move_to(to.0, to.1);
    let chain = chain.release().key_up(Key::Control).key_up(Key::Alt);
    let first = boxes(&bench.after(async |_| Ok(chain.perform().await?)).await?);
    ensure!(first.len() == 5, "{first:?} {}", bench.sheet().await?["undo"]);
    until_selected(&bench, 2).await?;
    let again = boxes(&bench.after(async |b| b.keys("n").await).await?);
    let down = |all: &[[f64; 4]]| -> Option<Vec<f64>> {
        let mut tops: Vec<f64> = all.iter().filter(|b| same(b[0], 60.0)).map(|b| b[1]).collect();
        tops.sort_by(f64::total_cmp);
        Some(tops)
    };
    let tops = down(&again).context("no copies")?;
    ensure!(tops.len() == 3 && same(tops[2] - tops[1], tops[1] - tops[0]) && tops[1] > 100.0, "{tops:?}");
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn several_are_slanted_as_one_by_a_side() -> Result<()> {
    let bench = three_boxes().await?;
    bench.browser.page.action_chain().key_down(Key::Control).send_keys("a").key_up(Key::Control).perform().await?;
    until_selected(&bench, 3).await?;
    let before = boxes(&bench.sheet().await?);
    bench.browser.keys("l").await?;
    let side = bench.middle("[data-testid=slant-0]").await?;
    let slanted = boxes(&bench.after(async |b| b.drag(side, (side.0 + 60, side.1 + 4)).await).await?);
    // the upper side goes to the right, the lower one stays
    ensure!(same(slanted[1][0], before[1][0]) && slanted[1][2] > before[1][2] + 5.0, "{slanted:?} after {before:?}");
    ensure!(slanted[2][2] > before[2][2] + 20.0 && same(slanted[2][1], before[2][1]), "{slanted:?} after {before:?}");
    bench.browser.close().await
}
