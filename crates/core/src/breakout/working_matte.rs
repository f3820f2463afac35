//! A subject's matte at the size at which what reaches over an edge is looked for.

use super::neighbours::beside;
use crate::grid::Grid;
use crate::photo::{Perspective, Pull};
use image::GrayImage;
use kurbo::{Affine, Rect};

/// Long side of the working size, in pixels.
pub(super) const WORKING: usize = 700;

/// A matte at working size, with its scale to the photo.
#[derive(Debug, Clone)]
pub struct WorkingMatte {
    pub alpha: Grid<f32>,
    /// Working pixels for one of the photo, along x and y.
    pub scale: (f64, f64),
    /// Where the photo ends, if not at the border of the grid: its pixels beside what is no photo.
    ends: Option<Grid<bool>>,
}

impl WorkingMatte {
    /// Scales a matte down to the working size.
    pub fn new(matte: &GrayImage) -> Self {
        let (w, h) = (matte.width() as usize, matte.height() as usize);
        let scale = (WORKING as f64 / w.max(h) as f64).min(1.0);
        let side = |v: usize| ((v as f64 * scale).round() as usize).max(1);
        let alpha = Grid::from_gray(matte).resized(side(w), side(h));
        let scale = (alpha.width as f64 / w as f64, alpha.height as f64 / h as f64);
        Self { alpha, scale, ends: None }
    }

    /// Bytes that it takes.
    pub fn bytes(&self) -> u64 {
        (self.alpha.data.len() * size_of::<f32>() + self.ends.as_ref().map_or(0, |ends| ends.data.len())) as u64
    }

    /// The matte of the photo with its corners pulled, over the bounds of the pulled corners; its scale is that of the photo, whose size
    /// in pixels is given. None where the corners make no convex quadrilateral.
    pub fn pulled(&self, pull: &Pull, (width, height): (u32, u32)) -> Option<Self> {
        let map = Perspective::new(pull)?;
        let [x0, y0, x1, y1] = map.bounds();
        let (w, h) = (f64::from(width) * self.scale.0, f64::from(height) * self.scale.1);
        let side = |v: f64| (v.round() as usize).clamp(1, 4 * WORKING);
        let places = Grid::from_fn(side((x1 - x0) * w), side((y1 - y0) * h), |x, y| {
            let [u, v] = map.unmap(x0 + (x as f64 + 0.5) / w, y0 + (y as f64 + 0.5) / h);
            ((0.0..=1.0).contains(&u) && (0.0..=1.0).contains(&v)).then_some([u * w, v * h])
        });
        let alpha = places.map(|place| place.map_or(0.0, |[x, y]| self.alpha.sample(x as f32, y as f32)));
        let (width, height) = (places.width, places.height);
        let is_end = |x: usize, y: usize| {
            let i = y * width + x;
            let at_border = x == 0 || y == 0 || x + 1 == width || y + 1 == height;
            places.data[i].is_some() && (at_border || beside(i, width, height).any(|j| places.data[j].is_none()))
        };
        Some(Self { alpha, scale: self.scale, ends: Some(Grid::from_fn(width, height, is_end)) })
    }

    /// Whether the photo ends at a pixel.
    pub(super) fn ends_at(&self, x: usize, y: usize) -> bool {
        match &self.ends {
            Some(ends) => ends.at(x, y),
            None => x == 0 || y == 0 || x + 1 == self.alpha.width || y + 1 == self.alpha.height,
        }
    }

    /// What the solid part of the subject reaches, in photo space; None for an empty matte.
    pub fn bounds(&self) -> Option<Rect> {
        let solid = (0..self.alpha.data.len()).filter(|i| self.alpha.data[*i] > 0.5);
        let pixels = solid.map(|i| {
            let (x, y) = ((i % self.alpha.width) as f64, (i / self.alpha.width) as f64);
            Rect::new(x, y, x + 1.0, y + 1.0)
        });
        let all = pixels.reduce(|a, b| a.union(b))?;
        Some(self.photo_to_working().inverse().transform_rect_bbox(all))
    }

    pub(super) fn photo_to_working(&self) -> Affine {
        Affine::scale_non_uniform(self.scale.0, self.scale.1)
    }
}
