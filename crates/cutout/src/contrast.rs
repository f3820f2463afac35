//! What it costs to part neighbouring pixels of a photo.

use crate::grid::Grid;
use crate::max_flow::DIRECTIONS;
use crate::mixture::Rgb;
use rayon::prelude::*;

/// One direction of every pair of opposites: right, down, down right, up right.
pub(crate) const FORWARD: [usize; 4] = [0, 2, 4, 6];

/// How much the edge of a cut weighs beside the colours.
pub(crate) const GAMMA: f32 = 50.0;

/// For every pixel and each of the four forward directions the cost of parting it from its neighbour: less, the more their colours differ, as
/// compared with what is usual in the photo (C. Rother et al., "GrabCut", SIGGRAPH 2004); 0 where there is no neighbour. It depends on the photo
/// alone.
#[derive(Debug, Clone)]
pub struct Contrast(Grid<[f32; 4]>);

impl Contrast {
    /// Colours in 0..255.
    pub fn of(colours: &Grid<Rgb>) -> Self {
        let (w, h) = (colours.width, colours.height);
        let squares = |y: usize, line: &mut [[f32; 4]]| {
            for (x, out) in line.iter_mut().enumerate() {
                *out = FORWARD.map(|d| {
                    let (dx, dy) = DIRECTIONS[d];
                    let (nx, ny) = (x as i64 + dx, y as i64 + dy);
                    if !(0..w as i64).contains(&nx) || !(0..h as i64).contains(&ny) {
                        return NONE;
                    }
                    let (a, b) = (colours.at(x, y), colours.at(nx as usize, ny as usize));
                    (0..3).map(|k| (a[k] - b[k]) * (a[k] - b[k])).sum()
                });
            }
        };
        let mut grid = Grid::filled(w, h, [NONE; 4]);
        grid.data.par_chunks_mut(w).enumerate().for_each(|(y, line)| squares(y, line));
        let there = |line: &[[f32; 4]]| {
            let all = line.iter().flatten().filter(|v| **v != NONE);
            all.fold((0.0_f64, 0_usize), |(sum, n), v| (sum + f64::from(*v), n + 1))
        };
        let rows = grid.data.par_chunks(w).map(there);
        let (sum, n) = rows.reduce(|| (0.0, 0), |a, b| (a.0 + b.0, a.1 + b.1));
        let beta = if sum > 0.0 { (n as f64 / (2.0 * sum)) as f32 } else { 0.0 };
        grid.data.par_iter_mut().for_each(|costs| {
            for (cost, d) in costs.iter_mut().zip(FORWARD) {
                let (dx, dy) = DIRECTIONS[d];
                let away = ((dx * dx + dy * dy) as f32).sqrt();
                *cost = if *cost == NONE { 0.0 } else { GAMMA / away * (-beta * *cost).exp() };
            }
        });
        Self(grid)
    }

    /// The costs of one pixel, 0 where there is no neighbour.
    pub(crate) fn at(&self, i: usize) -> [f32; 4] {
        self.0.data[i]
    }
}

/// Stands for a neighbour that is not there, among squared differences.
const NONE: f32 = -1.0;
