//! Dividing a large overhang at its necks: body from limb.

use crate::cutout::reach::squared_depth;
use crate::cutout::regions::{Connectivity, regions};
use crate::grid::Grid;

/// Radius of the disc that must fit into a body, as a share of the largest that fits anywhere.
const BODY: f32 = 0.55;

/// What is left over beside a body and has less area than this share of the square over its neck is no limb but a corner of the body: a disc
/// leaves such wherever an opening cuts a body off. It is 0.09 for corners of 90 degrees, 0.16 for 60, 0.35 for 30, and well above 1 for what a
/// person would call a limb.
const SPIKE: f32 = 0.7;

/// Of masks with more pixels, necks are looked for at half the size.
const LARGE: usize = 40_000;

/// Divides a connected mask into bodies and limbs.
///
/// A morphological opening by a disc of 0.55 times the largest inscribed radius leaves the bodies; what is left over and
/// larger than `smallest` pixels are limbs, unless they are mere corners; every other pixel goes to the nearest of them. Labels 1.. inside, 0 outside.
pub fn divided(mask: &Grid<bool>, smallest: usize) -> (Grid<u32>, u32) {
    let (mut labels, count) = if mask.data.len() > LARGE {
        let half = Grid::from_fn(mask.width.div_ceil(2), mask.height.div_ceil(2), |x, y| mask.at(2 * x, 2 * y));
        let (seeds, count) = seeds(&half, (smallest / 4).max(1));
        // what lies along another part or along the edge is parted at full size
        let inner = |x: usize, y: usize| {
            let own = seeds.at(x, y);
            beside(y * half.width + x, half.width, half.height).all(|i| seeds.data[i] == own)
        };
        let inside = |x: usize, y: usize| mask.at(x, y) && inner(x / 2, y / 2);
        let label = |x: usize, y: usize| if inside(x, y) { seeds.at(x / 2, y / 2) } else { 0 };
        let mut large = Grid::from_fn(mask.width, mask.height, label);
        // a part that is thin everywhere has no such pixels
        for (i, &label) in seeds.data.iter().enumerate().filter(|(_, l)| **l > 0) {
            large.data[i / half.width * 2 * mask.width + i % half.width * 2] = label;
        }
        (large, count)
    } else {
        seeds(mask, smallest)
    };
    if count == 0 {
        return (mask.map(u32::from), 1);
    }
    flood(&mut labels, usize::MAX, |i| mask.data[i]);
    (calmed(&labels), count)
}

/// Radius within which the line between two parts is calmed, in pixels.
const CALM: i64 = 5;

/// Labels whose lines between one another have no steps: near one, a pixel goes to the label that most pixels around it have.
fn calmed(labels: &Grid<u32>) -> Grid<u32> {
    let (w, h) = (labels.width as i64, labels.height as i64);
    let at =
        |x: i64, y: i64| if (0..w).contains(&x) && (0..h).contains(&y) { labels.at(x as usize, y as usize) } else { 0 };
    let mut calm = labels.clone();
    let far = CALM as usize;
    let others = |i: usize, own: u32| {
        let (x, y) = (i % labels.width, i / labels.width);
        let differs = |j: usize| labels.data[j] != own && labels.data[j] > 0;
        (x >= far && differs(i - far))
            || (x + far < labels.width && differs(i + far))
            || (y >= far && differs(i - far * labels.width))
            || (y + far < labels.height && differs(i + far * labels.width))
    };
    for (i, own) in labels.data.iter().copied().enumerate().filter(|(_, l)| *l > 0) {
        if !others(i, own) {
            continue;
        }
        let (x, y) = (i as i64 % w, i as i64 / w);
        let around = (-CALM..=CALM).flat_map(|dy| (-CALM..=CALM).map(move |dx| (dx, dy)));
        let disc = around.filter(|(dx, dy)| dx * dx + dy * dy <= CALM * CALM);
        let mut counts: Vec<(u32, usize)> = Vec::new();
        for label in disc.map(|(dx, dy)| at(x + dx, y + dy)).filter(|l| *l > 0) {
            match counts.iter_mut().find(|(l, _)| *l == label) {
                Some((_, n)) => *n += 1,
                None => counts.push((label, 1)),
            }
        }
        let most = counts.iter().map(|(_, n)| *n).max().unwrap_or(0);
        // where it is even, it stays as it is
        if !counts.contains(&(own, most)) {
            calm.data[i] = counts.iter().find(|(_, n)| *n == most).map_or(own, |(l, _)| *l);
        }
    }
    calm
}

