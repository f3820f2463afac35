//! Where colours change inside a subject: one limb lies in front of another there, or it is a pattern.

use crate::grid::Grid;
use crate::palette::to_lab;
use crate::sheet::Colour;
use image::RgbaImage;

/// Standard deviation of the blur before differences are taken, in pixels.
const SIGMA: f32 = 1.0;
/// How far the blur reaches, in pixels.
const REACH: usize = 4;
/// Steps of the result for a hundredth of Oklab's lightness in a pixel.
const STEPS: f32 = 10.0;

/// How strongly colours change from pixel to pixel inside a subject, in steps of a thousandth of Oklab's lightness; what lies outside of it counts for
/// nothing.
///
/// `colours` is as large as `alpha`, the subject's coverage.
pub(super) fn inner_edges(colours: &RgbaImage, alpha: &Grid<f32>) -> Grid<u8> {
    let (w, h) = (alpha.width, alpha.height);
    let inside: Vec<f32> = alpha.data.iter().map(|a| f32::from(u8::from(*a > 0.5))).collect();
    let lab: Vec<[f32; 3]> = colours
        .pixels()
        .zip(&inside)
        .map(|(p, inside)| match inside {
            0.0 => [0.0; 3],
            _ => to_lab(Colour([p.0[0], p.0[1], p.0[2]])).map(|v| v as f32),
        })
        .collect();
    let weight = blurred(&inside, w);
    let mut squares = vec![0.0; w * h];
    for channel in 0..3 {
        let plane: Vec<f32> = lab.iter().map(|p| p[channel]).collect();
        let mut smooth = blurred(&plane, w);
        smooth.iter_mut().zip(&weight).for_each(|(v, weight)| *v /= weight.max(1e-3));
        for y in 1..h.saturating_sub(1) {
            for x in 1..w.saturating_sub(1) {
                let i = y * w + x;
                if inside[i] > 0.0 {
                    let across = |k: usize| smooth[k + 1] - smooth[k - 1];
                    let down = |k: usize| smooth[k + w] - smooth[k - w];
                    let dx = across(i - w) + 2.0 * across(i) + across(i + w);
                    let dy = down(i - 1) + 2.0 * down(i) + down(i + 1);
                    squares[i] += dx * dx + dy * dy;
                }
            }
        }
    }
    // a Sobel operator sums eight differences over a pixel
    let strength = |v: f32| (v.sqrt() / 8.0 * 100.0 * STEPS).min(255.0) as u8;
    Grid { width: w, height: h, data: squares.into_iter().map(strength).collect() }
}

/// A plane of so many pixels a row, blurred with a Gaussian; beyond its border is nothing.
fn blurred(plane: &[f32], width: usize) -> Vec<f32> {
    let kernel: Vec<f32> =
        (0..=2 * REACH).map(|k| (-(k as f32 - REACH as f32).powi(2) / (2.0 * SIGMA * SIGMA)).exp()).collect();
    let sum: f32 = kernel.iter().sum();
    let height = plane.len() / width.max(1);
    let mut rows = vec![0.0; plane.len()];
    for (to, from) in rows.chunks_mut(width).zip(plane.chunks(width)) {
        for (x, to) in to.iter_mut().enumerate() {
            let (first, last) = (x.saturating_sub(REACH), (x + REACH + 1).min(width));
            *to = from[first..last].iter().zip(&kernel[first + REACH - x..]).map(|(v, k)| v * k / sum).sum();
        }
    }
    let mut all = vec![0.0; plane.len()];
    for (y, to) in all.chunks_mut(width).enumerate() {
        for row in y.saturating_sub(REACH)..(y + REACH + 1).min(height) {
            let k = kernel[row + REACH - y] / sum;
            to.iter_mut().zip(&rows[row * width..]).for_each(|(to, v)| *to += k * v);
        }
    }
    all
}
