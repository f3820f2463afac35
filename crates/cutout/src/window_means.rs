//! Means and spreads of colours in windows around every pixel.

use crate::grid::Grid;
use crate::mixture::Rgb;

/// Sums of colours from which the mean in any window is told at once (F. Crow, "Summed-area tables for texture mapping", SIGGRAPH 1984).
pub(crate) struct WindowMeans {
    width: usize,
    height: usize,
    radius: usize,
    /// Sums over everything above and to the left, exclusive: three colours, their squares, how many.
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
    /// Windows of `2 * radius + 1` pixels a side over the pixels that are to be taken.
    pub fn of(colours: &Grid<Rgb>, taken: &Grid<bool>, radius: usize) -> Self {
        let (width, height) = (colours.width, colours.height);
        let mut sums = vec![[0.0; 5]; (width + 1) * (height + 1)];
        for y in 0..height {
            let mut row = [0.0; 5];
            for x in 0..width {
                if taken.at(x, y) {
                    let c = colours.at(x, y).map(f64::from);
                    let all = [c[0], c[1], c[2], c.iter().map(|v| v * v).sum(), 1.0];
                    (0..5).for_each(|k| row[k] += all[k]);
                }
                let above = sums[y * (width + 1) + x + 1];
                sums[(y + 1) * (width + 1) + x + 1] = [0, 1, 2, 3, 4].map(|k| above[k] + row[k]);
            }
        }
        Self { width, height, radius, sums }
    }

    /// The colours around a pixel; None where none is taken.
    pub fn at(&self, x: usize, y: usize) -> Option<Around> {
        let (x0, x1) = (x.saturating_sub(self.radius), (x + self.radius + 1).min(self.width));
        let (y0, y1) = (y.saturating_sub(self.radius), (y + self.radius + 1).min(self.height));
        let at = |x: usize, y: usize| self.sums[y * (self.width + 1) + x];
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
