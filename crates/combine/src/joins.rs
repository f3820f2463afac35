//! Boolean operations that keep curves: polygon overlay with edges that remember where they came from.

use crate::check;
use crate::crossing::refine;
use crate::flatten::{closed_segments, flatten_tolerance, steps};
use i_overlay::core::edge_data::{EdgeDataMerge, EdgeDataSplit, OverlayEdgeData};
use i_overlay::core::edge_overlay::{EdgeOverlay, InputEdge};
use i_overlay::core::fill_rule::FillRule;
use i_overlay::core::overlay::ShapeType;
use i_overlay::core::overlay_rule::OverlayRule;
use i_overlay::core::solver::Precision;
use i_overlay::i_float::int::number::int::IntNumber;
use i_overlay::i_float::int::point::IntPoint;
use i_overlay::segm::boolean::ShapeCountBoolean;
use i_overlay::vector::edge::DataVectorEdge;
use kurbo::{BezPath, Line, ParamCurve, PathSeg, Point, Rect, Shape, Vec2};

/// How two outlines are combined.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Rule {
    Union,
    Intersection,
    Difference,
    Xor,
}

/// The outline of everything a path covers by the nonzero rule, without overlaps.
pub fn unite(path: &BezPath) -> BezPath {
    check::checked(overlay(path, None, OverlayRule::Subject, FillRule::NonZero), path, None, |w, _| w != 0)
}

/// The outline of what a path covers by the even-odd rule, without overlaps.
pub fn unite_even_odd(path: &BezPath) -> BezPath {
    check::checked(overlay(path, None, OverlayRule::Subject, FillRule::EvenOdd), path, None, |w, _| w % 2 != 0)
}

/// Combines two outlines, each filled by the nonzero rule. The result has no overlaps.
///
/// ```
/// use inky_combine::{area, join_pair, Rule};
/// use kurbo::{Circle, Shape};
/// let disc = Circle::new((0.0, 0.0), 10.0).to_path(1e-6);
/// assert!(join_pair(&disc, &disc, Rule::Difference).is_empty());
/// assert!((area(&join_pair(&disc, &disc, Rule::Union)) - area(&disc)).abs() < 1e-6);
/// ```
pub fn join_pair(a: &BezPath, b: &BezPath, rule: Rule) -> BezPath {
    let engine = match rule {
        Rule::Union => OverlayRule::Union,
        Rule::Intersection => OverlayRule::Intersect,
        Rule::Difference => OverlayRule::Difference,
        Rule::Xor => OverlayRule::Xor,
    };
    let inside = move |a: i32, b: i32| match rule {
        Rule::Union => a != 0 || b != 0,
        Rule::Intersection => a != 0 && b != 0,
        Rule::Difference => a != 0 && b == 0,
        Rule::Xor => (a != 0) != (b != 0),
    };
    check::checked(overlay(a, Some(b), engine, FillRule::NonZero), a, Some(b), inside)
}

/// The stretch of a source segment that a flat edge stands for; `from > to` where it runs backwards.
#[derive(Debug, Clone, Copy, PartialEq)]
struct Source {
    segment: u32,
    from: f64,
    to: f64,
}

impl OverlayEdgeData for Source {
    type Store = ();

    fn reversed(self, _: &mut ()) -> Self {
        Self { from: self.to, to: self.from, ..self }
    }

    fn split<I: IntNumber>(self, at: EdgeDataSplit<I>, _: &mut ()) -> (Self, Self) {
        let xy = |p: IntPoint<I>| Point::new(p.x.to_f64(), p.y.to_f64());
        let (a, p, b) = (xy(at.a), xy(at.p), xy(at.b));
        let k = ((p - a).dot(b - a) / (b - a).hypot2()).clamp(0.0, 1.0);
        let mid = self.from + (self.to - self.from) * k;
        (Self { to: mid, ..self }, Self { from: mid, ..self })
    }

    fn merge(edges: EdgeDataMerge<ShapeCountBoolean, Self>, _: &mut ()) -> Self {
        // of two edges on top of each other either will do; the same one every time keeps runs whole
        if edges.lhs_data.segment <= edges.rhs_data.segment { edges.lhs_data } else { edges.rhs_data }
    }
}

/// Parameters of one curve that are further apart than this are two places of it.
const SELF_APART: f64 = 1e-3;

