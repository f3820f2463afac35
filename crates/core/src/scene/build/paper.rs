//! The grain of paper, as a picture that is repeated.

use crate::photo::resize;
use image::{Rgba, RgbaImage};

/// Pixels along a side of the picture at its full size: 305 to an inch, so that no pixel of it is seen in print.
const SIDE: u32 = 960;
/// The least that it is made smaller to.
const LEAST: u32 = 60;
/// Millimetres along a side of it.
pub const SIDE_MM: f64 = 80.0;

/// Grain from 0 to 1: darker and lighter by the alpha of black and white; without a seam where it is repeated.
///
/// Value noise in four octaves for the pulp (from a third of a millimetre to one centimetre), and short fibres that lie in all directions.
///
/// `side` is how many pixels are wanted along a side: for fewer than it has, it is made smaller here, so that whoever draws it need not.
pub fn paper_picture(grain: f64, side: u32) -> RgbaImage {
    let n = SIDE as usize;
    let mut level = vec![0.0_f32; n * n];
    for (cell, share) in [(4_usize, 0.35_f32), (12, 0.6), (30, 0.3), (120, 0.1)] {
        let cells = n / cell;
        for (i, v) in level.iter_mut().enumerate() {
            let (x, y) = ((i % n) as f32 / cell as f32, (i / n) as f32 / cell as f32);
            let (x0, y0) = (x as usize, y as usize);
            let (fx, fy) = (ease(x.fract()), ease(y.fract()));
            let at = |dx: usize, dy: usize| noise((x0 + dx) % cells, (y0 + dy) % cells, cell);
            let row = |dy: usize| at(0, dy) * (1.0 - fx) + at(1, dy) * fx;
            *v += share * (row(0) * (1.0 - fy) + row(1) * fy - 0.5);
        }
    }
    for fibre in 0..260 {
        let pick = |k: usize| noise(fibre, k, 7);
        let (mut x, mut y) = (pick(0) * n as f32, pick(1) * n as f32);
        let (mut turn, bent) = (pick(2) * std::f32::consts::TAU, (pick(3) - 0.5) * 0.05);
        let light = if pick(4) > 0.5 { 0.13 } else { -0.13 };
        for _ in 0..(18.0 + pick(5) * 48.0) as usize {
            let at = |v: f32| v.rem_euclid(n as f32) as usize % n;
            // as thick as two pixels
            for (dx, dy) in [(0.0, 0.0), (1.0, 0.0), (0.0, 1.0), (1.0, 1.0)] {
                level[at(y + dy) * n + at(x + dx)] += light / 2.0;
            }
            (x, y, turn) = (x + turn.cos(), y + turn.sin(), turn + bent);
        }
    }
    let whole = RgbaImage::from_fn(SIDE, SIDE, |x, y| {
        let v = level[y as usize * n + x as usize] * grain as f32 * 0.4;
        let ink = if v > 0.0 { 255 } else { 0 };
        Rgba([ink, ink, ink, (v.abs().min(1.0) * 255.0).round() as u8])
    });
    let side = side.clamp(LEAST, SIDE);
    resize(&whole, side, side)
}

/// The sides at which paper is kept ready for the screen, in pixels and falling.
pub fn paper_sides() -> impl Iterator<Item = u32> {
    std::iter::successors(Some(SIDE), |side| (*side > LEAST).then_some(side / 2))
}

fn ease(t: f32) -> f32 {
    t * t * (3.0 - 2.0 * t)
}

/// From 0 to 1, the same for the same numbers (the finaliser of MurmurHash3 by A. Appleby, public domain).
fn noise(x: usize, y: usize, seed: usize) -> f32 {
    let mut h = (x as u64).wrapping_mul(0x9e37_79b9_7f4a_7c15)
        ^ (y as u64).wrapping_mul(0xc2b2_ae3d_27d4_eb4f)
        ^ (seed as u64) << 32;
    h = (h ^ (h >> 33)).wrapping_mul(0xff51_afd7_ed55_8ccd);
    h = (h ^ (h >> 33)).wrapping_mul(0xc4ce_b9fe_1a85_ec53);
    ((h ^ (h >> 33)) >> 40) as f32 / (1_u64 << 24) as f32
}
