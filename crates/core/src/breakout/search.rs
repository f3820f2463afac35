//! Finds the overhangs of a window's subject on the working size of its matte.

use super::chosen::Chosen;
use super::division::Division;
use super::extent::{Extent, extents};
use super::found_parts::PartsKeeper;
use super::neighbours::flood;
use super::overhang::{Overhang, Overhangs};
use super::placed::PlacedMatte;
use super::touch::touched;
use super::trace::{trace, trace_within};
use super::working_matte::{WORKING, WorkingMatte};
use crate::cutout::distance::squared_depth;
use crate::cutout::regions::{Connectivity, depth, regions};
use crate::cutout::{Hint, SubjectStroke, smoothed};
use crate::grid::Grid;
use crate::library::Library;
use crate::memo::KeyBuilder;
use crate::sheet::SubjectId;
use kurbo::{Affine, BezPath, Point};
use rayon::prelude::*;
use std::sync::Arc;

/// How far a part's soft edge reaches beyond its solid pixels, in working pixels.
const SOFT: usize = 24;
/// How far what is let out reaches back under the photo, in working pixels.
const UNDERLAP: usize = 3;
/// A part with so many working pixels along the end of the photo is cut off by it: fewer are a tip that touches it.
const CUT: usize = 4;
/// How far outlines may stray to have fewer corners, in working pixels: less than what is let out reaches back under the photo.
const CORNERS: f64 = 0.4;
/// The same for the outline of what is let out, of which people see what divides it from a part that stays in.
const FINE_CORNERS: f64 = 0.15;

/// [`overhangs`] of a matte where it lies, as they were kept, or found now. What was chosen is in the space of the placed matte,
/// `fade` in its pixels.
pub fn found_overhangs(
    id: &SubjectId,
    placed: &PlacedMatte,
    opening: &BezPath,
    (chosen, fade): (&Chosen, f64),
    library: &dyn Library,
) -> Arc<Overhangs> {
    let key = || {
        let (place, size) = placed.place();
        let asked = KeyBuilder::default().with(id).with(&place).with(&size).with(&chosen.told()).with(&fade);
        let regions = chosen.regions.iter().fold(asked, |key, region| key.with_path(&region.outline));
        regions.with_path(opening).finish()
    };
    let kept = library.overhangs().and_then(|memo| Some((memo, key()?)));
    if let Some(known) = kept.and_then(|(memo, key)| memo.get(key)) {
        return known;
    }
    let keeper = library.parts().map(|memo| PartsKeeper::new(id, placed, memo));
    let found = match Division::new(&placed.matte, opening, placed.to_sheet, chosen, keeper) {
        Some(division) => in_division(&division, chosen, fade),
        None => Overhangs::default(),
    };
    match kept {
        Some((memo, key)) => memo.put(key, found),
        None => Arc::new(found),
    }
}

/// Finds what of a subject lies outside of an opening.
///
/// `opening` is in sheet space (contours without overlaps), `photo_to_sheet` places the photo. What was chosen (photo space) says what is let
/// out: for a point it is the part that it lies in, or, where the opening has meanwhile swallowed it, the nearest part along the subject. A
/// placement that cannot be inverted has no overhangs.
///
/// Strokes correct that by hand, as far as the subject goes. `fade` says how far the opening fades inwards, in pixels of the photo: so far
/// what is let out reaches back under it.
pub fn overhangs(
    matte: &WorkingMatte,
    opening: &BezPath,
    photo_to_sheet: Affine,
    chosen: &Chosen,
    fade: f64,
) -> Overhangs {
    let division = Division::new(matte, opening, photo_to_sheet, chosen, None);
    division.map_or_else(Overhangs::default, |division| in_division(&division, chosen, fade))
}

