//! Where the matte is sure, and where it is to be computed.

use crate::distance::{FARTHEST, largest_around, squared_depth};
use crate::grid::Grid;

/// Subject 1, background 0, unknown ½: a band along the edge of a mask.
///
/// The band is `radius` pixels wide on either side (at most 90), but *thin-safe*: never more than half of the largest depth
/// nearby, so that thin limbs keep a sure core, and small holes too.
pub fn trimap(mask: &Grid<bool>, radius: f32) -> Grid<f32> {
    // what is deeper than this is sure whatever lies nearby
    let limit = ((2.0 * radius).ceil() as usize + 1).min(FARTHEST);
    let side = |mask: &Grid<bool>| {
        let depth = squared_depth(mask, limit);
        let most = largest_around(&depth, radius.round() as usize);
        (depth, most)
    };
    let ((inner, inner_most), (outer, outer_most)) = rayon::join(|| side(mask), || side(&mask.map(|v| !v)));
    let sure = |depth: i16, most: i16| {
        let least = (0.25 * f32::from(most)).min(radius * radius).max(1.0);
        f32::from(depth) > least
    };
    Grid {
        width: mask.width,
        height: mask.height,
        data: (0..mask.data.len())
            .map(|i| match mask.data[i] {
                true if sure(inner.data[i], inner_most.data[i]) => 1.0,
                false if sure(outer.data[i], outer_most.data[i]) => 0.0,
                _ => 0.5,
            })
            .collect(),
    }
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
