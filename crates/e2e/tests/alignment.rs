//! Lining forms up and snapping, in the real interface: where things come to lie, to a tenth of a millimetre.

use anyhow::Result;
use inky_e2e::Bench;
use inky_e2e::steps::{bounds, form_box, on_screen};
use thirtyfour::prelude::*;

fn same(a: f64, b: f64) -> bool {
    (a - b).abs() < 0.1
}

/// Holds the form at a place of the recipe, beside those that are held already if `too`.
async fn hold(bench: &Bench, at: usize, too: bool) -> Result<()> {
    let card = bench.browser.at(&format!("(//*[@data-form])[{}]", at + 1)).await?;
    let chain = bench.browser.page.action_chain();
    let chain = if too {
        chain.key_down(Key::Shift).click_element(&card).key_up(Key::Shift)
    } else {
        chain.click_element(&card)
    };
    Ok(chain.perform().await?)
}

/// The place of an edge or middle in a box of left, top, right, bottom.
fn place(edge: &str, [l, t, r, b]: [f64; 4]) -> f64 {
    match edge {
        "Left edges" => l,
        "Middles across" => (l + r) / 2.0,
        "Right edges" => r,
        "Top edges" => t,
        "Middles down" => (t + b) / 2.0,
        _ => b,
    }
}

const EDGES: [&str; 6] = ["Left edges", "Middles across", "Right edges", "Top edges", "Middles down", "Bottom edges"];

#[tokio::test(flavor = "multi_thread")]
async fn every_edge_lines_up_with_everything_it_can() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    bench.draw("Box", false, (60.0, 50.0), (130.0, 90.0)).await?;
    bench.draw("Ellipse", true, (210.0, 130.0), (240.0, 200.0)).await?;
    bench.draw("Star", true, (300.0, 40.0), (380.0, 120.0)).await?;

    // one form with the sheet, and with the other forms
    hold(&bench, 1, false).await?;
    browser.press("Align").await?;
    for with in ["The sheet", "The other forms"] {
        for edge in EDGES {
            browser.press(with).await?;
            let before = bench.sheet().await?;
            let after = bench.after(async |b| b.press(edge).await).await?;
            let others = [form_box(&before, 0), form_box(&before, 2)];
            let of = if with == "The sheet" {
                [0.0, 0.0, 420.0, 297.0]
            } else {
                let [a, b] = others;
                [a[0].min(b[0]), a[1].min(b[1]), a[2].max(b[2]), a[3].max(b[3])]
            };
            let (was, now) = (form_box(&before, 1), form_box(&after, 1));
            assert!(same(place(edge, now), place(edge, of)), "{edge} with {with}: {was:?} became {now:?} for {of:?}");
            assert!(same(now[2] - now[0], was[2] - was[0]) && same(now[3] - now[1], was[3] - was[1]), "{edge}");
            // it moves along one axis only, and nothing else moves
            let still = if EDGES[..3].contains(&edge) { 1 } else { 0 };
            assert!(same(was[still], now[still]), "{edge} with {with}: {was:?} became {now:?}");
            assert_eq!([form_box(&after, 0), form_box(&after, 2)], others, "{edge} with {with}");
            bench.after(async |b| b.press("Undo").await).await?;
        }
    }

    // several with one another, and with the one held last, which stays
    browser.press("Close the card").await?;
    hold(&bench, 0, false).await?;
    hold(&bench, 1, true).await?;
    hold(&bench, 2, true).await?;
    browser.press("Align").await?;
    for edge in ["Left edges", "Bottom edges"] {
        browser.press("One another").await?;
        let before = bench.sheet().await?;
        let boxes: Vec<[f64; 4]> = (0..3).map(|k| form_box(&before, k)).collect();
        let outermost =
            boxes.iter().map(|b| place(edge, *b)).reduce(if edge == "Left edges" { f64::min } else { f64::max });
        let after = bench.after(async |b| b.press(edge).await).await?;
        // one press is one step, however many forms it moves
        let settled = browser
            .until("all forms to be lined up", async || {
                let now = bench.sheet().await.ok()?;
                (0..3).all(|k| same(place(edge, form_box(&now, k)), outermost.unwrap_or(0.0))).then_some(now)
            })
            .await?;
        assert_eq!(settled["undo"], after["undo"]);
        bench.after(async |b| b.press("Undo").await).await?;
        let back = bench.sheet().await?;
        assert_eq!((0..3).map(|k| form_box(&back, k)).collect::<Vec<_>>(), boxes, "one step back");

        browser.press("The form held last").await?;
        bench.after(async |b| b.press(edge).await).await?;
        browser
            .until("all forms to lie where the last one does", async || {
                let now = bench.sheet().await.ok()?;
                (0..3).all(|k| same(place(edge, form_box(&now, k)), place(edge, boxes[2]))).then_some(())
            })
            .await?;
        bench.after(async |b| b.press("Undo").await).await?;
    }
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_window_snaps_to_the_sheet_unless_it_is_told_not_to() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    bench.draw("Box", false, (60.0, 60.0), (120.0, 100.0)).await?;
    browser.keys(Key::Escape + "").await?;
    let sheet = bench.sheet().await?;
    let zoom = {
        let (a, b) = (on_screen(browser, &sheet, 0.0, 0.0).await?, on_screen(browser, &sheet, 400.0, 0.0).await?);
        (b.0 - a.0) as f64 / 400.0
    };

    // let go of three pixels beside the middle of the sheet, both ways
    let from = on_screen(browser, &sheet, 90.0, 80.0).await?;
    let to = on_screen(browser, &sheet, 210.0, 148.5).await?;
    let snapped = bounds(&bench.after(async |b| b.drag(from, (to.0 + 3, to.1 - 3)).await).await?);
    assert!(same(snapped[0], 180.0) && same(snapped[1], 128.5), "{snapped:?}");
    assert_eq!(
        browser.script("return document.querySelectorAll('[data-testid=snap-line]').length").await?,
        0,
        "guides are gone"
    );
    bench.after(async |b| b.press("Undo").await).await?;

    // with Ctrl it lies where the hand left it
    let chain = browser.page.action_chain().key_down(Key::Control).move_to(from.0, from.1).click_and_hold();
    let chain = chain.move_to(from.0 + 10, from.1 + 10).move_to(to.0 + 3, to.1 - 3).release().key_up(Key::Control);
    let free = bounds(&bench.after(async |_| Ok(chain.perform().await?)).await?);
    assert!(!same(free[0], 180.0) && (free[0] - 180.0 - 3.0 / zoom).abs() < 1.5 / zoom, "{free:?}");
    bench.after(async |b| b.press("Undo").await).await?;

    // guides say what it lies on while the hand still holds it; Escape puts it back
    let chain = browser.page.action_chain().move_to(from.0, from.1).click_and_hold();
    chain.move_to(from.0 + 10, from.1 + 10).move_to(to.0 + 2, to.1 + 40).perform().await?;
    browser.at("//*[@data-testid='snap-line'][contains(., 'middle of the sheet')]").await?;
    browser.keys(Key::Escape + "").await?;
    browser.page.action_chain().release().perform().await?;
    let back = bench.sheet().await?;
    assert_eq!(bounds(&back), bounds(&sheet));
    assert!(back["undo"] == sheet["undo"], "{} and {}", back["undo"], sheet["undo"]);
    bench.browser.close().await
}
