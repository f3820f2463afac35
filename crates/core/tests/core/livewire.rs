//! Following edges of photos.

use image::Rgba;
use image::RgbaImage;
use inky_core::livewire::EdgeMap;
use inky_core::sheet::Contour;
use kurbo::Point;

/// A dark disc of radius 60 in the middle, before a light ground with some grain.
fn disc() -> RgbaImage {
    RgbaImage::from_fn(200, 200, |x, y| {
        let far = (f64::from(x) + 0.5 - 100.0).hypot(f64::from(y) + 0.5 - 100.0);
        let grain = ((x * 31 + y * 17) % 13) as u8;
        if far < 60.0 { Rgba([30 + grain, 40, 60, 255]) } else { Rgba([220 + grain, 210, 190, 255]) }
    })
}

#[test]
fn the_way_stays_on_the_edge_of_a_disc() {
    let map = EdgeMap::new(&disc());
    // from the right to the top, both clicked a little beside the edge
    let nodes = map.between(Point::new(160.0, 100.0), Point::new(100.0, 43.0));
    assert!(nodes.len() >= 2 && nodes.len() < 12, "{} nodes", nodes.len());
    let path = Contour { subpaths: vec![inky_core::sheet::Subpath { nodes, closed: false }], even_odd: false }.path();
    for segment in path.segments() {
        for k in 0..=8 {
            let p = kurbo::ParamCurve::eval(&segment, f64::from(k) / 8.0);
            let far = (p - Point::new(100.0, 100.0)).hypot();
            assert!((far - 60.0).abs() < 2.5, "{far} from the middle");
        }
    }
}

#[test]
fn points_outside_are_taken_to_the_border() {
    let map = EdgeMap::new(&disc());
    let nodes = map.between(Point::new(-50.0, 900.0), Point::new(400.0, -3.0));
    assert_eq!((nodes[0].x, nodes[0].y), (-50.0, 900.0));
    assert!(nodes.iter().all(|n| n.x.is_finite() && n.y.is_finite()));
    assert!(!map.between(Point::new(100.0, 100.0), Point::new(100.0, 100.0)).is_empty());
}
