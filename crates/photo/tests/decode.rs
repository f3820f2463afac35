//! Files as people bring them, and as they should not.

use image::{ImageFormat, Rgb, RgbImage};
use inky_photo::{PhotoError, decode, read_photo};
use moxcms::ColorProfile;
use proptest::prelude::*;
use std::io::Cursor;

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

fn photo(name: &str) -> Vec<u8> {
    std::fs::read(std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/photos").join(name)).unwrap()
}

/// 96 x 64 pixels of red growing to the right and green growing downwards.
#[test]
fn reads_what_presses_scanners_and_programs_write() {
    let read = |name: &str| read_photo(&photo(name)).unwrap();
    for (name, near, room) in [
        ("sixteen-bit.png", [127, 127, 78, 255], 3),
        ("cmyk.jpg", [127, 127, 110, 255], 60),
        ("grey.tif", [125, 125, 125, 255], 25),
        ("clear.png", [127, 127, 60, 255], 110),
        ("bad-profile.jpg", [127, 127, 110, 255], 60),
    ] {
        let decoded = read(name);
        assert_eq!(decoded.picture.dimensions(), (96, 64), "{name}");
        let p = decoded.picture.get_pixel(47, 31).0;
        assert!(p.iter().zip(near).all(|(a, b)| a.abs_diff(b) <= room), "{name}: {p:?}");
    }
    assert!(read("clear.png").picture.get_pixel(95, 31).0[3] == 0);
    assert!(read("one-bit.png").picture.pixels().all(|p| [0, 255].contains(&p.0[0])));
}

#[test]
fn what_could_not_be_read_is_said() {
    for (name, known) in [
        ("bad-profile.jpg", Some("colour profile")),
        ("animated.png", Some("first frame")),
        ("animated.webp", Some("first frame")),
        ("sixteen-bit.png", None),
        ("cmyk.jpg", None),
    ] {
        let notes = read_photo(&photo(name)).unwrap().notes;
        assert_eq!(notes.len(), usize::from(known.is_some()), "{name}: {notes:?}");
        assert!(known.is_none_or(|k| notes[0].contains(k)), "{name}: {notes:?}");
    }
    assert_eq!(decode(&photo("animated.gif")), Err(PhotoError::NotAPicture));
    // an empty picture, by its header
    let mut png = photo("one-bit.png");
    png[16..20].copy_from_slice(&[0; 4]);
    let crc = png_crc(&png[12..29]);
    png[29..33].copy_from_slice(&crc.to_be_bytes());
    assert!(decode(&png).is_err());
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

proptest! {
    #![proptest_config(ProptestConfig { cases: 150, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn damaged_files_are_read_or_refused(
        bytes in prop::collection::vec((0.0..0.999_f64, any::<u8>()), 1..8), end in 0.05..1.5_f64,
    ) {
        for format in [ImageFormat::Png, ImageFormat::Jpeg, ImageFormat::WebP, ImageFormat::Tiff] {
            let mut damaged = file(&ramp(), format);
            for (share, value) in &bytes {
                let at = (share * damaged.len() as f64) as usize;
                damaged[at] = *value;
            }
            damaged.truncate((end * damaged.len() as f64) as usize);
            if let Ok(read) = decode(&damaged) {
                prop_assert!(u64::from(read.width()) * u64::from(read.height()) <= inky_photo::PIXELS);
            }
        }
    }
}
