//! Subject and background by their colours, with saliency as a hint.
//!
//! C. Rother, V. Kolmogorov, A. Blake, "GrabCut" (SIGGRAPH 2004), with eight neighbours, and with the saliency s
//! entering the energy itself: −w ln s is added to the cost of the subject, −w ln(1 − s) to that of the background.

use crate::contrast::{Contrast, FORWARD, GAMMA};
use crate::grid::Grid;
use crate::max_flow::{DIRECTIONS, GridCut};
use crate::mixture::{Mixture, Rgb};
use crate::sharpness::for_subject;
use rayon::prelude::*;

/// What is known of a pixel beforehand.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Label {
    Subject,
    Background,
    MaybeSubject,
    MaybeBackground,
}

impl Label {
    fn is_subject(self) -> bool {
        matches!(self, Label::Subject | Label::MaybeSubject)
    }

    fn is_sure(self) -> bool {
        matches!(self, Label::Subject | Label::Background)
    }
}

/// Colours that the two sides are learnt from, together.
const LEARNT: usize = 40_000;

/// Runs `rounds` of learning colours and cutting. Saliency in 0..1, with its weight.
///
/// Where one side starts without a single pixel, the labels come back as they are.
pub fn grabcut(
    picture: (&Grid<Rgb>, &Contrast),
    labels: &Grid<Label>,
    rounds: usize,
    saliency: Option<(&Grid<f32>, f32)>,
) -> Grid<bool> {
    weighed_grabcut(picture, labels, rounds, saliency, Weights { smooth: 1.0, sharpness: None })
}

/// What counts beside colours and saliency.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Weights<'a> {
    /// The weight of the outline's length: less of it leaves thin things and narrow gaps. [`grabcut`] has 1.
    pub smooth: f32,
    /// How sharp the photo is, if that is to be learnt like the colours.
    pub sharpness: Option<&'a Grid<u8>>,
}

/// [`grabcut`] with weights of its own.
pub(crate) fn weighed_grabcut(
    (colours, contrast): (&Grid<Rgb>, &Contrast),
    labels: &Grid<Label>,
    rounds: usize,
    saliency: Option<(&Grid<f32>, f32)>,
    weights: Weights<'_>,
) -> Grid<bool> {
    let mut subject = labels.map(Label::is_subject);
    // so many colours tell as much as all of them
    let every = colours.data.len().div_ceil(LEARNT).max(1);
    let side = |subject: &Grid<bool>, wanted: bool| -> Vec<Rgb> {
        let all = colours.data.iter().zip(&subject.data).step_by(every);
        let few: Vec<Rgb> = all.filter(|(_, s)| **s == wanted).map(|(c, _)| *c).collect();
        if few.len() > 500 || every == 1 {
            return few;
        }
        colours.data.iter().zip(&subject.data).filter(|(_, s)| **s == wanted).map(|(c, _)| *c).collect()
    };
    let start = |wanted| Mixture::start(&side(&subject, wanted));
    let (Some(mut front), Some(mut back)) = rayon::join(|| start(true), || start(false)) else {
        return subject;
    };
    let open = labels.map(|l| !l.is_sure());
    let nodes = with_neighbours(&open);
    let w = colours.width;
    let Some(mut cut) = GridCut::of(&nodes, w) else { return subject };
    for _ in 0..rounds {
        rayon::join(|| front.update(&side(&subject, true)), || back.update(&side(&subject, false)));
        let sharp = weights.sharpness.map(|steps| (steps, for_subject(steps, &subject)));
        let pull = |i: &usize| match labels.data[*i] {
            Label::Subject => 9.0 * GAMMA,
            Label::Background => -9.0 * GAMMA,
            _ => {
                let hint = saliency.map_or(0.0, |(s, weight)| {
                    let s = s.data[*i].clamp(0.03, 0.97);
                    weight * (s / (1.0 - s)).ln()
                });
                let colour = &colours.data[*i];
                let sharp = sharp.as_ref().map_or(0.0, |(steps, says)| says[usize::from(steps.data[*i])]);
                back.cost(colour) - front.cost(colour) + hint + sharp
            }
        };
        let pulls: Vec<f32> = nodes.par_iter().with_min_len(1024).map(pull).collect();
        for (i, strength) in nodes.iter().zip(pulls) {
            let (x, y) = (i % w, i / w);
            cut.pull(x, y, strength);
            let costs = contrast.at(*i);
            for (d, cost) in FORWARD.into_iter().zip(costs).filter(|(_, cost)| *cost > 0.0) {
                let (dx, dy) = DIRECTIONS[d];
                let other = (y as i64 + dy) as usize * w + (x as i64 + dx) as usize;
                // between what is sure nothing is to be cut
                if open.data[*i] || open.data[other] {
                    cut.connect(x, y, d, weights.smooth * cost);
                }
            }
        }
        cut.solve();
        let mut changed = 0;
        for i in nodes.iter().filter(|i| open.data[**i]) {
            let is_subject = cut.is_source(i % w, i / w);
            changed += usize::from(subject.data[*i] != is_subject);
            subject.data[*i] = is_subject;
        }
        cut.clear();
        if changed * 1_000 < nodes.len() {
            break;
        }
    }
    subject
}

/// The open pixels of a mask, and those beside one, row by row.
pub(crate) fn with_neighbours(open: &Grid<bool>) -> Vec<usize> {
    let (w, h, open) = (open.width, open.height, &open.data);
    let mut nodes = Vec::new();
    for y in 0..h {
        let rows = y.saturating_sub(1)..(y + 2).min(h);
        // most rows of a narrow band are sure
        if !rows.clone().any(|row| open[row * w..][..w].contains(&true)) {
            continue;
        }
        for x in 0..w {
            let columns = x.saturating_sub(1)..(x + 2).min(w);
            if rows.clone().any(|row| open[row * w..][columns.clone()].contains(&true)) {
                nodes.push(y * w + x);
            }
        }
    }
    nodes
}
