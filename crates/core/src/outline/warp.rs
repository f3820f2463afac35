//! Paths through a map of the plane that bends them: curves stay curves.

use kurbo::{BezPath, CubicBez, Line, ParamCurve, PathEl, PathSeg, Point, Vec2};

/// How often a segment may be halved.
const HALVINGS: u32 = 7;

/// The image of a path under `map`, within `tolerance` (both in the map's target space).
///
/// Each segment becomes the cubic that has the image's ends and its derivatives there (Hermite's interpolation); where that
/// strays from the image, the segment is halved. Straight sides that stay straight stay lines.
pub fn warp(path: &BezPath, map: impl Fn(Point) -> Point, tolerance: f64) -> BezPath {
    let mut out = BezPath::new();
    let (mut start, mut last) = (Point::ZERO, Point::ZERO);
    for el in path.elements() {
        let segment = match *el {
            PathEl::MoveTo(p) => {
                out.move_to(map(p));
                (start, last) = (p, p);
                continue;
            }
            PathEl::LineTo(p) => PathSeg::Line(Line::new(last, p)),
            PathEl::QuadTo(a, p) => PathSeg::Quad(kurbo::QuadBez::new(last, a, p)),
            PathEl::CurveTo(a, b, p) => PathSeg::Cubic(CubicBez::new(last, a, b, p)),
            PathEl::ClosePath => {
                if (last - start).hypot() > 1e-9 {
                    bend(&mut out, &PathSeg::Line(Line::new(last, start)), &map, tolerance, HALVINGS);
                }
                out.close_path();
                last = start;
                continue;
            }
        };
        bend(&mut out, &segment, &map, tolerance, HALVINGS);
        last = segment.end();
    }
    out
}

fn bend(out: &mut BezPath, segment: &PathSeg, map: &impl Fn(Point) -> Point, tolerance: f64, halvings: u32) {
    let at = |t: f64| map(segment.eval(t));
    let (p0, p3) = (at(0.0), at(1.0));
    let chord = p3 - p0;
    let off_chord =
        |p: Point| if chord.hypot() < 1e-12 { (p - p0).hypot() } else { chord.cross(p - p0).abs() / chord.hypot() };
    if matches!(segment, PathSeg::Line(_)) && [0.2, 0.4, 0.6, 0.8].iter().all(|t| off_chord(at(*t)) < 0.02 * tolerance)
    {
        out.line_to(p3);
        return;
    }
    let h = 1e-4;
    // a Bézier segment goes on beyond its ends, so the derivative there can be taken from both sides
    let derivative = |t: f64| -> Vec2 { (at(t + h) - at(t - h)) / (2.0 * h) };
    let cubic = CubicBez::new(p0, p0 + derivative(0.0) / 3.0, p3 - derivative(1.0) / 3.0, p3);
    let strays = [0.25, 0.5, 0.75].iter().any(|t| (cubic.eval(*t) - at(*t)).hypot() > tolerance);
    if strays && halvings > 0 {
        bend(out, &segment.subsegment(0.0..0.5), map, tolerance, halvings - 1);
        bend(out, &segment.subsegment(0.5..1.0), map, tolerance, halvings - 1);
    } else {
        out.curve_to(cubic.p1, cubic.p2, cubic.p3);
    }
}
