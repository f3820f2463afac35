//! What a stroke speaks for: what is like it and joined to it, without an edge or another stroke between.
//!
//! A stroke changes pixels to its own side alone, and nothing far from it. Which ones is a cut, as for the whole subject, with two changes: the colours
//! of the stroke stand against those of the other side, and what is far away along a way through the picture counts less (B. Price,
//! B. Morse, S. Cohen, "Geodesic Graph Cut for Interactive Image Segmentation", CVPR 2010). Of what the cut gives, the part that the stroke
//! touches is taken. Two strokes in different places that are alike speak for all places of their kind. A stroke that speaks for everything like it knows no
//! ways: colours and edges alone count.

use crate::contrast::{Contrast, FORWARD, GAMMA};
use crate::frame::Frame;
use crate::grabcut::with_neighbours;
use crate::grid::Grid;
use crate::hints::{Hint, SubjectStroke};
use crate::max_flow::{DIRECTIONS, GridCut};
use crate::mixture::{Mixture, Rgb};
use crate::regions::{Connectivity, distance_to, regions};
use rayon::prelude::*;
use std::cmp::Reverse;
use std::collections::BinaryHeap;

/// How far colours of one thing are apart at least (standard deviation, of 255).
const SPREAD: f32 = 9.0;
/// Colours so far apart (of 255, Euclidean) are hardly alike any more.
const ALIKE: f32 = 24.0;
/// Colours of a stroke that others are compared with.
const SAMPLES: usize = 96;
/// What colours say at most, in nats.
const SURE: f32 = 8.0;
/// What a way costs: for every pixel, for every nat that colours speak against it, for a full edge.
const STEP: f32 = 0.006;
const UNLIKE: f32 = 0.06;
const EDGE: f32 = 0.35;
/// Nats for a way of one.
const FAR: f32 = 6.0;
/// How often what is far away counts twice as much, where too much would come over.
const NEARER: usize = 5;
/// What is joined to a stroke is at most so many times as large as it, or as so many pixels.
const MOST: usize = 25;
/// A stroke that is so many times as long as it is wide runs along what it means, which is then at most so many times as large.
const LONG: f64 = 3.0;
const MOST_LONG: usize = 6;
const LEAST: usize = 4;
/// What a stroke means reaches so many times as far from it as it lies from the edge.
const WIDER: f32 = 3.0;
/// Places of a kind are at most so many times as large as those that were stroked.
const LARGER: usize = 2;
/// How much of an edge there is along the outline of a place, 0 to 1.
const BOUND: f32 = 0.45;
/// How much colours have to say for a place to be of that kind, in nats.
const TOLD: f64 = 5.0;

/// A mask at the coarse size before a stroke, and all that is known beside it.
#[derive(Clone, Copy)]
pub(crate) struct Before<'a> {
    pub colours: &'a Grid<Rgb>,
    /// The same at the fine size.
    pub fine: &'a Grid<Rgb>,
    pub contrast: &'a Contrast,
    pub mask: &'a Grid<bool>,
    /// Where the subject is looked for, and where it can be.
    pub frame: Frame,
    pub scope: Frame,
    /// Pixels of this size for one of the photo.
    pub scale: f64,
}

/// What a stroke gave.
pub(crate) struct Spoken<'a> {
    /// The mask after it.
    pub mask: Grid<bool>,
    /// How many pixels came over by what is joined to it.
    pub gave: usize,
    side: Side<'a>,
    wrong: Vec<usize>,
}

impl Spoken<'_> {
    /// The mask after the stroke if it spoke for everything like it.
    pub fn everywhere(&self) -> Grid<bool> {
        let mut mask = self.side.before.mask.clone();
        let taken = self.side.cut(|_| true, |i| self.side.colours[i]);
        let over = (0..taken.len()).filter(|i| taken[*i]).chain(self.wrong.iter().copied());
        over.for_each(|i| mask.data[i] = self.side.keep);
        mask
    }
}

