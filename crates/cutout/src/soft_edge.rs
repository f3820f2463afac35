//! The soft edge of what was found, at the fine working size.

use crate::closed_form::{Matting, closed_form};
use crate::distance::squared_depth;
use crate::edge::{cleaned, ramp, smoothed};
use crate::grid::Grid;
use crate::hints::Hint;
use crate::trimap::trimap;
use crate::{CutoutError, Hints, Start, Stretch, Watch, WorkingPhoto};

/// What it takes of the work, as shares of the whole.
const SOFT: (f32, f32) = (0.27, 0.29);
/// Pull of the matte to the mask (see `closed_form`).
pub(crate) const PULL: f32 = 0.002;

/// The soft edge of what was found.
#[derive(Clone)]
pub(crate) struct Edge {
    /// What was found, with contours and smoothing.
    mask: Grid<bool>,
    /// The matte before shift and paint.
    pub bare: Grid<f32>,
    /// Where the bare matte is sure (0 or 1), and where it was computed (½).
    pub band: Grid<f32>,
    /// The matte as it was solved where hair was looked for, to go on from.
    solved: Option<Grid<f32>>,
}

/// The soft edge of what was found and traced. `before` is one of an earlier draft: where it comes out the same, it is not computed again.
pub(crate) fn edged(
    photo: &WorkingPhoto,
    found: &Grid<bool>,
    hints: &Hints,
    before: Option<&Edge>,
    tolerance: f64,
    watch: &dyn Watch,
) -> Result<Edge, CutoutError> {
    let (width, height, scale) = (photo.fine.width, photo.fine.height, photo.scale());
    let traced = hints.traced(width, height, scale);
    let joined = match &traced {
        Some(traced) => {
            let both = found.data.iter().zip(&traced.data);
            Grid { width, height, data: both.map(|(f, t)| *f || *t > 0.5).collect() }
        }
        None => found.clone(),
    };
    let mask = smoothed(&joined, (hints.edge.smooth * scale) as f32);
    said(&mask, hints)?;
    watch.go_on()?;

    let watch = &Stretch::begin(watch, SOFT, "Computing the soft edge");
    let unsure = |matte: &Grid<f32>| matte.map(|a| if a > 0.0 && a < 1.0 { 0.5 } else { a });
    if let Some(alpha) = photo.alpha.as_ref().filter(|_| hints.is_exact()) {
        return Ok(Edge { mask, bare: alpha.clone(), band: unsure(alpha), solved: None });
    }
    let half = hints.edge.band_at(scale);
    let closely = hints.refined(width, height, scale);
    let even = (!hints.edge.hair).then(|| ramp(&mask, half));
    if let (Some(even), None) = (&even, &closely) {
        return Ok(Edge { mask, band: unsure(even), bare: even.clone(), solved: None });
    }
    let mut band = if even.is_some() { mask.to_f32() } else { trimap(&mask, half) };
    if let Some(closely) = &closely {
        band.data.iter_mut().zip(&closely.data).filter(|(_, c)| **c).for_each(|(b, _)| *b = 0.5);
    }
    let mut band = stroked(band, &hints.drawn(width, height, scale));
    let prior = mask.to_f32();
    // from a matte that is nearly the same it takes fewer rounds to the same end
    let before = before.and_then(|b| Some((b, b.solved.as_ref().filter(|s| s.same_size(&prior))?)));
    let start = before.map_or(&prior, |(_, solved)| solved);
    let held = before.map(|(b, _)| unchanged((&mask, &band), b));
    let matting = Matting { prior: &prior, pull: PULL, start, held: held.as_ref(), rounds: 600, tolerance };
    let mut solved = closed_form(&photo.fine, &band, &matting, watch)?;
    // where blur has led the mask astray, the edge is looked for once more around where it came out
    let may_move = even.is_none() && hints.traced.is_empty();
    if may_move && matting.held.is_some() && Moved::of(&solved, &band, &mask).is_one(NEARLY) {
        // whether it is must not depend on what it was solved from
        solved = closed_form(&photo.fine, &band, &Matting { start: &prior, held: None, ..matting }, watch)?;
    }
    let (mut near, mut is_moved) = (mask.clone(), false);
    for _ in 0..if may_move { EDGES } else { 0 } {
        let moved = Moved::of(&solved, &band, &near);
        if !moved.is_one(1.0) {
            break;
        }
        band = stroked(trimap(&moved.mask, half), &hints.drawn(width, height, scale));
        let prior = moved.mask.to_f32();
        let matting = Matting { prior: &prior, start: &prior, held: None, ..matting };
        solved = closed_form(&photo.fine, &band, &matting, watch)?;
        near = moved.mask;
        is_moved = true;
    }
    let mut bare = cleaned(&solved);
    let mut seen = band;
    if let (Some(even), Some(closely)) = (&even, &closely) {
        // elsewhere the edge is even
        let sure = unsure(even);
        for i in (0..bare.data.len()).filter(|i| !closely.data[*i]) {
            (bare.data[i], seen.data[i]) = (even.data[i], sure.data[i]);
        }
    }
    // what was moved is no place to go on from: strokes one by one are to give what they give at once
    Ok(Edge { mask, bare, band: seen, solved: (!is_moved).then_some(solved) })
}