/// The bodies and limbs of a mask, without what is too small to be either.
fn seeds(mask: &Grid<bool>, smallest: usize) -> (Grid<u32>, u32) {
    let inner = squared_depth(mask, mask.width.min(mask.height) / 2 + 1);
    let largest = f32::from(inner.data.iter().copied().max().unwrap_or(0)).sqrt();
    let radius = (BODY * largest).max(2.0);
    let within = |d: i16| f32::from(d) <= radius * radius;
    let outside = inner.map(|d| f32::from(d) < radius * radius);
    let core = squared_depth(&outside, radius.ceil() as usize).map(within);
    let combine = |f: fn(bool, bool) -> bool| Grid {
        width: mask.width,
        height: mask.height,
        data: mask.data.iter().zip(&core.data).map(|(m, c)| f(*m, *c)).collect(),
    };
    let (bodies, mut limbs) = rayon::join(
        || regions(&combine(|m, c| m && c), Connectivity::Eight),
        || regions(&combine(|m, c| m && !c), Connectivity::Eight),
    );
    let necks = contacts(&limbs, &core);
    for (size, neck) in limbs.1.iter_mut().zip(necks) {
        if (*size as f32) < SPIKE * (neck * neck) as f32 {
            *size = 0;
        }
    }
    let mut seeds = Grid::filled(mask.width, mask.height, 0_u32);
    let mut count = 0;
    for ((labels, sizes), least) in [(bodies, smallest / 2), (limbs, smallest)] {
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
    (seeds, count)
}

/// How many pixels of each region lie beside the core.
fn contacts((labels, sizes): &(Grid<u32>, Vec<usize>), core: &Grid<bool>) -> Vec<usize> {
    let mut necks = vec![0; sizes.len()];
    for (y, line) in labels.data.chunks(labels.width).enumerate() {
        let is_core = |row: usize, x: usize| core.data[row * labels.width + x];
        for (x, label) in line.iter().enumerate().filter(|(_, l)| **l > 0) {
            let aside = (x > 0 && is_core(y, x - 1)) || (x + 1 < line.len() && is_core(y, x + 1));
            if aside || (y > 0 && is_core(y - 1, x)) || (y + 1 < labels.height && is_core(y + 1, x)) {
                necks[*label as usize] += 1;
            }
        }
    }
    necks
}

/// Spreads labels to their neighbours, nearest first, at most `reach` steps, wherever `open` allows it.
pub(super) fn flood(labels: &mut Grid<u32>, reach: usize, open: impl Fn(usize) -> bool) {
    let (w, h) = (labels.width, labels.height);
    let mut front = Vec::new();
    for (y, line) in labels.data.chunks(w).enumerate() {
        let is_free = |row: usize, x: usize| labels.data[row * w + x] == 0;
        for (x, _) in line.iter().enumerate().filter(|(_, l)| **l > 0) {
            let aside = (x > 0 && line[x - 1] == 0) || (x + 1 < w && line[x + 1] == 0);
            if aside || (y > 0 && is_free(y - 1, x)) || (y + 1 < h && is_free(y + 1, x)) {
                front.push(y * w + x);
            }
        }
    }
    let mut next = Vec::new();
    for _ in 0..reach {
        for &i in &front {
            for j in beside(i, w, h) {
                if labels.data[j] == 0 && open(j) {
                    labels.data[j] = labels.data[i];
                    next.push(j);
                }
            }
        }
        if next.is_empty() {
            break;
        }
        std::mem::swap(&mut front, &mut next);
        next.clear();
    }
}

/// The four neighbours of a pixel.
pub(super) fn beside(i: usize, w: usize, h: usize) -> impl Iterator<Item = usize> {
    let (x, y) = (i % w, i / w);
    [(x > 0).then(|| i - 1), (x + 1 < w).then(|| i + 1), (y > 0).then(|| i - w), (y + 1 < h).then(|| i + w)]
        .into_iter()
        .flatten()
}