impl Source {
    /// Whether a parameter of the curve lies on this stretch or just beyond: the true crossing may lie a little before or after
    /// the flat one, but not on the far side of the stretch.
    fn reaches(&self, t: f64) -> bool {
        const BEYOND: f64 = 0.02;
        (self.from.min(self.to) - BEYOND..=self.from.max(self.to) + BEYOND).contains(&t)
    }

    /// Whether `next` goes on along the same curve in the same direction.
    fn continues(&self, next: &Self) -> bool {
        let onwards = self.from == self.to || next.from == next.to || (self.to > self.from) == (next.to > next.from);
        self.segment == next.segment && (self.to - next.from).abs() < 1e-6 && onwards
    }
}

/// Consecutive edges of one curve.
struct Run {
    source: Source,
    start: Point,
    end: Point,
}

/// The plane to the integer grid of the polygon engine, and back.
struct Grid {
    centre: Point,
    scale: f64,
}

impl Grid {
    fn over(bounds: Rect) -> Self {
        // a power of two, so that going there and back adds no error of its own
        let half = (bounds.width().max(bounds.height()) / 2.0).max(1e-6);
        // far from the origin neighbouring numbers lie apart: what is smaller than that has no place of its own
        let far = [bounds.x0, bounds.y0, bounds.x1, bounds.y1].into_iter().map(f64::abs).fold(0.0, f64::max);
        let half = half.max(far * 1e-12);
        Self { centre: bounds.center(), scale: 2f64.powi((28.0 - half.log2()).floor() as i32) }
    }

    fn snap(&self, p: Point) -> IntPoint<i32> {
        let at = (p - self.centre) * self.scale;
        IntPoint::new(at.x.round() as i32, at.y.round() as i32)
    }

    fn lift(&self, p: IntPoint<i32>) -> Point {
        self.centre + Vec2::new(f64::from(p.x), f64::from(p.y)) / self.scale
    }
}

/// How near, in units of the grid, a crossing is to an end of an edge to be taken for it: two, and eight times the area with every round of
/// splitting. Edges that all but coincide are split again and again by the rounding of their crossings; with a radius that grows more slowly a
/// thousand of them came to a hundred thousand. Where that does not happen one or two rounds are enough, and the radius stays far below what curves
/// are flattened to.
const SNAP: Precision = Precision::LOW;

/// Everything one overlay needs to know of its input.
struct Overlay {
    grid: Grid,
    tolerance: f64,
    segments: Vec<PathSeg>,
    engine: EdgeOverlay<i32, Source>,
}

fn overlay(a: &BezPath, b: Option<&BezPath>, rule: OverlayRule, fill: FillRule) -> BezPath {
    let finite = |p: &BezPath| p.is_finite() && !p.elements().is_empty();
    let boxes = [Some(a), b].into_iter().flatten().filter(|p| finite(p)).map(Shape::bounding_box);
    let Some(bounds) = boxes.reduce(|x, y| x.union(y)) else {
        return BezPath::new();
    };
    let mut work = Overlay {
        grid: Grid::over(bounds),
        tolerance: flatten_tolerance(bounds) * fineness(a, b),
        segments: Vec::new(),
        engine: EdgeOverlay::new(4096),
    };
    work.engine.solver.precision = SNAP;
    for (path, side) in [(Some(a), ShapeType::Subject), (b, ShapeType::Clip)] {
        if let Some(path) = path.filter(|p| finite(p)) {
            work.add(path, side);
        }
    }
    let shapes = work.engine.build_vector_shapes(rule, fill);
    let mut result = BezPath::new();
    for contour in shapes.iter().flatten() {
        result.extend(work.restore(contour));
    }
    result
}

/// Small inputs are flattened up to ten times finer: it costs next to nothing, and forms that barely meet still do.
fn fineness(a: &BezPath, b: Option<&BezPath>) -> f64 {
    const MANY: f64 = 400.0;
    let count = a.elements().len() + b.map_or(0, |b| b.elements().len());
    (count as f64 / MANY).clamp(0.1, 1.0)
}

impl Overlay {
    fn add(&mut self, path: &BezPath, side: ShapeType) {
        for segment in closed_segments(path) {
            let id = self.segments.len() as u32;
            self.segments.push(segment);
            let n = steps(&segment, self.tolerance);
            let mut from = 0.0;
            let mut a = self.grid.snap(segment.start());
            for i in 1..=n {
                let to = i as f64 / n as f64;
                let b = self.grid.snap(if i == n { segment.end() } else { segment.eval(to) });
                if a != b {
                    let data = Source { segment: id, from, to };
                    self.engine.add_edge(InputEdge { a, b, data }, side);
                }
                (a, from) = (b, to);
            }
        }
    }

