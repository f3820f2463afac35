//! Seams: where one limb passes before another, both are parted along the edge between them.

use super::contour::{Contour, traced_contours};
use super::extent::{Extent, extents};
use super::neighbours::flood;
use crate::cutout::distance::{FARTHEST, squared_depth};
use crate::cutout::regions::{Connectivity, regions};
use crate::grid::Grid;
use crate::ways::{ASIDE, Ways};
use kurbo::{Point, Rect, Vec2};
use rayon::prelude::*;
use std::collections::BTreeMap;

/// Two limbs that lie side by side are together at most this much wider than both apart. A body is wider.
const WIDE: f64 = 1.3;
/// The same where one of the limbs is one part with what is behind.
const WIDE_ALONE: f64 = 1.15;
/// And so much wider both apart at most: one may lie before the other.
const NARROW: f64 = 2.0;
/// The least length of a neck, in radii of the largest disc that fits in behind.
const THIN: f64 = 0.5;
/// How far apart the necks of two limbs are at their crotch, as a share of the radius of the largest disc that fits in behind.
const CROTCH: f64 = 0.4;
/// The outline turns at a crotch by more than this towards the inside, in radians, over a share of that radius to both sides.
const TURN: f64 = 0.9;
const ARM: f64 = 0.33;
/// A seam ends ahead: the least cosine between the way to there and the way inward at the crotch.
const AHEAD: f64 = 0.5;
/// What is thinner than this all over is not divided, in pixels: the radius of the largest disc that fits in.
const FINE: f64 = 8.0;
/// The least length of a seam, in those radii.
const LENGTH: f64 = 3.5;
/// The least share of what is divided, on either side.
const SHARE: f64 = 0.2;
/// What the way along a seam costs at most, as a share of what other ways from there cost. In an even pattern it is about 0.8.
const COST: f64 = 0.79;
/// The same where one of the limbs is one part with what is behind.
const COST_ALONE: f64 = 0.75;
/// Edges are told from the strongest: this share of the pixels is weaker.
const STRONG: f64 = 0.95;
/// Edges weaker than this are none, in the steps of `inner_edges`.
const FAINT: u8 = 10;
/// What a pixel of way costs along the strongest edges, and how much more beside all edges.
const ALONG: f64 = 4.0;
const BESIDE: f64 = 40.0;
/// Ways shorter than this tell nothing, in pixels.
const NEAR: f64 = 10.0;

/// Divides what two limbs have in common, where they lie side by side or across one another, so that each has its own.
///
/// Shape alone finds the ends of such limbs, and one part behind the crotch between them. A seam through that is the least costly way from the crotch along
/// edges of colour (E. Mortensen, W. Barrett, "Interactive segmentation with intelligent scissors", 1998): where one surface hides another, its outline
/// goes on inside. A pattern has edges everywhere; so a seam must cost clearly less than other ways through the same part.
///
/// `labels` are 1 to `count`, with air around them; `edges` are as large. The labels without those that were divided; None where none was.
pub(super) fn with_seams(labels: &Grid<u32>, count: u32, edges: &Grid<u8>) -> Option<Grid<u32>> {
    let necks = necks(labels);
    let mut beside: BTreeMap<u32, Vec<Limb>> = BTreeMap::new();
    for ((own, other), neck) in &necks {
        beside.entry(*own).or_default().push((*other, neck));
    }
    let outline = traced_contours(labels);
    let extents = extents(labels, count as usize + 1);
    let mut divided = labels.clone();
    let mut taken = vec![false; count as usize + 1];
    let found: Vec<(Shared, Seam)> = beside
        .par_iter()
        .filter_map(|(own, limbs)| {
            let shared = Shared::new(labels, *own, &extents[*own as usize], limbs)?;
            let crotches = shared.crotches(limbs, &outline);
            let ground = (!crotches.is_empty()).then(|| shared.ground(edges)).flatten()?;
            let seams = crotches.into_iter().filter_map(|crotch| shared.seam(&ground, crotch));
            let seam = seams.min_by(|a, b| a.cost.total_cmp(&b.cost))?;
            Some((shared, seam))
        })
        .collect();
    for (shared, seam) in found {
        let all = || seam.limbs.iter().map(|(limb, _)| *limb).chain([shared.own]);
        if !all().any(|label| taken[label as usize]) && shared.divide(&mut divided, &seam) {
            all().for_each(|label| taken[label as usize] = true);
        }
    }
    taken.contains(&true).then_some(divided)
}

