//! Brushed areas to outlines.

use crate::combine::{Rule, join_pair, simplify, unite};
use crate::sheet::{Brush, Stroke};
use kurbo::{Arc, BezPath, Point, Shape, Vec2};

/// The outline of a brushed area, in the form's own space: where strokes cover at least half. Without overlaps.
pub fn brush_path(brush: &Brush) -> BezPath {
    let mut area = BezPath::new();
    // strokes of one kind in a row are united at once
    for run in brush.strokes.chunk_by(|a, b| a.erase == b.erase) {
        let drawn: BezPath = run.iter().flat_map(|s| painted_path(s, s.fade() / 2.0)).collect();
        let drawn = unite(&drawn);
        area = match run[0].erase {
            true => join_pair(&area, &drawn, Rule::Difference),
            false if area.is_empty() => drawn,
            false => join_pair(&area, &drawn, Rule::Union),
        };
    }
    area
}

/// The outline of one stroke, its edge `inward` millimetres within the brush's own. Without overlaps.
pub fn painted_path(stroke: &Stroke, inward: f64) -> BezPath {
    let discs = discs(stroke, inward);
    let mut path = BezPath::new();
    for pair in discs.windows(2) {
        path.extend(capsule(pair[0], pair[1]));
    }
    if let [(at, radius)] = discs.as_slice() {
        path.extend(kurbo::Circle::new(*at, *radius).to_path(1e-3 * radius));
    }
    simplify(&unite(&path), 0.004 * stroke.size)
}

/// Where the brush stood, with its radius; places that add nothing to be seen are left out.
fn discs(stroke: &Stroke, inward: f64) -> Vec<(Point, f64)> {
    let mut discs: Vec<(Point, f64)> = Vec::new();
    let least = 0.02 * stroke.size;
    for [x, y, pressure] in &stroke.points {
        let (at, radius) = (Point::new(*x, *y), (pressure * stroke.size / 2.0 - inward).max(least));
        let near =
            discs.last().is_some_and(|(p, r)| (at - *p).hypot() < 0.12 * radius && (r - radius).abs() < 0.1 * radius);
        if !near {
            discs.push((at, radius));
        }
    }
    discs
}

/// The hull of two discs.
fn capsule((a, r): (Point, f64), (b, s): (Point, f64)) -> BezPath {
    let across = b - a;
    let far = across.hypot();
    if far <= (r - s).abs() + 1e-9 {
        let (at, radius) = if r > s { (a, r) } else { (b, s) };
        return kurbo::Circle::new(at, radius).to_path(1e-3 * radius);
    }
    // the outer tangents touch both discs at this angle from the line through their middles
    let (along, open) = (across.atan2(), ((r - s) / far).acos());
    let arc = |at: Point, radius: f64, from: f64, sweep: f64| {
        Arc::new(at, Vec2::new(radius, radius), from, sweep, 0.0).append_iter(1e-3 * radius)
    };
    let turn = std::f64::consts::TAU;
    let mut path = BezPath::new();
    path.move_to(a + Vec2::from_angle(along + open) * r);
    path.extend(arc(a, r, along + open, turn - 2.0 * open));
    path.line_to(b + Vec2::from_angle(along - open) * s);
    path.extend(arc(b, s, along - open, 2.0 * open));
    path.close_path();
    path
}
