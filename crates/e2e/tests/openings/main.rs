//! Openings built from shapes, cells, contours, drawings and bends, in the real interface.

mod prints;

use anyhow::{Context, Result, ensure};
use inky_e2e::compare::{scene_pixels, screen_is_file};
use inky_e2e::steps::{bounds, bring_photo, contours, form_box, forms, newer, on_screen, path_of, rect, type_word};
use inky_e2e::{Bench, root};
use serde_json::Value;
use std::collections::BTreeSet;
use thirtyfour::prelude::*;

fn near(a: f64, b: f64) -> bool {
    (a - b).abs() < 0.6
}

#[tokio::test(flavor = "multi_thread")]
async fn shapes_cells_lines_bends_and_pulled_corners() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;

    // a lantern: a circle, and a box that is lined up with it
    bench.draw("Ellipse", false, (150.0, 60.0), (270.0, 180.0)).await?;
    bench.draw("Box", true, (100.0, 170.0), (140.0, 230.0)).await?;
    let apart = bench.sheet().await?;
    assert_eq!(contours(&apart), 2);
    bench.open_form(1).await?;
    browser.press("Align").await?;
    let lined = bench.after(async |b| b.press("Middles across").await).await?;
    let (disc, foot) = (form_box(&lined, 0), form_box(&lined, 1));
    assert!(near(disc[0] + disc[2], foot[0] + foot[2]), "{disc:?} and {foot:?}");
    assert_eq!(contours(&lined), 1, "one compound outline");
    browser.press("Close the card").await?;
    // its top corners are pulled outward, the lower ones stay
    browser.keys("p").await?;
    let corner = bench.middle("[data-testid=form-corner-0]").await?;
    let pulled = bench.after(async |b| b.drag(corner, (corner.0 - 40, corner.1)).await).await?;
    let corners = &pulled["scene"]["pieces"][0]["forms"][1]["corners"];
    let x = |c: usize| corners[c][0].as_f64().unwrap_or(0.0);
    assert!(x(0) < foot[0] - 5.0 && near(x(1), foot[2]) && near(x(3), foot[0]) && near(x(2), foot[2]), "{corners}");
    bench.undo_all().await?;

    // two circles: a leaf in two clicks
    bench.draw("Ellipse", false, (120.0, 90.0), (220.0, 190.0)).await?;
    bench.draw("Ellipse", true, (180.0, 90.0), (280.0, 190.0)).await?;
    let both = bench.sheet().await?;
    browser.press("Opening").await?;
    browser.press("Take and leave cells").await?;
    browser.reads("3 of 3 are in").await?;
    for x in [140.0, 260.0] {
        let (x, y) = on_screen(browser, &both, x, 140.0).await?;
        browser.page.action_chain().move_to(x, y).click().perform().await?;
    }
    browser.reads("1 of 3 are in").await?;
    let leaf = bench.after(async |b| b.press("Keep").await).await?;
    let [l, _, r, _] = bounds(&leaf);
    assert!(near(l, 180.0) && near(r, 220.0), "from {l} to {r}");
    // the choice stays with its cell when a circle is moved
    bench.open_form(0).await?;
    browser.press("Close the card").await?;
    let (x, y) = on_screen(browser, &leaf, 150.0, 140.0).await?;
    let moved = bench.after(async |b| b.drag((x, y), (x + 40, y)).await).await?;
    let [l2, _, r2, _] = bounds(&moved);
    assert!(near(l2, 180.0) && r2 > r + 5.0, "from {l2} to {r2}");
    bench.undo_all().await?;

    // a hull in one: with what is shared dropped, the middle cell is taken in
    bench.draw("Ellipse", false, (120.0, 90.0), (220.0, 190.0)).await?;
    bench.draw("Ellipse", true, (180.0, 90.0), (280.0, 190.0)).await?;
    // seen before it is made
    browser.click("//*[@aria-label='Join of “Ellipse”']//button[@aria-label='Drop shared']").await?;
    let hollow = browser
        .until("the join", async || {
            let now = bench.sheet().await.ok()?;
            (forms(&now)[1]["join"] == "drop_shared").then_some(now)
        })
        .await?;
    assert_eq!(hollow["undo"], "join: drop shared");
    browser.press("Opening").await?;
    browser.press("Take and leave cells").await?;
    browser.reads("2 of 3 are in").await?;
    let (x, y) = on_screen(browser, &hollow, 200.0, 140.0).await?;
    browser.page.action_chain().move_to(x, y).click().perform().await?;
    browser.reads("3 of 3 are in").await?;
    let hull = bench.after(async |b| b.press("Keep").await).await?;
    let (w, h) = (contours(&hollow), contours(&hull));
    assert!(h == 1 && w > 1, "{w} and {h} contours");
    bench.undo_all().await?;

    // a thick ring: a circle used as its line
    bench.draw("Ellipse", false, (150.0, 60.0), (270.0, 180.0)).await?;
    bench.open_form(0).await?;
    browser.press("Line").await?;
    let ring = bench.after(async |b| b.click("//label[contains(., 'line along its edge')]").await).await?;
    assert_eq!(contours(&ring), 2, "an outer and an inner edge");
    browser.press("Close the card").await?;
    bench.undo_all().await?;

    // lettering that is bent
    type_word(browser, "LANTERN").await?;
    let straight = bounds(&bench.sheet().await?);
    browser.press("Lettering").await?;
    browser.press("Bend").await?;
    let bent = bounds(&bench.after(async |b| b.press("Bow up").await).await?);
    assert!(bent[3] - bent[1] > 1.2 * (straight[3] - straight[1]), "{straight:?} became {bent:?}");
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_traced_contour_joined_and_a_print_without_its_specks() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    type_word(browser, "KITE").await?;
    let word = bench.sheet().await?;
    let [l, t, r, b] = bounds(&word);

    // a tail that hangs from the word, traced with corners and a curve
    browser.press("Add a form").await?;
    browser.press("Trace a contour").await?;
    browser.reads("Click for a corner").await?;
    let (w, h) = (r - l, b - t);
    let places = [(0.2, 0.9), (0.8, 0.9), (0.7, 1.15)];
    for (i, (fx, fy)) in places.iter().enumerate() {
        let (x, y) = on_screen(browser, &word, l + fx * w, t + fy * h).await?;
        let press = browser.page.action_chain().move_to(x, y);
        // the last node is pulled into a curve
        if i == 2 {
            press.click_and_hold().move_to(x - 30, y).move_to(x - 60, y).release().perform().await?;
        } else {
            press.click().perform().await?;
        }
    }
    browser.reads("3 nodes").await?;
    let first = bench.middle("[data-testid=node]").await?;
    browser.page.action_chain().move_to(first.0, first.1).click().perform().await?;
    browser.reads("Drag nodes and handles").await?;
    let traced = bench.after(async |b| b.press("Keep").await).await?;
    ensure!(bounds(&traced)[3] > b + 0.1 * h, "{:?} of {:?}", bounds(&traced), bounds(&word));
    assert_eq!(traced["undo"], "add contour");
    let subpath = &forms(&traced)[1]["shape"]["subpaths"][0];
    assert!(subpath["closed"] == true && subpath["nodes"][2]["smooth"] == true, "{subpath}");
    // baked into nodes, and back by undo
    browser.press("Lettering").await?;
    let baked = bench.after(async |b| b.press("Bake into nodes").await).await?;
    assert_eq!(forms(&baked)[0]["shape"]["kind"], "contour");
    let back = bench.after(async |b| b.press("Undo").await).await?;
    assert_eq!(forms(&back)[0]["shape"]["text"], "KITE");
    bench.undo_all().await?;

    // a rough ink print: its specks are dropped, a piece is picked off
    browser.press("Add a shape").await?;
    let chooser = browser.page.find(By::Css("input[aria-label='Drawing file']")).await?;
    let print = root().canonicalize()?.join("demo/drawings/lantern-print.svg");
    let before = bench.sheet().await?;
    chooser.send_keys(print.to_string_lossy()).await?;
    let whole = newer(browser, &bench.server, &before).await?;
    browser.reads("pieces,").await?;
    let all = contours(&whole);
    assert!(all > 250, "{all} contours");
    let field = browser.at("//label[contains(., 'Drop specks below')]/following-sibling::input").await?;
    let clean = bench
        .after(async |_| {
            field.send_keys(Key::Control + "a").await?;
            field.send_keys("1").await?;
            Ok(field.send_keys(Key::Enter + "").await?)
        })
        .await?;
    let kept = contours(&clean);
    assert!(kept < all - 150, "{kept} of {all} contours");
    browser.press("Pick pieces off").await?;
    browser.at("//*[@data-testid='piece']").await?;
    browser.script("document.querySelectorAll('[data-testid=piece]')[1].dispatchEvent(new MouseEvent('click', { bubbles: true }))").await?;
    browser.reads("1 of").await?;
    let picked = bench.after(async |b| b.press("Keep").await).await?;
    assert_eq!(forms(&picked)[0]["shape"]["picked_off"][0], 1);

    // drawings that are not taken in say why, and change nothing
    let at = picked["revision"].clone();
    for (svg, said) in [
        ("<svg xmlns='http://www.w3.org/2000/svg'><script>alert(1)</script></svg>", "carries a script"),
        ("<svg xmlns='http://www.w3.org/2000/svg'><image href='file:///etc/passwd'/></svg>", "outside of itself"),
        ("<svg xmlns='http://www.w3.org/2000/svg'><path d='M0 0'/></svg>", "nothing in this drawing"),
        ("no drawing", "not an SVG drawing"),
    ] {
        let code = format!(
            "const data = new DataTransfer(); data.items.add(new File([{svg:?}], 'x.svg', {{ type: 'image/svg+xml' }}));
             window.dispatchEvent(new ClipboardEvent('paste', {{ clipboardData: data, bubbles: true, cancelable: true }}))"
        );
        browser.script(&code).await?;
        browser.reads(said).await?;
    }
    let now = bench.sheet().await?;
    ensure!(now["revision"] == at, "{} became {}", at, now["revision"]);
    let pieces = now["sheet"]["pieces"].as_array().context("no pieces")?;
    assert_eq!(pieces.len(), 1);
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_painted_area_stays_soft_on_screen_and_in_the_file() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    let empty = bench.sheet().await?;
    browser.press("Add a shape").await?;
    browser.press("Paint an area").await?;
    let hardness = browser.at("//label[contains(., 'Hardness')]/following-sibling::input").await?;
    hardness.send_keys(Key::Control + "a").await?;
    hardness.send_keys("30").await?;
    hardness.send_keys(Key::Enter + "").await?;
    let stroke = async |y: f64| {
        let (a, b) = (on_screen(browser, &empty, 120.0, y).await?, on_screen(browser, &empty, 300.0, y).await?);
        browser.drag(a, b).await
    };
    stroke(120.0).await?;
    stroke(150.0).await?;
    browser.press("Take back a step").await?;
    stroke(160.0).await?;
    let soft = bench.after(async |b| b.press("Keep").await).await?;
    let strokes = forms(&soft)[0]["shape"]["strokes"].as_array().map_or(0, Vec::len);
    assert_eq!(strokes, 2);
    // across the upper stroke the colour comes and goes step by step
    let scene = scene_pixels(browser).await?;
    let per_mm = f64::from(scene.width()) / 420.0;
    let across = (90..130).map(|y| scene.get_pixel((200.0 * per_mm) as u32, (f64::from(y) * per_mm) as u32).0[1]);
    let tones: BTreeSet<u8> = across.collect();
    assert!(tones.len() > 12, "{tones:?}");
    // a clear shape cut out of it
    bench.draw("Star", true, (170.0, 110.0), (250.0, 180.0)).await?;
    bench.after(async |b| b.click("//*[@aria-label='Join of “Star”']//button[@aria-label='Cut away']").await).await?;
    screen_is_file(browser, &bench.server).await?;
    browser.click("//nav//button[starts-with(@aria-label, 'Select')]").await?;
    bench
        .after(async |b| b.click("//*[@aria-label='Join of “Star”']//button[@aria-label='Drop shared']").await)
        .await?;
    screen_is_file(browser, &bench.server).await?;

    // bent, and as a list with the star that is turned: it fades all the same
    let select = async || -> Result<()> { browser.click("//nav//button[starts-with(@aria-label, 'Select')]").await };
    select().await?;
    bench.open_form(0).await?;
    browser.press("Bend").await?;
    bench.after(async |b| b.press("Banner").await).await?;
    screen_is_file(browser, &bench.server).await?;
    select().await?;
    bench.open_form(0).await?;
    let star = browser.at("(//*[@data-form])[2]").await?;
    browser.page.action_chain().key_down(Key::Shift).click_element(&star).key_up(Key::Shift).perform().await?;
    let list = bench.after(async |b| b.press("Gather into a list").await).await?;
    assert_eq!(forms(&list)[0]["shape"]["kind"], "list");
    let turned = bench
        .after(async |b| {
            b.press("Place").await?;
            let turn = b.at("//label[contains(., 'Turn, degrees')]/following-sibling::input").await?;
            turn.send_keys(Key::Control + "a").await?;
            turn.send_keys("30").await?;
            Ok(turn.send_keys(Key::Enter + "").await?)
        })
        .await?;
    let before = path_of(&turned["scene"]["pieces"][0]);
    assert!(!before.is_empty());
    browser.press("Bend").await?;
    let bent = bench.after(async |b| b.press("Banner").await).await?;
    assert_ne!(path_of(&bent["scene"]["pieces"][0]), before);
    browser.press("Close the card").await?;
    screen_is_file(browser, &bench.server).await?;
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn cards_are_reordered_nested_switched_off_and_forms_snap() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    bench.draw("Ellipse", false, (100.0, 60.0), (180.0, 140.0)).await?;
    bench.draw("Heart", true, (200.0, 60.0), (280.0, 140.0)).await?;
    bench.draw("Star", true, (300.0, 60.0), (380.0, 140.0)).await?;
    let kinds = |bench: &Value| -> Vec<String> {
        let name = |f: &Value| f["shape"]["figure"]["figure"].as_str().unwrap_or("list").to_owned();
        forms(bench).iter().map(name).collect()
    };
    let card = async |at: usize, share: f64| -> Result<(i64, i64)> {
        let code = format!(
            "const r = document.querySelectorAll('[data-form]')[{at}].getBoundingClientRect(); return [r.left, r.top, r.width, r.height]"
        );
        let [x, y, w, h]: [f64; 4] = serde_json::from_value(browser.script(&code).await?)?;
        Ok(((x + w * share) as i64, (y + h / 2.0) as i64))
    };

    // the last card to the front, by the mouse, and one place back by the keyboard
    let (from, to) = (card(2, 0.5).await?, card(0, 0.1).await?);
    let ordered = bench.after(async |b| b.drag(from, to).await).await?;
    assert_eq!(kinds(&ordered), ["star", "ellipse", "heart"]);
    browser.script("document.querySelectorAll('[data-form]')[0].focus()").await?;
    let back = bench
        .after(async |b| {
            let held = b.page.action_chain().key_down(Key::Alt).key_down(Key::Right);
            Ok(held.key_up(Key::Right).key_up(Key::Alt).perform().await?)
        })
        .await?;
    assert_eq!(kinds(&back), ["ellipse", "star", "heart"]);

    // one card onto another: both are nested, and spread out again
    let (from, to) = (card(2, 0.5).await?, card(1, 0.5).await?);
    let nested = bench.after(async |b| b.drag(from, to).await).await?;
    assert_eq!(kinds(&nested), ["ellipse", "list"]);
    bench.open_form(1).await?;
    let spread = bench.after(async |b| b.press("Spread the list out").await).await?;
    assert_eq!(kinds(&spread), ["ellipse", "star", "heart"]);

    // switched off, and removed by key
    bench.open_form(2).await?;
    let off = bench.after(async |b| b.press("Switch off").await).await?;
    assert!(forms(&off)[2]["off"] == true && contours(&off) == 2);
    browser.press("Close the card").await?;
    let removed = bench.after(async |b| b.keys(Key::Delete + "").await).await?;
    assert_eq!(kinds(&removed), ["ellipse", "star"]);

    // a join is seen before it is chosen, and nothing is kept
    let before = bench.sheet().await?;
    let choice = browser.at("//*[@aria-label='Join of “Star”']//button[@aria-label='Keep shared']").await?;
    // a hand moves more than once
    browser.page.action_chain().move_to_element_center(&choice).move_by_offset(4, 2).perform().await?;
    browser
        .until("the join to be seen", async || {
            let shown =
                "return document.querySelector('[data-testid=scene] [data-piece]')?.getBoundingClientRect().width ?? 0";
            let now = browser.script(shown).await.ok()?;
            (now.as_f64()? < 1.0).then_some(())
        })
        .await?;
    let away = on_screen(browser, &before, 20.0, 20.0).await?;
    browser.page.action_chain().move_to(away.0, away.1).perform().await?;
    assert_eq!(bench.sheet().await?["revision"], before["revision"]);

    // dragged nearly level with the other one, a form snaps to it, and a line says so
    bench.open_form(1).await?;
    browser.press("Close the card").await?;
    let (x, y) = on_screen(browser, &before, 340.0, 105.0).await?;
    let [_, _, width, _] = rect(browser, "[data-testid=scene]").await?;
    let zoom = width / 420.0;
    browser
        .page
        .action_chain()
        .move_to(x, y)
        .click_and_hold()
        .move_to(x, y + 20)
        .move_to(x + 9, y + 42)
        .perform()
        .await?;
    // 42 pixels down, the middle of the star is within reach of nothing; its top comes near the middle of the ellipse at 40 mm
    let near = (40.0 * zoom) as i64 - 2;
    browser.page.action_chain().move_to(x + 9, y + near).perform().await?;
    browser.at("//*[local-name()='g' and @data-testid='snap-line']").await?;
    let snapped = bench.after(async |b| Ok(b.page.action_chain().release().perform().await?)).await?;
    let (disc, star) = (form_box(&snapped, 0), form_box(&snapped, 1));
    assert!((star[1] - (disc[1] + disc[3]) / 2.0).abs() < 0.01, "{star:?} beside {disc:?}");
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_contour_follows_the_photo_and_steps_inside() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    let laid = bench.after(async |b| bring_photo(b, "Bring in a photo", "demo/photos/balloon.jpg").await).await?;
    browser.keys(Key::Escape + "").await?;

    // two places on the balloon's edge, from the exact matte of the picture
    let matte = image::open(root().join("demo/photos/balloon.alpha.png"))?.into_luma8();
    let (width, height) = matte.dimensions();
    let inside = |x: u32, y: u32| matte.get_pixel(x, y).0[0] > 127;
    let left_end = |y: u32| (0..width).find(|&x| inside(x, y)).map(|x| (f64::from(x), f64::from(y)));
    let top = (0..height).find(|&y| left_end(y).is_some()).context("an empty matte")?;
    let places = [left_end(top + height / 6), left_end(top + height / 3)];
    let view = &laid["scene"]["pieces"][0]["photos"][0];
    let corners: [[f64; 2]; 4] = serde_json::from_value(view["corners"].clone())?;
    let scale = (corners[1][0] - corners[0][0]) / f64::from(width);
    let on_sheet = |(x, y): (f64, f64)| (corners[0][0] + x * scale, corners[0][1] + y * scale);

    browser.press("Add a shape").await?;
    browser.press("Trace a contour").await?;
    browser.click("//label[contains(., 'edge')]/input[@type='checkbox']").await?;
    for place in places {
        let (x, y) = on_sheet(place.context("no edge at this height")?);
        let (x, y) = on_screen(browser, &laid, x, y).await?;
        browser.page.action_chain().move_to(x, y).click().perform().await?;
    }
    browser
        .until("the edge between the two places", async || {
            let nodes = browser.script("return document.querySelectorAll('[data-testid=node]').length").await.ok()?;
            (nodes.as_u64() > Some(2)).then_some(())
        })
        .await?;
    // closed over the middle of the balloon
    let middle = on_sheet((f64::from(width) / 2.0, f64::from(top + height / 4)));
    let (x, y) = on_screen(browser, &laid, middle.0, middle.1).await?;
    browser.click("//label[contains(., 'edge')]/input[@type='checkbox']").await?;
    browser.page.action_chain().move_to(x, y).click().perform().await?;
    let first = bench.middle("[data-testid=node]").await?;
    browser.page.action_chain().move_to(first.0, first.1).click().perform().await?;
    let traced = bench.after(async |b| b.press("Keep").await).await?;
    let window = &traced["sheet"]["pieces"][1]["kind"]["opening"]["forms"][0];
    let pose = |key: &str| window["pose"][key].as_f64().unwrap_or(0.0);
    let nodes = window["shape"]["subpaths"][0]["nodes"].as_array().cloned().unwrap_or_default();
    ensure!(nodes.len() > 4, "{} nodes", nodes.len());
    // but for the node in the middle, all of them lie on the edge of the matte
    let near_edge = nodes.iter().filter(|n| {
        let at = |key: &str, origin: f64| (n[key].as_f64().unwrap_or(0.0) + pose(key) - origin) / scale;
        let (x, y) = (at("x", corners[0][0]), at("y", corners[0][1]));
        let seen = |dx: f64| {
            inside((x + dx).clamp(0.0, f64::from(width - 1)) as u32, y.clamp(0.0, f64::from(height - 1)) as u32)
        };
        let reach = 12.0;
        !seen(-reach) && seen(reach)
    });
    let near_edge = near_edge.count();
    ensure!(near_edge * 10 >= (nodes.len() - 1) * 8, "{near_edge} of {} nodes lie on the edge", nodes.len());

    // all of its edge two millimetres inwards
    bench.open_form(0).await?;
    let field = browser.at("//label[contains(., 'Width')]/following-sibling::input").await?;
    field.send_keys(Key::Control + "a").await?;
    field.send_keys("2").await?;
    field.send_keys(Key::Enter + "").await?;
    let span = |bench: &Value| -> [f64; 4] {
        serde_json::from_value(bench["scene"]["pieces"][1]["bounds"].clone()).unwrap_or_default()
    };
    let before = span(&bench.sheet().await?);
    let inner = span(&bench.after(async |b| b.press("Step inside").await).await?);
    ensure!(inner[0] > before[0] + 1.8 && inner[3] < before[3] - 1.8, "{before:?} became {inner:?}");
    bench.browser.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn the_keyboard_paints_and_forms_are_spread() -> Result<()> {
    let bench = Bench::start().await?;
    let browser = &bench.browser;
    browser.press("Add a shape").await?;
    browser.press("Paint an area").await?;
    // the brush is set down, drawn to the right by its own size eight times, and lifted
    browser.keys(" ").await?;
    browser.at("//*[local-name()='g' and @data-brush='down']").await?;
    for _ in 0..8 {
        browser
            .page
            .action_chain()
            .key_down(Key::Shift)
            .key_down(Key::Right)
            .key_up(Key::Right)
            .key_up(Key::Shift)
            .perform()
            .await?;
    }
    browser.keys(" ").await?;
    browser.at("//*[local-name()='g' and @data-brush='up']").await?;
    let painted = bench.after(async |b| b.press("Keep").await).await?;
    let strokes = forms(&painted)[0]["shape"]["strokes"].clone();
    assert_eq!(strokes[0]["points"].as_array().map(Vec::len), Some(9));
    let (size, [l, t, r, b]) = (strokes[0]["size"].as_f64().unwrap_or(0.0), bounds(&painted));
    assert!(near(b - t, size) && (r - l > 6.0 * size), "{size} mm wide, {l} to {r}, {t} to {b}");
    bench.undo_all().await?;

    // three boxes at uneven distances
    bench.draw("Box", false, (60.0, 60.0), (100.0, 120.0)).await?;
    bench.draw("Box", true, (110.0, 70.0), (150.0, 130.0)).await?;
    bench.draw("Box", true, (300.0, 50.0), (340.0, 110.0)).await?;
    browser.script("document.querySelectorAll('[data-form]')[0].click()").await?;
    for at in [2, 3] {
        let card = browser.at(&format!("(//*[@data-form])[{at}]")).await?;
        browser.page.action_chain().key_down(Key::Shift).click_element(&card).key_up(Key::Shift).perform().await?;
    }
    browser.press("Align").await?;
    let spread = bench.after(async |b| b.press("Spread evenly across").await).await?;
    let boxes: Vec<[f64; 4]> = (0..3).map(|k| form_box(&spread, k)).collect();
    let (first, second) = (boxes[1][0] - boxes[0][2], boxes[2][0] - boxes[1][2]);
    assert!(near(first, second) && near(boxes[2][2], 340.0), "{boxes:?}");
    bench.browser.close().await
}
