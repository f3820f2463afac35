//! The matting Laplacian of some pixels of a picture, eight of them side by side.
//!
//! A. Levin, D. Lischinski, Y. Weiss, "A Closed-Form Solution to Natural Image Matting" (PAMI 2008): every window of 3 x 3 pixels says of each
//! two of its pixels how alike their alphas are to be, which makes a row of 25 weights for each pixel. Rows are kept as the processor adds
//! them up: for eight neighbours of a line at a time, their first weights together, then their second ones.

use crate::grid::Grid;
use crate::mixture::Rgb;
use crate::{Cancelled, Watch};
use rayon::prelude::*;

/// Pixels side by side.
pub(crate) const LANES: usize = 8;
/// Values of as many neighbours of a line.
pub(crate) type Lanes = [f32; LANES];

/// Added to the colours' covariance within a window.
const EPSILON: f64 = 1e-7;
/// Neighbours whose weights make up a row: five of five lines.
const STENCIL: usize = 25;
const MIDDLE: usize = STENCIL / 2;
/// How far they reach.
const REACH: usize = 2;

/// Rows of the Laplacian, in blocks of neighbours of a line. What of a block was not asked for has a row of zeros.
pub(crate) struct Laplacian {
    /// The place of the first pixel of each block in a padded grid, in ascending order.
    pub at: Vec<usize>,
    rows: Vec<[Lanes; STENCIL]>,
    pub layout: Layout,
}

/// A grid with air around it, so that no stencil and no block leaves it.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Layout {
    width: usize,
    height: usize,
    stride: usize,
}

impl Layout {
    fn new(width: usize, height: usize) -> Self {
        Self { width, height, stride: width + 2 * REACH + LANES }
    }

    /// A grid of this layout with `values`, and 0 around them.
    pub fn padded(&self, values: impl Iterator<Item = f32>) -> Vec<f32> {
        let mut all = vec![0.0; self.stride * (self.height + 2 * REACH)];
        let lines = all.chunks_mut(self.stride).skip(REACH).take(self.height);
        let places = lines.flat_map(|line| &mut line[REACH..REACH + self.width]);
        places.zip(values).for_each(|(place, value)| *place = value);
        all
    }

    /// The values of a padded grid without what is around them.
    pub fn plain<'a>(&self, padded: &'a [f32]) -> impl Iterator<Item = f32> + use<'a> {
        let (width, stride, height) = (self.width, self.stride, self.height);
        padded.chunks(stride).skip(REACH).take(height).flat_map(move |line| line[REACH..REACH + width].iter().copied())
    }

    /// The pixel of a place.
    pub fn pixel(&self, at: usize) -> (usize, usize) {
        (at % self.stride - REACH, at / self.stride - REACH)
    }
}

impl Laplacian {
    /// The rows of the pixels for which `wanted` holds, of a picture with colours in 0..255.
    ///
    /// # Errors
    /// A cancelled watch.
    pub fn new(colours: &Grid<Rgb>, wanted: &Grid<bool>, watch: &dyn Watch) -> Result<Self, Cancelled> {
        let (w, h) = (colours.width, colours.height);
        let layout = Layout::new(w, h);
        let mut at = Vec::new();
        for (y, line) in wanted.data.chunks(w).enumerate() {
            let mut x = 0;
            while let Some(first) = line.get(x..).and_then(|rest| rest.iter().position(|v| *v)) {
                at.push((y + REACH) * layout.stride + x + first + REACH);
                x += first + LANES;
            }
        }
        let windows = windows(colours, wanted, watch)?;
        let row = |at: &usize| rows(colours, wanted, layout.pixel(*at), &windows);
        let rows = each(&at, (WINDOWS, 1.0), watch, row)?;
        Ok(Self { at, rows, layout })
    }

    /// What the Laplacian makes of a padded grid, for the pixels of one block.
    pub fn apply(&self, block: usize, values: &[f32]) -> Lanes {
        let first = self.at[block] - REACH * self.layout.stride - REACH;
        let mut sums = [0.0; LANES];
        for (k, line) in self.rows[block].chunks_exact(5).enumerate() {
            let values = &values[first + k * self.layout.stride..][..LANES + 4];
            for (j, weights) in line.iter().enumerate() {
                for l in 0..LANES {
                    sums[l] += weights[l] * values[j + l];
                }
            }
        }
        sums
    }

