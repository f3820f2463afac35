//! Dividing a large overhang at its necks: body from limb.

use super::extent::extents;
use super::neighbours::flood;
use super::parting::{Opened, parted};
use super::seams::with_seams;
use crate::cutout::distance::squared_depth;
use crate::cutout::regions::{Connectivity, regions};
use crate::grid::Grid;

/// Radius of the disc that must fit into a body, as a share of the largest that fits anywhere.
const BODY: f32 = 0.55;

/// What is left over beside a body and has less area than this share of the square over the line between them looks like a corner of the body: a
/// disc leaves such wherever an opening cuts a body off. It is 0.09 for corners of 90 degrees, 0.16 for 60, 0.35 for 30, and well above 1 for what
/// a person would call a limb. A limb that begins at such a corner shows once the line lies across its neck.
const SPIKE: f32 = 0.5;

/// Of masks with more pixels, necks are looked for at half the size.
const LARGE: usize = 40_000;

/// How often limbs of limbs are looked for.
const AGAIN: usize = 2;

/// Divides a connected mask, which does not reach the border of its grid, into bodies and limbs.
///
/// A morphological opening by a disc of 0.55 times the largest inscribed radius leaves the bodies; what is left over and
/// larger than `smallest` pixels are limbs, unless they are mere corners; every other pixel goes to the nearest of them. Between body and limb runs a
/// straight line where the neck is narrowest. A limb of more than `large` pixels is divided again: arms that come from one stump. Where `edges` of
/// colour inside (as large as the mask; see `inner_edges`) show which of two limbs lies in front, the stump is parted along those. Labels 1.. inside, 0
/// outside, and how many they are.
pub fn divided(mask: &Grid<bool>, edges: Option<&Grid<u8>>, smallest: usize, large: usize) -> (Grid<u32>, u32) {
    let (mut labels, mut is_limb) = divided_once(mask, smallest);
    let mut first = 0;
    for _ in 0..AGAIN {
        if !is_limb[first..].contains(&true) {
            break;
        }
        let extents = extents(&labels, is_limb.len());
        let again: Vec<usize> = (first..is_limb.len()).filter(|l| is_limb[*l] && extents[*l].pixels > large).collect();
        first = is_limb.len();
        for limb in again {
            let air = extents[limb].with_air(&labels, limb as u32);
            let (inner, inner_limbs) = divided_once(&air, smallest);
            let more = is_limb.len() as u32 - 2;
            extents[limb].write(&inner, &mut labels, |l| if l == 1 { limb as u32 } else { more + l });
            is_limb.extend(&inner_limbs[2.min(inner_limbs.len())..]);
        }
    }
    let count = is_limb.len() as u32 - 1;
    let Some(divided) = edges.and_then(|edges| with_seams(&labels, count, edges)) else {
        return (labels, count);
    };
    let (labels, kept) = numbered(calmed(&divided), &is_limb);
    (labels, kept.len() as u32 - 1)
}

/// [`divided`] without a second look at the limbs: of every label whether it is a limb.
fn divided_once(mask: &Grid<bool>, smallest: usize) -> (Grid<u32>, Vec<bool>) {
    let (mut labels, is_limb) = if mask.data.len() > LARGE {
        let half = Grid::from_fn(mask.width.div_ceil(2), mask.height.div_ceil(2), |x, y| mask.at(2 * x, 2 * y));
        let (seeds, is_limb) = seeds(&half, (smallest / 4).max(1));
        (enlarged(&seeds, mask), is_limb)
    } else {
        seeds(mask, smallest)
    };
    if is_limb.len() < 2 {
        return (mask.map(u32::from), vec![false, false]);
    }
    labels.data.iter_mut().zip(&mask.data).filter(|(_, inside)| !**inside).for_each(|(l, _)| *l = 0);
    flood(&mut labels, usize::MAX, |i| mask.data[i]);
    numbered(calmed(&labels), &is_limb)
}

/// The labels of a mask at half the size, for the mask: without what lies along another part or along the edge, which is parted at full size.
fn enlarged(half: &Grid<u32>, mask: &Grid<bool>) -> Grid<u32> {
    let (w, h) = (half.width, half.height);
    let mut large = Grid::filled(mask.width, mask.height, 0);
    let mut inner = vec![0; w];
    for (y, own) in half.data.chunks(w).enumerate() {
        let above = &half.data[y.saturating_sub(1) * w..][..w];
        let below = &half.data[(y + 1).min(h - 1) * w..][..w];
        for x in 0..w {
            let alike = own[x] == own[x.saturating_sub(1)] && own[x] == own[(x + 1).min(w - 1)];
            inner[x] = if alike && own[x] == above[x] && own[x] == below[x] { own[x] } else { 0 };
        }
        for row in (2 * y..2 * y + 2).filter(|row| *row < mask.height) {
            let line = &mut large.data[row * mask.width..][..mask.width];
            for (to, label) in line.chunks_mut(2).zip(&inner) {
                to.fill(*label);
            }
        }
        // a part that is thin everywhere has no such pixels
        for (x, label) in own.iter().enumerate().filter(|(_, l)| **l > 0) {
            large.data[2 * y * mask.width + 2 * x] = *label;
        }
    }
    large
}

