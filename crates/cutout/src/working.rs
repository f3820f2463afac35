//! Photos at the two sizes at which subjects are looked for.

use crate::contrast::Contrast;
use crate::grid::Grid;
use crate::mixture::Rgb;
use crate::sharpness::sharpness;
use image::RgbaImage;
use inky_photo::resize;

/// Long sides of the two working sizes, in pixels.
pub(crate) const COARSE: u32 = 350;
pub(crate) const FINE: u32 = 700;
/// The long side at which it is told how sharp a photo is: fine detail is gone in the working sizes.
const DETAIL: u32 = 1400;

/// The colours of a photo at its working sizes: all that strokes are read against.
#[derive(Debug, Clone)]
pub struct WorkingPhoto {
    /// Width and height of the photo itself, in pixels.
    pub size: (u32, u32),
    pub(crate) coarse: Grid<Rgb>,
    pub(crate) fine: Grid<Rgb>,
    /// What it costs to part their pixels.
    pub(crate) coarse_contrast: Contrast,
    pub(crate) fine_contrast: Contrast,
    /// How sharp it is, at the coarse size.
    pub(crate) sharpness: Grid<u8>,
    /// Its own transparency at the fine size; none where it is opaque.
    pub(crate) alpha: Option<Grid<f32>>,
    /// Whether nothing of it can be seen.
    pub(crate) is_clear: bool,
}

impl WorkingPhoto {
    /// Scales a photo down to its working sizes.
    pub fn new(photo: &RgbaImage) -> Self {
        let fine = scaled(photo, FINE);
        let (coarse, fine_colours) = (colours_of(&scaled(photo, COARSE)), colours_of(&fine));
        let sheer = photo.pixels().any(|p| p.0[3] < 255);
        let is_clear = sheer && photo.pixels().all(|p| p.0[3] == 0);
        let alpha = fine.pixels().map(|p| f32::from(p.0[3]) / 255.0).collect();
        let (width, height) = (fine.width() as usize, fine.height() as usize);
        Self {
            size: photo.dimensions(),
            coarse_contrast: Contrast::of(&coarse),
            fine_contrast: Contrast::of(&fine_colours),
            sharpness: sharpness(&scaled(photo, DETAIL), (coarse.width, coarse.height)),
            coarse,
            fine: fine_colours,
            alpha: (sheer && !is_clear).then_some(Grid { width, height, data: alpha }),
            is_clear,
        }
    }

    /// Whether the photo says by itself what is in front.
    pub fn has_alpha(&self) -> bool {
        self.alpha.is_some()
    }

    /// Pixels of the coarse size for one of the photo.
    pub(crate) fn coarse_scale(&self) -> f64 {
        self.coarse.width as f64 / f64::from(self.size.0)
    }

    /// Pixels of the fine size for one of the photo.
    pub(crate) fn scale(&self) -> f64 {
        self.fine.width as f64 / f64::from(self.size.0)
    }
}

/// A photo's long side brought down to `long` pixels.
pub(crate) fn scaled(photo: &RgbaImage, long: u32) -> RgbaImage {
    let (width, height) = size_at(photo, long);
    resize(photo, width as u32, height as u32)
}

fn size_at(photo: &RgbaImage, long: u32) -> (usize, usize) {
    let scale = (f64::from(long) / f64::from(photo.width().max(photo.height()))).min(1.0);
    let side = |v: u32| ((f64::from(v) * scale).round() as usize).max(1);
    (side(photo.width()), side(photo.height()))
}

/// Width and height of the coarse size.
pub(crate) fn coarse_size(photo: &RgbaImage) -> (usize, usize) {
    size_at(photo, COARSE)
}

/// Colours in 0..255.
pub fn colours_of(photo: &RgbaImage) -> Grid<Rgb> {
    let data = photo.pixels().map(|p| [p.0[0], p.0[1], p.0[2]].map(f32::from)).collect();
    Grid { width: photo.width() as usize, height: photo.height() as usize, data }
}