/// What the last of these strokes gives; none where it changes nothing. `given` are the pixels that came over by those before it.
pub(crate) fn with_stroke<'a>(before: Before<'a>, strokes: &[SubjectStroke], given: &[usize]) -> Option<Spoken<'a>> {
    let (last, earlier) = strokes.split_last()?;
    let (w, h) = (before.mask.width, before.mask.height);
    let drawn = SubjectStroke::drawn(strokes, w, h, before.scale);
    let keep = last.keep;
    let beneath = last.pixels(w, h, before.scale);
    let wrong: Vec<usize> = beneath.iter().copied().filter(|i| before.mask.data[*i] != keep).collect();
    if wrong.is_empty() {
        return None;
    }
    let side = Side::of(before, &drawn, last);
    let mut spoken = Spoken { mask: before.mask.clone(), gave: wrong.len(), side, wrong };
    if last.everywhere {
        spoken.mask = spoken.everywhere();
        return Some(spoken);
    }
    let Spoken { mask, gave, side, wrong } = &mut spoken;
    let most = if last.length() > LONG * last.width { MOST_LONG } else { MOST };
    let joined = side.joined(wrong, most * beneath.len().max(LEAST));
    joined.iter().for_each(|i| mask.data[*i] = keep);
    *gave = joined.len();
    let others = earlier.iter().zip(given).filter(|(s, given)| s.keep == keep && **given > 0);
    let alike = others.filter(|(s, _)| side.is_like(&s.pixels(w, h, before.scale))).map(|(_, given)| *given).max();
    if let Some(largest) = alike {
        side.kind(mask, LARGER * largest.max(joined.len()));
    }
    Some(spoken)
}

/// The pixels that could come over to the side of a stroke.
struct Side<'a> {
    before: Before<'a>,
    keep: bool,
    open: Vec<bool>,
    samples: Vec<Rgb>,
    /// How much the colours speak for the stroke's side, in nats.
    colours: Vec<f32>,
}

impl<'a> Side<'a> {
    fn of(before: Before<'a>, drawn: &Grid<Hint>, stroke: &SubjectStroke) -> Self {
        let keep = stroke.keep;
        let against = if keep { Hint::Drop } else { Hint::Keep };
        let w = before.mask.width;
        let there = |i: usize| !keep || before.scope.holds(i % w, i / w);
        let all = 0..before.mask.data.len();
        let open: Vec<bool> =
            all.clone().map(|i| before.mask.data[i] != keep && drawn.data[i] != against && there(i)).collect();
        // colours of a thin stroke are less mixed at the fine size
        let (fine, scale) = (before.fine, before.scale * before.fine.width as f64 / w as f64);
        let beneath = stroke.pixels(fine.width, fine.height, scale);
        let samples: Vec<Rgb> =
            beneath.iter().step_by(beneath.len().div_ceil(SAMPLES).max(1)).map(|i| fine.data[*i]).collect();
        // what is sure to be the other side, and what of it is not like the stroke
        let sure = |i: usize| if keep { !before.frame.holds(i % w, i / w) } else { drawn.data[i] == against };
        let unlike = |i: usize| match before.mask.data[i] == keep {
            true => 0.0,
            false => nearest(&before.colours.data[i], &samples),
        };
        let unlike: Vec<f32> = all.clone().into_par_iter().map(unlike).collect();
        let other: Vec<Rgb> = all
            .clone()
            .filter(|i| before.mask.data[*i] != keep && (sure(*i) || unlike[*i] > ALIKE * ALIKE))
            .map(|i| before.colours.data[i])
            .collect();
        let mixture = Mixture::start(&other);
        let colours = all
            .into_par_iter()
            .map(|i| {
                if !open[i] {
                    return 0.0;
                }
                let colour = &before.colours.data[i];
                let own = 3.0 * SPREAD.ln() + unlike[i] / (2.0 * SPREAD * SPREAD);
                let theirs = mixture.as_ref().map_or(own + SURE, |m| m.cost(colour));
                (theirs - own).clamp(-SURE, SURE)
            })
            .collect();
        Self { before, keep, open, samples, colours }
    }

    /// Whether another stroke has the same colours beneath it.
    fn is_like(&self, pixels: &[usize]) -> bool {
        let like = |i: &&usize| nearest(&self.before.colours.data[**i], &self.samples) < ALIKE * ALIKE;
        2 * pixels.iter().filter(like).count() > pixels.len()
    }

