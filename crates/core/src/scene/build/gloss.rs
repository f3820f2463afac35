//! Gloss: light on an opening as if it were raised, wet ink.
//!
//! Computed as a picture and not by lighting filters: those look at neighbouring pixels, so that their light would change with the
//! resolution. Here heights are millimetres, and how fine the picture is follows from the relief alone: a file at any resolution shows
//! what the screen shows.

use crate::breakout::coverage;
use crate::grid::Grid;
use crate::sheet::Gloss;
use image::{Rgba, RgbaImage};
use kurbo::{Affine, BezPath, Rect, Shape};

/// Long side of the picture in pixels, at most and at least.
const LONG: (f64, f64) = (1600.0, 48.0);

/// Pixels over which the relief rises from the edge until it is flat, if the whole is not too large for that.
const RISE: f64 = 24.0;

/// The light as a picture to be laid over the opening: white where it shines, black where it is turned away, both by their alpha.
/// With it the rectangle of the sheet that it covers, in millimetres.
pub(super) fn gloss_picture(opening: &BezPath, gloss: &Gloss) -> Option<(RgbaImage, Rect)> {
    let bounds = opening.bounding_box();
    let long = bounds.width().max(bounds.height());
    if long <= 0.0 || gloss.strength <= 0.0 || gloss.reach <= 0.0 {
        return None;
    }
    // two pixels of room, so that slopes are known at the edge as well
    let scale = (long * RISE / gloss.reach).clamp(LONG.1, LONG.0) / long;
    let side = |v: f64| (v * scale).ceil() as usize + 4;
    let (w, h) = (side(bounds.width()), side(bounds.height()));
    let room = 2.0 / scale;
    let area = Rect::from_origin_size((bounds.x0 - room, bounds.y0 - room), (w as f64 / scale, h as f64 / scale));
    let to_pixels = Affine::scale(scale) * Affine::translate(-area.origin().to_vec2());
    let cover = coverage(&(to_pixels * opening), w, h);
    let reach = (gloss.reach * scale) as f32;
    let height = relief(&cover, reach);
    Some((lit(&height, &cover, gloss), area))
}

/// Heights in pixels: a quarter circle from the edge inwards, flat beyond `reach` pixels; a little smoothed where slopes meet.
fn relief(cover: &Grid<f32>, reach: f32) -> Grid<f32> {
    let far = distance_inside(cover);
    let risen = far.map(|d| {
        let left = 1.0 - (d / reach).min(1.0);
        reach * (1.0 - left * left).max(0.0).sqrt()
    });
    smoothed(&smoothed(&risen, reach * 0.12), reach * 0.12)
}

/// Each pixel's distance from the edge, in pixels; 0 outside. Exact between pixel centres (Felzenszwalb and Huttenlocher, "Distance
/// Transforms of Sampled Functions", 2012), and finer at the edge by how much of a pixel is covered.
fn distance_inside(cover: &Grid<f32>) -> Grid<f32> {
    let (w, h) = (cover.width, cover.height);
    let mut squared = cover.map(|c| if c < 0.5 { 0.0 } else { 1e12_f32 });
    for x in 0..w {
        let column: Vec<f32> = (0..h).map(|y| squared.at(x, y)).collect();
        for (y, d) in lower_envelope(&column).into_iter().enumerate() {
            squared.data[y * w + x] = d;
        }
    }
    for y in 0..h {
        let row = lower_envelope(&squared.data[y * w..][..w]);
        squared.data[y * w..][..w].copy_from_slice(&row);
    }
    Grid::from_fn(w, h, |x, y| {
        let d = squared.at(x, y).sqrt();
        // next to the edge, coverage says where in the pixel it runs
        if d < 1.5 { cover.at(x, y).max(d - 0.5).max(0.0) } else { d - 0.5 }
    })
}

