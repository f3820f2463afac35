//! A cheap look at every result, and the polygons that stand in where it is wrong.

use crate::flatten::{Flat, closed_segments, flatten_tolerance};
use i_overlay::core::fill_rule::FillRule;
use i_overlay::core::overlay_rule::OverlayRule;
use i_overlay::float::single::SingleFloatOverlay;
use kurbo::{BezPath, ParamCurve, ParamCurveDeriv, PathSeg, Point, Rect, Shape, Vec2};

/// Points that are tried.
const SAMPLES: usize = 10;

/// The result if it holds what it should at sample points on either side of the inputs' edges; otherwise the outline made of
/// plain polygons.
///
/// `inside` says from the windings of both inputs whether a point belongs to the result.
pub fn checked(result: BezPath, a: &BezPath, b: Option<&BezPath>, inside: impl Fn(i32, i32) -> bool) -> BezPath {
    let finite = |p: &&BezPath| p.is_finite() && !p.is_empty();
    let inputs: Vec<&BezPath> = [Some(a), b].into_iter().flatten().filter(finite).collect();
    let Some(bounds) = inputs.iter().map(|p| p.bounding_box()).reduce(|x: Rect, y| x.union(y)) else {
        return result;
    };
    let tolerance = flatten_tolerance(bounds);
    let flat = |p: Option<&BezPath>| p.filter(finite).map(|p| Flat::new(p, tolerance));
    let (flat_a, flat_b, flat_result) = (flat(Some(a)), flat(b), Flat::new(&result, tolerance));
    let winding = |f: &Option<Flat>, p| f.as_ref().map_or(0, |f| f.winding(p));
    let windings = |p: Point| (winding(&flat_a, p), winding(&flat_b, p));
    let wrong = samples(&inputs, 30.0 * tolerance).into_iter().find(|&p| {
        let (wa, wb) = windings(p);
        if inside(wa, wb) == (flat_result.winding(p) != 0) {
            return false;
        }
        // near another edge either answer is right
        let near = 3.0 * tolerance;
        [(near, 0.0), (-near, 0.0), (0.0, near), (0.0, -near)].iter().all(|&d| windings(p + Vec2::from(d)) == (wa, wb))
    });
    let Some(at) = wrong else {
        return result;
    };
    tracing::warn!(x = at.x, y = at.y, "a join is wrong at this place, polygons are used instead");
    // finer than the curves were flattened: here the polygons are what stays
    polygons(a, b, &inside, tolerance / 20.0)
}

/// Places beside the middles of a few segments, to the left and to the right in turn.
fn samples(inputs: &[&BezPath], distance: f64) -> Vec<Point> {
    let segments: Vec<PathSeg> = inputs.iter().flat_map(|p| closed_segments(p)).collect();
    let stride = (segments.len() / SAMPLES).max(1);
    segments
        .iter()
        .step_by(stride)
        .take(SAMPLES)
        .enumerate()
        .filter_map(|(i, s)| {
            let along = match s {
                PathSeg::Line(l) => l.p1 - l.p0,
                PathSeg::Quad(q) => q.deriv().eval(0.5).to_vec2(),
                PathSeg::Cubic(c) => c.deriv().eval(0.5).to_vec2(),
            };
            let side = if i % 2 == 0 { distance } else { -distance };
            let length = along.hypot();
            (length > 1e-12).then(|| s.eval(0.5) + Vec2::new(-along.y, along.x) * (side / length))
        })
        .collect()
}

/// The same operation on polygons by the engine's own float interface.
fn polygons(a: &BezPath, b: Option<&BezPath>, inside: &impl Fn(i32, i32) -> bool, tolerance: f64) -> BezPath {
    let rings = |p: Option<&BezPath>| {
        let mut rings: Vec<Vec<[f64; 2]>> = Vec::new();
        let Some(p) = p else { return rings };
        kurbo::flatten(p.elements().iter().copied(), tolerance, |el| match el {
            kurbo::PathEl::MoveTo(p) => rings.push(vec![[p.x, p.y]]),
            kurbo::PathEl::LineTo(p) => rings.iter_mut().last().into_iter().for_each(|r| r.push([p.x, p.y])),
            _ => {}
        });
        rings
    };
    // which rule the question stands for
    let rule = match (inside(1, 0), inside(0, 1), inside(1, 1)) {
        _ if b.is_none() => OverlayRule::Subject,
        (true, true, true) => OverlayRule::Union,
        (true, true, false) => OverlayRule::Xor,
        (true, false, _) => OverlayRule::Difference,
        _ => OverlayRule::Intersect,
    };
    let fill = if b.is_none() && !inside(2, 0) { FillRule::EvenOdd } else { FillRule::NonZero };
    let mut path = BezPath::new();
    for ring in rings(Some(a)).overlay(&rings(b), rule, fill).iter().flatten() {
        for (i, p) in ring.iter().enumerate() {
            if i == 0 { path.move_to((p[0], p[1])) } else { path.line_to((p[0], p[1])) }
        }
        path.close_path();
    }
    path
}
