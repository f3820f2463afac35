//! Dividing a large overhang at its necks: body from limb.

use crate::cutout::regions::{depth, distance_to, regions};
use crate::grid::Grid;
use imageproc::region_labelling::Connectivity;
use std::collections::VecDeque;

/// Radius of the disc that must fit into a body, as a share of the largest that fits anywhere.
const BODY: f32 = 0.55;

/// Divides a connected mask into bodies and limbs.
///
/// A morphological opening by a disc of 0.55 times the largest inscribed radius leaves the bodies; what is left over and
/// larger than `smallest` pixels are limbs; every other pixel goes to the nearest of them. Labels 1.. inside, 0 outside.
pub fn divided(mask: &Grid<bool>, smallest: usize) -> (Grid<u32>, u32) {
    let inner = depth(mask);
    let largest = inner.data.iter().copied().filter(|d| d.is_finite()).fold(0.0, f32::max);
    let radius = (BODY * largest).max(2.0);
    let core = distance_to(&inner.map(|d| d >= radius)).map(|d| d <= radius);
    let combine = |f: fn(bool, bool) -> bool| Grid {
        width: mask.width,
        height: mask.height,
        data: mask.data.iter().zip(&core.data).map(|(m, c)| f(*m, *c)).collect(),
    };
    let mut seeds = Grid::filled(mask.width, mask.height, 0_u32);
    let mut count = 0;
    for (part, least) in [(combine(|m, c| m && c), smallest / 2), (combine(|m, c| m && !c), smallest)] {
        let (labels, sizes) = regions(&part, Connectivity::Eight);
        let mut name = vec![0; sizes.len()];
        for (i, &size) in sizes.iter().enumerate().skip(1) {
            if size > 0 && size >= least {
                count += 1;
                name[i] = count;
            }
        }
        for (s, &l) in seeds.data.iter_mut().zip(&labels.data).filter(|(_, l)| **l > 0) {
            *s = name[l as usize];
        }
    }
    if count == 0 {
        return (mask.map(u32::from), 1);
    }
    flood(&mut seeds, usize::MAX, |i| mask.data[i]);
    (seeds, count)
}

/// Spreads labels to their neighbours, nearest first, at most `reach` steps, wherever `open` allows it.
pub(super) fn flood(labels: &mut Grid<u32>, reach: usize, open: impl Fn(usize) -> bool) {
    let (w, h) = (labels.width, labels.height);
    let mut queue: VecDeque<(usize, usize)> =
        (0..labels.data.len()).filter(|&i| labels.data[i] > 0).map(|i| (i, 0)).collect();
    while let Some((i, steps)) = queue.pop_front() {
        if steps == reach {
            continue;
        }
        for j in beside(i, w, h) {
            if labels.data[j] == 0 && open(j) {
                labels.data[j] = labels.data[i];
                queue.push_back((j, steps + 1));
            }
        }
    }
}

/// The four neighbours of a pixel.
pub(super) fn beside(i: usize, w: usize, h: usize) -> impl Iterator<Item = usize> {
    let (x, y) = (i % w, i / w);
    [(x > 0).then(|| i - 1), (x + 1 < w).then(|| i + 1), (y > 0).then(|| i - w), (y + 1 < h).then(|| i + w)]
        .into_iter()
        .flatten()
}
