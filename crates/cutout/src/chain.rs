//! The steps from a photo to its subject, one after the other.

use crate::closed_form::{Matting, closed_form};
use crate::foreground::foreground;
use crate::grabcut::{Label, grabcut};
use crate::grid::Grid;
use crate::guided::enlarge_guided;
use crate::hints::{Hint, as_stroked};
use crate::mixture::Rgb;
use crate::regions::{grown, tidied};
use crate::trimap::trimap;
use crate::{CutoutError, Hints, PhotoBox, Saliency, Subject, Watch};
use image::{Rgba, RgbaImage};
use inky_photo::resize;

/// Long sides of the two working sizes, in pixels.
const COARSE: u32 = 350;
const FINE: u32 = 700;
/// Half the width of the band in which the matte is computed, at the fine size.
const BAND: f32 = 12.0;
/// Pull of the matte to the mask (see `closed_form`).
const PULL: f32 = 0.01;

/// The smallest parts that belong to a subject, as shares of its largest part: whoever draws a box around a subject means its
/// small parts too, as the basket below a balloon; without one they are more likely something else.
const LEAST_IN_BOX: f64 = 0.004;
const LEAST_FOUND: f64 = 0.02;

/// A rectangle of whole pixels, the far ends exclusive.
#[derive(Debug, Clone, Copy)]
struct Frame {
    x0: usize,
    y0: usize,
    x1: usize,
    y1: usize,
}

/// Finds the subject of a photo by itself, in a box drawn around it, or by strokes over what belongs to it and what does not.
///
/// # Errors
/// A box that misses the photo, a photo in which nothing stands out, strokes that leave nothing, or a cancelled watch.
pub fn find_subject(
    photo: &RgbaImage,
    hints: &Hints,
    network: &dyn Saliency,
    watch: &dyn Watch,
) -> Result<Subject, CutoutError> {
    hints.check()?;
    let frame = hints.within.map(|b| frame_of(&b, photo)).transpose()?;
    watch.step(0.02, "Looking for what stands out");
    let (saliency, frame) = match frame {
        Some(frame) => (salient_in_box(photo, frame, network)?, frame),
        None => match salient_anywhere(photo, network) {
            // strokes tell what nothing stands out for
            Err(CutoutError::NothingFound) if hints.keeps() => (nothing_salient(photo), Frame::of(photo)),
            found => found?,
        },
    };
    let least = if hints.within.is_some() { LEAST_IN_BOX } else { LEAST_FOUND };
    watch.go_on()?;

    watch.step(0.25, "Parting subject and background by colour");
    let coarse = scaled(photo, COARSE);
    let mask = coarse_mask(&coarse, &saliency, frame, photo, hints, least);
    watch.go_on()?;

    watch.step(0.35, "Following the edge");
    let fine = scaled(photo, FINE);
    let strokes = hints.drawn(fine.width, fine.height, fine.width as f64 / f64::from(photo.width()));
    let mask = fine_mask(&fine, &mask, &strokes, least);
    let size = mask.count() as f64 / mask.data.len() as f64;
    if !hints.strokes.is_empty() && size == 0.0 {
        return Err(CutoutError::NothingLeft);
    }
    // whoever draws strokes may mean something very small, or nearly all
    if hints.strokes.is_empty() && !(0.0002..0.995).contains(&size) {
        return Err(CutoutError::NothingFound);
    }
    watch.go_on()?;

    watch.step(0.45, "Computing the soft edge");
    let band = stroked_band(trimap(&mask, BAND), &strokes);
    let prior = mask.to_f32();
    let matting = Matting { prior: &prior, pull: PULL, start: &prior, rounds: 600 };
    let small_matte = closed_form(&fine, &band, &matting, watch)?;

    watch.step(0.6, "Bringing the edge to full size");
    let full = colours_of(photo);
    let matte = full_matte(&full, &fine, &band, &small_matte, watch)?;

    watch.step(0.85, "Cleaning the colours of the edge");
    let front = foreground(&full, &matte, watch)?;
    watch.step(1.0, "Done");
    Ok(assemble(photo, &matte, &front))
}

/// A band in which strokes are sure: 1 where they keep, 0 where they drop.
fn stroked_band(mut band: Grid<f32>, strokes: &Grid<Hint>) -> Grid<f32> {
    for (value, hint) in band.data.iter_mut().zip(&strokes.data) {
        match hint {
            Hint::Keep => *value = 1.0,
            Hint::Drop => *value = 0.0,
            Hint::Nothing => {}
        }
    }
    band
}

/// Overlap of two masks: pixels in both, divided by pixels in either.
pub fn iou(a: &Grid<bool>, b: &Grid<bool>) -> f64 {
    let count = |f: fn(bool, bool) -> bool| a.data.iter().zip(&b.data).filter(|(a, b)| f(**a, **b)).count();
    count(|a, b| a && b) as f64 / count(|a, b| a || b).max(1) as f64
}

