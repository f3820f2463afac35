//! Photos at smaller sizes.

use fast_image_resize::images::Image;
use fast_image_resize::{FilterType, PixelType, ResizeAlg, ResizeOptions, Resizer};
use image::RgbaImage;

/// The picture at another size, filtered so that fine grain does not turn into moiré.
///
/// Colours are weighted by alpha. The same size gives a copy.
pub fn resize(image: &RgbaImage, width: u32, height: u32) -> RgbaImage {
    let (width, height) = (width.max(1), height.max(1));
    if image.dimensions() == (width, height) {
        return image.clone();
    }
    let mut out = Image::new(width, height, PixelType::U8x4);
    let options = ResizeOptions::new().resize_alg(ResizeAlg::Convolution(FilterType::CatmullRom));
    let source = Image::from_vec_u8(image.width(), image.height(), image.as_raw().clone(), PixelType::U8x4);
    let resized = source.ok().and_then(|s| Resizer::new().resize(&s, &mut out, &options).ok()).is_some();
    match RgbaImage::from_raw(width, height, out.into_vec()) {
        Some(image) if resized => image,
        // the buffers above have the sizes that both calls ask for
        _ => image::imageops::resize(image, width, height, image::imageops::FilterType::Triangle),
    }
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
