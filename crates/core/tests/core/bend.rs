//! Bends and pulled corners.

use inky_core::outline::{bent, pulled};
use inky_core::sheet::{Bend, BendKind};
use kurbo::{BezPath, Rect, Shape};
use std::f64::consts::PI;
fn near(path: &BezPath, expected: Rect) {
    let b = path.bounding_box();
    let off = (b.x0 - expected.x0).abs() + (b.y0 - expected.y0).abs() + (b.x1 - expected.x1).abs();
    assert!(off + (b.y1 - expected.y1).abs() < 0.02, "{b:?} instead of {expected:?}");
}

#[test]
fn a_bar_bows_to_half_a_ring() {
    let bar = Rect::new(-50.0, -5.0, 50.0, 5.0).to_path(0.1);
    let bowed = bent(&bar, &Bend { kind: BendKind::BowUp, amount: 1.0 });
    let r = 100.0 / PI;
    near(&bowed, Rect::new(-r - 5.0, -5.0, r + 5.0, r));
    let ring = PI / 2.0 * ((r + 5.0).powi(2) - (r - 5.0).powi(2));
    assert!((bowed.area().abs() - ring).abs() < 1e-4 * ring);
    assert!(bowed.elements().len() < 30, "{} elements", bowed.elements().len());
    let down = bent(&bar, &Bend { kind: BendKind::BowDown, amount: 1.0 });
    near(&down, Rect::new(-r - 5.0, -r, r + 5.0, 5.0));
}

#[test]
fn every_bend_is_nothing_at_zero_and_something_at_one() {
    let bar = Rect::new(0.0, 0.0, 40.0, 10.0).to_path(0.1);
    for way in [BendKind::Ripple, BendKind::Banner, BendKind::Swell, BendKind::Pinch, BendKind::Climb] {
        assert_eq!(bent(&bar, &Bend { kind: way, amount: 0.0 }), bar);
        let some = bent(&bar, &Bend { kind: way, amount: 0.5 });
        assert!((some.bounding_box().height() - 10.0).abs() > 1.0 || way == BendKind::Pinch, "{way:?}");
        assert!(some.is_finite() && (some.bounding_box().width() - 40.0).abs() < 0.01);
    }
    let pinched = bent(&bar, &Bend { kind: BendKind::Pinch, amount: 0.5 });
    assert!(pinched.area().abs() < 0.75 * bar.area().abs());
}

#[test]
fn corners_pulled_outwards_make_a_trapeze() {
    let frame = Rect::new(0.0, 0.0, 20.0, 10.0);
    let pull = [[-0.25, 0.0], [0.25, 0.0], [0.0, 0.0], [0.0, 0.0]];
    let lantern = pulled(&frame.to_path(0.1), frame, &pull).unwrap();
    assert!((lantern.area().abs() - 250.0).abs() < 1e-6, "{}", lantern.area());
    assert!(lantern.segments().all(|s| matches!(s, kurbo::PathSeg::Line(_))));
    let crossed = [[2.0, 0.0], [0.0, 0.0], [0.0, 0.0], [0.0, 0.0]];
    assert!(pulled(&frame.to_path(0.1), frame, &crossed).is_none());
}