/// The overhangs of a subject that is divided already.
fn in_division(division: &Division<'_>, chosen: &Chosen, fade: f64) -> Overhangs {
    let Division { matte, opening, cover, out, labels, count, .. } = division;
    let alpha = &matte.alpha;
    let (w, h) = (alpha.width, alpha.height);
    let count = *count;
    if count == 0 && chosen.strokes.is_empty() {
        return Overhangs::default();
    }
    let mut let_out_by = vec![Vec::new(); count];
    for (k, point) in chosen.points.iter().enumerate() {
        if let Some(l) = division.part_at(*point) {
            let_out_by[l as usize - 1].push(k);
        }
    }
    let is_out: Vec<bool> =
        (0..count).map(|k| !let_out_by[k].is_empty() || chosen.regions.get(k).is_some_and(|r| r.out)).collect();
    let describe_all = || {
        let (extents, outside) = rayon::join(|| extents(labels, count + 1), || Outside::of(cover));
        let touched = touched(labels, count, opening);
        let all = (0..count).into_par_iter().zip(touched).filter_map(|(k, touches)| {
            let mut part = describe(labels, k as u32 + 1, &extents[k + 1], out, matte)?;
            part.counter = outside.is_counter(matte.photo_to_working() * part.anchor);
            part.touches = touches;
            part.out = is_out[k];
            part.region = division.region_of(k as u32 + 1);
            part.let_out_by.clone_from(&let_out_by[k]);
            Some(part)
        });
        all.collect::<Vec<Overhang>>()
    };
    let release_all = || {
        let mut labels = labels.clone();
        flood(&mut labels, SOFT, |i| cover.data[i] < 0.999 && alpha.data[i] > 0.02);
        let under = UNDERLAP + (fade.max(0.0) * matte.scale.0).min(WORKING as f64).ceil() as usize;
        let by_hand = SubjectStroke::drawn(&chosen.strokes, w, h, matte.scale.0);
        release(
            (&labels, cover, under),
            |i| match (by_hand.data[i], labels.data[i]) {
                (Hint::Keep, _) => cover.data[i] < 0.999 && alpha.data[i] > 0.02,
                (Hint::Drop, _) | (_, 0) => false,
                (Hint::Nothing, l) => is_out[l as usize - 1],
            },
            |i| by_hand.data[i] == Hint::Drop,
        )
    };
    let ((mut parts, released), cuts) =
        rayon::join(|| rayon::join(describe_all, release_all), || division.cuts(&is_out));
    parts.sort_by(|a, b| b.share.total_cmp(&a.share));
    Overhangs { parts, cuts, released: matte.photo_to_working().inverse() * released }
}

/// The part that an anchor (photo space) means as a contour in photo space, for an opening to be joined with: always within the subject, by
/// `inside` pixels of the photo or more, without bumps and dents smaller than `smooth`. It reaches back under the opening far enough to meet it.
/// None where there is no such part, or where it is too thin for that.
pub fn part_contour(
    matte: &WorkingMatte,
    opening: &BezPath,
    photo_to_sheet: Affine,
    (chosen, anchor): (&Chosen, Point),
    (inside, smooth): (f64, f64),
) -> Option<BezPath> {
    let division = Division::new(matte, opening, photo_to_sheet, chosen, None)?;
    let Division { cover, labels, .. } = &division;
    let alpha = &matte.alpha;
    let part = division.part_at(anchor)?;
    let (inside, smooth) = ((inside * matte.scale.0) as f32, (smooth * matte.scale.0) as f32);
    let mut region = labels.map(|l| u32::from(l == part));
    let back = UNDERLAP + (inside + smooth).ceil() as usize;
    flood(&mut region, back, |i| cover.data[i] > 0.5 && alpha.data[i] > 0.5);
    let whole = region.map(|l| l > 0);
    let calm = smoothed(&whole, smooth);
    let both = Grid { data: whole.data.iter().zip(&calm.data).map(|(w, c)| *w && *c).collect(), ..whole };
    // half a pixel more: outlines run between pixels
    let core = depth(&both).map(|d| if d > inside + 0.5 { 1.0 } else { 0.0 });
    let path = trace(&core);
    (!path.is_empty()).then(|| matte.photo_to_working().inverse() * path)
}

fn describe(
    labels: &Grid<u32>,
    label: u32,
    extent: &Extent,
    out: &Grid<f32>,
    matte: &WorkingMatte,
) -> Option<Overhang> {
    let Extent { x0, y0, x1, y1, pixels } = *extent;
    if pixels == 0 {
        return None;
    }
    // one pixel of air around it, so that its depth counts from its own edge
    let (w, h) = (x1 - x0 + 2, y1 - y0 + 2);
    let (mut cut, mut values) = (Grid::filled(w, h, false), Grid::filled(w, h, 0.0));
    let mut at_end = 0;
    for y in y0..y1 {
        let (own, to) = (y * labels.width + x0..y * labels.width + x1, (y - y0 + 1) * w + 1);
        for (k, i) in own.enumerate().filter(|(_, i)| labels.data[*i] == label) {
            at_end += usize::from(matte.ends_at(x0 + k, y));
            cut.data[to + k] = true;
            values.data[to + k] = out.data[i];
        }
    }
    let deepest = deepest(&cut)?;
    let back = matte.photo_to_working().inverse();
    let shift = Affine::translate((x0 as f64 - 1.0, y0 as f64 - 1.0));
    let anchor = Point::new(deepest.0 as f64 + 0.5, deepest.1 as f64 + 0.5);
    Some(Overhang {
        number: label,
        anchor: back * shift * anchor,
        outline: back * shift * trace_within(&values, CORNERS),
        share: pixels as f64 / labels.data.len() as f64,
        counter: false,
        cut_off: at_end >= CUT,
        touches: Vec::new(),
        out: false,
        region: None,
        let_out_by: Vec::new(),
    })
}

