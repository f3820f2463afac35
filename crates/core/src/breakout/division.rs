//! A subject where an opening lies over it, divided into parts.

use super::chosen::Chosen;
use super::extent::extents;
use super::found_parts::PartsKeeper;
use super::necks::divided;
use super::neighbours::beside;
use super::working_matte::WorkingMatte;
use crate::cutout::coverage;
use crate::cutout::regions::{Connectivity, regions};
use crate::grid::Grid;
use kurbo::{Affine, BezPath, Point};
use std::collections::VecDeque;

/// Parts smaller than this share of the photo stay in: loose hair makes hundreds of them.
const SMALLEST: f64 = 0.0005;
/// A part of more than this share of the subject is divided at its necks; smaller ones are a limb or less of one.
const LARGE: f64 = 0.06;
/// How far a point that the opening has swallowed is followed along the subject, as a share of the long side.
const FOLLOW: f64 = 0.12;

/// A subject, an opening over it, and the parts of the subject outside of it; all at the working size.
pub struct Division<'m> {
    pub(super) matte: &'m WorkingMatte,
    /// In working pixels.
    pub(super) opening: BezPath,
    /// How much of every pixel the opening covers.
    pub(super) cover: Grid<f32>,
    /// The matte outside of it.
    pub(super) out: Grid<f32>,
    /// The parts, 1 to `count`; 0 is no part. Those that were chosen come first, one number for each region, be it seen or not.
    pub(super) labels: Grid<u32>,
    pub count: usize,
    /// How many labels are those of chosen regions.
    pub(super) chosen: usize,
    /// The chosen region that each pixel lies in, under the opening and in the air too.
    pub(super) regions: Grid<u32>,
    keeper: Option<PartsKeeper<'m>>,
}

impl<'m> Division<'m> {
    /// `opening` is in sheet space, what was chosen in that of the matte. Parts are found anew where no one keeps them. None where nothing is
    /// open, or where the placement cannot be inverted.
    pub fn new(
        matte: &'m WorkingMatte,
        opening: &BezPath,
        to_sheet: Affine,
        chosen: &Chosen,
        keeper: Option<PartsKeeper<'m>>,
    ) -> Option<Self> {
        let flat = to_sheet.determinant().abs();
        if flat.is_nan() || flat <= 1e-12 || opening.is_empty() {
            return None;
        }
        let on_sheet = opening;
        let opening = matte.photo_to_working() * to_sheet.inverse() * on_sheet;
        let alpha = &matte.alpha;
        let (w, h) = (alpha.width, alpha.height);
        let cover = coverage(&opening, w, h);
        let data = alpha.data.iter().zip(&cover.data).map(|(a, c)| a * (1.0 - c)).collect();
        let out = Grid { width: w, height: h, data };
        let find = || part_labels(&out, matte);
        let found = || keeper.as_ref().map_or_else(find, |keeper| keeper.labels(on_sheet, find));
        let (found, regions) = rayon::join(found, || chosen.drawn(matte.photo_to_working(), w, h));
        let chosen = chosen.regions.len();
        let labels = if chosen == 0 { found } else { with_regions(&found, &regions, &out, chosen) };
        let count = labels.data.iter().copied().max().unwrap_or(0).max(chosen as u32) as usize;
        Some(Self { matte, opening, cover, out, labels, count, chosen, regions, keeper })
    }

    /// The part that a point (photo space) means: the one it lies in, or the nearest along the subject.
    pub fn part_at(&self, p: Point) -> Option<u32> {
        let (labels, alpha) = (&self.labels, &self.matte.alpha);
        let p = self.matte.photo_to_working() * p;
        let (w, h) = (labels.width, labels.height);
        if !(p.x >= 0.0 && p.y >= 0.0 && p.x < w as f64 && p.y < h as f64) {
            return None;
        }
        let start = p.y as usize * w + p.x as usize;
        let farthest = (FOLLOW * w.max(h) as f64) as usize;
        let mut seen = vec![false; labels.data.len()];
        let mut queue = VecDeque::from([(start, 0)]);
        seen[start] = true;
        while let Some((i, steps)) = queue.pop_front() {
            if labels.data[i] > 0 {
                return Some(labels.data[i]);
            }
            if steps < farthest {
                for j in beside(i, w, h) {
                    if !seen[j] && alpha.data[j] > 0.5 {
                        seen[j] = true;
                        queue.push_back((j, steps + 1));
                    }
                }
            }
        }
        None
    }

    /// The limbs and bodies of the whole subject, without an opening.
    pub(super) fn whole(&self) -> Grid<u32> {
        let find = || part_labels(&self.matte.alpha, self.matte);
        self.keeper.as_ref().map_or_else(find, |keeper| keeper.labels(&BezPath::new(), find))
    }

    /// The place of a part among the regions that were chosen; None for one that was found.
    pub fn region_of(&self, part: u32) -> Option<usize> {
        (part as usize).checked_sub(1).filter(|k| *k < self.chosen)
    }
}

/// Parts smaller than so many pixels are none.
fn smallest(pixels: usize) -> usize {
    ((SMALLEST * pixels as f64) as usize).max(4)
}

/// Labels 1.. of the solid overhanging parts, with no label left empty.
fn part_labels(out: &Grid<f32>, matte: &WorkingMatte) -> Grid<u32> {
    let solid = out.map(|v| v > 0.5);
    let smallest = smallest(out.data.len());
    let subject = matte.alpha.data.iter().filter(|a| **a > 0.5).count();
    let (connected, sizes) = regions(&solid, Connectivity::Eight);
    let extents = extents(&connected, sizes.len());
    let mut labels = Grid::filled(out.width, out.height, 0);
    let mut count = 0;
    for (i, &size) in sizes.iter().enumerate().skip(1).filter(|(_, s)| **s >= smallest) {
        let cut = extents[i].with_air(&connected, i as u32);
        let large = (LARGE * subject as f64) as usize;
        let (inner, n) = if size > large {
            let edges = matte.edges.as_ref().map(|edges| extents[i].cropped(edges));
            divided(&cut, edges.as_ref(), smallest, large)
        } else {
            (cut.map(u32::from), 1)
        };
        extents[i].write(&inner, &mut labels, |l| count + l);
        count += n;
    }
    labels
}

/// What was found, after what was chosen: a region is one part, and what it leaves of others is theirs, where that is not too small.
fn with_regions(found: &Grid<u32>, regions: &Grid<u32>, out: &Grid<f32>, chosen: usize) -> Grid<u32> {
    let most = found.data.iter().copied().max().unwrap_or(0) as usize;
    let mut left = vec![0; most + 1];
    let free = found.data.iter().zip(&regions.data).filter(|(_, region)| **region == 0);
    free.for_each(|(found, _)| left[*found as usize] += 1);
    let smallest = smallest(found.data.len());
    let mut last = chosen as u32;
    let names: Vec<u32> = left
        .iter()
        .enumerate()
        .map(|(label, left)| {
            let named = label > 0 && *left >= smallest;
            last += u32::from(named);
            if named { last } else { 0 }
        })
        .collect();
    let label = |((found, region), out): ((&u32, &u32), &f32)| match (*region, *out > 0.5) {
        (_, false) => 0,
        (0, _) => names[*found as usize],
        (region, _) => region,
    };
    let data = found.data.iter().zip(&regions.data).zip(&out.data).map(label).collect();
    Grid { data, ..*found }
}
