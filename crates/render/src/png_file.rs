//! PNG (ISO/IEC 15948) with its resolution (pHYs) and profile (iCCP).

use crate::bands::{Band, BandSource, for_each_band};
use crate::{RenderError, srgb_profile};
use flate2::{Compress, Compression, FlushCompress, Status};
use image::RgbaImage;
use inky_core::cutout::Watch;
use inky_core::sheet::MM_PER_INCH;
use png::chunk::IDAT;
use std::borrow::Cow;
use std::io::Write;

/// Draws a picture into a PNG file of 8 bits a channel, with opacity where it has that. Each band is packed by the thread that drew it.
///
/// # Errors
/// What cannot be drawn or written, and the cancelled watch.
pub fn png(source: &dyn BandSource, watch: &dyn Watch, out: &mut dyn Write) -> Result<(), RenderError> {
    let (width, height) = source.size();
    let mut info = png::Info::with_size(width, height);
    let channels = source.channels();
    info.color_type = if channels == 4 { png::ColorType::Rgba } else { png::ColorType::Rgb };
    info.bit_depth = png::BitDepth::Eight;
    let per_metre = (source.ppi() / MM_PER_INCH * 1000.0).round() as u32;
    info.pixel_dims = Some(png::PixelDimensions { xppu: per_metre, yppu: per_metre, unit: png::Unit::Meter });
    info.icc_profile = Some(Cow::Owned(srgb_profile()?));
    let mut writer = png::Encoder::with_info(out, info)?.write_header()?;
    // the header of a zlib stream (RFC 1950): deflate, a window of 32 KiB, the default level
    writer.write_chunk(IDAT, &[0x78, 0x9c])?;
    let mut checksum = Adler::default();
    for_each_band(
        source,
        watch,
        |band| packed(&band, width as usize, channels),
        |packed: Packed| {
            checksum.append(packed.checksum, packed.bytes);
            Ok(writer.write_chunk(IDAT, &packed.data)?)
        },
    )?;
    writer.write_chunk(IDAT, &checksum.value().to_be_bytes())?;
    writer.finish()?;
    Ok(())
}

/// A band as a part of the one deflate stream of a file.
struct Packed {
    data: Vec<u8>,
    /// Adler-32 of the bytes that it unpacks to, and how many they are.
    checksum: u32,
    bytes: usize,
}

/// Filters and packs a band by itself: its first row looks at none above it, and its stream ends at a whole byte, so that the next one can
/// follow (RFC 1951, section 3.2.4).
fn packed(band: &Band, width: usize, channels: usize) -> Result<Packed, RenderError> {
    let filtered = match channels {
        4 => filtered::<4>(&band.samples, 4 * width),
        _ => filtered::<3>(&band.samples, 3 * width),
    };
    let mut pack = Compress::new(Compression::new(5), false);
    let mut data = Vec::with_capacity(filtered.len() / 3 + 4096);
    let flush = if band.is_last { FlushCompress::Finish } else { FlushCompress::Full };
    loop {
        let read = pack.total_in() as usize;
        let status = pack.compress_vec(&filtered[read..], &mut data, flush);
        let status = status.map_err(|e| RenderError::Encoding(e.to_string()))?;
        let whole = pack.total_in() as usize == filtered.len();
        // room left over: everything was written
        if whole && (status == Status::StreamEnd || (!band.is_last && data.len() < data.capacity())) {
            break;
        }
        data.reserve(data.len() / 2 + 4096);
    }
    let mut checksum = Adler::default();
    checksum.add(&filtered);
    Ok(Packed { data, checksum: checksum.value(), bytes: filtered.len() })
}

