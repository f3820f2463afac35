//! Where photos lie.

use inky_core::sheet::{Placement, Similarity};
use kurbo::Point;
#[test]
fn a_moved_placement_is_the_moved_photo() {
    let place = Placement { x: 30.0, y: 20.0, scale: 0.2, turn: 15.0, mirrored: true, slant: 0.0, pull: None };
    let by = Similarity { a: 1.2, b: 0.4, dx: -7.0, dy: 11.0 };
    let (then, now) = (by.affine() * place.affine(300, 200), place.moved(&by).affine(300, 200));
    for p in [Point::new(0.0, 0.0), Point::new(300.0, 10.0), Point::new(17.0, 200.0)] {
        assert!((then * p - now * p).hypot() < 1e-9);
    }
}

#[test]
fn cover_leaves_no_corner_open() {
    let target = kurbo::Rect::new(10.0, 10.0, 110.0, 40.0);
    let a = Placement::cover(300, 200, target).affine(300, 200);
    let quad = a.transform_rect_bbox(kurbo::Rect::new(0.0, 0.0, 300.0, 200.0));
    assert!(quad.x0 < target.x0 && quad.y0 < target.y0 && quad.x1 > target.x1 && quad.y1 > target.y1);
}
