//! Bends of a form along its width, and the pull of its four corners.

use super::warp::warp;
use crate::combine::flatten_tolerance;
use crate::photo::Perspective;
use crate::sheet::{Bend, BendKind};
use kurbo::{BezPath, Point, Rect, Shape};
use std::f64::consts::PI;

/// A form bent along its width, in its own space.
///
/// The box around the path is bent: `amount` 1 bows it to half a circle, raises its middle by its height, doubles its height
/// in the middle, or closes it there.
pub fn bent(path: &BezPath, bend: &Bend) -> BezPath {
    bent_with(path, path.bounding_box(), bend)
}

/// A part of a form bent along with the whole, whose box is `b`.
pub fn bent_with(path: &BezPath, b: Rect, bend: &Bend) -> BezPath {
    if bend.amount == 0.0 || path.is_empty() || b.width() <= 0.0 || b.height() <= 0.0 {
        return path.clone();
    }
    let (c, half) = (b.center(), b.width() / 2.0);
    let amount = bend.amount;
    let tolerance = flatten_tolerance(b);
    // u runs from -1 to 1 along the width
    let raise = |p: Point, by: f64| Point::new(p.x, p.y - by * b.height());
    let swell = |p: Point, by: f64| Point::new(p.x, c.y + (p.y - c.y) * by);
    let hill = |u: f64| 1.0 - u * u;
    let map = |p: Point| {
        let u = (p.x - c.x) / half;
        match bend.kind {
            BendKind::BowUp => bow(p, b, amount),
            BendKind::BowDown => bow(p, b, -amount),
            BendKind::Ripple => raise(p, 0.5 * amount * (PI * u).sin()),
            BendKind::Banner => raise(p, amount * hill(u)),
            BendKind::Swell => swell(p, 1.0 + amount * hill(u)),
            BendKind::Pinch => swell(p, 1.0 - 0.9 * amount * hill(u)),
            BendKind::Climb => raise(p, amount * u),
        }
    };
    warp(path, map, tolerance)
}

/// The middle line of the box on an arc of `amount` times half a circle, of the same length; upright lines point to its centre.
fn bow(p: Point, b: Rect, amount: f64) -> Point {
    let c = b.center();
    let radius = b.width() / (PI * amount);
    let angle = (p.x - c.x) / radius;
    let reach = radius + (c.y - p.y);
    Point::new(c.x + reach * angle.sin(), c.y + radius - reach * angle.cos())
}

/// A path with the corners of its box pulled away: `pull` holds, clockwise from the top left, how far each corner goes, as
/// shares of the box's width and height. Straight lines stay straight (a projective map). None where the corners no longer
/// make a convex box.
pub fn pulled(path: &BezPath, frame: Rect, pull: &[[f64; 2]; 4]) -> Option<BezPath> {
    let (w, h) = (frame.width(), frame.height());
    if w <= 0.0 || h <= 0.0 || path.is_empty() {
        return Some(path.clone());
    }
    let perspective = Perspective::new(pull)?;
    let map = |p: Point| {
        let [x, y] = perspective.map((p.x - frame.x0) / w, (p.y - frame.y0) / h);
        Point::new(frame.x0 + x * w, frame.y0 + y * h)
    };
    Some(warp(path, map, flatten_tolerance(frame)))
}
