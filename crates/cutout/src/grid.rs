//! A plain rectangle of values, row by row: mattes, masks, labels, saliency.

use image::GrayImage;
use rayon::prelude::*;

/// `width * height` values, the first row first. Sample (x, y) stands for the pixel whose centre is (x + ½, y + ½).
#[derive(Debug, Clone, PartialEq)]
pub struct Grid<T> {
    pub width: usize,
    pub height: usize,
    pub data: Vec<T>,
}

impl<T: Copy> Grid<T> {
    /// The same value everywhere.
    pub fn filled(width: usize, height: usize, value: T) -> Self {
        Self { width, height, data: vec![value; width * height] }
    }

    /// A value for each column and row.
    pub fn from_fn(width: usize, height: usize, mut f: impl FnMut(usize, usize) -> T) -> Self {
        let mut data = Vec::with_capacity(width * height);
        for y in 0..height {
            data.extend((0..width).map(|x| f(x, y)));
        }
        Self { width, height, data }
    }

    /// The value at a pixel inside of the grid.
    pub fn at(&self, x: usize, y: usize) -> T {
        self.data[y * self.width + x]
    }

    /// The value at the nearest pixel, for coordinates inside or outside.
    pub fn clamped(&self, x: i64, y: i64) -> T {
        let x = x.clamp(0, self.width as i64 - 1) as usize;
        let y = y.clamp(0, self.height as i64 - 1) as usize;
        self.at(x, y)
    }

    /// Each value changed.
    pub fn map<U>(&self, f: impl FnMut(T) -> U) -> Grid<U> {
        Grid { width: self.width, height: self.height, data: self.data.iter().copied().map(f).collect() }
    }

    /// Whether both have as many columns and rows.
    pub fn same_size<U>(&self, other: &Grid<U>) -> bool {
        self.width == other.width && self.height == other.height
    }
}

impl Grid<f32> {
    /// Bilinear sample at a point given in pixels (pixel centres at halves), clamped to the border.
    pub fn sample(&self, x: f32, y: f32) -> f32 {
        let (x, y) = (x - 0.5, y - 0.5);
        let (x0, y0) = (x.floor(), y.floor());
        let (fx, fy) = (x - x0, y - y0);
        let (i, j) = (x0 as i64, y0 as i64);
        let row = |j| self.clamped(i, j) * (1.0 - fx) + self.clamped(i + 1, j) * fx;
        row(j) * (1.0 - fy) + row(j + 1) * fy
    }

    /// The same picture at another size: mean of the covered pixels when smaller, bilinear when larger.
    pub fn resized(&self, width: usize, height: usize) -> Self {
        if (width, height) == (self.width, self.height) {
            return self.clone();
        }
        if width >= self.width && height >= self.height {
            return self.enlarged(width, height);
        }
        let rows: Vec<f32> =
            (0..self.height).flat_map(|y| mean_line(&self.data[y * self.width..(y + 1) * self.width], width)).collect();
        let mut out = Grid::filled(width, height, 0.0);
        let mut column = vec![0.0; self.height];
        for x in 0..width {
            for (y, c) in column.iter_mut().enumerate() {
                *c = rows[y * width + x];
            }
            for (y, v) in mean_line(&column, height).into_iter().enumerate() {
                out.data[y * width + x] = v;
            }
        }
        out
    }

    /// [`Grid::sample`] for all pixels of a larger size.
    fn enlarged(&self, width: usize, height: usize) -> Self {
        // the two samples between which each new one lies, and how far it is from the first
        let between = |new: usize, old: usize| -> Vec<(usize, usize, f32)> {
            let scale = old as f32 / new as f32;
            let one = |i: usize| {
                let at = (i as f32 + 0.5) * scale - 0.5;
                let first = at.floor();
                let inside = |i: f32| i.clamp(0.0, (old - 1) as f32) as usize;
                (inside(first), inside(first + 1.0), at - first)
            };
            (0..new).map(one).collect()
        };
        let (columns, rows) = (between(width, self.width), between(height, self.height));
        let mut out = Grid::filled(width, height, 0.0);
        out.data.par_chunks_mut(width).zip(rows).for_each(|(line, (above, below, down))| {
            let (above, below) = (&self.data[above * self.width..], &self.data[below * self.width..]);
            for (out, (left, right, along)) in line.iter_mut().zip(&columns) {
                let row = |line: &[f32]| line[*left] * (1.0 - along) + line[*right] * along;
                *out = row(above) * (1.0 - down) + row(below) * down;
            }
        });
        out
    }

