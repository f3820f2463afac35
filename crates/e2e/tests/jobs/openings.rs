//! Jobs about openings: shapes joined, cut, painted and baked.

use super::Job;
use super::hand::{Hand, With};
use anyhow::{Result, ensure};
use inky_e2e::steps::{bounds, contours, forms};
use serde_json::Value;
use thirtyfour::prelude::*;

pub const JOBS: &[Job] = &[
    Job { number: 9, what: "A rectangle and a triangle, joined and baked", most: 3, work: |h| Box::pin(house(h)) },
    Job {
        number: 10,
        what: "Merged, shared and cut circles, put together",
        most: 10,
        work: |h| Box::pin(swept(h, [0, 1, 2])),
    },
    Job { number: 16, what: "The same in another order", most: 10, work: |h| Box::pin(swept(h, [2, 0, 1])) },
];

async fn house(h: &mut Hand<'_>) -> Result<()> {
    h.shelf("box", (200.0, 180.0), With::Nothing).await?;
    let joined = h.shelf("triangle", (200.0, 140.0), With::Nothing).await?;
    ensure!(forms(&joined).len() == 2 && contours(&joined) == 1, "one outline of two forms");
    let baked = h.press_for("Bake the opening").await?;
    let nodes = baked["scene"]["pieces"][0]["nodes"].as_u64();
    ensure!(forms(&baked).len() == 1 && nodes.is_some_and(|n| n <= 7), "{nodes:?} nodes");
    Ok(())
}

/// The window that was made last.
fn last(bench: &Value) -> Value {
    bench["sheet"]["pieces"].as_array().and_then(|p| p.last().cloned()).unwrap_or_default()
}

/// Left and right of the opening that was made last, in mm.
fn width(bench: &Value) -> [f64; 2] {
    let bounds = bench["scene"]["pieces"].as_array().and_then(|p| p.last()).map(|p| p["bounds"].clone());
    let [l, _, r, _]: [f64; 4] = serde_json::from_value(bounds.unwrap_or_default()).unwrap_or_default();
    [l, r]
}

/// A circle and a box as one; the lens of two circles; a crescent. Shapes are 99 mm wide.
async fn figures(h: &mut Hand<'_>, order: [usize; 3]) -> Result<()> {
    let x = [70.0, 210.0, 330.0];
    for figure in order {
        let at = x[figure];
        h.shelf("ellipse", (at, 100.0), With::Nothing).await?;
        let made = match figure {
            0 => h.shelf("box", (at + 30.0, 100.0), With::Nothing).await?,
            1 => h.shelf("ellipse", (at + 40.0, 100.0), With::Ctrl).await?,
            _ => h.shelf("ellipse", (at + 30.0, 100.0), With::Alt).await?,
        };
        let [l, r] = width(&made);
        let known = [129.0, 59.0, 65.0][figure];
        ensure!((r - l - known).abs() < 8.0, "figure {figure} is {} mm wide", r - l);
        ensure!(last(&made)["kind"]["opening"]["forms"].as_array().map(Vec::len) == Some(2));
    }
    Ok(())
}

async fn swept(h: &mut Hand<'_>, order: [usize; 3]) -> Result<()> {
    figures(h, order).await?;
    let three = h.sheet().await?;
    ensure!(three["sheet"]["pieces"].as_array().map(Vec::len) == Some(3));
    // one sweep across them, and they are one figure
    h.key("j").await?;
    h.drag(&[(60.0, 100.0), (225.0, 100.0), (295.0, 100.0)], With::Nothing).await?;
    let one = h.sheet().await?;
    ensure!(
        one["sheet"]["pieces"].as_array().map(Vec::len) == Some(1) && contours(&one) == 3,
        "{} contours",
        contours(&one)
    );
    let before = bounds(&one);
    h.key(Key::Right + "").await?;
    let moved = h.sheet().await?;
    let shifted = bounds(&moved).iter().zip(before).map(|(a, b)| a - b).collect::<Vec<_>>();
    ensure!((shifted[0] - 1.0).abs() < 1e-6 && (shifted[2] - 1.0).abs() < 1e-6, "moved as one: {shifted:?}");
    h.press("Keep a copy").await?;
    h.browser().reads("is on the desk").await?;
    let all = h.server().get("/sheets").await?;
    let name = moved["sheet"]["name"].as_str().unwrap_or_default();
    let copies = all.as_array().into_iter().flatten().filter(|s| s["name"] == format!("{name}, copy")).count();
    ensure!(copies == 1 && h.sheet().await?["revision"] == moved["revision"], "the first is untouched");
    Ok(())
}
