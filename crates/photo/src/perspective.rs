//! Photos in perspective: their four corners pulled away.

use crate::resize::resize;
use image::{Rgba, RgbaImage};

/// How far each corner of a picture is pulled away, as shares of its width and height; clockwise from the top left.
pub type Pull = [[f64; 2]; 4];

/// Samples along each axis of a pixel.
const SAMPLES: usize = 3;

/// The projective map of the unit square to a convex quadrilateral.
///
/// Source: P. Heckbert, "Fundamentals of Texture Mapping and Image Warping" (1989), section 2.2.3.
#[derive(Debug, Clone, Copy)]
pub struct Perspective {
    corners: [[f64; 2]; 4],
    /// Row by row; (u, v, 1) to (x, y, w).
    matrix: [[f64; 3]; 3],
    inverse: [[f64; 3]; 3],
}

impl Perspective {
    /// None where the corners do not make a convex quadrilateral.
    ///
    /// ```
    /// let wider_below = [[0.0, 0.0], [0.0, 0.0], [0.5, 0.0], [-0.5, 0.0]];
    /// let map = inky_photo::Perspective::new(&wider_below).unwrap();
    /// let [x, y] = map.map(1.0, 1.0);
    /// assert!((x - 1.5).abs() < 1e-9 && (y - 1.0).abs() < 1e-9);
    /// ```
    pub fn new(pull: &Pull) -> Option<Self> {
        let base = [[0.0, 0.0], [1.0, 0.0], [1.0, 1.0], [0.0, 1.0]];
        let q: [[f64; 2]; 4] = std::array::from_fn(|i| [base[i][0] + pull[i][0], base[i][1] + pull[i][1]]);
        let sub = |a: [f64; 2], b: [f64; 2]| [a[0] - b[0], a[1] - b[1]];
        let cross = |a: [f64; 2], b: [f64; 2]| a[0] * b[1] - a[1] * b[0];
        let turns = |i: usize| cross(sub(q[(i + 1) % 4], q[i]), sub(q[(i + 2) % 4], q[(i + 1) % 4]));
        // comparing the other way round lets no NaN through
        if !(0..4).all(|i| turns(i) > 1e-6) {
            return None;
        }
        let (d1, d2) = (sub(q[1], q[2]), sub(q[3], q[2]));
        let s = [q[0][0] - q[1][0] + q[2][0] - q[3][0], q[0][1] - q[1][1] + q[2][1] - q[3][1]];
        let det = cross(d1, d2);
        let (g, k) = (cross(s, d2) / det, cross(d1, s) / det);
        let row = |c: usize| [q[1][c] - q[0][c] + g * q[1][c], q[3][c] - q[0][c] + k * q[3][c], q[0][c]];
        let matrix = [row(0), row(1), [g, k, 1.0]];
        Some(Self { corners: q, matrix, inverse: adjugate(&matrix) })
    }

    /// From the unit square to the quadrilateral.
    pub fn map(&self, u: f64, v: f64) -> [f64; 2] {
        apply(&self.matrix, u, v)
    }

    /// From the quadrilateral back to the unit square.
    pub fn unmap(&self, x: f64, y: f64) -> [f64; 2] {
        apply(&self.inverse, x, y)
    }

    /// Left, top, right and bottom of the quadrilateral.
    pub fn bounds(&self) -> [f64; 4] {
        let fold = |c: usize, from: f64, pick: fn(f64, f64) -> f64| self.corners.iter().map(|q| q[c]).fold(from, pick);
        let (least, most) = (f64::INFINITY, f64::NEG_INFINITY);
        [fold(0, least, f64::min), fold(1, least, f64::min), fold(0, most, f64::max), fold(1, most, f64::max)]
    }
}

fn apply(m: &[[f64; 3]; 3], x: f64, y: f64) -> [f64; 2] {
    let [a, b, w] = [0, 1, 2].map(|i| m[i][0] * x + m[i][1] * y + m[i][2]);
    [a / w, b / w]
}

