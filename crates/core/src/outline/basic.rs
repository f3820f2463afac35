//! Basic shapes to Bézier paths, in their own box about the origin.

use crate::combine::round_corners;
use crate::sheet::{BasicShape, Figure, Tip};
use kurbo::{Affine, Arc, BezPath, Circle, Ellipse, Point, Rect, RoundedRect, RoundedRectRadii, Shape, Vec2};
use std::f64::consts::{PI, TAU};

/// How exactly circles become Béziers, as a share of the radius.
const ROUND: f64 = 1e-5;

/// The outline of a basic shape (nonzero rule), in millimetres, `width` x `height` about the origin.
pub fn basic_path(shape: &BasicShape) -> BezPath {
    let (w, h) = (shape.width, shape.height);
    let unit = Affine::scale_non_uniform(w / 2.0, h / 2.0);
    let frame = Rect::new(-w / 2.0, -h / 2.0, w / 2.0, h / 2.0);
    match &shape.figure {
        Figure::Ellipse => unit * circle(1.0),
        Figure::Box { corners } => boxed(frame, corners),
        Figure::Ring { hole } => {
            let mut ring = unit * circle(1.0);
            let hole = hole.clamp(0.0, 0.999);
            if hole > 0.0 {
                ring.extend((unit * circle(hole)).reverse_subpaths());
            }
            ring
        }
        Figure::Sector { from, sweep } => unit * sector(*from, *sweep),
        Figure::Triangle { lean, rounding } => {
            let top = frame.x0 + lean.clamp(0.0, 1.0) * w;
            let corners = [(top, frame.y0), (frame.x1, frame.y1), (frame.x0, frame.y1)];
            rounded(polygon(corners.into_iter().map(Point::from)), *rounding)
        }
        Figure::Polygon { sides, rounding, fitted: whole } => {
            let corners = corners_on_circle((*sides).clamp(3, 200), |_| 1.0);
            rounded(if *whole { fitted(corners, frame) } else { unit * corners }, *rounding)
        }
        Figure::Star { points, depth, rounding, fitted: whole } => {
            let inner = 1.0 - depth.clamp(0.0, 0.98);
            let radius = |k: u32| if k.is_multiple_of(2) { 1.0 } else { inner };
            let corners = corners_on_circle(2 * (*points).clamp(3, 200), radius);
            rounded(if *whole { fitted(corners, frame) } else { unit * corners }, *rounding)
        }
        Figure::Heart => fitted(heart(), frame),
        Figure::Arch { rise } => arch(frame, rise.clamp(0.0, 1.0)),
        Figure::Drop => fitted(drop_shape(), frame),
        Figure::Cross { arm } => unit * cross(arm.clamp(0.01, 1.0)),
        Figure::Arrow { head, shaft } => arrow(frame, head.clamp(0.02, 1.0), shaft.clamp(0.02, 1.0)),
        Figure::Zigzag { teeth, depth } => zigzag(frame, (*teeth).clamp(1, 200), depth.clamp(0.0, 0.98)),
        Figure::Cloud { bumps } => fitted(cloud((*bumps).clamp(3, 60)), frame),
        Figure::Blot { seed, roughness } => fitted(blot(*seed, roughness.clamp(0.0, 1.0)), frame),
        Figure::Line { ends } => line(frame, *ends),
    }
}

fn circle(radius: f64) -> BezPath {
    Circle::new(Point::ORIGIN, radius).to_path(ROUND * radius.max(0.01))
}

fn boxed(frame: Rect, corners: &[f64; 4]) -> BezPath {
    // the SVG and CSS rule: radii that do not fit side by side shrink together
    let [a, b, c, d] = corners.map(|r| r.max(0.0));
    let fit = |sum: f64, side: f64| if sum > side { side / sum } else { 1.0 };
    let k =
        [fit(a + b, frame.width()), fit(c + d, frame.width()), fit(b + c, frame.height()), fit(a + d, frame.height())]
            .into_iter()
            .fold(1.0, f64::min);
    if a + b + c + d <= 0.0 {
        return frame.to_path(0.1);
    }
    let radii = RoundedRectRadii::new(a * k, b * k, c * k, d * k);
    RoundedRect::from_rect(frame, radii).to_path(ROUND * frame.width().min(frame.height()))
}

