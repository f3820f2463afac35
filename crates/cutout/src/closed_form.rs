//! Closed-form matting on the unknown band only.
//!
//! A. Levin, D. Lischinski, Y. Weiss, "A Closed-Form Solution to Natural Image Matting" (PAMI 2008): windows of 3 x 3
//! pixels, the matting Laplacian as 25 stencil values for each unknown pixel, solved by conjugate gradients with a
//! Jacobi preconditioner. A small pull to a prior (the binary mask, or the matte from a smaller size) keeps flat
//! regions from drifting.

use crate::grid::Grid;
use crate::mixture::Rgb;
use crate::{Cancelled, Watch};
use rayon::prelude::*;

/// What the solver is given besides the picture and the trimap.
pub(crate) struct Matting<'a> {
    /// Pulls the unknown pixels, with `pull` as weight.
    pub prior: &'a Grid<f32>,
    pub pull: f32,
    /// Where to start; the prior if there is nothing better.
    pub start: &'a Grid<f32>,
    pub rounds: usize,
}

const EPSILON: f32 = 1e-7;
const TOLERANCE: f64 = 1e-4;
/// Pixels of border around the padded grid, so that the stencil never leaves it.
const PAD: usize = 2;
const STENCIL: usize = 25;

/// The matte: `trimap` where it is 0 or 1, computed where it is ½. Colours in 0..255.
pub(crate) fn closed_form(
    colours: &Grid<Rgb>,
    trimap: &Grid<f32>,
    matting: &Matting<'_>,
    watch: &dyn Watch,
) -> Result<Grid<f32>, Cancelled> {
    let unknown: Vec<usize> =
        (0..trimap.data.len()).filter(|&i| trimap.data[i] > 0.0 && trimap.data[i] < 1.0).collect();
    if unknown.is_empty() {
        return Ok(trimap.clone());
    }
    let (w, h) = (trimap.width, trimap.height);
    let stride = w + 2 * PAD;
    let padded = |i: usize| (i / w + PAD) * stride + i % w + PAD;
    let mut row_of = vec![u32::MAX; trimap.data.len()];
    for (row, &i) in unknown.iter().enumerate() {
        row_of[i] = row as u32;
    }
    let rows = laplacian(colours, &unknown, &row_of);
    let offsets: [isize; STENCIL] =
        std::array::from_fn(|k| (k as isize / 5 - 2) * stride as isize + k as isize % 5 - 2);

    let mut x = vec![0.0_f32; stride * (h + 2 * PAD)];
    let mut known = x.clone();
    for i in 0..trimap.data.len() {
        if row_of[i] == u32::MAX {
            known[padded(i)] = trimap.data[i];
        }
        x[padded(i)] = if row_of[i] == u32::MAX { trimap.data[i] } else { matting.start.data[i] };
    }
    let at: Vec<usize> = unknown.iter().map(|&i| padded(i)).collect();
    let apply = |v: &[f32], q: usize| -> f32 {
        let row = &rows[q];
        (0..STENCIL).map(|k| row[k] * v[at[q].wrapping_add_signed(offsets[k])]).sum()
    };
    let pull = matting.pull;
    let n = unknown.len();

    // b = pull * prior − L_uk x_k, r = b − (L_uu + pull) x_u
    let right: Vec<f32> =
        (0..n).into_par_iter().map(|q| pull * matting.prior.data[unknown[q]] - apply(&known, q)).collect();
    let goal = TOLERANCE * TOLERANCE * right.iter().map(|b| f64::from(*b).powi(2)).sum::<f64>().max(1e-30);
    let mut r: Vec<f32> = (0..n)
        .into_par_iter()
        .map(|q| pull * matting.prior.data[unknown[q]] - apply(&x, q) - pull * x[at[q]])
        .collect();
    let inverse: Vec<f32> = rows.par_iter().map(|row| 1.0 / (row[STENCIL / 2] + pull).max(1e-12)).collect();
    let mut direction = vec![0.0_f32; x.len()];
    let mut rz = 0.0_f64;
    for q in 0..n {
        let z = r[q] * inverse[q];
        direction[at[q]] = z;
        rz += f64::from(r[q]) * f64::from(z);
    }
    let mut image = vec![0.0_f32; n];
    for round in 0..matting.rounds {
        if round % 16 == 0 {
            watch.go_on()?;
        }
        image.par_iter_mut().with_min_len(4096).enumerate().for_each(|(q, out)| {
            *out = apply(&direction, q) + pull * direction[at[q]];
        });
        let curve: f64 = (0..n).map(|q| f64::from(image[q]) * f64::from(direction[at[q]])).sum();
        if curve <= 0.0 {
            break;
        }
        let step = (rz / curve) as f32;
        let (mut rr, mut next) = (0.0_f64, 0.0_f64);
        for q in 0..n {
            x[at[q]] += step * direction[at[q]];
            r[q] -= step * image[q];
            rr += f64::from(r[q]).powi(2);
            next += f64::from(r[q]).powi(2) * f64::from(inverse[q]);
        }
        if rr < goal {
            break;
        }
        let beta = (next / rz) as f32;
        rz = next;
        for q in 0..n {
            direction[at[q]] = r[q] * inverse[q] + beta * direction[at[q]];
        }
    }
    Ok(Grid { width: w, height: h, data: (0..w * h).map(|i| x[padded(i)].clamp(0.0, 1.0)).collect() })
}

