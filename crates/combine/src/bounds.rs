//! The box around a path, without solving for every curve where it turns.

use kurbo::{BezPath, ParamCurveExtrema, PathEl, Point, Rect};

/// The smallest upright box around a path; at the origin, and empty, for an empty one.
///
/// The same as kurbo's `bounding_box`, which looks for the extrema of every curve. Here only curves with a handle outside of the box
/// around all ends are looked at: of a print with thousands of them a few.
pub fn bounds(path: &BezPath) -> Rect {
    bounds_of(path.elements())
}

/// [`bounds`] of a stretch of path elements that begins with a move.
pub(crate) fn bounds_of(elements: &[PathEl]) -> Rect {
    let mut ends = elements.iter().filter_map(PathEl::end_point);
    let Some(first) = ends.next() else {
        return Rect::ZERO;
    };
    let mut all = ends.fold(Rect::from_points(first, first), |b, p| b.union_pt(p));
    let mut last = first;
    for el in elements {
        let within = |p: Point| (all.x0..=all.x1).contains(&p.x) && (all.y0..=all.y1).contains(&p.y);
        match *el {
            PathEl::QuadTo(a, p) if !within(a) => all = all.union(kurbo::QuadBez::new(last, a, p).bounding_box()),
            PathEl::CurveTo(a, b, p) if !(within(a) && within(b)) => {
                all = all.union(kurbo::CubicBez::new(last, a, b, p).bounding_box());
            }
            _ => {}
        }
        last = el.end_point().unwrap_or(last);
    }
    all
}

/// The box around all points and handles of a stretch of path elements: never smaller than its bounds, and quick.
pub(crate) fn control_box(elements: &[PathEl]) -> Rect {
    let points = elements.iter().flat_map(|el| match *el {
        PathEl::MoveTo(p) | PathEl::LineTo(p) => [p; 3],
        PathEl::QuadTo(a, p) => [a, p, p],
        PathEl::CurveTo(a, b, p) => [a, b, p],
        PathEl::ClosePath => [Point::new(f64::NAN, f64::NAN); 3],
    });
    let mut points = points.filter(|p| !p.x.is_nan());
    let Some(first) = points.next() else {
        return Rect::ZERO;
    };
    points.fold(Rect::from_points(first, first), |b, p| b.union_pt(p))
}
