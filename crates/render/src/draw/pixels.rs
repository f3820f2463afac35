//! Pictures as they were prepared.

use super::prepared::Prepared;
use inky_core::scene::tree::{Fragment, Picture};
use std::sync::Arc;
use vello_cpu::Pixmap;
use vello_cpu::peniko::{Extend, ImageBrush, ImageQuality, ImageSampler};

/// A picture no finer than it is drawn, give or take a factor of two. `scale` is millimetres of the sheet for one unit of its space,
/// `density` pixels for a millimetre.
pub(super) fn pixels_of(
    prepared: &Prepared,
    fragment: &Fragment,
    picture: &Picture,
    scale: f64,
    density: f64,
) -> Option<Arc<Pixmap>> {
    let tone = picture.tone.map(|id| fragment.definitions.tone(id));
    let levels = prepared.pictures.get(&picture.source, tone, scale)?;
    let finest = levels.halved(0);
    // pixels of the picture for one of the canvas
    let ratio = f64::from(finest.width()) / (picture.frame.width() * scale * density);
    Some(if ratio >= 2.0 { levels.halved(ratio.log2() as usize) } else { finest })
}

pub(super) fn image(pixels: Arc<Pixmap>, extend: Extend, quality: ImageQuality) -> vello_cpu::PaintType {
    let sampler = ImageSampler { x_extend: extend, y_extend: extend, quality, alpha: 1.0 };
    ImageBrush { image: vello_cpu::ImageSource::Pixmap(pixels), sampler }.into()
}