/// The colours of a photo whose long side is brought down to `long` pixels.
fn scaled(photo: &RgbaImage, long: u32) -> Grid<Rgb> {
    let scale = (f64::from(long) / f64::from(photo.width().max(photo.height()))).min(1.0);
    let side = |v: u32| ((f64::from(v) * scale).round() as u32).max(1);
    colours_of(&resize(photo, side(photo.width()), side(photo.height())))
}

fn colours_of(photo: &RgbaImage) -> Grid<Rgb> {
    let data = photo.pixels().map(|p| [p.0[0], p.0[1], p.0[2]].map(f32::from)).collect();
    Grid { width: photo.width() as usize, height: photo.height() as usize, data }
}

fn frame_of(b: &PhotoBox, photo: &RgbaImage) -> Result<Frame, CutoutError> {
    let (w, h) = (f64::from(photo.width()), f64::from(photo.height()));
    let all = [b.x, b.y, b.width, b.height];
    if all.iter().any(|v| !v.is_finite()) {
        return Err(CutoutError::BoxOutside);
    }
    let (x0, y0) = (b.x.max(0.0), b.y.max(0.0));
    let (x1, y1) = ((b.x + b.width).min(w), (b.y + b.height).min(h));
    if x1 <= x0 || y1 <= y0 {
        return Err(CutoutError::BoxOutside);
    }
    if x1 - x0 < 8.0 || y1 - y0 < 8.0 {
        return Err(CutoutError::BoxTooSmall);
    }
    Ok(Frame { x0: x0 as usize, y0: y0 as usize, x1: x1.ceil() as usize, y1: y1.ceil() as usize })
}

impl Frame {
    fn of(photo: &RgbaImage) -> Self {
        Self { x0: 0, y0: 0, x1: photo.width() as usize, y1: photo.height() as usize }
    }

    /// The frame around both.
    fn union(self, other: Self) -> Self {
        Self {
            x0: self.x0.min(other.x0),
            y0: self.y0.min(other.y0),
            x1: self.x1.max(other.x1),
            y1: self.y1.max(other.y1),
        }
    }

    fn padded(self, share: f64, photo: &RgbaImage) -> Self {
        let (px, py) = ((self.x1 - self.x0) as f64 * share, (self.y1 - self.y0) as f64 * share);
        Self {
            x0: (self.x0 as f64 - px).max(0.0) as usize,
            y0: (self.y0 as f64 - py).max(0.0) as usize,
            x1: ((self.x1 as f64 + px) as usize).min(photo.width() as usize),
            y1: ((self.y1 as f64 + py) as usize).min(photo.height() as usize),
        }
    }

    fn scaled(self, scale: f64) -> Self {
        let s = |v: usize| (v as f64 * scale).round() as usize;
        Self { x0: s(self.x0), y0: s(self.y0), x1: s(self.x1), y1: s(self.y1) }
    }

    fn holds(self, x: usize, y: usize) -> bool {
        (self.x0..self.x1).contains(&x) && (self.y0..self.y1).contains(&y)
    }

    /// Overlap with another frame: shared area divided by the area of both.
    fn iou(self, other: Self) -> f64 {
        let w = self.x1.min(other.x1).saturating_sub(self.x0.max(other.x0));
        let h = self.y1.min(other.y1).saturating_sub(self.y0.max(other.y0));
        let area = |f: Self| ((f.x1 - f.x0) * (f.y1 - f.y0)) as f64;
        let shared = (w * h) as f64;
        shared / (area(self) + area(other) - shared).max(1.0)
    }

    /// The widest of the four strips between a frame and what was found in it, if it takes at least a sixth of the frame.
    fn widest_gap(self, found: Self) -> Option<Self> {
        let (w, h) = ((self.x1 - self.x0) as f64, (self.y1 - self.y0) as f64);
        let strips = [
            (found.x0.saturating_sub(self.x0) as f64 / w, Self { x1: found.x0, ..self }),
            (found.y0.saturating_sub(self.y0) as f64 / h, Self { y1: found.y0, ..self }),
            (self.x1.saturating_sub(found.x1) as f64 / w, Self { x0: found.x1, ..self }),
            (self.y1.saturating_sub(found.y1) as f64 / h, Self { y0: found.y1, ..self }),
        ];
        strips
            .into_iter()
            .filter(|(gap, _)| *gap >= 1.0 / 6.0)
            .max_by(|a, b| a.0.total_cmp(&b.0))
            .map(|(_, strip)| strip)
    }

    /// Whether it has the size for something to be seen in it.
    fn worth_a_look(self) -> bool {
        self.x1 > self.x0 + 32 && self.y1 > self.y0 + 32
    }

