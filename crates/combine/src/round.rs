//! Rounding corners and getting by with fewer nodes.

use crate::fit::{few_curves, length, tangents};
use crate::flatten::closed_segments;
use kurbo::{BezPath, ParamCurve, ParamCurveArclen, ParamCurveNearest, PathEl, PathSeg, Point};

/// Turns below this angle, in radians, are no corners.
const SMOOTH: f64 = 0.12;

/// Rounds every corner of closed contours to a radius, in the path's units; both sides of a corner give up at most half of
/// their length, so short sides get a smaller radius. Curves beyond the corners stay as they are.
pub fn round_corners(path: &BezPath, radius: f64) -> BezPath {
    if radius <= 0.0 {
        return path.clone();
    }
    let mut out = BezPath::new();
    for contour in contours(path) {
        let segments: Vec<PathSeg> = closed_segments(&contour).into_iter().filter(|s| length(s) > 1e-9).collect();
        round_contour(&mut out, &segments, radius);
    }
    out
}

/// One path for each contour.
pub fn contours(path: &BezPath) -> Vec<BezPath> {
    subpaths(path).map(|s| BezPath::from_vec(s.to_vec())).collect()
}

/// The elements of each contour.
pub(crate) fn subpaths(path: &BezPath) -> impl Iterator<Item = &[PathEl]> {
    let mut rest = path.elements();
    std::iter::from_fn(move || {
        let after =
            rest.get(1..)?.iter().position(|el| matches!(el, PathEl::MoveTo(_))).map_or(rest.len(), |at| at + 1);
        let (subpath, others) = rest.split_at(after);
        rest = others;
        Some(subpath)
    })
}

fn round_contour(out: &mut BezPath, segments: &[PathSeg], radius: f64) {
    let n = segments.len();
    if n < 2 {
        return;
    }
    let lengths: Vec<f64> = segments.iter().map(length).collect();
    // how much is cut off around the corner between segment k and the next one
    let cut: Vec<f64> = (0..n)
        .map(|k| {
            let next = (k + 1) % n;
            let (a, b) = (tangents(&segments[k]).1, tangents(&segments[next]).0);
            let turn = a.cross(b).atan2(a.dot(b)).abs();
            if turn < SMOOTH || !turn.is_finite() {
                return 0.0;
            }
            (radius * (turn / 2.0).tan()).min(0.499 * lengths[k].min(lengths[next]))
        })
        .collect();
    let trimmed: Vec<PathSeg> = (0..n)
        .map(|k| {
            let (from, to) = (cut[(k + n - 1) % n], lengths[k] - cut[k]);
            let at = |far: f64| segments[k].inv_arclen(far, 1e-5);
            let start = if from > 0.0 { at(from) } else { 0.0 };
            let end = if cut[k] > 0.0 { at(to) } else { 1.0 };
            segments[k].subsegment(start..end)
        })
        .collect();
    out.move_to(trimmed[0].start());
    for k in 0..n {
        match trimmed[k] {
            PathSeg::Line(l) => out.line_to(l.p1),
            PathSeg::Quad(q) => out.quad_to(q.p1, q.p2),
            PathSeg::Cubic(c) => out.curve_to(c.p1, c.p2, c.p3),
        }
        if cut[k] > 0.0 {
            corner(out, &trimmed[k], &trimmed[(k + 1) % n]);
        }
    }
    out.close_path();
}

/// A cubic from the end of one side to the start of the next: the arc of a circle where both are straight.
fn corner(out: &mut BezPath, before: &PathSeg, after: &PathSeg) {
    let (p, q): (Point, Point) = (before.end(), after.start());
    let (a, b) = (tangents(before).1, tangents(after).0);
    let turn = a.cross(b).atan2(a.dot(b)).abs();
    let chord = (q - p).hypot();
    // handle of the cubic that is nearest to an arc of this angle with this chord
    let handle = 4.0 / 3.0 * (turn / 4.0).tan() * chord / (2.0 * (turn / 2.0).sin()).max(1e-6);
    out.curve_to(p + a * handle, q - b * handle, q);
}

