//! Subject and background by their colours, with saliency as a hint.
//!
//! C. Rother, V. Kolmogorov, A. Blake, "GrabCut" (SIGGRAPH 2004), with eight neighbours, and with the saliency s
//! entering the energy itself: −w ln s is added to the cost of the subject, −w ln(1 − s) to that of the background.

use crate::grid::Grid;
use crate::max_flow::{DIRECTIONS, GridCut};
use crate::mixture::{Mixture, Rgb};

/// What is known of a pixel beforehand.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Label {
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

/// Runs `rounds` of learning colours and cutting. Saliency in 0..1, with its weight.
///
/// Where one side starts without a single pixel, the labels come back as they are.
pub(crate) fn grabcut(
    colours: &Grid<Rgb>,
    labels: &Grid<Label>,
    rounds: usize,
    saliency: Option<(&Grid<f32>, f32)>,
) -> Grid<bool> {
    let mut subject = labels.map(Label::is_subject);
    let side = |subject: &Grid<bool>, wanted: bool| -> Vec<Rgb> {
        colours.data.iter().zip(&subject.data).filter(|(_, s)| **s == wanted).map(|(c, _)| *c).collect()
    };
    let (Some(mut front), Some(mut back)) =
        (Mixture::start(&side(&subject, true)), Mixture::start(&side(&subject, false)))
    else {
        return subject;
    };
    let contrast = contrast(colours);
    for _ in 0..rounds {
        front.update(&side(&subject, true));
        back.update(&side(&subject, false));
        let mut cut = GridCut::new(colours.width, colours.height);
        for (i, c) in colours.data.iter().enumerate() {
            let (x, y) = (i % colours.width, i / colours.width);
            let pull = match labels.data[i] {
                Label::Subject => 9.0 * GAMMA,
                Label::Background => -9.0 * GAMMA,
                _ => {
                    let hint = saliency.map_or(0.0, |(s, weight)| {
                        let s = s.data[i].clamp(0.03, 0.97);
                        weight * (s / (1.0 - s)).ln()
                    });
                    back.cost(c) - front.cost(c) + hint
                }
            };
            cut.pull(x, y, pull);
            for (k, d) in FORWARD.into_iter().enumerate() {
                let weight = contrast[k].data[i];
                if weight > 0.0 {
                    cut.connect(x, y, d, weight);
                }
            }
        }
        let next = cut.solve();
        let changed = next.data.iter().zip(&subject.data).filter(|(a, b)| a != b).count();
        subject = next;
        for (s, l) in subject.data.iter_mut().zip(&labels.data).filter(|(_, l)| l.is_sure()) {
            *s = l.is_subject();
        }
        if changed * 5_000 < subject.data.len() {
            break;
        }
    }
    subject
}

/// One direction of every pair of opposites.
const FORWARD: [usize; 4] = [0, 2, 4, 6];

/// The cost of parting neighbours, for each of the four forward directions; 0 at the border.
fn contrast(colours: &Grid<Rgb>) -> [Grid<f32>; 4] {
    let (w, h) = (colours.width as i64, colours.height as i64);
    let squares = FORWARD.map(|d| {
        let (dx, dy) = DIRECTIONS[d];
        Grid::from_fn(colours.width, colours.height, |x, y| {
            let (nx, ny) = (x as i64 + dx, y as i64 + dy);
            if !(0..w).contains(&nx) || !(0..h).contains(&ny) {
                return f32::NAN;
            }
            let (a, b) = (colours.at(x, y), colours.at(nx as usize, ny as usize));
            (0..3).map(|k| (a[k] - b[k]) * (a[k] - b[k])).sum()
        })
    });
    let (sum, n) = squares
        .iter()
        .flat_map(|g| &g.data)
        .filter(|v| !v.is_nan())
        .fold((0.0_f64, 0_usize), |(s, n), &v| (s + f64::from(v), n + 1));
    let beta = if sum > 0.0 { (n as f64 / (2.0 * sum)) as f32 } else { 0.0 };
    let mut k = 0;
    squares.map(|g| {
        let (dx, dy) = DIRECTIONS[FORWARD[k]];
        k += 1;
        let length = ((dx * dx + dy * dy) as f32).sqrt();
        g.map(|v| if v.is_nan() { 0.0 } else { GAMMA / length * (-beta * v).exp() })
    })
}