    fn around(mask: &Grid<bool>) -> Option<Self> {
        mask.bounds().map(|(x0, y0, x1, y1)| Self { x0, y0, x1, y1 })
    }
}

/// The network on a cut of the photo; the map is laid back into a grid as large as `photo`, scaled to the coarse size.
fn salient_in(photo: &RgbaImage, cut: Frame, network: &dyn Saliency) -> Result<Grid<f32>, CutoutError> {
    let (w, h) = ((cut.x1 - cut.x0) as u32, (cut.y1 - cut.y0) as u32);
    let part = image::imageops::crop_imm(photo, cut.x0 as u32, cut.y0 as u32, w, h).to_image();
    let map = network.saliency(&part).map_err(CutoutError::Network)?;
    let scale = (f64::from(COARSE) / f64::from(photo.width().max(photo.height()))).min(1.0);
    let side = |v: u32| ((f64::from(v) * scale).round() as usize).max(1);
    let inner = cut.scaled(scale);
    let map = map.resized((inner.x1 - inner.x0).max(1), (inner.y1 - inner.y0).max(1));
    Ok(Grid::from_fn(side(photo.width()), side(photo.height()), |x, y| {
        if inner.holds(x, y) { map.at(x - inner.x0, y - inner.y0) } else { 0.0 }
    }))
}

/// Looks at the box with some room around it. A box is drawn so that the subject touches its sides (the tightness prior of
/// Lempitsky et al., "Image Segmentation with a Bounding Box Prior", ICCV 2009): where what stands out ends well before a
/// side, as a balloon outshines the basket below it, the strip that is left over is looked at once more by itself.
fn salient_in_box(photo: &RgbaImage, frame: Frame, network: &dyn Saliency) -> Result<Grid<f32>, CutoutError> {
    let map = salient_in(photo, frame.padded(0.12, photo), network)?;
    let scale = map.width as f64 / f64::from(photo.width());
    let inner = frame.scaled(scale);
    let inside = Grid::from_fn(map.width, map.height, |x, y| inner.holds(x, y) && map.at(x, y) > 0.5);
    let Some(found) = Frame::around(&inside).map(|f| f.scaled(1.0 / scale)) else {
        return Ok(map);
    };
    let Some(strip) = frame.widest_gap(found).filter(|strip| strip.worth_a_look()) else {
        return Ok(map);
    };
    let closer = salient_in(photo, strip.padded(0.08, photo), network)?;
    let strip = strip.scaled(scale);
    Ok(Grid::from_fn(map.width, map.height, |x, y| {
        if strip.holds(x, y) { map.at(x, y).max(closer.at(x, y)) } else { map.at(x, y) }
    }))
}

/// Looks at the whole photo, then closer at what stood out.
fn salient_anywhere(photo: &RgbaImage, network: &dyn Saliency) -> Result<(Grid<f32>, Frame), CutoutError> {
    let whole = Frame::of(photo);
    let map = salient_in(photo, whole, network)?;
    let scale = map.width as f64 / f64::from(photo.width());
    let mask = tidied(&map.map(|s| s > 0.5), LEAST_FOUND);
    let Some(found) = Frame::around(&mask) else {
        return Err(CutoutError::NothingFound);
    };
    let full = found.scaled(1.0 / scale);
    let share = (full.x1 - full.x0) as f64 * (full.y1 - full.y0) as f64 / (whole.x1 * whole.y1) as f64;
    let frame = full.padded(0.08, photo);
    if share > 0.7 {
        return Ok((map, frame));
    }
    Ok((salient_in(photo, full.padded(0.2, photo), network)?, frame))
}

/// A map at the coarse size in which nothing stands out.
fn nothing_salient(photo: &RgbaImage) -> Grid<f32> {
    let coarse = scaled(photo, COARSE);
    Grid::filled(coarse.width, coarse.height, 0.0)
}