    /// One contour of the result with its curves, or its polygon where the curves would enclose another area.
    fn restore(&self, contour: &[DataVectorEdge<i32, Source>]) -> BezPath {
        let polygon = self.polygon(contour);
        let (flat_area, length) = (polygon.area(), polygon.perimeter(self.tolerance));
        // slivers between edges that all but coincide are dust of the rounding, not part of the shape
        if contour.len() < 3 || flat_area.abs() < self.tolerance * length * 0.25 {
            return BezPath::new();
        }
        let mut runs = self.runs(contour);
        self.meet(&mut runs);
        let curved = self.draw(&runs);
        let allowed = 1e-3 * flat_area.abs() + 2.0 * self.tolerance * length;
        if (curved.area() - flat_area).abs() <= allowed {
            return curved;
        }
        tracing::warn!(
            flat_area,
            curved = curved.area(),
            "curves enclose another area than the polygon, which is kept"
        );
        polygon
    }

    fn polygon(&self, contour: &[DataVectorEdge<i32, Source>]) -> BezPath {
        let mut path = BezPath::new();
        for (i, edge) in contour.iter().enumerate() {
            let p = self.grid.lift(edge.a);
            if i == 0 { path.move_to(p) } else { path.line_to(p) }
        }
        path.close_path();
        path
    }

    fn runs(&self, contour: &[DataVectorEdge<i32, Source>]) -> Vec<Run> {
        let n = contour.len();
        let first = (0..n).find(|&i| !contour[(i + n - 1) % n].data.continues(&contour[i].data)).unwrap_or(0);
        let mut runs: Vec<Run> = Vec::new();
        for k in 0..n {
            let edge = &contour[(first + k) % n];
            let (start, end) = (self.grid.lift(edge.a), self.grid.lift(edge.b));
            match runs.last_mut() {
                Some(run) if run.source.continues(&edge.data) => {
                    run.source.to = edge.data.to;
                    run.end = end;
                }
                _ => runs.push(Run { source: edge.data, start, end }),
            }
        }
        runs
    }

    /// Moves the ends of neighbouring runs to the point where their curves truly meet.
    fn meet(&self, runs: &mut [Run]) {
        let n = runs.len();
        for i in 0..n {
            let j = (i + 1) % n;
            let (s, t) = (runs[i].source, runs[j].source);
            // a curve that crosses itself meets itself at two places of it; where it only goes on there is nothing to do
            let itself = s.segment == t.segment;
            if itself && (s.to - t.from).abs() < SELF_APART {
                continue;
            }
            let (a, b) = (self.segments[s.segment as usize], self.segments[t.segment as usize]);
            let at_end = |v: f64| v == 0.0 || v == 1.0;
            if at_end(s.to) && at_end(t.from) {
                let (p, q) = (a.eval(s.to), b.eval(t.from));
                if (p - q).hypot() < self.tolerance {
                    (runs[i].end, runs[j].start) = (p, p);
                }
            } else if let Some(c) = refine(&a, &b, s.to, t.from, runs[i].end, 4.0 * self.tolerance)
                && s.reaches(c.t)
                && t.reaches(c.u)
                && !(itself && (c.t - c.u).abs() < SELF_APART / 2.0)
            {
                (runs[i].source.to, runs[j].source.from) = (c.t, c.u);
                (runs[i].end, runs[j].start) = (c.point, c.point);
            }
        }
    }

    fn draw(&self, runs: &[Run]) -> BezPath {
        let mut path = BezPath::new();
        path.move_to(runs[0].start);
        for run in runs {
            let segment = self.segments[run.source.segment as usize];
            let Source { from, to, .. } = run.source;
            let part = if from <= to { segment.subsegment(from..to) } else { segment.subsegment(to..from).reverse() };
            // the ends may have been snapped a little; the handles go with them
            let (d0, d1) = (run.start - part.start(), run.end - part.end());
            match part {
                PathSeg::Line(Line { .. }) => path.line_to(run.end),
                PathSeg::Quad(q) => path.quad_to(q.p1 + (d0 + d1) * 0.5, run.end),
                PathSeg::Cubic(c) => path.curve_to(c.p1 + d0, c.p2 + d1, run.end),
            }
        }
        path.close_path();
        path
    }
}
