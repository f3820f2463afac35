//! What is drawn, and how large.

use crate::RenderError;
use crate::bands::{BandSource, threads};
use crate::draw::{Canvas, PatternCells, Prepared, draw_scene};
use crate::pictures::{Originals, Pictures};
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
        Ok(Self { width, height, ppi, density, prepared })
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

    fn rows_at_a_time(&self) -> u32 {
        // whole tiles of the renderer; of a small picture each thread draws its share
        let rows = BAND_PIXELS / self.width.max(1) as usize / 4 * 4;
        let share = self.height.div_ceil(threads() as u32).next_multiple_of(4);
        (rows.clamp(16, 1024) as u32).min(share)
    }

    fn draw(&self, top: u32, rows: u32, rgb: &mut [u8]) -> Result<(), RenderError> {
        let stride = self.width as usize * 3;
        let mut left = 0;
        while left < self.width {
            let columns = COLUMNS.min(self.width - left);
            let canvas = Canvas {
                scale: self.density,
                origin: (left.into(), top.into()),
                width: columns as u16,
                height: rows as u16,
            };
            let drawn = draw_scene(&self.prepared, canvas);
            for (line, row) in
                drawn.data_as_u8_slice().chunks_exact(columns as usize * 4).zip(rgb.chunks_exact_mut(stride))
            {
                let row = &mut row[left as usize * 3..][..columns as usize * 3];
                for (pixel, out) in line.chunks_exact(4).zip(row.chunks_exact_mut(3)) {
                    out.copy_from_slice(&pixel[..3]);
                }
            }
            left += columns;
        }
        Ok(())
    }
}
