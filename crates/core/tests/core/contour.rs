//! Contours and paths.

use inky_core::sheet::Contour;
use kurbo::BezPath;
use kurbo::{Circle, Shape};

#[test]
fn a_path_survives_as_nodes() {
    let mut path = Circle::new((3.0, 4.0), 10.0).to_path(1e-6);
    path.extend(BezPath::from_svg("M0,0 L5,0 Q7,3 5,5 L0,5 Z M9,9 L12,9").unwrap());
    let contour = Contour::from_path(&path);
    assert_eq!(contour.subpaths.iter().map(|s| s.closed).collect::<Vec<_>>(), [true, true, false]);
    assert!(contour.subpaths[0].nodes.iter().all(|n| n.smooth) && !contour.subpaths[1].nodes[0].smooth);
    assert_eq!(contour.nodes(), contour.subpaths[0].nodes.len() + 4 + 2);
    let again = contour.path();
    assert!((again.area() - path.area()).abs() < 1e-9 * path.area());
    assert_eq!(Contour::from_path(&again), contour);
}
