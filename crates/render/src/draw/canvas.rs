//! A rectangle of pixels of the sheet.

use kurbo::{Affine, Rect};

/// Pixels that are drawn: so many for a millimetre, from a place on that are counted from the sheet's own corner, bleed included.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) struct Canvas {
    /// Pixels for a millimetre.
    pub scale: f64,
    pub origin: (i64, i64),
    pub width: u16,
    pub height: u16,
}

impl Canvas {
    /// From the sheet (millimetres, without its bleed) to the canvas.
    pub fn of_sheet(&self, bleed: f64) -> Affine {
        let (x, y) = self.origin;
        Affine::translate((-(x as f64), -(y as f64))) * Affine::scale(self.scale) * Affine::translate((bleed, bleed))
    }

    /// All of it, in its own pixels.
    pub fn area(&self) -> Rect {
        Rect::new(0.0, 0.0, self.width.into(), self.height.into())
    }

    /// Pixels.
    pub fn len(&self) -> usize {
        usize::from(self.width) * usize::from(self.height)
    }

    /// The pixels of it that a rectangle (in its own pixels) touches, as a canvas; None where there are none.
    pub fn part(&self, rect: Rect) -> Option<Self> {
        let part = rect.expand().intersect(self.area());
        // what is not a number touches nothing
        if !(part.width() >= 1.0 && part.height() >= 1.0) {
            return None;
        }
        let origin = (self.origin.0 + part.x0 as i64, self.origin.1 + part.y0 as i64);
        Some(Self { origin, width: part.width() as u16, height: part.height() as u16, ..*self })
    }

    /// Pixels `factor` times as large that hold all of it, with so many more of them around. They lie where those of its neighbours do.
    pub fn coarser(&self, factor: u16, around: u16) -> Self {
        let (factor, around) = (i64::from(factor), i64::from(around));
        let along = |origin: i64, length: u16| {
            let from = origin.div_euclid(factor) - around;
            let to = (origin + i64::from(length) - 1).div_euclid(factor) + 1 + around;
            (from, (to - from).clamp(1, u16::MAX.into()) as u16)
        };
        let (x, width) = along(self.origin.0, self.width);
        let (y, height) = along(self.origin.1, self.height);
        Self { scale: self.scale / factor as f64, origin: (x, y), width, height }
    }
}
