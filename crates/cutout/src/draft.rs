//! The matte of a subject at the working size: what every stroke is answered with.

use crate::closed_form::QUICK;
use crate::correct::{corrected, relearnt};
use crate::doubt::{Doubt, Doubts};
use crate::edge::shifted;
use crate::frame::Frame;
use crate::grabcut::{Label, Weights, grabcut, weighed_grabcut};
use crate::grid::Grid;
use crate::guesses::{Guess, ROUNDS, guesses, weight, within};
use crate::half_cover::at_half_cover;
use crate::hints::{Hint, as_stroked};
use crate::paint::{Sides, painted};
use crate::regions::grown;
use crate::see_through::SeeThrough;
use crate::single::{Single, singles};
use crate::soft_edge::{Edge, edged};
use crate::spoken::{self, Before, Spoken};
use crate::trimap::trimap;
use crate::{CutoutError, Hints, Standout, Start, SubjectStroke, Watch, WorkingPhoto};
use image::GrayImage;

/// Half the width of the band in which colours are parted again at the fine size, in its pixels.
const BAND: f32 = 6.0;
/// How much the outline's length counts there: what the colours tell apart in a narrow band needs little of it.
const SMOOTH: f32 = 0.2;
/// What the steps take of the work, as shares of the whole: those of a photo of 12 megapixels.
const COLOURS: f32 = 0.19;
const FOLLOW: f32 = 0.26;
/// The smallest parts that belong to a subject, as shares of its largest part: whoever draws a box around a subject means its
/// small parts too, as the basket below a balloon; without one they are more likely something else.
const LEAST_IN_BOX: f64 = 0.004;
const LEAST_FOUND: f64 = 0.02;
/// A wider answer is shown if it differs by this share of the subject, and if what it gives is between these shares of the photo.
const MUCH: f64 = 0.04;
const WIDER: (f64, f64) = (0.002, 0.9);
/// Rounds of learning colours and cutting for a stroke.
const AGAIN: usize = 2;

/// A subject at the fine working size.
pub struct Draft {
    hints: Hints,
    /// What was found by colours and saliency at the coarse size, and at the fine one before contours and smoothing.
    coarse: Grid<bool>,
    found: Grid<bool>,
    /// How many pixels of the coarse size each stroke gave.
    given: Vec<usize>,
    /// The guesses that it began with, the one that was taken first.
    guesses: Vec<Guess>,
    doubts: Doubts,
    /// The single ones of several subjects that were found at once, where nobody has said yet which one is meant.
    pub singles: Vec<Single>,
    /// What the last stroke would give if it spoke for everything like it, where that is much more.
    wider: Option<Grid<bool>>,
    pub(crate) edge: Edge,
    pub(crate) sides: Sides,
    /// Its matte, with shift and paint.
    matte: Grid<f32>,
}

impl Draft {
    /// Coverage by the subject, long side 700 pixels at most.
    pub fn matte(&self) -> GrayImage {
        self.matte.to_gray()
    }

    /// Other guesses, as long as no stroke has told.
    pub fn others(&self) -> &[Guess] {
        if self.hints.strokes.is_empty() { self.guesses.get(1..).unwrap_or_default() } else { &[] }
    }

    /// What the last stroke would give if it spoke for everything like it, where that is much more: white where the subject is, long side 350 pixels at
    /// most.
    pub fn wider(&self) -> Option<GrayImage> {
        self.wider.as_ref().map(Grid::<bool>::to_gray)
    }

    /// Where it may well be wrong, the place first that matters most.
    pub fn doubts(&self) -> &[Doubt] {
        &self.doubts.places
    }

    /// How much these places are doubted: black for what is not, long side 350 pixels at most.
    pub fn wash(&self) -> GrayImage {
        self.doubts.wash.to_gray()
    }

    /// Whether the same was found by colours and saliency.
    fn found_by(&self, hints: &Hints) -> bool {
        self.begins(hints) && self.hints.strokes == hints.strokes
    }

    /// Whether it begins with the same.
    fn begins(&self, hints: &Hints) -> bool {
        self.hints.start == hints.start && self.hints.within == hints.within
    }

    /// Whether the ground is seen through in the same places, and as much.
    fn sees_through(&self, hints: &Hints) -> bool {
        let of = |h: &Hints| (h.see_through.clone(), h.density, h.shadow_alone);
        of(&self.hints) == of(hints)
    }

    /// Whether it has the same soft edge but for shift and paint.
    fn edged_by(&self, hints: &Hints) -> bool {
        let of = |h: &Hints| (h.traced.clone(), h.refined.clone(), h.edge.hair, h.edge.band, h.edge.smooth);
        self.found_by(hints) && of(&self.hints) == of(hints)
    }
}