/// The outline with fewer nodes, straying at most `tolerance` from it; corners stay corners.
///
/// Method: [`few_curves`]. It looks at a run at a few places only, so runs are parted where short sides meet long ones, and each
/// result is measured: what strays further stays as it was.
pub fn simplify(path: &BezPath, tolerance: f64) -> BezPath {
    if tolerance <= 0.0 || path.is_empty() {
        return path.clone();
    }
    let mut out = BezPath::new();
    for contour in contours(path) {
        let mut simple = BezPath::new();
        for run in smooth_runs(&closed_segments(&contour)) {
            for segment in simplified_run(run, tolerance) {
                if simple.is_empty() {
                    simple.move_to(segment.start());
                }
                simple.push(segment.as_path_el());
            }
        }
        simple.close_path();
        if simple.is_finite() && nodes(&simple) < nodes(&contour) {
            out.extend(simple);
        } else {
            out.extend(contour);
        }
    }
    out
}

/// The sides of a contour, parted at corners and where a side is many times as long as its neighbour; the first run starts at
/// such a place if there is one.
fn smooth_runs(segments: &[PathSeg]) -> Vec<Vec<PathSeg>> {
    const UNEVEN: f64 = 6.0;
    let segments: Vec<PathSeg> = segments.iter().copied().filter(|s| length(s) > 1e-9).collect();
    let n = segments.len();
    let lengths: Vec<f64> = segments.iter().map(length).collect();
    let breaks = |k: usize| {
        let before = (k + n - 1) % n;
        let (a, b) = (tangents(&segments[before]).1, tangents(&segments[k]).0);
        let turn = a.cross(b).atan2(a.dot(b)).abs();
        let ratio = lengths[before] / lengths[k];
        turn > 0.1 || !(1.0 / UNEVEN..=UNEVEN).contains(&ratio)
    };
    let first = (0..n).find(|&k| breaks(k)).unwrap_or(0);
    let mut runs: Vec<Vec<PathSeg>> = Vec::new();
    for step in 0..n {
        let k = (first + step) % n;
        match runs.last_mut() {
            Some(run) if !breaks(k) => run.push(segments[k]),
            _ => runs.push(vec![segments[k]]),
        }
    }
    runs
}

fn simplified_run(run: Vec<PathSeg>, tolerance: f64) -> Vec<PathSeg> {
    if run.len() < 2 {
        return run;
    }
    // a fit looks at samples only, and uses up what it may stray: what strays further between them is fitted closer
    let fits = |simple: &Vec<PathSeg>| {
        let fewer = !simple.is_empty() && simple.len() < run.len();
        fewer && strays(&run, simple, tolerance) <= tolerance && strays(simple, &run, tolerance) <= tolerance
    };
    [0.9, 0.5].into_iter().map(|share| few_curves(&run, share * tolerance)).find(fits).unwrap_or(run)
}

/// How far points of one run lie from another run at most.
fn strays(from: &[PathSeg], to: &[PathSeg], tolerance: f64) -> f64 {
    let fine = tolerance / 10.0;
    let mut line: Vec<Point> = to.first().map(|s| s.start()).into_iter().collect();
    for segment in to {
        kurbo::flatten([PathEl::MoveTo(segment.start()), segment.as_path_el()], fine, |el| {
            if let PathEl::LineTo(p) = el {
                line.push(p);
            }
        });
    }
    let far = |p: Point| {
        let sides = line.windows(2).map(|w| kurbo::Line::new(w[0], w[1]).nearest(p, fine).distance_sq);
        sides.fold(f64::MAX, f64::min).sqrt()
    };
    let places = from.iter().flat_map(|s| (1..8).map(move |k| s.eval(f64::from(k) / 8.0)));
    // a tenth of slack for the flattened side
    places.map(far).fold(0.0, f64::max) - fine
}

/// How many nodes a path has: the ends of its segments, a closed contour's start counted once.
pub fn nodes(path: &BezPath) -> usize {
    subpaths(path)
        .map(|subpath| {
            if !matches!(subpath.last(), Some(PathEl::ClosePath)) {
                return subpath.len();
            }
            let start = subpath.first().and_then(PathEl::end_point);
            let mut last = start;
            let sides = subpath.iter().skip(1).filter(|el| {
                let (from, to) = (last, el.end_point().or(start));
                last = to;
                // sides of no length are none
                matches!(el, PathEl::QuadTo(..) | PathEl::CurveTo(..)) || from != to
            });
            sides.count()
        })
        .sum()
}
