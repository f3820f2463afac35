//! First guesses at a subject, before any stroke: by what stands out, by what of that is not of the colours around the box, by colours alone.

use crate::WorkingPhoto;
use crate::frame::Frame;
use crate::grabcut::{Label, smoothed_grabcut};
use crate::grid::Grid;
use crate::hints::Start;
use crate::mixture::{Mixture, Rgb};
use crate::overlap::iou;
use crate::regions::tidied;
use crate::standout::Standout;
use image::GrayImage;

/// Rounds of learning colours and cutting.
pub(crate) const ROUNDS: usize = 5;
/// Two guesses that overlap by less than this are two different findings.
const ALIKE: f64 = 0.95;
/// The share of what stands out that has to be of other colours than the ground, for these to tell subject and ground apart.
const APART: f64 = 0.3;
/// What saliency says at most of colours of the ground, and at least of others.
const GROUND: f32 = 0.03;
const OTHER: f32 = 0.85;
/// How much the outline's length counts where colours tell the two sides apart: spokes and gaps between them have much of it.
const THIN: f32 = 0.15;
/// The strip around the box whose colours are the ground's, as a share of the box, and the share of them that is usual.
const STRIP: f64 = 0.3;
const USUAL: f64 = 0.98;
/// Where nobody has drawn a box, so far from what stands out, as a share of its size, that the strip holds nothing of it.
const GAP: f64 = 0.2;
/// Where nobody has drawn a box, and what stands out and the colours give so much the same, the colours around it have nothing to say.
const AGREED: f64 = 0.9;
/// How much less likely than the usual ones a colour of another thing is, in nats.
const UNLIKE: f32 = 2.5;

/// What a subject could be.
#[derive(Debug, Clone)]
pub struct Guess {
    /// How a search begins that gives it.
    pub start: Start,
    /// At the coarse working size.
    pub(crate) mask: Grid<bool>,
}

impl Guess {
    /// White where the subject is, long side 350 pixels at most.
    pub fn picture(&self) -> GrayImage {
        self.mask.to_gray()
    }
}

/// The guesses at a subject, the likeliest one first, those that differ from it after it. One at least.
pub(crate) fn guesses(photo: &WorkingPhoto, standout: &Standout, start: Start, least: f64) -> Vec<Guess> {
    let looked = Looked::at(photo, standout, least);
    let one = |start, mask| vec![Guess { start, mask }];
    if !standout.anything {
        return one(start, photo.coarse.map(|_| false));
    }
    match start {
        Start::Colours => one(start, looked.by_colour()),
        Start::Salient => one(start, looked.salient()),
        Start::Apart => one(start, looked.apart().unwrap_or_else(|| looked.salient())),
        _ => looked.all(),
    }
}

/// What is known of a photo before anything is guessed.
struct Looked<'a> {
    photo: &'a WorkingPhoto,
    /// The box at the coarse size.
    frame: Frame,
    boxed: bool,
    /// What stands out in the box.
    inside: Grid<f32>,
    /// Where colours are other than those around the box, if enough lies around it.
    unlike: Option<Grid<bool>>,
    weight: Option<f32>,
    least: f64,
}

impl<'a> Looked<'a> {
    fn at(photo: &'a WorkingPhoto, standout: &Standout, least: f64) -> Self {
        let map = &standout.map;
        let frame = standout.frame.scaled(map.width as f64 / f64::from(photo.size.0));
        let inside = within(map, frame);
        let weight = weight(&inside, frame);
        let beside = if standout.boxed { frame } else { frame.grown(GAP, &photo.coarse) };
        let unlike = unlike_around(&photo.coarse, beside);
        Self { photo, frame, boxed: standout.boxed, inside, unlike, weight, least }
    }

    fn all(&self) -> Vec<Guess> {
        let ((apart, salient), colours) =
            rayon::join(|| rayon::join(|| self.apart(), || self.salient()), || self.by_colour());
        let fit = |mask: &Grid<bool>| Frame::around(mask).map_or(0.0, |f| f.iou(self.frame));
        let mut order = Vec::new();
        let agreed = !self.boxed && iou(&salient, &colours) >= AGREED;
        let told =
            !agreed && apart.as_ref().filter(|_| self.told() >= APART).is_some_and(|a| fit(a) >= fit(&salient) - 0.1);
        let first = apart.as_ref().filter(|_| told).unwrap_or(&salient);
        // a box is drawn so that the subject touches its sides
        let size = |mask: &Grid<bool>| mask.count() as f64;
        let misses = fit(first) < 0.4 && fit(&colours) > fit(first)
            || fit(first) < 0.75 && fit(&colours) >= 0.95 && size(&colours) <= 1.5 * size(first);
        let apart = apart.map(|mask| Guess { start: Start::Apart, mask });
        let salient = Guess { start: Start::Salient, mask: salient };
        let colours = Guess { start: Start::Colours, mask: colours };
        if told {
            order.extend(apart);
            order.push(salient);
        } else {
            order.push(salient);
            order.extend(apart);
        }
        order.insert(if misses { 0 } else { order.len() }, colours);
        let mut different: Vec<Guess> = Vec::new();
        for guess in order {
            let sound = (0.002..0.9).contains(&(size(&guess.mask) / guess.mask.data.len() as f64));
            if different.is_empty() || sound && different.iter().all(|d| iou(&d.mask, &guess.mask) < ALIKE) {
                different.push(guess);
            }
        }
        different
    }

