//! Which contours of an opening a part lies against.

use crate::combine::contours;
use crate::grid::Grid;
use kurbo::{BezPath, PathEl, Point, Shape};

/// How far beside a contour what lies against it is looked for, in working pixels: beyond the pixels that the contour itself shares.
const BESIDE: f64 = 1.6;
/// A part lies against a contour for at least so many working pixels; fewer are a corner that grazes it.
const LEAST: usize = 3;

/// For every label 1.. (at its place less one) the contours of an opening (working space, by their place in it) that its pixels lie
/// against, in ascending order.
pub(super) fn touched(labels: &Grid<u32>, count: usize, opening: &BezPath) -> Vec<Vec<usize>> {
    let mut touched = vec![Vec::new(); count];
    let mut hits = vec![0_usize; count + 1];
    let area = kurbo::Rect::new(0.0, 0.0, labels.width as f64, labels.height as f64);
    for (k, contour) in contours(opening).iter().enumerate() {
        if contour.bounding_box().inflate(BESIDE, BESIDE).intersect(area).is_zero_area() {
            continue;
        }
        hits.fill(0);
        along(contour, 1.0, |p, normal| {
            for q in [p + normal * BESIDE, p - normal * BESIDE] {
                if area.contains(q) {
                    hits[labels.at(q.x as usize, q.y as usize) as usize] += 1;
                }
            }
        });
        for (label, _) in hits.iter().enumerate().skip(1).filter(|(_, n)| **n >= LEAST) {
            touched[label - 1].push(k);
        }
    }
    touched
}

/// Visits points of a contour that lie `step` apart at most, with the unit vector to its side.
fn along(contour: &BezPath, step: f64, mut visit: impl FnMut(Point, kurbo::Vec2)) {
    let (mut start, mut last) = (Point::ORIGIN, Point::ORIGIN);
    kurbo::flatten(contour, step / 4.0, |el| {
        let to = match el {
            PathEl::MoveTo(p) => {
                (start, last) = (p, p);
                return;
            }
            PathEl::LineTo(p) => p,
            _ => start,
        };
        let way = to - last;
        let long = way.hypot();
        // what is not finite has no points
        if long > 0.0 && long < 1e6 * step {
            let normal = kurbo::Vec2::new(-way.y, way.x) / long;
            let steps = (long / step).ceil() as usize;
            (0..steps).for_each(|k| visit(last + way * ((k as f64 + 0.5) / steps as f64), normal));
        }
        last = to;
    });
}

/// Whether a shape (no contours that overlap) has a piece of a contour within it.
pub fn crosses(shape: &BezPath, contour: &BezPath) -> bool {
    let around = shape.bounding_box();
    if contour.bounding_box().intersect(around).is_zero_area() {
        return false;
    }
    let step = (around.width().min(around.height()) / 8.0).max(around.width().max(around.height()) / 400.0);
    let mut found = false;
    along(contour, step, |p, _| found = found || (around.contains(p) && shape.winding(p) != 0));
    found
}
