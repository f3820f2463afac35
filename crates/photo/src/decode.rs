//! A photo file to an upright sRGB picture.

use crate::{BYTES, PIXELS};
use image::{DynamicImage, ImageDecoder, ImageFormat, ImageReader, RgbaImage};
use moxcms::{ColorProfile, DataColorSpace, Layout, TransformOptions};
use std::io::Cursor;

/// Why a file is not taken as a photo.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum PhotoError {
    #[error("This file is {0} MiB large; a photo may have up to 64 MiB. Save it smaller and try again.")]
    TooManyBytes(usize),
    /// More than could be counted: the rest was not read.
    #[error("This file is over 64 MiB large; a photo may have up to 64 MiB. Save it smaller and try again.")]
    OverBytes,
    #[error("This file is no picture that can be read here. Bring a PNG, JPEG, WebP or TIFF file.")]
    NotAPicture,
    #[error("This picture has {0} x {1} pixels; up to 100 megapixels can be taken. Scale it down and try again.")]
    TooManyPixels(u32, u32),
    #[error("This picture ends too early: the file is not complete. Copy or download it again.")]
    Truncated,
    #[error("This picture is damaged and cannot be read.")]
    Damaged,
    #[error("This picture has no pixels.")]
    Empty,
}

/// A photo that was read.
#[derive(Debug, Clone)]
pub struct Decoded {
    /// Upright, in sRGB.
    pub picture: RgbaImage,
    /// What could not be read of it, in sentences.
    pub notes: Vec<&'static str>,
}

const BAD_PROFILE: &str = "The colour profile of this photo cannot be read: its colours are taken as sRGB.";
const PRINT_PROFILE: &str =
    "This photo is made for printing presses (CMYK): its colours on the screen are near, not exact.";
const ANIMATED: &str = "This picture is animated: its first frame is taken.";

/// Reads a PNG, JPEG, WebP or TIFF file, see [`read_photo`].
///
/// # Errors
/// A sentence.
pub fn decode(bytes: &[u8]) -> Result<RgbaImage, PhotoError> {
    Ok(read_photo(bytes)?.picture)
}

/// How many pixels a picture file announces; None for what is no picture. Nothing is decoded.
pub fn photo_pixels(bytes: &[u8]) -> Option<u64> {
    let reader = ImageReader::new(Cursor::new(bytes)).with_guessed_format().ok()?;
    let (width, height) = reader.into_dimensions().ok()?;
    Some(u64::from(width) * u64::from(height))
}

/// Reads a PNG, JPEG, WebP or TIFF file.
///
/// The size is checked before anything is decoded. The result stands upright (EXIF orientation applied) and is in
/// sRGB (an embedded RGB or grey profile applied; without one the colours are taken as sRGB).
///
/// # Errors
/// A file of another kind, one that is damaged, or more pixels than a photo may have.
pub fn read_photo(bytes: &[u8]) -> Result<Decoded, PhotoError> {
    if bytes.len() > BYTES {
        return Err(PhotoError::TooManyBytes(bytes.len() >> 20));
    }
    let reader = ImageReader::new(Cursor::new(bytes)).with_guessed_format().map_err(|_| PhotoError::NotAPicture)?;
    let format = reader.format().ok_or(PhotoError::NotAPicture)?;
    if !matches!(format, ImageFormat::Png | ImageFormat::Jpeg | ImageFormat::WebP | ImageFormat::Tiff) {
        return Err(PhotoError::NotAPicture);
    }
    let mut decoder = reader.into_decoder().map_err(failure)?;
    let (width, height) = decoder.dimensions();
    if width == 0 || height == 0 {
        return Err(PhotoError::Empty);
    }
    if u64::from(width) * u64::from(height) > PIXELS {
        return Err(PhotoError::TooManyPixels(width, height));
    }
    // the decoder fills up what is missing of a JPEG with grey
    if format == ImageFormat::Jpeg && !jpeg_is_whole(bytes) {
        return Err(PhotoError::Truncated);
    }
    let profile = decoder.icc_profile().ok().flatten();
    let orientation = decoder.orientation().ok();
    let mut image = DynamicImage::from_decoder(decoder).map_err(failure)?;
    if let Some(orientation) = orientation {
        image.apply_orientation(orientation);
    }
    let mut notes = Vec::new();
    if is_animated(bytes, format) {
        notes.push(ANIMATED);
    }
    let picture = to_srgb(image, profile.as_deref(), &mut notes);
    Ok(Decoded { picture, notes })
}

