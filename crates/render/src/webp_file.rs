//! WebP (RFC 9649), without loss, with its profile.

use crate::bands::{BandSource, samples};
use crate::{RenderError, srgb_profile};
use image_webp::{ColorType, EncodingError, WebPEncoder};
use inky_core::cutout::Watch;
use std::io::Write;

/// Pixels along a side of a WebP at most (RFC 9649, section 3.4).
const SIDE: u32 = 16_384;
/// Pixels of a file at most: it is packed as a whole.
const PIXELS: u64 = 100_000_000;

impl From<EncodingError> for RenderError {
    fn from(e: EncodingError) -> Self {
        Self::Encoding(e.to_string())
    }
}

/// Draws a picture into a WebP file, with opacity where it has that.
///
/// # Errors
/// A picture that is too large for a WebP, what cannot be drawn or written, and the cancelled watch.
pub fn webp(source: &dyn BandSource, watch: &dyn Watch, out: &mut dyn Write) -> Result<(), RenderError> {
    let (width, height) = source.size();
    if width.max(height) > SIDE || u64::from(width) * u64::from(height) > PIXELS {
        return Err(RenderError::TooLargeForWebp);
    }
    let all = samples(source, watch)?;
    let mut encoder = WebPEncoder::new(out);
    encoder.set_icc_profile(srgb_profile()?);
    let kind = if source.channels() == 4 { ColorType::Rgba8 } else { ColorType::Rgb8 };
    Ok(encoder.encode(&all, width, height, kind)?)
}
