//! Outlines taken apart.

use inky_combine::*;
use kurbo::{BezPath, Rect, Shape};
#[test]
fn a_ring_with_an_island_and_a_speck_are_three_pieces() {
    let square = |c: f64, r: f64| Rect::new(c - r, c - r, c + r, c + r).to_path(0.1);
    let mut path = square(0.0, 10.0);
    path.extend(square(0.0, 8.0).reverse_subpaths());
    path.extend(square(0.0, 3.0));
    path.extend(square(20.0, 0.5));
    let mut areas: Vec<f64> = parts(&unite(&path)).iter().map(|p| p.area.round()).collect();
    areas.sort_by(f64::total_cmp);
    assert_eq!(areas, [1.0, 36.0, 144.0]);
    assert!(parts(&BezPath::new()).is_empty());
}
