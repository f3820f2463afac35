//! Where the matte is sure, and where it is to be computed.

use crate::grid::Grid;
use crate::regions::depth;
use rayon::prelude::*;

/// Subject 1, background 0, unknown ½: a band along the edge of a mask.
///
/// The band is `radius` pixels wide on either side, but *thin-safe*: never more than half of the largest depth
/// nearby, so that thin limbs keep a sure core, and small holes too.
pub fn trimap(mask: &Grid<bool>, radius: f32) -> Grid<f32> {
    let side = |mask: &Grid<bool>| {
        let depth = depth(mask);
        let max = local_maximum(&depth, radius);
        (depth, max)
    };
    let ((inner, inner_max), (outer, outer_max)) = rayon::join(|| side(mask), || side(&mask.map(|v| !v)));
    let sure = |d: f32, max: f32| d > (0.5 * max).min(radius).max(1.0);
    Grid {
        width: mask.width,
        height: mask.height,
        data: (0..mask.data.len())
            .map(|i| match mask.data[i] {
                true if sure(inner.data[i], inner_max.data[i]) => 1.0,
                false if sure(outer.data[i], outer_max.data[i]) => 0.0,
                _ => 0.5,
            })
            .collect(),
    }
}

/// The largest value within a square of `radius` pixels around every pixel.
fn local_maximum(grid: &Grid<f32>, radius: f32) -> Grid<f32> {
    let r = radius.round() as usize;
    let (w, h) = (grid.width, grid.height);
    let mut rows = grid.clone();
    rows.data.par_chunks_mut(w).for_each(|line| {
        let whole = line.to_vec();
        slide(&whole, r, line);
    });
    // down the columns, in strips that fit a cache line
    let strips: Vec<(usize, Vec<f32>)> = (0..w.div_ceil(STRIP))
        .into_par_iter()
        .map(|k| {
            let (from, to) = (k * STRIP, ((k + 1) * STRIP).min(w));
            let mut strip = vec![0.0; (to - from) * h];
            for (x, column) in strip.chunks_mut(h).enumerate() {
                let whole: Vec<f32> = (0..h).map(|y| rows.data[y * w + from + x]).collect();
                slide(&whole, r, column);
            }
            (from, strip)
        })
        .collect();
    for (from, strip) in strips {
        for (x, column) in strip.chunks(h).enumerate() {
            column.iter().enumerate().for_each(|(y, v)| rows.data[y * w + from + x] = *v);
        }
    }
    rows
}

const STRIP: usize = 16;

/// The largest of the values within `r` places of each place. M. van Herk, "A fast algorithm for local minimum and maximum filters on rectangular
/// and octagonal kernels" (Pattern Recognition Letters, 1992): running maxima of blocks from either side.
fn slide(line: &[f32], r: usize, out: &mut [f32]) {
    let (n, block) = (line.len(), 2 * r + 1);
    let (mut left, mut right) = (line.to_vec(), line.to_vec());
    for i in (1..n).filter(|i| i % block != 0) {
        left[i] = larger(left[i], left[i - 1]);
    }
    for i in (0..n.saturating_sub(1)).rev().filter(|i| (i + 1) % block != 0) {
        right[i] = larger(right[i], right[i + 1]);
    }
    for (i, out) in out.iter_mut().enumerate() {
        // a window meets at most two blocks: the end of one and the begin of the next
        let (from, to) = (i.saturating_sub(r), (i + r).min(n - 1));
        let one_block = from / block == to / block;
        *out =
            if one_block { line[from..=to].iter().copied().fold(0.0, larger) } else { larger(right[from], left[to]) };
    }
}

/// Depths are never NaN, which `f32::max` would look for.
fn larger(a: f32, b: f32) -> f32 {
    if a > b { a } else { b }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn thin_limbs_and_small_holes_keep_a_sure_core() {
        let disc = |x: usize, y: usize, r: f32| (x as f32 - 60.0).hypot(y as f32 - 60.0) < r;
        let mask =
            Grid::from_fn(120, 120, |x, y| (disc(x, y, 40.0) && !disc(x, y, 5.0)) || y == 110 || y == 111 || y == 112);
        let t = trimap(&mask, 12.0);
        assert_eq!(t.at(60, 60), 0.0, "the middle of the hole");
        assert_eq!(t.at(30, 111), 1.0, "the middle of the limb");
        assert_eq!(t.at(60, 21), 0.5, "the edge");
        assert_eq!(t.at(60, 40), 1.0, "well inside");
    }
}
