//! The subject's own colours where it is seen through, cleaned of the old background.

use crate::grid::Grid;
use crate::mixture::Rgb;
use crate::{Cancelled, Watch};
use rayon::prelude::*;
use std::ops::Range;

const REGULAR: f32 = 1e-5;
/// Rows between two looks at the watch.
const ROWS: usize = 64;

/// T. Germer, T. Uelwer, S. Conrad, S. Harmeling, "Fast Multi-Level Foreground Estimation" (ICPR 2020): colours of subject
/// and background that blend to the photo by the matte and change only where the matte does, from one pixel up to the
/// full size. Colours in 0..255, sRGB values; matte in 0..1.
///
/// # Errors
/// The cancelled watch.
pub fn foreground(colours: &Grid<Rgb>, matte: &Grid<f32>, watch: &dyn Watch) -> Result<Grid<Rgb>, Cancelled> {
    let (w, h) = (colours.width, colours.height);
    let levels = (w.max(h) as f32).log2().ceil().max(1.0) as usize;
    let mut front = Grid::filled(1, 1, mean(colours, matte, |a| a > 0.9));
    let mut back = Grid::filled(1, 1, mean(colours, matte, |a| a < 0.1));
    let size = |level: usize| {
        let share = level as f32 / levels as f32;
        ((w as f32).powf(share).round() as usize, (h as f32).powf(share).round() as usize)
    };
    let rounds_at = |(lw, lh): (usize, usize)| if lw <= 32 && lh <= 32 { 10 } else { 2 };
    let pixels = |(lw, lh): (usize, usize)| rounds_at((lw, lh)) * lw * lh;
    let whole: usize = (0..=levels).map(|level| pixels(size(level))).sum();
    let mut done = 0;
    for level in 0..=levels {
        let (lw, lh) = size(level);
        front = nearest(&front, lw, lh);
        back = nearest(&back, lw, lh);
        let (full_photo, full_matte);
        let (photo, alpha) = if (lw, lh) == (w, h) {
            (colours, matte)
        } else {
            (full_photo, full_matte) = (nearest(colours, lw, lh), nearest(matte, lw, lh));
            (&full_photo, &full_matte)
        };
        let mixed = Mixed::of(alpha);
        mixed.settle(photo, alpha, (&mut front, &mut back));
        for rows in (0..rounds_at((lw, lh))).flat_map(|_| (0..lh).step_by(ROWS).map(|y| y..(y + ROWS).min(lh))) {
            watch.go_on()?;
            watch.step(done as f32 / whole as f32, "");
            done += rows.len() * lw;
            relax(rows, &mixed, (photo, alpha), (&mut front, &mut back));
        }
    }
    Ok(front)
}

/// How far around what is seen through colours are computed, in pixels: beyond, a pixel is the photo's own.
const AROUND: usize = 2;
/// What differs by less is the same.
const SAME: f32 = 1e-3;

/// The pixels that two colours may be mixed in, and those around them: a small share of most photos.
struct Mixed {
    here: Grid<bool>,
}

impl Mixed {
    fn of(alpha: &Grid<f32>) -> Self {
        let (w, h) = (alpha.width, alpha.height);
        let mut here = Grid::filled(w, h, false);
        here.data.par_chunks_mut(w).enumerate().for_each(|(y, line)| {
            let own = &alpha.data[y * w..][..w];
            let below = &alpha.data[(y + 1).min(h - 1) * w..][..w];
            for x in 0..w {
                let a = own[x];
                let beside = (own[(x + 1).min(w - 1)] - a).abs().max((below[x] - a).abs());
                line[x] = beside > SAME || (SAME..=1.0 - SAME).contains(&a);
            }
        });
        Self { here: spread(&spread(&here, 1), w) }
    }

    /// Gives every other pixel its own colour.
    fn settle(&self, photo: &Grid<Rgb>, alpha: &Grid<f32>, (front, back): (&mut Grid<Rgb>, &mut Grid<Rgb>)) {
        let colours = front.data.par_iter_mut().zip(back.data.par_iter_mut());
        let own = photo.data.par_iter().zip(&alpha.data).zip(&self.here.data);
        colours.zip(own).for_each(|((front, back), ((colour, a), mixed))| match (*mixed, *a > 0.5) {
            (true, _) => {}
            (false, true) => *front = *colour,
            (false, false) => *back = *colour,
        });
    }
}

