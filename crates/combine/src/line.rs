//! The line along an outline, and growing and shrinking by it.

use crate::flatten::flatten_tolerance;
use crate::joins::{Rule, join_pair, unite};
use crate::round::contours;
use kurbo::{BezPath, Cap, Join, ParamCurve, ParamCurveNearest, PathSeg, Point, Shape, Stroke, StrokeOpts};

/// How far a mitred corner may reach, in widths of the line (the SVG default for `stroke-miterlimit`).
const MITER_LIMIT: f64 = 4.0;

/// Where a line runs along an outline.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum LineSide {
    Inside,
    Centre,
    Outside,
}

/// How a line along an outline looks; its width in units of the path.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct LineStyle {
    pub width: f64,
    pub side: LineSide,
    pub corners: Join,
    pub ends: Cap,
}

/// The line along a path as an outline. A path that is open has no inside: its line is centred whatever side is asked for.
pub fn own_line(path: &BezPath, line: &LineStyle) -> BezPath {
    let open = !is_closed(path);
    let side = if open { LineSide::Centre } else { line.side };
    let width = if side == LineSide::Centre { line.width } else { 2.0 * line.width };
    let style = Stroke::new(width).with_join(line.corners).with_miter_limit(MITER_LIMIT).with_caps(line.ends);
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