    /// What is joined to the stroke: `most` pixels at most, for whoever means much strokes much.
    fn joined(&self, wrong: &[usize], most: usize) -> Vec<usize> {
        let (near, ways) = rayon::join(|| self.reach(wrong), || self.ways(wrong));
        let mut sure = vec![false; self.open.len()];
        wrong.iter().for_each(|i| sure[*i] = true);
        for nearer in 0..NEARER {
            let far = FAR * (1 << nearer) as f32;
            let pull = |i: usize| if sure[i] { 9.0 * GAMMA } else { self.colours[i] - far * ways[i] };
            let taken = self.cut(|i| near[i] || sure[i], pull);
            let mask = Grid { width: self.before.mask.width, height: self.before.mask.height, data: taken };
            let (labels, sizes) = regions(&mask, Connectivity::Eight);
            let mut touched = vec![false; sizes.len()];
            wrong.iter().for_each(|i| touched[labels.data[*i] as usize] = true);
            let joined: Vec<usize> =
                (0..mask.data.len()).filter(|i| mask.data[*i] && touched[labels.data[*i] as usize]).collect();
            if joined.len() <= most {
                return joined;
            }
        }
        wrong.to_vec()
    }

    /// What is near enough to be meant. Whoever strokes a strip along the edge of what was found means that strip: a stroke runs through the middle of what
    /// is wrong, which is then not much wider than it is far from the edge.
    fn reach(&self, wrong: &[usize]) -> Vec<bool> {
        let (w, h) = (self.before.mask.width, self.before.mask.height);
        let mut beneath = Grid::filled(w, h, false);
        wrong.iter().for_each(|i| beneath.data[*i] = true);
        let (to_edge, away) =
            rayon::join(|| distance_to(&self.before.mask.map(|m| m == self.keep)), || distance_to(&beneath));
        let deepest = wrong.iter().map(|i| to_edge.data[*i]).fold(0.0, f32::max);
        let reach = WIDER * (deepest + 1.0);
        away.data.into_iter().map(|d| d <= reach).collect()
    }

    /// Places like those that strokes gave come over too, as long as they are not much larger.
    fn kind(&self, mask: &mut Grid<bool>, most: usize) {
        let taken = self.cut(|_| true, |i| self.colours[i]);
        let more = Grid { width: mask.width, height: mask.height, data: taken };
        let (labels, sizes) = regions(&more, Connectivity::Eight);
        let (mut unlike, mut told) = (vec![0.0_f64; sizes.len()], vec![0.0_f64; sizes.len()]);
        for (i, label) in labels.data.iter().enumerate().filter(|(_, l)| **l > 0) {
            unlike[*label as usize] += f64::from(nearest(&self.before.colours.data[i], &self.samples));
            told[*label as usize] += f64::from(self.colours[i]);
        }
        let edges = self.edges(&labels, sizes.len(), mask);
        for i in 0..mask.data.len() {
            let label = labels.data[i] as usize;
            let size = sizes[label] as f64;
            let like = || unlike[label] <= size * f64::from(ALIKE * ALIKE) && told[label] >= size * TOLD;
            if label > 0 && sizes[label] <= most && like() && edges[label] >= BOUND {
                mask.data[i] = self.keep;
            }
        }
    }

    /// How much of an edge there is, 0 to 1, along the outline of every region, where it does not border on the side that it comes over to.
    fn edges(&self, labels: &Grid<u32>, regions: usize, mask: &Grid<bool>) -> Vec<f32> {
        let (w, h) = (labels.width as i64, labels.height as i64);
        let mut sums = vec![(0.0_f32, 0.0_f32); regions];
        for (i, label) in labels.data.iter().enumerate().filter(|(_, l)| **l > 0) {
            let (x, y) = (i as i64 % w, i as i64 / w);
            for (d, (dx, dy)) in DIRECTIONS.into_iter().enumerate().take(4) {
                let (nx, ny) = (x + dx, y + dy);
                if !(0..w).contains(&nx) || !(0..h).contains(&ny) {
                    continue;
                }
                let j = (ny * w + nx) as usize;
                if labels.data[j] == 0 && mask.data[j] != self.keep {
                    let sum = &mut sums[*label as usize];
                    sum.0 += 1.0 - (self.between(i, j, d) / GAMMA).min(1.0);
                    sum.1 += 1.0;
                }
            }
        }
        sums.into_iter().map(|(edge, length)| if length > 0.0 { edge / length } else { 1.0 }).collect()
    }