fn polygon(points: impl IntoIterator<Item = Point>) -> BezPath {
    let mut path = BezPath::new();
    for (i, p) in points.into_iter().enumerate() {
        if i == 0 { path.move_to(p) } else { path.line_to(p) }
    }
    path.close_path();
    path
}

/// `n` points clockwise from the top.
fn corners_on_circle(n: u32, radius: impl Fn(u32) -> f64) -> BezPath {
    polygon((0..n).map(|k| (Vec2::from_angle(TAU * f64::from(k) / f64::from(n) - PI / 2.0) * radius(k)).to_point()))
}

fn rounded(path: BezPath, radius: f64) -> BezPath {
    if radius > 0.0 { round_corners(&path, radius) } else { path }
}

fn sector(from: f64, sweep: f64) -> BezPath {
    if sweep.abs() >= 360.0 {
        return circle(1.0);
    }
    let arc = Arc::new(Point::ORIGIN, (1.0, 1.0), (from - 90.0).to_radians(), sweep.to_radians(), 0.0);
    let mut path = BezPath::new();
    path.move_to(Point::ORIGIN);
    let start = Vec2::from_angle(arc.start_angle).to_point();
    path.line_to(start);
    arc.to_cubic_beziers(ROUND, |a, b, p| path.curve_to(a, b, p));
    path.close_path();
    path
}

/// Scales a path so that it fills a box.
fn fitted(path: BezPath, frame: Rect) -> BezPath {
    let b = path.bounding_box();
    Affine::translate(frame.origin().to_vec2())
        * Affine::scale_non_uniform(frame.width() / b.width(), frame.height() / b.height())
        * Affine::translate(-b.origin().to_vec2())
        * path
}

fn heart() -> BezPath {
    let mut path = BezPath::new();
    path.move_to((0.0, 1.0));
    path.curve_to((-0.35, 0.62), (-1.0, 0.2), (-1.0, -0.38));
    path.curve_to((-1.0, -0.76), (-0.74, -0.96), (-0.48, -0.96));
    path.curve_to((-0.24, -0.96), (-0.08, -0.82), (0.0, -0.6));
    path.curve_to((0.08, -0.82), (0.24, -0.96), (0.48, -0.96));
    path.curve_to((0.74, -0.96), (1.0, -0.76), (1.0, -0.38));
    path.curve_to((1.0, 0.2), (0.35, 0.62), (0.0, 1.0));
    path.close_path();
    path
}

fn arch(frame: Rect, rise: f64) -> BezPath {
    let spring = frame.y0 + rise * frame.height();
    let mut path = BezPath::new();
    path.move_to((frame.x0, frame.y1));
    path.line_to((frame.x0, spring));
    let bow = Arc::new(Point::new(0.0, spring), (frame.width() / 2.0, spring - frame.y0), PI, PI, 0.0);
    bow.to_cubic_beziers(ROUND * frame.width(), |a, b, p| path.curve_to(a, b, p));
    path.line_to((frame.x1, frame.y1));
    path.close_path();
    path
}

fn drop_shape() -> BezPath {
    let mut path = BezPath::new();
    path.move_to((0.0, -1.6));
    path.curve_to((0.12, -1.1), (1.0, -0.55), (1.0, 0.0));
    Arc::new(Point::ORIGIN, (1.0, 1.0), 0.0, PI, 0.0).to_cubic_beziers(ROUND, |a, b, p| path.curve_to(a, b, p));
    path.curve_to((-1.0, -0.55), (-0.12, -1.1), (0.0, -1.6));
    path.close_path();
    path
}

fn cross(a: f64) -> BezPath {
    let corners = [
        (-a, -1.0),
        (a, -1.0),
        (a, -a),
        (1.0, -a),
        (1.0, a),
        (a, a),
        (a, 1.0),
        (-a, 1.0),
        (-a, a),
        (-1.0, a),
        (-1.0, -a),
        (-a, -a),
    ];
    polygon(corners.into_iter().map(Point::from))
}

fn arrow(f: Rect, head: f64, shaft: f64) -> BezPath {
    let neck = f.x1 - head * f.width();
    let half = shaft * f.height() / 2.0;
    let corners = [(f.x0, -half), (neck, -half), (neck, f.y0), (f.x1, 0.0), (neck, f.y1), (neck, half), (f.x0, half)];
    polygon(corners.into_iter().map(Point::from))
}

