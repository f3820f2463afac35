//! Outlines as pixels.

use inky_core::breakout::coverage;
use kurbo::BezPath;
use kurbo::{Circle, Shape};

#[test]
fn coverage_adds_up_to_the_area() {
    let ring = Circle::new((20.0, 18.0), 12.3).to_path(1e-4);
    let hole = Circle::new((21.0, 17.0), 5.1).to_path(1e-4);
    let path: BezPath = ring.iter().chain(hole.iter()).collect();
    let sum: f32 = coverage(&path, 40, 40).data.iter().sum();
    let area = std::f32::consts::PI * (12.3 * 12.3 - 5.1 * 5.1);
    assert!((sum - area).abs() < 0.004 * area, "{sum} and {area}");
    assert_eq!(coverage(&path, 40, 40).at(21, 17), 0.0);
    assert_eq!(coverage(&path, 40, 40).at(11, 18), 1.0);
}
