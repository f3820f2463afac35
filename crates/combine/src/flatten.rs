//! Curves to polygons: the flat edges of a path with the curve pieces they stand for.

use kurbo::{BezPath, ParamCurve, PathEl, PathSeg, Point, Rect, Shape};

/// How far a flat edge may lie from its curve, for outlines that fill `bounds`: a twenty-thousandth of the longer side.
pub fn flatten_tolerance(bounds: Rect) -> f64 {
    (bounds.width().max(bounds.height()) / 20_000.0).max(1e-9)
}

/// How many equal steps of the parameter keep a segment within `tolerance`.
///
/// From the bound on the second derivative (Wang's formula; see R. Levien, "Flattening quadratic Béziers").
pub fn steps(segment: &PathSeg, tolerance: f64) -> usize {
    let PathSeg::Line(_) = segment else {
        let c = segment.to_cubic();
        let bend = |a: Point, b: Point, c: Point| (a.to_vec2() - 2.0 * b.to_vec2() + c.to_vec2()).hypot();
        let d = 6.0 * bend(c.p0, c.p1, c.p2).max(bend(c.p1, c.p2, c.p3));
        return ((d / (8.0 * tolerance)).sqrt().ceil() as usize).clamp(1, 4096);
    };
    1
}

/// The segments of a path, every contour closed by a line where it is left open.
pub fn closed_segments(path: &BezPath) -> Vec<PathSeg> {
    let mut segments = Vec::with_capacity(path.elements().len());
    let (mut start, mut last) = (Point::ZERO, Point::ZERO);
    let close = |segments: &mut Vec<PathSeg>, last: Point, start: Point| {
        if last != start {
            segments.push(PathSeg::Line(kurbo::Line::new(last, start)));
        }
    };
    for el in path.elements() {
        match *el {
            PathEl::MoveTo(p) => {
                close(&mut segments, last, start);
                start = p;
                last = p;
            }
            PathEl::LineTo(p) => {
                if p != last {
                    segments.push(PathSeg::Line(kurbo::Line::new(last, p)));
                }
                last = p;
            }
            PathEl::QuadTo(a, p) => {
                segments.push(PathSeg::Quad(kurbo::QuadBez::new(last, a, p)));
                last = p;
            }
            PathEl::CurveTo(a, b, p) => {
                segments.push(PathSeg::Cubic(kurbo::CubicBez::new(last, a, b, p)));
                last = p;
            }
            PathEl::ClosePath => {
                close(&mut segments, last, start);
                last = start;
            }
        }
    }
    close(&mut segments, last, start);
    segments
}

/// Area inside a path whose contours do not overlap, in square units; holes count negative, orientation does not matter.
pub fn area(path: &BezPath) -> f64 {
    path.area().abs()
}

/// Whether a point lies inside by the nonzero rule, tested on the polygon, which has no trouble at vertices.
pub fn contains(path: &BezPath, point: Point, tolerance: f64) -> bool {
    Flat::new(path, tolerance).winding(point) != 0
}

/// The flat edges of a path, every contour closed, for many tests of points.
pub(crate) struct Flat(Vec<(Point, Point)>);

impl Flat {
    /// Every curve of a path within `tolerance` (units of the path) of its lines.
    pub fn new(path: &BezPath, tolerance: f64) -> Self {
        let mut edges = Vec::with_capacity(path.elements().len() * 4);
        for segment in closed_segments(path) {
            let n = steps(&segment, tolerance);
            let mut a = segment.start();
            for i in 1..=n {
                let b = if i == n { segment.end() } else { segment.eval(i as f64 / n as f64) };
                edges.push((a, b));
                a = b;
            }
        }
        Self(edges)
    }

    /// The corners of its polygons, one after the other.
    pub fn corners(&self) -> Vec<[f64; 2]> {
        self.0.iter().map(|(a, _)| [a.x, a.y]).collect()
    }

    /// How often the path winds around a point.
    pub fn winding(&self, point: Point) -> i32 {
        let mut winding = 0;
        for (a, b) in &self.0 {
            if (a.y <= point.y) == (b.y <= point.y) {
                continue;
            }
            let side = (b.x - a.x) * (point.y - a.y) - (point.x - a.x) * (b.y - a.y);
            if a.y <= point.y && side > 0.0 {
                winding += 1;
            } else if a.y > point.y && side < 0.0 {
                winding -= 1;
            }
        }
        winding
    }
}