/// The pixels of each label that lie beside each other label.
fn necks(labels: &Grid<u32>) -> BTreeMap<(u32, u32), Vec<usize>> {
    let w = labels.width;
    let mut necks: BTreeMap<(u32, u32), Vec<usize>> = BTreeMap::new();
    for (i, own) in labels.data.iter().enumerate().filter(|(_, l)| **l > 0) {
        // air all around keeps these within the grid
        let mut others = [i - 1, i + 1, i - w, i + w].map(|j| labels.data[j]);
        others.sort_unstable();
        for (k, other) in others.iter().enumerate() {
            if *other > 0 && other != own && !others[..k].contains(other) {
                necks.entry((*own, *other)).or_default().push(i);
            }
        }
    }
    necks
}

/// A label, and the pixels of another one that lie beside it.
type Limb<'n> = (u32, &'n [usize]);

/// Where two limbs part: a pixel of what is behind, and the limbs; the second one may be one part with that.
struct Crotch<'n> {
    at: usize,
    /// Away from the gap between the limbs.
    inward: Vec2,
    limbs: Vec<Limb<'n>>,
}

/// A way through what is behind a crotch.
struct Seam<'n> {
    /// As a share of what other ways cost.
    cost: f64,
    /// Pixels of the mask.
    way: Vec<usize>,
    limbs: Vec<Limb<'n>>,
}

/// A part that two limbs may have in common.
struct Shared<'a> {
    labels: &'a Grid<u32>,
    own: u32,
    extent: &'a Extent,
    mask: Grid<bool>,
    /// That of the largest disc that fits in, in pixels.
    radius: f64,
    /// The place of the mask's first pixel among the labels.
    origin: (usize, usize),
}

/// What a seam is looked for in.
struct Ground {
    /// What a pixel of way costs.
    costs: Grid<u32>,
    contour: Contour,
}

impl<'a> Shared<'a> {
    /// None for what is too thin, too wide to lie behind any of its limbs, or too short for a seam.
    fn new(labels: &'a Grid<u32>, own: u32, extent: &'a Extent, limbs: &[Limb]) -> Option<Self> {
        let (w, h) = (extent.x1 - extent.x0, extent.y1 - extent.y0);
        // a neck has a pixel or more for each of its length, and two limbs are as wide as twice the wider one at most
        let widest = limbs.iter().map(|(_, neck)| neck.len()).max()?;
        let most = (WIDE * widest as f64).ceil() as usize + 1;
        if (w.min(h) as f64) < 2.0 * FINE || most as f64 <= FINE {
            return None;
        }
        let mask = extent.with_air(labels, own);
        let depth = squared_depth(&mask, (w.min(h) / 2 + 2).min(most).min(FARTHEST));
        let radius = f64::from(depth.data.iter().copied().max().unwrap_or(0)).sqrt();
        // as long as a seam has to be, and as wide as two limbs
        let long = extent.pixels as f64 >= 2.0 * LENGTH * radius * radius;
        if radius > most as f64 || !long {
            return None;
        }
        // air stands around the mask
        let origin = (extent.x0.checked_sub(1)?, extent.y0.checked_sub(1)?);
        (radius >= FINE).then_some(Self { labels, own, extent, mask, radius, origin })
    }

    fn ground(&self, edges: &Grid<u8>) -> Option<Ground> {
        let costs = costs(&self.mask, &self.extent.cropped(edges))?;
        let contours = traced_contours(&self.mask.map(u32::from));
        let contour = contours.into_iter().max_by(|a, b| a.area().total_cmp(&b.area()))?;
        Some(Ground { costs, contour })
    }

    /// The middle of a pixel of the labels.
    fn place(&self, i: usize) -> Point {
        Point::new((i % self.labels.width) as f64 + 0.5, (i / self.labels.width) as f64 + 0.5)
    }

    /// Where a pixel of the labels lies in the mask.
    fn in_mask(&self, i: usize) -> usize {
        let (x, y) = (i % self.labels.width - self.origin.0, i / self.labels.width - self.origin.1);
        y * self.mask.width + x
    }