/// Finds the subject at the working size, a little less exactly in its soft edge than it will be at full size. What an earlier draft of the
/// same photo has in common with it is not computed again.
///
/// # Errors
/// Hints that leave nothing, a photo in which nothing stands out and that has no hints, a cancelled watch.
pub fn draft(
    photo: &WorkingPhoto,
    standout: &Standout,
    hints: &Hints,
    before: Option<&Draft>,
    watch: &dyn Watch,
) -> Result<Draft, CutoutError> {
    drawn_up(photo, standout, hints, before, QUICK, watch)
}

/// [`draft`] with a tolerance for the soft edge.
pub(crate) fn drawn_up(
    photo: &WorkingPhoto,
    standout: &Standout,
    hints: &Hints,
    before: Option<&Draft>,
    tolerance: f64,
    watch: &dyn Watch,
) -> Result<Draft, CutoutError> {
    hints.check()?;
    if photo.is_clear {
        return Err(CutoutError::Clear);
    }
    let scale = photo.scale();
    let Found { coarse, fine: found, given, guesses, doubts, wider } = match before.filter(|b| b.found_by(hints)) {
        Some(before) => Found {
            coarse: before.coarse.clone(),
            fine: before.found.clone(),
            given: before.given.clone(),
            guesses: before.guesses.clone(),
            doubts: before.doubts.clone(),
            wider: before.wider.clone(),
        },
        None => found_mask(photo, standout, hints, before, watch)?,
    };
    let edge = match before.filter(|b| b.edged_by(hints)) {
        Some(before) => before.edge.clone(),
        None => edged(photo, &found, hints, before.map(|b| &b.edge), tolerance, watch)?,
    };
    let same_edge = before.filter(|b| b.edged_by(hints) && b.hints.edge == hints.edge && b.sees_through(hints));
    let known = same_edge.filter(|b| hints.painted.starts_with(&b.hints.painted));
    let (matte, sides) = match known {
        Some(before) => {
            let mut matte = before.matte.clone();
            let more = painted(&hints.painted[before.hints.painted.len()..], &photo.fine, &mut matte, scale);
            (matte, before.sides.and(more))
        }
        None => {
            let mut matte = shifted(&edge.bare, hints.edge.shift_at(scale, scale));
            match SeeThrough::find(&photo.fine, &matte, hints, scale) {
                Some(seen) => seen.lay(&photo.fine, &mut matte),
                None if hints.shadow_alone => return Err(CutoutError::NoShadow),
                None => {}
            }
            let sides = painted(&hints.painted, &photo.fine, &mut matte, scale);
            (matte, sides)
        }
    };
    if !hints.painted.is_empty() && !hints.sees_through() && matte.data.iter().all(|a| *a < 0.5) {
        return Err(CutoutError::NothingLeft);
    }
    let by_itself = hints.within.is_none() && hints.strokes.is_empty() && !guesses.is_empty();
    let singles = if by_itself { singles(&coarse, photo.size, photo.coarse_scale()) } else { Vec::new() };
    Ok(Draft { hints: hints.clone(), coarse, singles, found, given, guesses, doubts, wider, edge, sides, matte })
}

/// What colours and saliency give.
struct Found {
    coarse: Grid<bool>,
    fine: Grid<bool>,
    given: Vec<usize>,
    guesses: Vec<Guess>,
    doubts: Doubts,
    wider: Option<Grid<bool>>,
}

impl Found {
    /// A mask that was not searched for.
    fn without(photo: &WorkingPhoto, fine: Grid<bool>) -> Self {
        let coarse = photo.coarse.map(|_| false);
        Self { doubts: Doubts::none(&coarse), coarse, fine, given: Vec::new(), guesses: Vec::new(), wider: None }
    }
}

