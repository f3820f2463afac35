//! Regions of masks, and distances in them.

use crate::grid::Grid;
pub use crate::runs::{Connectivity, regions};
use imageproc::distance_transform::euclidean_squared_distance_transform;

/// Distance in pixels from every true pixel to the nearest false one; infinite where there is none.
pub fn depth(mask: &Grid<bool>) -> Grid<f32> {
    distance_to(&mask.map(|v| !v))
}

/// Distance in pixels from every pixel to the nearest true one; infinite where there is none.
pub fn distance_to(mask: &Grid<bool>) -> Grid<f32> {
    if !mask.data.contains(&true) {
        return Grid::filled(mask.width, mask.height, f32::INFINITY);
    }
    let squared = euclidean_squared_distance_transform(&mask.to_gray());
    let data = squared.into_raw().into_iter().map(|d| d.sqrt() as f32).collect();
    Grid { width: mask.width, height: mask.height, data }
}

/// Up to this radius, discs laid along the edge are quicker than distances of all pixels.
const FEW: f32 = 8.0;

/// Grows a mask by `radius` pixels in all directions.
pub fn grown(mask: &Grid<bool>, radius: f32) -> Grid<bool> {
    if radius > FEW {
        return distance_to(mask).map(|d| d <= radius);
    }
    let (w, h, r) = (mask.width as i64, mask.height as i64, radius.floor() as i64);
    let disc: Vec<(i64, i64)> = (-r..=r)
        .flat_map(|dy| (-r..=r).map(move |dx| (dx, dy)))
        .filter(|(dx, dy)| ((dx * dx + dy * dy) as f32) <= radius * radius)
        .collect();
    let mut all = mask.clone();
    for i in (0..mask.data.len()).filter(|i| mask.data[*i]) {
        let (x, y) = (i as i64 % w, i as i64 / w);
        let inner = [(-1, 0), (1, 0), (0, -1), (0, 1)].iter().all(|(dx, dy)| mask.clamped(x + dx, y + dy));
        if inner {
            continue;
        }
        for (dx, dy) in &disc {
            let (x, y) = (x + dx, y + dy);
            if (0..w).contains(&x) && (0..h).contains(&y) {
                all.data[(y * w + x) as usize] = true;
            }
        }
    }
    all
}

/// Drops regions under `least` of the largest, and fills pin holes.
pub fn tidied(mask: &Grid<bool>, least: f64) -> Grid<bool> {
    without_small(&regions(mask, Connectivity::Eight), least)
}

/// [`tidied`] for a mask of which the regions are known.
pub(crate) fn without_small((labels, sizes): &(Grid<u32>, Vec<usize>), least: f64) -> Grid<bool> {
    let largest = sizes.iter().copied().max().unwrap_or(0);
    let wanted: Vec<bool> = sizes.iter().map(|s| *s > 0 && *s as f64 >= least * largest as f64).collect();
    let kept = labels.map(|l| l > 0 && wanted[l as usize]);
    let (holes, sizes) = regions(&kept.map(|v| !v), Connectivity::Four);
    let pin = labels.data.len() / 10_000;
    holes.map(|l| l == 0 || sizes[l as usize] <= pin)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn small_regions_go_and_pin_holes_close() {
        let mut mask = Grid::from_fn(200, 200, |x, y| (20..120).contains(&x) && (20..120).contains(&y));
        mask.data[60 * 200 + 60] = false;
        mask.data[180 * 200 + 180] = true;
        let tidy = tidied(&mask, 0.05);
        assert!(tidy.at(60, 60) && !tidy.at(180, 180));
        assert!(tidied(&mask, 0.0001).at(180, 180));
        assert_eq!(depth(&tidy).at(20, 20), 1.0);
        assert_eq!(tidy.bounds(), Some((20, 20, 120, 120)));
        let mut dot = Grid::filled(200, 200, false);
        dot.data[190 * 200 + 20] = true;
        assert_eq!(grown(&dot, 3.0).count(), 29);
        for radius in [1.0, 2.5, 8.0] {
            assert!(grown(&mask, radius) == distance_to(&mask).map(|d| d <= radius), "{radius}");
        }
    }
}
