//! Subject and background by their colours, with saliency as a hint.
//!
//! C. Rother, V. Kolmogorov, A. Blake, "GrabCut" (SIGGRAPH 2004), with eight neighbours, and with the saliency s
//! entering the energy itself: −w ln s is added to the cost of the subject, −w ln(1 − s) to that of the background.

use crate::grid::Grid;
use crate::max_flow::{DIRECTIONS, GridCut};
use crate::mixture::{Mixture, Rgb};
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

const GAMMA: f32 = 50.0;
/// Colours that the two sides are learnt from, together.
const LEARNT: usize = 40_000;

/// Runs `rounds` of learning colours and cutting. Saliency in 0..1, with its weight.
///
/// Where one side starts without a single pixel, the labels come back as they are.
pub fn grabcut(
    colours: &Grid<Rgb>,
    labels: &Grid<Label>,
    rounds: usize,
    saliency: Option<(&Grid<f32>, f32)>,
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
    let contrast = contrast(colours, labels);
    for _ in 0..rounds {
        rayon::join(|| front.update(&side(&subject, true)), || back.update(&side(&subject, false)));
        let pulls: Vec<f32> = (colours.data.par_iter().enumerate())
            .map(|(i, c)| match labels.data[i] {
                Label::Subject => 9.0 * GAMMA,
                Label::Background => -9.0 * GAMMA,
                _ => {
                    let hint = saliency.map_or(0.0, |(s, weight)| {
                        let s = s.data[i].clamp(0.03, 0.97);
                        weight * (s / (1.0 - s)).ln()
                    });
                    back.cost(c) - front.cost(c) + hint
                }
            })
            .collect();
        let mut cut = GridCut::new(colours.width, colours.height);
        // what is sure matters only next to what is not
        for (i, weights) in &contrast {
            let (x, y) = (i % colours.width, i / colours.width);
            for (d, weight) in FORWARD.into_iter().zip(weights).filter(|(_, w)| **w > 0.0) {
                cut.connect(x, y, d, *weight);
                let (dx, dy) = DIRECTIONS[d];
                let (nx, ny) = ((x as i64 + dx) as usize, (y as i64 + dy) as usize);
                cut.pull(x, y, pulls[*i]);
                cut.pull(nx, ny, pulls[ny * colours.width + nx]);
            }
        }
        let next = cut.solve();
        let changed = next.data.iter().zip(&subject.data).filter(|(a, b)| a != b).count();
        subject = next;
        for (s, l) in subject.data.iter_mut().zip(&labels.data).filter(|(_, l)| l.is_sure()) {
            *s = l.is_subject();
        }
        if changed * 1_000 < subject.data.len() {
            break;
        }
    }
    subject
}

/// One direction of every pair of opposites.
const FORWARD: [usize; 4] = [0, 2, 4, 6];

/// The cost of parting neighbours, for each of the four forward directions; 0 at the border and between pixels that are both sure. Pixels whose
/// costs are all 0 are left out.
fn contrast(colours: &Grid<Rgb>, labels: &Grid<Label>) -> Vec<(usize, [f32; 4])> {
    let (w, h) = (colours.width, colours.height);
    let square = |x: usize, y: usize, d: usize| -> Option<(usize, f32)> {
        let (dx, dy) = DIRECTIONS[d];
        let (nx, ny) = (x as i64 + dx, y as i64 + dy);
        if !(0..w as i64).contains(&nx) || !(0..h as i64).contains(&ny) {
            return None;
        }
        let n = ny as usize * w + nx as usize;
        let (a, b) = (colours.at(x, y), colours.data[n]);
        Some((n, (0..3).map(|k| (a[k] - b[k]) * (a[k] - b[k])).sum()))
    };
    let rows = (0..h).into_par_iter().map(|y| {
        let all = (0..w).flat_map(|x| FORWARD.map(|d| square(x, y, d)));
        all.flatten().fold((0.0_f64, 0_usize), |(s, n), (_, v)| (s + f64::from(v), n + 1))
    });
    let (sum, n) = rows.reduce(|| (0.0, 0), |a, b| (a.0 + b.0, a.1 + b.1));
    let beta = if sum > 0.0 { (n as f64 / (2.0 * sum)) as f32 } else { 0.0 };
    let weights = |i: usize| {
        let (x, y) = (i % w, i / w);
        FORWARD.map(|d| match square(x, y, d) {
            Some((n, v)) if !(labels.data[i].is_sure() && labels.data[n].is_sure()) => {
                let (dx, dy) = DIRECTIONS[d];
                GAMMA / ((dx * dx + dy * dy) as f32).sqrt() * (-beta * v).exp()
            }
            _ => 0.0,
        })
    };
    (0..w * h).into_par_iter().map(|i| (i, weights(i))).filter(|(_, w)| w.iter().any(|w| *w > 0.0)).collect()
}