/// Whether a file holds more than one frame: an `acTL` chunk before the picture (PNG, third edition, 11.3.6.1), or the animation flag of
/// an extended header (WebP container specification).
fn is_animated(bytes: &[u8], format: ImageFormat) -> bool {
    match format {
        ImageFormat::Png => {
            let head = &bytes[..bytes.windows(4).position(|w| w == b"IDAT").unwrap_or(0)];
            head.windows(4).any(|w| w == b"acTL")
        }
        ImageFormat::WebP => bytes.get(12..16) == Some(b"VP8X") && bytes.get(20).is_some_and(|flags| flags & 2 != 0),
        _ => false,
    }
}

fn failure(error: image::ImageError) -> PhotoError {
    match error {
        image::ImageError::IoError(e) if e.kind() == std::io::ErrorKind::UnexpectedEof => PhotoError::Truncated,
        image::ImageError::Decoding(e) if e.to_string().contains("end of") => PhotoError::Truncated,
        image::ImageError::Unsupported(_) => PhotoError::NotAPicture,
        _ => PhotoError::Damaged,
    }
}

fn to_srgb(image: DynamicImage, profile: Option<&[u8]>, notes: &mut Vec<&'static str>) -> RgbaImage {
    let mut rgba = image.into_rgba8();
    let Some(profile) = profile.filter(|p| !p.is_empty()) else {
        return rgba;
    };
    let Ok(profile) = ColorProfile::new_from_slice(profile) else {
        notes.push(BAD_PROFILE);
        return rgba;
    };
    let srgb = ColorProfile::new_srgb();
    let options = TransformOptions::default();
    match profile.color_space {
        DataColorSpace::Rgb => {
            if let Ok(t) = profile.create_transform_8bit(Layout::Rgba, &srgb, Layout::Rgba, options) {
                let source = rgba.as_raw().clone();
                // buffers of equal length cannot be refused; colours stay as they are if they were
                let _ = t.transform(&source, &mut rgba);
            }
        }
        DataColorSpace::Gray => {
            if let Ok(t) = profile.create_transform_8bit(Layout::GrayAlpha, &srgb, Layout::Rgba, options) {
                let source: Vec<u8> = rgba.pixels().flat_map(|p| [p.0[0], p.0[3]]).collect();
                let _ = t.transform(&source, &mut rgba);
            }
        }
        DataColorSpace::Cmyk => notes.push(PRINT_PROFILE),
        _ => notes.push(BAD_PROFILE),
    }
    rgba
}

/// Whether the marker segments of a JPEG (ISO/IEC 10918-1, annex B) run on to its end-of-image marker.
fn jpeg_is_whole(bytes: &[u8]) -> bool {
    const START_OF_SCAN: u8 = 0xda;
    const END_OF_IMAGE: u8 = 0xd9;
    let mut at = 2;
    while at + 4 <= bytes.len() {
        if bytes[at] != 0xff {
            // damaged, but not cut off: the decoder decides
            return true;
        }
        let marker = bytes[at + 1];
        if marker == 0xff {
            at += 1;
            continue;
        }
        at += 2 + usize::from(u16::from_be_bytes([bytes[at + 2], bytes[at + 3]]));
        if marker != START_OF_SCAN {
            continue;
        }
        // entropy-coded data: 0xff is followed by 0x00 (stuffing) or a restart marker until it ends
        loop {
            let Some(next) = bytes.get(at..).and_then(|rest| rest.iter().position(|&b| b == 0xff)) else {
                return false;
            };
            at += next;
            match bytes.get(at + 1) {
                None => return false,
                Some(&END_OF_IMAGE) => return true,
                Some(0x00 | 0xd0..=0xd7) => at += 2,
                Some(0xff) => at += 1,
                Some(_) => break,
            }
        }
    }
    bytes.get(at..at + 2) == Some(&[0xff, END_OF_IMAGE])
}
