//! Lines between limbs and bodies, and where the neck between them is narrowest.

use super::contour::{Contour, pixels, runs_within};
use super::neighbours::beside;
use crate::cutout::regions::{Connectivity, regions};
use crate::grid::Grid;
use kurbo::Line;
use std::collections::HashSet;

/// What a pixel of way along the edge must save of a line's length for the line to move there: a limb that narrows by less
/// (a tail that runs to a point) keeps its root.
const WAY: f64 = 0.4;
/// The same for a way to where the edge is hollow: people divide shapes there, by the shortest line (M. Singh, G. Seyranian, D. Hoffman, "Parsing
/// silhouettes: the short-cut rule", 1999).
const WAY_TO_HOLLOW: f64 = 0.06;
/// By what share a line counts as shorter for either end at a hollow.
const GAIN: f64 = 0.2;
/// An edge is hollow where it turns by more than this towards the mask, in radians, over a share of the way that is looked at to both sides.
pub(super) const HOLLOW: f64 = 0.6;
const ARM: f64 = 0.05;
/// The least share of a limb that stays beyond its line.
const LEAST: f64 = 0.25;

/// What lies behind a line is a limb if it has at least this share of the square over it: 0.43 for corners of 60 degrees, 0.93 for 30.
pub(super) const LIMB: f64 = 1.2;

/// A place where a line between a limb and a body meets the edge.
#[derive(Debug, Clone, Copy)]
pub(super) struct End {
    contour: usize,
    corner: usize,
    /// Whether the limb follows it on the contour, or goes before.
    limb_follows: bool,
}

/// One line along which a limb and a body meet.
pub(super) struct Contact {
    line: u32,
    pub limb: u32,
    pub body: u32,
    pub ends: Vec<End>,
}

/// Where limbs and bodies (labels 1 to `bodies`) of a labelled mask meet.
pub(super) fn contacts(labels: &Grid<u32>, contours: &[Contour], bodies: u32) -> Vec<Contact> {
    let (w, is_body) = (labels.width, |l: u32| l > 0 && l <= bodies);
    let mut meets = Grid::filled(w, labels.height, false);
    for (i, l) in labels.data.iter().enumerate() {
        // right, and below from left to right: what wraps around at the border is outside, as masks have air around them
        for j in [i + 1, i + w - 1, i + w, i + w + 1] {
            match (*l, labels.data.get(j).copied().unwrap_or(0)) {
                (l, b) if l > bodies && is_body(b) => meets.data[i] = true,
                (b, l) if l > bodies && is_body(b) => meets.data[j] = true,
                _ => {}
            }
        }
    }
    let (lines, _) = regions(&meets, Connectivity::Eight);
    let mut all: Vec<Contact> = Vec::new();
    for (c, contour) in contours.iter().enumerate() {
        for corner in 0..contour.pixels.len() {
            let before = contour.pixels[contour.place(corner as i64 - 1)];
            let after = contour.pixels[corner];
            let (pixel, limb, body, limb_follows) = match (labels.data[before], labels.data[after]) {
                (b, l) if is_body(b) && l > bodies => (after, l, b, true),
                (l, b) if is_body(b) && l > bodies => (before, l, b, false),
                _ => continue,
            };
            let (line, end) = (lines.data[pixel], End { contour: c, corner, limb_follows });
            match all.iter_mut().find(|k| (k.line, k.limb, k.body) == (line, limb, body)) {
                Some(contact) => contact.ends.push(end),
                None => all.push(Contact { line, limb, body, ends: vec![end] }),
            }
        }
    }
    all
}

/// Where a line may end.
struct Place {
    /// How far it is along the edge, towards the limb.
    way: i64,
    corner: usize,
    /// What the way adds to the length of a line.
    cost: f64,
    /// By what share a line that ends here counts as shorter.
    gain: f64,
}

/// The shortest line through the mask from beside one end to beside the other one; ways along the edge count too.
pub(super) fn narrowest(labels: &Grid<u32>, contours: &[Contour], ends: [End; 2], farthest: i64) -> Option<Line> {
    let [a, b] = ends.map(|e| (&contours[e.contour], e, if e.limb_follows { 1 } else { -1 }));
    // on one contour the two ends must not pass one another, and most of the limb stays beyond the line
    let one = a.1.contour == b.1.contour;
    let length = a.0.corners.len() as i64;
    let (first, last) = if a.1.limb_follows { (a.1, b.1) } else { (b.1, a.1) };
    if one && a.1.limb_follows == b.1.limb_follows {
        return None;
    }
    let around = if one { (last.corner as i64 - first.corner as i64).rem_euclid(length) } else { i64::MAX };
    let whole = if one { a.0.cut_off(first.corner, last.corner) } else { 0.0 };
    if one && whole <= 0.0 {
        return None;
    }
    let outward = farthest.min(if one { (length - around) / 2 } else { i64::MAX });
    let inward = farthest.min(around);
    let arm = (ARM * farthest as f64).max(6.0) as i64;
    // nothing that costs more than the line from end to end
    let most = 1.0 + a.0.point(a.1.corner).distance(b.0.point(b.1.corner));
    let places = |(contour, end, way): (&Contour, End, i64)| {
        let along = |most: i64| most.min(contour.corners.len() as i64 / 2);
        let at = |k: i64| {
            let corner = contour.place(end.corner as i64 + way * k);
            let hollow = contour.turn(corner, arm) < -HOLLOW;
            let (price, gain) = if hollow { (WAY_TO_HOLLOW, GAIN) } else { (WAY, 0.0) };
            Place { way: k, corner, gain, cost: price * k.abs() as f64 }
        };
        let mut places: Vec<_> = (-along(outward)..=along(inward)).map(at).filter(|p| p.cost < most).collect();
        places.sort_by(|a, b| a.cost.total_cmp(&b.cost));
        places
    };
    let mut best = None;
    let mut least = most;
    let from_b = places(b);
    for from in places(a) {
        for to in &from_b {
            if from.cost + to.cost >= least {
                break;
            }
            let line = Line::new(a.0.point(from.corner), b.0.point(to.corner));
            let cost = line.length() * (1.0 - from.gain - to.gain) + from.cost + to.cost;
            if cost >= least {
                continue;
            }
            if one {
                let (first, last) = if a.1.limb_follows { (from.corner, to.corner) } else { (to.corner, from.corner) };
                if from.way + to.way >= around || a.0.cut_off(first, last) < LEAST * whole {
                    continue;
                }
            }
            if runs_within(labels, line) {
                (best, least) = (Some(line), cost);
            }
        }
    }
    best
}

/// How deep a body is within so many steps from the line between it and a limb, in pixels; so far a part goes that no line cuts off.
pub(super) fn depth_beside(
    (labels, open): (&Grid<u32>, &Grid<u32>),
    depth: &Grid<i16>,
    body: u32,
    line: Line,
    steps: usize,
) -> f64 {
    let mut seen = Vec::new();
    let mut deepest = 0;
    let mut front = pixels(labels, line);
    let mut known: HashSet<usize> = front.iter().copied().collect();
    for _ in 0..steps {
        for at in std::mem::take(&mut front) {
            for next in beside(at, labels.width, labels.height) {
                if labels.data[next] == body && open.data[next] > 0 && known.insert(next) {
                    deepest = deepest.max(depth.data[next]);
                    seen.push(next);
                }
            }
        }
        front = std::mem::take(&mut seen);
    }
    f64::from(deepest).sqrt()
}
