//! Means and spreads of colours in windows around every pixel.

use crate::frame::Frame;
use crate::grid::Grid;
use crate::mixture::Rgb;

/// Sums of colours from which the mean in any window is told at once (F. Crow, "Summed-area tables for texture mapping", SIGGRAPH 1984).
pub(crate) struct WindowMeans {
    frame: Frame,
    radius: usize,
    /// Sums over everything above and to the left in the frame, exclusive: three colours, their squares, how many.
    sums: Vec<[f64; 5]>,
}

/// The colours in a window.
pub(crate) struct Around {
    /// In 0..255.
    pub mean: Rgb,
    /// The root of the mean squared distance to the mean.
    pub spread: f32,
    /// How many pixels were taken.
    pub count: f32,
}

impl WindowMeans {
    /// Windows of `2 * radius + 1` pixels a side over the pixels in a frame that are to be taken.
    pub fn of(colours: &Grid<Rgb>, taken: &Grid<bool>, frame: Frame, radius: usize) -> Self {
        let (width, height) = (frame.x1 - frame.x0, frame.y1 - frame.y0);
        let mut sums = vec![[0.0; 5]; (width + 1) * (height + 1)];
        for y in 0..height {
            let mut row = [0.0; 5];
            for x in 0..width {
                let there = (frame.x0 + x, frame.y0 + y);
                if taken.at(there.0, there.1) {
                    let c = colours.at(there.0, there.1).map(f64::from);
                    let all = [c[0], c[1], c[2], c.iter().map(|v| v * v).sum(), 1.0];
                    (0..5).for_each(|k| row[k] += all[k]);
                }
                let above = sums[y * (width + 1) + x + 1];
                sums[(y + 1) * (width + 1) + x + 1] = [0, 1, 2, 3, 4].map(|k| above[k] + row[k]);
            }
        }
        Self { frame, radius, sums }
    }

    /// The colours around a pixel; None where none is taken.
    pub fn at(&self, x: usize, y: usize) -> Option<Around> {
        let f = self.frame;
        let range = |v: usize, from: usize, to: usize| {
            let side = |v: usize| v.clamp(from, to) - from;
            (side(v.saturating_sub(self.radius)), side(v + self.radius + 1))
        };
        let ((x0, x1), (y0, y1)) = (range(x, f.x0, f.x1), range(y, f.y0, f.y1));
        let width = f.x1 - f.x0;
        let at = |x: usize, y: usize| self.sums[y * (width + 1) + x];
        let (a, b, c, d) = (at(x1, y1), at(x0, y1), at(x1, y0), at(x0, y0));
        let [r, g, b, squares, count] = [0, 1, 2, 3, 4].map(|k| a[k] - b[k] - c[k] + d[k]);
        if count < 1.0 {
            return None;
        }
        let mean = [r, g, b].map(|v| v / count);
        let spread = (squares / count - mean.iter().map(|m| m * m).sum::<f64>()).max(0.0).sqrt();
        Some(Around { mean: mean.map(|v| v as f32), spread: spread as f32, count: count as f32 })
    }
}
