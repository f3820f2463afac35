//! What tests of subjects share.

use image::RgbaImage;
use inky_cutout::grid::Grid;
use inky_cutout::{Saliency, Watch};

/// Sees what is red.
pub struct Reds;

impl Saliency for Reds {
    fn saliency(&self, picture: &RgbaImage, _: &dyn Watch) -> Result<Grid<f32>, String> {
        let seen = |x: usize, y: usize| {
            let [r, g, _, _] = picture.get_pixel(x as u32, y as u32).0;
            if r > g.saturating_add(40) { 0.9 } else { 0.05 }
        };
        Ok(Grid::from_fn(picture.width() as usize, picture.height() as usize, seen))
    }
}