/// What is found by colours and saliency; nothing yet where no search is wanted.
fn found_mask(
    photo: &WorkingPhoto,
    standout: &Standout,
    hints: &Hints,
    before: Option<&Draft>,
    watch: &dyn Watch,
) -> Result<Found, CutoutError> {
    let (width, height) = (photo.fine.width, photo.fine.height);
    match hints.start {
        Start::Alpha => Ok(Found::without(photo, photo.alpha.as_ref().ok_or(CutoutError::Opaque)?.map(|a| a > 0.5))),
        Start::Nothing => Ok(Found::without(photo, Grid::filled(width, height, false))),
        _ if !standout.anything && !hints.keeps() => Err(CutoutError::NothingFound),
        _ => {
            watch.step(COLOURS, "Parting subject and background by colour");
            let least = if standout.boxed { LEAST_IN_BOX } else { LEAST_FOUND };
            // every stroke goes on with what the strokes before it gave
            let known = before.filter(|b| b.begins(hints) && hints.strokes.starts_with(&b.hints.strokes));
            let (mut coarse, mut fine, mut given, guesses) = match known {
                Some(b) => (b.coarse.clone(), b.found.clone(), b.given.clone(), b.guesses.clone()),
                None => {
                    let all = guesses(photo, standout, hints.start, least);
                    let first = all.first().map_or_else(|| photo.coarse.map(|_| false), |g| g.mask.clone());
                    let fine = fine_mask(photo, &first, &Grid::filled(width, height, Hint::Nothing), least, None);
                    (first, fine, Vec::new(), all)
                }
            };
            watch.step(FOLLOW, "Following the edge");
            let before = known.map(|b| b.doubts.clone());
            let mut doubted = before.unwrap_or_else(|| doubts(photo, standout, (&coarse, &guesses), &[]));
            let mut wider = None;
            for k in given.len()..hints.strokes.len() {
                watch.go_on()?;
                let strokes = &hints.strokes[..=k];
                let drawn = SubjectStroke::drawn(strokes, coarse.width, coarse.height, photo.coarse_scale());
                let (mut next, spoken) =
                    with_stroke(photo, standout, (hints.start, strokes), (&coarse, &given), (&drawn, least));
                let gave = spoken.as_ref().map_or(0, |s| s.gave);
                // whoever strokes over a doubted place means all of it
                let beneath = hints.strokes[k].pixels(coarse.width, coarse.height, photo.coarse_scale());
                let keep = hints.strokes[k].keep;
                let open = |i: usize| coarse.data[i] != keep && drawn.data[i] == Hint::Nothing;
                doubted.beneath(&beneath, open).into_iter().for_each(|i| next.data[i] = keep);
                watch.go_on()?;
                let last = k + 1 == hints.strokes.len() && gave > 0 && !hints.strokes[k].everywhere;
                let touched = touched(photo, (&coarse, &next), &hints.strokes[k]);
                let drawn_fine = SubjectStroke::drawn(strokes, width, height, photo.scale());
                let (again, (more, doubts)) = rayon::join(
                    || fine_mask(photo, &next, &drawn_fine, least, Some((&fine, &touched))),
                    || {
                        let more = spoken.filter(|_| last).and_then(|s| more_than(&next, &s, &drawn, least));
                        (more, doubts(photo, standout, (&next, &guesses), strokes))
                    },
                );
                given.push(gave);
                (wider, doubted) = (more, doubts);
                let changed = fine.data.iter_mut().zip(&again.data).zip(&touched.data).filter(|(_, t)| **t);
                changed.for_each(|((f, a), _)| *f = *a);
                coarse = next;
            }
            Ok(Found { coarse, fine, given, guesses, doubts: doubted, wider })
        }
    }
}

/// What a stroke gives if it speaks for everything like it, where that is much more than what it gave, but not nearly everything.
fn more_than(after: &Grid<bool>, spoken: &Spoken<'_>, drawn: &Grid<Hint>, least: f64) -> Option<Grid<bool>> {
    let wider = as_stroked(&spoken.everywhere(), drawn, least);
    let differs = wider.data.iter().zip(&after.data).filter(|(w, a)| w != a).count() as f64;
    let all = wider.data.len() as f64;
    let sound = (WIDER.0..WIDER.1).contains(&(wider.count() as f64 / all));
    (sound && differs >= MUCH * after.count() as f64).then_some(wider)
}

/// How much what was found is doubted. What strokes have changed, what they cover, and what lies outside of where it is looked for, is not.
fn doubts(
    photo: &WorkingPhoto,
    standout: &Standout,
    (coarse, guesses): (&Grid<bool>, &[Guess]),
    strokes: &[SubjectStroke],
) -> Doubts {
    let (w, h, scale) = (coarse.width, coarse.height, photo.coarse_scale());
    let drawn = SubjectStroke::drawn(strokes, w, h, scale);
    let first = guesses.first().map_or(coarse, |g| &g.mask);
    let frame = standout.frame.scaled(scale);
    let said = |x: usize, y: usize| drawn.at(x, y) != Hint::Nothing || coarse.at(x, y) != first.at(x, y);
    let told = Grid::from_fn(w, h, |x, y| !frame.holds(x, y) || said(x, y));
    let others: Vec<&Grid<bool>> = guesses.iter().map(|g| &g.mask).collect();
    let stroked: Vec<usize> = (0..drawn.data.len()).filter(|i| drawn.data[*i] != Hint::Nothing).collect();
    Doubts::of((&photo.coarse, coarse, scale), &others, (&told, &stroked))
}

