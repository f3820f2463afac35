//! A matte from a small size to the full one, along the edges of the full photo.

use crate::grid::Grid;
use crate::mixture::Rgb;
use crate::regions::grown;
use crate::{Cancelled, Watch};
use rayon::prelude::*;

const RADIUS: usize = 2;
const EPSILON: f32 = 1e-6;
/// Rows between two looks at the watch.
const ROWS: usize = 128;

/// K. He, J. Sun, "Fast Guided Filter" (2015): in small windows the matte is taken as a linear function of the colour; the
/// coefficients are found at the small size, enlarged, and applied to the full photo. Colours in 0..255.
///
/// # Errors
/// A cancelled watch.
pub fn enlarge_guided(
    full: &Grid<Rgb>,
    small: &Grid<Rgb>,
    matte: &Grid<f32>,
    watch: &dyn Watch,
) -> Result<Grid<f32>, Cancelled> {
    // where the matte is even, the windows around have nothing to say: it stays as it is
    let uneven = grown(&uneven(matte), (2 * RADIUS + 2) as f32 * std::f32::consts::SQRT_2);
    let channel = |k: usize| small.map(|c| c[k] / 255.0);
    let guide: [Grid<f32>; 3] = std::array::from_fn(channel);
    let times = |a: &Grid<f32>, b: &Grid<f32>| Grid {
        width: a.width,
        height: a.height,
        data: a.data.iter().zip(&b.data).map(|(a, b)| a * b).collect(),
    };
    let mean: [Grid<f32>; 3] = std::array::from_fn(|k| box_mean(&guide[k]));
    let mean_matte = box_mean(matte);
    let with_matte: [Grid<f32>; 3] = std::array::from_fn(|k| box_mean(&times(&guide[k], matte)));
    let pairs = [(0, 0), (0, 1), (0, 2), (1, 1), (1, 2), (2, 2)];
    let products: [Grid<f32>; 6] = std::array::from_fn(|k| box_mean(&times(&guide[pairs[k].0], &guide[pairs[k].1])));

    let mut linear: [Grid<f32>; 4] = std::array::from_fn(|_| Grid::filled(small.width, small.height, 0.0));
    for i in 0..small.data.len() {
        if !uneven.data[i] {
            linear[3].data[i] = matte.data[i];
            continue;
        }
        let m: [f64; 3] = std::array::from_fn(|k| f64::from(mean[k].data[i]));
        let c: [f64; 6] = std::array::from_fn(|k| {
            let (p, q) = pairs[k];
            f64::from(products[k].data[i]) - m[p] * m[q] + if p == q { f64::from(EPSILON) } else { 0.0 }
        });
        let v: [f64; 3] =
            std::array::from_fn(|k| f64::from(with_matte[k].data[i]) - m[k] * f64::from(mean_matte.data[i]));
        let a = solve(c, v);
        let offset = f64::from(mean_matte.data[i]) - (0..3).map(|k| a[k] * m[k]).sum::<f64>();
        for (k, a) in a.into_iter().chain([offset]).enumerate() {
            linear[k].data[i] = a as f32;
        }
    }
    let linear = linear.map(|g| box_mean(&g));
    let (sx, sy) = (small.width as f32 / full.width as f32, small.height as f32 / full.height as f32);
    let mut out = Grid::filled(full.width, full.height, 0.0);
    let enlarge = |(y, row): (usize, &mut [f32])| {
        for (x, out) in row.iter_mut().enumerate() {
            let (u, v) = ((x as f32 + 0.5) * sx, (y as f32 + 0.5) * sy);
            let near = v as usize * small.width + u as usize;
            if !uneven.data[near] {
                *out = matte.data[near];
                continue;
            }
            let c = full.at(x, y);
            let linear_part: f32 = (0..3).map(|k| linear[k].sample(u, v) * c[k] / 255.0).sum();
            *out = (linear_part + linear[3].sample(u, v)).clamp(0.0, 1.0);
        }
    };
    for (k, rows) in out.data.chunks_mut(ROWS * full.width).enumerate() {
        watch.go_on()?;
        watch.step((k * ROWS) as f32 / full.height as f32, "");
        rows.par_chunks_mut(full.width).enumerate().for_each(|(y, row)| enlarge((k * ROWS + y, row)));
    }
    Ok(out)
}

/// Where a matte is neither 0 nor 1, or differs from the next pixel to the right or below.
fn uneven(matte: &Grid<f32>) -> Grid<bool> {
    Grid::from_fn(matte.width, matte.height, |x, y| {
        let own = matte.at(x, y);
        let even = |dx, dy| matte.clamped(x as i64 + dx, y as i64 + dy) == own;
        (own != 0.0 && own != 1.0) || !even(1, 0) || !even(0, 1)
    })
}

/// Mean over the square of `RADIUS` pixels around each pixel, the border repeated.
fn box_mean(grid: &Grid<f32>) -> Grid<f32> {
    let r = RADIUS as i64;
    let n = (2 * RADIUS + 1) as f32;
    let (width, height) = (grid.width, grid.height);
    let by_row = |value: &(dyn Fn(i64, i64) -> f32 + Sync)| {
        let mut out = Grid::filled(width, height, 0.0);
        out.data.par_chunks_mut(width).enumerate().for_each(|(y, row)| {
            row.iter_mut().enumerate().for_each(|(x, out)| *out = value(x as i64, y as i64));
        });
        out
    };
    let rows = by_row(&|x, y| (-r..=r).map(|d| grid.clamped(x + d, y)).sum::<f32>() / n);
    by_row(&|x, y| (-r..=r).map(|d| rows.clamped(x, y + d)).sum::<f32>() / n)
}

/// Solves a symmetric system given as xx, xy, xz, yy, yz, zz.
fn solve([a, b, d, e, f, g]: [f64; 6], v: [f64; 3]) -> [f64; 3] {
    let (m00, m01, m02) = (e * g - f * f, d * f - b * g, b * f - d * e);
    let (m11, m12, m22) = (a * g - d * d, b * d - a * f, a * e - b * b);
    let det = a * m00 + b * m01 + d * m02;
    [m00 * v[0] + m01 * v[1] + m02 * v[2], m01 * v[0] + m11 * v[1] + m12 * v[2], m02 * v[0] + m12 * v[1] + m22 * v[2]]
        .map(|s| s / det)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Unwatched;

    #[test]
    fn the_edge_of_the_photo_becomes_the_edge_of_the_matte() {
        let photo = |n: usize, edge: f32| {
            Grid::from_fn(n, n, move |x, _| {
                let side = (x as f32 + 0.5 - edge * n as f32 + 0.5).clamp(0.0, 1.0);
                [30.0 + 180.0 * side, 90.0, 60.0]
            })
        };
        let (full, small) = (photo(120, 0.517), photo(30, 0.517));
        let matte = small.map(|c| (c[0] - 30.0) / 180.0);
        let found = enlarge_guided(&full, &small, &matte, &Unwatched).unwrap();
        let off: f32 = found.data.iter().zip(&full.data).map(|(a, c)| (a - (c[0] - 30.0) / 180.0).abs()).sum();
        assert!(off / (found.data.len() as f32) < 0.004, "{off}");
    }
}
