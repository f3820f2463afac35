//! Rectangles of whole pixels in a photo.

use crate::grid::Grid;
use crate::{CutoutError, PhotoBox};
use image::RgbaImage;

/// A rectangle of whole pixels, the far ends exclusive.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Frame {
    pub(crate) x0: usize,
    pub(crate) y0: usize,
    pub(crate) x1: usize,
    pub(crate) y1: usize,
}

impl Frame {
    /// The part of a box that lies within a photo.
    ///
    /// # Errors
    /// A box that misses the photo, or that is too small for a subject.
    pub(crate) fn of_box(b: &PhotoBox, photo: &RgbaImage) -> Result<Self, CutoutError> {
        let (w, h) = (f64::from(photo.width()), f64::from(photo.height()));
        let all = [b.x, b.y, b.width, b.height];
        if all.iter().any(|v| !v.is_finite()) {
            return Err(CutoutError::BoxOutside);
        }
        let (x0, y0) = (b.x.max(0.0), b.y.max(0.0));
        let (x1, y1) = ((b.x + b.width).min(w), (b.y + b.height).min(h));
        if x1 <= x0 || y1 <= y0 {
            return Err(CutoutError::BoxOutside);
        }
        if x1 - x0 < 8.0 || y1 - y0 < 8.0 {
            return Err(CutoutError::BoxTooSmall);
        }
        Ok(Self { x0: x0 as usize, y0: y0 as usize, x1: x1.ceil() as usize, y1: y1.ceil() as usize })
    }

    pub(crate) fn of(photo: &RgbaImage) -> Self {
        Self { x0: 0, y0: 0, x1: photo.width() as usize, y1: photo.height() as usize }
    }

    /// The frame around both.
    pub(crate) fn union(self, other: Self) -> Self {
        Self {
            x0: self.x0.min(other.x0),
            y0: self.y0.min(other.y0),
            x1: self.x1.max(other.x1),
            y1: self.y1.max(other.y1),
        }
    }

    pub(crate) fn padded(self, share: f64, photo: &RgbaImage) -> Self {
        let (px, py) = ((self.x1 - self.x0) as f64 * share, (self.y1 - self.y0) as f64 * share);
        Self {
            x0: (self.x0 as f64 - px).max(0.0) as usize,
            y0: (self.y0 as f64 - py).max(0.0) as usize,
            x1: ((self.x1 as f64 + px) as usize).min(photo.width() as usize),
            y1: ((self.y1 as f64 + py) as usize).min(photo.height() as usize),
        }
    }

    /// The frame with a share of its sides around it, within a grid.
    pub(crate) fn grown<T>(self, share: f64, within: &Grid<T>) -> Self {
        let part = |from: usize, to: usize| ((to - from) as f64 * share) as usize;
        let (across, down) = (part(self.x0, self.x1), part(self.y0, self.y1));
        Self {
            x0: self.x0.saturating_sub(across),
            y0: self.y0.saturating_sub(down),
            x1: (self.x1 + across).min(within.width),
            y1: (self.y1 + down).min(within.height),
        }
    }

    pub(crate) fn scaled(self, scale: f64) -> Self {
        let s = |v: usize| (v as f64 * scale).round() as usize;
        Self { x0: s(self.x0), y0: s(self.y0), x1: s(self.x1), y1: s(self.y1) }
    }

    pub(crate) fn holds(self, x: usize, y: usize) -> bool {
        (self.x0..self.x1).contains(&x) && (self.y0..self.y1).contains(&y)
    }

    /// Overlap with another frame: shared area divided by the area of both.
    pub(crate) fn iou(self, other: Self) -> f64 {
        let w = self.x1.min(other.x1).saturating_sub(self.x0.max(other.x0));
        let h = self.y1.min(other.y1).saturating_sub(self.y0.max(other.y0));
        let area = |f: Self| ((f.x1 - f.x0) * (f.y1 - f.y0)) as f64;
        let shared = (w * h) as f64;
        shared / (area(self) + area(other) - shared).max(1.0)
    }

    /// The widest of the four strips between a frame and what was found in it, if it takes at least a sixth of the frame.
    pub(crate) fn widest_gap(self, found: Self) -> Option<Self> {
        let (w, h) = ((self.x1 - self.x0) as f64, (self.y1 - self.y0) as f64);
        let strips = [
            (found.x0.saturating_sub(self.x0) as f64 / w, Self { x1: found.x0, ..self }),
            (found.y0.saturating_sub(self.y0) as f64 / h, Self { y1: found.y0, ..self }),
            (self.x1.saturating_sub(found.x1) as f64 / w, Self { x0: found.x1, ..self }),
            (self.y1.saturating_sub(found.y1) as f64 / h, Self { y0: found.y1, ..self }),
        ];
        strips
            .into_iter()
            .filter(|(gap, _)| *gap >= 1.0 / 6.0)
            .max_by(|a, b| a.0.total_cmp(&b.0))
            .map(|(_, strip)| strip)
    }

    /// Whether it has the size for something to be seen in it.
    pub(crate) fn worth_a_look(self) -> bool {
        self.x1 > self.x0 + 32 && self.y1 > self.y0 + 32
    }

    pub(crate) fn around(mask: &Grid<bool>) -> Option<Self> {
        mask.bounds().map(|(x0, y0, x1, y1)| Self { x0, y0, x1, y1 })
    }
}
