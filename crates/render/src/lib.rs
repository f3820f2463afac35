//! From a sheet to files: PNG, JPEG and SVG, drawn from the same scene as the screen.

mod jpeg;
mod png_file;
mod raster;
mod source;
mod svg;

pub use ::png::Compression;
pub use jpeg::jpeg;
pub use png_file::{encode_rgba, png};
pub use raster::{Plan, raster};
pub use source::{Originals, RenderError};
pub use svg::{DeliveredSvg, svg};

use moxcms::ColorProfile;

/// The sRGB profile (ICC.1) that goes into files.
///
/// Its date is always the same, so that a sheet makes the same file whenever it is delivered.
fn srgb_profile() -> Result<Vec<u8>, RenderError> {
    let mut profile = ColorProfile::new_srgb().encode().map_err(|e| RenderError::Encoding(format!("{e:?}")))?;
    // the dateTimeNumber of the header: year, month, day, hours, minutes, seconds, each of two bytes (ICC.1, 7.2.8)
    let date = [2026_u16, 1, 1, 0, 0, 0].map(u16::to_be_bytes);
    profile[24..36].copy_from_slice(date.as_flattened());
    Ok(profile)
}
