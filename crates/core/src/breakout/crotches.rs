//! Crotches: where two limbs part, the line that parts them begins.

use super::contour::{Contour, runs_within};
use super::neck_lines::{HOLLOW, LIMB};
use crate::grid::Grid;
use kurbo::{Line, Point};

/// Two limbs part where the edge turns by more than this towards the mask, in radians, over a share of the radius to both sides.
const CROTCH: f64 = 1.0;
const ARM: f64 = 0.6;
/// Where the edge across turns away by more than this share of that, a limb bends, and nothing parts.
const BEND: f64 = 0.15;
/// What is parted has at least this share of the square over the radius.
const FLOOR: f64 = 0.25;
/// The longest line from a crotch, in radii of the disc that fits into bodies.
const ACROSS: f64 = 2.0;
/// A line that ends at a hollow, as from crotch to crotch across a limb, counts as that much shorter.
const TO_HOLLOW: f64 = 0.5;

/// Lines from where two limbs part, each to the nearest edge across from there that leaves something on both sides; in pixels of the mask.
///
/// Hollows are where people divide shapes, and short lines are how (D. Hoffman, W. Richards, "Parts of recognition", 1984; M. Singh, G. Seyranian,
/// D. Hoffman, "Parsing silhouettes: the short-cut rule", 1999).
pub(super) fn crotches(open: &Grid<u32>, contours: &[Contour], radius: f64) -> Vec<Line> {
    let arm = (ARM * radius).max(6.0) as i64;
    let mut lines = Vec::new();
    for contour in contours {
        let count = contour.corners.len();
        if (count as i64) < 8 * arm || contour.area() <= 0.0 {
            continue;
        }
        let turns: Vec<f64> = (0..count).map(|at| contour.turn(at, arm)).collect();
        let is_crotch = |at: &usize| {
            turns[*at] < -CROTCH
                && (-arm..=arm).all(|k| {
                    let other = contour.place(*at as i64 + k);
                    (turns[*at], *at) <= (turns[other], other)
                })
        };
        for from in (0..count).filter(is_crotch) {
            let p = contour.point(from);
            let mut best: Option<Line> = None;
            let mut least = ACROSS * radius;
            for (to, turn) in turns.iter().enumerate() {
                let q = contour.point(to);
                let long = p.distance(q);
                // from crotch to crotch it may be longer
                let counted = if *turn < -HOLLOW { TO_HOLLOW * long } else { long };
                if counted >= least || *turn > -BEND * turns[from] {
                    continue;
                }
                let one = contour.cut_off(from, to);
                let lesser = one.min(contour.area() - one);
                if lesser >= (LIMB * long * long).max(FLOOR * radius * radius) && runs_within(open, Line::new(p, q)) {
                    (best, least) = (Some(Line::new(p, q)), counted);
                }
            }
            lines.extend(best.map(|line| (least, line)));
        }
    }
    // of lines that get in one another's way the shorter one
    lines.sort_by(|a, b| a.0.total_cmp(&b.0));
    let mut laid: Vec<Line> = Vec::new();
    for (_, line) in lines {
        // two lines may begin at one crotch, but not run side by side or across one another
        let near = |p: Point, q: Point| p.distance(q) < radius;
        let alike = |a: Line, b: Line| near(a.p0, b.p0) && near(a.p1, b.p1);
        let shared = |a: Line, b: Line| [a.p0, a.p1].iter().any(|p| [b.p0, b.p1].contains(p));
        let cross =
            |a: Line, b: Line| !shared(a, b) && a.crossing_point(b).is_some_and(|p| lies_on(p, a) && lies_on(p, b));
        if laid.iter().all(|other| !alike(line, *other) && !alike(line.reversed(), *other) && !cross(line, *other)) {
            laid.push(line);
        }
    }
    laid
}

/// Whether a point of the straight line through a line's ends lies between them.
fn lies_on(p: Point, line: Line) -> bool {
    let way = line.p1 - line.p0;
    (0.0..=1.0).contains(&((p - line.p0).dot(way) / way.hypot2()))
}
