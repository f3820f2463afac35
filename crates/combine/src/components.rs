//! The pieces of a compound outline: outer contours with their holes.

use crate::bounds::control_box;
use crate::flatten::contains;
use crate::round::{contours, subpaths};
use kurbo::{BezPath, ParamCurve, PathEl, Rect, Shape};

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

/// The contours of a path in groups that lie apart: no box around one group's contours touches one around another's, so that holes stay
/// with what they are cut from, and each group can be painted by itself. In the order of their first contours.
pub fn clusters(path: &BezPath) -> Vec<BezPath> {
    let all: Vec<(&[PathEl], Rect)> = subpaths(path).map(|s| (s, control_box(s))).collect();
    let mut by_left: Vec<usize> = (0..all.len()).collect();
    by_left.sort_by(|&a, &b| all[a].1.x0.total_cmp(&all[b].1.x0));
    let mut leader: Vec<usize> = (0..all.len()).collect();
    fn first(leader: &mut [usize], mut at: usize) -> usize {
        while leader[at] != at {
            leader[at] = leader[leader[at]];
            at = leader[at];
        }
        at
    }
    for (k, &a) in by_left.iter().enumerate() {
        for &b in by_left[k + 1..].iter().take_while(|&&b| all[b].1.x0 <= all[a].1.x1) {
            let (p, q) = (all[a].1, all[b].1);
            if p.y0 <= q.y1 && q.y0 <= p.y1 {
                let (a, b) = (first(&mut leader, a), first(&mut leader, b));
                // the earlier contour leads
                leader[a.max(b)] = a.min(b);
            }
        }
    }
    let mut groups: Vec<Vec<PathEl>> = vec![Vec::new(); all.len()];
    for (at, (contour, _)) in all.iter().enumerate() {
        groups[first(&mut leader, at)].extend_from_slice(contour);
    }
    groups.into_iter().filter(|g| !g.is_empty()).map(BezPath::from_vec).collect()
}
