//! SVG files with their pictures inside.

use crate::pictures::{Originals, long_side, sized, source_name};
use crate::{RenderError, encode_rgba};
use base64::{Engine, engine::general_purpose::STANDARD};
use image::{DynamicImage, RgbaImage};
use inky_core::scene::Scene;
use inky_core::scene::svg::PictureFiles;
use inky_core::scene::tree::Source;
use inky_core::sheet::MM_PER_INCH;
use std::collections::HashMap;
use std::sync::{Mutex, PoisonError};

/// Quality of the photos in it, of 100.
const QUALITY: u8 = 94;

/// How pictures are packed into an SVG file.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Packing {
    /// JPEG where they are opaque, else PNG: as people expect it of a file.
    Small,
    /// PNG, without any loss.
    Exact,
}

/// A scene as one SVG file with so many millimetres of bleed, pictures embedded at the size that the sheet's resolution needs.
///
/// # Errors
/// A piece that cannot be drawn, or a picture that is not among the originals: a file is never silently incomplete.
pub fn svg(
    scene: &Scene,
    title: &str,
    originals: &Originals,
    bleed: f64,
    packing: Packing,
) -> Result<String, RenderError> {
    if let Some((_, problem)) = scene.problems().next() {
        return Err(RenderError::BadPiece(problem.to_string()));
    }
    let density = scene.ppi / MM_PER_INCH;
    let embedded = Embedded { originals, density, packing, made: Mutex::default(), failed: Mutex::default() };
    let text = scene.document(title, bleed, &embedded);
    match embedded.failed.into_inner().unwrap_or_else(PoisonError::into_inner) {
        Some(error) => Err(error),
        None => Ok(text),
    }
}

struct Embedded<'a> {
    originals: &'a Originals,
    density: f64,
    packing: Packing,
    /// By what they are made from and how large.
    made: Mutex<HashMap<String, String>>,
    failed: Mutex<Option<RenderError>>,
}

impl Embedded<'_> {
    fn packed(&self, source: &Source, long: f64) -> Result<String, RenderError> {
        let picture = sized(source, long, self.originals)?;
        let opaque = picture.pixels().all(|p| p.0[3] == 255);
        let (kind, bytes) = if opaque && self.packing == Packing::Small {
            ("image/jpeg", jpeg_bytes(&picture)?)
        } else {
            ("image/png", encode_rgba(&picture, png::Compression::Balanced)?)
        };
        Ok(format!("data:{kind};base64,{}", STANDARD.encode(bytes)))
    }
}

impl PictureFiles for Embedded<'_> {
    fn address(&self, source: &Source, scale: f64) -> String {
        let long = long_side(source, scale, self.density);
        let name = format!("{} {}", source_name(source), long.ceil());
        let made = || self.made.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(known) = made().get(&name) {
            return known.clone();
        }
        match self.packed(source, long) {
            Ok(address) => made().entry(name).or_insert(address).clone(),
            Err(error) => {
                self.failed.lock().unwrap_or_else(PoisonError::into_inner).get_or_insert(error);
                String::new()
            }
        }
    }
}

/// Opaque pixels as a JPEG; alpha is left out.
pub(crate) fn jpeg_bytes(picture: &RgbaImage) -> Result<Vec<u8>, RenderError> {
    let mut out = Vec::new();
    let rgb = DynamicImage::ImageRgba8(picture.clone()).into_rgb8();
    let encoder = image::codecs::jpeg::JpegEncoder::new_with_quality(&mut out, QUALITY);
    rgb.write_with_encoder(encoder).map_err(|e| RenderError::Encoding(e.to_string()))?;
    Ok(out)
}