    /// The share of what stands out that is of other colours than the ground.
    fn told(&self) -> f64 {
        let Some(unlike) = &self.unlike else { return 0.0 };
        let salient = self.inside.map(|s| s >= 0.5);
        let both = salient.data.iter().zip(&unlike.data).filter(|(s, u)| **s && **u).count();
        both as f64 / salient.count().max(1) as f64
    }

    fn labels(&self, maybe: impl Fn(usize, usize) -> bool) -> Grid<Label> {
        let coarse = &self.photo.coarse;
        Grid::from_fn(coarse.width, coarse.height, |x, y| match (self.frame.holds(x, y), maybe(x, y)) {
            (false, _) => Label::Background,
            (true, true) => Label::MaybeSubject,
            (true, false) => Label::MaybeBackground,
        })
    }

    fn salient(&self) -> Grid<bool> {
        let labels = self.labels(|x, y| self.inside.at(x, y) >= 0.5);
        self.parted(&labels, self.weight.map(|w| (&self.inside, w)), 1.0)
    }

    fn by_colour(&self) -> Grid<bool> {
        self.parted(&self.labels(|_, _| true), None, 1.0)
    }

    /// What stands out and is not of the colours around the box; None where nothing is.
    fn apart(&self) -> Option<Grid<bool>> {
        let unlike = self.unlike.as_ref()?;
        let labels = self.labels(|x, y| self.inside.at(x, y) >= 0.5 && unlike.at(x, y));
        if !labels.data.contains(&Label::MaybeSubject) {
            return None;
        }
        let heard = Grid::from_fn(unlike.width, unlike.height, |x, y| {
            let s = self.inside.at(x, y);
            if unlike.at(x, y) { s.max(OTHER) } else { s.min(GROUND) }
        });
        Some(self.parted(&labels, self.weight.map(|w| (&heard, w)), THIN))
    }

    fn parted(&self, labels: &Grid<Label>, saliency: Option<(&Grid<f32>, f32)>, smooth: f32) -> Grid<bool> {
        let picture = (&self.photo.coarse, &self.photo.coarse_contrast);
        tidied(&smoothed_grabcut(picture, labels, ROUNDS, saliency, smooth), self.least)
    }
}

/// What stands out in a frame.
pub(crate) fn within(map: &Grid<f32>, frame: Frame) -> Grid<f32> {
    Grid::from_fn(map.width, map.height, |x, y| if frame.holds(x, y) { map.at(x, y) } else { 0.0 })
}

/// How much saliency weighs; more where it agrees with the box. None where it says nothing.
pub(crate) fn weight(inside: &Grid<f32>, frame: Frame) -> Option<f32> {
    let salient = Frame::around(&inside.map(|s| s > 0.5));
    let agrees = salient.is_some_and(|f| f.iou(frame) >= 0.6);
    inside.data.iter().any(|s| *s > 0.0).then_some(if agrees { 2.0 } else { 0.5 })
}

/// Where colours are other than those in a strip around the box; None where too little lies around it.
fn unlike_around(colours: &Grid<Rgb>, frame: Frame) -> Option<Grid<bool>> {
    let (w, h) = (colours.width, colours.height);
    let wide = frame.grown(STRIP, colours);
    let beside = |i: &usize| wide.holds(i % w, i / w) && !frame.holds(i % w, i / w);
    let around: Vec<Rgb> = (0..w * h).filter(beside).map(|i| colours.data[i]).collect();
    if around.len() * 200 < w * h {
        return None;
    }
    let mut model = Mixture::start(&around)?;
    (0..3).for_each(|_| model.update(&around));
    let mut costs: Vec<f32> = around.iter().map(|c| model.cost(c)).collect();
    let usual = (costs.len() as f64 * USUAL) as usize;
    let limit = *costs.select_nth_unstable_by(usual, f32::total_cmp).1 + UNLIKE;
    Some(colours.map(|c| model.cost(&c) > limit))
}
