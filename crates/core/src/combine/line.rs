//! The line along an outline, and growing and shrinking by it.

use super::flatten::flatten_tolerance;
use super::provenance::{Rule, join_pair, unite};
use super::round::contours;
use crate::sheet::{LineCorner, LineEnd, LineSide, OwnLine};
use kurbo::{BezPath, Cap, Join, ParamCurve, ParamCurveNearest, PathSeg, Point, Shape, Stroke, StrokeOpts};

/// How far a mitred corner may reach, in widths of the line (the SVG default for `stroke-miterlimit`).
const MITER_LIMIT: f64 = 4.0;

/// The line along a path as an outline. A path that is open has no inside: its line is centred whatever side is asked for.
pub fn own_line(path: &BezPath, line: &OwnLine) -> BezPath {
    let open = !is_closed(path);
    let side = if open { LineSide::Centre } else { line.side };
    let width = if side == LineSide::Centre { line.width } else { 2.0 * line.width };
    let style = Stroke::new(width)
        .with_join(match line.corners {
            LineCorner::Miter => Join::Miter,
            LineCorner::Round => Join::Round,
            LineCorner::Bevel => Join::Bevel,
        })
        .with_miter_limit(MITER_LIMIT)
        .with_caps(match line.ends {
            LineEnd::Butt => Cap::Butt,
            LineEnd::Round => Cap::Round,
            LineEnd::Square => Cap::Square,
        });
    // overlaps inside an outline have no edge of their own, and so no line
    let source = if open { path.clone() } else { unite(path) };
    let stroke = unite(&stroked(&source, &style));
    let stroke = if open { stroke } else { without_turned(&stroke, &source, width / 2.0) };
    match side {
        LineSide::Centre => stroke,
        LineSide::Inside => join_pair(&source, &stroke, Rule::Intersection),
        LineSide::Outside => join_pair(&stroke, &source, Rule::Difference),
    }
}

/// An outline without overlaps, grown by `by` on every side, or shrunk where `by` is negative. Units of the path.
///
/// Corners are mitred as far as [`MITER_LIMIT`] allows, so that letters keep theirs.
pub fn grow(path: &BezPath, by: f64) -> BezPath {
    if by == 0.0 || path.is_empty() {
        return path.clone();
    }
    let style = Stroke::new(2.0 * by.abs()).with_join(Join::Miter).with_miter_limit(MITER_LIMIT);
    let rule = if by > 0.0 { Rule::Union } else { Rule::Difference };
    without_turned(&join_pair(path, &stroked(path, &style), rule), path, by.abs())
}

/// Without the contours of an offset that turned inside out: where an outline is narrower than twice the offset, the parallel
/// curve of the far side runs back across it, too near to the outline to be its offset.
fn without_turned(offset: &BezPath, source: &BezPath, by: f64) -> BezPath {
    let sides: Vec<_> = source.segments().map(|s| (s, s.bounding_box().inflate(by, by))).collect();
    let exact = flatten_tolerance(source.bounding_box().inflate(by, by));
    let least = by - (0.01 * by).max(4.0 * exact);
    let near = |p: Point| {
        let close = |s: &PathSeg| s.nearest(p, exact).distance_sq.sqrt() < least;
        sides.iter().any(|(s, reach)| reach.contains(p) && close(s))
    };
    // by length: the ends of mitres that are cut off lie near, but are short
    let turned = |contour: &BezPath| {
        let segments: Vec<PathSeg> = contour.segments().collect();
        let (mut inside, mut whole) = (0.0, 0.0);
        for s in segments.iter().step_by(segments.len() / 24 + 1) {
            let length = (s.end() - s.start()).hypot();
            whole += length;
            inside += if near(s.eval(0.5)) { length } else { 0.0 };
        }
        inside > 0.5 * whole
    };
    contours(offset).iter().filter(|c| !turned(c)).flat_map(|c| c.elements().iter().copied()).collect()
}

fn stroked(path: &BezPath, style: &Stroke) -> BezPath {
    // finer than the joins need: a stroke is twice as far from its curve as the curve from itself
    let tolerance = flatten_tolerance(path.bounding_box().inflate(style.width, style.width));
    kurbo::stroke(path.elements().iter().copied(), style, &StrokeOpts::default(), tolerance)
}

/// Whether every contour is closed.
fn is_closed(path: &BezPath) -> bool {
    use kurbo::PathEl::{ClosePath, MoveTo};
    let els = path.elements();
    let ends_closed = |i: usize| matches!(els[i], ClosePath);
    els.last().is_some_and(|e| matches!(e, ClosePath))
        && (1..els.len()).filter(|&i| matches!(els[i], MoveTo(_))).all(|i| ends_closed(i - 1))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::combine::area;
    use kurbo::{Circle, Rect};
    use std::f64::consts::PI;

    fn line(side: LineSide) -> OwnLine {
        OwnLine { width: 2.0, side, corners: LineCorner::Miter, ends: LineEnd::Butt }
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
        let square = OwnLine { ends: LineEnd::Square, ..line(LineSide::Centre) };
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
            let inside = own_line(&disc, &OwnLine { width: by, ..line(LineSide::Inside) });
            assert!((area(&inside) - area(&disc)).abs() < 1e-4 * area(&disc), "{by}: {}", area(&inside));
        }
        let wide = own_line(&disc, &OwnLine { width: 60.0, ..line(LineSide::Centre) });
        assert!((area(&wide) - PI * 2500.0).abs() < 1e-3 * PI * 2500.0);
        let ring = own_line(&disc, &OwnLine { width: 10.0, ..line(LineSide::Centre) });
        assert!((area(&grow(&ring, -4.0)) - PI * (441.0 - 361.0)).abs() < 0.5, "{}", area(&grow(&ring, -4.0)));
    }
}
