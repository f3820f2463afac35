//! Mattes as outlines.

use inky_core::breakout::trace;
use inky_core::grid::Grid;
use kurbo::Shape;

#[test]
fn a_soft_disc_with_a_hole_is_traced_between_pixels() {
    let grid = Grid::from_fn(60, 60, |x, y| {
        let r = (x as f32 + 0.5 - 30.0).hypot(y as f32 + 0.5 - 28.0);
        (20.0 - r + 0.5).clamp(0.0, 1.0) * (r - 8.0 + 0.5).clamp(0.0, 1.0)
    });
    let path = trace(&grid);
    let expected = std::f64::consts::PI * (400.0 - 64.0);
    assert!((path.area().abs() - expected).abs() < 0.01 * expected, "{}", path.area());
    assert_eq!(path.elements().iter().filter(|e| matches!(e, kurbo::PathEl::MoveTo(_))).count(), 2);
}

#[test]
fn shapes_at_the_border_are_closed() {
    let path = trace(&Grid::filled(10, 6, 1.0));
    assert!((path.area().abs() - 60.0).abs() < 0.6);
    assert!(trace(&Grid::filled(10, 6, 0.0)).is_empty());
}
