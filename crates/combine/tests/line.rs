//! Lines along outlines, growing and shrinking.

use inky_combine::*;
use kurbo::{BezPath, Cap, Circle, Join, Rect, Shape};
use std::f64::consts::PI;

fn line(side: LineSide) -> LineStyle {
    LineStyle { width: 2.0, side, corners: Join::Miter, ends: Cap::Butt }
}

#[test]
fn an_ellipse_used_as_its_line_is_a_ring() {
    let disc = Circle::new((5.0, 5.0), 20.0).to_path(1e-6);
    for (side, outer, inner) in
        [(LineSide::Inside, 20.0, 18.0), (LineSide::Centre, 21.0, 19.0), (LineSide::Outside, 22.0, 20.0)]
    {
        let ring = own_line(&disc, &line(side));
        let known = PI * (outer * outer - inner * inner);
        assert!((area(&ring) - known).abs() < 1e-4 * known, "{side:?}: {} for {known}", area(&ring));
    }
}

#[test]
fn an_open_contour_has_a_line_with_ends() {
    let open = BezPath::from_svg("M0,0 L10,0").unwrap();
    assert!((area(&own_line(&open, &line(LineSide::Inside))) - 20.0).abs() < 1e-6);
    let square = LineStyle { ends: Cap::Square, ..line(LineSide::Centre) };
    assert!((area(&own_line(&open, &square)) - 24.0).abs() < 1e-6);
}

#[test]
fn growing_and_shrinking_keep_corners() {
    let mut frame = Rect::new(0.0, 0.0, 20.0, 20.0).to_path(0.1);
    frame.extend(Rect::new(5.0, 5.0, 15.0, 15.0).to_path(0.1).reverse_subpaths());
    assert!((area(&grow(&frame, 1.0)) - (22.0 * 22.0 - 8.0 * 8.0)).abs() < 1e-3);
    assert!((area(&grow(&frame, -1.0)) - (18.0 * 18.0 - 12.0 * 12.0)).abs() < 1e-3);
    assert!(grow(&frame, -3.0).is_empty());
    // the hole closes, however far it is overgrown
    for by in [5.5, 9.0, 40.0] {
        let known = (20.0 + 2.0 * by) * (20.0 + 2.0 * by);
        assert!((area(&grow(&frame, by)) - known).abs() < 1e-3 * known, "{by}: {}", area(&grow(&frame, by)));
    }
}

#[test]
fn nothing_turns_inside_out() {
    let disc = Circle::new((5.0, 5.0), 20.0).to_path(1e-6);
    for by in [21.0, 30.0, 39.0, 100.0] {
        assert!(grow(&disc, -by).is_empty(), "{by}");
        let inside = own_line(&disc, &LineStyle { width: by, ..line(LineSide::Inside) });
        assert!((area(&inside) - area(&disc)).abs() < 1e-4 * area(&disc), "{by}: {}", area(&inside));
    }
    let wide = own_line(&disc, &LineStyle { width: 60.0, ..line(LineSide::Centre) });
    assert!((area(&wide) - PI * 2500.0).abs() < 1e-3 * PI * 2500.0);
    let ring = own_line(&disc, &LineStyle { width: 10.0, ..line(LineSide::Centre) });
    assert!((area(&grow(&ring, -4.0)) - PI * (441.0 - 361.0)).abs() < 0.5, "{}", area(&grow(&ring, -4.0)));
}
