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
fn srgb_profile() -> Result<Vec<u8>, RenderError> {
    ColorProfile::new_srgb().encode().map_err(|e| RenderError::Encoding(format!("{e:?}")))
}