    /// The weights of the pixels of one block for themselves.
    pub fn diagonal(&self, block: usize) -> Lanes {
        self.rows[block][MIDDLE]
    }
}

/// Mean of the colours (0..1) of a window of 3 x 3 pixels, and what makes their spread even.
///
/// The inverse of the covariance is kept as its Cholesky factor. Where colours lie on a line, as between black and white, its values differ by
/// eight digits: the products of two mapped colours are exact to three, those with the inverse itself would be to none.
struct Window {
    mean: [f32; 3],
    /// The upper triangular factor U with inverse = Uᵀ U: xx, xy, xz, yy, yz, zz.
    even: [f32; 6],
}

/// Every window that holds a wanted pixel, and where it is among them.
struct Windows {
    all: Vec<Window>,
    at: Grid<u32>,
}

const NONE: u32 = u32::MAX;

/// The share of the work that windows are.
const WINDOWS: f32 = 0.4;

/// Does something for each of many on all threads, as one stretch of the work.
fn each<T: Sync, R: Send>(
    all: &[T],
    (from, to): (f32, f32),
    watch: &dyn Watch,
    f: impl Fn(&T) -> R + Sync,
) -> Result<Vec<R>, Cancelled> {
    /// As many between two looks at the watch.
    const SOME: usize = 1 << 14;
    let mut done = Vec::with_capacity(all.len());
    for some in all.chunks(SOME) {
        watch.go_on()?;
        watch.step(from + (to - from) * done.len() as f32 / all.len() as f32, "");
        done.par_extend(some.par_iter().with_min_len(64).map(&f));
    }
    Ok(done)
}

fn windows(colours: &Grid<Rgb>, wanted: &Grid<bool>, watch: &dyn Watch) -> Result<Windows, Cancelled> {
    let (w, h) = (colours.width, colours.height);
    let mut at = Grid::filled(w, h, NONE);
    let mut centres = Vec::new();
    for y in 1..h.saturating_sub(1) {
        let lines: [&[bool]; 3] = std::array::from_fn(|k| &wanted.data[(y + k - 1) * w..][..w]);
        for x in 1..w.saturating_sub(1) {
            if lines.iter().any(|line| line[x - 1] | line[x] | line[x + 1]) {
                at.data[y * w + x] = centres.len() as u32;
                centres.push((x, y));
            }
        }
    }
    let all = each(&centres, (0.0, WINDOWS), watch, |&(x, y)| Window::new(colours, x, y))?;
    Ok(Windows { all, at })
}

impl Window {
    fn new(colours: &Grid<Rgb>, x: usize, y: usize) -> Self {
        let mut c = [[0.0_f32; 3]; 9];
        for (k, line) in c.chunks_exact_mut(3).enumerate() {
            let own = &colours.data[(y + k - 1) * colours.width + x - 1..][..3];
            line.iter_mut().zip(own).for_each(|(c, own)| *c = own.map(|v| v * SHARE));
        }
        let mean: [f64; 3] = std::array::from_fn(|ch| c.iter().map(|p| f64::from(p[ch])).sum::<f64>() / 9.0);
        let mut cov = [0.0_f64; 6];
        for p in &c {
            let [x, y, z] = std::array::from_fn(|ch| f64::from(p[ch]) - mean[ch]);
            for (sum, v) in cov.iter_mut().zip([x * x, x * y, x * z, y * y, y * z, z * z]) {
                *sum += v;
            }
        }
        let mut cov = cov.map(|v| v / 9.0);
        for k in [0, 3, 5] {
            cov[k] += EPSILON / 9.0;
        }
        Self { mean: mean.map(|v| v as f32), even: factor(invert(cov)).map(|v| v as f32) }
    }
}

/// From 0..255 to 0..1.
const SHARE: f32 = 1.0 / 255.0;

/// Inverse of a symmetric 3 x 3 matrix given as xx, xy, xz, yy, yz, zz.
fn invert([a, b, d, e, f, g]: [f64; 6]) -> [f64; 6] {
    let det = a * (e * g - f * f) - b * (b * g - d * f) + d * (b * f - d * e);
    let over = 1.0 / det;
    [e * g - f * f, d * f - b * g, b * f - d * e, a * g - d * d, b * d - a * f, a * e - b * b].map(|v| v * over)
}

