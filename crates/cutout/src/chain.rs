//! The steps from a photo to its subject, one after the other.

use crate::closed_form::{FINE, Matting, closed_form};
use crate::draft::{Draft, drawn_up};
use crate::edge::{cleaned, shifted, without_flecks};
use crate::foreground::foreground;
use crate::grid::Grid;
use crate::guided::enlarge_guided;
use crate::mixture::Rgb;
use crate::paint::painted_again;
use crate::regions::grown;
use crate::see_through::SeeThrough;
use crate::soft_edge::PULL;
use crate::working::colours_of;
use crate::{Cancelled, CutoutError, Hints, Saliency, Standout, Stretch, Subject, Watch, WorkingPhoto};
use image::RgbaImage;
use inky_photo::resize;
use rayon::prelude::*;
use std::borrow::Cow;

/// Finds the subject of a photo by itself, in a box drawn around it, or by what else a person hints at.
///
/// # Errors
/// A box that misses the photo, a photo in which nothing stands out, hints that leave nothing, or a cancelled watch.
pub fn find_subject(
    photo: &RgbaImage,
    hints: &Hints,
    network: &dyn Saliency,
    watch: &dyn Watch,
) -> Result<Subject, CutoutError> {
    hints.check()?;
    let standout = if hints.looks() {
        Standout::find(photo, hints.within.as_ref(), network, &looking(watch))?
    } else {
        Standout::nothing(photo)
    };
    watch.go_on()?;
    finish_subject(photo, &standout, hints, watch)
}

/// The part of finding a subject in which the network looks at the photo, for [`Standout::find`].
pub fn looking(watch: &dyn Watch) -> Stretch<'_> {
    Stretch::begin(watch, LOOK, "Looking for what stands out")
}

/// What the steps take of the work, as shares of the whole: those of a photo of 12 megapixels.
const LOOK: (f32, f32) = (0.02, 0.19);
const ENLARGE: (f32, f32) = (0.29, 0.4);
const REFINE: (f32, f32) = (0.4, 0.67);
const CLEAN: (f32, f32) = (0.67, 0.94);

/// The largest size, in pixels, at which edges are computed. Of larger photos they are computed at this size and enlarged, so that memory has an end.
const LARGEST: u64 = 24_000_000;

/// Brings a subject to the full size of its photo, where it is known what stands out.
///
/// # Errors
/// Like [`find_subject`].
pub fn finish_subject(
    photo: &RgbaImage,
    standout: &Standout,
    hints: &Hints,
    watch: &dyn Watch,
) -> Result<Subject, CutoutError> {
    let working = WorkingPhoto::new(photo);
    let small = drawn_up(&working, standout, hints, None, FINE, watch)?;
    let enlarging = Stretch::begin(watch, ENLARGE, "Bringing the edge to full size");
    let computed = at_most(photo, LARGEST);
    let full = colours_of(&computed);
    // pixels of what is computed for one of the photo
    let scale = full.width as f64 / f64::from(photo.width());
    let bare = if hints.is_exact() {
        alpha_of(&computed)
    } else {
        full_matte(&full, &working, &small, hints, (&enlarging, watch))?
    };
    let mut matte = shifted(&bare, hints.edge.shift_at(scale, working.scale()));
    let fine = shifted(&small.edge.bare, hints.edge.shift_at(working.scale(), working.scale()));
    let seen = SeeThrough::find(&working.fine, &fine, hints, working.scale());
    let solid = seen.as_ref().map(|seen| {
        let solid = matte.clone();
        seen.lay(&full, &mut matte);
        solid
    });
    // each stroke is quickly painted
    let painting = Stretch { watch, from: CLEAN.0, to: CLEAN.0, what: "Painting at full size" };
    painted_again(&hints.painted, &small.sides, (&full, &working.fine), &mut matte, scale, &painting)?;
    watch.go_on()?;

    let cleaning = Stretch::begin(watch, CLEAN, "Cleaning the colours of the edge");
    let mut front = foreground(&full, &matte, &cleaning)?;
    if let (Some(seen), Some(solid)) = (&seen, &solid) {
        seen.colour(&full, solid, &mut front);
    }
    drop(full);
    let subject = assemble(photo, &matte, &front, hints.edge.spill);
    watch.step(1.0, "Done");
    Ok(subject)
}

/// A photo, brought down to so many pixels where it has more.
fn at_most(photo: &RgbaImage, pixels: u64) -> Cow<'_, RgbaImage> {
    let own = u64::from(photo.width()) * u64::from(photo.height());
    if own <= pixels {
        return Cow::Borrowed(photo);
    }
    let scale = (pixels as f64 / own as f64).sqrt();
    let side = |v: u32| ((f64::from(v) * scale).round() as u32).max(1);
    Cow::Owned(resize(photo, side(photo.width()), side(photo.height())))
}

