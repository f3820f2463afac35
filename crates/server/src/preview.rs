//! Pictures for the screen.

use image::{DynamicImage, RgbaImage};
use inky_render::{Compression, encode_rgba};

/// A picture for the screen: its content type and bytes.
pub(crate) type Preview = (&'static str, Vec<u8>);

/// JPEG where it is opaque, else PNG.
pub(crate) fn for_screen(picture: &RgbaImage) -> Option<Preview> {
    if picture.pixels().any(|p| p.0[3] < 255) {
        return Some(("image/png", encode_rgba(picture, Compression::Fast).ok()?));
    }
    let mut out = Vec::new();
    let rgb = DynamicImage::ImageRgba8(picture.clone()).into_rgb8();
    image::codecs::jpeg::JpegEncoder::new_with_quality(&mut out, 93).encode_image(&rgb).ok()?;
    Some(("image/jpeg", out))
}
