//! The pieces of a drawing that reach over the edge of the opening.

use super::overhang_view::{OverhangView, Surroundings, place_of};
use crate::breakout::{JointOpening, crosses};
use crate::combine::{Rule, bounds, contours, join_pair, parts, unite};
use crate::cutout::coverage;
use crate::outline::{DrawingTree, placed_part};
use crate::scene::svg::{matrix, path_data};
use crate::sheet::{Anchor, DrawingFill, FillId};
use kurbo::{Affine, BezPath, Rect, Shape};
use rayon::prelude::*;

/// Pieces of drawings with more of them than this are let out by their groups alone.
const PIECES: usize = 4000;
/// Cells along the longer side of an opening.
const CELLS: f64 = 256.0;

/// Where nothing but the inside of an opening is, and where nothing of it is: told by a box, without looking at outlines.
struct Coarse {
    /// Sheet space.
    frame: Rect,
    /// Millimetres of a cell.
    cell: f64,
    width: usize,
    height: usize,
    /// How many cells above and to the left of each corner are covered in part or whole, and in whole.
    sums: Vec<[u32; 2]>,
}

impl Coarse {
    fn of(opening: &BezPath) -> Self {
        let frame = bounds(opening);
        let cell = (frame.width().max(frame.height()) / CELLS).max(1e-6);
        let side = |v: f64| (v / cell).ceil().max(1.0) as usize;
        let (width, height) = (side(frame.width()), side(frame.height()));
        let to_cells = Affine::scale(1.0 / cell) * Affine::translate(-frame.origin().to_vec2());
        let cover = coverage(&(to_cells * opening), width, height);
        let mut sums = vec![[0; 2]; (width + 1) * (height + 1)];
        for y in 0..height {
            let mut row = [0; 2];
            for x in 0..width {
                let share = cover.at(x, y);
                row = [row[0] + u32::from(share > 0.001), row[1] + u32::from(share > 0.999)];
                let above = sums[y * (width + 1) + x + 1];
                sums[(y + 1) * (width + 1) + x + 1] = [above[0] + row[0], above[1] + row[1]];
            }
        }
        Self { frame, cell, width, height, sums }
    }

    /// Whether a box lies inside of the opening altogether (true) or outside (false); None where it may be neither.
    fn side_of(&self, own: Rect) -> Option<bool> {
        // a cell of air: thin lines between cells count in the next one
        let [x0, y0] = [own.x0 - self.frame.x0, own.y0 - self.frame.y0].map(|v| (v / self.cell).floor() - 1.0);
        let [x1, y1] = [own.x1 - self.frame.x0, own.y1 - self.frame.y0].map(|v| (v / self.cell).ceil() + 1.0);
        let within = x0 >= 0.0 && y0 >= 0.0 && x1 <= self.width as f64 && y1 <= self.height as f64;
        let at = |v: f64, most: usize| v.clamp(0.0, most as f64) as usize;
        let (x0, x1) = (at(x0, self.width), at(x1, self.width));
        let (y0, y1) = (at(y0, self.height), at(y1, self.height));
        let sum = |x: usize, y: usize| self.sums[y * (self.width + 1) + x].map(i64::from);
        let count = |k: usize| sum(x1, y1)[k] - sum(x0, y1)[k] - sum(x1, y0)[k] + sum(x0, y0)[k];
        match (count(0), count(1)) {
            (0, _) => Some(false),
            (_, full) if within && full == ((x1 - x0) * (y1 - y0)) as i64 => Some(true),
            _ => None,
        }
    }
}

/// Describes the pieces of a drawing that reach over the edge; none where it has too many.
pub(super) fn of_drawing(
    fill: FillId,
    drawing: &DrawingFill,
    picture: &DrawingTree,
    joint: &JointOpening,
) -> Vec<OverhangView> {
    let shown = &*joint.opening;
    let pieces: Vec<usize> = picture.pieces().take(PIECES + 1).collect();
    if pieces.len() > PIECES {
        return Vec::new();
    }
    let place = &drawing.placement;
    let to_sheet = place.affine(picture.width, picture.height);
    let around = bounds(shown);
    let surroundings = Surroundings::of(shown);
    let page = (picture.width * picture.height).max(1e-9);
    let all = contours(shown);
    let edges = |own: &BezPath| {
        (0..all.len()).filter(|k| crosses(own, &all[*k])).map(|k| joint.first_edge + k as u32).collect()
    };
    let coarse = Coarse::of(shown);
    let described = pieces.into_par_iter().filter_map(|at| {
        let looks = || drawing.looks.iter().filter(|l| picture.holds(l.part as usize, at));
        if looks().any(|l| l.off) {
            return None;
        }
        let own: BezPath = picture.shapes(at).flat_map(|s| s.path.elements().iter().copied()).collect();
        let side = coarse.side_of((to_sheet * &*placed_part(&own, picture, place)).bounding_box());
        if side == Some(true) {
            return None;
        }
        let own = unite(&own);
        let placed = placed_part(&own, picture, place);
        let seen = to_sheet * &*placed;
        let is_beyond = side == Some(false);
        let outside = if is_beyond { seen.clone() } else { join_pair(&seen, shown, Rule::Difference) };
        let largest = parts(&outside).into_iter().max_by(|a, b| a.area.total_cmp(&b.area))?;
        // what only grazes the edge cannot be pointed at; what lies beyond it only if it is a speck
        let least = if is_beyond { 1e-6 } else { 1e-4 };
        if largest.area < least * around.area() {
            return None;
        }
        let middle = largest.bounds.center();
        let anchor = Anchor { fill, subject: 0, x: middle.x, y: middle.y };
        Some(OverhangView {
            anchor,
            let_out_by: if looks().any(|l| l.out) { vec![anchor] } else { Vec::new() },
            outline: path_data(&outside),
            transform: matrix(Affine::IDENTITY),
            counter: false,
            cut_off: false,
            touches: if is_beyond { Vec::new() } else { edges(&seen) },
            share: placed.area().abs() / page,
            of: None,
            name: None,
            soft: None,
            part: Some(at as u32),
            place: place_of((middle, largest.bounds), &surroundings, false).into(),
        })
    });
    described.collect()
}
