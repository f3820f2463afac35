//! The steps from a photo to its subject, one after the other.

use crate::closed_form::{FINE, Matting, closed_form};
use crate::draft::{PULL, drawn_up};
use crate::edge::shifted;
use crate::foreground::foreground;
use crate::grid::Grid;
use crate::guided::enlarge_guided;
use crate::mixture::Rgb;
use crate::paint::painted_again;
use crate::regions::grown;
use crate::working::colours_of;
use crate::{CutoutError, Draft, Hints, Saliency, Standout, Subject, Watch, WorkingPhoto};
use image::{Rgba, RgbaImage};

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
    watch.step(0.02, "Looking for what stands out");
    let standout =
        if hints.looks() { Standout::find(photo, hints.within.as_ref(), network)? } else { Standout::nothing(photo) };
    watch.go_on()?;
    finish_subject(photo, &standout, hints, watch)
}

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
    watch.step(0.6, "Bringing the edge to full size");
    let full = colours_of(photo);
    let bare = if hints.is_exact() { alpha_of(photo) } else { full_matte(&full, &working.fine, &small, hints, watch)? };
    let scale = working.scale();
    let mut matte = shifted(&bare, hints.edge.shift_at(1.0, scale));
    painted_again(&hints.painted, &small.sides, (&full, &working.fine), &mut matte, 1.0);
    watch.go_on()?;

    watch.step(0.85, "Cleaning the colours of the edge");
    let front = foreground(&full, &matte, watch)?;
    watch.step(1.0, "Done");
    Ok(assemble(photo, &matte, &front))
}

/// Overlap of two masks: pixels in both, divided by pixels in either.
pub fn iou(a: &Grid<bool>, b: &Grid<bool>) -> f64 {
    let count = |f: fn(bool, bool) -> bool| a.data.iter().zip(&b.data).filter(|(a, b)| f(**a, **b)).count();
    count(|a, b| a && b) as f64 / count(|a, b| a || b).max(1) as f64
}

fn alpha_of(photo: &RgbaImage) -> Grid<f32> {
    let data = photo.pixels().map(|p| f32::from(p.0[3]) / 255.0).collect();
    Grid { width: photo.width() as usize, height: photo.height() as usize, data }
}

/// The widest even band, in pixels of the fine size, that is taken to the full size along the photo's own edges.
const FOLLOWED: f32 = 2.5;

fn full_matte(
    full: &Grid<Rgb>,
    fine: &Grid<Rgb>,
    small: &Draft,
    hints: &Hints,
    watch: &dyn Watch,
) -> Result<Grid<f32>, CutoutError> {
    if full.same_size(fine) {
        return Ok(small.bare.clone());
    }
    let half = hints.edge.band_at(fine.width as f64 / full.width as f64);
    if !hints.edge.hair && half > FOLLOWED {
        return Ok(small.bare.resized(full.width, full.height));
    }
    let guided = enlarge_guided(full, fine, &small.bare);
    let sure = small.band.resized(full.width, full.height);
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
    if !hints.edge.hair {
        return Ok(start);
    }
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
    let matting = Matting { prior: &start, pull: PULL, start: &start, rounds: 200, tolerance: FINE };
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
