//! First guesses at a subject, before any stroke: by what stands out, by what of that is not of the colours around the box, by colours alone.

use crate::WorkingPhoto;
use crate::frame::Frame;
use crate::grabcut::{Label, Weights, weighed_grabcut};
use crate::grid::Grid;
use crate::hints::Start;
use crate::overlap::iou;
use crate::regions::tidied;
use crate::standout::Standout;
use crate::surround::unlike_around;
use image::GrayImage;

/// Rounds of learning colours and cutting, at most: it ends before where nothing changes any more.
pub(crate) const ROUNDS: usize = 9;
/// Two guesses that overlap by less than this are two different findings.
const ALIKE: f64 = 0.95;
/// The share of what stands out that has to be of other colours than the ground, for these to tell subject and ground apart.
const APART: f64 = 0.3;
/// The same where the network is sure of its outline: what it sees may be of the ground's colours, as with animals that hide. It is sure where values
/// between these two are fewer than this share of what stands out.
const APART_FROM_SURE: f64 = 0.5;
const UNSURE: (f32, f32) = (0.1, 0.9);
const FEW: f64 = 0.6;
/// What stands out and is not of the ground's colours may fit the box by so much less than all that stands out.
const FITS_LESS: f64 = 0.2;
/// What saliency says at most of colours of the ground, and at least of others.
const GROUND: f32 = 0.03;
const OTHER: f32 = 0.85;
/// What fills a box touches its sides, by the overlap of the frame around it with the box, and is of one piece but for such a share. Smaller pieces
/// than this share of the largest are specks.
const FILLS: f64 = 0.85;
const OF_ONE_PIECE: f64 = 0.9;
const SPECK: f64 = 0.05;
/// How much saliency weighs where it agrees with the box, and where it does not.
const AGREES: f32 = 1.3;
const CONTRADICTS: f32 = 0.5;
/// How much the outline's length counts where saliency tells the two sides apart too: spokes and gaps between them have much of it.
const FINE_THINGS: Weights<'_> = Weights { smooth: 0.15, sharpness: None };
/// Where nobody has drawn a box, so far from what stands out, as a share of its size, that the strip holds nothing of it.
const GAP: f64 = 0.2;
/// Where nobody has drawn a box, and what stands out and the colours give so much the same, the colours around it have nothing to say.
const AGREED: f64 = 0.9;

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
    /// The share of what stands out that is of other colours than the ground.
    told: f64,
    /// What is of other colours than the ground and fills the box, where something else stands out.
    overlooked: Option<Grid<bool>>,
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
        let told = unlike.as_ref().map_or(0.0, |unlike| told(&inside, unlike));
        let overlooked = unlike.as_ref().filter(|_| standout.boxed && told < APART).and_then(|u| filling(u, frame));
        Self { photo, frame, boxed: standout.boxed, inside, unlike, weight, told, overlooked, least }
    }

    fn all(&self) -> Vec<Guess> {
        let ((apart, salient), colours) =
            rayon::join(|| rayon::join(|| self.apart(), || self.salient()), || self.by_colour());
        let fit = |mask: &Grid<bool>| Frame::around(mask).map_or(0.0, |f| f.iou(self.frame));
        let mut order = Vec::new();
        let agreed = !self.boxed && iou(&salient, &colours) >= AGREED;
        let enough = if self.is_sure() { APART_FROM_SURE } else { APART };
        let tells = self.told >= enough || self.overlooked.is_some();
        let by_ground = tells && !agreed && apart.as_ref().is_some_and(|a| fit(a) >= fit(&salient) - FITS_LESS);
        let first = apart.as_ref().filter(|_| by_ground).unwrap_or(&salient);
        // a box is drawn so that the subject touches its sides
        let size = |mask: &Grid<bool>| mask.count() as f64;
        let misses = fit(first) < 0.4 && fit(&colours) > fit(first)
            || fit(first) < 0.75 && fit(&colours) >= 0.95 && size(&colours) <= 1.5 * size(first);
        let apart = apart.map(|mask| Guess { start: Start::Apart, mask });
        let salient = Guess { start: Start::Salient, mask: salient };
        let colours = Guess { start: Start::Colours, mask: colours };
        if by_ground {
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

    /// Whether the network is sure of its outline.
    fn is_sure(&self) -> bool {
        let between = |low: f32, high: f32| self.inside.data.iter().filter(|s| **s > low && **s < high).count() as f64;
        between(UNSURE.0, UNSURE.1) < FEW * between(0.5, f32::INFINITY)
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
        self.parted(&labels, self.weight.map(|w| (&self.inside, w)), FINE_THINGS)
    }

    fn by_colour(&self) -> Grid<bool> {
        let sharpness = Some(&self.photo.sharpness);
        self.parted(&self.labels(|_, _| true), None, Weights { smooth: 1.0, sharpness })
    }

    /// What stands out and is not of the colours around the box; None where nothing is.
    fn apart(&self) -> Option<Grid<bool>> {
        let unlike = self.unlike.as_ref()?;
        let seed = |x, y| match &self.overlooked {
            Some(overlooked) => overlooked.at(x, y),
            None => self.inside.at(x, y) >= 0.5 && unlike.at(x, y),
        };
        let labels = self.labels(seed);
        if !labels.data.contains(&Label::MaybeSubject) {
            return None;
        }
        let heard = Grid::from_fn(unlike.width, unlike.height, |x, y| {
            let s = self.inside.at(x, y);
            if unlike.at(x, y) { s.max(OTHER) } else { s.min(GROUND) }
        });
        let weight = if self.overlooked.is_some() { Some(AGREES) } else { self.weight };
        Some(self.parted(&labels, weight.map(|w| (&heard, w)), FINE_THINGS))
    }

    fn parted(&self, labels: &Grid<Label>, saliency: Option<(&Grid<f32>, f32)>, weights: Weights<'_>) -> Grid<bool> {
        let picture = (&self.photo.coarse, &self.photo.coarse_contrast);
        tidied(&weighed_grabcut(picture, labels, ROUNDS, saliency, weights), self.least)
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
    inside.data.iter().any(|s| *s > 0.0).then_some(if agrees { AGREES } else { CONTRADICTS })
}

/// The share of what stands out that is of other colours than the ground.
fn told(inside: &Grid<f32>, unlike: &Grid<bool>) -> f64 {
    let salient = inside.map(|s| s >= 0.5);
    let both = salient.data.iter().zip(&unlike.data).filter(|(s, u)| **s && **u).count();
    both as f64 / salient.count().max(1) as f64
}

/// What is of other colours than the ground, if it is nearly of one piece and touches the box on all sides: whoever draws a box draws it around that
/// (the tightness prior, see `standout`).
fn filling(unlike: &Grid<bool>, frame: Frame) -> Option<Grid<bool>> {
    let inside = Grid::from_fn(unlike.width, unlike.height, |x, y| frame.holds(x, y) && unlike.at(x, y));
    let pieces = tidied(&inside, SPECK);
    let share = pieces.count() as f64 / inside.count().max(1) as f64;
    let fills = share >= OF_ONE_PIECE && Frame::around(&pieces)?.iou(frame) >= FILLS;
    fills.then_some(pieces)
}