    /// The crotches behind which two limbs may lie side by side.
    ///
    /// One of the two may be one part with what is behind; it is taken to be as wide as the other.
    fn crotches<'n>(&self, limbs: &[Limb<'n>], outline: &[Contour]) -> Vec<Crotch<'n>> {
        let reach = (CROTCH * self.radius).max(4.0);
        let near = |a: usize, b: usize| self.place(a).distance(self.place(b));
        let long = |neck: &[usize]| neck.iter().map(|i| near(neck[0], *i)).fold(0.0, f64::max);
        let thick = |limb: &&Limb| long(limb.1) >= THIN * self.radius;
        let limbs: Vec<&Limb> = limbs.iter().filter(thick).collect();
        let side_by_side = |widths: f64, wide: f64| (1.0 / wide..=NARROW).contains(&(widths / (2.0 * self.radius)));
        let mut all = Vec::new();
        let near_necks: Vec<Rect> = limbs.iter().map(|(_, neck)| self.around(neck).inflate(reach, reach)).collect();
        for (turn, corner, inward) in self.sharp_turns(outline, &near_necks) {
            let nearest = |limb: &Limb| {
                let far = |i: &usize| self.place(*i).distance(corner);
                limb.1.iter().copied().min_by(|a, b| far(a).total_cmp(&far(b))).filter(|at| far(at) <= reach)
            };
            let here: Vec<(usize, Limb)> = limbs.iter().filter_map(|limb| Some((nearest(limb)?, **limb))).collect();
            let crotch = |at: usize, limbs: Vec<Limb<'n>>| (turn, Crotch { at, inward, limbs });
            for (k, (at, one)) in here.iter().enumerate() {
                let pairs = here[..k].iter().filter(|(_, other)| side_by_side(long(one.1) + long(other.1), WIDE));
                all.extend(pairs.map(|(_, other)| crotch(*at, vec![*one, *other])));
                if here.len() == 1 && side_by_side(2.0 * long(one.1), WIDE_ALONE) {
                    all.push(crotch(*at, vec![*one]));
                }
            }
        }
        // the sharpest of several corners
        let limbs = |crotch: &Crotch| crotch.limbs.iter().map(|(limb, _)| *limb).collect::<Vec<_>>();
        all.sort_by(|a: &(f64, Crotch), b| limbs(&a.1).cmp(&limbs(&b.1)).then(a.0.total_cmp(&b.0)));
        all.dedup_by_key(|(_, crotch)| limbs(crotch));
        all.into_iter().map(|(_, crotch)| crotch).collect()
    }

    /// The rectangle around pixels.
    fn around(&self, pixels: &[usize]) -> Rect {
        let places = pixels.iter().map(|i| Rect::from_center_size(self.place(*i), (1.0, 1.0)));
        places.reduce(|a, b| a.union(b)).unwrap_or(Rect::ZERO)
    }

    /// Where the outline of all turns sharply inward within any of some rectangles: by how much, where, and which way inward is.
    fn sharp_turns(&self, outline: &[Contour], within: &[Rect]) -> Vec<(f64, Point, Vec2)> {
        let arm = (ARM * self.radius).max(6.0) as i64;
        let mut found = Vec::new();
        for contour in outline.iter().filter(|c| c.corners.len() as i64 >= 8 * arm) {
            let turn = |at: usize| contour.turn(at, arm);
            let is_near = |at: &usize| within.iter().any(|rect| rect.contains(contour.point(*at)));
            for at in (0..contour.corners.len()).filter(is_near) {
                let own = turn(at);
                let sharpest = || (-arm..=arm).all(|k| own <= turn(contour.place(at as i64 + k)));
                if own < -TURN && sharpest() {
                    let side = |away: i64| contour.point(at) - contour.point(contour.place(at as i64 + away));
                    found.push((own, contour.point(at), side(arm) + side(-arm)));
                }
            }
        }
        found
    }

    /// The best seam from a crotch.
    fn seam<'n>(&self, Ground { costs, contour }: &Ground, crotch: Crotch<'n>) -> Option<Seam<'n>> {
        let start = self.in_mask(crotch.at);
        let from = (0..contour.corners.len()).find(|k| contour.pixels[*k] == start)?;
        let size = (self.mask.width, self.mask.height);
        let cheapest = Ways::new(size, start, None, |i| self.mask.data[i].then(|| costs.data[i]));
        let shortest = Ways::new(size, start, None, |i| self.mask.data[i].then_some(1));
        let steps = |i: usize| f64::from(shortest.cost[i]) / f64::from(ASIDE);
        let share = |i: usize| f64::from(cheapest.cost[i]) / f64::from(shortest.cost[i]);
        let reached = |i: usize| shortest.cost[i] < u32::MAX;
        let told = |i: &usize| reached(*i) && steps(*i) >= NEAR;
        let mut usual: Vec<f64> = (0..self.mask.data.len()).filter(told).map(share).collect();
        let middle = usual.len().checked_sub(1)? / 2;
        let usual = *usual.select_nth_unstable_by(middle, f64::total_cmp).1;
        let area = contour.area();
        let balanced = |to: usize| {
            let side = contour.cut_off(from.min(to), from.max(to));
            side.min(area - side) >= SHARE * area
        };
        let at_neck: Vec<usize> = crotch.limbs.iter().flat_map(|(_, n)| n.iter().map(|i| self.in_mask(*i))).collect();
        let ends = (0..contour.corners.len()).filter(|to| {
            let pixel = contour.pixels[*to];
            let way = contour.point(*to) - contour.point(from);
            let ahead = crotch.inward.dot(way) >= AHEAD * crotch.inward.hypot() * way.hypot();
            let far = reached(pixel) && steps(pixel) >= LENGTH * self.radius;
            far && ahead && !at_neck.contains(&pixel) && balanced(*to)
        });
        let cost = |to: usize| share(contour.pixels[to]) / usual;
        let (cost, to) = ends.map(|to| (cost(to), to)).min_by(|a, b| a.0.total_cmp(&b.0))?;
        let way = || cheapest.way_to(contour.pixels[to]);
        let most = if crotch.limbs.len() == 2 { COST } else { COST_ALONE };
        (cost <= most).then(|| Seam { cost, way: way(), limbs: crotch.limbs })
    }

    /// Gives two limbs their sides of a seam; whether both sides are large enough.
    fn divide(&self, labels: &mut Grid<u32>, seam: &Seam) -> bool {
        let mut open = self.mask.clone();
        seam.way.iter().for_each(|i| open.data[*i] = false);
        let (pieces, sizes) = regions(&open, Connectivity::Four);
        let most = |neck: &[usize]| {
            let mut counts = vec![0; sizes.len()];
            neck.iter().for_each(|i| counts[pieces.data[self.in_mask(*i)] as usize] += 1);
            (1..sizes.len()).max_by_key(|piece| counts[*piece]).filter(|piece| counts[*piece] > 0)
        };
        let mut sides = seam.limbs.iter().map(|(limb, neck)| (*limb, most(neck)));
        let Some((limb, Some(one))) = sides.next() else { return false };
        let largest = || (1..sizes.len()).filter(|piece| *piece != one).max_by_key(|piece| sizes[*piece]);
        let (beyond, Some(other)) = sides.next().unwrap_or_else(|| (self.own, largest())) else { return false };
        let all: usize = sizes[1..].iter().sum();
        if one == other || (sizes[one].min(sizes[other]) as f64) < SHARE * all as f64 {
            return false;
        }
        let name = |piece: u32| match piece as usize {
            piece if piece == one => limb,
            piece if piece == other => beyond,
            _ => 0,
        };
        let mut names = pieces.map(name);
        flood(&mut names, usize::MAX, |i| self.mask.data[i]);
        for i in (0..labels.data.len()).filter(|i| self.labels.data[*i] == self.own) {
            // specks that lie apart are beyond it
            labels.data[i] = match names.data[self.in_mask(i)] {
                0 => beyond,
                name => name,
            };
        }
        true
    }
}

/// What a pixel of way costs everywhere; None where no edge is strong enough to be one.
fn costs(mask: &Grid<bool>, edges: &Grid<u8>) -> Option<Grid<u32>> {
    let mut inside: Vec<u8> = edges.data.iter().zip(&mask.data).filter(|(_, m)| **m).map(|(e, _)| *e).collect();
    let at = (STRONG * inside.len().checked_sub(1)? as f64) as usize;
    let strong = *inside.select_nth_unstable(at).1;
    let cost = |e: u8| (ALONG + BESIDE * (1.0 - f64::from(e) / f64::from(strong)).max(0.0).powi(2)) as u32;
    (strong >= FAINT).then(|| edges.map(cost))
}
