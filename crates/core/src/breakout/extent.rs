//! The rectangles around labels.

use crate::grid::Grid;

/// The rectangle around a label (far ends exclusive), and its pixels.
#[derive(Debug, Clone, Copy)]
pub(super) struct Extent {
    pub x0: usize,
    pub y0: usize,
    pub x1: usize,
    pub y1: usize,
    pub pixels: usize,
}

impl Extent {
    /// The mask of a label within its extent, with a pixel of air around it: depths count from its own edge.
    pub fn with_air(&self, labels: &Grid<u32>, label: u32) -> Grid<bool> {
        let (w, h) = (self.x1 - self.x0, self.y1 - self.y0);
        let mut mask = Grid::filled(w + 2, h + 2, false);
        for (y, line) in mask.data.chunks_mut(w + 2).enumerate().skip(1).take(h) {
            let own = &labels.data[(y - 1 + self.y0) * labels.width + self.x0..][..w];
            line[1..=w].iter_mut().zip(own).for_each(|(inside, l)| *inside = *l == label);
        }
        mask
    }

    /// What of a grid lies within the extent, as large as [`Self::with_air`]; 0 around it.
    pub fn cropped(&self, from: &Grid<u8>) -> Grid<u8> {
        let (w, h) = (self.x1 - self.x0, self.y1 - self.y0);
        let mut out = Grid::filled(w + 2, h + 2, 0);
        for (y, line) in out.data.chunks_mut(w + 2).enumerate().skip(1).take(h) {
            line[1..=w].copy_from_slice(&from.data[(y - 1 + self.y0) * from.width + self.x0..][..w]);
        }
        out
    }

    /// Writes what `name` makes of the labels of a grid that [`Self::with_air`] gave the size into the one it was cut from, but for zeros.
    pub fn write(&self, from: &Grid<u32>, to: &mut Grid<u32>, name: impl Fn(u32) -> u32) {
        let w = self.x1 - self.x0;
        for (y, line) in from.data.chunks(w + 2).enumerate().skip(1).take(self.y1 - self.y0) {
            let own = &mut to.data[(y - 1 + self.y0) * to.width + self.x0..][..w];
            for (to, label) in own.iter_mut().zip(&line[1..=w]).filter(|(_, l)| **l > 0) {
                *to = name(*label);
            }
        }
    }
}

/// The extents of the labels 0 to `count` - 1; those of 0 mean nothing.
pub(super) fn extents(labels: &Grid<u32>, count: usize) -> Vec<Extent> {
    let none = Extent { x0: usize::MAX, y0: usize::MAX, x1: 0, y1: 0, pixels: 0 };
    let mut all = vec![none; count];
    for (y, line) in labels.data.chunks(labels.width).enumerate() {
        let mut x = 0;
        for run in line.chunk_by(|a, b| a == b) {
            if run[0] > 0 {
                let e = &mut all[run[0] as usize];
                (e.x0, e.y0, e.x1, e.y1) = (e.x0.min(x), e.y0.min(y), e.x1.max(x + run.len()), e.y1.max(y + 1));
                e.pixels += run.len();
            }
            x += run.len();
        }
    }
    all
}
