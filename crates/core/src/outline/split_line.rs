//! The lines that split windows, as paths.

use crate::sheet::{Course, SplitLine};
use kurbo::{BezPath, ParamCurve, PathSeg, Point, Rect, Shape, Vec2};

/// Pieces of a torn line, at most.
const TORN_STEPS: f64 = 400.0;
/// How much shorter than it strays a piece of a torn line is.
const TORN_GRAIN: f64 = 5.0;
/// Nearer than this, in millimetres, a line only touches itself.
const TOUCH: f64 = 1e-6;
/// Corners of the polygon that closes a side, at most this many radians apart.
const ARC_STEP: f64 = 0.15;

/// A line from its first to its last point, without what runs on beyond them. Sheet space.
pub fn split_line_path(line: &SplitLine) -> BezPath {
    let points: Vec<Point> = line.points.iter().map(|[x, y]| Point::new(*x, *y)).collect();
    match line.course {
        Course::Straight => polyline(&points),
        Course::Smooth => smooth(&points),
        Course::Zigzag { count, depth } => {
            let steps = 2 * count.max(1) as usize;
            let offset = |k: usize| match k {
                0 => 0.0,
                k if k == steps => 0.0,
                k if k % 2 == 1 => depth / 2.0,
                _ => -depth / 2.0,
            };
            let chain = Chain::new(&points);
            let at = |k: usize| chain.beside(k as f64 / steps as f64, offset(k));
            polyline(&(0..=steps).map(at).collect::<Vec<_>>())
        }
        Course::Torn { depth, seed } => {
            let chain = Chain::new(&points);
            let steps = (chain.length() * TORN_GRAIN / depth.abs().max(1e-3)).clamp(8.0, TORN_STEPS).round();
            let at = |k: usize| {
                let t = k as f64 / steps;
                // it begins and ends on the line, so that it runs on from there
                let fade = (8.0 * t.min(1.0 - t)).min(1.0);
                chain.beside(t, fade * depth / 2.0 * noise(k as f64 / TORN_GRAIN, seed))
            };
            polyline(&(0..=steps as usize).map(at).collect::<Vec<_>>())
        }
    }
}

/// A line that runs on straight beyond its ends, as far as a circle around `frame`; with the radius and centre of that.
pub(super) struct Extended {
    pub path: BezPath,
    ends: [Point; 2],
    centre: Point,
}

impl Extended {
    /// `frame` is what it has to run across; sheet space.
    pub fn new(line: &SplitLine, frame: Rect) -> Self {
        let own = split_line_path(line);
        let frame = frame.union(own.bounding_box());
        let centre = frame.center();
        let radius = 0.75 * frame.width().hypot(frame.height()) + 1.0;
        let points: Vec<Point> = line.points.iter().map(|[x, y]| Point::new(*x, *y)).collect();
        let (first, last) = (points[0], points[points.len() - 1]);
        // a curve leaves along its own tangent
        let segments: Vec<PathSeg> = own.segments().collect();
        let (before, after) = match (line.course, segments.first(), segments.last()) {
            (Course::Smooth, Some(a), Some(b)) => (first - a.eval(0.01), last - b.eval(0.99)),
            _ => (first - points[1], last - points[points.len() - 2]),
        };
        let ends = [to_circle(first, before, centre, radius), to_circle(last, after, centre, radius)];
        let mut path = BezPath::new();
        path.move_to(ends[0]);
        path.line_to(first);
        path.extend(own.elements().iter().skip(1).copied());
        path.line_to(ends[1]);
        Self { path, ends, centre }
    }

    /// What lies to the right of someone who walks along it, within the circle.
    pub fn right(&self) -> BezPath {
        let mut path = self.path.clone();
        let angle = |p: Point| (p - self.centre).atan2();
        let (from, mut to) = (angle(self.ends[1]), angle(self.ends[0]));
        if to <= from {
            to += std::f64::consts::TAU;
        }
        let radius = (self.ends[0] - self.centre).hypot();
        let steps = ((to - from) / ARC_STEP).ceil().max(1.0);
        for k in 1..steps as usize {
            path.line_to(self.centre + radius * Vec2::from_angle(from + (to - from) * k as f64 / steps));
        }
        path.close_path();
        path
    }

    /// A step of one millimetre away from it, to the right.
    pub fn to_the_right(&self) -> Vec2 {
        let along = self.ends[1] - self.ends[0];
        Vec2::new(-along.y, along.x) / along.hypot().max(1e-9)
    }

