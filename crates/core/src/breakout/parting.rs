//! From bodies and limbs that an opening found to parts with straight lines between them.

use super::contour::{lay, traced_contours};
use super::crotches::crotches;
use super::neck_lines::{Contact, LIMB, contacts, depth_beside, narrowest};
use crate::cutout::regions::{Connectivity, regions};
use crate::grid::Grid;
use kurbo::Line;

/// How far along the edge a neck is looked for, in radii of the disc that fits into bodies.
const ALONG: f32 = 8.0;
/// A limb goes on into its body, as a tail that runs to a point, if that is less than this many times as broad.
const BROADER: f64 = 1.22;

/// A mask, which does not reach the border of its grid, with what an opening found in it.
pub(super) struct Opened<'a> {
    /// Bodies, then limbs, without gaps; 0 outside.
    pub labels: &'a Grid<u32>,
    /// The squared distance to the outside, in pixels.
    pub depth: &'a Grid<i16>,
    /// The radius of the disc of the opening, in pixels.
    pub radius: f32,
    /// Labels 1 to this one are bodies.
    pub bodies: u32,
    /// Of every label whether it looked like a mere corner of a body.
    pub corners: &'a [bool],
}

/// Parts a mask by straight lines: between limbs from where they part, and between a limb and its body where the neck is narrowest.
///
/// A body that was found by an opening ends in arcs, which leave its corners to its limbs; a person would cut straight from one side
/// of the neck to the other. Where a straight line parts nothing, things stay as they are. A limb between two bodies whose two
/// lines fall together is none, nor is a mere corner; one that goes on into a body no broader than itself is one part with it.
///
/// Labels of which the second list says from what label each comes; what is less than `smallest` pixels, and what lies under lines, is 0.
pub(super) fn parted(opened: &Opened, smallest: usize) -> (Grid<u32>, Vec<usize>) {
    let labels = opened.labels;
    let mut open = labels.map(|l| u32::from(l > 0));
    let outer = traced_contours(&open);
    let contacts = contacts(labels, &outer, opened.bodies);
    let line = |contact: &Contact| match contact.ends[..] {
        [a, b] => narrowest(labels, &outer, [a, b], (ALONG * opened.radius) as i64),
        _ => None,
    };
    let lines: Vec<Option<Line>> = contacts.iter().map(line).collect();
    crotches(&open, &outer, f64::from(opened.radius)).into_iter().for_each(|line| lay(&mut open, line));
    let necks = necks_laid(opened, &mut open, contacts.iter().zip(lines));
    named(opened, &open, &necks, smallest)
}

/// How a label is parted from others.
#[derive(Debug, Clone, Copy, Default)]
struct Neck {
    /// One of the bodies a limb lies against; none if 0.
    body: u32,
    lines: usize,
    /// The length of its longest line, in pixels.
    longest: f64,
    /// Whether a line from a crotch parts it from a body.
    parted: bool,
    /// Whether it is one part with another one, or parted already.
    goes_on: bool,
}

/// Lays the lines across necks where limbs are not parted from their bodies already; what became of every label.
fn necks_laid<'a>(
    Opened { labels, depth, radius, corners, .. }: &Opened,
    open: &mut Grid<u32>,
    lines: impl Iterator<Item = (&'a Contact, Option<Line>)>,
) -> Vec<Neck> {
    let mut necks = vec![Neck::default(); corners.len()];
    let (pieces, sizes) = regions(&open.map(|o| o > 0), Connectivity::Four);
    let shares = shares(&pieces, sizes.len(), labels, corners.len());
    let most = |label: u32| (1..sizes.len()).max_by_key(|piece| shares[*piece][label as usize]);
    for (Contact { limb, body, .. }, line) in lines {
        necks[*limb as usize].body = *body;
        let Some(line) = line else { continue };
        // a line that has moved into the limb, away from the body, lies at a neck
        let deepest = depth_beside((labels, open), depth, *body, line, *radius as usize);
        let goes_on = deepest > 0.0 && deepest <= BROADER * line.length() / 2.0;
        if goes_on || most(*limb) != most(*body) {
            necks[*limb as usize].parted |= !goes_on;
            necks[*limb as usize].goes_on = true;
            necks[*body as usize].goes_on = true;
            continue;
        }
        lay(open, line);
        let neck = &mut necks[*limb as usize];
        neck.lines += 1;
        neck.longest = neck.longest.max(line.length());
    }
    necks
}

/// How many pixels of each label every piece has.
fn shares(pieces: &Grid<u32>, piece_count: usize, labels: &Grid<u32>, count: usize) -> Vec<Vec<usize>> {
    let mut shares = vec![vec![0; count]; piece_count];
    for (piece, label) in pieces.data.iter().zip(&labels.data) {
        shares[*piece as usize][*label as usize] += 1;
    }
    shares
}

/// The labels of what the lines have left open.
fn named(
    Opened { labels, corners, .. }: &Opened,
    open: &Grid<u32>,
    necks: &[Neck],
    smallest: usize,
) -> (Grid<u32>, Vec<usize>) {
    let (pieces, sizes) = regions(&open.map(|o| o > 0), Connectivity::Four);
    let count = corners.len();
    // what most of a piece was before the lines were laid, it is altogether
    let most = |share: &Vec<usize>| (1..count).max_by_key(|l| share[*l]).unwrap_or(0);
    let mut names: Vec<usize> = shares(&pieces, sizes.len(), labels, count).iter().map(most).collect();
    let mut areas = vec![0; count];
    names.iter().zip(&sizes).skip(1).for_each(|(name, size)| areas[*name] += size);
    // where no line parts a limb, it is what it was
    let kept: Vec<bool> = (0..count).map(|l| areas[l] == 0 && necks[l].lines < 2 && !necks[l].goes_on).collect();
    let own = |label: usize| {
        let (Neck { body, lines, longest, parted, .. }, area) = (necks[label], areas[label] as f64);
        let uncut = lines == 0 && !parted;
        if corners[label] && (uncut || area < LIMB * longest * longest) { body as usize } else { label }
    };
    // of several pieces with one name the largest has it, the others are parts of their own, but for corners
    let mut origins: Vec<usize> = (0..count).collect();
    let mut by_size: Vec<usize> = (1..sizes.len()).collect();
    by_size.sort_by_key(|piece| std::cmp::Reverse(sizes[*piece]));
    let mut taken = vec![false; count];
    for piece in by_size {
        let name = names[piece];
        if own(name) != name {
            names[piece] = own(name);
            continue;
        }
        // the largest of all is something however small it is
        if sizes[piece] < smallest && taken.contains(&true) {
            names[piece] = 0;
        } else if std::mem::replace(&mut taken[name], true) {
            names[piece] = origins.len();
            origins.push(name);
        }
    }
    let name = |(piece, label): (&u32, &u32)| match (*label as usize, *piece as usize) {
        (0, _) => 0,
        (label, _) if kept[label] => own(label) as u32,
        (_, 0) => 0,
        (_, piece) => names[piece] as u32,
    };
    (Grid { data: pieces.data.iter().zip(&labels.data).map(name).collect(), ..pieces }, origins)
}
