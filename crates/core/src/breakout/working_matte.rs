//! A subject's matte at the size at which what reaches over an edge is looked for.

use super::inner_edges::inner_edges;
use super::neighbours::beside;
use crate::grid::Grid;
use crate::photo::{Perspective, Pull, resize};
use image::{GrayImage, RgbaImage};
use kurbo::{Affine, Rect};

/// Long side of the working size, in pixels.
pub(super) const WORKING: usize = 700;

/// A matte at working size, with its scale to the photo.
#[derive(Debug, Clone)]
pub struct WorkingMatte {
    /// Coverage. Of what is seen through everywhere, as a shadow is, it is what there is of it: its densest places are whole.
    pub alpha: Grid<f32>,
    /// Working pixels for one of the photo, along x and y.
    pub scale: (f64, f64),
    /// How strongly colours change inside the subject, where its colours are known.
    pub(super) edges: Option<Grid<u8>>,
    /// Where the photo ends, if not at the border of the grid: its pixels beside what is no photo.
    ends: Option<Grid<bool>>,
}

impl WorkingMatte {
    /// Pixels of the long side of a matte at the working size, at most.
    pub const LONG_SIDE: u32 = WORKING as u32;

    /// Scales a matte down to the working size.
    pub fn new(matte: &GrayImage) -> Self {
        let (w, h) = (matte.width() as usize, matte.height() as usize);
        let scale = (WORKING as f64 / w.max(h) as f64).min(1.0);
        let side = |v: usize| ((v as f64 * scale).round() as usize).max(1);
        let alpha = with_dense_places(Grid::from_gray(matte).resized(side(w), side(h)));
        let scale = (alpha.width as f64 / w as f64, alpha.height as f64 / h as f64);
        Self { alpha, scale, edges: None, ends: None }
    }

    /// The same with the subject's colours, of any size: limbs are parted by what lies in front.
    pub fn with_colours(self, colours: &RgbaImage) -> Self {
        let small = resize(colours, self.alpha.width as u32, self.alpha.height as u32);
        Self { edges: Some(inner_edges(&small, &self.alpha)), ..self }
    }

    /// Bytes that it takes.
    pub fn bytes(&self) -> u64 {
        let beside =
            self.edges.as_ref().map_or(0, |edges| edges.data.len()) + self.ends.as_ref().map_or(0, |e| e.data.len());
        (self.alpha.data.len() * size_of::<f32>() + beside) as u64
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
        let edge = |place: &Option<[f64; 2]>, edges: &Grid<u8>| {
            let [x, y] = place.unwrap_or([f64::MAX; 2]);
            let within = x < edges.width as f64 && y < edges.height as f64;
            if within { edges.at(x as usize, y as usize) } else { 0 }
        };
        let edges = self.edges.as_ref().map(|edges| places.map(|place| edge(&place, edges)));
        let (width, height) = (places.width, places.height);
        let is_end = |x: usize, y: usize| {
            let i = y * width + x;
            let at_border = x == 0 || y == 0 || x + 1 == width || y + 1 == height;
            places.data[i].is_some() && (at_border || beside(i, width, height).any(|j| places.data[j].is_none()))
        };
        Some(Self { alpha, scale: self.scale, edges, ends: Some(Grid::from_fn(width, height, is_end)) })
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

/// Coverage that is no trace.
const THERE: f32 = 0.1;
/// What is seen through everywhere has solid places of at most this share.
const SOLID: f64 = 0.1;
/// The share of its pixels that count as its densest places.
const DENSEST: f64 = 0.3;

/// A matte that is solid somewhere, where it is not by itself: parts are told by what is solid.
fn with_dense_places(alpha: Grid<f32>) -> Grid<f32> {
    let mut there: Vec<f32> = alpha.data.iter().copied().filter(|a| *a > THERE).collect();
    let solid = there.iter().filter(|a| **a > 0.5).count();
    if there.is_empty() || solid as f64 > SOLID * there.len() as f64 {
        return alpha;
    }
    let at = ((there.len() - 1) as f64 * (1.0 - DENSEST)) as usize;
    let (_, dense, _) = there.select_nth_unstable_by(at, f32::total_cmp);
    let dense = *dense;
    alpha.map(|a| (a / dense).min(1.0))
}

#[cfg(test)]
mod tests {
    use super::*;
    use image::Luma;

    #[test]
    fn a_shadow_has_solid_places_and_hair_stays_fine() {
        let shadow = GrayImage::from_fn(200, 100, |x, _| Luma([if x < 60 { 80 } else { 0 }]));
        let matte = WorkingMatte::new(&shadow);
        assert_eq!(matte.bounds(), Some(Rect::new(0.0, 0.0, 60.0, 100.0)));
        let hairy = GrayImage::from_fn(200, 100, |x, _| {
            Luma([if x < 60 {
                255
            } else if x < 120 {
                80
            } else {
                0
            }])
        });
        assert_eq!(WorkingMatte::new(&hairy).alpha.at(100, 50), 80.0 / 255.0);
    }
}
