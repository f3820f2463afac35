//! PNG (ISO/IEC 15948) with its resolution (pHYs) and profile (iCCP).

use crate::raster::{Plan, raster};
use crate::source::RenderError;
use crate::srgb_profile;
use image::RgbaImage;
use inky_core::cutout::Watch;
use inky_core::sheet::MM_PER_INCH;
use std::borrow::Cow;
use std::io::Write;

impl From<png::EncodingError> for RenderError {
    fn from(e: png::EncodingError) -> Self {
        Self::Encoding(e.to_string())
    }
}

/// Draws a plan into a PNG file of 8 bits a channel.
pub fn png(plan: &Plan, watch: &dyn Watch) -> Result<Vec<u8>, RenderError> {
    let mut out = Vec::new();
    let mut info = png::Info::with_size(plan.width, plan.height);
    info.color_type = png::ColorType::Rgb;
    info.bit_depth = png::BitDepth::Eight;
    let per_metre = (plan.ppi / MM_PER_INCH * 1000.0).round() as u32;
    info.pixel_dims = Some(png::PixelDimensions { xppu: per_metre, yppu: per_metre, unit: png::Unit::Meter });
    info.icc_profile = Some(Cow::Owned(srgb_profile()?));
    let mut encoder = png::Encoder::with_info(&mut out, info)?;
    encoder.set_compression(png::Compression::Balanced);
    let mut writer = encoder.write_header()?;
    let mut rows = writer.stream_writer()?;
    raster(plan, watch, |band| rows.write_all(band).map_err(|e| RenderError::Encoding(e.to_string())))?;
    rows.finish()?;
    writer.finish()?;
    Ok(out)
}

/// A picture with alpha as a PNG file.
pub fn encode_rgba(picture: &RgbaImage, compression: png::Compression) -> Result<Vec<u8>, RenderError> {
    let mut out = Vec::new();
    let mut encoder = png::Encoder::new(&mut out, picture.width(), picture.height());
    encoder.set_color(png::ColorType::Rgba);
    encoder.set_depth(png::BitDepth::Eight);
    encoder.set_compression(compression);
    let mut writer = encoder.write_header()?;
    writer.write_image_data(picture.as_raw())?;
    writer.finish()?;
    Ok(out)
}