/// A mask at the coarse size with one stroke more, the last of these: the colours are learnt again from what was found so far. Strokes are
/// sure, and reach beyond the box.
fn with_stroke<'a>(
    photo: &'a WorkingPhoto,
    standout: &Standout,
    (start, strokes): (Start, &[SubjectStroke]),
    (mask, given): (&'a Grid<bool>, &[usize]),
    (drawn, least): (&Grid<Hint>, f64),
) -> (Grid<bool>, Option<Spoken<'a>>) {
    let coarse = &photo.coarse;
    let scale = photo.coarse_scale();
    let frame = standout.frame.scaled(scale);
    let scope = Frame::around(&drawn.map(|h| h == Hint::Keep)).map_or(frame, |kept| frame.union(kept));
    if standout.anything && mask.data.contains(&true) {
        let (fine, contrast) = (&photo.fine, &photo.coarse_contrast);
        let before = Before { colours: coarse, fine, contrast, mask, frame, scope, scale };
        let spoken = spoken::with_stroke(before, strokes, given);
        return (as_stroked(spoken.as_ref().map_or(mask, |s| &s.mask), drawn, least), spoken);
    }
    let inside = within(&standout.map, frame);
    let heard = corrected(&inside, coarse, (strokes, drawn, scale), scope);
    let seed = relearnt(mask, coarse, drawn);
    let labels =
        Grid::from_fn(coarse.width, coarse.height, |x, y| match (drawn.at(x, y), scope.holds(x, y), seed.at(x, y)) {
            (Hint::Keep, ..) => Label::Subject,
            (Hint::Drop, ..) | (_, false, _) => Label::Background,
            (_, true, true) => Label::MaybeSubject,
            (_, true, false) => Label::MaybeBackground,
        });
    let rounds = if mask.data.contains(&true) { AGAIN } else { ROUNDS };
    let weight = if start == Start::Colours { None } else { weight(&inside, frame) };
    let found = grabcut((coarse, &photo.coarse_contrast), &labels, rounds, weight.map(|w| (&heard, w)));
    (as_stroked(&found, drawn, least), None)
}

/// Where a stroke has changed something, and a little around that; at the fine size. Elsewhere nothing is to move.
fn touched(photo: &WorkingPhoto, (before, after): (&Grid<bool>, &Grid<bool>), stroke: &SubjectStroke) -> Grid<bool> {
    let (w, h) = (photo.fine.width, photo.fine.height);
    let (sx, sy) = (before.width as f64 / w as f64, before.height as f64 / h as f64);
    let mut changed = Grid::from_fn(w, h, |x, y| {
        let there = |v: usize, scale: f64| ((v as f64 + 0.5) * scale) as usize;
        before.at(there(x, sx), there(y, sy)) != after.at(there(x, sx), there(y, sy))
    });
    stroke.pixels(w, h, photo.scale()).into_iter().for_each(|i| changed.data[i] = true);
    grown(&changed, BAND)
}

/// The mask at the fine size: colours again, in a band along the coarse edge. What was there `before` stays but where something is touched.
fn fine_mask(
    photo: &WorkingPhoto,
    coarse: &Grid<bool>,
    strokes: &Grid<Hint>,
    least: f64,
    before: Option<(&Grid<bool>, &Grid<bool>)>,
) -> Grid<bool> {
    let (w, h) = (photo.fine.width, photo.fine.height);
    let enlarged = coarse.to_f32().resized(w, h).map(|v| v > 0.5);
    let band = trimap(&enlarged, BAND);
    let stays = |x: usize, y: usize| before.and_then(|(mask, touched)| (!touched.at(x, y)).then(|| mask.at(x, y)));
    let labels = Grid::from_fn(w, h, |x, y| match (strokes.at(x, y), stays(x, y), band.at(x, y), enlarged.at(x, y)) {
        (Hint::Keep, ..) | (_, Some(true), ..) | (_, None, 1.0, _) => Label::Subject,
        (Hint::Drop, ..) | (_, Some(false), ..) | (_, None, 0.0, _) => Label::Background,
        (_, None, _, true) => Label::MaybeSubject,
        (_, None, _, false) => Label::MaybeBackground,
    });
    let weights = Weights { smooth: SMOOTH, sharpness: None };
    let mask = weighed_grabcut((&photo.fine, &photo.fine_contrast), &labels, 2, None, weights);
    let mask = at_half_cover(&photo.fine, &mask, BAND, before.map(|(_, touched)| touched));
    as_stroked(&mask, strokes, least)
}
