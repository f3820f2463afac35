//! JPEG (ISO/IEC 10918-1) with its resolution in the JFIF header and its profile in APP2.

use crate::bands::{Band, BandSource, for_each_band};
use crate::{RenderError, srgb_profile};
use inky_core::cutout::Watch;
use jpeg_encoder::{Encoder, EncodingError, ImageBuffer, JpegColorType, PixelDensity, SamplingFactor, rgb_to_ycbcr};
use std::cell::RefCell;
use std::io::Write;
use std::sync::mpsc::{Receiver, sync_channel};

/// Pixels of a JPEG file at most.
const PIXELS: u64 = 250_000_000;

impl From<EncodingError> for RenderError {
    fn from(e: EncodingError) -> Self {
        Self::Encoding(e.to_string())
    }
}

/// Draws a picture into a JPEG file. `quality` is 1 to 100. Rows are encoded while others are drawn.
///
/// # Errors
/// A picture that is too large for a JPEG, what cannot be drawn or written, and the cancelled watch.
pub fn jpeg(
    source: &dyn BandSource,
    quality: u8,
    watch: &dyn Watch,
    out: &mut (dyn Write + Send),
) -> Result<(), RenderError> {
    let (width, height) = source.size();
    let side = |v: u32| u16::try_from(v).map_err(|_| RenderError::TooLargeForJpeg);
    let (w, h) = (side(width)?, side(height)?);
    if u64::from(width) * u64::from(height) > PIXELS {
        return Err(RenderError::TooLargeForJpeg);
    }
    let mut encoder = Encoder::new(out, quality.clamp(1, 100));
    let ppi = source.ppi().round().clamp(1.0, 65_535.0) as u16;
    encoder.set_density(PixelDensity { density: (ppi, ppi), unit: jpeg_encoder::PixelDensityUnit::Inches });
    encoder.set_sampling_factor(SamplingFactor::F_1_1);
    encoder.add_icc_profile(&srgb_profile()?)?;
    // one band waits while another is encoded
    let (put, bands) = sync_channel(1);
    std::thread::scope(|scope| {
        let rows = Rows { width: w, height: h, bands, present: RefCell::default() };
        let encoding = scope.spawn(move || encoder.encode_image(rows));
        let drawn = for_each_band(source, watch, Ok, |band| {
            put.send(band).map_err(|_| RenderError::Encoding("the encoder ended early".into()))
        });
        drop(put);
        let encoded = encoding.join().unwrap_or_else(|_| Err(EncodingError::Write("the encoder failed".into())));
        drawn?;
        Ok(encoded?)
    })
}

/// Rows of a picture in their order, as they are drawn.
struct Rows {
    width: u16,
    height: u16,
    bands: Receiver<Band>,
    present: RefCell<Option<(usize, Band)>>,
}

impl ImageBuffer for Rows {
    fn get_jpeg_color_type(&self) -> JpegColorType {
        JpegColorType::Ycbcr
    }

    fn width(&self) -> u16 {
        self.width
    }

    fn height(&self) -> u16 {
        self.height
    }

    fn fill_buffers(&self, y: u16, buffers: &mut [Vec<u8>; 4]) {
        let mut present = self.present.borrow_mut();
        let row = usize::from(y);
        while present.as_ref().is_none_or(|(first, band)| row >= first + band.rows as usize) {
            let first = present.as_ref().map_or(0, |(first, band)| first + band.rows as usize);
            match self.bands.recv() {
                Ok(band) => *present = Some((first, band)),
                // the drawing ended early, and says why
                Err(_) => break,
            }
        }
        let stride = usize::from(self.width) * 3;
        let line = present
            .as_ref()
            .and_then(|(first, band)| band.samples.get((row.checked_sub(*first)?) * stride..)?.get(..stride));
        match line {
            Some(line) => {
                for pixel in line.chunks_exact(3) {
                    let (y, cb, cr) = rgb_to_ycbcr(pixel[0], pixel[1], pixel[2]);
                    buffers[0].push(y);
                    buffers[1].push(cb);
                    buffers[2].push(cr);
                }
            }
            None => buffers[..3].iter_mut().for_each(|b| b.resize(b.len() + usize::from(self.width), 0)),
        }
    }
}