fn alpha_of(photo: &RgbaImage) -> Grid<f32> {
    let data = photo.pixels().map(|p| f32::from(p.0[3]) / 255.0).collect();
    Grid { width: photo.width() as usize, height: photo.height() as usize, data }
}

/// The widest even band, in pixels of the fine size, that is taken to the full size along the photo's own edges.
const FOLLOWED: f32 = 2.5;

fn full_matte(
    full: &Grid<Rgb>,
    working: &WorkingPhoto,
    small: &Draft,
    hints: &Hints,
    (enlarging, watch): (&dyn Watch, &dyn Watch),
) -> Result<Grid<f32>, CutoutError> {
    let fine = &working.fine;
    if full.same_size(fine) {
        return Ok(small.edge.bare.clone());
    }
    let half = hints.edge.band_at(working.scale());
    let closely = hints.refined(full.width, full.height, full.width as f64 / f64::from(working.size.0));
    if !hints.edge.hair && closely.is_none() && half > FOLLOWED {
        return Ok(small.edge.bare.resized(full.width, full.height));
    }
    let guided = enlarge_guided(full, fine, &small.edge.bare, enlarging)?;
    let sure = small.edge.band.resized(full.width, full.height);
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
    if !hints.edge.hair && closely.is_none() {
        return Ok(start);
    }
    let refining = Stretch::begin(watch, REFINE, "Refining the edge");
    let fine = without_flecks(cleaned(&refined(full, &start, &refining)?));
    let Some(closely) = closely.filter(|_| !hints.edge.hair) else { return Ok(fine) };
    // a wide even band is not led astray by the photo's edges
    let even = if half > FOLLOWED { small.edge.bare.resized(full.width, full.height) } else { start };
    Ok(Grid::from_fn(full.width, full.height, |x, y| if closely.at(x, y) { fine.at(x, y) } else { even.at(x, y) }))
}

/// Closed-form matting once more at full size, where a matte is soft and a little around that. Colours in 0..255, as large as the matte.
///
/// # Errors
/// A cancelled watch.
pub fn refined(full: &Grid<Rgb>, start: &Grid<f32>, watch: &dyn Watch) -> Result<Grid<f32>, Cancelled> {
    let grow = (2.0 * full.width.max(full.height) as f32 / 1600.0).round().max(1.0);
    let soft = grown(&start.map(|a| a > 0.03 && a < 0.97), grow);
    let narrow = Grid {
        width: full.width,
        height: full.height,
        data: (start.data.iter().zip(&soft.data))
            .map(|(&a, &soft)| match (soft, a >= 0.5) {
                (true, _) => 0.5,
                (false, true) => 1.0,
                (false, false) => 0.0,
            })
            .collect(),
    };
    let matting = Matting { prior: start, pull: PULL, start, held: None, rounds: 200, tolerance: FINE };
    closed_form(full, &narrow, &matting, watch)
}

/// The cut-out of a photo. `matte` and `front` are of its size, or smaller: then they are enlarged. `cleaned` is the share of the cleaned colours
/// where it is seen through; the rest are the photo's own.
fn assemble(photo: &RgbaImage, matte: &Grid<f32>, front: &Grid<Rgb>, cleaned: f32) -> Subject {
    let (width, height) = photo.dimensions();
    let matte_image = matte.resized(width as usize, height as usize).to_gray();
    let (sx, sy) = (front.width as f64 / f64::from(width), front.height as f64 / f64::from(height));
    let mut cutout = photo.clone();
    let lines = cutout.par_chunks_mut(4 * width as usize).zip(matte_image.par_chunks(width as usize)).enumerate();
    lines.for_each(|(y, (line, matte))| {
        for (x, (pixel, covered)) in line.chunks_exact_mut(4).zip(matte).enumerate() {
            // where a photo is transparent by itself, its colours are the subject's own already
            if *covered < pixel[3] {
                let at = |v: usize, scale: f64| ((v as f64 + 0.5) * scale) as usize;
                let clean = front.at(at(x, sx), at(y, sy));
                for (own, clean) in pixel.iter_mut().zip(clean) {
                    *own = (cleaned * clean + (1.0 - cleaned) * f32::from(*own)).round() as u8;
                }
                pixel[3] = *covered;
            }
        }
    });
    Subject { matte: matte_image, cutout }
}
