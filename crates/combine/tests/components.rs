//! Outlines taken apart.

use inky_combine::*;
use kurbo::{BezPath, PathEl, Point, Rect, Shape};
use proptest::prelude::*;

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

#[test]
fn contours_that_lie_apart_are_told_from_those_that_do_not() {
    let square = |c: f64, r: f64| Rect::new(c - r, c - r, c + r, c + r).to_path(0.1);
    let mut path = square(0.0, 10.0);
    path.extend(square(40.0, 2.0));
    path.extend(square(0.0, 8.0).reverse_subpaths());
    // it touches the box of the one before it, and with it belongs to the first
    path.extend(Rect::new(10.0, 0.0, 14.0, 4.0).to_path(0.1));
    let groups = clusters(&path);
    let counts: Vec<usize> = groups.iter().map(|g| contours(g).len()).collect();
    assert_eq!(counts, [3, 1]);
    assert_eq!(groups.iter().map(|g| g.elements().len()).sum::<usize>(), path.elements().len());
    assert!(clusters(&BezPath::new()).is_empty());
}

proptest! {
    #[test]
    fn bounds_are_those_of_every_point(points in prop::collection::vec((-100.0..100.0_f64, -100.0..100.0_f64), 7..40)) {
        let mut path = BezPath::new();
        for (k, p) in points.chunks_exact(3).enumerate() {
            match k % 5 {
                0 => path.move_to(p[0]),
                1 => path.curve_to(p[0], p[1], p[2]),
                2 => path.quad_to(p[0], p[1]),
                3 => path.line_to(p[0]),
                _ => path.curve_to(p[2], p[0], p[1]),
            }
        }
        // a move that leads nowhere is no part of what is seen
        if matches!(path.elements().last(), Some(PathEl::MoveTo(_))) {
            path.pop();
        }
        let (quick, all) = (bounds(&path), path.bounding_box());
        let apart = [quick.x0 - all.x0, quick.y0 - all.y0, quick.x1 - all.x1, quick.y1 - all.y1];
        prop_assert!(apart.iter().all(|d| d.abs() < 1e-9), "{quick} {all}");
    }
}

#[test]
fn nodes_are_counted_as_they_are_seen() {
    let mut path = Rect::new(0.0, 0.0, 1.0, 1.0).to_path(0.1);
    assert_eq!(nodes(&path), 4);
    // closed by a line of its own to where it began: no node more
    path.extend(BezPath::from_svg("M5,5 L6,5 L6,6 L5,5 Z").unwrap());
    assert_eq!(nodes(&path), 7);
    path.extend(BezPath::from_svg("M5,5 C6,5 6,6 7,7").unwrap());
    assert_eq!(nodes(&path), 9);
    assert_eq!(bounds(&BezPath::new()).center(), Point::ZERO);
}