/// The rows of the matting Laplacian for the unknown pixels, each as a 5 x 5 stencil around its pixel.
fn laplacian(colours: &Grid<Rgb>, unknown: &[usize], row_of: &[u32]) -> Vec<[f32; STENCIL]> {
    let (w, h) = (colours.width, colours.height);
    let mut rows = vec![[0.0_f32; STENCIL]; unknown.len()];
    // every window that touches an unknown pixel, once
    let mut window = vec![false; w * h];
    for &i in unknown {
        let (x, y) = (i % w, i / w);
        for cy in y.saturating_sub(1).max(1)..=(y + 1).min(h.saturating_sub(2)) {
            for cx in x.saturating_sub(1).max(1)..=(x + 1).min(w.saturating_sub(2)) {
                window[cy * w + cx] = true;
            }
        }
    }
    for centre in (0..w * h).filter(|&i| window[i]) {
        let (x, y) = (centre % w, centre / w);
        let pixel = |k: usize| (y + k / 3 - 1) * w + x + k % 3 - 1;
        let mut c: [[f32; 3]; 9] = std::array::from_fn(|k| colours.data[pixel(k)].map(|v| v / 255.0));
        for ch in 0..3 {
            let mean = c.iter().map(|p| p[ch]).sum::<f32>() / 9.0;
            c.iter_mut().for_each(|p| p[ch] -= mean);
        }
        let cov = |i: usize, j: usize| c.iter().map(|p| f64::from(p[i] * p[j])).sum::<f64>() / 9.0;
        let e = f64::from(EPSILON) / 9.0;
        let inverse = invert([cov(0, 0) + e, cov(0, 1), cov(0, 2), cov(1, 1) + e, cov(1, 2), cov(2, 2) + e]);
        for p in 0..9 {
            let row = row_of[pixel(p)];
            if row == u32::MAX {
                continue;
            }
            let u = [
                inverse[0] * c[p][0] + inverse[1] * c[p][1] + inverse[2] * c[p][2],
                inverse[1] * c[p][0] + inverse[3] * c[p][1] + inverse[4] * c[p][2],
                inverse[2] * c[p][0] + inverse[4] * c[p][1] + inverse[5] * c[p][2],
            ];
            for r in 0..9 {
                let same = if p == r { 1.0 } else { 0.0 };
                let v = same - (1.0 + u[0] * c[r][0] + u[1] * c[r][1] + u[2] * c[r][2]) / 9.0;
                rows[row as usize][(r / 3 + 2 - p / 3) * 5 + r % 3 + 2 - p % 3] += v;
            }
        }
    }
    rows
}

/// Inverse of a symmetric 3 x 3 matrix given as xx, xy, xz, yy, yz, zz.
fn invert([a, b, d, e, f, g]: [f64; 6]) -> [f32; 6] {
    let det = a * (e * g - f * f) - b * (b * g - d * f) + d * (b * f - d * e);
    [e * g - f * f, d * f - b * g, b * f - d * e, a * g - d * d, b * d - a * f, a * e - b * b].map(|v| (v / det) as f32)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Unwatched;

    #[test]
    fn a_blend_of_two_colours_gets_its_own_shares() {
        let (front, back) = ([220.0, 60.0, 40.0], [30.0, 80.0, 200.0]);
        let truth = Grid::from_fn(40, 20, |x, _| ((x as f32 - 14.0) / 12.0).clamp(0.0, 1.0));
        // a little grain, as every photo has it
        let colours = Grid::from_fn(40, 20, |x, y| {
            let a = truth.at(x, y);
            std::array::from_fn(|k| a * front[k] + (1.0 - a) * back[k] + ((x * 7 + y * 13 + k * 5) % 5) as f32 - 2.0)
        });
        let trimap = Grid::from_fn(40, 20, |x, _| {
            if x < 10 {
                0.0
            } else if x > 30 {
                1.0
            } else {
                0.5
            }
        });
        let prior = truth.map(|a| if a > 0.5 { 1.0 } else { 0.0 });
        let matting = Matting { prior: &prior, pull: 1e-4, start: &prior, rounds: 2000 };
        let found = closed_form(&colours, &trimap, &matting, &Unwatched).unwrap();
        let worst = found.data.iter().zip(&truth.data).map(|(a, b)| (a - b).abs()).fold(0.0, f32::max);
        assert!(worst < 0.06, "{worst}");
    }
}
