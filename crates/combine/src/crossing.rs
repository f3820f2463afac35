//! Where two curves truly cross, from a nearby guess.

use kurbo::{ParamCurve, ParamCurveDeriv, PathSeg, Point, Vec2};

/// A crossing of two segments: the parameters on both, and the point.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Crossing {
    pub t: f64,
    pub u: f64,
    pub point: Point,
}

/// Newton's method in two unknowns on `a(t) - b(u) = 0`, from the parameters of the flat crossing.
///
/// None where the curves touch rather than cross, or where the steps lead further from `near` than a flat crossing can be off by:
/// `tolerance` where they cross at a right angle.
pub(crate) fn refine(
    a: &PathSeg,
    b: &PathSeg,
    mut t: f64,
    mut u: f64,
    near: Point,
    tolerance: f64,
) -> Option<Crossing> {
    for _ in 0..8 {
        let gap = b.eval(u) - a.eval(t);
        let (da, db) = (derivative(a, t), derivative(b, u));
        let det = da.cross(db);
        if det.abs() < 1e-9 * da.hypot() * db.hypot() {
            break;
        }
        // a(t) + da dt = b(u) + db du, solved by crossing both sides with db and with da
        t = (t + gap.cross(db) / det).clamp(0.0, 1.0);
        u = (u + gap.cross(da) / det).clamp(0.0, 1.0);
    }
    let (p, q) = (a.eval(t), b.eval(u));
    // the more the curves slant to one another, the further along them the flat crossing may lie
    let (da, db) = (derivative(a, t), derivative(b, u));
    let sine = (da.cross(db) / (da.hypot() * db.hypot())).abs().max(0.01);
    let meets = (p - q).hypot() < 1e-7 * tolerance.max(1.0) && (p - near).hypot() < tolerance / sine;
    (t.is_finite() && u.is_finite() && meets).then_some(Crossing { t, u, point: p })
}

fn derivative(segment: &PathSeg, t: f64) -> Vec2 {
    match segment {
        PathSeg::Line(l) => l.p1 - l.p0,
        PathSeg::Quad(q) => q.deriv().eval(t).to_vec2(),
        PathSeg::Cubic(c) => c.deriv().eval(t).to_vec2(),
    }
}