    /// Which of the pixels that could come over by these do, where each is pulled so strongly, in nats.
    fn cut(&self, could: impl Fn(usize) -> bool, pull: impl Fn(usize) -> f32) -> Vec<bool> {
        let (w, h) = (self.before.mask.width, self.before.mask.height);
        let open: Vec<bool> = (0..self.open.len()).map(|i| self.open[i] && could(i)).collect();
        let open = Grid { width: w, height: h, data: open };
        let nodes = with_neighbours(&open);
        let Some(mut cut) = GridCut::of(&nodes, w) else { return open.data };
        for i in &nodes {
            let (x, y) = (i % w, i / w);
            // what has come over already, and what cannot, is sure
            let sure = if self.before.mask.data[*i] == self.keep { 9.0 * GAMMA } else { -9.0 * GAMMA };
            cut.pull(x, y, if open.data[*i] { pull(*i) } else { sure });
            let costs = self.before.contrast.at(*i);
            for (d, cost) in FORWARD.into_iter().zip(costs).filter(|(_, cost)| *cost > 0.0) {
                let (dx, dy) = DIRECTIONS[d];
                let other = (y as i64 + dy) as usize * w + (x as i64 + dx) as usize;
                let own = self.before.mask.data[*i] == self.keep || self.before.mask.data[other] == self.keep;
                if (open.data[*i] || open.data[other]) && !own {
                    cut.connect(x, y, d, cost);
                }
            }
        }
        cut.solve();
        let mut taken = vec![false; open.data.len()];
        nodes.iter().filter(|i| open.data[**i]).for_each(|i| taken[*i] = cut.is_source(i % w, i / w));
        taken
    }

    /// The cost of the cheapest way from the stroke to every open pixel, through open ones.
    fn ways(&self, from: &[usize]) -> Vec<f32> {
        let (w, h) = (self.before.mask.width as i64, self.before.mask.height as i64);
        let mut far = vec![f32::INFINITY; self.open.len()];
        let mut next = BinaryHeap::new();
        for i in from {
            far[*i] = 0.0;
            next.push((Reverse(0_u32), *i));
        }
        while let Some((Reverse(bits), i)) = next.pop() {
            // positive numbers are in the order of their bits
            let here = f32::from_bits(bits);
            if here > far[i] {
                continue;
            }
            let (x, y) = (i as i64 % w, i as i64 / w);
            for (d, (dx, dy)) in DIRECTIONS.into_iter().enumerate() {
                let (nx, ny) = (x + dx, y + dy);
                if !(0..w).contains(&nx) || !(0..h).contains(&ny) {
                    continue;
                }
                let j = (ny * w + nx) as usize;
                if !self.open[j] {
                    continue;
                }
                let length = if d < 4 { 1.0 } else { std::f32::consts::SQRT_2 };
                let edge = 1.0 - (length * self.between(i, j, d) / GAMMA).min(1.0);
                let way = here + length * (STEP + UNLIKE * (-self.colours[j]).max(0.0)) + EDGE * edge;
                if way < far[j] {
                    far[j] = way;
                    next.push((Reverse(way.to_bits()), j));
                }
            }
        }
        far
    }

    /// What it costs to part a pixel from its neighbour in one of the eight directions.
    fn between(&self, i: usize, j: usize, d: usize) -> f32 {
        // of every pair of opposites the forward one is known, at the pixel it leads from
        match FORWARD.iter().position(|f| *f == d) {
            Some(k) => self.before.contrast.at(i)[k],
            None => self.before.contrast.at(j)[FORWARD.iter().position(|f| *f == (d ^ 1)).unwrap_or(0)],
        }
    }
}

/// Squared distance to the nearest of some colours.
fn nearest(colour: &Rgb, others: &[Rgb]) -> f32 {
    let square = |o: &Rgb| (0..3).map(|k| (colour[k] - o[k]).powi(2)).sum::<f32>();
    others.iter().map(square).fold(f32::INFINITY, f32::min)
}
