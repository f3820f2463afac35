//! From a scene to files: PNG, JPEG, TIFF and WebP drawn directly, SVG and PDF written, all from the same tree as the screen.

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
mod tiff_file;
mod webp_file;

pub use ::png::Compression;
pub use bands::{Band, BandSource, for_each_band, pixels};
pub use delivered::{DeliveredSvg, SvgPlan};
pub use draw::Ground;
pub use error::RenderError;
pub use jpeg::jpeg;
pub use pdf::{PdfOptions, PdfPage, PdfX4, SHEET_INSIDE, pdf, sheet_inside};
pub use pictures::{Needed, Originals};
pub use plan::Plan;
pub use png_file::{encode_rgba, png};
pub use room::{fits, free_memory, has_room};
pub use svg::{Packing, svg};
pub use tiff_file::tiff;
pub use webp_file::webp;

use moxcms::ColorProfile;

/// The sRGB profile (ICC.1) that goes into files.
fn srgb_profile() -> Result<Vec<u8>, RenderError> {
    Ok(inky_press::encoded(&ColorProfile::new_srgb())?)
}
