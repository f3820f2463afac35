//! Where the matte is sure, and where it is to be computed.

use crate::grid::Grid;
use crate::regions::depth;

/// Subject 1, background 0, unknown ½: a band along the edge of a mask.
///
/// The band is `radius` pixels wide on either side, but *thin-safe*: never more than half of the largest depth
/// nearby, so that thin limbs keep a sure core, and small holes too.
pub(crate) fn trimap(mask: &Grid<bool>, radius: f32) -> Grid<f32> {
    let inner = depth(mask);
    let outer = depth(&mask.map(|v| !v));
    let (inner_max, outer_max) = (local_maximum(&inner, radius), local_maximum(&outer, radius));
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
    let mut rows = grid.clone();
    for y in 0..grid.height {
        let line = &grid.data[y * grid.width..(y + 1) * grid.width];
        for x in 0..grid.width {
            let near = &line[x.saturating_sub(r)..(x + r + 1).min(grid.width)];
            rows.data[y * grid.width + x] = near.iter().copied().fold(0.0, f32::max);
        }
    }
    Grid::from_fn(grid.width, grid.height, |x, y| {
        (y.saturating_sub(r)..(y + r + 1).min(grid.height)).map(|k| rows.at(x, k)).fold(0.0, f32::max)
    })
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
