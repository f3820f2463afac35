//! A photo file to an upright sRGB picture.

use crate::sheet::limits::{PHOTO_BYTES, PHOTO_PIXELS};
use image::{DynamicImage, ImageDecoder, ImageFormat, ImageReader, RgbaImage};
use moxcms::{ColorProfile, DataColorSpace, Layout, TransformOptions};
use std::io::Cursor;

/// Why a file is not taken as a photo.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum PhotoError {
    #[error("This file is {0} MiB large; a photo may have up to 64 MiB. Save it smaller and try again.")]
    TooManyBytes(usize),
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

/// Reads a PNG, JPEG, WebP or TIFF file.
///
/// The size is checked before anything is decoded. The result stands upright (EXIF orientation applied) and is in
/// sRGB (an embedded RGB or grey profile applied; without one the colours are taken as sRGB).
pub fn decode(bytes: &[u8]) -> Result<RgbaImage, PhotoError> {
    if bytes.len() > PHOTO_BYTES {
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
    if u64::from(width) * u64::from(height) > PHOTO_PIXELS {
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
    Ok(to_srgb(image, profile.as_deref()))
}

fn failure(error: image::ImageError) -> PhotoError {
    match error {
        image::ImageError::IoError(e) if e.kind() == std::io::ErrorKind::UnexpectedEof => PhotoError::Truncated,
        image::ImageError::Decoding(e) if e.to_string().contains("end of") => PhotoError::Truncated,
        image::ImageError::Unsupported(_) => PhotoError::NotAPicture,
        _ => PhotoError::Damaged,
    }
}

fn to_srgb(image: DynamicImage, profile: Option<&[u8]>) -> RgbaImage {
    let mut rgba = image.into_rgba8();
    let Some(profile) = profile.and_then(|p| ColorProfile::new_from_slice(p).ok()) else {
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
        _ => {}
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

#[cfg(test)]
mod tests {
    use super::*;
    use image::{Rgb, RgbImage};

    fn file(image: &RgbImage, format: ImageFormat) -> Vec<u8> {
        let mut out = Cursor::new(Vec::new());
        image.write_to(&mut out, format).unwrap();
        out.into_inner()
    }

    fn ramp() -> RgbImage {
        RgbImage::from_fn(40, 24, |x, y| Rgb([x as u8 * 6, y as u8 * 10, 90]))
    }

    #[test]
    fn reads_the_four_formats() {
        for format in [ImageFormat::Png, ImageFormat::Jpeg, ImageFormat::WebP, ImageFormat::Tiff] {
            let read = decode(&file(&ramp(), format)).unwrap();
            assert_eq!(read.dimensions(), (40, 24), "{format:?}");
            let p = read.get_pixel(20, 12).0;
            assert!(p[0].abs_diff(120) < 12 && p[1].abs_diff(120) < 12 && p[3] == 255, "{format:?} {p:?}");
        }
    }

    #[test]
    fn files_cut_short_are_refused() {
        for format in [ImageFormat::Png, ImageFormat::Jpeg, ImageFormat::WebP, ImageFormat::Tiff] {
            let whole = file(&ramp(), format);
            for keep in [whole.len() / 2, whole.len() - 9] {
                assert!(decode(&whole[..keep]).is_err(), "{format:?} cut at {keep} of {}", whole.len());
            }
        }
        let jpeg = file(&ramp(), ImageFormat::Jpeg);
        assert_eq!(decode(&jpeg[..jpeg.len() - 30]), Err(PhotoError::Truncated));
    }

    #[test]
    fn what_is_no_picture_is_refused() {
        assert_eq!(decode(b"<svg xmlns='http://www.w3.org/2000/svg'/>"), Err(PhotoError::NotAPicture));
        assert_eq!(decode(b""), Err(PhotoError::NotAPicture));
        assert_eq!(decode(&[0; 300]), Err(PhotoError::NotAPicture));
    }

    #[test]
    fn a_huge_picture_is_refused_by_its_header() {
        // the header of a PNG of 60,000 x 60,000 pixels, and nothing else
        let mut png = b"\x89PNG\r\n\x1a\n\0\0\0\rIHDR\0\0\xea\x60\0\0\xea\x60\x08\x02\0\0\0".to_vec();
        let crc = png_crc(&png[12..]);
        png.extend(crc.to_be_bytes());
        png.extend(b"\0\0\0\0IDAT\x35\xaf\x06\x1e");
        assert_eq!(decode(&png), Err(PhotoError::TooManyPixels(60_000, 60_000)));
    }

    fn png_crc(data: &[u8]) -> u32 {
        !data.iter().fold(!0_u32, |crc, &b| {
            (0..8).fold(crc ^ u32::from(b), |c, _| if c & 1 == 1 { (c >> 1) ^ 0xedb8_8320 } else { c >> 1 })
        })
    }

    #[test]
    fn exif_orientation_is_applied() {
        let jpeg = file(&ramp(), ImageFormat::Jpeg);
        // APP1 with one EXIF entry: orientation 6 (a quarter turn clockwise)
        let exif = b"\xff\xe1\0\x22Exif\0\0MM\0*\0\0\0\x08\0\x01\x01\x12\0\x03\0\0\0\x01\0\x06\0\0\0\0\0\0";
        let turned = [&jpeg[..2], exif, &jpeg[2..]].concat();
        let read = decode(&turned).unwrap();
        assert_eq!(read.dimensions(), (24, 40));
        let corner = read.get_pixel(23, 0).0;
        assert!(corner[0] < 30 && corner[1] < 30, "the first pixel is at the top right now: {corner:?}");
    }

    #[test]
    fn an_embedded_profile_is_applied() {
        let image = RgbImage::from_pixel(8, 8, Rgb([200, 60, 60]));
        let profile = ColorProfile::new_display_p3().encode().unwrap();
        let mut out = Vec::new();
        let mut encoder = image::codecs::png::PngEncoder::new(&mut out);
        image::ImageEncoder::set_icc_profile(&mut encoder, profile).unwrap();
        image.write_with_encoder(encoder).unwrap();
        let p = decode(&out).unwrap().get_pixel(3, 3).0;
        assert!(p[0] > 210 && p[1] < 55, "a P3 red is redder in sRGB: {p:?}");
    }
}
