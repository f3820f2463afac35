//! JPEG (ISO/IEC 10918-1) with its resolution in the JFIF header and its profile in APP2.

use crate::raster::{Plan, raster};
use crate::source::RenderError;
use crate::srgb_profile;
use image::codecs::jpeg::{JpegEncoder, PixelDensity};
use image::{ExtendedColorType, ImageEncoder};
use inky_core::cutout::Watch;

/// Draws a plan into a JPEG file. `quality` is 1 to 100.
pub fn jpeg(plan: &Plan, quality: u8, watch: &dyn Watch) -> Result<Vec<u8>, RenderError> {
    let pixels = u64::from(plan.width) * u64::from(plan.height);
    if plan.width > 65_535 || plan.height > 65_535 || pixels > 250_000_000 {
        return Err(RenderError::TooLargeForJpeg);
    }
    let mut rgb = Vec::with_capacity(pixels as usize * 3);
    raster(plan, watch, |band| {
        rgb.extend_from_slice(band);
        Ok(())
    })?;
    let mut out = Vec::new();
    let mut encoder = JpegEncoder::new_with_quality(&mut out, quality.clamp(1, 100));
    encoder.set_pixel_density(PixelDensity::dpi(plan.ppi.round().clamp(1.0, 65_535.0) as u16));
    let failed = |e: &dyn std::fmt::Display| RenderError::Encoding(e.to_string());
    encoder.set_icc_profile(srgb_profile()?).map_err(|e| failed(&e))?;
    encoder.write_image(&rgb, plan.width, plan.height, ExtendedColorType::Rgb8).map_err(|e| failed(&e))?;
    Ok(out)
}
