//! Few curves along many.

use kurbo::simplify::SimplifyBezPath;
use kurbo::{CubicBez, Line, ParamCurve, ParamCurveArclen, ParamCurveFit, PathSeg, Shape, Vec2, fit_to_cubic};
use std::ops::Range;

/// A turn from one side to the next that is a corner, in radians.
const CORNER: f64 = 0.1;

/// Sides that follow one another, as few curves that stray from them by `tolerance` at most, as far as samples tell. They begin and end at
/// ends of sides; corners stay corners.
///
/// Method: kurbo's curve fitting, which keeps area and moments (R. Levien, "Fitting cubic Bézier curves"), from every end as far ahead as one
/// curve does it. Every curve goes on by a side at least, so that it ends after a number of fits that is a few times that of the sides.
/// Stretches that turn sharply stay as they are: for those kurbo measures curves by their length, which does not end for very long ones.
pub fn few_curves(sides: &[PathSeg], tolerance: f64) -> Vec<PathSeg> {
    let sides: Vec<PathSeg> = sides.iter().copied().filter(|s| length(s) > 1e-9).collect();
    let is_corner = |a: &PathSeg, b: &PathSeg| {
        let (a, b) = (tangents(a).1, tangents(b).0);
        a.cross(b).atan2(a.dot(b)).abs() > CORNER
    };
    sides.chunk_by(|a, b| !is_corner(a, b)).flat_map(|run| along(run, tolerance)).collect()
}

/// Whether sides run along a line, ahead all the way.
fn is_straight(sides: &[PathSeg], line: Line, tolerance: f64) -> bool {
    let along = line.p1 - line.p0;
    let long = along.hypot();
    if long <= tolerance {
        return false;
    }
    let mut last = 0.0;
    sides.iter().map(PathSeg::to_cubic).flat_map(|c| [c.p1, c.p2, c.p3]).all(|p| {
        let (ahead, aside) = ((p - line.p0).dot(along) / long, (p - line.p0).cross(along) / long);
        let goes_on = ahead >= last - 1e-9 && ahead <= long + 1e-9 && aside.abs() <= tolerance;
        last = ahead;
        goes_on
    })
}

/// Whether a stretch turns little from each of the places that a fit looks at to the next, so that the fit measures it along normals.
fn is_gentle(source: &SimplifyBezPath, range: Range<f64>) -> bool {
    // kurbo's own places and threshold (`CurveDist` in its `fit.rs`)
    const STEPS: usize = 21;
    const SHARP: f64 = 0.2;
    let at = |k: usize| range.start + k as f64 * (range.end - range.start) / STEPS as f64;
    let tangents: Vec<Vec2> = (0..=STEPS).map(|k| source.sample_pt_tangent(at(k), 1.0).tangent).collect();
    tangents.windows(2).all(|w| w[1].cross(w[0]).abs() <= 0.95 * SHARP * w[1].dot(w[0]).abs() && w[1].dot(w[0]) > 0.0)
}

/// The same for sides without a corner between them.
fn along(run: &[PathSeg], tolerance: f64) -> Vec<PathSeg> {
    let n = run.len();
    let source = SimplifyBezPath::new(kurbo::BezPath::from_path_segments(run.iter().copied()).path_elements(0.1));
    let share = |k: usize| k as f64 / n as f64;
    let fits = |from: usize, to: usize| -> Option<PathSeg> {
        let line = Line::new(run[from].start(), run[to - 1].end());
        if is_straight(&run[from..to], line, tolerance) {
            return Some(PathSeg::Line(line));
        }
        if !is_gentle(&source, share(from)..share(to)) {
            return None;
        }
        let (curve, _) = fit_to_cubic(&source, share(from)..share(to), tolerance)?;
        let curve = CubicBez { p0: line.p0, p3: line.p1, ..curve };
        (curve.p1.is_finite() && curve.p2.is_finite()).then_some(PathSeg::Cubic(curve))
    };
    let mut out = Vec::new();
    let mut from = 0;
    while from < n {
        // all that is left, else as far as halving finds; one side is what it is
        let (mut best, mut curve, mut far) = (from + 1, None, n + 1);
        let mut to = n;
        while far > best + 1 {
            match fits(from, to) {
                Some(fit) => (best, curve) = (to, Some(fit)),
                None => far = to,
            }
            to = best.midpoint(far);
        }
        out.push(curve.unwrap_or(run[from]));
        from = best;
    }
    out
}

pub(crate) fn length(segment: &PathSeg) -> f64 {
    segment.arclen(1e-4)
}

pub(crate) fn tangents(segment: &PathSeg) -> (Vec2, Vec2) {
    // handles of no length leave the direction to the next point
    let c = segment.to_cubic();
    let first = [c.p1, c.p2, c.p3].into_iter().map(|p| p - c.p0).find(|v| v.hypot() > 1e-9);
    let last = [c.p2, c.p1, c.p0].into_iter().map(|p| c.p3 - p).find(|v| v.hypot() > 1e-9);
    let unit = |v: Option<Vec2>| v.map_or(Vec2::ZERO, |v| v.normalize());
    (unit(first), unit(last))
}