/// The upper triangular Cholesky factor U of a matrix Uᵀ U, in the same order.
fn factor([a, b, d, e, f, g]: [f64; 6]) -> [f64; 6] {
    let root = |v: f64| v.max(0.0).sqrt();
    let xx = root(a).max(1e-12);
    let (xy, xz) = (b / xx, d / xx);
    let yy = root(e - xy * xy).max(1e-12);
    let yz = (f - xy * xz) / yy;
    [xx, xy, xz, yy, yz, root(g - xz * xz - yz * yz)]
}

/// The rows of one block: what each of the windows that hold a pixel says of it and its neighbours.
fn rows(colours: &Grid<Rgb>, wanted: &Grid<bool>, (x, y): (usize, usize), windows: &Windows) -> [Lanes; STENCIL] {
    const ACROSS: usize = LANES + 2 * REACH;
    let (w, h) = (colours.width, colours.height);
    // the colours of everything around, by channel: beyond the border there are no windows that ask for them
    let mut around = [[[0.0_f32; ACROSS]; 3]; 5];
    for (dy, line) in around.iter_mut().enumerate() {
        let Some(row) = (y + dy).checked_sub(REACH).filter(|row| *row < h) else {
            continue;
        };
        let columns = x.saturating_sub(REACH)..(x + LANES + REACH).min(w);
        for column in columns {
            let colour = colours.at(column, row);
            (0..3).for_each(|k| line[k][column + REACH - x] = colour[k] * SHARE);
        }
    }
    let mut all = [[0.0_f32; LANES]; STENCIL];
    for wy in 0..3 {
        // the windows of one line: weight (0 where there is none), mean and inverse
        let mut values = [[0.0_f32; LANES + 2]; 10];
        let Some(row) = (y + wy).checked_sub(1).filter(|row| *row < h) else {
            continue;
        };
        for column in x.saturating_sub(1)..(x + LANES + 1).min(w) {
            let k = column + 1 - x;
            if let Some(window) = windows.all.get(windows.at.at(column, row) as usize) {
                values[0][k] = 1.0 / 9.0;
                (0..3).for_each(|j| values[1 + j][k] = window.mean[j]);
                (0..6).for_each(|j| values[4 + j][k] = window.even[j]);
            }
        }
        // the colours of each window's nine pixels, mapped by it
        let [weight, m0, m1, m2, xx, xy, xz, yy, yz, zz] = &values;
        let mut mapped = [[[[0.0_f32; LANES + 2]; 3]; 3]; 3];
        for (line, mapped) in around[wy..wy + 3].iter().zip(&mut mapped) {
            for (px, [a, b, c]) in mapped.iter_mut().enumerate() {
                for k in 0..LANES + 2 {
                    let d = [line[0][k + px] - m0[k], line[1][k + px] - m1[k], line[2][k + px] - m2[k]];
                    a[k] = xx[k] * d[0] + xy[k] * d[1] + xz[k] * d[2];
                    b[k] = yy[k] * d[1] + yz[k] * d[2];
                    c[k] = zz[k] * d[2];
                }
            }
        }
        for wx in 0..3 {
            let weight: Lanes = std::array::from_fn(|l| weight[wx + l]);
            let lanes = |of: &[[f32; LANES + 2]; 3]| -> [Lanes; 3] {
                std::array::from_fn(|k| std::array::from_fn(|l| of[k][wx + l]))
            };
            let own = lanes(&mapped[REACH - wy][REACH - wx]);
            for (py, line) in mapped.iter().enumerate() {
                for (px, other) in line.iter().enumerate() {
                    let out = &mut all[(wy + py) * 5 + wx + px];
                    let other = lanes(other);
                    for l in 0..LANES {
                        let v = own[0][l] * other[0][l] + own[1][l] * other[1][l] + own[2][l] * other[2][l];
                        out[l] -= weight[l] * (1.0 + v);
                    }
                }
            }
            for l in 0..LANES {
                all[MIDDLE][l] += 9.0 * weight[l];
            }
        }
    }
    let asked: Lanes = std::array::from_fn(|l| if x + l < w && wanted.at(x + l, y) { 1.0 } else { 0.0 });
    for out in &mut all {
        (0..LANES).for_each(|l| out[l] *= asked[l]);
    }
    all
}
