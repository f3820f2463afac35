//! The region of the photo that a part takes up, to be kept.

use super::division::Division;
use super::extent::extents;
use super::neighbours::{beside, flood};
use super::search::deepest;
use super::trace::trace_within;
use crate::combine::contours;
use crate::grid::Grid;
use kurbo::{BezPath, PathEl, Point};

/// How far a region reaches into the air, in working pixels: as far as soft edges go.
const AIR: usize = 24;
/// How far the outline of a region may stray to have fewer corners, in working pixels.
const CORNERS: f64 = 0.75;
/// A region has at most so many corners; one with more strays farther.
const MOST: usize = 600;

/// A region in photo space.
#[derive(Debug, Clone)]
pub struct Region {
    /// The deepest point of the part.
    pub at: Point,
    /// Closed polygons, to be filled by the even-odd rule.
    pub polygons: Vec<Vec<Point>>,
}

impl Division<'_> {
    /// The region of one of the parts that `labels` (1.., as [`Self::moved`] and [`Self::cut`] give them) tell apart. None for a part that is
    /// not there.
    pub fn region(&self, labels: &Grid<u32>, part: u32) -> Option<Region> {
        let extent = extents(labels, part.max(self.count as u32 + 1) as usize + 1)[part as usize];
        if extent.pixels == 0 {
            return None;
        }
        let (x, y) = deepest(&extent.with_air(labels, part))?;
        let back = self.matte.photo_to_working().inverse();
        let at = back * Point::new((extent.x0 + x) as f64 - 0.5, (extent.y0 + y) as f64 - 0.5);
        let whole = self.spread(labels).map(|l| if l == part { 1.0 } else { 0.0 });
        let tolerances = std::iter::successors(Some(CORNERS), |t| Some(2.0 * t)).take(6);
        let mut polygons = Vec::new();
        for tolerance in tolerances {
            polygons = corners(&(back * trace_within(&whole, tolerance)));
            if polygons.iter().map(Vec::len).sum::<usize>() <= MOST {
                break;
            }
        }
        (!polygons.is_empty()).then_some(Region { at, polygons })
    }

    /// The parts with what they would bring along from under the opening, and with the air around them.
    ///
    /// Under the opening a part goes on as far as the subject's own limb or body goes, as necks divide it without an opening; where several
    /// parts could, to the middle between them.
    fn spread(&self, labels: &Grid<u32>) -> Grid<u32> {
        let alpha = &self.matte.alpha;
        let (w, h) = (alpha.width, alpha.height);
        let is_under = |i: usize| self.cover.data[i] > 0.5 && alpha.data[i] > 0.5;
        let whole = self.whole();
        let mut all = labels.clone();
        // what was chosen keeps what it has there
        let chosen = all.data.iter_mut().zip(&self.regions.data).enumerate();
        chosen.filter(|(i, (label, _))| **label == 0 && is_under(*i)).for_each(|(_, (label, region))| *label = *region);
        let mut front: Vec<usize> = (0..all.data.len()).filter(|i| all.data[*i] > 0).collect();
        while !front.is_empty() {
            let mut next = Vec::new();
            for i in front {
                for j in beside(i, w, h) {
                    let same = !is_under(i) || whole.data[j] == 0 || whole.data[i] == whole.data[j];
                    if all.data[j] == 0 && is_under(j) && same {
                        all.data[j] = all.data[i];
                        next.push(j);
                    }
                }
            }
            front = next;
        }
        // air goes to what is nearest, be it a part or not
        let nobody = u32::MAX;
        let free = all.data.iter_mut().zip(&alpha.data).filter(|(label, a)| **label == 0 && **a > 0.5);
        free.for_each(|(label, _)| *label = nobody);
        flood(&mut all, AIR, |i| alpha.data[i] <= 0.5);
        all
    }
}

fn corners(path: &BezPath) -> Vec<Vec<Point>> {
    let points = |contour: &BezPath| {
        let ends = contour.elements().iter().filter_map(|e| match e {
            PathEl::MoveTo(p) | PathEl::LineTo(p) => Some(*p),
            _ => None,
        });
        ends.collect::<Vec<Point>>()
    };
    contours(path).iter().map(points).filter(|c| c.len() > 2).collect()
}