    /// From the 8-bit picture, 0..255 to 0..1.
    pub fn from_gray(image: &GrayImage) -> Self {
        let data = image.as_raw().iter().map(|&v| f32::from(v) / 255.0).collect();
        Self { width: image.width() as usize, height: image.height() as usize, data }
    }

    /// To an 8-bit picture, 0..1 to 0..255.
    pub fn to_gray(&self) -> GrayImage {
        self.map(|v| (v.clamp(0.0, 1.0) * 255.0).round() as u8).into_gray()
    }
}

/// A line of samples at another length; every new sample is the mean of what it covers.
fn mean_line(line: &[f32], len: usize) -> Vec<f32> {
    let step = line.len() as f32 / len as f32;
    (0..len)
        .map(|i| {
            let (from, to) = (i as f32 * step, ((i + 1) as f32 * step).min(line.len() as f32));
            let mut sum = 0.0;
            let covered = line.iter().enumerate().take(to.ceil() as usize).skip(from as usize);
            for (k, value) in covered {
                let share = (to.min(k as f32 + 1.0) - from.max(k as f32)).max(0.0);
                sum += value * share;
            }
            sum / (to - from)
        })
        .collect()
}

impl Grid<u8> {
    fn into_gray(self) -> GrayImage {
        // there are as many values as pixels
        GrayImage::from_raw(self.width as u32, self.height as u32, self.data).unwrap_or_default()
    }
}

impl Grid<bool> {
    /// True for every pixel at which the 8-bit picture is above `threshold`.
    pub fn above(image: &GrayImage, threshold: u8) -> Self {
        let data = image.as_raw().iter().map(|&v| v > threshold).collect();
        Self { width: image.width() as usize, height: image.height() as usize, data }
    }

    /// White where true.
    pub fn to_gray(&self) -> GrayImage {
        self.map(|v| if v { 255 } else { 0 }).into_gray()
    }

    /// How many are true.
    pub fn count(&self) -> usize {
        self.data.iter().filter(|&&v| v).count()
    }

    /// 1 where true.
    pub fn to_f32(&self) -> Grid<f32> {
        self.map(|v| if v { 1.0 } else { 0.0 })
    }

    /// The smallest rectangle around everything true: `(x0, y0, x1, y1)`, the far ends exclusive.
    pub fn bounds(&self) -> Option<(usize, usize, usize, usize)> {
        let mut found: Option<(usize, usize, usize, usize)> = None;
        for (i, _) in self.data.iter().enumerate().filter(|(_, v)| **v) {
            let (x, y) = (i % self.width, i / self.width);
            let b = found.get_or_insert((x, y, x + 1, y + 1));
            *b = (b.0.min(x), b.1.min(y), b.2.max(x + 1), b.3.max(y + 1));
        }
        found
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn resizing_keeps_the_mean_and_the_place() {
        let g = Grid::from_fn(90, 60, |x, y| if x >= 30 && y >= 30 { 1.0 } else { 0.0 });
        let small = g.resized(7, 5);
        let mean = |g: &Grid<f32>| g.data.iter().sum::<f32>() / g.data.len() as f32;
        assert!((mean(&g) - mean(&small)).abs() < 1e-5);
        assert_eq!(small.at(6, 4), 1.0);
        assert_eq!(small.at(0, 4), 0.0);
        let large = small.resized(90, 60);
        assert!((mean(&large) - mean(&g)).abs() < 0.03);
        for (x, y) in [(0, 0), (89, 59), (31, 17), (44, 0)] {
            let sample = small.sample((x as f32 + 0.5) * 7.0 / 90.0, (y as f32 + 0.5) * 5.0 / 60.0);
            assert!((large.at(x, y) - sample).abs() < 1e-5, "{x}, {y}");
        }
    }
}