/// An edge is looked for again, so often at most.
const EDGES: usize = 2;
/// It is if this share of its band is seen through, as where a photo is blurred, and if this share came out on the other side of it.
const SOFTLY: f64 = 0.25;
const SEEN_THROUGH: std::ops::RangeInclusive<f32> = 0.15..=0.85;
const MOVED: f64 = 0.06;
/// Shares of these that are so near to them that another start could reach them.
const NEARLY: f64 = 0.7;

/// An edge as it came out, beside the one that it was looked for around.
struct Moved {
    mask: Grid<bool>,
    /// Shares of its band.
    softly: f64,
    off: f64,
}

impl Moved {
    fn of(solved: &Grid<f32>, band: &Grid<f32>, near: &Grid<bool>) -> Self {
        let mask = cleaned(solved).map(|a| a > 0.5);
        let open = band.data.iter().filter(|b| **b == 0.5).count().max(1) as f64;
        let soft = solved.data.iter().filter(|a| SEEN_THROUGH.contains(a)).count();
        let off = mask.data.iter().zip(&near.data).filter(|(a, b)| a != b).count();
        Self { mask, softly: soft as f64 / open, off: off as f64 / open }
    }

    /// Whether it is an edge of its own, by such a share of what that takes.
    fn is_one(&self, share: f64) -> bool {
        self.softly >= share * SOFTLY && self.off > share * MOVED
    }
}

/// Where nothing has changed since an earlier edge, nor near there: beyond this many pixels of the fine size the pull to the mask lets nothing of
/// a change through that could be seen.
const NEAR: usize = 32;

fn unchanged((mask, band): (&Grid<bool>, &Grid<f32>), before: &Edge) -> Grid<bool> {
    let same = |i: usize| {
        let sure = band.data[i] != 0.5;
        band.data[i] == before.band.data[i] && (sure || mask.data[i] == before.mask.data[i])
    };
    let same = Grid { width: mask.width, height: mask.height, data: (0..mask.data.len()).map(same).collect() };
    squared_depth(&same, NEAR).map(|d| usize::from(d.unsigned_abs()) > NEAR * NEAR)
}

/// Whether a mask is a subject at all.
fn said(mask: &Grid<bool>, hints: &Hints) -> Result<(), CutoutError> {
    let size = mask.count() as f64 / mask.data.len() as f64;
    let told = !hints.strokes.is_empty() || !hints.traced.is_empty() || !hints.painted.is_empty();
    match size {
        // paint may come yet
        0.0 if hints.painted.iter().any(|s| s.add) || hints.sees_through() => Ok(()),
        0.0 if told || hints.start == Start::Nothing => Err(CutoutError::NothingLeft),
        // whoever draws strokes may mean something very small, or nearly all
        _ if told || hints.start == Start::Alpha || (0.0002..0.995).contains(&size) => Ok(()),
        _ => Err(CutoutError::NothingFound),
    }
}

/// A band in which strokes are sure: 1 where they keep, 0 where they drop.
fn stroked(mut band: Grid<f32>, strokes: &Grid<Hint>) -> Grid<f32> {
    for (value, hint) in band.data.iter_mut().zip(&strokes.data) {
        match hint {
            Hint::Keep => *value = 1.0,
            Hint::Drop => *value = 0.0,
            Hint::Nothing => {}
        }
    }
    band
}
