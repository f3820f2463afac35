//! The full-size pictures that a sheet is drawn from, and those pictures at the size a file needs.

use crate::png_file::encode_rgba;
use image::RgbaImage;
use inky_core::cutout::Cancelled;
use inky_core::photo::{Pull, in_perspective, resize};
use inky_core::scene::Pictures;
use inky_core::sheet::{Photo, PhotoId, SubjectId};
use std::collections::BTreeMap;
use std::sync::{Arc, Mutex, PoisonError};

/// Full-size pictures in memory: upright photos in sRGB, and subjects with their cleaned colours.
#[derive(Default, Clone)]
pub struct Originals {
    pub photos: BTreeMap<PhotoId, Arc<RgbaImage>>,
    pub cutouts: BTreeMap<SubjectId, Arc<RgbaImage>>,
}

/// Why a file cannot be made.
#[derive(Debug, thiserror::Error)]
pub enum RenderError {
    #[error("The making of the file was cancelled.")]
    Cancelled,
    #[error("A photo of this sheet is missing, so the file would be incomplete.")]
    MissingPicture,
    #[error("A JPEG has at most 65,535 pixels a side and here up to 250 megapixels. Take fewer ppi, or a PNG.")]
    TooLargeForJpeg,
    #[error("{0}")]
    BadPiece(String),
    #[error("This SVG cannot be drawn: {0}.")]
    BadSvg(String),
    #[error("The file could not be written: {0}.")]
    Encoding(String),
}

impl From<Cancelled> for RenderError {
    fn from(_: Cancelled) -> Self {
        Self::Cancelled
    }
}

/// How pictures are stored in a file.
#[derive(Clone, Copy, PartialEq, Eq)]
pub(crate) enum Storage {
    /// PNG, quickly written: it is read once and thrown away.
    Passing,
    /// JPEG where opaque, else PNG: it stays.
    Kept,
}

/// Content type and bytes of a picture.
pub(crate) type PictureFile = (&'static str, Arc<Vec<u8>>);

/// Prepares the pictures that a scene asks for, each no larger than it is drawn.
pub(crate) struct Prepared<'a> {
    originals: &'a Originals,
    storage: Storage,
    /// By the name that stands in the scene.
    made: Mutex<BTreeMap<String, PictureFile>>,
    missing: Mutex<bool>,
}

impl<'a> Prepared<'a> {
    pub(crate) fn new(originals: &'a Originals, storage: Storage) -> Self {
        Self { originals, storage, made: Mutex::default(), missing: Mutex::new(false) }
    }

    pub(crate) fn get(&self, name: &str) -> Option<PictureFile> {
        self.made.lock().unwrap_or_else(PoisonError::into_inner).get(name).cloned()
    }

    /// Whether the scene asked for a picture that is not there.
    pub(crate) fn complete(&self) -> bool {
        !*self.missing.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// A picture in perspective, or as it is.
    fn pulled(&self, name: String, picture: Option<&Arc<RgbaImage>>, long: f64, pull: Option<&Pull>) -> String {
        let Some(pull) = pull else {
            return self.prepare(name, picture, long);
        };
        let name = format!("{name}/{pull:?}");
        let known = self.get(&name).is_some();
        let made = if known { None } else { picture.and_then(|p| in_perspective(p, pull, long)).map(Arc::new) };
        let long = made.as_ref().map_or(1.0, |p| f64::from(p.width().max(p.height())));
        self.prepare(name, made.as_ref(), long)
    }

    fn prepare(&self, name: String, picture: Option<&Arc<RgbaImage>>, long: f64) -> String {
        let mut made = self.made.lock().unwrap_or_else(PoisonError::into_inner);
        if made.contains_key(&name) {
            return name;
        }
        let encoded = picture.and_then(|picture| {
            let full = f64::from(picture.width().max(picture.height()));
            let factor = (long.max(1.0) / full).min(1.0);
            let side = |v: u32| (f64::from(v) * factor).round().max(1.0) as u32;
            let small = resize(picture, side(picture.width()), side(picture.height()));
            let opaque = small.pixels().all(|p| p.0[3] == 255);
            match self.storage {
                Storage::Kept if opaque => jpeg_bytes(&small).map(|b| ("image/jpeg", b)),
                Storage::Kept => encode_rgba(&small, png::Compression::Balanced).ok().map(|b| ("image/png", b)),
                Storage::Passing => encode_rgba(&small, png::Compression::Fastest).ok().map(|b| ("image/png", b)),
            }
        });
        match encoded {
            Some((kind, bytes)) => {
                made.insert(name.clone(), (kind, Arc::new(bytes)));
            }
            None => *self.missing.lock().unwrap_or_else(PoisonError::into_inner) = true,
        }
        name
    }
}

fn jpeg_bytes(picture: &RgbaImage) -> Option<Vec<u8>> {
    let mut out = Vec::new();
    let rgb = image::DynamicImage::ImageRgba8(picture.clone()).into_rgb8();
    image::codecs::jpeg::JpegEncoder::new_with_quality(&mut out, 94).encode_image(&rgb).ok()?;
    Some(out)
}

impl Pictures for Prepared<'_> {
    fn photo(&self, id: &PhotoId, _: &Photo, long: f64, pull: Option<&Pull>) -> String {
        self.pulled(format!("photo/{id}/{}", long.ceil()), self.originals.photos.get(id), long, pull)
    }

    fn cutout(&self, id: &SubjectId, _: &Photo, long: f64, pull: Option<&Pull>) -> String {
        self.pulled(format!("cutout/{id}/{}", long.ceil()), self.originals.cutouts.get(id), long, pull)
    }

    fn computed(&self, picture: &RgbaImage) -> String {
        let hash = picture.as_raw().chunks_exact(8).fold(0xcbf2_9ce4_8422_2325_u64, |h, c| {
            // FNV-1a, by words: pictures of one scene are few
            let word = c.try_into().map_or(0, u64::from_le_bytes);
            (h ^ word).wrapping_mul(0x0100_0000_01b3)
        });
        let long = f64::from(picture.width().max(picture.height()));
        self.prepare(
            format!("computed/{hash:x}/{}x{}", picture.width(), picture.height()),
            Some(&Arc::new(picture.clone())),
            long,
        )
    }
}
