//! Where what is let out crosses the edge.

use crate::combine::{bounds, inner_point, parts};
use crate::sheet::{Anchor, Breakout, FillId};
use kurbo::{BezPath, ParamCurveNearest, Point};

/// A place where what is let out crosses the edge.
#[derive(Debug, Clone)]
pub struct Crossing {
    /// The strip of it that reaches under the fills, in sheet space.
    pub strip: BezPath,
    /// In the strip, in sheet space.
    pub at: Point,
    /// What it is told by, in the fill's own space.
    pub anchor: Anchor,
    /// The anchors that say it runs under the edge; none where it runs over.
    pub under_by: Vec<Anchor>,
}

/// The crossings of one subject of a fill. `strips` (sheet space) are all of what is let out within the opening; the maps lead from the
/// fill's own space to the sheet, and back.
pub fn crossings(
    breakout: &Breakout,
    (fill, subject): (FillId, u32),
    strips: &BezPath,
    (to_sheet, back): (&dyn Fn(Point) -> Point, &dyn Fn(Point) -> Point),
) -> Vec<Crossing> {
    let mut found = divided(strips, |at| {
        let p = back(at);
        Anchor { fill, subject, x: p.x, y: p.y }
    });
    for anchor in breakout.under.iter().filter(|a| a.fill == fill && a.subject == subject) {
        if let Some(k) = meant(&found, to_sheet(Point::new(anchor.x, anchor.y))) {
            found[k].under_by.push(*anchor);
        }
    }
    found
}

/// The crossing that a place (sheet space) was told for: the nearest one, unless it has slid away since.
fn meant(crossings: &[Crossing], told: Point) -> Option<usize> {
    let off = |c: &Crossing| {
        let near = c.strip.segments().map(|s| s.nearest(told, 0.1).distance_sq);
        near.fold(f64::INFINITY, f64::min).sqrt()
    };
    let (at, far) = crossings.iter().map(off).enumerate().min_by(|a, b| a.1.total_cmp(&b.1))?;
    let around = bounds(&crossings[at].strip);
    // as far as the limb that crosses is wide
    (far <= around.width().max(around.height()) + 2.0).then_some(at)
}

/// The crossings that `strips`, all of what is let out within the opening, are made of.
fn divided(strips: &BezPath, anchor: impl Fn(Point) -> Anchor) -> Vec<Crossing> {
    let strips = parts(strips);
    let largest = strips.iter().map(|s| s.area).fold(0.0, f64::max);
    // what only grazes the edge crosses nothing
    let crossing = strips.into_iter().filter(|s| s.area > 0.02 * largest);
    let at = crossing.filter_map(|s| Some((inner_point(&s.path)?, s.path)));
    at.map(|(at, strip)| Crossing { anchor: anchor(at), strip, at, under_by: Vec::new() }).collect()
}
