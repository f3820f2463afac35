//! What is drawn, and how large.

use crate::RenderError;
use crate::bands::{BandSource, for_each_band, threads};
use crate::draw::{Canvas, Ground, PatternCells, Prepared, draw_scene};
use crate::pictures::{Originals, Pictures};
use inky_core::cutout::Watch;
use inky_core::library::Library;
use inky_core::scene::{Scene, scene};
use inky_core::sheet::{MM_PER_INCH, Sheet};

/// Pixels of one band: what a thread draws at a time.
pub(crate) const BAND_PIXELS: usize = 3 << 20;
/// Columns of a band that are drawn at a time.
const COLUMNS: u32 = 16_384;

/// A scene with its pictures at the size of one file.
pub struct Plan {
    prepared: Prepared,
    /// Pixels for a millimetre.
    density: f64,
    width: u32,
    height: u32,
    ppi: f64,
    ground: Ground,
    /// Where its first pixel lies, in pixels from the corner of the sheet with its bleed.
    origin: (u32, u32),
}

impl Plan {
    /// A scene at `ppi` pixels per inch with so many millimetres of bleed on all sides. Its pictures are brought to their sizes here.
    ///
    /// # Errors
    /// A piece that cannot be drawn, or a picture that is not among the originals: a file is never silently incomplete.
    pub fn new(scene: Scene, originals: Originals, ppi: f64, bleed: f64) -> Result<Self, RenderError> {
        if let Some((_, problem)) = scene.problems().next() {
            return Err(RenderError::BadPiece(problem.to_string()));
        }
        let density = ppi / MM_PER_INCH;
        let pictures = Pictures::prepare(&scene, originals, density)?;
        let pixels = |mm: f64| ((mm + 2.0 * bleed) * density).round().max(1.0) as u32;
        let (width, height) = (pixels(scene.width), pixels(scene.height));
        let prepared = Prepared { scene, pictures, cells: PatternCells::default(), bleed };
        let (ground, origin) = (Ground::OfTheSheet, (0, 0));
        Ok(Self { width, height, ppi, density, prepared, ground, origin })
    }

    /// The same on another ground. On a clear one its pixels have an opacity.
    pub fn on(self, ground: Ground) -> Self {
        Self { ground, ..self }
    }

    /// The same without the rows and columns around that are clear. It stays as it is where all of it is clear, or where it has a ground.
    ///
    /// # Errors
    /// The cancelled watch: it is drawn to see what is clear.
    pub fn trimmed(self, watch: &dyn Watch) -> Result<Self, RenderError> {
        if self.channels() == 3 {
            return Ok(self);
        }
        let stride = 4 * self.width as usize;
        // left, top, right and bottom of what is seen
        let mut seen: Option<[u32; 4]> = None;
        let mut top = 0;
        for_each_band(
            &self,
            watch,
            |band| Ok(band.samples.chunks_exact(stride).map(seen_in_row).collect::<Vec<_>>()),
            |rows| {
                for (y, row) in (top..).zip(&rows) {
                    if let Some((from, to)) = *row {
                        let [left, first, right, _] = seen.unwrap_or([from, y, to, y]);
                        seen = Some([left.min(from), first, right.max(to), y]);
                    }
                }
                top += rows.len() as u32;
                Ok(())
            },
        )?;
        let Some([left, top, right, bottom]) = seen else { return Ok(self) };
        let (width, height) = (right - left + 1, bottom - top + 1);
        Ok(Self { origin: (self.origin.0 + left, self.origin.1 + top), width, height, ..self })
    }

    /// A sheet in the same way.
    ///
    /// # Errors
    /// Those of [`Plan::new`].
    pub fn of_sheet(
        sheet: &Sheet,
        library: &dyn Library,
        originals: &Originals,
        ppi: f64,
        bleed: f64,
    ) -> Result<Self, RenderError> {
        Self::new(scene(sheet, library), originals.clone(), ppi, bleed)
    }

    /// Pixels, bleed included.
    pub fn width(&self) -> u32 {
        self.width
    }

    /// Pixels, bleed included.
    pub fn height(&self) -> u32 {
        self.height
    }
}

impl BandSource for Plan {
    fn size(&self) -> (u32, u32) {
        (self.width, self.height)
    }

    fn ppi(&self) -> f64 {
        self.ppi
    }

    fn channels(&self) -> usize {
        if self.ground == Ground::Clear { 4 } else { 3 }
    }

    fn rows_at_a_time(&self) -> u32 {
        // whole tiles of the renderer; of a small picture each thread draws its share
        let rows = BAND_PIXELS / self.width.max(1) as usize / 4 * 4;
        let share = self.height.div_ceil(threads() as u32).next_multiple_of(4);
        (rows.clamp(16, 1024) as u32).min(share)
    }

    fn draw(&self, top: u32, rows: u32, samples: &mut [u8]) -> Result<(), RenderError> {
        let channels = self.channels();
        let stride = self.width as usize * channels;
        let mut left = 0;
        while left < self.width {
            let columns = COLUMNS.min(self.width - left);
            let canvas = Canvas {
                scale: self.density,
                origin: ((self.origin.0 + left).into(), (self.origin.1 + top).into()),
                width: columns as u16,
                height: rows as u16,
            };
            let drawn = draw_scene(&self.prepared, canvas, self.ground);
            for (line, row) in
                drawn.data_as_u8_slice().chunks_exact(columns as usize * 4).zip(samples.chunks_exact_mut(stride))
            {
                let row = &mut row[left as usize * channels..][..columns as usize * channels];
                for (pixel, out) in line.chunks_exact(4).zip(row.chunks_exact_mut(channels)) {
                    match out {
                        [colours @ .., opacity] if channels == 4 => {
                            *opacity = pixel[3];
                            divided(colours, pixel);
                        }
                        _ => out.copy_from_slice(&pixel[..3]),
                    }
                }
            }
            left += columns;
        }
        Ok(())
    }
}

/// The first and the last pixel of a row of four channels that are not clear.
fn seen_in_row(row: &[u8]) -> Option<(u32, u32)> {
    let opaque = |pixel: &[u8]| pixel[3] > 0;
    let first = row.chunks_exact(4).position(opaque)?;
    let last = row.chunks_exact(4).rposition(opaque)?;
    Some((first as u32, last as u32))
}

/// Colours into which the opacity was multiplied, without it.
fn divided(out: &mut [u8], pixel: &[u8]) {
    let opacity = u16::from(pixel[3]);
    for (out, colour) in out.iter_mut().zip(pixel) {
        *out = match opacity {
            0 => 0,
            _ => ((u16::from(*colour) * 255 + opacity / 2) / opacity).min(255) as u8,
        };
    }
}