/// A mask grown by [`AROUND`] pixels in one direction: along rows where `step` is 1, across them where it is the width.
fn spread(mask: &Grid<bool>, step: usize) -> Grid<bool> {
    let (w, n) = (mask.width, mask.data.len());
    let mut grown = mask.clone();
    grown.data.par_chunks_mut(w).enumerate().for_each(|(y, line)| {
        for (x, v) in line.iter_mut().enumerate() {
            let i = y * w + x;
            // a neighbour beyond the end of a row is one of the next: it costs a pixel and does no harm
            *v = (1..=AROUND).any(|k| {
                let (before, after) = (i.checked_sub(k * step), i + k * step);
                before.is_some_and(|j| mask.data[j]) || (after < n && mask.data[after])
            }) || *v;
        }
    });
    grown
}

fn relax(
    rows: Range<usize>,
    mixed: &Mixed,
    (photo, alpha): (&Grid<Rgb>, &Grid<f32>),
    (front, back): (&mut Grid<Rgb>, &mut Grid<Rgb>),
) {
    let (w, h) = (photo.width, photo.height);
    for y in rows {
        for x in (0..w).filter(|x| mixed.here.data[y * w + x]) {
            let i = y * w + x;
            let a0 = alpha.data[i];
            let a1 = 1.0 - a0;
            let (mut a00, a01, mut a11) = (a0 * a0, a0 * a1, a1 * a1);
            let mut b0 = photo.data[i].map(|v| a0 * v);
            let mut b1 = photo.data[i].map(|v| a1 * v);
            let beside = [
                if x > 0 { i - 1 } else { i },
                if x + 1 < w { i + 1 } else { i },
                if y > 0 { i - w } else { i },
                if y + 1 < h { i + w } else { i },
            ];
            for j in beside {
                let d = REGULAR + (a0 - alpha.data[j]).abs();
                a00 += d;
                a11 += d;
                for k in 0..3 {
                    b0[k] += d * front.data[j][k];
                    b1[k] += d * back.data[j][k];
                }
            }
            let det = a00 * a11 - a01 * a01;
            for k in 0..3 {
                front.data[i][k] = ((a11 * b0[k] - a01 * b1[k]) / det).clamp(0.0, 255.0);
                back.data[i][k] = ((a00 * b1[k] - a01 * b0[k]) / det).clamp(0.0, 255.0);
            }
        }
    }
}

/// Every pixel of another size is the one that lies there.
fn nearest<T: Copy + Send + Sync>(grid: &Grid<T>, width: usize, height: usize) -> Grid<T> {
    let columns: Vec<usize> = (0..width).map(|x| x * grid.width / width).collect();
    let mut data = vec![grid.data[0]; width * height];
    data.par_chunks_mut(width).enumerate().for_each(|(y, line)| {
        let own = &grid.data[y * grid.height / height * grid.width..][..grid.width];
        line.iter_mut().zip(&columns).for_each(|(v, x)| *v = own[*x]);
    });
    Grid { width, height, data }
}

fn mean(colours: &Grid<Rgb>, matte: &Grid<f32>, of: impl Fn(f32) -> bool) -> Rgb {
    let mut sum = [0.0_f64; 4];
    for (c, _) in colours.data.iter().zip(&matte.data).filter(|(_, a)| of(**a)) {
        for k in 0..3 {
            sum[k] += f64::from(c[k]);
        }
        sum[3] += 1.0;
    }
    std::array::from_fn(|k| if sum[3] > 0.0 { (sum[k] / sum[3]) as f32 } else { 127.0 })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Unwatched;

    #[test]
    fn the_old_background_leaves_the_edge() {
        let (front, back) = ([240.0, 230.0, 60.0], [20.0, 40.0, 160.0]);
        let matte = Grid::from_fn(64, 48, |x, y| {
            ((20.0 - (x as f32 - 32.0).hypot(y as f32 - 24.0)) / 6.0 + 0.5).clamp(0.0, 1.0)
        });
        let photo = matte.map(|a| std::array::from_fn(|k| a * front[k] + (1.0 - a) * back[k]));
        let found = foreground(&photo, &matte, &Unwatched).unwrap();
        for (c, _) in found.data.iter().zip(&matte.data).filter(|(_, a)| **a > 0.1) {
            assert!((0..3).all(|k| (c[k] - front[k]).abs() < 10.0), "{c:?}");
        }
    }
}
