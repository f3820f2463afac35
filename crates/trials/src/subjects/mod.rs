//! Subjects whose mattes are known exactly, and a robot that strokes over what is found wrongly.

mod composites;
mod robot;

pub use composites::{backdrops, hard_ones};
pub use robot::{Robot, Round, Stroking};

use image::RgbaImage;
use inky_core::cutout::PhotoBox;
use inky_core::grid::Grid;

/// A photo with its exact matte, and the subject's own colours where they are known.
pub struct Case {
    pub name: String,
    pub photo: RgbaImage,
    /// Coverage by the subject, as large as the photo.
    pub truth: Grid<f32>,
    pub colours: Option<RgbaImage>,
}

impl Case {
    /// Where the subject covers more than half of a pixel.
    pub fn mask(&self) -> Grid<bool> {
        self.truth.map(|a| a > 0.5)
    }

    /// The box that a person draws: the subject touches its sides.
    ///
    /// # Panics
    /// A case without a subject.
    pub fn around(&self) -> PhotoBox {
        let (x0, y0, x1, y1) = self.mask().bounds().expect("a subject");
        PhotoBox { x: x0 as f64, y: y0 as f64, width: (x1 - x0) as f64, height: (y1 - y0) as f64 }
    }
}
