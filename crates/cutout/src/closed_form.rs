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
pub struct Matting<'a> {
    /// Pulls the unknown pixels, with `pull` as weight.
    pub prior: &'a Grid<f32>,
    pub pull: f32,
    /// Where to start; the prior if there is nothing better.
    pub start: &'a Grid<f32>,
    /// Unknown pixels that are solved already, and stay as they are where it starts.
    pub held: Option<&'a Grid<bool>>,
    pub rounds: usize,
    /// Where to stop: residual over right-hand side.
    pub tolerance: f64,
}

/// The tolerance of what is delivered; ten times that would be seen.
pub(crate) const FINE: f64 = 1e-4;
/// The tolerance of what is shown while strokes are drawn.
pub(crate) const QUICK: f64 = 1e-3;

const EPSILON: f32 = 1e-7;
/// Pixels of border around the padded grid, so that the stencil never leaves it.
const PAD: usize = 2;
const STENCIL: usize = 25;

/// The matte: `trimap` where it is 0 or 1, computed where it is ½. Colours in 0..255.
pub fn closed_form(
    colours: &Grid<Rgb>,
    trimap: &Grid<f32>,
    matting: &Matting<'_>,
    watch: &dyn Watch,
) -> Result<Grid<f32>, Cancelled> {
    let is_open = |i: usize| trimap.data[i] > 0.0 && trimap.data[i] < 1.0;
    let is_held = |i: usize| matting.held.is_some_and(|held| held.data[i]);
    let unknown: Vec<usize> = (0..trimap.data.len()).filter(|&i| is_open(i) && !is_held(i)).collect();
    if unknown.is_empty() && matting.held.is_none() {
        return Ok(trimap.clone());
    }
    let (w, h) = (trimap.width, trimap.height);
    let stride = w + 2 * PAD;
    let padded = |i: usize| (i / w + PAD) * stride + i % w + PAD;
    let rows = laplacian(colours, &unknown);

    let mut x = vec![0.0_f32; stride * (h + 2 * PAD)];
    for i in 0..trimap.data.len() {
        x[padded(i)] = if is_open(i) { matting.start.data[i] } else { trimap.data[i] };
    }
    let mut known = x.clone();
    unknown.iter().for_each(|&i| known[padded(i)] = 0.0);
    let at: Vec<usize> = unknown.iter().map(|&i| padded(i)).collect();
    let apply = |v: &[f32], q: usize| -> f32 {
        let first = at[q] - PAD * stride - PAD;
        // five sums side by side: a single one would wait for each addition before it
        let mut sums = [0.0_f32; 5];
        for (k, line) in rows[q].chunks_exact(5).enumerate() {
            let values = &v[first + k * stride..][..5];
            sums.iter_mut().zip(line).zip(values).for_each(|((sum, a), b)| *sum += a * b);
        }
        sums.iter().sum()
    };
    let pull = matting.pull;
    let n = unknown.len();

    // b = pull * prior − L_uk x_k, r = b − (L_uu + pull) x_u
    let right: Vec<f32> =
        (0..n).into_par_iter().map(|q| pull * matting.prior.data[unknown[q]] - apply(&known, q)).collect();
    let goal =
        matting.tolerance * matting.tolerance * right.iter().map(|b| f64::from(*b).powi(2)).sum::<f64>().max(1e-30);
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
fn laplacian(colours: &Grid<Rgb>, unknown: &[usize]) -> Vec<[f32; STENCIL]> {
    let (w, h) = (colours.width, colours.height);
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
    let mut at = vec![u32::MAX; w * h];
    let centres: Vec<usize> = (0..w * h).filter(|&i| window[i]).collect();
    centres.iter().enumerate().for_each(|(k, &i)| at[i] = k as u32);
    let windows: Vec<Window> = centres.par_iter().map(|&centre| Window::new(colours, centre)).collect();
    unknown.par_iter().with_min_len(512).map(|&i| row(colours, i, &at, &windows)).collect()
}

/// Mean of the colours (0..1) of a window of 3 x 3 pixels, and the inverse of their covariance.
struct Window {
    mean: [f32; 3],
    inverse: [f32; 6],
}

impl Window {
    fn new(colours: &Grid<Rgb>, centre: usize) -> Self {
        let (x, y) = (centre % colours.width, centre / colours.width);
        let mut c: [[f32; 3]; 9] = std::array::from_fn(|k| colours.at(x + k % 3 - 1, y + k / 3 - 1).map(|v| v / 255.0));
        let mean: [f32; 3] = std::array::from_fn(|ch| c.iter().map(|p| p[ch]).sum::<f32>() / 9.0);
        c.iter_mut().for_each(|p| (0..3).for_each(|ch| p[ch] -= mean[ch]));
        let cov = |i: usize, j: usize| c.iter().map(|p| f64::from(p[i] * p[j])).sum::<f64>() / 9.0;
        let e = f64::from(EPSILON) / 9.0;
        Self { mean, inverse: invert([cov(0, 0) + e, cov(0, 1), cov(0, 2), cov(1, 1) + e, cov(1, 2), cov(2, 2) + e]) }
    }
}

/// The row of one unknown pixel: what each of the windows that hold it says of it and its neighbours.
fn row(colours: &Grid<Rgb>, i: usize, at: &[u32], windows: &[Window]) -> [f32; STENCIL] {
    let (w, h) = (colours.width, colours.height);
    let (x, y) = (i % w, i / w);
    let mut row = [0.0; STENCIL];
    let own = colours.data[i].map(|v| v / 255.0);
    for cy in y.saturating_sub(1).max(1)..=(y + 1).min(h.saturating_sub(2)) {
        for cx in x.saturating_sub(1).max(1)..=(x + 1).min(w.saturating_sub(2)) {
            let Window { mean, inverse } = &windows[at[cy * w + cx] as usize];
            let d: [f32; 3] = std::array::from_fn(|k| own[k] - mean[k]);
            let u = [
                inverse[0] * d[0] + inverse[1] * d[1] + inverse[2] * d[2],
                inverse[1] * d[0] + inverse[3] * d[1] + inverse[4] * d[2],
                inverse[2] * d[0] + inverse[4] * d[1] + inverse[5] * d[2],
            ];
            for r in 0..9 {
                let (px, py) = (cx + r % 3 - 1, cy + r / 3 - 1);
                let c = colours.at(px, py);
                let v: f32 = (0..3).map(|k| u[k] * (c[k] / 255.0 - mean[k])).sum();
                row[(py + 2 - y) * 5 + px + 2 - x] -= (1.0 + v) / 9.0;
            }
            row[STENCIL / 2] += 1.0;
        }
    }
    row
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
        let matting = Matting { prior: &prior, pull: 1e-4, start: &prior, held: None, rounds: 2000, tolerance: FINE };
        let found = closed_form(&colours, &trimap, &matting, &Unwatched).unwrap();
        let off =
            |a: &Grid<f32>, b: &Grid<f32>| a.data.iter().zip(&b.data).map(|(a, b)| (a - b).abs()).fold(0.0, f32::max);
        assert!(off(&found, &truth) < 0.06, "{}", off(&found, &truth));
        // what is solved already stays, and what lies beside it comes out as it would have with it
        let held = Grid::from_fn(40, 20, |x, _| x < 20);
        let matting = Matting { start: &found, held: Some(&held), ..matting };
        let again = closed_form(&colours, &trimap, &matting, &Unwatched).unwrap();
        assert!(off(&again, &found) < 0.01 && (0..20).all(|x| again.at(x, 9) == found.at(x, 9)));
    }
}