/// Labels without a gap in their numbers.
fn numbered(labels: Grid<u32>, is_limb: &[bool]) -> (Grid<u32>, Vec<bool>) {
    let mut found = vec![false; is_limb.len()];
    labels.data.iter().for_each(|l| found[*l as usize] = true);
    let (mut names, mut kept) = (vec![0; is_limb.len()], vec![false]);
    for label in (1..is_limb.len()).filter(|l| found[*l]) {
        names[label] = kept.len() as u32;
        kept.push(is_limb[label]);
    }
    (labels.map(|l| names[l as usize]), kept)
}

/// Radius within which the line between two parts is calmed, in pixels.
const CALM: usize = 5;
/// Half the width of a disc of that radius in each row from its middle.
const DISC: [usize; CALM + 1] = [5, 4, 4, 4, 3, 0];

/// Labels whose lines between one another have no steps: near one, a pixel goes to the label that most pixels around it have.
fn calmed(labels: &Grid<u32>) -> Grid<u32> {
    let (w, h, far) = (labels.width, labels.height, CALM);
    let mut near = Vec::new();
    for (y, own) in labels.data.chunks(w).enumerate() {
        let above = &labels.data[y.saturating_sub(far) * w..][..w];
        let below = &labels.data[(y + far).min(h - 1) * w..][..w];
        for (x, &l) in own.iter().enumerate().filter(|(_, l)| **l > 0) {
            let differs = |other: u32| other != l && other > 0;
            let aside = differs(own[x.saturating_sub(far)]) || differs(own[(x + far).min(w - 1)]);
            if aside || differs(above[x]) || differs(below[x]) {
                near.push((x, y, l));
            }
        }
    }
    let mut calm = labels.clone();
    for (x, y, own) in near {
        let rows = (y.saturating_sub(far)..(y + far + 1).min(h)).map(|row| {
            let half = DISC[row.abs_diff(y)];
            &labels.data[row * w + x.saturating_sub(half)..row * w + (x + half + 1).min(w)]
        });
        let (mut alike, mut all) = (0, 0);
        for row in rows.clone() {
            alike += row.iter().map(|l| u32::from(*l == own)).sum::<u32>();
            all += row.iter().map(|l| u32::from(*l > 0)).sum::<u32>();
        }
        if 2 * alike >= all {
            continue;
        }
        let mut counts: Vec<(u32, usize)> = Vec::new();
        for label in rows.flatten().copied().filter(|l| *l > 0) {
            match counts.iter_mut().find(|(l, _)| *l == label) {
                Some((_, n)) => *n += 1,
                None => counts.push((label, 1)),
            }
        }
        let most = counts.iter().map(|(_, n)| *n).max().unwrap_or(0);
        // where it is even, it stays as it is
        if !counts.contains(&(own, most)) {
            calm.data[y * w + x] = counts.iter().find(|(_, n)| *n == most).map_or(own, |(l, _)| *l);
        }
    }
    calm
}

/// The bodies and limbs of a mask, without what is too small to be either; pin holes, as loose wool has them, belong to what is around them.
///
/// Of every label it is said whether it is a limb.
fn seeds(mask: &Grid<bool>, smallest: usize) -> (Grid<u32>, Vec<bool>) {
    let (holes, sizes) = regions(&mask.map(|inside| !inside), Connectivity::Four);
    let mask = &holes.map(|hole| hole == 0 || sizes[hole as usize] < smallest / 2);
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
    let (bodies, limbs) = rayon::join(
        || regions(&combine(|m, c| m && c), Connectivity::Eight),
        || regions(&combine(|m, c| m && !c), Connectivity::Eight),
    );
    let necks = contacts(&limbs, &core);
    let is_corner = |label: usize| (limbs.1[label] as f32) < SPIKE * (necks[label] * necks[label]) as f32;
    let mut seeds = Grid::filled(mask.width, mask.height, 0_u32);
    let mut corners = vec![false];
    let mut body_count = 0;
    for (is_limb, (labels, sizes), least) in [(false, &bodies, smallest / 2), (true, &limbs, smallest)] {
        let mut name = vec![0; sizes.len()];
        for (i, _) in sizes.iter().enumerate().skip(1).filter(|(_, size)| **size >= least.max(1)) {
            name[i] = corners.len() as u32;
            corners.push(is_limb && is_corner(i));
            body_count += u32::from(!is_limb);
        }
        for (s, &l) in seeds.data.iter_mut().zip(&labels.data).filter(|(_, l)| **l > 0) {
            *s = name[l as usize];
        }
    }
    flood(&mut seeds, usize::MAX, |i| mask.data[i]);
    let opened = Opened { labels: &seeds, depth: &inner, radius, bodies: body_count, corners: &corners };
    let (seeds, origins) = parted(&opened, smallest);
    let is_limb = origins.iter().map(|label| *label > body_count as usize).collect();
    (seeds, is_limb)
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