/// Rows with their filters (section 9.2): of those that look at the pixel before, the one above, or at both, the one with the least sum of
/// differences (section 12.7).
fn filtered<const PIXEL: usize>(samples: &[u8], stride: usize) -> Vec<u8> {
    let mut out = Vec::with_capacity(samples.len() + samples.len() / stride.max(1) + 1);
    let zeros = vec![0; stride];
    let mut tries: [Vec<u8>; 3] = std::array::from_fn(|_| vec![0; stride]);
    let mut above = &zeros[..];
    for (y, row) in samples.chunks_exact(stride).enumerate() {
        let before = |k: usize| if k < PIXEL { 0 } else { row[k - PIXEL] };
        let [sub, up, paeth] = &mut tries;
        let first = PIXEL.min(stride);
        sub[..first].copy_from_slice(&row[..first]);
        for (out, (v, left)) in sub[first..].iter_mut().zip(row[first..].iter().zip(row)) {
            *out = v.wrapping_sub(*left);
        }
        let mut best = (1, &*sub);
        if y > 0 {
            for (out, (v, over)) in up.iter_mut().zip(row.iter().zip(above)) {
                *out = v.wrapping_sub(*over);
            }
            for k in 0..first {
                paeth[k] = row[k].wrapping_sub(predicted(before(k), above[k], 0));
            }
            let neighbours = row.iter().zip(&above[first..]).zip(above);
            for (out, (v, ((left, over), corner))) in paeth[first..].iter_mut().zip(row[first..].iter().zip(neighbours))
            {
                *out = v.wrapping_sub(predicted(*left, *over, *corner));
            }
            let sum = |filtered: &[u8]| filtered.iter().map(|v| u64::from(v.cast_signed().unsigned_abs())).sum::<u64>();
            let [a, b, c] = [sum(sub), sum(up), sum(paeth)];
            best = if a <= b && a <= c {
                (1, &*sub)
            } else if b <= c {
                (2, &*up)
            } else {
                (4, &*paeth)
            };
        }
        out.push(best.0);
        out.extend_from_slice(best.1);
        above = row;
    }
    out
}

/// The neighbour that is nearest to a + b - c (A. Paeth, "Image File Compression Made Easy", 1991).
fn predicted(a: u8, b: u8, c: u8) -> u8 {
    let [x, y, z] = [a, b, c].map(i16::from);
    let (pa, pb) = ((y - z).abs(), (x - z).abs());
    let pc = (x + y - 2 * z).abs();
    // without branches: it runs for every byte of a file
    let second = if pb <= pc { b } else { c };
    if pa <= pb && pa <= pc { a } else { second }
}

/// Adler-32 (RFC 1950, section 8.2), of parts that were added up by themselves.
#[derive(Clone, Copy)]
struct Adler {
    a: u32,
    b: u32,
}

impl Default for Adler {
    fn default() -> Self {
        Self { a: 1, b: 0 }
    }
}

const MODULUS: u32 = 65_521;

impl Adler {
    fn add(&mut self, bytes: &[u8]) {
        // as many as can be added before the sums have to be brought back
        for part in bytes.chunks(5_552) {
            for byte in part {
                self.a += u32::from(*byte);
                self.b += self.a;
            }
            self.a %= MODULUS;
            self.b %= MODULUS;
        }
    }

    /// Goes on with so many bytes, of which the checksum is known.
    fn append(&mut self, next: u32, bytes: usize) {
        let (next_a, next_b) = (u64::from(next & 0xffff), u64::from(next >> 16));
        let (a, b, modulus) = (u64::from(self.a), u64::from(self.b), u64::from(MODULUS));
        let count = bytes as u64 % modulus;
        self.b = ((b + next_b + count * (a + modulus - 1)) % modulus) as u32;
        self.a = ((a + next_a + modulus - 1) % modulus) as u32;
    }

    fn value(self) -> u32 {
        self.b << 16 | self.a
    }
}

/// A picture with alpha as a PNG file.
///
/// # Errors
/// A picture without pixels.
pub fn encode_rgba(picture: &RgbaImage, compression: png::Compression) -> Result<Vec<u8>, RenderError> {
    let mut out = Vec::new();
    let mut encoder = png::Encoder::new(&mut out, picture.width(), picture.height());
    encoder.set_color(png::ColorType::Rgba);
    encoder.set_depth(png::BitDepth::Eight);
    encoder.set_compression(compression);
    let mut writer = encoder.write_header()?;
    writer.write_image_data(picture.as_raw())?;
    writer.finish()?;
    Ok(out)
}