fn zigzag(f: Rect, teeth: u32, depth: f64) -> BezPath {
    let n = 2 * teeth;
    let (drop, step) = (depth * f.height(), f.width() / f64::from(n));
    let at =
        |k: u32, top: f64| Point::new(f.x0 + f64::from(k) * step, top + if k.is_multiple_of(2) { drop } else { 0.0 });
    let upper = (0..=n).map(|k| at(k, f.y0));
    let lower = (0..=n).rev().map(|k| at(k, f.y1 - drop));
    polygon(upper.chain(lower))
}

/// Bumps along an ellipse, bulging outwards as arcs.
fn cloud(bumps: u32) -> BezPath {
    let ellipse = Ellipse::new(Point::ORIGIN, (1.0, 0.62), 0.0);
    let at = |k: u32| {
        // bumps of two sizes in turn look drawn rather than stamped
        let shift = if k.is_multiple_of(2) { 0.0 } else { 0.16 };
        let a = TAU * (f64::from(k % bumps) + shift) / f64::from(bumps);
        Point::new(ellipse.radii().x * a.cos(), ellipse.radii().y * a.sin())
    };
    let mut path = BezPath::new();
    path.move_to(at(0));
    for k in 0..bumps {
        let (p, q) = (at(k), at(k + 1));
        let out = Vec2::new((q - p).y, -(q - p).x) * 0.75;
        path.curve_to(p + out, q + out, q);
    }
    path.close_path();
    path
}

/// A smooth closed curve through points at uneven distances from the centre, with drops let fly at high roughness.
fn blot(seed: u32, roughness: f64) -> BezPath {
    let mut dice = Dice(seed);
    let n = 10 + (roughness * 14.0) as usize;
    let points: Vec<Point> = (0..n)
        .map(|k| {
            let angle = TAU * (k as f64 + 0.5 * roughness * (dice.roll() - 0.5)) / n as f64;
            let spike = if dice.roll() < 0.3 { 0.9 * dice.roll() } else { 0.0 };
            let radius = 1.0 + roughness * (0.5 * (dice.roll() - 0.5) + spike);
            (Vec2::from_angle(angle) * radius).to_point()
        })
        .collect();
    let mut path = BezPath::new();
    path.move_to(points[0]);
    // Catmull-Rom tangents
    let tangent = |k: usize| (points[(k + 1) % n] - points[(k + n - 1) % n]) / 6.0;
    for k in 0..n {
        let next = (k + 1) % n;
        path.curve_to(points[k] + tangent(k), points[next] - tangent(next), points[next]);
    }
    path.close_path();
    for _ in 0..(roughness * 9.0) as usize {
        let (angle, far, size) = (TAU * dice.roll(), 1.3 + 0.7 * dice.roll(), 0.03 + 0.09 * dice.roll());
        let centre = (Vec2::from_angle(angle) * far).to_point();
        path.extend(Circle::new(centre, size).to_path(ROUND));
    }
    path
}

/// A small generator of even numbers in 0..1 (SplitMix64, G. Steele et al. 2014): shapes must not change with a library.
struct Dice(u32);

impl Dice {
    fn roll(&mut self) -> f64 {
        self.0 = self.0.wrapping_add(0x9e37_79b9);
        let mut z = u64::from(self.0).wrapping_mul(0xbf58_476d_1ce4_e5b9);
        z = (z ^ (z >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
        ((z ^ (z >> 31)) >> 11) as f64 / (1u64 << 53) as f64
    }
}

fn line(f: Rect, ends: Tip) -> BezPath {
    let half = f.height() / 2.0;
    match ends {
        Tip::Flat => f.to_path(0.1),
        Tip::Round => boxed(f, &[half; 4]),
        Tip::Pointed => {
            let in_ = half.min(f.width() / 2.0);
            let (l, r) = (f.x0 + in_, f.x1 - in_);
            polygon([(f.x0, 0.0), (l, f.y0), (r, f.y0), (f.x1, 0.0), (r, f.y1), (l, f.y1)].into_iter().map(Point::from))
        }
    }
}