/// The squared distance transform of one row.
fn lower_envelope(f: &[f32]) -> Vec<f32> {
    let n = f.len();
    let mut at = vec![0_usize; n];
    let mut from = vec![f32::NEG_INFINITY; n + 1];
    let mut k = 0;
    from[1] = f32::INFINITY;
    for q in 1..n {
        let meets = |p: usize| ((f[q] + (q * q) as f32) - (f[p] + (p * p) as f32)) / (2 * (q - p)) as f32;
        let mut s = meets(at[k]);
        while s <= from[k] && k > 0 {
            k -= 1;
            s = meets(at[k]);
        }
        k += 1;
        at[k] = q;
        from[k] = s;
        from[k + 1] = f32::INFINITY;
    }
    let mut k = 0;
    (0..n)
        .map(|q| {
            while from[k + 1] < q as f32 {
                k += 1;
            }
            let d = q as f32 - at[k] as f32;
            d * d + f[at[k]]
        })
        .collect()
}

/// A box blur with this radius in pixels, along both axes.
fn smoothed(grid: &Grid<f32>, radius: f32) -> Grid<f32> {
    // beyond the picture there is nothing more to be averaged
    let r = radius.round().clamp(1.0, grid.width.max(grid.height) as f32) as i64;
    let along = |g: &Grid<f32>, dx: i64, dy: i64| {
        let n = (2 * r + 1) as f32;
        let mut out = g.clone();
        let (lines, length) = if dx == 1 { (g.height, g.width) } else { (g.width, g.height) };
        for line in 0..lines as i64 {
            let at = |k: i64| if dx == 1 { g.clamped(k, line) } else { g.clamped(line, k) };
            let mut sum: f32 = (-r..=r).map(at).sum();
            for k in 0..length as i64 {
                let i = if dx == 1 { line * g.width as i64 + k } else { k * g.width as i64 + line };
                out.data[i as usize] = sum / n;
                sum += at(k + r + 1) - at(k - r);
            }
        }
        debug_assert!(dx + dy == 1);
        out
    };
    along(&along(grid, 1, 0), 0, 1)
}

/// Light on a relief: diffuse after Lambert, shine after Blinn ("Models of light reflection for computer synthesized pictures",
/// 1977), both as differences to what flat ink would show.
fn lit(height: &Grid<f32>, cover: &Grid<f32>, gloss: &Gloss) -> RgbaImage {
    let (turn, rise) = ((gloss.light as f32).to_radians(), (gloss.rise as f32).to_radians());
    let light = [turn.cos() * rise.cos(), turn.sin() * rise.cos(), rise.sin()];
    let half = unit([light[0], light[1], light[2] + 1.0]);
    let power = 6.0 * 24_f32.powf(gloss.shine as f32);
    let flat_shine = half[2].powf(power);
    let strength = gloss.strength as f32;
    RgbaImage::from_fn(height.width as u32, height.height as u32, |x, y| {
        let (px, py) = (i64::from(x), i64::from(y));
        if cover.at(x as usize, y as usize) <= 0.0 {
            return Rgba([0; 4]);
        }
        let slope_x = (height.clamped(px + 1, py) - height.clamped(px - 1, py)) / 2.0;
        let slope_y = (height.clamped(px, py + 1) - height.clamped(px, py - 1)) / 2.0;
        let normal = unit([-slope_x, -slope_y, 1.0]);
        let diffuse = dot(normal, light).max(0.0) - light[2];
        let shine = dot(normal, half).max(0.0).powf(power) - flat_shine;
        let white = strength * (0.45 * diffuse.max(0.0) + 0.9 * shine.max(0.0)).min(1.0);
        let black = strength * 0.75 * (-diffuse).clamp(0.0, 1.0);
        // white over black
        let alpha = white + black * (1.0 - white);
        let level = if alpha > 0.0 { white / alpha } else { 0.0 };
        let [v, a] = [level, alpha].map(|v| (v * 255.0).round() as u8);
        Rgba([v, v, v, a])
    })
}

fn dot(a: [f32; 3], b: [f32; 3]) -> f32 {
    a[0] * b[0] + a[1] * b[1] + a[2] * b[2]
}

fn unit(v: [f32; 3]) -> [f32; 3] {
    let length = dot(v, v).sqrt();
    v.map(|c| c / length)
}
