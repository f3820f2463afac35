//! Sides of an opening at which nothing is cut: it is extended there, in line with its outermost points.

use crate::combine::{Rule, bounds, join_pair};
use crate::sheet::{OpenSide, Side};
use kurbo::{Affine, BezPath, PathEl, Point, Shape};

/// Places across a side at which it is looked where the outline begins.
const PLACES: usize = 1024;
/// How deep an extension reaches into the outline, in millimetres: edges that lie on one another would leave slivers.
const INTO: f64 = 0.02;

/// An outline (without overlaps) with its open sides, and nothing but their extensions.
pub(super) fn opened(outline: &BezPath, sides: &[OpenSide]) -> BezPath {
    // each side is measured on the outline as it was, whatever the other ones add
    sides.iter().fold(outline.clone(), |all, side| match extension(outline, side) {
        Some(more) => join_pair(&all, &more, Rule::Union),
        None => all,
    })
}

/// What a side adds to an outline. None where the outline is empty, or where it has nothing in that stretch.
pub fn extension(outline: &BezPath, side: &OpenSide) -> Option<BezPath> {
    if outline.is_empty() {
        return None;
    }
    // turned so that the side is the top
    let turn = match side.side {
        Side::Top => Affine::IDENTITY,
        Side::Bottom => Affine::FLIP_Y,
        Side::Left => Affine::new([0.0, 1.0, 1.0, 0.0, 0.0, 0.0]),
        Side::Right => Affine::new([0.0, -1.0, -1.0, 0.0, 0.0, 0.0]),
    };
    let turned = turn * outline;
    let around = bounds(&turned);
    let (x0, x1) = (around.x0 + side.from * around.width(), around.x0 + side.to * around.width());
    let edge = edge(&turned, x0, x1)?;
    let top = around.y0 - side.far;
    let mut path = BezPath::new();
    path.move_to((edge.first()?.x, top));
    edge.iter().for_each(|p| path.line_to(Point::new(p.x, (p.y + INTO).max(top))));
    path.line_to((edge.last()?.x, top));
    path.close_path();
    // the far end may lie within the outline, with nothing to add
    (path.area().abs() > 0.0).then(|| turn.inverse() * path)
}

/// The uppermost places of an outline from `x0` to `x1`, level across its gaps, beginning and ending at its outermost points.
fn edge(outline: &BezPath, x0: f64, x1: f64) -> Option<Vec<Point>> {
    let step = (x1 - x0) / PLACES as f64;
    if step.is_nan() || step <= 0.0 {
        return None;
    }
    let at = |k: usize| x0 + (k as f64 + 0.5) * step;
    let mut tops = vec![f64::INFINITY; PLACES];
    // the outermost points, the higher ones of several
    let (mut left, mut right) = (Point::new(f64::INFINITY, 0.0), Point::new(f64::NEG_INFINITY, 0.0));
    let mut take = |a: Point, b: Point| {
        for p in [a, b].into_iter().filter(|p| (x0 - 1e-9..=x1 + 1e-9).contains(&p.x)) {
            if p.x < left.x - 1e-9 || (p.x <= left.x + 1e-9 && p.y < left.y) {
                left = p;
            }
            if p.x > right.x + 1e-9 || (p.x >= right.x - 1e-9 && p.y < right.y) {
                right = p;
            }
        }
        let (from, to) = if a.x < b.x { (a, b) } else { (b, a) };
        let first = ((from.x - x0) / step - 0.5).ceil().max(0.0) as usize;
        let slope = (to.y - from.y) / (to.x - from.x);
        for (k, top) in tops.iter_mut().enumerate().skip(first).take_while(|(k, _)| at(*k) <= to.x) {
            *top = top.min(from.y + (at(k) - from.x) * slope);
        }
    };
    let (mut start, mut pen) = (Point::ZERO, Point::ZERO);
    kurbo::flatten(outline, 0.005, |element| match element {
        PathEl::MoveTo(p) => (start, pen) = (p, p),
        PathEl::LineTo(p) => {
            take(pen, p);
            pen = p;
        }
        _ => {
            take(pen, start);
            pen = start;
        }
    });
    let mut points: Vec<Point> = Vec::new();
    let mut last = None;
    for (k, y) in tops.iter().enumerate().filter(|(_, y)| y.is_finite()) {
        let here = Point::new(at(k), *y);
        if let (Some(before), Some(&from)) = (last, points.last())
            && k - before > 1
        {
            // a gap, as between two letters, is open down to the higher one of its sides
            let level = from.y.min(here.y);
            let across = [Point::new(from.x, level), Point::new(here.x, level)];
            points.extend(across.into_iter().filter(|p| *p != from && *p != here));
        }
        points.push(here);
        last = Some(k);
    }
    let (first, last) = (*points.first()?, *points.last()?);
    // a stretch that ends within the outline ends upright; at its very side, at the outermost point
    points.insert(
        0,
        if left.x < first.x && (left.x - x0).abs() < 1e-6 { left } else { Point::new(x0.max(first.x - step), first.y) },
    );
    points.push(if right.x > last.x && (right.x - x1).abs() < 1e-6 {
        right
    } else {
        Point::new(x1.min(last.x + step), last.y)
    });
    Some(points)
}
