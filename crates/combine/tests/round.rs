//! Rounded corners and fewer nodes.

use inky_combine::*;
use kurbo::{BezPath, CubicBez, ParamCurve, PathSeg, Point};
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

/// A smooth curve (Catmull and Rom) through places of a grid.
fn through(places: &[(i32, i32)]) -> Vec<PathSeg> {
    let at = |k: usize| {
        let (x, y) = places[k.min(places.len() - 1)];
        Point::new(f64::from(x), f64::from(y))
    };
    let side = |k: usize| {
        let (z, a, b, c) = (at(k.saturating_sub(1)), at(k), at(k + 1), at(k + 2));
        PathSeg::Cubic(CubicBez::new(a, a + (b - z) / 6.0, b - (c - a) / 6.0, b))
    };
    (0..places.len() - 1).map(side).collect()
}

#[test]
fn walks_that_turn_back_on_themselves_get_by_with_few_curves_as_well() {
    // a walk on a grid: it goes to and fro, stands still, and crosses itself
    let mut state = 11_u32;
    let mut dice = || {
        state = state.wrapping_mul(1_664_525).wrapping_add(1_013_904_223);
        (state >> 29) as i32
    };
    let (mut before, mut after) = (0, 0);
    for _ in 0..300 {
        let (mut x, mut y) = (0, 0);
        let mut places = vec![(0, 0)];
        for _ in 0..40 {
            let (dx, dy) = [(4, 0), (0, 4), (-4, 0), (0, -4), (3, 3), (0, 0), (4, 1), (1, -4)][dice() as usize];
            (x, y) = (x + dx, y + dy);
            places.push((x, y));
        }
        let sides = through(&places);
        let few = few_curves(&sides, 1.3);
        assert!(few.len() <= sides.len() && few.iter().all(|s| s.to_cubic().is_finite()));
        (before, after) = (before + sides.len(), after + few.len());
        let Some(last) = few.last() else { continue };
        assert!(few[0].start().distance(sides[0].start()) < 1e-6);
        assert!(last.end().distance(sides[sides.len() - 1].end()) < 1e-6);
        assert!(few.windows(2).all(|w| w[0].end().distance(w[1].start()) < 1e-6), "in one piece");
    }
    assert!(after < before, "{after} curves for {before} sides");
}
