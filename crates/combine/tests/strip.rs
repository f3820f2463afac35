//! Strips along parts of an edge.

use inky_combine::*;
use kurbo::{BezPath, Circle, Point, Rect, Shape};
use std::f64::consts::PI;

#[test]
fn a_strip_ends_straight_across_the_edge() {
    let square = Rect::new(0.0, 0.0, 20.0, 20.0).to_path(0.1);
    // covers the upper edge from 5 to 15, slanted where it leaves it
    let within = BezPath::from_svg("M3,-4 L17,-4 L15,0 L13,4 L7,4 L5,0 Z").unwrap();
    let strip = strip_along(&square, &within, 2.0);
    let known = Rect::new(5.0, -2.0, 15.0, 2.0);
    assert!((area(&strip) - known.area()).abs() < 1e-3, "{}", area(&strip));
    let b = bounds(&strip);
    assert!((b.x0 - known.x0).abs() < 1e-3 && (b.x1 - known.x1).abs() < 1e-3, "{b:?}");
}

#[test]
fn a_strip_goes_around_a_corner_and_over_the_start_of_a_contour() {
    let square = Rect::new(0.0, 0.0, 20.0, 20.0).to_path(0.1);
    // all contours of the square begin at its upper left corner
    let corner = strip_along(&square, &Rect::new(-5.0, -5.0, 8.0, 8.0).to_path(0.1), 1.0);
    let known = 2.0 * 2.0 * 8.0 - 1.0 + PI / 4.0;
    assert!((area(&corner) - known).abs() < 0.02, "{} for {known}", area(&corner));
    assert!(contains(&corner, Point::new(-0.5, -0.5), 1e-3) && contours(&corner).len() == 1);
}

#[test]
fn curves_have_strips_as_wide_as_straight_edges() {
    let disc = Circle::new((0.0, 0.0), 30.0).to_path(1e-4);
    let strip = strip_along(&disc, &Rect::new(-40.0, -40.0, 40.0, 0.0).to_path(0.1), 3.0);
    let known = PI * 30.0 * 6.0;
    assert!((area(&strip) - known).abs() < 0.01 * known, "{} for {known}", area(&strip));
    assert!(strip_along(&disc, &Rect::new(50.0, 0.0, 60.0, 9.0).to_path(0.1), 3.0).is_empty());
    assert!(strip_along(&disc, &BezPath::new(), 3.0).is_empty());
}
