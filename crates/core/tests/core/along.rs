//! Lettering along an edge.

use inky_core::outline::Face;
use inky_core::outline::{FontCollection, lettering_along};
use inky_core::sheet::{Along, Lettering};
use kurbo::Circle;
use kurbo::{BezPath, Shape};

fn set(along: Along) -> BezPath {
    let mut fonts = FontCollection::default();
    let f = inky_fonts::FACES[0];
    fonts.add(Face::new(f.id.into(), f.name, f.data).unwrap());
    let lettering = Lettering::plain("NIGHT", f.id.into(), 10.0);
    lettering_along(&lettering, &along, &Circle::new((0.0, 0.0), 50.0).to_path(1e-6), &fonts).unwrap()
}

#[test]
fn letters_stand_on_a_circle() {
    let along = Along { form: inky_core::sheet::FormId::fresh(), inside: false, start: 0.0, off: 0.0 };
    let on = set(along);
    let far = |path: &BezPath| {
        let points: Vec<f64> =
            path.elements().iter().filter_map(|e| e.end_point()).map(|p| p.to_vec2().hypot()).collect();
        (points.iter().copied().fold(f64::MAX, f64::min), points.iter().copied().fold(0.0, f64::max))
    };
    let (least, most) = far(&on);
    assert!(least > 49.4 && most > 56.0 && most < 62.0, "{least} to {most}");
    let b = on.bounding_box();
    assert!(b.center().x.abs() < 0.5 && b.y1 < 0.0, "centred at the top: {b:?}");
    let (least, most) = far(&set(Along { inside: true, ..along }));
    assert!(most < 50.6 && least > 38.0, "{least} to {most}");
    let quarter = set(Along { start: 0.25, ..along }).bounding_box();
    assert!(quarter.x0 > 0.0 && quarter.center().y.abs() < 1.0, "at the right: {quarter:?}");
}
