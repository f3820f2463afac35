//! From a scene to files: PNG and JPEG drawn directly, SVG and PDF written, all from the same tree as the screen.

mod bands;
mod delivered;
mod draw;
mod error;
mod jpeg;
mod pdf;
mod pictures;
mod plan;
mod png_file;
mod room;
mod svg;

pub use ::png::Compression;
pub use bands::{Band, BandSource, for_each_band, pixels};
pub use delivered::{DeliveredSvg, SvgPlan};
pub use error::RenderError;
pub use jpeg::jpeg;
pub use pdf::{PdfOptions, pdf};
pub use pictures::{Needed, Originals};
pub use plan::Plan;
pub use png_file::{encode_rgba, png};
pub use room::{fits, free_memory, has_room};
pub use svg::{Packing, svg};

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
