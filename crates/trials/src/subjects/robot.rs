//! A robot that strokes over what is still wrong, as a careful person would.

use super::Case;
use image::GrayImage;
use inky_core::cutout::regions::{Connectivity, depth, regions};
use inky_core::cutout::{
    Doubt, Draft, Hints, PhotoBox, Saliency, Standout, Start, SubjectStroke, Unwatched, WorkingPhoto, draft, iou,
};
use inky_core::grid::Grid;
use std::time::{Duration, Instant};

/// How the robot chooses.
#[derive(Debug, Clone, Copy, Default)]
pub struct Stroking {
    /// Which of the wrong regions it strokes, by size; 0 is the largest.
    pub pick: usize,
    /// Strokes at most.
    pub strokes: usize,
    /// Whether it takes the wider answer to a stroke where that is better, as it sees by its picture.
    pub picks: bool,
}

/// What was found after so many strokes.
#[derive(Debug, Clone)]
pub struct Round {
    /// Overlap with the exact mask: shared pixels divided by those in either.
    pub iou: f64,
    /// How long the answer took.
    pub time: Duration,
    /// The stroke that was answered; None for the box alone.
    pub stroke: Option<SubjectStroke>,
    /// What was found, as large as the photo.
    pub found: Grid<bool>,
    /// Of every place that is doubted whether it is wrong there.
    pub doubts: Vec<bool>,
}

/// A photo that the robot has looked at.
pub struct Robot {
    mask: Grid<bool>,
    within: PhotoBox,
    standout: Standout,
    working: WorkingPhoto,
}

impl Robot {
    /// Draws a box around the subject.
    ///
    /// # Panics
    /// A network that cannot run.
    pub fn look(case: &Case, network: &dyn Saliency) -> Self {
        let within = case.around();
        let standout =
            Standout::find(&case.photo, Some(&within), network, &Unwatched).expect("a box around the subject");
        Self { mask: case.mask(), within, standout, working: WorkingPhoto::new(&case.photo) }
    }

    /// Strokes over what is wrong, one careful stroke after the other, until there is nothing. The rounds, the box alone first; and the hints.
    pub fn correct(&self, start: Start, how: Stroking) -> (Vec<Round>, Hints) {
        let mask = &self.mask;
        let mut hints = Hints { start, ..Hints::within(Some(self.within)) };
        let (mut rounds, mut before): (Vec<Round>, Option<Draft>) = (Vec::new(), None);
        loop {
            let begun = Instant::now();
            let mut now = draft(&self.working, &self.standout, &hints, before.as_ref(), &Unwatched);
            let better = |d: &Draft| {
                let picture = |p: &GrayImage| {
                    iou(&Grid::above(p, 127).to_f32().resized(mask.width, mask.height).map(|v| v > 0.5), mask)
                };
                d.wider().is_some_and(|wider| picture(&wider) > picture(&d.matte()) + 0.01)
            };
            if how.picks && now.as_ref().is_ok_and(better) {
                hints.strokes.last_mut().expect("a stroke has a wider answer").everywhere = true;
                now = draft(&self.working, &self.standout, &hints, before.as_ref(), &Unwatched);
            }
            let time = begun.elapsed();
            let found = now.as_ref().map_or(mask.map(|_| false), |d| {
                Grid::from_gray(&d.matte()).resized(mask.width, mask.height).map(|a| a > 0.5)
            });
            let next = stroke(&found, mask, how.pick).filter(|_| hints.strokes.len() < how.strokes);
            let truly = |d: &Doubt| mask.clamped(d.at[0] as i64, d.at[1] as i64) == d.missing;
            let doubts = now.as_ref().map_or(Vec::new(), |d| d.doubts().iter().map(truly).collect());
            let stroke = hints.strokes.last().cloned();
            rounds.push(Round { iou: iou(&found, mask), time, stroke, found, doubts });
            before = now.ok().or(before);
            let Some(next) = next else { return (rounds, hints) };
            hints.strokes.push(next);
        }
    }
}

/// A stroke well inside one of the largest regions that are wrong, along its middle. None where nothing is wrong.
fn stroke(found: &Grid<bool>, truth: &Grid<bool>, pick: usize) -> Option<SubjectStroke> {
    let mut all: Vec<(usize, bool, Grid<bool>)> = Vec::new();
    for keep in [true, false] {
        let mut wrong = truth.clone();
        wrong.data.iter_mut().zip(&found.data).for_each(|(t, f)| *t = *t == keep && *f != keep);
        let (labels, sizes) = regions(&wrong, Connectivity::Eight);
        let mut order: Vec<usize> = (1..sizes.len()).collect();
        order.sort_by_key(|k| std::cmp::Reverse(sizes[*k]));
        all.extend(order.into_iter().take(pick + 1).map(|k| (sizes[k], keep, labels.map(|l| l as usize == k))));
    }
    all.sort_by_key(|(size, ..)| std::cmp::Reverse(*size));
    let at = pick.min(all.len().checked_sub(1)?);
    let (_, keep, region) = all.swap_remove(at);
    let inner = depth(&region);
    let best = (0..inner.data.len()).max_by(|a, b| inner.data[*a].total_cmp(&inner.data[*b]))?;
    let deepest = inner.data[best].min(1e4);
    let from = [(best % truth.width) as f64 + 0.5, (best / truth.width) as f64 + 0.5];
    let mut points = ridge(&inner, from, 1.0);
    points.reverse();
    points.extend(ridge(&inner, from, -1.0).into_iter().skip(1));
    Some(SubjectStroke::new(keep, f64::from(deepest * 0.6).max(2.0), points))
}

/// From a place to one side along the ridge of a depth, as long as it stays half as deep, and a tenth of the picture at most.
fn ridge(depth: &Grid<f32>, from: [f64; 2], side: f64) -> Vec<[f64; 2]> {
    let value = |[x, y]: [f64; 2]| depth.clamped(x as i64, y as i64);
    let deepest = value(from);
    let step = f64::from(deepest / 2.0).max(1.5);
    let next = |[x, y]: [f64; 2], turn: f64| [x + step * turn.cos(), y + step * turn.sin()];
    let best = |p: [f64; 2], turns: &mut dyn Iterator<Item = f64>| {
        turns.max_by(|a, b| value(next(p, *a)).total_cmp(&value(next(p, *b))))
    };
    let all = |k: i32| f64::from(k) * std::f64::consts::TAU / 32.0;
    let Some(along) = best(from, &mut (0..16).map(all)) else { return vec![from] };
    let mut turn = if side > 0.0 { along } else { along + std::f64::consts::PI };
    let mut points = vec![from];
    let inside = |[x, y]: [f64; 2]| x >= 0.0 && y >= 0.0 && x < depth.width as f64 && y < depth.height as f64;
    while (points.len() as f64) * step < depth.width.max(depth.height) as f64 / 10.0 {
        let p = points[points.len() - 1];
        let Some(way) = best(p, &mut (-4..=4).map(|k| turn + all(k))) else { break };
        let to = next(p, way);
        if !inside(to) || value(to) < deepest / 2.0 {
            break;
        }
        points.push(to);
        turn = way;
    }
    points
}