/// The deepest pixel of a mask; of a large one among every other pixel, across and down.
pub(super) fn deepest(mask: &Grid<bool>) -> Option<(usize, usize)> {
    let step = if mask.data.len() > 20_000 { 2 } else { 1 };
    let few = Grid::from_fn(mask.width.div_ceil(step), mask.height.div_ceil(step), |x, y| mask.at(x * step, y * step));
    let inner = squared_depth(&few, few.width.min(few.height) / 2 + 1);
    let inside = (0..few.data.len()).filter(|&i| few.data[i]);
    let best = inside.max_by_key(|i| inner.data[*i])?;
    Some((best % few.width * step, best / few.width * step))
}

/// What is outside of an opening, as regions, at half the working size.
struct Outside {
    regions: Grid<u32>,
    reaches_border: Vec<bool>,
}

impl Outside {
    fn of(cover: &Grid<f32>) -> Self {
        // at half the size, where whatever is covered anywhere parts regions: thin lines still do
        let (width, height) = (cover.width.div_ceil(2), cover.height.div_ceil(2));
        let mut open = Grid::filled(width, height, true);
        for (y, line) in cover.data.chunks(cover.width).enumerate() {
            let half = &mut open.data[y / 2 * width..][..width];
            for (open, covered) in half.iter_mut().zip(line.chunks(2)) {
                *open &= covered.iter().all(|c| *c < 0.5);
            }
        }
        let (regions, sizes) = regions(&open, Connectivity::Four);
        let (w, h) = (open.width, open.height);
        let mut reaches_border = vec![false; sizes.len()];
        for i in (0..w).flat_map(|x| [x, (h - 1) * w + x]).chain((0..h).flat_map(|y| [y * w, y * w + w - 1])) {
            reaches_border[regions.data[i] as usize] = true;
        }
        Self { regions, reaches_border }
    }

    /// Whether a place (working pixels) lies in a counter: no way outside of the opening leads from it to the border of the photo.
    fn is_counter(&self, p: Point) -> bool {
        let l = self.regions.clamped(p.x as i64 / 2, p.y as i64 / 2);
        l > 0 && !self.reaches_border[l as usize]
    }
}

/// The outline of everything that is let out, in working pixels.
fn release(
    (labels, cover, under): (&Grid<u32>, &Grid<f32>, usize),
    is_out: impl Fn(usize) -> bool,
    held: impl Fn(usize) -> bool,
) -> BezPath {
    let data = (0..labels.data.len()).map(|i| u32::from(is_out(i))).collect();
    let mut region = Grid { width: labels.width, height: labels.height, data };
    if !region.data.contains(&1) {
        return BezPath::new();
    }
    // a little air where nothing is, and a little under the photo, but never into a part that stays in
    flood(&mut region, under, |i| !held(i) && (labels.data[i] == 0 || cover.data[i] > 0.999));
    trace_within(&blurred(&region), FINE_CORNERS)
}

/// A region with its edge blurred over five pixels (the binomial 1 4 6 4 1, along and down), so that its outline runs without steps: between a
/// part that is let out and one that stays in it is seen.
fn blurred(region: &Grid<u32>) -> Grid<f32> {
    let (w, h) = (region.width, region.height);
    // two pixels more at every side, as those at the border
    let wide = w + 4;
    let mut rows = vec![0_i16; w * (h + 4)];
    rows[2 * w..][..w * h].par_chunks_mut(w).zip(region.data.par_chunks(w)).with_min_len(32).for_each_init(
        || vec![0_i16; wide],
        |line, (out, own)| {
            line[2..w + 2].iter_mut().zip(own).for_each(|(v, own)| *v = *own as i16);
            (line[0], line[1], line[w + 2], line[w + 3]) = (line[2], line[2], line[w + 1], line[w + 1]);
            binomial([0, 1, 2, 3, 4].map(|k| &line[k..][..w]), out);
        },
    );
    for (from, to) in [(2, 0), (2, 1), (h + 1, h + 2), (h + 1, h + 3)] {
        rows.copy_within(from * w..(from + 1) * w, to * w);
    }
    let mut all = vec![0_i16; w * h];
    binomial([0, 1, 2, 3, 4].map(|k| &rows[k * w..][..w * h]), &mut all);
    Grid { width: w, height: h, data: all.into_iter().map(|v| f32::from(v) / 256.0).collect() }
}

fn binomial([a, b, c, d, e]: [&[i16]; 5], out: &mut [i16]) {
    for (((((out, a), b), c), d), e) in out.iter_mut().zip(a).zip(b).zip(c).zip(d).zip(e) {
        *out = a + e + 4 * (b + d) + 6 * c;
    }
}
