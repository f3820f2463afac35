//! Shares, from 0 to 1, of the pixels of a canvas.

use super::canvas::Canvas;
use vello_cpu::{Mask, Pixmap};

/// A share for every pixel of a canvas, row by row.
#[derive(Debug, Clone)]
pub(crate) struct Plane {
    pub canvas: Canvas,
    pub shares: Vec<f32>,
}

impl Plane {
    /// No share anywhere.
    pub fn nothing(canvas: Canvas) -> Self {
        Self { canvas, shares: vec![0.0; canvas.len()] }
    }

    /// The alpha of what was drawn.
    pub fn alpha(canvas: Canvas, drawn: &Pixmap) -> Self {
        let shares = drawn.data_as_u8_slice().chunks_exact(4).map(|p| f32::from(p[3]) / 255.0).collect();
        Self { canvas, shares }
    }

    /// Each share changed.
    pub fn map(mut self, change: impl Fn(f32) -> f32) -> Self {
        self.shares.iter_mut().for_each(|v| *v = change(*v));
        self
    }

    /// With another plane of the same canvas.
    pub fn with(mut self, other: &Self, change: impl Fn(f32, f32) -> f32) -> Self {
        self.shares.iter_mut().zip(&other.shares).for_each(|(a, b)| *a = change(*a, *b));
        self
    }

    /// As a mask of a canvas that this one is a part of; nothing is seen beyond.
    pub fn mask_of(&self, whole: Canvas) -> Mask {
        let mut all = vec![0_u8; whole.len()];
        let (x, y) = (self.canvas.origin.0 - whole.origin.0, self.canvas.origin.1 - whole.origin.1);
        let width = usize::from(self.canvas.width);
        let rows = self.shares.chunks_exact(width).zip(all.chunks_exact_mut(whole.width.into()).skip(y as usize));
        for (row, out) in rows {
            for (share, out) in row.iter().zip(&mut out[x as usize..]) {
                *out = (share * 255.0 + 0.5) as u8;
            }
        }
        Mask::from_parts(all, whole.width, whole.height)
    }
}
