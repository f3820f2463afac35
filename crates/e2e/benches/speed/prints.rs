//! Frames while forms of a rough print are dragged.

use super::{frames_of_drag, line};
use anyhow::Result;
use inky_e2e::{Browser, Server, root, steps::rect};
use serde_json::{Value, json};
use uuid::Uuid;

pub async fn measure(server: &Server, browser: &Browser) -> Result<()> {
    for photo in [false, true] {
        let (sheet, nodes, piece) = printed_sheet(server).await?;
        if photo {
            let (_, card) = server
                .upload("photos", "kite.jpg", std::fs::read(root().join("demo/photos/octopus-kite.jpg"))?)
                .await?;
            let edit = json!({ "edit": "add_photo", "piece": piece, "fill": Uuid::new_v4(), "photo": card["id"] });
            let body = json!({ "base": 3, "request": Uuid::new_v4(), "gesture": null, "edits": [edit] });
            server.post(&format!("/sheets/{sheet}/edits"), body).await?;
        }
        let with = if photo { "with a photo in it" } else { "in ink" };
        for (what, card) in [("a shape over it", 2), ("itself", 1)] {
            browser.page.goto(format!("{}/sheet/{sheet}", server.address)).await?;
            let frames = dragged(browser, card).await?;
            line(&format!("frames while a print of {nodes} nodes {with} is dragged: {what}"), frames, "p95 < 33");
        }
    }
    Ok(())
}

/// A sheet with a rough print of 300 blots and an ellipse in one opening, how many nodes the print has, and the window.
async fn printed_sheet(server: &Server) -> Result<(String, u64, Uuid)> {
    let mut state = 7_u64;
    let mut next = move || {
        // a linear congruential generator (Knuth's MMIX): the same print on every machine
        state = state.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (state >> 33) as f64 / (1_u64 << 31) as f64
    };
    let mut path = String::new();
    for _ in 0..300 {
        let (x, y, r) = (next() * 400.0, next() * 500.0, 3.0 + 9.0 * next() * next());
        let ring: Vec<[f64; 2]> = (0..70)
            .map(|k| {
                let (turn, far) = (f64::from(k) * std::f64::consts::TAU / 70.0, r * (0.85 + 0.3 * next()));
                [x + far * turn.cos(), y + far * turn.sin()]
            })
            .collect();
        // a smooth curve through the points (Catmull and Rom)
        let at = |k: usize| ring[k % ring.len()];
        path.push_str(&format!("M{:.3},{:.3}", ring[0][0], ring[0][1]));
        for k in 0..ring.len() {
            let (z, a, b, c) = (at(k + ring.len() - 1), at(k), at(k + 1), at(k + 2));
            let (p, q) = ([0, 1].map(|i| a[i] + (b[i] - z[i]) / 6.0), [0, 1].map(|i| b[i] - (c[i] - a[i]) / 6.0));
            path.push_str(&format!("C{:.3},{:.3} {:.3},{:.3} {:.3},{:.3}", p[0], p[1], q[0], q[1], b[0], b[1]));
        }
        path.push('Z');
    }
    let svg = format!("<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 400 500'><path d='{path}'/></svg>");
    let (_, card) = server.upload("drawings", "print.svg", svg.into_bytes()).await?;
    let nodes = card["pieces"].as_array().into_iter().flatten().filter_map(|p| p["nodes"].as_u64()).sum();
    let sheet = server.new_sheet("Print").await?;
    let piece = Uuid::new_v4();
    let form = |kind: Value, size: f64| {
        json!({ "id": Uuid::new_v4(), "join": "add", "off": false, "shape": kind,
            "pose": { "x": 210.0, "y": 148.0, "turn": 0.0, "slant": 0.0, "wide": size, "tall": size } })
    };
    let print = form(json!({ "kind": "drawing", "drawing": card["id"], "specks": 0.0 }), 2.0);
    let shape = json!({ "kind": "basic", "width": 60.0, "height": 40.0, "figure": { "figure": "ellipse" } });
    for (base, edit) in [
        json!({ "edit": "add_window", "piece": piece, "fill": Uuid::new_v4(), "form": print }),
        json!({ "edit": "opening", "piece": piece, "change": "add_form", "form": form(shape, 1.0) }),
    ]
    .into_iter()
    .enumerate()
    {
        let body = json!({ "base": base + 1, "request": Uuid::new_v4(), "gesture": null, "edits": [edit] });
        server.post(&format!("/sheets/{sheet}/edits"), body).await?;
    }
    Ok((sheet, nodes, piece))
}

/// Frames, in milliseconds, while the form of the recipe's `card` (from 1) is dragged about the middle of the sheet.
async fn dragged(browser: &Browser, card: usize) -> Result<(f64, f64)> {
    browser.button("Deliver").await?;
    let scene = rect(browser, "[data-testid=scene]").await?;
    let (x, y) = ((scene[0] + scene[2] / 2.0) as i64, (scene[1] + scene[3] / 2.0) as i64);
    browser.page.action_chain().move_to(x, y).click().perform().await?;
    browser.click(&format!("(//button[@data-form])[{card}]")).await?;
    // the form stays held; the sheet is where it was before the card took its room
    browser.press("Close the card").await?;
    browser.kept().await?;
    frames_of_drag(browser, x, y).await
}
