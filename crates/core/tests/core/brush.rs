//! Painted areas.

use inky_core::combine::{area, contours};
use inky_core::outline::{brush_path, painted_path};
use inky_core::sheet::{Brush, Stroke};
use kurbo::Shape;
use std::f64::consts::PI;

fn stroke(points: Vec<[f64; 3]>, hardness: f64, erase: bool) -> Stroke {
    Stroke { points, size: 10.0, hardness, erase }
}

#[test]
fn a_straight_stroke_is_a_stadium() {
    let points = (0..=40).map(|k| [f64::from(k), 0.0, 1.0]).collect();
    let path = painted_path(&stroke(points, 1.0, false), 0.0);
    let known = 400.0 + PI * 25.0;
    assert!((area(&path) - known).abs() < 0.01 * known, "{}", area(&path));
    assert_eq!(contours(&path).len(), 1);
    assert!(inky_core::combine::nodes(&path) < 40, "{} nodes", inky_core::combine::nodes(&path));
}

#[test]
fn pressure_makes_it_thin_and_a_click_is_a_disc() {
    let path = painted_path(&stroke(vec![[0.0, 0.0, 1.0], [60.0, 0.0, 0.2]], 1.0, false), 0.0);
    let b = path.bounding_box();
    assert!((b.x0 + 5.0).abs() < 0.1 && (b.x1 - 61.0).abs() < 0.05, "{b:?}");
    let disc = painted_path(&stroke(vec![[3.0, 4.0, 0.5]], 1.0, false), 0.0);
    assert!((area(&disc) - PI * 6.25).abs() < 0.1);
}

#[test]
fn an_eraser_parts_a_stroke() {
    let across = stroke((0..=40).map(|k| [f64::from(k), 0.0, 1.0]).collect(), 1.0, false);
    let down = stroke((-10..=10).map(|k| [20.0, f64::from(k), 0.5]).collect(), 1.0, true);
    let brush = Brush { strokes: vec![across, down].into() };
    assert_eq!(contours(&brush_path(&brush)).len(), 2);
    assert!(brush_path(&Brush::default()).is_empty());
}