/// The inverse, but for a factor that a projective map does not see.
fn adjugate(m: &[[f64; 3]; 3]) -> [[f64; 3]; 3] {
    let minor = |r: usize, c: usize| {
        let (a, b, x, y) = ((r + 1) % 3, (r + 2) % 3, (c + 1) % 3, (c + 2) % 3);
        m[a][x] * m[b][y] - m[a][y] * m[b][x]
    };
    std::array::from_fn(|r| std::array::from_fn(|c| minor(c, r)))
}

/// A picture in perspective, filling the bounds of its quadrilateral and clear around it. `long` is how many pixels the long side of
/// the picture would have if it were not pulled. None where the corners make no convex quadrilateral.
///
/// The picture is brought to the size at which its largest part is seen, then each pixel takes nine samples between pixels, so that
/// parts that shrink to a third of the largest are still averaged and the edge is smooth. Colours are weighted by alpha.
pub fn in_perspective(picture: &RgbaImage, pull: &Pull, long: f64) -> Option<RgbaImage> {
    let map = Perspective::new(pull)?;
    let [x0, y0, x1, y1] = map.bounds();
    let (w, h) = (f64::from(picture.width()), f64::from(picture.height()));
    let factor = (long / w.max(h)).min(1.0);
    let side = |v: f64| (v * factor).round().clamp(1.0, 20_000.0) as u32;
    let (out_w, out_h) = (side((x1 - x0) * w), side((y1 - y0) * h));
    // the longest side of the quadrilateral says how much of the picture is seen
    let edge = |i: usize| {
        let (a, b) = (map.corners[i], map.corners[(i + 1) % 4]);
        let far = ((b[0] - a[0]) * w).hypot((b[1] - a[1]) * h);
        far / if i.is_multiple_of(2) { w } else { h }
    };
    let largest = (0..4).map(edge).fold(1.0, f64::max).min(1.0 / factor);
    let source = resize(picture, side(w * largest), side(h * largest));
    let mut out = RgbaImage::new(out_w, out_h);
    for (x, y, pixel) in out.enumerate_pixels_mut() {
        let mut sum = [0.0_f64; 4];
        for k in 0..SAMPLES * SAMPLES {
            let at = |p: u32, k: usize| f64::from(p) + (k as f64 + 0.5) / SAMPLES as f64;
            let (px, py) = (at(x, k % SAMPLES) / f64::from(out_w), at(y, k / SAMPLES) / f64::from(out_h));
            let [u, v] = map.unmap(x0 + px * (x1 - x0), y0 + py * (y1 - y0));
            if (0.0..=1.0).contains(&u) && (0.0..=1.0).contains(&v) {
                let c = between(&source, u, v);
                (0..4).for_each(|i| sum[i] += c[i]);
            }
        }
        let n = (SAMPLES * SAMPLES) as f64;
        if sum[3] > 0.0 {
            let colour = [0, 1, 2].map(|i| (sum[i] / sum[3] * 255.0).round() as u8);
            *pixel = Rgba([colour[0], colour[1], colour[2], (sum[3] / n * 255.0).round() as u8]);
        }
    }
    Some(out)
}

/// The colour between pixels, from 0 to 1 and multiplied by alpha, at a share of the width and height.
fn between(picture: &RgbaImage, u: f64, v: f64) -> [f64; 4] {
    let (w, h) = picture.dimensions();
    let (x, y) = (u * f64::from(w) - 0.5, v * f64::from(h) - 0.5);
    let (fx, fy) = (x - x.floor(), y - y.floor());
    let mut sum = [0.0; 4];
    for (dx, dy, share) in [
        (0.0, 0.0, (1.0 - fx) * (1.0 - fy)),
        (1.0, 0.0, fx * (1.0 - fy)),
        (0.0, 1.0, (1.0 - fx) * fy),
        (1.0, 1.0, fx * fy),
    ] {
        let px = (x.floor() + dx).clamp(0.0, f64::from(w - 1)) as u32;
        let py = (y.floor() + dy).clamp(0.0, f64::from(h - 1)) as u32;
        let c = picture.get_pixel(px, py).0.map(|v| f64::from(v) / 255.0);
        for i in 0..3 {
            sum[i] += share * c[i] * c[3];
        }
        sum[3] += share * c[3];
    }
    sum
}
