//! TIFF (revision 6.0) with its resolution and profile, packed by deflate (TIFF Technical Note 2 of 2002): sRGB, sRGB with opacity, or the inks of a press.

use crate::bands::{BandSource, for_each_band};
use crate::{RenderError, srgb_profile};
use flate2::Compression;
use flate2::write::ZlibEncoder;
use inky_core::cutout::Watch;
use inky_press::Press;
use moxcms::{ColorProfile, Layout, RenderingIntent, TransformOptions};
use std::io::{Seek, Write};
use tiff::TiffError;
use tiff::encoder::{Rational, TiffEncoder, TiffKind};
use tiff::tags::{CompressionMethod, ExtraSamples, PhotometricInterpretation, Predictor, ResolutionUnit, Tag};

/// Bytes of a strip, about: readers unpack one at a time.
const STRIP: usize = 256 << 10;
/// From so many bytes on places in the file need more than 32 bits (BigTIFF). What cannot be packed becomes a little longer.
const BIG: u64 = 2_500_000_000;

impl From<TiffError> for RenderError {
    fn from(e: TiffError) -> Self {
        Self::Encoding(e.to_string())
    }
}

/// Draws a picture into a TIFF file of 8 bits a channel: in the inks of a press, or as sRGB.
///
/// # Errors
/// A clear ground for a press, what cannot be drawn or written, and the cancelled watch.
pub fn tiff(
    source: &dyn BandSource,
    press: Option<&Press>,
    watch: &dyn Watch,
    out: &mut (impl Write + Seek),
) -> Result<(), RenderError> {
    let (width, height) = source.size();
    if u64::from(width) * u64::from(height) * 4 > BIG {
        written(TiffEncoder::new_big(out)?, source, press, watch)
    } else {
        written(TiffEncoder::new(out)?, source, press, watch)
    }
}

fn written<W: Write + Seek, K: TiffKind>(
    encoder: TiffEncoder<W, K>,
    source: &dyn BandSource,
    press: Option<&Press>,
    watch: &dyn Watch,
) -> Result<(), RenderError> {
    match (press, source.channels()) {
        (Some(_), 4) => Err(RenderError::ClearOnPress),
        (Some(press), _) => {
            let profile = press.profile()?;
            let inks = to_inks(&profile)?;
            let pixels = Pixels { channels: 4, photometric: PhotometricInterpretation::CMYK, profile: &profile };
            image(encoder, source, &pixels, watch, inks)
        }
        (None, channels) => {
            let profile = srgb_profile()?;
            let pixels = Pixels { channels, photometric: PhotometricInterpretation::RGB, profile: &profile };
            image(encoder, source, &pixels, watch, Ok)
        }
    }
}

/// From rows of sRGB to rows of inks. The intent is perceptual: black is the darkest that the press prints.
fn to_inks(profile: &[u8]) -> Result<impl Fn(Vec<u8>) -> Result<Vec<u8>, RenderError> + Sync, RenderError> {
    let failed = |e: moxcms::CmsError| RenderError::Encoding(format!("{e:?}"));
    let profile = ColorProfile::new_from_slice(profile).map_err(failed)?;
    let options = TransformOptions { rendering_intent: RenderingIntent::Perceptual, ..TransformOptions::default() };
    let transform = ColorProfile::new_srgb().create_transform_8bit(Layout::Rgb, &profile, Layout::Rgba, options);
    let transform = transform.map_err(failed)?;
    Ok(move |samples: Vec<u8>| {
        let mut inks = vec![0; samples.len() / 3 * 4];
        transform.transform(&samples, &mut inks).map_err(failed)?;
        Ok(inks)
    })
}

/// The pixels of a file.
struct Pixels<'a> {
    channels: usize,
    photometric: PhotometricInterpretation,
    profile: &'a [u8],
}

/// The encoder's own images are packed only as a whole, so that the directory is written here, and strips are packed where they are drawn.
fn image<W: Write + Seek, K: TiffKind>(
    mut encoder: TiffEncoder<W, K>,
    source: &dyn BandSource,
    pixels: &Pixels<'_>,
    watch: &dyn Watch,
    work: impl Fn(Vec<u8>) -> Result<Vec<u8>, RenderError> + Sync,
) -> Result<(), RenderError> {
    let (width, height) = source.size();
    let channels = pixels.channels;
    let stride = width as usize * channels;
    // strips fill bands
    let band = source.rows_at_a_time().clamp(1, height);
    let rows =
        (1..=band).rev().find(|rows| band.is_multiple_of(*rows) && *rows as usize * stride <= STRIP).unwrap_or(1);
    let mut directory = encoder.image_directory()?;
    let (mut places, mut lengths) = (Vec::new(), Vec::new());
    for_each_band(
        source,
        watch,
        |band| {
            let samples = work(band.samples)?;
            samples.chunks(rows as usize * stride).map(|strip| packed(strip, stride, channels)).collect()
        },
        |strips: Vec<Vec<u8>>| {
            for strip in strips {
                places.push(K::convert_offset(directory.write_data(&strip[..])?)?);
                lengths.push(K::convert_offset(strip.len() as u64)?);
            }
            Ok(())
        },
    )?;
    directory.write_tag(Tag::ImageWidth, width)?;
    directory.write_tag(Tag::ImageLength, height)?;
    directory.write_tag(Tag::BitsPerSample, &vec![8_u16; channels][..])?;
    directory.write_tag(Tag::Compression, CompressionMethod::Deflate.to_u16())?;
    directory.write_tag(Tag::PhotometricInterpretation, pixels.photometric.to_u16())?;
    directory.write_tag(Tag::SamplesPerPixel, channels as u16)?;
    directory.write_tag(Tag::RowsPerStrip, rows)?;
    directory.write_tag(Tag::StripOffsets, K::convert_slice(&places))?;
    directory.write_tag(Tag::StripByteCounts, K::convert_slice(&lengths))?;
    directory.write_tag(Tag::Predictor, Predictor::Horizontal.to_u16())?;
    if channels == 4 && pixels.photometric == PhotometricInterpretation::RGB {
        directory.write_tag(Tag::ExtraSamples, ExtraSamples::UnassociatedAlpha.to_u16())?;
    }
    // thousandths: sheets have resolutions that are no whole numbers
    let ppi = || Rational { n: (source.ppi() * 1000.0).round() as u32, d: 1000 };
    directory.write_tag(Tag::XResolution, ppi())?;
    directory.write_tag(Tag::YResolution, ppi())?;
    directory.write_tag(Tag::ResolutionUnit, ResolutionUnit::Inch.to_u16())?;
    directory.write_tag(Tag::IccProfile, pixels.profile)?;
    Ok(directory.finish()?)
}

/// Rows as differences from the pixel before (section 14), packed.
fn packed(strip: &[u8], stride: usize, channels: usize) -> Result<Vec<u8>, RenderError> {
    let mut out = ZlibEncoder::new(Vec::new(), Compression::new(6));
    let mut differences = vec![0; stride];
    let failed = |e: std::io::Error| RenderError::Encoding(e.to_string());
    for row in strip.chunks_exact(stride) {
        differences[..channels].copy_from_slice(&row[..channels]);
        for (out, (is, was)) in differences[channels..].iter_mut().zip(row[channels..].iter().zip(row)) {
            *out = is.wrapping_sub(*was);
        }
        out.write_all(&differences).map_err(failed)?;
    }
    out.finish().map_err(failed)
}