/// The mask at the coarse size. Saliency weighs more where it agrees with the box; where the outcome does not fit the box
/// at all, colours alone get a try too. Strokes are sure, and reach beyond the box.
fn coarse_mask(
    coarse: &Grid<Rgb>,
    saliency: &Grid<f32>,
    frame: Frame,
    photo: &RgbaImage,
    hints: &Hints,
    least: f64,
) -> Grid<bool> {
    let scale = coarse.width as f64 / f64::from(photo.width());
    let strokes = hints.drawn(coarse.width, coarse.height, scale);
    let frame = match Frame::around(&strokes.map(|h| h == Hint::Keep)) {
        Some(kept) => frame.scaled(scale).union(kept),
        None => frame.scaled(scale),
    };
    let fit = |mask: &Grid<bool>| Frame::around(mask).map_or(0.0, |f| f.iou(frame));
    let label = |maybe: &dyn Fn(usize, usize) -> bool| {
        Grid::from_fn(coarse.width, coarse.height, |x, y| match (strokes.at(x, y), frame.holds(x, y), maybe(x, y)) {
            (Hint::Keep, ..) => Label::Subject,
            (Hint::Drop, ..) | (_, false, _) => Label::Background,
            (_, true, true) => Label::MaybeSubject,
            (_, true, false) => Label::MaybeBackground,
        })
    };
    let inside =
        Grid::from_fn(saliency.width, saliency.height, |x, y| if frame.holds(x, y) { saliency.at(x, y) } else { 0.0 });
    let weight = if fit(&inside.map(|s| s > 0.5)) >= 0.6 { 2.0 } else { 0.5 };
    let labels = label(&|x, y| inside.at(x, y) >= 0.5);
    let silent = inside.data.iter().all(|s| *s == 0.0);
    let cut = |labels: &Grid<Label>, saliency: Option<(&Grid<f32>, f32)>| {
        let mask = grabcut(coarse, labels, 5, saliency);
        as_stroked(tidied(&mask, least), &mask, &strokes)
    };
    let hinted = cut(&labels, (!silent).then_some((&inside, weight)));
    // a person who draws strokes says what is meant: the box is no measure any more
    if fit(&hinted) >= 0.4 || !hints.strokes.is_empty() {
        return hinted;
    }
    let plain = cut(&label(&|_, _| true), None);
    if fit(&plain) > fit(&hinted) { plain } else { hinted }
}

/// The mask at the fine size: colours again, in a band along the coarse edge.
fn fine_mask(fine: &Grid<Rgb>, coarse: &Grid<bool>, strokes: &Grid<Hint>, least: f64) -> Grid<bool> {
    let (w, h) = (fine.width, fine.height);
    let enlarged = coarse.to_f32().resized(w, h).map(|v| v > 0.5);
    let band = trimap(&enlarged, BAND / 2.0);
    let labels = Grid::from_fn(w, h, |x, y| match (strokes.at(x, y), band.at(x, y), enlarged.at(x, y)) {
        (Hint::Keep, ..) => Label::Subject,
        (Hint::Drop, ..) => Label::Background,
        (_, 1.0, _) => Label::Subject,
        (_, 0.0, _) => Label::Background,
        (_, _, true) => Label::MaybeSubject,
        (_, _, false) => Label::MaybeBackground,
    });
    let mask = grabcut(fine, &labels, 2, None);
    as_stroked(tidied(&mask, least), &mask, strokes)
}

fn full_matte(
    full: &Grid<Rgb>,
    small: &Grid<Rgb>,
    band: &Grid<f32>,
    small_matte: &Grid<f32>,
    watch: &dyn Watch,
) -> Result<Grid<f32>, CutoutError> {
    if full.same_size(small) {
        return Ok(small_matte.clone());
    }
    let guided = enlarge_guided(full, small, small_matte);
    let sure = band.resized(full.width, full.height);
    let start = Grid {
        width: full.width,
        height: full.height,
        data: (guided.data.iter().zip(&sure.data))
            .map(|(&a, &s)| {
                if s <= 0.01 {
                    0.0
                } else if s >= 0.99 {
                    1.0
                } else {
                    a
                }
            })
            .collect(),
    };
    watch.go_on()?;
    watch.step(0.7, "Refining the edge");
    let grow = (2.0 * full.width.max(full.height) as f32 / 1600.0).round().max(1.0);
    let soft = grown(&start.map(|a| a > 0.03 && a < 0.97), grow);
    let narrow = Grid {
        width: full.width,
        height: full.height,
        data: (start.data.iter().zip(&soft.data))
            .map(|(&a, &soft)| {
                if soft {
                    0.5
                } else if a >= 0.5 {
                    1.0
                } else {
                    0.0
                }
            })
            .collect(),
    };
    let matting = Matting { prior: &start, pull: PULL, start: &start, rounds: 200 };
    Ok(closed_form(full, &narrow, &matting, watch)?)
}

fn assemble(photo: &RgbaImage, matte: &Grid<f32>, front: &Grid<Rgb>) -> Subject {
    let matte_image = matte.to_gray();
    let cutout = RgbaImage::from_fn(photo.width(), photo.height(), |x, y| {
        let i = (y * photo.width() + x) as usize;
        let own = photo.get_pixel(x, y).0;
        // a photo's own transparency stays
        let alpha = (u16::from(matte_image.as_raw()[i]) * u16::from(own[3]) / 255) as u8;
        let colour = if alpha == 255 { [own[0], own[1], own[2]] } else { front.data[i].map(|v| v.round() as u8) };
        Rgba([colour[0], colour[1], colour[2], alpha])
    });
    Subject { matte: matte_image, cutout }
}
