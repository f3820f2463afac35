//! Rounded corners and fewer nodes.

use inky_combine::*;
use kurbo::{BezPath, ParamCurve};
use kurbo::{Circle, Rect, Shape};
use std::f64::consts::PI;

#[test]
fn a_rounded_box_has_quarter_circles() {
    let frame = Rect::new(0.0, 0.0, 20.0, 10.0).to_path(0.1);
    let known = 200.0 - (4.0 - PI) * 4.0;
    assert!((area(&round_corners(&frame, 2.0)) - known).abs() < 5e-3);
    // a radius beyond half of the shorter side stops there
    assert!((area(&round_corners(&frame, 50.0)) - area(&round_corners(&frame, 4.99))).abs() < 0.1);
    let disc = Circle::new((0.0, 0.0), 5.0).to_path(1e-6);
    assert!((area(&round_corners(&disc, 1.0)) - area(&disc)).abs() < 1e-9);
}

#[test]
fn a_circle_of_many_nodes_gets_by_with_few() {
    let n = 120;
    let fine = Circle::new((0.0, 0.0), 50.0).to_path(1e-12);
    let mut many = BezPath::new();
    for (i, s) in fine
        .segments()
        .flat_map(|s| {
            (0..n / 4).map(move |k| {
                let step = 4.0 / f64::from(n);
                s.subsegment(f64::from(k) * step..f64::from(k + 1) * step)
            })
        })
        .enumerate()
    {
        if i == 0 {
            many.move_to(s.start());
        }
        let c = s.to_cubic();
        many.curve_to(c.p1, c.p2, c.p3);
    }
    many.close_path();
    let simple = simplify(&many, 0.01);
    assert!(nodes(&simple) < 12, "{} nodes of {}", nodes(&simple), nodes(&many));
    assert!((area(&simple) - area(&many)).abs() < 1e-3 * area(&many));
    assert_eq!(simplify(&many, 0.0), many);
    // a small end on a long side is not lost
    let mut drop = Circle::new((0.0, 0.0), 5.0).to_path(1e-6);
    drop.extend(Circle::new((60.0, 0.0), 1.0).to_path(1e-6));
    drop.extend(BezPath::from_svg("M0.3333,-4.9889 L60.0667,-0.9978 L60.0667,0.9978 L0.3333,4.9889 Z").unwrap());
    let drop = unite(&drop);
    let b = simplify(&drop, 0.05).bounding_box();
    assert!((b.x1 - 61.0).abs() < 0.06 && (b.y1 - 5.0).abs() < 0.06, "{b:?}");
}
