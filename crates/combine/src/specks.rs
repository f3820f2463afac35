//! The pieces of a compound outline: outer contours with their holes.

use crate::flatten::contains;
use crate::round::contours;
use kurbo::{BezPath, ParamCurve, Rect, Shape};

/// A connected piece of an outline.
#[derive(Debug, Clone)]
pub struct Part {
    /// The outer contour, then its holes.
    pub path: BezPath,
    /// Square units of the path, holes taken off.
    pub area: f64,
    pub bounds: Rect,
}

impl Part {
    /// From an outer contour and its holes, which run against it.
    pub fn new(path: BezPath) -> Self {
        let (area, bounds) = (path.area().abs(), path.bounding_box());
        Self { path, area, bounds }
    }
}

/// The connected pieces of an outline without overlaps, in the order of their outer contours.
///
/// Holes are known by running against the outer contours, as the joins of this module write them.
pub fn parts(path: &BezPath) -> Vec<Part> {
    let all: Vec<(BezPath, f64, Rect)> = contours(path)
        .into_iter()
        .map(|c| {
            let (area, bounds) = (c.area(), c.bounding_box());
            (c, area, bounds)
        })
        .filter(|(_, area, _)| *area != 0.0)
        .collect();
    // the largest contour of an outline is an outer one
    let Some(largest) = all.iter().max_by(|a, b| a.1.abs().total_cmp(&b.1.abs())) else {
        return Vec::new();
    };
    let outer = largest.1.signum();
    let mut parts: Vec<Part> = Vec::new();
    let (outers, holes): (Vec<_>, Vec<_>) = all.into_iter().partition(|(_, area, _)| area.signum() == outer);
    for (path, area, bounds) in outers {
        parts.push(Part { path, area: area.abs(), bounds });
    }
    for (hole, area, bounds) in holes {
        let Some(start) = hole.segments().next().map(|s| s.eval(0.5)) else {
            continue;
        };
        let tolerance = bounds.width().max(bounds.height()) * 1e-3;
        // the smallest piece around it owns it
        let owner = parts
            .iter_mut()
            .filter(|p| p.area > area.abs() && p.bounds.contains(start) && contains(&p.path, start, tolerance))
            .min_by(|a, b| a.area.total_cmp(&b.area));
        if let Some(owner) = owner {
            owner.path.extend(hole.elements().iter().copied());
            owner.area -= area.abs();
        }
    }
    parts
}