    /// Whether it meets itself.
    pub fn crosses_itself(&self, tolerance: f64) -> bool {
        let mut corners: Vec<Point> = Vec::new();
        kurbo::flatten(&self.path, tolerance, |el| corners.extend(el.end_point()));
        let lines: Vec<(Point, Point)> = corners.windows(2).map(|w| (w[0], w[1])).filter(|(a, b)| a != b).collect();
        lines.iter().enumerate().any(|(k, a)| {
            let folds = lines.get(k + 1).is_some_and(|b| {
                let (u, v) = (a.1 - a.0, b.1 - b.0);
                u.dot(v) < 0.0 && u.cross(v).abs() < 1e-9 * u.hypot() * v.hypot()
            });
            folds || lines[k + 1..].iter().skip(1).any(|b| meet(*a, *b))
        })
    }
}

fn meet(a: (Point, Point), b: (Point, Point)) -> bool {
    // how far a point lies to one side; on a straight line none lies to either, but for rounding
    let side = |(p, q): (Point, Point), r: Point| (q - p).cross(r - p) / (q - p).hypot();
    let opposite = |u: f64, v: f64| u.min(v) < -TOUCH && u.max(v) > TOUCH;
    opposite(side(a, b.0), side(a, b.1)) && opposite(side(b, a.0), side(b, a.1))
}

/// Where a ray from within a circle leaves it.
fn to_circle(from: Point, along: Vec2, centre: Point, radius: f64) -> Point {
    let along = along / along.hypot().max(1e-9);
    let off = from - centre;
    let near = off.dot(along);
    from + along * ((near * near - off.hypot2() + radius * radius).max(0.0).sqrt() - near)
}

/// Points joined by straight lines.
pub(super) fn polyline(points: &[Point]) -> BezPath {
    let mut path = BezPath::new();
    for (k, p) in points.iter().enumerate() {
        if k == 0 { path.move_to(*p) } else { path.line_to(*p) }
    }
    path
}

/// A curve through points: a Catmull-Rom spline as cubic Béziers (E. Catmull, R. Rom, *A class of local interpolating splines*, 1974).
pub(super) fn smooth(points: &[Point]) -> BezPath {
    let mut path = BezPath::new();
    path.move_to(points[0]);
    for (k, pair) in points.windows(2).enumerate() {
        let before = if k == 0 { pair[0] } else { points[k - 1] };
        let after = points.get(k + 2).copied().unwrap_or(pair[1]);
        path.curve_to(pair[0] + (pair[1] - before) / 6.0, pair[1] - (after - pair[0]) / 6.0, pair[1]);
    }
    path
}

/// Points joined by straight lines, by length.
struct Chain<'a> {
    points: &'a [Point],
    /// From the first point to each.
    far: Vec<f64>,
}

impl<'a> Chain<'a> {
    fn new(points: &'a [Point]) -> Self {
        let mut far = vec![0.0];
        for pair in points.windows(2) {
            far.push(far[far.len() - 1] + pair[0].distance(pair[1]));
        }
        Self { points, far }
    }

    fn length(&self) -> f64 {
        self.far[self.far.len() - 1]
    }

    /// The place at this share of its length, and so far to the right of it.
    fn beside(&self, share: f64, offset: f64) -> Point {
        let at = share * self.length();
        let k = self.far[1..self.far.len() - 1].partition_point(|far| *far <= at);
        let (from, to) = (self.points[k], self.points[k + 1]);
        let along = (to - from) / from.distance(to).max(1e-9);
        from + along * (at - self.far[k]) + Vec2::new(-along.y, along.x) * offset
    }
}

/// Value noise of three octaves, between -1 and 1 (K. Perlin, *An image synthesizer*, 1985). The same for the same seed.
fn noise(at: f64, seed: u32) -> f64 {
    let octave = |at: f64, seed: u32| {
        let (cell, within) = (at.floor(), at - at.floor());
        let ease = within * within * (3.0 - 2.0 * within);
        let (a, b) = (chance(cell as i64, seed), chance(cell as i64 + 1, seed));
        a + (b - a) * ease
    };
    (octave(at, seed) * 4.0 + octave(at * 2.3, seed ^ 0x9e37) * 2.0 + octave(at * 5.1, seed ^ 0x79b9)) / 7.0
}

/// A number between -1 and 1 that follows from a place and a seed: the finaliser of MurmurHash3.
fn chance(at: i64, seed: u32) -> f64 {
    let mut h = (at as u64) ^ (u64::from(seed) << 32) ^ 0x5bd1_e995;
    h = (h ^ (h >> 33)).wrapping_mul(0xff51_afd7_ed55_8ccd);
    h = (h ^ (h >> 33)).wrapping_mul(0xc4ce_b9fe_1a85_ec53);
    h ^= h >> 33;
    (h >> 11) as f64 / (1u64 << 52) as f64 - 1.0
}
