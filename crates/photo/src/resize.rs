//! Photos at smaller sizes.

use fast_image_resize::images::{TypedImage, TypedImageRef};
use fast_image_resize::pixels::U8x4;
use fast_image_resize::{FilterType, ResizeAlg, ResizeOptions, Resizer};
use image::RgbaImage;

/// The picture at another size, filtered so that fine grain does not turn into moiré.
///
/// Colours are weighted by alpha. The same size gives a copy.
pub fn resize(image: &RgbaImage, width: u32, height: u32) -> RgbaImage {
    let (width, height) = (width.max(1), height.max(1));
    if image.dimensions() == (width, height) {
        return image.clone();
    }
    // typed pixels: the untyped images would have the code for every pixel type compiled into this crate
    let resized = (|| {
        let source = TypedImageRef::<U8x4>::from_buffer(image.width(), image.height(), image.as_raw()).ok()?;
        let mut out = RgbaImage::new(width, height);
        let mut target = TypedImage::<U8x4>::from_buffer(width, height, &mut out).ok()?;
        let options = ResizeOptions::new().resize_alg(ResizeAlg::Convolution(FilterType::CatmullRom));
        Resizer::new().resize_typed(&source, &mut target, &options).ok()?;
        Some(out)
    })();
    // the buffers have the sizes that are asked for, so that this is always there
    resized.unwrap_or_else(|| RgbaImage::new(width, height))
}

/// The long sides, in pixels and falling, at which a photo of `width` x `height` is kept ready for the screen:
/// its own, then halves down to about 200.
pub fn levels(width: u32, height: u32) -> Vec<u32> {
    let mut sides = vec![width.max(height).max(1)];
    while let Some(&last) = sides.last().filter(|s| **s > 400) {
        sides.push(last.div_ceil(2));
    }
    sides
}
